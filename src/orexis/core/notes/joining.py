"""Rows of which several are one note: breaks that come back, touches inside a slur, starts on another slot.

Times in seconds. A row's own heard note keeps its id when it takes others in.
"""

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np

from orexis.core.exercises import Exercise, ExerciseNote
from orexis.core.instruments import Instrument, slots_hz
from orexis.core.notes.align import RIGHT_CENTS
from orexis.core.notes.values import SAME_PITCH_CENTS, HeardNote, Row
from orexis.core.signals import median
from orexis.core.sound import Floats
from orexis.core.theory import cents_between
from orexis.core.trace import HOP_S, Trace

_TOUCH_LONGEST_S = 0.35  # an unasked note this short inside a slur is a touch, not a note
_SPLIT_LONGEST_S = 0.25  # a longer piece is a note of its own
_CRACK_LONGEST_S = 0.3
_SCRAP_S, _SILENCE_S, _SLURRED_START_S = 0.15, 0.03, 0.3
_SCOOP_S, _SCOOP_CENTS, _MEETS_CENTS, _MEETS_S = 0.35, 170.0, 40.0, 0.025
_DEEP_S, DEEP_SCOOP_CENTS, _SLIDE_CENTS = 0.2, 250.0, 45.0  # a shorter scoop may be deeper; from frame to frame
_ON_SLOT_CENTS = 90.0  # a start further from all partials is on none of them
_BREAK_S, _GOES_ON_DB, _CLEARLY = 0.03, 8.0, 0.75
_FAINT_DB, _PULSE_DB = 15.0, 14.0

Breaks = dict[str, list[tuple[float, float]]]  # by heard note: from when to when it was away, s


def merge_fragments(
    trace: Trace, rows: tuple[Row, ...], instrument: Instrument | None = None, direct: Trace | None = None
) -> tuple[tuple[Row, ...], Breaks, dict[int, int]]:
    """The rows made whole; the breaks that each heard note (by id) took in; how many false starts each row (by place).

    `instrument`: whose partials a note may start on; None for what has none. `direct`: the sound without the room, where it
    rings: two notes that mix in the room are apart there.
    """
    rows, broken = _without_cracks(trace, _with_their_scoops(trace, rows, instrument, direct))
    rows, splits = _without_splits(trace, _without_touches(rows), direct)
    return rows, broken, splits


def repair_partial_breaks(
    trace: Trace, heard: tuple[HeardNote, ...], exercise: Exercise, *, a4: float
) -> tuple[tuple[HeardNote, ...], Breaks]:
    """Notes that break and go on on their pitch made whole before they are asked for, where none is written again on it.

    Also the breaks that each heard note, by its id, has swallowed.
    """
    asked = [exercise.target_hz(note, a4=a4) for note in exercise.notes]
    again = [hz for hz, after in pairwise(asked) if abs(cents_between(hz, after)) < SAME_PITCH_CENTS]
    kept: list[HeardNote] = []
    broken: Breaks = {}
    for note in heard:
        whole = _mend(trace, kept[-1], note, again) if kept else None
        if whole is None:
            kept.append(note)
        else:
            broken.setdefault(whole.id, []).append(_between(kept[-1], note))
            kept[-1] = whole
    return tuple(kept), broken


def _mend(trace: Trace, before: HeardNote, after: HeardNote, again_hz: list[float]) -> HeardNote | None:
    """The two as one, where the second is the first going on."""
    if (
        abs(cents_between(before.f0_hz, after.f0_hz)) >= SAME_PITCH_CENTS
        or after.onset_s - before.release_s >= _SCRAP_S
    ):
        return None
    if any(abs(cents_between(hz, after.f0_hz)) < RIGHT_CENTS for hz in again_hz):
        return None
    first, second = Row(None, before, False), Row(None, after, False)
    return _whole(first, second).heard if _is_break(trace, first, second) else None


def _with_their_scoops(
    trace: Trace, rows: tuple[Row, ...], instrument: Instrument | None, direct: Trace | None
) -> tuple[Row, ...]:
    """A short unasked note that glides without a break into a tongued one is how that note was reached.

    Not one between that and the note before: there the two mix while the one rings on.
    """
    kept: list[Row] = []
    for row in rows:
        if kept and _is_scoop(trace, kept[-1], row, instrument) and not _is_mixed(kept[-2:-1], kept[-1], row, direct):
            whole = _whole(kept[-1], row)
            assert whole.heard is not None
            kept[-1] = replace(whole, heard=replace(whole.heard, joined=False))  # begun anew, whatever rings on into it
        else:
            kept.append(row)
    return tuple(kept)


def _is_scoop(trace: Trace, before: Row, after: Row, instrument: Instrument | None) -> bool:
    a, b = before.heard, after.heard
    if a is None or b is None or before.written is not None or after.written is None or after.written.slurred:
        return False
    away, length_s = abs(cents_between(a.f0_hz, b.f0_hz)), a.release_s - a.onset_s
    if b.onset_s - a.release_s > _SILENCE_S:
        return False
    deep = length_s <= _DEEP_S and away < DEEP_SCOOP_CENTS
    if deep and is_slide(trace.part(a.start_s, b.start_s + _MEETS_S).f0_hz, slots_of(after.written, instrument)):
        return True
    if away >= _SCOOP_CENTS or length_s > _SCOOP_S:
        return False
    meets = [trace.part(a.release_s - _MEETS_S, a.release_s).f0_hz, trace.part(b.onset_s, b.onset_s + _MEETS_S).f0_hz]
    ends = [median(part[np.isfinite(part)]) for part in meets if np.isfinite(part).any()]
    return len(ends) == len(meets) and abs(cents_between(ends[0], ends[1])) < _MEETS_CENTS


def slots_of(written: ExerciseNote, instrument: Instrument | None) -> tuple[float, ...]:
    """Return the partials of the written fingering in Hz; none for what has none."""
    return tuple(hz for _, hz in slots_hz(instrument, written.fingering)) if instrument else ()


def is_slide(f0_hz: Floats, partials_hz: Sequence[float] = ()) -> bool:
    """Whether a pitch that comes from somewhere slides: it begins on no partial, or goes on without a jump."""
    there = f0_hz[np.isfinite(f0_hz)]
    if len(there) < 2:
        return False
    begins = median(there[: max(2, len(there) // 2)])
    if partials_hz and min(abs(cents_between(hz, begins)) for hz in partials_hz) > _ON_SLOT_CENTS:
        return True
    return float(np.abs(1200.0 * np.diff(np.log2(there))).max()) < _SLIDE_CENTS


def _is_mixed(earlier: list[Row], scoop: Row, row: Row, direct: Trace | None) -> bool:
    """Whether a pitch between those of two notes is the mixture of both: the first still sounds where it begins."""
    before, mixed, after = (other.heard for other in (*earlier, scoop, row)) if earlier else (None, None, None)
    if before is None or mixed is None or after is None or mixed.onset_s - before.release_s > _SILENCE_S:
        return False
    if direct is not None and _is_at(direct, mixed, mixed.f0_hz):
        return False
    return min(before.f0_hz, after.f0_hz) < mixed.f0_hz < max(before.f0_hz, after.f0_hz)


def _is_at(direct: Trace, note: HeardNote, hz: float) -> bool:
    """Whether without the room a pitch sounds in most of a note's time."""
    f0 = direct.part(note.onset_s, note.release_s).f0_hz
    with np.errstate(invalid="ignore"):
        there = np.abs(cents_between(hz, f0)) < SAME_PITCH_CENTS
    return bool(len(there)) and float(there.mean()) > 0.5


def _without_cracks(trace: Trace, rows: tuple[Row, ...]) -> tuple[tuple[Row, ...], Breaks]:
    """A note that breaks to another slot and comes back is one note: its two halves and the break become one row.

    Also the breaks that each heard note, by its id, has swallowed.
    """
    kept: list[Row] = []
    broken: Breaks = {}
    i = 0
    while i < len(rows):
        two, three = rows[i : i + 2], rows[i : i + 3]
        parts = (
            three if len(three) == 3 and _is_crack(*three) else two if len(two) == 2 and _is_broken(trace, *two) else ()
        )
        if not parts:
            kept.append(rows[i])
            i += 1
            continue
        whole = _whole(parts[0], parts[-1])
        assert whole.heard is not None
        first, last = parts[0].heard, parts[-1].heard
        if first is not None and last is not None and (len(parts) == 3 or _is_break(trace, *two)):
            broken.setdefault(whole.heard.id, []).append(_between(first, last))
        rows = (*rows[:i], whole, *rows[i + len(parts) :])
    return tuple(kept), broken


def _between(a: HeardNote, b: HeardNote) -> tuple[float, float]:
    """From when to when a note was away that broke."""
    middle = 0.5 * (a.release_s + b.onset_s)
    return min(a.release_s, middle - _BREAK_S), max(b.onset_s, middle + _BREAK_S)


def _is_crack(before: Row, broken: Row, after: Row) -> bool:
    """Short, unasked, without silence on either side, between two parts of one pitch of which one answers a written note."""
    a, c, b = before.heard, broken.heard, after.heard
    if a is None or c is None or b is None or broken.written is not None:
        return False
    if (before.written is None) == (after.written is None):
        return False
    short = c.release_s - c.onset_s < _CRACK_LONGEST_S
    return short and c.joined and b.joined and abs(cents_between(a.f0_hz, b.f0_hz)) < SAME_PITCH_CENTS


def _is_broken(trace: Trace, before: Row, after: Row) -> bool:
    """Two parts of one pitch without silence between them, of which one answers a written note: the break was very short."""
    a, b = before.heard, after.heard
    if a is None or b is None or (before.written is None) == (after.written is None):
        return False
    if abs(cents_between(a.f0_hz, b.f0_hz)) >= SAME_PITCH_CENTS:
        return False
    extra, hole_s = (a if before.written is None else b), b.onset_s - a.release_s
    scrap = extra.release_s - extra.onset_s < _SCRAP_S and hole_s < _SILENCE_S
    if b.joined or scrap or (hole_s < _SCRAP_S and _pitch_lost(trace, a, b) and _goes_on(trace, a, b)):
        return True
    # Nobody asked for a second one: a pulse of the breath.
    return hole_s < _SILENCE_S and _goes_on(trace, a, b, _PULSE_DB)


def _is_break(trace: Trace, before: Row, after: Row) -> bool:
    a, b = before.heard, after.heard
    # A start that took a moment; after a slur, the note before may ring on into it.
    if a is None or b is None or a.release_s - a.onset_s < (_SLURRED_START_S if a.joined else _SCRAP_S):
        return False
    dies_away = _level(trace, b) < _level(trace, a) - _GOES_ON_DB
    return not dies_away and _pitch_lost(trace, a, b) and _goes_on(trace, a, b)


def _level(trace: Trace, note: HeardNote) -> float:
    return median(trace.part(note.start_s, note.stop_s).level_db)


def _loudest(trace: Trace, start: HeardNote, note: HeardNote) -> float:
    """How loud the pitch of a start becomes before the note itself is there, dB."""
    part = trace.part(start.onset_s, note.start_s)
    with np.errstate(invalid="ignore"):
        there = np.abs(cents_between(start.f0_hz, part.f0_hz)) < SAME_PITCH_CENTS
    return float(part.level_db[there].max()) if there.any() else -120.0


def _pitch_lost(trace: Trace, a: HeardNote, b: HeardNote) -> bool:
    """Whether the pitch is away, or hardly one, for a moment about where two notes meet."""
    part = trace.part(a.release_s - _SCRAP_S, b.onset_s + _BREAK_S)
    with np.errstate(invalid="ignore"):
        there = np.abs(cents_between(a.f0_hz, part.f0_hz)) < SAME_PITCH_CENTS
    lost = ~there | (part.confidence < _CLEARLY)
    return float(lost.sum()) * HOP_S >= _BREAK_S


def _goes_on(trace: Trace, a: HeardNote, b: HeardNote, within_db: float = _GOES_ON_DB) -> bool:
    """Whether it is about as loud between two notes as in them: the pitch was lost there, not the tone."""
    between = trace.part(a.release_s - _BREAK_S, b.onset_s + _BREAK_S).level_db
    usual = min(_level(trace, a), _level(trace, b))
    return bool(len(between)) and float(between.min()) > usual - within_db


def _whole(before: Row, after: Row) -> Row:
    a, b = before.heard, after.heard
    assert a is not None
    assert b is not None
    longer = max(a, b, key=lambda note: note.stop_s - note.start_s)
    heard = replace(
        a,
        f0_hz=longer.f0_hz,
        start_s=longer.start_s,
        stop_s=longer.stop_s,
        release_s=b.release_s,
        left_joined=b.left_joined,
    )
    return Row(before.written or after.written, heard, before.right or after.right)


def _without_touches(rows: tuple[Row, ...]) -> tuple[Row, ...]:
    """Short unasked notes between two notes that a slur joins become part of the move between them."""
    return tuple(row for i, row in enumerate(rows) if not _is_touch(rows, i))


def _is_touch(rows: tuple[Row, ...], index: int) -> bool:
    row = rows[index]
    if row.written is not None or row.heard is None or not 0 < index < len(rows) - 1:
        return False
    short = row.heard.release_s - row.heard.onset_s < _TOUCH_LONGEST_S
    return short and row.heard.joined and rows[index + 1].slurred


def _without_splits(
    trace: Trace, rows: tuple[Row, ...], direct: Trace | None
) -> tuple[tuple[Row, ...], dict[int, int]]:
    """A short unasked note that leads without silence into a tongued one was that note's start, on the wrong partial.

    One far softer is no start at all, nor one that is the note itself without the room.
    """
    kept: list[Row] = []
    splits: dict[int, int] = {}
    for i, row in enumerate(rows):
        after = rows[i + 1] if i + 1 < len(rows) else None
        if row.written is None and row.heard and after and after.heard and after.written and not after.written.slurred:
            short = row.heard.release_s - row.heard.onset_s < _SPLIT_LONGEST_S
            if short and after.heard.joined and not row.heard.joined:
                own = direct is not None and _is_at(direct, row.heard, after.heard.f0_hz)
                if not own and _loudest(trace, row.heard, after.heard) > _level(trace, after.heard) - _FAINT_DB:
                    splits[len(kept)] = splits.get(len(kept), 0) + 1
                continue
        kept.append(row)
    return tuple(kept), splits
