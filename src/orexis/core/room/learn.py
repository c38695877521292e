"""Learning the room from a sound: from how its notes die away where silence follows.

When a note stops, the direct sound goes at once, and what is left falls along a straight line in dB: the room. The line is
fitted to the mean level of third octaves (every 5 ms) from 70 ms after the note until the noise is near or
another sound comes; its slope is the room's decay, its height where the note stopped how strongly the room answers. Single notes
differ by many dB, as the room's echoes add up or cancel: the median of all is told.
"""

import numpy as np

from orexis.core.room.bands import BANDS_HZ, band_levels_db
from orexis.core.room.values import RoomAcoustics
from orexis.core.signals import median
from orexis.core.sound import Floats, Sound, finite

_HOP_S, _WINDOW_S = 0.005, 0.025
_NOTE_S, _STEADY_S, _STEADY_DB = 0.25, 0.15, 6.0  # what comes before is a note: this long, this even at its end
_LEFT_DB, _QUIET_S = 4.0, 0.18  # it has stopped: so far under its own level for so long
_DIRECT_S, _LONGEST_S = 0.07, 1.0  # the player's own release is over; further on there is nothing to learn
_OVER_NOTE_DB, _OVER_NOISE_DB, _AGAIN_DB = 20.0, 8.0, 8.0
_RISES_DB = 12.0  # of a band over what it held: a softer note has followed, and no silence
_SPARSE = 6  # every sixth frame is enough for a percentile
_MOST_BANDS = 0.75  # of the bands that sounded stand over the noise
_LEAST_S, _LEAST_DB = 0.06, 8.0  # less of a line than this tells nothing
_DRY_DB_S, _ENDLESS_DB_S = 330.0, 15.0  # a faster fall is the player's own; a slower one is a sound that stays
_LATE_DB = (-6.0, -3.5)  # as the room answers a long tone; single notes tell it badly


def room_of(sound: Sound) -> RoomAcoustics | None:
    """The room that a sound was made in; None where nothing rings or nothing can be learned."""
    level = _level(sound)
    stops = _stops(level)
    if not stops:
        return None
    bands = _about(sound, stops, len(level))
    falls = [fall for at in stops if (fall := _fall(bands, at)) is not None]
    if not falls:
        return None
    slope = median([fall for fall, _ in falls])
    late = float(np.clip(median([height for _, height in falls]), *_LATE_DB))
    return RoomAcoustics(round(slope, 1), round(late, 1))


def decay_after(sound: Sound, moments_s: tuple[float, ...]) -> float | None:
    """The room's decay in dB per second, from short knocks that are loudest at these moments; None where it does not ring."""
    bands = band_levels_db(sound)
    falls = [fall for at in moments_s if (fall := _fall(bands, round(at / _HOP_S), own=3)) is not None]
    return round(median([slope for slope, _ in falls]), 1) if len(falls) > len(moments_s) // 2 else None


def _about(sound: Sound, stops: list[int], count: int) -> Floats:
    """The bands about the stops, and a frame in every 30 ms of the rest, which is enough to know the noise by."""
    wanted = np.zeros(count, bool)
    wanted[::_SPARSE] = True
    for at in stops:
        wanted[max(0, at - round(_STEADY_S / _HOP_S)) : at + round(_LONGEST_S / _HOP_S)] = True
    frames = np.flatnonzero(wanted)
    bands = np.full((count, len(BANDS_HZ)), np.nan)
    bands[frames] = band_levels_db(sound, frames)
    return bands


def _level(sound: Sound) -> Floats:
    samples = finite(sound.samples).astype(np.float64)
    width = round(_WINDOW_S * sound.rate)
    total = np.concatenate(([0.0], np.cumsum(samples**2)))
    at = np.rint(np.arange(int(sound.duration_s / _HOP_S)) * _HOP_S * sound.rate).astype(int)
    low, high = np.maximum(0, at - width // 2), np.minimum(len(samples), at + width // 2)
    return np.asarray(10.0 * np.log10(np.maximum((total[high] - total[low]) / np.maximum(1, high - low), 1e-12)))


def _stops(level: Floats) -> list[int]:
    """Frames in which a note has just stopped and silence follows."""
    note, steady, quiet = (round(x / _HOP_S) for x in (_NOTE_S, _STEADY_S, _QUIET_S))
    if len(level) < note + quiet:
        return []
    floor = float(np.percentile(level, 5))
    views = np.lib.stride_tricks.sliding_window_view
    own = np.median(views(level, note), axis=1)[: len(level) - note - quiet]  # of what lies before frame note + k
    even = np.ptp(views(level, steady), axis=1)[note - steady :][: len(own)]
    after = views(level, quiet).max(axis=1)[note + 1 :][: len(own)]
    here = level[note:][: len(own)]
    stops = (here >= own - _LEFT_DB) & (after < own - _LEFT_DB) & (own > floor + _OVER_NOTE_DB) & (even < _STEADY_DB)
    places: list[int] = []
    for at in np.flatnonzero(stops) + note:
        if not places or at - places[-1] > quiet:
            places.append(int(at))
    return places


def _fall(bands: Floats, at: int, own: int = round(_STEADY_S / _HOP_S)) -> tuple[float, float] | None:
    """Slope in dB per second and height in dB against what sounded until frame `at`, as the mean of the bands.

    Echoes of one harmonic rise and fall by many dB on their way down; those of many bands together hardly do.
    """
    before = np.median(bands[max(0, at - own) : at], axis=0) if at else bands[0]
    floor = np.percentile(bands[::_SPARSE], 5, axis=0)
    used = (before > floor + _OVER_NOTE_DB) & (before > before.max() - _OVER_NOTE_DB)
    if not used.any():
        return None
    after = bands[at : at + round(_LONGEST_S / _HOP_S)]
    tail = after[:, used]
    heard = (tail > floor[used] + _OVER_NOISE_DB).mean(axis=1)
    fallen = (tail - before[used]).mean(axis=1)
    rises = (after > before + _RISES_DB) & (after > before.max() - _OVER_NOTE_DB)
    ends = [
        np.flatnonzero(rises.any(axis=1)),
        np.flatnonzero(fallen > np.minimum.accumulate(fallen) + _AGAIN_DB),
        np.flatnonzero(heard < _MOST_BANDS),
    ]
    stop = min((int(end[0]) for end in ends if len(end)), default=len(fallen))
    start = round(_DIRECT_S / _HOP_S)
    if (stop - start) * _HOP_S < _LEAST_S:
        return None
    slope, height = np.polyfit(np.arange(start, stop) * _HOP_S, fallen[start:stop], 1)
    if -slope * (stop - start) * _HOP_S < _LEAST_DB or not _ENDLESS_DB_S < -slope < _DRY_DB_S:
        return None
    return float(-slope), float(height)
