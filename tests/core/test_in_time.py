"""Practice in time: whole bars, what is decided in the rest, and when a take ends."""

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from orexis.core.approaches import DEFAULTS
from orexis.core.coach import Care, Outcome
from orexis.core.exercises import EXERCISE_TYPES, Form, Load, exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.core.player import parse_flaws, play
from orexis.core.practice import (
    Bars,
    Ending,
    Event,
    EventName,
    SessionState,
    TakeResult,
    keeps_time,
    planned,
    routine_of,
    state_for,
    step,
)
from orexis.core.practice.in_time import bars_of
from orexis.core.sound import Sound
from orexis.core.trace import Trace, track
from tests.conftest import exercise_of

INSTRUMENT = instrument_named("trombone-tenor")
SLUR = exercise_of("trombone-tenor", "two-partial-slur")  # two bars of four at 72


def test_series_are_practised_in_time_where_a_click_runs_and_something_sounds() -> None:
    kept = {
        exercise_type.id
        for exercise_type in EXERCISE_TYPES.values()
        if exercise_type.suits(INSTRUMENT) and keeps_time(exercise_type.series(INSTRUMENT))
    }
    assert {"long-low-tones", "two-partial-slur", "buzz-answer", "one-octave-scale", "step-ladder"} <= kept
    assert not {"breath", "siren", "find-the-middle", "glide-ladder", "pedal-sets", "check-note"} & kept


@pytest.mark.parametrize(
    ("stopped", "load", "more", "bars"),
    [
        (8.0, Load.EASY, {}, (2, 2)),  # as long as was played
        (8.4, Load.EASY, {}, (2, 2)),  # released a little late
        (3.0, Load.EASY, {}, (1, 2)),  # broken off in the first bar: five seconds all the same
        (8.0, Load.HIGH, {}, (2, 3)),
        (8.0, Load.EASY, {"extra": True}, (2, 3)),
        (20.0, Load.EASY, {}, (5, 5)),  # held on
        (8.0, Load.HIGH, {"rest_bars": 1}, (2, 1)),
        (None, Load.EASY, {}, (2, 2)),  # nothing was heard: as written
    ],
)
def test_bars_of_a_take(stopped: float | None, load: Load, more: dict[str, Any], bars: tuple[int, int]) -> None:
    """`stopped`: beats after the exercise's first."""
    at = None if stopped is None else (SLUR.count_in_beats + stopped) * SLUR.beat_s
    found = bars_of(SLUR, at, load, **more)
    assert (found.played, found.rest) == bars
    assert found.cycle_s == pytest.approx(sum(bars) * 4 * 60.0 / 72.0)


def begun(exercise_type: str = "two-partial-slur", **more: bool) -> SessionState:
    series = exercise_type_named(exercise_type).series(INSTRUMENT)
    routine = routine_of(INSTRUMENT, DEFAULTS, [(series, planned(series, minutes=None, why=""))])
    return state_for(routine, checks=False, approaches=DEFAULTS, care=Care(), in_time=True, **more)


def played(state: SessionState, outcome: Outcome = Outcome.CLEAN) -> SessionState:
    for event in (Event(EventName.BEGIN, f"take-{len(state.takes)}"), Event(EventName.ENDED)):
        state = step(state, event).state
    bars = state.bars_after(SLUR, SLUR.duration_s)
    result = TakeResult(outcome, None if outcome.is_good else "gap", 6.5, 10.5, 5.0, bars)
    return step(state, Event(EventName.JUDGED, state.take_key, result)).state


def test_the_click_goes_on_until_something_stops_it() -> None:
    state = played(begun())
    assert state.bars == Bars(2, 2, 4 * 60.0 / 72.0)
    on = step(state, Event(EventName.GO_ON)).state
    assert (on.exercise_index, on.bars) == (1, state.bars)
    assert step(on, Event(EventName.BEGIN, "b" * 32)).state.bars is None
    for name in (EventName.PAUSE, EventName.DROP):
        assert step(state, Event(name)).state.bars is None
    assert step(state, Event(EventName.REPORT, word="tired")).state.bars is None


def test_the_last_verdict_of_an_exercise_is_read_without_the_click() -> None:
    last = replace(begun(), exercise_index=begun().current.exercises - 1)
    assert played(last).bars is None
    assert played(last, Outcome.NOT_YET).bars is not None  # it is repeated
    unheard = begun()
    for _ in range(3):
        unheard = played(unheard, Outcome.NOT_HEARD)
    assert unheard.bars is None  # it waits


def test_in_the_rest_repeat_means_what_was_played_last() -> None:
    on = step(played(begun()), Event(EventName.GO_ON)).state
    again = step(on, Event(EventName.AGAIN)).state
    assert (again.exercise_index, again.form, again.bars) == (0, Form.AS_WRITTEN, on.bars)
    easier = step(on, Event(EventName.EASIER)).state
    assert (easier.exercise_index, easier.form, easier.bars) == (1, Form.SLOWER, on.bars)
    back = step(on, Event(EventName.BACK)).state
    assert (back.exercise_index, back.bars) == (0, on.bars)
    # Where nothing goes on it means what is on the stand.
    still = replace(on, bars=None)
    assert step(still, Event(EventName.AGAIN)).state.exercise_index == 1


def test_a_take_counts_with_the_rest_after_it() -> None:
    state = played(begun())
    assert state.block_used_s == pytest.approx(4 * 10.0 / 3.0, abs=0.01)
    single = played(replace(begun(), in_time=False))
    assert (single.bars, single.block_used_s) == (None, 18.5)


def test_a_check_note_and_an_exercise_without_click_stop_the_click() -> None:
    due = replace(begun(), checks_on=True, since_check_s=595.0)
    on = step(played(due), Event(EventName.GO_ON)).state
    assert (on.checking, on.bars, on.runs_in_time) == (True, None, False)
    assert played(begun("siren")).bars is None


def ended_at(
    exercise_id: str, *, seconds: float = 60.0, flaws: tuple[str, ...] = (), cut: float | None = None
) -> float:
    """Seconds after the written end at which a take in time is over."""
    exercise = exercise_of("trombone-tenor", exercise_id)
    sound, _ = play(exercise, flaws=parse_flaws(flaws), seed=1)
    samples = sound.samples if cut is None else sound.samples[: round(cut * sound.rate)]
    longer = Sound(np.concatenate((samples, np.zeros(round(seconds * sound.rate), np.float32))), sound.rate)
    frames, ending = track(longer), Ending(exercise, 0.0, in_time=True)
    return (
        next(at for at in np.arange(0.0, longer.duration_s, 0.05) if ending.hear(part(frames, at)))
        - exercise.duration_s
    )


def part(frames: Trace, at: float) -> Trace:
    return frames.part(float(at), float(at) + 0.05)


def test_a_take_in_time_ends_with_what_is_written() -> None:
    assert 0.7 < ended_at("two-partial-slur") < 1.2
    # What is held to the breath's end is heard to its end, and what breaks off is not waited for.
    assert ended_at("long-low-tones") >= 0.9
    assert ended_at("two-partial-slur", cut=5.0) < 0.2


def test_silence_in_time_is_not_waited_for_beyond_the_bar() -> None:
    assert 0.7 < ended_at("two-partial-slur", cut=0.5) < 1.0
