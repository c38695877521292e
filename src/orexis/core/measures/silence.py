"""Silence and dips inside a slur.

In a dry room the level falls away at once, and the hole is read off the level. Where the room rings, the sound is read without
its tail (core/room) and band by band: a hole is the time in which the mean of the bands lies well under the straight line
between the two notes. Echoes lift one harmonic and weaken the next, which the mean evens out; what is left of them
hides a push that is not much deeper.
"""

from dataclasses import dataclass

import numpy as np

from orexis.core.notes import HeardNote, runs
from orexis.core.sound import Floats
from orexis.core.trace import HOP_S, Trace

HOLE_DB = 12.0  # without tone in a dry room: so far under the softer neighbour
# How much a Hann window of 25 ms shortens a hole seen at -12 dB, both sides together.
_WIDENING_S = 0.010
# In a room: what is looked at on either side, where a hole begins and ends, and what of its depth counts.
_BEFORE_S, _AFTER_S, _USUAL_S, _LEAVING_S = 0.18, 0.12, 0.2, 0.04
_EDGE_DB, _MOST_DB = 6.0, 30.0
_HEARD_DB, _LEAST_BANDS = 25.0, 3
_ECHOES_DB = 15.0  # dips that echoes alone bring about, at most
ECHOES = "the room's echoes move the level by as much"


@dataclass(frozen=True, slots=True)
class Dip:
    """Silence in ms with its start, and the depth of what is no silence; None with a reason where the room hides it."""

    gap_ms: float | None
    gap_start_s: float | None
    bump_db: float | None
    none: bool = False  # no silence that the room would let through


def dry_hole(trace: Trace, first: int, last: int, softer_db: float) -> tuple[float, float | None]:
    """Length in ms of the longest stretch 12 dB and more under the softer note, and its start."""
    holes = runs(trace.level_db[first : last + 1] < softer_db - HOLE_DB)
    if not holes:
        return 0.0, None
    a, b = max(holes, key=lambda run: run[1] - run[0])
    start = float(trace.time_s[first + a]) - _WIDENING_S / 2
    return 1000.0 * ((b - a + 1) * HOP_S + _WIDENING_S), round(start, 4)


def dip_in_a_room(bands_db: Floats, before: HeardNote, after: HeardNote) -> Dip:
    """The deepest dip between two notes; `bands_db` are the levels of the bands every 5 ms, without the room's tail."""
    depth, first = _depths(bands_db, before, after)
    if depth is None:
        return Dip(None, None, None)
    deepest = int(np.argmax(depth))
    if depth[deepest] < _ECHOES_DB:
        return Dip(None, None, None, none=True)
    a, b = next(run for run in runs(depth > _EDGE_DB) if run[0] <= deepest <= run[1])
    return Dip(1000.0 * (b - a + 1) * HOP_S, round((first + a) * HOP_S, 4), round(float(depth[deepest]), 1))


def _depths(bands_db: Floats, before: HeardNote, after: HeardNote) -> tuple[Floats | None, int]:
    """How far the mean of the bands lies under the line from the old note to the new one, and its first frame."""
    middle, usual = round(after.onset_s / HOP_S), round(_USUAL_S / HOP_S)
    half_old = round(0.5 * (before.release_s - before.onset_s) / HOP_S)
    half_new = round(0.5 * (after.release_s - after.onset_s) / HOP_S)
    left = min(middle - min(round(_BEFORE_S / HOP_S), half_old), round((before.release_s - _LEAVING_S) / HOP_S))
    first = max(1, left)
    last = min(len(bands_db) - 2, middle + min(round(_AFTER_S / HOP_S), half_new))
    if last - first < 4:
        return None, first
    old = np.median(bands_db[max(0, first - min(usual, half_old)) : first], axis=0)
    new = np.median(bands_db[last : last + max(2, min(usual, half_new))], axis=0)
    heard = np.minimum(old, new) > max(old.max(), new.max()) - _HEARD_DB
    if heard.sum() < _LEAST_BANDS:
        return None, first
    share = np.linspace(0.0, 1.0, last - first + 1)[:, None]
    under = np.minimum((old + share * (new - old) - bands_db[first : last + 1])[:, heard], _MOST_DB)
    return np.convolve(under.mean(axis=1), np.ones(3) / 3.0, "same"), first
