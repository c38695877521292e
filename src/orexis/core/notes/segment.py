"""From a trace to heard notes.

A note is a stretch of steady pitch: within 25 ms on either side it moves less than 60 cents. Stretches closer than
75 cents with no silence between them are one note (a wobble, a sag, a late correction); a stretch shorter than 60 ms
is a touch on the way, not a note. Silence of 30 ms, or a level 24 dB under the note's own, ends a note.
"""

from dataclasses import dataclass

import numpy as np
from scipy.ndimage import maximum_filter1d, median_filter, minimum_filter1d

from orexis.core.notes.values import HeardNote
from orexis.core.sound import Floats
from orexis.core.trace import HOP_S, Trace

_STEADY_CENTS = 60.0
_SAME_NOTE_CENTS = 75.0
_SHORTEST_S = 0.06
_SILENCE_S = 0.03
_DROP_DB = 24.0
_ONSET_DB = 20.0
# A Hann window of 25 ms that looks at an abrupt start shows it 20 dB down so long before it happens.
_WINDOW_LEAD_S = 0.007

Flags = np.ndarray[tuple[int, ...], np.dtype[np.bool_]]


@dataclass(frozen=True, slots=True)
class _Stretch:
    first: int
    last: int  # inclusive
    cents: float


def heard_notes(trace: Trace) -> tuple[HeardNote, ...]:
    """All notes of a trace in order of time."""
    notes: list[HeardNote] = []
    for first, last in _regions(trace):
        stretches = _merged(_steady(trace, first, last))
        for index, stretch in enumerate(stretches):
            joined = index > 0
            notes.append(_note(trace, stretch, len(notes), first, last, joined, index + 1 == len(stretches)))
    return tuple(notes)


def runs(flags: Flags) -> list[tuple[int, int]]:
    """First and last index of every run of True."""
    edges = np.flatnonzero(np.diff(np.concatenate(([False], flags, [False])).astype(np.int8)))
    return [(int(a), int(b) - 1) for a, b in zip(edges[::2], edges[1::2], strict=True)]


def _regions(trace: Trace) -> list[tuple[int, int]]:
    """Stretches of tone without silence."""
    tone = trace.voiced.copy()
    for first, last in runs(tone):
        usual = float(np.median(trace.level_db[first : last + 1]))
        tone[first : last + 1] &= trace.level_db[first : last + 1] > usual - _DROP_DB
    most = round(_SILENCE_S / HOP_S)
    for first, last in runs(~tone):
        if first > 0 and last + 1 < len(tone) and last - first + 1 < most:
            tone[first : last + 1] = True  # a click or a crack of a few frames is no silence
    return [(a, b) for a, b in runs(tone) if (b - a + 1) * HOP_S >= _SHORTEST_S]


def cents_track(trace: Trace, first: int, last: int) -> Floats:
    """Cents above 1 Hz with short holes bridged."""
    f0 = trace.f0_hz[first : last + 1]
    index = np.arange(len(f0))
    there = np.isfinite(f0)
    return 1200.0 * np.log2(np.interp(index, index[there], f0[there]))


def _steady(trace: Trace, first: int, last: int) -> list[_Stretch]:
    if not np.isfinite(trace.f0_hz[first : last + 1]).any():
        return []
    cents = median_filter(cents_track(trace, first, last), 3, mode="nearest")
    width = 2 * round(0.025 / HOP_S) + 1
    calm = (
        maximum_filter1d(cents, width, mode="nearest") - minimum_filter1d(cents, width, mode="nearest") < _STEADY_CENTS
    )
    found = []
    for a, b in runs(calm):
        stretch = _widened(cents, a, b)
        if (stretch.last - stretch.first + 1) * HOP_S >= _SHORTEST_S:
            found.append(_Stretch(first + a, first + b, stretch.cents))
    return found


def _widened(cents: Floats, a: int, b: int) -> _Stretch:
    """The stretch with the neighbours that still lie near its pitch: the filter's width was lost on both sides."""
    middle = float(np.median(cents[a : b + 1]))
    near = np.abs(cents - middle) < _STEADY_CENTS
    while a > 0 and near[a - 1]:
        a -= 1
    while b + 1 < len(cents) and near[b + 1]:
        b += 1
    return _Stretch(a, b, middle)


def _merged(stretches: list[_Stretch]) -> list[_Stretch]:
    out: list[_Stretch] = []
    for stretch in stretches:
        if out and abs(out[-1].cents - stretch.cents) < _SAME_NOTE_CENTS:
            before = out.pop()
            longer = max(before, stretch, key=lambda s: s.last - s.first)
            out.append(_Stretch(before.first, stretch.last, longer.cents))
        else:
            out.append(stretch)
    return out


def _note(trace: Trace, stretch: _Stretch, index: int, first: int, last: int, joined: bool, final: bool) -> HeardNote:
    part = slice(stretch.first, stretch.last + 1)
    usual = float(np.median(trace.level_db[part]))
    onset = float(trace.time_s[stretch.first]) if joined else _onset(trace, usual, first, stretch.first)
    release = _release(trace, usual, last) if final else float(trace.time_s[stretch.last])
    f0 = trace.f0_hz[part]
    return HeardNote(
        id=f"h{index + 1}",
        f0_hz=float(np.median(f0[np.isfinite(f0)])),
        start_s=float(trace.time_s[stretch.first]),
        stop_s=float(trace.time_s[stretch.last]),
        onset_s=onset,
        release_s=release,
        joined=joined,
        left_joined=not final,
    )


def _onset(trace: Trace, usual: float, first: int, steady: int) -> float:
    """Where the level first reaches 20 dB under the note's own, searched around the first frame with tone."""
    low = max(0, first - round(0.1 / HOP_S))
    loud = trace.level_db[low : steady + 1] >= usual - _ONSET_DB
    quiet = np.flatnonzero(~loud)
    at = low + (int(quiet[-1]) + 1 if len(quiet) else 0)
    return float(trace.time_s[min(at, steady)]) + _WINDOW_LEAD_S


def _release(trace: Trace, usual: float, last: int) -> float:
    """Where the level last is 20 dB under the note's own."""
    high = min(len(trace), last + 1 + round(0.1 / HOP_S))
    start = max(0, last - round(0.1 / HOP_S))
    quiet = np.flatnonzero(trace.level_db[start:high] < usual - _ONSET_DB)
    at = start + int(quiet[0]) - 1 if len(quiet) else high - 1
    return float(trace.time_s[max(0, at)])
