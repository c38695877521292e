"""Touches between two notes where a room rings, and scoops that a room parts from their note."""

from dataclasses import replace

import numpy as np
import pytest

from orexis.core.coach.judging.confirmation import split_by_confirmation
from orexis.core.coach.judging.context import Fault
from orexis.core.instruments import instrument_named, partial_frequency_hz
from orexis.core.measures.move import Between, DirectSound, move_measures
from orexis.core.notes import HeardNote
from orexis.core.notes.joining import merge_fragments
from orexis.core.notes.values import Row
from orexis.core.sound import Floats
from orexis.core.trace import HOP_S, Trace
from tests.conftest import exercise_of, heard

INSTRUMENT = instrument_named("tuba-eb")
EXERCISE = exercise_of("tuba-eb", "wide-slur")
FINGERING = EXERCISE.notes[0].fingering
LOW, MIDDLE, HIGH = (partial_frequency_hz(INSTRUMENT, FINGERING, partial) for partial in (3, 4, 5))
MOVE_S, TOUCH_S = 1.0, 0.09


def trace_of(*parts: tuple[float, float], confidence: float = 0.99, doubtful: float = 0.99) -> Trace:
    """Pitches and seconds one after another; what is not the first or last of them repeats as `doubtful` says."""
    f0 = np.concatenate([np.full(round(seconds / HOP_S), hz) for hz, seconds in parts])
    clear = np.concatenate(
        [
            np.full(round(seconds / HOP_S), confidence if i in (0, len(parts) - 1) else doubtful)
            for i, (_, seconds) in enumerate(parts)
        ]
    )
    level, tone, bright = (np.full(len(f0), value) for value in (-20.0, 20.0, 800.0))
    return Trace(np.arange(len(f0)) * HOP_S, f0, clear, level, tone, bright)


def note(name: str, hz: float, begin: float, end: float, *, joined: bool = False) -> HeardNote:
    return HeardNote(name, hz, begin, end, begin, end, joined=joined, left_joined=False)


TOUCHED = trace_of((LOW, MOVE_S), (MIDDLE, TOUCH_S), (HIGH, MOVE_S))
PLAIN = trace_of((LOW, MOVE_S), (HIGH, MOVE_S + TOUCH_S))
PAIR = Between(
    note("h1", LOW, 0.0, MOVE_S),
    note("h2", HIGH, MOVE_S + TOUCH_S, 2.0),
    (FINGERING,),
    True,
    partials=frozenset({3, 5}),
)


def in_a_room(trace: Trace, without: Trace, pair: Between = PAIR, hides_ms: float = 60.0):  # type: ignore[no-untyped-def]
    bands: Floats = np.full((len(trace), 8), -20.0)
    return move_measures(
        trace, pair, (0, 1), instrument=INSTRUMENT, direct=DirectSound(without, bands, hides_ms, 16.0)
    ).clipped_partials


def test_a_slot_between_two_notes_that_is_heard_without_the_room_is_touched_however_unclear_it_is_in_it() -> None:
    unclear = trace_of((LOW, MOVE_S), (MIDDLE, TOUCH_S), (HIGH, MOVE_S), doubtful=0.6)
    (touch,) = in_a_room(unclear, TOUCHED)
    assert touch.partial == 4
    assert touch.ms == pytest.approx(1000.0 * TOUCH_S, abs=10.0)
    assert touch.without_echoes
    assert in_a_room(TOUCHED, PLAIN) == ()  # only in the room: an echo


def test_a_slot_that_is_asked_or_lies_outside_is_no_touch_by_that_rule() -> None:
    asked = replace(PAIR, partials=frozenset({4, 5}))
    assert not any(touch.without_echoes for touch in in_a_room(TOUCHED, TOUCHED, asked))
    below = trace_of((LOW, MOVE_S), (LOW * 2 / 3, TOUCH_S), (HIGH, MOVE_S))
    assert not any(touch.without_echoes for touch in in_a_room(below, below))
    # Where it rings long, what lies outside is never certain.
    assert in_a_room(below, below, hides_ms=110.0) == ()


def test_a_touch_heard_without_echoes_needs_no_second_look() -> None:
    measures = heard(EXERCISE)[0].measures
    move = measures.moves[0]
    (touch,) = in_a_room(TOUCHED, TOUCHED)
    touched = replace(measures, moves=(replace(move, clipped_partials=(touch,)), *measures.moves[1:]))
    found = Fault("clipped-partial", EXERCISE.notes[1].id, touch.start_s, touch.ms, 45.0, "ms")  # type: ignore[arg-type]
    assert split_by_confirmation([found], touched, EXERCISE, beside=[]) == ((found,), ())
    unsure = replace(touched, moves=(replace(move, clipped_partials=(replace(touch, without_echoes=False),)),))
    assert split_by_confirmation([found], unsure, EXERCISE, beside=[]) == ((), (found,))


def scooped(by_cents: float, *, step: bool = False) -> tuple[Trace, tuple[Row, ...]]:
    """A tongued note reached from below, heard as two."""
    low = MIDDLE * 2 ** (-by_cents / 1200)
    glide = np.full(30, low) if step else np.geomspace(low, MIDDLE, 40)
    f0 = np.concatenate([glide, np.full(200, MIDDLE)])
    flat = [np.full(len(f0), value) for value in (0.99, -20.0, 20.0, 800.0)]
    trace = Trace(np.arange(len(f0)) * HOP_S, f0, *flat)
    first = note("h1", float(np.median(glide[:30])), 0.0, 0.15, joined=True)
    second = note("h2", MIDDLE, 0.15, 1.2, joined=True)
    tongued = exercise_of("tuba-eb", "long-low-tones").notes[0]
    return trace, (Row(None, first, False), Row(tongued, second, True))


def test_what_glides_into_a_tongued_note_is_its_entry() -> None:
    rows, broken, splits = merge_fragments(*scooped(120.0))
    assert len(rows) == 1
    assert rows[0].heard is not None
    assert rows[0].heard.onset_s == 0.0
    assert not rows[0].heard.joined
    assert (broken, splits) == ({}, {})


def test_what_steps_into_it_or_comes_from_far_is_not() -> None:
    assert len(merge_fragments(*scooped(120.0, step=True))[0]) == 2
    assert len(merge_fragments(*scooped(500.0))[0]) == 2


def test_what_lies_between_it_and_the_note_before_is_what_rings() -> None:
    trace, rows = scooped(120.0)
    low, high = (Row(rows[1].written, note("h0", hz, -1.0, 0.0), True) for hz in (MIDDLE / 2, MIDDLE * 2))
    assert len(merge_fragments(trace, (low, *rows))[0]) == 3
    assert len(merge_fragments(trace, (high, *rows))[0]) == 2
