"""One window's line, compiled whole: decimated samples in, rows of candidates out (peaks.py says what a row is).

The transforms inside compiled code are those of numpy.fft (docs/decisions/0004-compiled-loops.md), the same for one frame
or many.
"""

from typing import NamedTuple

import numpy as np

from orexis.core.compiled import Loop
from orexis.core.signals import thinned
from orexis.core.sound import Samples
from orexis.core.trace.config import OVER
from orexis.core.trace.peaks import ROW, Looking, candidates, framed, powered
from orexis.core.trace.values import HOP_S

_AT_ONCE = 24  # frames: what they need stays in the processor’s own memory, and no new memory is asked for


class FilterCoefficients(NamedTuple):
    """What does not change along a line: the filter in front of it, its window and what is looked for."""

    taps: Samples
    factor: int
    width: int  # samples of the window
    size: int  # of the transform
    weight: Samples
    norm: Samples
    looking: Looking


class FilterState(NamedTuple):
    """Where a line stands: samples the filter still needs, samples of the next windows, and place of the first of them."""

    kept: Samples
    buffer: Samples
    origin: int
    next_frame: int


@Loop
def cleaned(samples):
    """Samples as float32, with what is no number as silence and what is infinite as full scale."""
    out = np.empty(len(samples), np.float32)
    for i in range(len(samples)):
        value = samples[i]
        if np.isnan(value):
            out[i] = 0.0
        elif np.isinf(value):
            out[i] = 1.0 if value > 0 else -1.0
        else:
            out[i] = value
    return out


@Loop
def heard(samples, terms, state):
    """Samples in; the decimated ones for the next line, rows of shape (n, ROW) that became ready, and the new state."""
    signal, kept = thinned(state.kept, samples, terms.taps, terms.factor)
    buffer = np.concatenate((state.buffer, signal))
    per_frame, half = HOP_S * terms.looking.rate, terms.width // 2
    starts = np.empty(int(len(buffer) / per_frame) + 2, np.int64)
    count = 0
    while True:
        start = int(np.rint((state.next_frame + count) * per_frame)) - half - state.origin
        if start + terms.width > len(buffer):
            break
        starts[count] = start
        count += 1
    rows = np.empty((count, ROW))
    if count == 0:
        return signal, rows, kept, buffer, state.origin, state.next_frame
    at_once = min(count, _AT_ONCE)
    frames = np.zeros((at_once, terms.size), np.float32)
    power = np.empty((at_once, terms.size // 2 + 1), np.float32)
    padded = np.zeros((at_once, terms.size * OVER // 2 + 1), np.complex64)
    for first in range(0, count, _AT_ONCE):
        here = min(_AT_ONCE, count - first)
        framed(buffer, starts[first : first + here], terms.weight, frames)
        powered(np.fft.rfft(frames[:here]), power, padded)
        curve = np.fft.irfft(padded[:here], terms.size * OVER)
        candidates(curve, terms.norm, power, terms.looking, rows[first : first + here])
    next_frame = state.next_frame + count
    passed = max(0, int(np.rint(next_frame * per_frame)) - half - state.origin)
    return signal, rows, kept, buffer[passed:].copy(), state.origin + passed, next_frame
