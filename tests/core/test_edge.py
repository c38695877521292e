"""The edge of a climb: known only where the player owns a range of that kind and the climb came through it."""

from orexis.core.coach import Range
from orexis.core.exercises import exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.core.practice import Event, PlayerRange, SessionState, planned, step
from orexis.core.practice.edge import comfort_of
from tests.core.test_machine import KEY, take

INSTRUMENT = instrument_named("trumpet-bb")
CLIMBING = ("step-ladder", "pair-ladder", "triad-with-reset", "one-octave-scale", "add-one-arpeggio")


def tops(exercise_type: str) -> list[tuple[int, int]]:
    series = exercise_type_named(exercise_type).series(INSTRUMENT, {})
    return [(min(n.pitch.midi for n in f.notes), max(n.pitch.midi for n in f.notes)) for f in series.exercises]


def played(exercise_type: str, in_range: PlayerRange, *outcomes: str) -> SessionState:
    series = exercise_type_named(exercise_type).series(INSTRUMENT, {})
    state = SessionState((planned(series, minutes=None, why="", in_range=in_range),), exercise_index=series.first)
    for outcome in outcomes:
        state = take(state, outcome)
        if state.advice is not None and state.advice.step != "end-block":
            state = step(state, Event("go-on", KEY)).state
    return state


def test_who_owns_one_low_note_or_nothing_is_not_sent_away() -> None:
    for in_range in (PlayerRange(), PlayerRange(Range(48, 48), Range(48, 48))):
        for exercise_type in CLIMBING:
            series = exercise_type_named(exercise_type).series(INSTRUMENT, {})
            assert comfort_of(series, in_range) is None, exercise_type
            state = played(exercise_type, in_range, "clean", "clean")
            assert state.advice is None or state.advice.step != "end-block" or len(series.exercises) <= 2, exercise_type


def test_the_edge_is_of_its_own_kind() -> None:
    low, high = min(a for a, _ in tops("step-ladder")), tops("step-ladder")[2][1]
    series = exercise_type_named("step-ladder").series(INSTRUMENT, {})
    alone = PlayerRange(alone=Range(low, high))
    assert comfort_of(series, alone) == series.first + 2
    assert comfort_of(series, PlayerRange(joined=Range(low, high))) is None


def test_one_step_past_after_two_held_inside() -> None:
    low, high = min(a for a, _ in tops("step-ladder")), tops("step-ladder")[1][1]
    in_range = PlayerRange(alone=Range(low, high))
    state = played("step-ladder", in_range, "clean", "clean", "clean")
    assert state.advice is not None
    assert state.advice.step == "end-block"
    assert "past your range" in state.advice.say


def test_a_climb_that_lies_inside_the_range_goes_to_its_top() -> None:
    every = tops("step-ladder")
    in_range = PlayerRange(alone=Range(min(a for a, _ in every) - 5, max(b for _, b in every) + 5))
    assert comfort_of(exercise_type_named("step-ladder").series(INSTRUMENT, {}), in_range) is None
