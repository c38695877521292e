"""How one goes on in each kind of series: what falls goes up again, a fan ends, pairs narrow, triads go to the limit."""

from itertools import pairwise

import pytest

from orexis.core.approaches import DEFAULTS
from orexis.core.coach import Care, Range
from orexis.core.exercises import TO_THE_LIMIT, Advance, Form, SetsToday, exercise_type_named, pedal_starts
from orexis.core.instruments import Setup, fingering_options, instrument_named
from orexis.core.practice import Event, PlayerRange, SessionState, planned, routine_of, state_for, step
from orexis.core.practice.edge import comfort_of
from orexis.core.progress import path_of
from orexis.core.theory import parse_pitch, pitch_of_midi
from orexis.errors import ExerciseError
from tests.core.test_machine import KEY, take

TRUMPET, TROMBONE = instrument_named("trumpet-bb"), instrument_named("trombone-tenor")
LIMIT = {"climb": TO_THE_LIMIT, "start": "C5"}


def session(exercise_type: str, params: dict[str, str] | None = None, *, slide: bool = False) -> SessionState:
    instrument = TROMBONE if slide else TRUMPET
    series = exercise_type_named(exercise_type).series(instrument, params or {})
    routine = routine_of(instrument, DEFAULTS, [(series, planned(series, minutes=None, why=""))])
    return state_for(routine, checks=False, approaches=DEFAULTS, care=Care())


def through(state: SessionState, *outcomes: str) -> tuple[SessionState, list[str]]:
    """Takes one after another, each advice carried out: where that leads, and the steps advised."""
    steps = []
    for outcome in outcomes:
        state = take(state, outcome)
        assert state.advice is not None
        steps.append(str(state.advice.step))
        state = step(state, Event("go-on", KEY)).state
    return state, steps


def low_of(exercise_type: str) -> list[int]:
    return [
        min(n.pitch.midi for n in exercise.notes)
        for exercise in exercise_type_named(exercise_type).series(TRUMPET, {}).exercises
    ]


@pytest.mark.parametrize("exercise_type", ["interval-stairs", "falling-scale"])
def test_what_falls_never_goes_lower_after_a_miss(exercise_type: str) -> None:
    lows = low_of(exercise_type)
    assert lows == sorted(lows, reverse=True)
    state, steps = through(session(exercise_type), "clean", "not_yet", "not_yet")
    assert steps == ["next", "again", "back"]
    assert state.exercise_index == 0  # up again
    state, steps = through(state, "clean", "not_yet")
    assert steps == ["next", "end-block"]
    assert state.register_over is None  # low work is no register that has to be stopped


def test_the_first_stair_is_tried_with_fewer_notes() -> None:
    state, steps = through(session("interval-stairs"), "not_yet", "not_yet")
    assert steps == ["again", "easier"]
    assert (state.exercise_index, state.form) == (0, Form.SHORTER)


def test_each_glide_of_a_fan_is_a_range_note_tried_twice() -> None:
    exercises = exercise_type_named("glide-fan").series(TROMBONE, {"from": "6"}).exercises
    inner = [exercise.notes[1].fingering.position for exercise in exercises]
    assert inner == [5, 4, 3, 2, 1]
    assert all([n.fingering.position for n in exercise.notes][::2] == [6, 6] for exercise in exercises)
    _, steps = through(session("glide-fan", slide=True), "clean", "not_yet", "clean", "clean", "not_yet", "close")
    assert steps == ["next", "again", "next", "next", "again", "end-block"]


def test_a_lost_pair_is_narrowed_and_the_start_moves_on() -> None:
    params = {"start": "G4", "widest": "3", "starts": "2"}
    series = exercise_type_named("pair-ladder").series(TRUMPET, params)
    notes = [(exercise.notes[0].pitch.midi, exercise.notes[1].pitch.midi) for exercise in series.exercises]
    assert notes == [(67, 68), (67, 69), (67, 70), (68, 69), (68, 70), (68, 71)]
    state, steps = through(session("pair-ladder", params), "clean", "clean", "not_yet")
    assert steps == ["next", "next", "back"]
    assert state.exercise_index == 1
    low, high = notes[0][0], notes[4][1]
    assert comfort_of(series, PlayerRange(joined=Range(low, high))) == 4


def test_triads_to_the_limit_have_no_cap_and_end_at_home() -> None:
    series = exercise_type_named("triad-with-reset").series(TRUMPET, LIMIT)
    assert series.advance == Advance.LIMIT
    tops = [max(n.pitch.midi for n in exercise.notes) for exercise in series.exercises[::2]]
    assert tops == list(range(tops[0], TRUMPET.highest.midi + 1))
    assert {exercise.notes[0].pitch for exercise in series.exercises[1::2]} == {TRUMPET.easy}
    assert comfort_of(series, PlayerRange(joined=Range(40, tops[2]))) is None
    state, steps = through(session("triad-with-reset", LIMIT), *("clean", "clean") * 3, "not_yet", "not_yet")
    assert steps[-2:] == ["again", "next"]
    assert state.exercise_index == 7  # the low note after the triad that was lost
    state, steps = through(state, "not_yet", "clean")
    assert steps == ["again", "end-register"]
    assert state.register_over is not None
    assert (state.current.exercise_type, state.phase) == ("loose-pedals", "preview")  # at once, no rest before them


def test_a_triad_got_at_the_second_try_goes_on() -> None:
    state, steps = through(session("triad-with-reset", LIMIT), "not_yet", "clean", "clean")
    assert steps == ["again", "next", "next"]
    assert state.exercise_index == 2


def test_a_low_note_that_stays_rough_ends_the_register() -> None:
    state, steps = through(session("triad-with-reset", LIMIT), "clean", *["not_yet"] * 4)
    assert steps == ["next", "again", "again", "again", "end-register"]
    assert state.register_over is not None


def test_loose_pedals_follow_once() -> None:
    triads = exercise_type_named("triad-with-reset").series(TRUMPET, LIMIT)
    loose = exercise_type_named("loose-pedals").series(TRUMPET, {})
    blocks = [(series, planned(series, minutes=4.0, why="")) for series in (triads, loose)]
    assert [plan.exercise_type for plan in routine_of(TRUMPET, DEFAULTS, blocks).plan] == [
        "triad-with-reset",
        "loose-pedals",
    ]
    gate = exercise_type_named("triad-with-reset").series(TRUMPET, {})
    assert gate.advance == Advance.CLIMB
    assert len(routine_of(TRUMPET, DEFAULTS, [(gate, planned(gate, minutes=None, why=""))]).plan) == 1


def test_pedals_one_pitch_after_another_with_nothing_between() -> None:
    exercise_type = exercise_type_named("pedal-sets")
    series = exercise_type.series(TROMBONE, {"pitches": "2", "sets": "3", "pause": "14"})
    pitches = [exercise.notes[0].pitch.midi for exercise in series.exercises]
    assert pitches == [pitches[0]] * 3 + [pitches[0] - 1] * 2  # the further one has two sets
    state = SessionState((planned(series, minutes=None, why=""),))
    rests = []
    for _ in range(4):
        state = step(take(state, "clean"), Event("go-on", KEY)).state
        assert state.rest is not None
        rests.append(state.rest.seconds)
        state = step(state, Event("rest-over", KEY)).state
    assert rests == [240.0, 240.0, 840.0, 240.0]
    # A further pitch comes after the first month.
    first, later = SetsToday(2, None, ""), SetsToday(3, None, "", further=True)
    assert "pitches" not in first.within({"pitches": "2"})
    assert later.within({"pitches": "2"})["pitches"] == "2"


@pytest.mark.parametrize(
    ("instrument", "deepest"),
    [
        ("trombone-bass", "Ab0"),
        ("trombone-tenor-f", "Bb0"),
        ("trombone-tenor", "D1"),
        ("euphonium-bb-comp", "A0"),
        ("tuba-eb", "F0"),  # lower sounds are not followed
        ("tuba-cc-5", "Db0"),
    ],
)
def test_pedal_sets_go_two_false_tones_below_the_longest_tubing(instrument: str, deepest: str) -> None:
    exercise_type, pitches = exercise_type_named("pedal-sets"), pedal_starts(instrument_named(instrument))
    assert pitches[-1].midi == parse_pitch(deepest).midi
    assert [a.midi - b.midi for a, b in pairwise(pitches)] == [1] * (len(pitches) - 1)
    for pitch in pitches:
        notes = (
            exercise_type.series(instrument_named(instrument), {"start": pitch.name, "sets": "1", "notes": "4"})
            .exercises[0]
            .notes
        )
        assert {note.pitch.midi for note in notes} == {pitch.midi}


def test_sets_below_the_longest_tubing_say_so() -> None:
    bass, exercise_type = instrument_named("trombone-bass"), exercise_type_named("pedal-sets")
    false = exercise_type.series(bass, {"start": "A0", "sets": "1"}).exercises[0]
    assert "Below the longest tubing" in (false.hint or "")
    assert round(false.notes[0].instrument_cents, -1) == 90  # both valves out, a semitone above what is asked
    path = path_of("pedal-sets", bass)
    assert path is not None
    assert [step.say for step in path.steps][-3:] == [
        "on Bb0 (concert)",
        "on A0 (concert), below the longest tubing",
        "on Ab0 (concert), below the longest tubing",
    ]
    with pytest.raises(ExerciseError, match="down to Ab0"):
        exercise_type.series(bass, {"start": "G0"})


def test_no_sets_below_a_pedal_that_needs_a_shift() -> None:
    exercise_type = exercise_type_named("pedal-sets")
    first = exercise_type.series(TROMBONE, {}).exercises[0].notes[0].pitch
    shifting = TROMBONE.with_setup(Setup(shifts_at=first))
    assert [pitch.midi for pitch in pedal_starts(shifting)] == [first.midi]
    series = exercise_type.series(shifting, {"pitches": "3", "sets": "1"})
    assert len(series.exercises) == 1
    with pytest.raises(ExerciseError, match="needs a shift"):
        exercise_type.series(shifting, {"start": pitch_of_midi(first.midi - 1).name})


def test_pedals_are_taken_by_the_valves_not_by_the_arm() -> None:
    bass = instrument_named("trombone-bass")
    exercise = exercise_type_named("pedal-sets").series(bass, {"start": "Eb1"}).exercises[0]
    assert exercise.notes[0].partial == 1
    assert exercise.notes[0].fingering.valves
    assert exercise.notes[0].fingering.position == min(
        option.fingering.position or 1 for option in fingering_options(bass, parse_pitch("Eb1")) if option.partial == 1
    )
