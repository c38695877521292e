"""Between two notes in a room that rings: a hole, a push and an echo are told apart from the bands; and breaks by their slot."""

import numpy as np
import pytest

from orexis.core.measures.breaks import slot_breaks
from orexis.core.measures.silence import dip_in_a_room
from orexis.core.notes import HeardNote, may_hold_echo_notes
from orexis.core.room import RoomAcoustics
from orexis.core.sound import Floats
from orexis.core.trace import HOP_S, Trace

BEFORE = HeardNote("h1", 233.1, 0.1, 0.99, 0.1, 0.99, joined=False, left_joined=True)
AFTER = HeardNote("h2", 293.7, 1.01, 1.9, 1.0, 1.9, joined=True)
FRAMES, MOVE = round(2.0 / HOP_S), round(1.0 / HOP_S)


def bands(own: int = 8) -> Floats:
    """Eight bands of both notes, -20 dB; with fewer of `own`, the two share but those in the middle."""
    levels = np.full((FRAMES, 16), -80.0)
    levels[:MOVE, :8] = -20.0
    levels[MOVE:, 8 - own : 16 - own] = -20.0
    return levels


def sunk(levels: Floats, depth_db: float, ms: float, *, steep: bool, only: slice = slice(None)) -> Floats:
    """Lowered so far for so long before the new note, with steep sides or rounded as a push is."""
    length = round(ms / 1000.0 / HOP_S)
    shape = np.ones(length) if steep else np.hanning(length + 2)[1:-1]
    out = levels.copy()
    first = MOVE - length + (0 if steep else length // 2)
    out[first : first + length, only] -= depth_db * shape[:, None]
    return out


def test_a_hole_has_steep_sides_and_a_push_has_none() -> None:
    echoes = RoomAcoustics(120.0, -5.0).echoes_db
    hole = dip_in_a_room(sunk(bands(), 40.0, 100.0, steep=True), BEFORE, AFTER, echoes)
    assert hole.gap_ms == pytest.approx(100.0, abs=10.0)
    assert hole.gap_start_s == pytest.approx(0.9, abs=0.01)
    push = dip_in_a_room(sunk(bands(), 20.0, 70.0, steep=False), BEFORE, AFTER, echoes)
    assert push.gap_ms == 0.0
    assert push.bump_db == pytest.approx(20.0, abs=1.5)


@pytest.mark.parametrize("levels", [bands(), sunk(bands(), 9.0, 90.0, steep=False)])
def test_what_echoes_do_as_well_is_not_measured(levels: Floats) -> None:
    found = dip_in_a_room(levels, BEFORE, AFTER, RoomAcoustics(120.0, -5.0).echoes_db)
    assert found.none
    assert (found.gap_ms, found.bump_db) == (None, None)


def test_what_sinks_in_all_bands_at_once_is_a_push_where_as_much_in_some_of_them_is_an_echo() -> None:
    echoes = RoomAcoustics(120.0, -5.0).echoes_db
    push = dip_in_a_room(sunk(bands(), 13.0, 90.0, steep=False), BEFORE, AFTER, echoes)
    assert (push.gap_ms, push.bump_db) == (0.0, pytest.approx(13.0, abs=1.0))
    assert dip_in_a_room(sunk(bands(), 13.0, 90.0, steep=False, only=slice(0, 5)), BEFORE, AFTER, echoes).none


def test_a_dip_that_is_wide_in_the_sound_as_it_came_is_a_silence() -> None:
    echoes = RoomAcoustics(40.0, -5.0).echoes_db
    turned_down = sunk(bands(), 20.0, 90.0, steep=False)
    assert dip_in_a_room(turned_down, BEFORE, AFTER, echoes).gap_ms == 0.0
    push, silence = sunk(bands(), 9.0, 90.0, steep=False), sunk(bands(), 9.0, 110.0, steep=True)
    assert dip_in_a_room(turned_down, BEFORE, AFTER, echoes, push).gap_ms == 0.0
    assert (dip_in_a_room(turned_down, BEFORE, AFTER, echoes, silence).gap_ms or 0.0) > 40.0


def test_a_few_bands_that_sink_are_echoes() -> None:
    levels = sunk(bands(), 40.0, 100.0, steep=True, only=slice(0, 3))
    assert dip_in_a_room(levels, BEFORE, AFTER, RoomAcoustics(120.0, -5.0).echoes_db).none


def test_a_dip_far_from_the_move_is_none_of_it() -> None:
    levels = bands()
    levels[MOVE - 60 : MOVE - 40] -= 40.0
    assert dip_in_a_room(levels, BEFORE, AFTER, RoomAcoustics(120.0, -5.0).echoes_db).none


def test_notes_without_bands_in_common_fade_over_or_leave_a_hole() -> None:
    echoes = RoomAcoustics(120.0, -5.0).echoes_db
    assert dip_in_a_room(bands(own=1), BEFORE, AFTER, echoes).none
    hole = dip_in_a_room(sunk(bands(own=1), 40.0, 100.0, steep=True), BEFORE, AFTER, echoes)
    assert hole.gap_ms == pytest.approx(100.0, abs=15.0)


def test_the_longer_a_room_rings_the_deeper_its_echoes() -> None:
    assert RoomAcoustics(200.0, -5.0).echoes_db == RoomAcoustics(120.0, -5.0).echoes_db == 16.0
    assert RoomAcoustics(40.0, -5.0).echoes_db == 23.0


def trace_of(f0_hz: Floats, confidence: float = 0.99) -> Trace:
    count = len(f0_hz)
    level = np.full(count, -20.0)
    clear, tone, bright = (np.full(count, value) for value in (confidence, 20.0, 800.0))
    return Trace(np.arange(count) * HOP_S, f0_hz, clear, level, tone, bright)


def broken(to_hz: float, *, at_s: float, ms: float) -> Floats:
    f0 = np.full(FRAMES, 233.1)
    first = round(at_s / HOP_S)
    f0[first : first + round(ms / 1000.0 / HOP_S)] = to_hz
    return f0


def test_a_break_in_a_room_is_known_by_the_slot_that_it_leads_to() -> None:
    held = HeardNote("h1", 233.1, 0.1, 1.9, 0.1, 1.9, joined=False)
    slots = 58.27 * np.arange(1, 11)
    crack = broken(58.27 * 5, at_s=0.9, ms=80.0)
    whole = trace_of(np.full(FRAMES, 233.1))
    assert slot_breaks(trace_of(crack), trace_of(crack), held, slots, (), tongued=True) == (0, 1)
    assert slot_breaks(whole, trace_of(crack), held, slots, (), tongued=True) == (
        0,
        0,
    )  # heard in the sound without its tail only
    between = broken(262.0, at_s=0.9, ms=80.0)
    assert slot_breaks(trace_of(between), trace_of(between), held, slots, (), tongued=True) == (0, 0)
    assert slot_breaks(trace_of(crack), trace_of(crack), held, slots, (291.0,), tongued=True) == (
        0,
        0,
    )  # the note before rings
    start = broken(58.27 * 5, at_s=0.1, ms=70.0)
    assert slot_breaks(trace_of(start), trace_of(start), held, slots, (), tongued=True) == (1, 0)


def test_a_start_on_another_slot_is_heard_after_a_silence_that_the_room_fills() -> None:
    held = HeardNote("h2", 233.1, 0.3, 1.9, 0.3, 1.9, joined=True)  # so the room makes it seem
    slots = 58.27 * np.arange(1, 11)
    f0 = broken(58.27 * 5, at_s=0.22, ms=80.0)
    silent = trace_of(f0)
    silent.level_db[round(0.12 / HOP_S) : round(0.2 / HOP_S)] = -50.0
    assert slot_breaks(trace_of(f0), silent, held, slots, (), tongued=True) == (1, 0)
    assert slot_breaks(trace_of(f0), silent, held, slots, (), tongued=False) == (0, 0)  # a slur: the move's own
    assert slot_breaks(trace_of(f0), trace_of(f0), held, slots, (), tongued=True) == (0, 0)  # nothing was silent
    soft = trace_of(f0)
    soft.level_db[round(0.12 / HOP_S) : round(0.3 / HOP_S)] = -50.0  # what only rings on there is no start
    assert slot_breaks(trace_of(f0), soft, held, slots, (), tongued=True) == (0, 0)


def test_a_scoop_that_passes_a_slot_is_no_break() -> None:
    held = HeardNote("h1", 622.3, 0.0, 1.9, 0.0, 1.9, joined=False)
    slots = 43.65 * np.arange(1, 17)
    f0 = np.full(FRAMES, 622.3)
    f0[:40] = 622.3 * 2.0 ** (np.linspace(-95.0, -20.0, 40) / 1200.0)
    assert slot_breaks(trace_of(f0), trace_of(f0), held, slots, (), tongued=True) == (0, 0)


def test_a_short_note_where_its_neighbours_would_be_heard_as_one_is_worth_a_look() -> None:
    ghost = HeardNote("h2", 110.0, 1.0, 1.1, 1.0, 1.1, joined=True)
    before = HeardNote("h1", 330.0, 0.1, 0.99, 0.1, 0.99, joined=False)
    after = HeardNote("h3", 220.0, 1.1, 1.9, 1.1, 1.9, joined=True)
    assert may_hold_echo_notes((before, ghost, after))
    assert not may_hold_echo_notes((before, HeardNote("h2", 275.0, 1.0, 1.1, 1.0, 1.1, joined=True), after))
    assert not may_hold_echo_notes((before, after))
