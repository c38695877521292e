"""Breaks of a note to another partial and back: at its start a split, later a crack."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from orexis.core.instruments import Instrument, slots_hz
from orexis.core.measures.ending import let_go_s
from orexis.core.measures.entry import has_restarted
from orexis.core.measures.own import ECHOED, IsReal, with_harmonics
from orexis.core.notes import DEEP_SCOOP_CENTS, HeardNote, Row, is_slide, runs, slots_of
from orexis.core.signals import median
from orexis.core.sound import Floats, Sound
from orexis.core.theory import cents_between
from orexis.core.trace import HOP_S, Trace

_TROUBLED_S, _MAY_RING = 0.03, 3  # notes before one that may still ring in it
_CRACK_CENTS, _CRACK_S, _CRACK_LONGEST_S, _SPLIT_WITHIN_S = 120.0, 0.015, 0.3, 0.15
_QUIET_TONE, _CRACK_IN_BREATH_S = 0.95, 0.03  # a tone with so much breath in it strays for a few frames by itself
_HARDLY = 0.8  # below this confidence the tracker is guessing
_CLEAR, _AS_CLEAR, _LEAST_PERIODS = 0.7, 0.12, 3.0
_ARRIVED_S = 0.04  # a note cracks once it was there for so long
_FILLED_S = 0.13  # so much of a tongued note's start may be taken for what rings before it
_OLD_NOTE_S = 0.12  # so long after a slur the note before may still be heard
_BACK_FRAMES, _BACK_CENTS = 5, 60.0
# In a room: near a slot for so long, back at the note soon after, while the sound as it came is troubled.
_ON_SLOT_CENTS, _ON_SLOT_S, _ON_SLOT_CLEAR, _BACK_S, _TROUBLE_S, _AROUND_S = 70.0, 0.03, 0.65, 0.09, 0.025, 0.03
_SEEN_LATE_S, _STEP_S, _LOOK_S = 0.1, 0.02, 0.03  # where the notes of two parts are looked between
_TOLD_APART_HZ = 42.0  # lower slots lie too close for a window of 60 ms
_BLOWN_DB = 10.0  # softer than this the direct sound has stopped, and what sounds is the room
_NEARER, _SLIDES = 0.35, 0.12  # of the way from the slot to the note: so far off at most; so much on its way back


def breaks_in(
    trace: Trace,
    direct: Trace,
    rows: tuple[Row, ...],
    place: int,
    instrument: Instrument,
    sound: Sound | None = None,
    parted: Sequence[tuple[float, float]] = (),
) -> tuple[int, int]:
    """Splits and cracks of one row; `parted`: when its heard note was away before its parts were joined.

    Where the room rings, one must trouble the sound as it came as well as the one without the room, and have harmonics of its
    own in it.
    """
    row, after = rows[place], rows[place + 1].written if place + 1 < len(rows) else None
    assert row.heard is not None
    partials = slots_of(row.written, instrument) if row.written is not None and row.right else ()
    if direct is trace:
        split, crack = cracks(trace, row.heard, partials_hz=partials)
        return split, max(crack, len(parted))
    rings = tuple(before.heard.f0_hz for before in rows[max(0, place - _MAY_RING) : place] if before.heard)
    heard = replace(row.heard, release_s=let_go_s(direct, row.heard))  # what the room then does is no break
    real = with_harmonics(sound, heard.f0_hz, rings) if sound is not None else _always
    split, crack = cracks(trace, heard, rings, real, partials_hz=partials)
    if any(note is not None and note.glide_beats > 0.0 for note in (row.written, after)):
        return split, 0  # the echoes of a pitch that moves are pitches of their own
    if unsettled_s(trace, heard) >= _TROUBLED_S:
        crack = max(crack, cracks(direct, heard, rings, real)[1])
    if row.written is None or not row.right:
        return split, crack
    slots = np.array([hz for _, hz in slots_hz(instrument, row.written.fingering)])
    more = slot_breaks(trace, direct, heard, slots, rings, tongued=not row.written.slurred, is_real=real)
    led = sum(_led_to(slots, heard.f0_hz, span, real) for span in parted)
    return max(split, more[0]), max(crack, more[1], led)


def _always(start_s: float, stop_s: float, hz: float) -> bool:
    return True


def _led_to(slots_hz: Floats, note_hz: float, span: tuple[float, float], is_real: IsReal) -> bool:
    """Whether another slot sounded where a note was away, or shortly before its first part was seen to end.

    Slots too close for so short a moment are not told apart: there the ear is believed.
    """
    if slots_hz[0] < _TOLD_APART_HZ:
        return True
    below = np.maximum(1.0, np.round(note_hz / slots_hz))
    fraction = (below >= 2.0) & (np.abs(cents_between(note_hz, below * slots_hz)) < _BACK_CENTS)
    others = slots_hz[(np.abs(cents_between(note_hz, slots_hz)) > _CRACK_CENTS) & ~fraction]
    moments = np.arange(span[0] - _SEEN_LATE_S, span[1], _STEP_S)
    return any(is_real(float(at), float(at) + _LOOK_S, float(slot)) for slot in others for at in moments)


def _is_scoop(way: Floats, note_hz: float, partials_hz: tuple[float, ...]) -> bool:
    """Whether a note was slid into from near by: from no partial, or without a jump."""
    near = abs(cents_between(note_hz, float(np.nanmedian(way)))) < DEEP_SCOOP_CENTS
    return near and is_slide(way, partials_hz)


def _comes_back_at_once(after: Floats, note_hz: float) -> bool:
    """A break jumps back to the note; a scoop slides up to it."""
    there = after[np.isfinite(after)]
    return bool(len(there)) and float(np.min(np.abs(cents_between(note_hz, there)))) < _BACK_CENTS


def _is_there(part: Floats, note_hz: float) -> bool:
    """Whether the note is there at all before, or after, it breaks: what lies on its way in or out is no break of it."""
    with np.errstate(invalid="ignore"):
        there = np.abs(cents_between(note_hz, part)) < _BACK_CENTS
    return float(there.sum()) * HOP_S >= _ARRIVED_S


def slot_breaks(
    trace: Trace,
    direct: Trace,
    heard: HeardNote,
    slots_hz: Floats,
    ringing_hz: tuple[float, ...],
    *,
    tongued: bool,
    is_real: IsReal = _always,
) -> tuple[int, int]:
    """(splits, cracks) where the room rings: stays on another slot of the fingering in hand, heard without the room's tail.

    `direct` is the trace without the tail. Echoes blur how a break begins and ends, but they lead to no slot, unless to that of
    a note before: `ringing_hz`. The sound as it came must be troubled at the same time. A tongued note may seem joined to the
    one that rings on before it: then it is looked at from earlier on, and begins where nothing was fed in for a moment.
    """
    fills = heard.joined and tongued
    low, high = np.searchsorted(direct.time_s, (heard.onset_s - (_FILLED_S if fills else 0.02), heard.release_s - 0.05))
    f0, time_s = direct.f0_hz[low:high], direct.time_s[low:high]
    known = (heard.f0_hz, *ringing_hz)
    others = slots_hz[np.min([np.abs(cents_between(hz, slots_hz)) for hz in known], axis=0) > _CRACK_CENTS]
    if not len(others) or high <= low:
        return 0, 0
    with np.errstate(invalid="ignore"):
        off = np.array([np.abs(cents_between(float(slot), f0)) for slot in others])
        reach = np.minimum(_ON_SLOT_CENTS, _NEARER * np.abs(cents_between(heard.f0_hz, others)))
        on_slot = (off < reach[:, None]).any(axis=0) & (direct.confidence[low:high] > _ON_SLOT_CLEAR)
        there = np.abs(cents_between(heard.f0_hz, f0)) < _BACK_CENTS
    split = crack = 0
    need = max(_ON_SLOT_S, _LEAST_PERIODS / heard.f0_hz)
    for a, b in runs(on_slot):
        begins, lasts = float(time_s[a]) - heard.onset_s, (b - a + 1) * HOP_S
        steady = float(np.ptp(cents_between(1.0, np.percentile(f0[a : b + 1], (20, 80))))) < 2.0 * _ON_SLOT_CENTS
        back = there[b + 1 : b + 1 + round(_BACK_S / HOP_S)].any()
        if not need <= lasts <= _CRACK_LONGEST_S or not steady or not back or _slides(f0[a : b + 1], heard.f0_hz):
            continue
        if _troubled_s(trace, heard, float(time_s[a]) - _AROUND_S, float(time_s[b]) + _AROUND_S) < _TROUBLE_S:
            continue
        if not is_real(float(time_s[a]), float(time_s[b]), float(np.nanmedian(f0[a : b + 1]))):
            continue
        anew = not heard.joined or (fills and _is_blown_again(direct, heard, float(time_s[a]), float(time_s[b])))
        at_start = begins < _SPLIT_WITHIN_S and anew
        split += at_start
        crack += not at_start and begins > _OLD_NOTE_S and _is_there(f0[:a], heard.f0_hz)
    return split, crack


def _is_blown_again(direct: Trace, heard: HeardNote, start_s: float, stop_s: float) -> bool:
    """Whether a stay before a note comes after a silence, as loud as the note: what only rings on there is softer."""
    usual = median(direct.part(heard.start_s, heard.stop_s).level_db)
    loud = median(direct.part(start_s, stop_s).level_db) > usual - _BLOWN_DB
    return loud and has_restarted(direct, replace(heard, onset_s=start_s))


def _slides(stay: Floats, note_hz: float) -> bool:
    """Whether a stay is on its way to the note, as a scoop is that passes by a slot: its last third is nearer than its first."""
    off = np.abs(cents_between(note_hz, stay[np.isfinite(stay)]))
    third = max(1, len(off) // 3)
    first, last = median(off[:third]), median(off[-third:])
    return first - last > _SLIDES * first


def _troubled_s(trace: Trace, heard: HeardNote, start_s: float, stop_s: float) -> float:
    part = trace.part(start_s, stop_s)
    with np.errstate(invalid="ignore"):
        there = np.abs(cents_between(heard.f0_hz, part.f0_hz)) < _BACK_CENTS
    return float((~there | (part.confidence < _HARDLY)).sum()) * HOP_S


def unsettled_s(trace: Trace, heard: HeardNote) -> float:
    """How long within a note its pitch is away or hardly one, its first moments left out."""
    return _troubled_s(trace, heard, heard.onset_s + _OLD_NOTE_S, heard.release_s - 0.05)


def cracks(
    trace: Trace,
    heard: HeardNote,
    ringing_hz: tuple[float, ...] = (),
    is_real: IsReal = _always,
    *,
    partials_hz: tuple[float, ...] = (),
) -> tuple[int, int]:
    """(splits, cracks): breaks to a clear pitch far from the note's own, at its start and later, that come back.

    What lies at the pitch of a note before that may still ring (`ringing_hz`) is that note; and where notes ring or hold much breath, what
    takes some harmonics away leaves a pitch that is a multiple or a fraction of the note's own.
    """
    low, high = np.searchsorted(trace.time_s, (heard.onset_s - 0.02, heard.release_s - 0.05))
    f0 = trace.f0_hz[low:high]
    with np.errstate(invalid="ignore"):
        away = np.abs(cents_between(heard.f0_hz, f0)) > _CRACK_CENTS
        for rings in ringing_hz:
            away &= ~(np.abs(cents_between(rings, f0)) < _BACK_CENTS)
        # A break is as clear as the note itself: breath in the tone makes single frames stray.
        usual = median(trace.confidence[low:high]) if high > low else 0.0
        for times in ECHOED if ringing_hz or usual < _QUIET_TONE else ():
            away &= ~(np.abs(cents_between(times * heard.f0_hz, f0)) < _BACK_CENTS)
    away &= np.isfinite(f0) & (trace.confidence[low:high] > max(_CLEAR, usual - _AS_CLEAR))
    shortest_s = _CRACK_S if usual > _QUIET_TONE else _CRACK_IN_BREATH_S
    split = crack = 0
    for a, b in runs(away):
        length = (b - a + 1) * HOP_S
        # On its way to the break and back the windows see both pitches: its middle is what stands still.
        edge = 2 if b - a + 1 >= 8 else 0
        steady = float(np.ptp(cents_between(1.0, f0[a + edge : b + 1 - edge]))) < 80.0
        need = max(shortest_s, _LEAST_PERIODS / min(heard.f0_hz, median(f0[a : b + 1])))
        if not need <= length <= _CRACK_LONGEST_S or not steady:
            continue
        if not is_real(float(trace.time_s[low + a]), float(trace.time_s[low + b]), median(f0[a : b + 1])):
            continue
        at_start = a * HOP_S < _SPLIT_WITHIN_S and not heard.joined
        returns = b + 2 < len(f0) and _comes_back_at_once(f0[b + 1 : b + 1 + _BACK_FRAMES], heard.f0_hz)
        split += at_start and returns and not _is_scoop(f0[a : b + 1 + _BACK_FRAMES], heard.f0_hz, partials_hz)
        later = a * HOP_S > (_OLD_NOTE_S if heard.joined else 0.05) and _is_there(f0[:a], heard.f0_hz)
        crack += returns and not at_start and later and _is_there(f0[b + 1 :], heard.f0_hz)
    return int(split), int(crack)
