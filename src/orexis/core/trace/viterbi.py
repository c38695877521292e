"""Inner loops along the path, compiled by numba. Shapes: n frames, c candidates (PER_WINDOW for each window).

Written value by value: what numpy does with whole arrays in a word takes numba seconds to compile, each time.
"""

import math
from typing import NamedTuple

import numpy as np

from orexis.core.compiled import Loop
from orexis.core.sound import Floats
from orexis.core.trace.config import (
    BLUR_AND_MORE,
    BLURS_FROM_HZ,
    DRONE,
    DRONE_DB,
    FADING,
    FADING_DB,
    FAR_DB,
    FIRST_FRAMES,
    FLOOR_DB,
    FLOOR_FRAMES,
    GATE_DB,
    GOES_ON,
    JUMP,
    JUMP_MOST,
    KNOCK,
    KNOCK_DB,
    KNOCKS_FROM_HZ,
    LEEWAY,
    LEEWAY_NOISE,
    LENGTHS_S,
    LOOKAHEAD,
    NEAR,
    OCTAVE_COST,
    PAUSE,
    PER_WINDOW,
    PIVOT,
    SILENCE_DB,
    SMOOTH,
    SMOOTH_WITHIN,
    STRAYS,
    SWITCH,
    UNVOICED,
)

Integers = np.ndarray[tuple[int, ...], np.dtype[np.int64]]


@Loop
def worth(height, octave, cost):
    """What a peak is worth on the path; 0 for no peak."""
    if height <= 0.0:
        return 0.0
    return height - cost + OCTAVE_COST * (octave - PIVOT)


@Loop
def share_costs(f0, height, cost):
    """A low candidate of a window too short to see holes takes the cost that a longer window found for it."""
    count = f0.shape[1]
    for i in range(len(f0)):
        for c in range(count - PER_WINDOW):
            if height[i, c] <= 0.0:
                continue
            first_longer = (c // PER_WINDOW + 1) * PER_WINDOW
            for other in range(first_longer, count):
                near = height[i, other] > 0.0 and abs(f0[i, other] / f0[i, c] - 1.0) < NEAR
                if near and cost[i, other] > cost[i, c] + BLUR_AND_MORE:
                    cost[i, c] = cost[i, other]


@Loop
def fused(f0, height, choice):
    """The pitch of one frame from all windows that agree about it.

    Begins with the shortest window that knows this pitch; a longer one, which is surer, takes over while it agrees
    within what the shorter can be off by itself. Where they disagree the pitch is moving, and the shorter is right.
    """
    chosen, result, periods, clean = f0[choice], 0.0, 0.0, 1.0
    for window in range(len(f0) // PER_WINDOW):
        best, off = -1, NEAR
        for c in range(window * PER_WINDOW, (window + 1) * PER_WINDOW):
            away = abs(f0[c] / chosen - 1.0)
            if height[c] > 0.5 * height[choice] and away < off:
                best, off = c, away
        if best < 0:
            continue
        if result > 0.0:
            leeway = (LEEWAY + LEEWAY_NOISE * math.sqrt(max(0.0, 1.0 - clean))) / max(periods, 1.0)
            if abs(f0[best] / result - 1.0) > leeway or f0[best] > BLURS_FROM_HZ[window]:
                continue
        result, periods, clean = f0[best], f0[best] * LENGTHS_S[window], height[best]
    return result if result > 0.0 else chosen


@Loop
def no_start(loudest, about, mean_level, path):
    """PAUSE, KNOCK or FADING when nothing can begin to sound in this frame, else 0; what sounds already may go on.

    Either it stands beside a knock, when the `loudest` of the last and next frames is far above the mean of more of
    them, or the sound `about` it is little louder than what goes on in every pause while there is playing far above
    it: a drone from the loudspeaker, a hum. `floor` holds lowest and highest mean level of the last blocks of frames,
    `counts[2]` the frames in the newest, `counts[3]` those seen at all.
    """
    floor, counts = path.floor, path.counts
    if counts[2] >= FLOOR_FRAMES:
        for k in range(floor.shape[1] - 1, 0, -1):
            floor[0, k], floor[1, k] = floor[0, k - 1], floor[1, k - 1]
        floor[0, 0], floor[1, 0] = 0.0, SILENCE_DB
        counts[2] = 0
    counts[2] += 1
    counts[3] = min(counts[3] + 1, 1_000_000)
    if counts[3] <= FIRST_FRAMES:  # the means still hold what was before the sound
        return 0
    floor[0, 0], floor[1, 0] = min(floor[0, 0], mean_level), max(floor[1, 0], mean_level)
    lowest, highest = floor[0, 0], floor[1, 0]
    for k in range(1, floor.shape[1]):
        lowest, highest = min(lowest, floor[0, k]), max(highest, floor[1, k])
    if about < min(lowest, highest - FAR_DB) + FLOOR_DB:
        return PAUSE
    if loudest - mean_level > KNOCK_DB:
        return KNOCK
    return FADING if about < mean_level - FADING_DB else 0


class Frames(NamedTuple):
    """What the path is led along: candidates of shape (n, c), levels of shape (n,)."""

    f0: Floats
    height: Floats
    cost: Floats
    level: Floats  # in the shortest window
    loudest: Floats  # of the frames as far as a knock reaches
    about: Floats  # the loudest neighbour
    mean_level: Floats


class PathState(NamedTuple):
    """Where the path stands between two calls.

    `total` (c + 1) and `octaves` (c) are the last frame's; the rings hold LOOKAHEAD + 1 frames. `counts`: frames in the
    rings, place of the oldest, frames in the newest block of `floor`, frames seen. `floor` holds the lowest and highest mean
    level of the last blocks; `last` the pitch of the tone that goes on, as it was while loud, and the lowest level so far.
    """

    total: Floats
    octaves: Floats
    ring_f0: Floats
    ring_height: Floats
    ring_back: Integers
    ring_quiet: Integers
    counts: Integers
    floor: Floats
    last: Floats


@Loop
def viterbi_step(frames, path, drone_hz, out_f0, out_height):
    """Run the path over n frames: a Viterbi search whose frame k is decided by the best state of frame k + LOOKAHEAD.

    Gives how many frames were decided.
    """
    f0, height, cost, level = frames.f0, frames.height, frames.cost, frames.level
    total, octaves, counts, last = path.total, path.octaves, path.counts, path.last
    share_costs(f0, height, cost)
    count, decided = f0.shape[1], 0
    gain = np.zeros(count + 1)
    now = np.zeros(count)
    fresh = np.zeros(count + 1)
    slots = LOOKAHEAD + 1
    for i in range(len(f0)):
        for c in range(count):
            now[c] = math.log2(f0[i, c])
            gain[c] = worth(height[i, c], now[c], cost[i, c]) if level[i] > GATE_DB else 0.0
        gain[count] = UNVOICED
        place = (counts[1] + counts[0]) % slots
        path.ring_quiet[place] = no_start(frames.loudest[i], frames.about[i], frames.mean_level[i], path)
        if drone_hz > 0.0:
            # It sounds from first to last, so the softest moment of all is the drone alone.
            last[1] = min(last[1], frames.mean_level[i] if counts[3] > FIRST_FRAMES else 0.0)
            if frames.about[i] < last[1] + DRONE_DB:
                path.ring_quiet[place] = DRONE
        highest = -1e9
        for to in range(count + 1):
            best, back = -1e9, 0
            for source in range(count + 1):
                if source < count and to < count:
                    jump = min(JUMP * abs(octaves[source] - now[to]), JUMP_MOST)
                elif source == to:
                    jump = 0.0
                else:
                    jump = SWITCH
                value = total[source] - jump
                if value > best:
                    best, back = value, source
            fresh[to] = best + gain[to]
            path.ring_back[place, to] = back
            highest = max(highest, fresh[to])
        for c in range(count):
            octaves[c] = now[c]
            path.ring_f0[place, c], path.ring_height[place, c] = f0[i, c], height[i, c]
        for c in range(count + 1):
            total[c] = fresh[c] - highest  # kept near 0 however long the sound is
        counts[0] += 1
        if counts[0] == slots:
            out_f0[decided], out_height[decided] = decide(path)
            decided += 1
    return decided


@Loop
def decide(path):
    """The oldest frame in the rings, decided by the best state of the newest; it leaves the rings."""
    ring_f0, ring_height, counts, last = path.ring_f0, path.ring_height, path.counts, path.last
    count, slots = ring_f0.shape[1], LOOKAHEAD + 1
    choice, best = 0, path.total[0]
    for c in range(1, count + 1):
        if path.total[c] > best:
            choice, best = c, path.total[c]
    for ahead in range(counts[0] - 1, 0, -1):
        choice = path.ring_back[(counts[1] + ahead) % slots, choice]
    oldest = counts[1]
    counts[0] -= 1
    counts[1] = (counts[1] + 1) % slots
    f0 = math.nan
    if choice < count and ring_height[oldest, choice] > 0.0:
        f0 = fused(ring_f0[oldest], ring_height[oldest], choice)
        why = path.ring_quiet[oldest]
        # What goes on is held against the pitch it had while it was loud: it may not drift away step by step.
        away = abs(f0 / last[0] - 1.0)
        knocked = why == KNOCK and f0 > KNOCKS_FROM_HZ
        if why == DRONE or ((why == PAUSE or knocked) and not away < GOES_ON) or (why == FADING and not away < STRAYS):
            f0 = math.nan
        elif why == 0 or (why == KNOCK and not knocked):
            last[0] = f0
    if not math.isnan(f0):
        return f0, ring_height[oldest, choice]
    last[0] = math.nan
    highest = ring_height[oldest, 0]
    for c in range(1, count):
        highest = max(highest, ring_height[oldest, c])
    return f0, highest


@Loop
def smoothed(f0, out):
    """A triangle over SMOOTH frames to either side, of those within 15 cents of the frame; `out` is that much shorter at both ends."""
    for i in range(len(out)):
        centre = f0[i + SMOOTH]
        total, weight = 0.0, 0.0
        for k in range(-SMOOTH, SMOOTH + 1):
            off = f0[i + SMOOTH + k] / centre - 1.0
            if abs(off) < SMOOTH_WITHIN:
                share = SMOOTH + 1.0 - abs(k)
                total += share * off
                weight += share
        out[i] = centre * (1.0 + total / weight) if weight > 0.0 else centre


@Loop
def guess(f0, height, cost, level, before_hz, out_f0, out_height):
    """Quick guesses for frames whose long window is not complete: the best peak, near the last pitch when equal."""
    for i in range(len(f0)):
        best, value = -1, -1e9
        for c in range(f0.shape[1]):
            octave = math.log2(f0[i, c])
            lean = 0.0
            if not math.isnan(before_hz):
                lean = min(JUMP * abs(octave - math.log2(before_hz)), JUMP_MOST)
            here = worth(height[i, c], octave, cost[i, c]) - lean
            if here > value:
                best, value = c, here
        out_f0[i], out_height[i] = math.nan, height[i, best]
        if level[i] > GATE_DB and height[i, best] >= UNVOICED:
            out_f0[i] = before_hz = f0[i, best]
