"""Silence and dips inside a slur.

In a dry room the level falls away at once, and the hole is read off the level. Where the room rings, the sound is read without
its tail (core/room) and band by band: what counts is how far most bands lie under the straight line between the two notes. Echoes
lift one harmonic and weaken the next, and the old note's tail is taken from some bands of the new one: the median evens that
out; what is left hides a push that is no deeper, the more the longer the room rings. A hole has steep sides, or is deeper than any push.
"""

from dataclasses import dataclass

import numpy as np

from orexis.core.notes import HeardNote, runs
from orexis.core.signals import median
from orexis.core.sound import Floats
from orexis.core.trace import HOP_S, Trace

HOLE_DB = 12.0  # without tone in a dry room: so far under the softer neighbour
# How much a Hann window of 25 ms shortens a hole seen at -12 dB, both sides together.
_WIDENING_S = 0.010
# In a room: what is looked at on either side, where a hole begins and ends, and what of its depth counts.
_BEFORE_S, _AFTER_S, _USUAL_S, _LEAVING_S = 0.18, 0.12, 0.2, 0.04
_EDGE_DB, _STEEP, _STEEP_S = 6.0, 0.5, 0.055  # a hole is still so wide at this share of its depth
_NO_PUSH_DB = 29.0  # whatever its sides
_MOST_DB = 30.0  # a single empty bin says nothing more
# In the sound as it came: a dip so deep shows its width; no push is so wide at half its depth. And so deep without the echoes.
_SEEN_DB, _PUSH_S, _LEAST_DB = 6.0, 0.062, 15.0
_WITH_THE_WHOLE_DB, _EVEN = 4.0, 5  # how much more is asked of both together; frames over which the level is evened out
_HEARD_DB, _LEAST_BANDS = 25.0, 3
_OWN_DB = 15.0  # where two notes share too few bands: those in which each is strong
_LOOK_S = (0.15, 0.025)  # where a dip belongs to the move, before and after the new note begins
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


def dip_in_a_room(
    bands_db: Floats, before: HeardNote, after: HeardNote, echoes_db: float, heard_db: Floats | None = None
) -> Dip:
    """The deepest dip between two notes; `bands_db` are the levels of the bands every 5 ms, without the room's tail.

    `heard_db`: the same with it. What is wide there at half its depth was silent, however much of it echoes fill.

    `echoes_db`: dips that echoes alone bring about in this room, at most. A dip counts by its depth in the bands and by how far
    all of them together fall under the softer of the two notes: echoes that weaken some bands leave others.
    """
    under, first = _under(bands_db, before, after)
    if under is None:
        return Dip(None, None, None)
    most, mean = _smooth(np.median(under, axis=1)), _smooth(np.minimum(under, _MOST_DB).mean(axis=1))
    begins = round(after.onset_s / HOP_S) - first
    low, high = max(0, begins - round(_LOOK_S[0] / HOP_S)), begins + round(_LOOK_S[1] / HOP_S) + 1
    if not len(most[low:high]):
        return Dip(None, None, None)
    deepest = low + int(np.argmax(most[low:high]))
    depth = float(min(most[deepest], _MOST_DB))
    if depth + _under_softer_db(bands_db, before, after, first) < echoes_db + _WITH_THE_WHOLE_DB:
        return Dip(None, None, None, none=True)
    a, b = _stretch(mean, deepest, _EDGE_DB)
    c, d = _stretch(most, deepest, max(_EDGE_DB, _STEEP * depth))
    wide = heard_db is not None and depth >= _LEAST_DB and _is_wide(heard_db, before, after, (low, high))
    if not wide and (depth < echoes_db or ((d - c) * HOP_S < _STEEP_S and depth < _NO_PUSH_DB)):
        return Dip(0.0, None, round(depth, 1))
    return Dip(1000.0 * (b - a) * HOP_S, round((first + a) * HOP_S, 4), round(depth, 1))


def _is_wide(heard_db: Floats, before: HeardNote, after: HeardNote, look: tuple[int, int]) -> bool:
    """Whether the dip in the sound as it came stays at half its depth for longer than a push."""
    under, _ = _under(heard_db, before, after)
    if under is None:
        return False
    most = _smooth(np.median(under, axis=1))
    deepest = look[0] + int(np.argmax(most[look[0] : look[1]]))
    if most[deepest] < _SEEN_DB:
        return False
    a, b = _stretch(most, deepest, _STEEP * float(most[deepest]))
    return (b - a) * HOP_S > _PUSH_S


def _under_softer_db(bands_db: Floats, before: HeardNote, after: HeardNote, first: int) -> float:
    """How far the level falls near the move under that of the softer of the two notes about it, dB."""
    power = np.convolve((10.0 ** (bands_db / 10.0)).sum(axis=1), np.full(_EVEN, 1.0 / _EVEN), "same")
    level = 10.0 * np.log10(np.maximum(power, 1e-12))
    middle, usual = round(after.onset_s / HOP_S), round(_USUAL_S / HOP_S)
    half_old, half_new = (round(0.5 * (note.release_s - note.onset_s) / HOP_S) for note in (before, after))
    last = min(len(level) - 1, middle + min(round(_AFTER_S / HOP_S), half_new))
    near = level[max(first, middle - round(_LOOK_S[0] / HOP_S)) : middle + round(_LOOK_S[1] / HOP_S) + 1]
    old = median(level[max(0, first - min(usual, half_old)) : first + 1])
    new = median(level[last : last + max(2, min(usual, half_new))])
    return float(min(old, new) - near.min()) if len(near) else 0.0


def _smooth(depth: Floats) -> Floats:
    return np.convolve(depth, np.ones(3) / 3.0, "same")


def _stretch(depth: Floats, about: int, edge_db: float) -> tuple[int, int]:
    """First frame and the one after the last of the stretch about a frame that lies deeper than this."""
    return next(((a, b + 1) for a, b in runs(depth > edge_db) if a <= about <= b), (about, about + 1))


def _under(bands_db: Floats, before: HeardNote, after: HeardNote) -> tuple[Floats | None, int]:
    """How far each band lies under the line from the old note to the new one, dB, (frames, bands), and the first frame."""
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
        return _fading_over(bands_db[first : last + 1], old, new), first
    share = np.linspace(0.0, 1.0, last - first + 1)[:, None]
    return (old + share * (new - old) - bands_db[first : last + 1])[:, heard], first


def _fading_over(levels_db: Floats, old: Floats, new: Floats) -> Floats:
    """Two notes without enough bands in common: how far what sounds lies under whichever of the two is nearer; (frames, 1)."""
    own = [(note, note > note.max() - _OWN_DB) for note in (old, new)]
    under = [np.median((note - levels_db)[:, strong], axis=1) for note, strong in own]
    return np.minimum(*under)[:, None]
