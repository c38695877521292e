"""Trace -> measures of a whole take."""

import itertools
import math

import numpy as np

from orexis.core.figures import Figure
from orexis.core.horn import Instrument
from orexis.core.measures.move import Between, move_measures
from orexis.core.measures.note import note_measures
from orexis.core.measures.values import FigureMeasures, Measures, MoveMeasures, NoteMeasures, SoundCheck
from orexis.core.notes import Row, aligned, heard_notes
from orexis.core.sound import Sound
from orexis.core.trace import HOP_S, Trace

_TOUCH_LONGEST_S = 0.35  # an unasked note this short inside a slur is a touch, not a note
_CLIPPED_AT = 0.985


def measure(
    trace: Trace,
    sound_check: SoundCheck,
    *,
    horn: Instrument,
    figure: Figure | None,
    a4: float,
    first_beat_s: float | None,
) -> Measures:
    """All measures. Without a figure every heard note is a row with no target."""
    heard = heard_notes(trace)
    rows = (
        aligned(heard, figure, a4=a4, first_beat_s=first_beat_s)
        if figure
        else tuple(Row(None, n, False) for n in heard)
    )
    rows = _without_touches(rows)
    notes = tuple(
        note_measures(trace, row, i, figure=figure, horn=horn, a4=a4, first_beat_s=first_beat_s)
        for i, row in enumerate(rows)
    )
    moves = tuple(_moves(trace, rows, horn))
    return Measures(notes, moves, _figure(trace, notes, moves, first_beat_s), sound_check)


def check_sound(sound: Sound, trace: Trace) -> SoundCheck:
    """Peak, clipping, and the levels with and without tone."""
    size = np.abs(np.nan_to_num(sound.samples))
    peak = float(size.max(initial=0.0))
    tone, rest = trace.level_db[trace.voiced], trace.level_db[~trace.voiced]
    return SoundCheck(
        peak_db=round(20.0 * math.log10(max(peak, 1e-6)), 1),
        clipped_share=round(float(np.mean(size >= _CLIPPED_AT)) if len(size) else 0.0, 6),
        noise_db=round(float(np.median(rest)), 1) if len(rest) > 20 else None,
        tone_db_fs=round(float(np.median(tone)), 1) if len(tone) else None,
    )


def _without_touches(rows: tuple[Row, ...]) -> tuple[Row, ...]:
    """Short unasked notes between two notes that a slur joins become part of the move between them."""
    return tuple(row for i, row in enumerate(rows) if not _is_touch(rows, i))


def _is_touch(rows: tuple[Row, ...], index: int) -> bool:
    row = rows[index]
    if row.written is not None or row.heard is None or not 0 < index < len(rows) - 1:
        return False
    short = row.heard.release_s - row.heard.onset_s < _TOUCH_LONGEST_S
    return short and row.heard.joined and _slurred(rows[index + 1])


def _slurred(row: Row) -> bool:
    return bool(row.written and row.written.slurred)


def _moves(trace: Trace, rows: tuple[Row, ...], horn: Instrument) -> list[MoveMeasures]:
    moves = []
    sounding = [(i, row, row.heard) for i, row in enumerate(rows) if row.heard is not None]
    for (i, _, before), (j, row, after) in itertools.pairwise(sounding):
        slurred = _slurred(row) if row.written else after.joined
        tube = row.written.tube if row.written else None
        moves.append(move_measures(trace, Between(before, after, tube, slurred), (i, j), horn=horn))
    return moves


def _figure(
    trace: Trace, notes: tuple[NoteMeasures, ...], moves: tuple[MoveMeasures, ...], first_beat_s: float | None
) -> FigureMeasures:
    unmeasured = {"timing_mean_ms": "the device's delay is not known"}
    arrivals = {move.after: 0.5 * (move.start_s + move.stop_s) for move in moves if move.slurred}
    late = [
        1000.0 * (arrivals.get(note.index, note.onset_s) - note.due_s)
        for note in notes
        if note.right and note.onset_s is not None and note.due_s is not None
    ]
    spread = None
    if first_beat_s is None:
        unmeasured["timing_spread_ms"] = "the click's place in this sound is not known"
    elif len(late) < 2:
        unmeasured["timing_spread_ms"] = "it takes two notes and more"
    else:
        spread = round(float(np.std(late, ddof=1)), 1)
    return FigureMeasures(
        timing_mean_ms=None,
        timing_spread_ms=spread,
        playing_s=round(float(trace.voiced.sum()) * HOP_S, 3),
        extra_notes=sum(note.target is None for note in notes),
        missed_notes=sum(note.sounded is None for note in notes),
        unmeasured=unmeasured,
    )
