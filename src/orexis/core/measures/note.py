"""Measures of one note. Formulas: docs/measures.md."""

import math
from dataclasses import dataclass

import numpy as np
from scipy.ndimage import uniform_filter1d
from scipy.stats import theilslopes

from orexis.core.figures import Figure
from orexis.core.horn import Instrument, partial_near
from orexis.core.measures.values import WINDOW_REASON, NoteMeasures
from orexis.core.notes import HeardNote, Row
from orexis.core.sound import Floats
from orexis.core.theory import nearest_pitch
from orexis.core.trace import HOP_S, Trace

_SETTLE_CENTS = 20.0  # within this of the coming median ...
_SETTLE_FOR_S = 0.08  # ... for so long
_COMING_S = 0.3
_BEFORE_RELEASE_S = 0.1
_ENTRY_S = 0.03
_FALL_S = 0.15
_MAD_TO_SIGMA = 1.4826
_MOST_POINTS = 240  # for the slope: 1.2 s of frames, or every n-th of a longer note
_PERIODS = 3.0  # no window is shorter than so many periods


@dataclass(frozen=True, slots=True, eq=False)
class Settled:
    """The settled part of a note: frame times, cents against the note's median, and where it begins."""

    start_s: float
    time_s: Floats
    cents: Floats
    level_db: Floats
    tone_db: Floats
    brightness_hz: Floats


def settled_part(trace: Trace, heard: HeardNote) -> Settled | None:
    """From the first moment when pitch stays within 20 c of the coming 300 ms for 80 ms, to 100 ms before release."""
    whole = trace.part(heard.onset_s, heard.release_s)
    part = Trace(*(column[whole.voiced] for column in whole.columns))
    if len(part) < 2:
        return None
    cents = 1200.0 * np.log2(part.f0_hz / heard.f0_hz)
    need = max(_SETTLE_FOR_S, _PERIODS / heard.f0_hz)
    length, coming = round(need / HOP_S), round(_COMING_S / HOP_S)
    stop = float(heard.release_s) - (0.0 if heard.left_joined else _BEFORE_RELEASE_S)
    for i in range(len(cents) - length + 1):
        middle = float(np.median(cents[i : i + coming]))
        if np.all(np.abs(cents[i : i + length] - middle) <= _SETTLE_CENTS):
            keep = (part.time_s >= part.time_s[i]) & (part.time_s <= stop)
            if keep.sum() * HOP_S < need:
                return None
            level = smooth_level(part.level_db, heard.f0_hz)[keep]
            return Settled(
                float(part.time_s[i]),
                part.time_s[keep],
                cents[keep],
                level,
                part.tone_db[keep],
                part.brightness_hz[keep],
            )
    return None


def smooth_level(level_db: Floats, f0_hz: float) -> Floats:
    """Level over no less than three periods: a shorter window beats with a low note."""
    frames = round(_PERIODS / f0_hz / HOP_S)
    return np.asarray(uniform_filter1d(level_db, frames, mode="nearest") if frames > 1 else level_db)


def slope_cents_s(settled: Settled) -> float | None:
    """Theil-Sen slope of pitch (Sen 1968), None for less than 0.3 s."""
    every = max(1, len(settled.cents) // _MOST_POINTS)
    if len(settled.cents) * HOP_S < _COMING_S:
        return None
    return float(theilslopes(settled.cents[::every], settled.time_s[::every])[0])


def note_measures(
    trace: Trace,
    row: Row,
    index: int,
    *,
    figure: Figure | None,
    horn: Instrument,
    a4: float,
    first_beat_s: float | None,
) -> NoteMeasures:
    """The row of the note table that answers a row of the alignment."""
    written, heard = row.written, row.heard
    target_hz = figure.target_hz(written, a4=a4) if figure and written else None
    due_s = figure.start_s(written) + first_beat_s if figure and written and first_beat_s is not None else None
    unmeasured: dict[str, str] = {"response_ms": WINDOW_REASON}
    if heard is None:
        names = (
            "centre_cents",
            "spread_cents",
            "sag_cents",
            "entry_cents",
            "entry_ms",
            "fall_off_cents",
            "hold_s",
            "level_db",
        )
        return _empty_row(index, row, target_hz, due_s, unmeasured | dict.fromkeys(names, "the note was not heard"))
    reference = target_hz or nearest_pitch(heard.f0_hz, a4=a4).frequency(a4=a4)
    settled = settled_part(trace, heard)
    slurred = heard.joined or bool(written and written.slurred)
    centre = spread = sag_rate = sag = None
    if settled is None:
        unmeasured |= dict.fromkeys(("centre_cents", "spread_cents", "sag_cents", "tone_db"), "the pitch never settled")
    else:
        centre = float(np.median(settled.cents)) + 1200.0 * math.log2(heard.f0_hz / reference)
        sag_rate = slope_cents_s(settled)
        length = float(settled.time_s[-1] - settled.time_s[0])
        sag = None if sag_rate is None else sag_rate * length
        spread = _spread(settled, sag_rate)
        if sag is None:
            unmeasured["sag_cents"] = "the settled part is shorter than 0.3 s"
    entry_cents, entry_ms = _entry(trace, heard, settled, slurred, unmeasured)
    fall = _fall_off(trace, heard, settled, unmeasured)
    share = (written.horn_cents if written else None) if figure else None
    partial = _partial(row, horn)
    return NoteMeasures(
        index=index,
        target=written.id if written else None,
        sounded=heard.id,
        right=row.right,
        written_hz=_rounded(target_hz),
        f0_hz=_rounded(heard.f0_hz),
        partial=partial,
        onset_s=_rounded(heard.onset_s),
        release_s=_rounded(heard.release_s),
        due_s=_rounded(due_s),
        slurred=slurred,
        centre_cents=_rounded(centre, 2),
        horn_cents=_rounded(share, 2),
        judged_cents=_rounded(
            centre - (share or 0.0) if centre is not None and written and written.keep_tube else centre, 2
        ),
        spread_cents=_rounded(spread, 2),
        sag_cents_s=_rounded(sag_rate, 2),
        sag_cents=_rounded(sag, 2),
        entry_cents=_rounded(entry_cents, 1),
        entry_ms=_rounded(entry_ms, 0),
        fall_off_cents=_rounded(fall, 1),
        hold_s=_rounded(heard.release_s - heard.onset_s, 3),
        response_ms=None,
        level_db=_rounded(float(np.median(settled.level_db)) if settled else None, 1),
        level_wander_db=_rounded(robust_spread(settled.level_db) if settled else None, 2),
        tone_db=_rounded(float(np.median(settled.tone_db)) if settled else None, 1),
        brightness_hz=_rounded(float(np.median(settled.brightness_hz)) if settled else None, 0),
        unmeasured=unmeasured,
    )


def _empty_row(
    index: int, row: Row, target_hz: float | None, due_s: float | None, unmeasured: dict[str, str]
) -> NoteMeasures:
    written = row.written
    nothing: dict[str, None] = dict.fromkeys(
        (
            "f0_hz", "partial", "onset_s", "release_s", "centre_cents", "judged_cents", "spread_cents", "sag_cents_s", "sag_cents",
            "entry_cents", "entry_ms", "fall_off_cents", "hold_s", "response_ms", "level_db", "level_wander_db", "tone_db", "brightness_hz",
        )
    )  # fmt: skip
    return NoteMeasures(
        index=index,
        target=written.id if written else None,
        sounded=None,
        right=False,
        written_hz=_rounded(target_hz),
        due_s=_rounded(due_s),
        slurred=bool(written and written.slurred),
        horn_cents=written.horn_cents if written else None,
        unmeasured=unmeasured,
        **nothing,
    )


def robust_spread(values: Floats) -> float:
    """1.4826 * median absolute deviation."""
    return float(_MAD_TO_SIGMA * np.median(np.abs(values - np.median(values))))


def _spread(settled: Settled, rate: float | None) -> float:
    """What is left after the slope."""
    flat = settled.cents if rate is None else settled.cents - rate * (settled.time_s - settled.time_s.mean())
    return robust_spread(flat)


def _entry(
    trace: Trace, heard: HeardNote, settled: Settled | None, slurred: bool, unmeasured: dict[str, str]
) -> tuple[float | None, float | None]:
    """Deviation from the note's own early centre in the first 30 ms, and the time until it settles."""
    reason = "the note was slurred into" if slurred else ("the pitch never settled" if settled is None else None)
    if reason or settled is None:
        unmeasured |= dict.fromkeys(("entry_cents", "entry_ms"), reason or "")
        return None, None
    window = max(_ENTRY_S, _PERIODS / heard.f0_hz)
    first = trace.part(heard.onset_s, heard.onset_s + window)
    f0 = first.f0_hz[first.voiced]
    if not len(f0):
        unmeasured |= dict.fromkeys(("entry_cents", "entry_ms"), "no pitch was heard in its first moments")
        return None, None
    # Against the centre where it settles, so that a long even sag is no entry.
    early = settled.cents[: round(_COMING_S / HOP_S)]
    start = 1200.0 * math.log2(float(np.median(f0)) / heard.f0_hz)
    return start - float(np.median(early)), 1000.0 * max(0.0, settled.start_s - heard.onset_s)


def _fall_off(trace: Trace, heard: HeardNote, settled: Settled | None, unmeasured: dict[str, str]) -> float | None:
    """The last 150 ms before release against the settled end."""
    if settled is None or heard.left_joined:
        unmeasured["fall_off_cents"] = (
            "the pitch never settled" if settled is None else "the note was slurred away from"
        )
        return None
    last = trace.part(heard.release_s - max(_FALL_S, _PERIODS / heard.f0_hz), heard.release_s)
    f0 = last.f0_hz[last.voiced]
    if len(f0) < 3:
        unmeasured["fall_off_cents"] = "no pitch was heard in its last moments"
        return None
    late = settled.cents[settled.time_s < heard.release_s - _FALL_S][-round(_COMING_S / HOP_S) :]
    if not len(late):
        unmeasured["fall_off_cents"] = "the note is too short"
        return None
    return 1200.0 * math.log2(float(np.median(f0)) / heard.f0_hz) - float(np.median(late))


def _partial(row: Row, horn: Instrument) -> int | None:
    if row.written is None or row.heard is None:
        return None
    return partial_near(horn, row.written.tube, row.heard.f0_hz)[0]


def _rounded(value: float | None, digits: int = 4) -> float | None:
    return None if value is None else round(value, digits)
