"""From candidates to one path: a Viterbi search with a short, fixed look-ahead.

Each frame's states are its candidates and "no tone". Staying near costs nothing, jumping costs by the octave, so a
single frame's octave slip is outvoted while a real slur, which lasts, is not. Frame k is decided by the best state
of frame k + LOOKAHEAD, whatever the blocks the sound came in: live and file give the same numbers. The pitch is then
smoothed over two frames to either side where they agree.
"""

import math
from typing import NamedTuple

import numpy as np

from orexis.core.compiled import Loop
from orexis.core.sound import Floats
from orexis.core.trace.config import (
    FLOOR_BLOCKS,
    LOOKAHEAD,
    MEAN_AFTER,
    MEAN_BEFORE,
    PER_WINDOW,
    SILENCE_DB,
    SMOOTH,
)
from orexis.core.trace.peaks import BRIGHTNESS, COST, F0, HEIGHT, LEVEL, surroundings
from orexis.core.trace.values import HOP_S
from orexis.core.trace.viterbi import Frames, PathState, decide, guess, smoothed, viterbi_step

_MOST_TONE_DB = 50.0  # more is not told apart from pure


class Reached(NamedTuple):
    """What the path needs of the frames behind it, between two calls.

    `entered` (n, 2): level and brightness of frames not yet given; `passed` (MEAN_BEFORE,): levels of the last frames decided upon; `held`
    (n, 2): f0 and height of decided frames whose neighbours are not; `given`: frames given so far.
    """

    entered: Floats
    passed: Floats
    held: Floats
    given: int


@Loop
def columns(f0, height, level, first):
    """The columns of a trace from frame `first` on; `level` of shape (n, 2) holds level and brightness."""
    count = len(f0)
    time_s, confidence, tone = np.empty(count), np.empty(count), np.empty(count)
    loudness, brightness = np.empty(count), np.empty(count)
    for i in range(count):
        loudness[i], brightness[i] = level[i, 0], level[i, 1]
        time_s[i] = (first + i) * HOP_S
        confidence[i] = min(max(height[i], 0.0), 0.99999)
        tone[i] = min(10.0 * math.log10(max(confidence[i], 1e-5) / (1.0 - confidence[i])), _MOST_TONE_DB)
    return time_s, f0, confidence, loudness, tone, brightness


@Loop
def led(rows, path, drone_hz, reached):
    """Run the path over the frames that all windows have reached; how many, the trace's columns, and the new Reached.

    `rows`: one array of rows for each window, the shortest first; its line is always MEAN_AFTER frames ahead and more.
    """
    short = rows[0]
    ready = min(min(len(rows[0]), len(rows[1])), len(rows[2]))
    shape = (ready, len(rows) * PER_WINDOW)
    f0, height, cost = np.empty(shape), np.empty(shape), np.empty(shape)
    for window in range(len(rows)):
        for i in range(ready):
            for c in range(PER_WINDOW):
                to = window * PER_WINDOW + c
                f0[i, to] = rows[window][i, F0 + c]
                height[i, to] = rows[window][i, HEIGHT + c]
                cost[i, to] = rows[window][i, COST + c]
    reach, known = np.empty(MEAN_BEFORE + ready + MEAN_AFTER), min(len(short), ready + MEAN_AFTER)
    for i in range(len(reach)):
        beyond = i - MEAN_BEFORE
        reach[i] = reached.passed[i] if beyond < 0 else short[beyond, LEVEL] if beyond < known else SILENCE_DB
    level, loudest, about, mean = np.empty(ready), np.empty(ready), np.empty(ready), np.empty(ready)
    surroundings(reach, loudest, about, mean)
    before = len(reached.entered)
    entered = np.empty((before + ready, 2))
    for i in range(before):
        entered[i, 0], entered[i, 1] = reached.entered[i, 0], reached.entered[i, 1]
    for i in range(ready):
        level[i] = entered[before + i, 0] = short[i, LEVEL]
        entered[before + i, 1] = short[i, BRIGHTNESS]
    decided, high = np.empty(ready), np.empty(ready)
    done = viterbi_step(Frames(f0, height, cost, level, loudest, about, mean), path, drone_hz, decided, high)
    held, f0_out, height_out = steadied(reached.held, decided[:done], high[:done])
    out = columns(f0_out, height_out, entered, reached.given)
    count = len(f0_out)
    after = Reached(entered[count:].copy(), reach[ready : ready + MEAN_BEFORE].copy(), held, reached.given + count)
    return ready, out, after


@Loop
def steadied(held, f0, height):
    """Those of the held and the new frames whose neighbours are known, smoothed; first what is still held."""
    before, whole = len(held), len(held) + len(f0)
    joined, pitch = np.empty((whole, 2)), np.empty(whole)
    for i in range(whole):
        joined[i, 0] = pitch[i] = held[i, 0] if i < before else f0[i - before]
        joined[i, 1] = held[i, 1] if i < before else height[i - before]
    count = max(0, whole - 2 * SMOOTH)
    out, high = np.empty(count), np.empty(count)
    if count > 0:
        smoothed(pitch, out)
    for i in range(count):
        high[i] = joined[SMOOTH + i, 1]
    return joined[count:].copy(), out, high


@Loop
def closed(path, reached):
    """Decide what is left: the last columns of the trace."""
    left = int(path.counts[0])
    f0, height = np.empty(left + SMOOTH), np.zeros(left + SMOOTH)
    for i in range(left, left + SMOOTH):
        f0[i] = math.nan
    for i in range(left):
        f0[i], height[i] = decide(path)
    _, f0_out, height_out = steadied(reached.held, f0, height)
    return columns(f0_out, height_out, reached.entered, reached.given)


@Loop
def guessed(short, mid, reached, last_hz):
    """Columns of the frames after the last final one: those on their way go on as the last, the others are guessed."""
    pending, count = len(reached.entered), min(len(short), len(mid))
    f0, height = np.empty(pending + count), np.zeros(pending + count)
    for i in range(pending + count):
        f0[i] = last_hz
        if i < pending and not math.isnan(last_hz):
            height[i] = 0.9
    both = (short, mid)
    peaks = np.empty((3, count, 2 * PER_WINDOW))
    for window in range(2):
        for i in range(count):
            for c in range(PER_WINDOW):
                to = window * PER_WINDOW + c
                peaks[0, i, to] = both[window][i, F0 + c]
                peaks[1, i, to] = both[window][i, HEIGHT + c]
                peaks[2, i, to] = both[window][i, COST + c]
    level, fresh = np.empty((pending + count, 2)), np.empty(count)
    for i in range(pending):
        level[i, 0], level[i, 1] = reached.entered[i, 0], reached.entered[i, 1]
    for i in range(count):
        level[pending + i, 0] = fresh[i] = short[i, LEVEL]
        level[pending + i, 1] = short[i, BRIGHTNESS]
    guess(peaks[0], peaks[1], peaks[2], fresh, last_hz, f0[pending:], height[pending:])
    return columns(f0, height, level, reached.given)


def path_state(windows: int) -> PathState:
    """Return the state of the search before the first frame."""
    count, slots = windows * PER_WINDOW, LOOKAHEAD + 1
    return PathState(
        total=np.zeros(count + 1),
        octaves=np.zeros(count),
        ring_f0=np.ones((slots, count)),
        ring_height=np.zeros((slots, count)),
        ring_back=np.zeros((slots, count + 1), np.int64),
        ring_quiet=np.zeros(slots, np.int64),
        counts=np.zeros(4, np.int64),
        floor=np.vstack((np.zeros(FLOOR_BLOCKS), np.full(FLOOR_BLOCKS, SILENCE_DB))),
        last=np.array([np.nan, 0.0]),
    )


def nothing_reached() -> Reached:
    """Return what is carried from block to block, before the first."""
    return Reached(np.empty((0, 2)), np.full(MEAN_BEFORE, SILENCE_DB), np.full((SMOOTH, 2), np.nan), 0)
