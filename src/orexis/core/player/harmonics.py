"""The inner loop of the synthesis, compiled by numba: harmonics as powers of one turning vector."""

import math

import numpy as np
from numba import njit

from orexis.core.sound import Floats

GRID = 16  # samples that share one set of amplitudes; they move far slower


@njit(cache=True)
def _sum(phase, amplitude, out):
    harmonics = amplitude.shape[1]
    cosines, sines = np.empty(harmonics), np.empty(harmonics)
    for n in range(harmonics):
        cosines[n] = math.cos(0.37 * (n + 1) ** 2)
        sines[n] = math.sin(0.37 * (n + 1) ** 2)
    for i in range(len(phase)):
        real, imag = math.cos(phase[i]), math.sin(phase[i])
        x, y, total = 1.0, 0.0, 0.0
        cell = i // GRID
        for n in range(harmonics):
            x, y = x * real - y * imag, x * imag + y * real
            total += amplitude[cell, n] * (y * cosines[n] + x * sines[n])
        out[i] = total


def summed(phase: Floats, amplitude: Floats) -> Floats:
    """The sum of harmonics over time.

    phase is that of the fundamental in radians, (samples,). amplitude is (cells, harmonics), a cell for every GRID
    samples begun. Harmonic n starts 0.37 n^2 radians on, so that the crests do not all meet.
    """
    out = np.empty(len(phase))
    _sum(phase, amplitude, out)
    return out
