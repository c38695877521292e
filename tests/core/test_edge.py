"""The edge of a climb: known only where the player owns a range of that kind and the climb came through it."""

from orexis.core.coach import Range
from orexis.core.figures import family_named
from orexis.core.horn import horn_named
from orexis.core.practice import Event, Owned, SessionState, planned, step
from orexis.core.practice.edge import comfort_of
from tests.core.test_machine import KEY, take

HORN = horn_named("trumpet-bb")
CLIMBING = ("step-ladder", "pair-ladder", "triad-with-reset", "one-octave-scale", "add-one-arpeggio")


def tops(family: str) -> list[tuple[int, int]]:
    series = family_named(family).series(HORN, {})
    return [(min(n.pitch.midi for n in f.notes), max(n.pitch.midi for n in f.notes)) for f in series.figures]


def played(family: str, owned: Owned, *outcomes: str) -> SessionState:
    series = family_named(family).series(HORN, {})
    state = SessionState((planned(series, minutes=None, why="", owned=owned),), figure_index=series.first)
    for outcome in outcomes:
        state = take(state, outcome)
        if state.advice is not None and state.advice.step != "end-block":
            state = step(state, Event("go-on", KEY)).state
    return state


def test_who_owns_one_low_note_or_nothing_is_not_sent_away() -> None:
    for owned in (Owned(), Owned(Range(48, 48), Range(48, 48))):
        for family in CLIMBING:
            series = family_named(family).series(HORN, {})
            assert comfort_of(series, owned) is None, family
            state = played(family, owned, "clean", "clean")
            assert state.advice is None or state.advice.step != "end-block" or len(series.figures) <= 2, family


def test_the_edge_is_of_its_own_kind() -> None:
    low, high = min(a for a, _ in tops("step-ladder")), tops("step-ladder")[2][1]
    series = family_named("step-ladder").series(HORN, {})
    alone = Owned(alone=Range(low, high))
    assert comfort_of(series, alone) == series.first + 2
    assert comfort_of(series, Owned(joined=Range(low, high))) is None


def test_one_step_past_after_two_held_inside() -> None:
    low, high = min(a for a, _ in tops("step-ladder")), tops("step-ladder")[1][1]
    owned = Owned(alone=Range(low, high))
    state = played("step-ladder", owned, "clean", "clean", "clean")
    assert state.advice is not None
    assert state.advice.step == "end-block"
    assert "past your range" in state.advice.say


def test_a_climb_that_lies_inside_the_range_goes_to_its_top() -> None:
    every = tops("step-ladder")
    owned = Owned(alone=Range(min(a for a, _ in every) - 5, max(b for _, b in every) + 5))
    assert comfort_of(family_named("step-ladder").series(HORN, {}), owned) is None
