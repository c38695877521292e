"""Inner loops over windows, compiled by numba: the same arithmetic for every frame, alone or in a batch.

Shapes: n frames, f frequency bins. What a window finds in n frames is an array of shape (n, ROW): the columns from F0,
HEIGHT and COST on hold PER_WINDOW candidates each, LEVEL and BRIGHTNESS the frame's own. "No candidate" has height 0 and
f0 1.0. Compiled code is kept beside the source, or in the user's cache where that cannot be written.
"""

import math
from typing import NamedTuple

import numpy as np

from orexis.core.compiled import Loop
from orexis.core.trace.config import (
    ABOUT,
    HARMONICS,
    HOLES_COST,
    HOLES_FROM,
    HOLES_FULL,
    KNOCK_AFTER,
    KNOCK_BEFORE,
    MEAN_AFTER,
    MEAN_BEFORE,
    OCTAVE_COST,
    OVER,
    PER_WINDOW,
    PRESENT,
    RESOLVED,
    SILENCE_DB,
    WEAKEST,
)

F0, HEIGHT, COST = 0, PER_WINDOW, 2 * PER_WINDOW  # first columns of a row
LEVEL, BRIGHTNESS, ROW = 3 * PER_WINDOW, 3 * PER_WINDOW + 1, 3 * PER_WINDOW + 2


@Loop
def framed(buffer, starts, weight, out):
    """Frames of the buffer from `starts`, each less its mean and weighted."""
    width = len(weight)
    for i in range(len(starts)):
        part, line = buffer[starts[i] : starts[i] + width], out[i]
        total = 0.0
        for k in range(len(part)):
            total += part[k]
        mean = np.float32(total / width)
        for k in range(len(part)):
            line[k] = (part[k] - mean) * weight[k]


@Loop
def powered(spectrum, power, padded):
    """The power of a spectrum, and the same as the real part of a longer one: its transform gives the interpolated lags."""
    for i in range(spectrum.shape[0]):
        values, out, longer = spectrum[i], power[i], padded[i]
        for k in range(len(values)):
            out[k] = values[k].real * values[k].real + values[k].imag * values[k].imag
        for k in range(len(out)):
            longer[k] = out[k]


@Loop
def surroundings(level, loudest, about, mean_level):
    """Of the levels about each frame: the loudest as far as a knock reaches, the loudest neighbour, the mean power.

    `level` begins MEAN_BEFORE frames earlier than the results and ends MEAN_AFTER later.
    """
    for i in range(len(loudest)):
        at = i + MEAN_BEFORE
        loudest[i] = about[i] = level[at]
        for k in range(at - KNOCK_BEFORE, at + KNOCK_AFTER + 1):
            loudest[i] = max(loudest[i], level[k])
        for k in range(at - ABOUT, at + ABOUT + 1):
            about[i] = max(about[i], level[k])
        total = 0.0
        for k in range(at - MEAN_BEFORE, at + MEAN_AFTER + 1):
            total += 10.0 ** (level[k] / 10.0)
        mean_level[i] = 10.0 * math.log10(total / (MEAN_BEFORE + MEAN_AFTER + 1))


@Loop
def top_of(curve, norm, at):
    """Top of the parabola through three neighbours: place and height."""
    left, mid, right = curve[at - 1] * norm[at - 1], curve[at] * norm[at], curve[at + 1] * norm[at + 1]
    bend = left - 2.0 * mid + right
    shift = 0.0
    if bend < -1e-12 * abs(mid):
        shift = min(1.0, max(-1.0, 0.5 * (left - right) / bend))
    return at + shift, mid - 0.25 * (left - right) * shift


@Loop
def crests(power, out):
    """The power where it has a peak, nothing where it is the slope of a neighbour."""
    last = len(power) - 1
    left, middle, right, inner = power[: last - 1], power[1:last], power[2:], out[1:last]
    for k in range(len(inner)):
        inner[k] = middle[k] if (middle[k] >= left[k]) & (middle[k] >= right[k]) else np.float32(0.0)
    out[0], out[last] = 0.0, power[last] if power[last] >= power[last - 1] else 0.0


@Loop
def holes(crest, bin_hz, f0_hz, resolution_hz):
    """Share of harmonics that are missing below the highest one present; 0 where the window cannot tell them apart.

    The common subharmonic of two notes that sound at once repeats as well as a note does, but most of its harmonics
    are not there. A lone octave-down error has every second one missing.
    """
    if f0_hz < RESOLVED * resolution_hz:
        return 0.0
    size = len(crest)
    top = min(HARMONICS, int(((size - 2) * bin_hz) / f0_hz - 0.5))
    if top < 4:
        return 0.0
    strength = np.zeros(top + 1)
    strongest = 0.0
    for h in range(1, top + 1):
        low = int((h * f0_hz - 0.25 * f0_hz) / bin_hz) + 1
        high = min(size - 1, int((h * f0_hz + 0.25 * f0_hz) / bin_hz))
        peak = np.float32(0.0)
        for value in crest[low : high + 1]:
            peak = max(peak, value)
        strength[h] = peak
        strongest = max(strongest, peak)
    highest = 0
    for h in range(1, top + 1):
        if strength[h] > PRESENT * strongest:
            highest = h
    if highest < 4:
        return 0.0
    missing = 0
    for h in range(2, highest + 1):
        if strength[h] < PRESENT * strongest:
            missing += 1
    return missing / (highest - 1)


class Looking(NamedTuple):
    """What a window looks for: its lags, its range of pitch, and what its peaks cost."""

    rate: float
    bin_hz: float
    first: int  # lag
    last: int
    low_hz: float
    high_hz: float
    handicap: float
    sharp_to_hz: float
    blur: float
    resolution_hz: float
    energy: float  # of the window's weight


@Loop
def peaks_of(row, norm, energy, even, tops):
    """The normalised curve, and where it has a peak that is not weak: without branches, so many lags at once."""
    for k in range(len(even)):
        even[k] = row[k] * norm[k]
    left, middle, right = even[:-2], even[1:-1], even[2:]
    weakest = WEAKEST * energy
    for k in range(len(tops)):
        tops[k] = (middle[k] > weakest) & (middle[k] > left[k]) & (middle[k] >= right[k])


@Loop
def candidates(curve, norm, power, looking, rows):
    """The best peaks of each frame's normalised autocorrelation, refined; level and centre of gravity beside them."""
    lags = np.zeros(PER_WINDOW, np.int64)
    scores = np.zeros(PER_WINDOW)
    tops = np.zeros(looking.last - looking.first, np.bool_)
    even = np.zeros(len(tops) + 2, np.float32)
    crest = np.zeros(power.shape[1], np.float32)
    for i in range(len(curve)):
        row, spectrum = curve[i], power[i]
        total, weighted = 0.0, 0.0
        for k in range(len(spectrum)):
            total += spectrum[k]
            weighted += spectrum[k] * k
        rows[i, BRIGHTNESS] = weighted * looking.bin_hz / max(total, 1e-20)
        energy = max(row[0] * norm[0], 1e-20)
        rows[i, LEVEL] = 10.0 * math.log10(max(energy * OVER / looking.energy, 10.0 ** (SILENCE_DB / 10.0)))
        crests(spectrum, crest)
        for k in range(PER_WINDOW):
            scores[k] = -9.0
        peaks_of(
            row[looking.first - 1 : looking.last + 1], norm[looking.first - 1 : looking.last + 1], energy, even, tops
        )
        for at in range(len(tops)):
            if tops[at]:
                lag = looking.first + at
                score = even[at + 1] / energy - OCTAVE_COST * math.log2(lag / (OVER * looking.rate / 2050.0))
                worst = 0
                for k in range(1, PER_WINDOW):
                    if scores[k] < scores[worst]:
                        worst = k
                if score > scores[worst]:
                    scores[worst], lags[worst] = score, lag
        for k in range(PER_WINDOW):
            rows[i, F0 + k], rows[i, HEIGHT + k], rows[i, COST + k] = 1.0, 0.0, 0.0
            if scores[k] < -5.0:
                continue
            lag_at, height = top_of(row, norm, lags[k])
            lag_at = refined(row, norm, lag_at, looking.last, energy)
            f0 = OVER * looking.rate / lag_at
            if f0 < looking.low_hz or f0 > looking.high_hz:
                continue
            cost = looking.handicap + (looking.blur if f0 > looking.sharp_to_hz else 0.0)
            missing = holes(crest, looking.bin_hz, f0, looking.resolution_hz)
            cost += HOLES_COST * min(1.0, max(0.0, (missing - HOLES_FROM) / (HOLES_FULL - HOLES_FROM)))
            rows[i, F0 + k], rows[i, HEIGHT + k], rows[i, COST + k] = f0, min(1.0, max(0.0, height / energy)), cost


@Loop
def refined(row, norm, lag, last, energy):
    """The lag measured again at its largest multiple in reach, where an error weighs least."""
    times = max(1, int((last - 2) / lag))
    far = round(times * lag)
    best = far
    for beside in (far - 1, far + 1):
        if row[beside] * norm[beside] > row[best] * norm[best]:
            best = beside
    best = min(last - 1, max(1, best))
    precise, height = top_of(row, norm, best)
    if abs(precise - times * lag) < 0.2 * lag and height > WEAKEST * energy:
        return precise / times
    return lag
