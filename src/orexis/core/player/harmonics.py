"""The inner loop of the synthesis, compiled by numba: harmonics as powers of one turning vector."""

import math

import numpy as np

from orexis.core.compiled import Loop
from orexis.core.sound import Floats

GRID = 16  # samples that share one set of amplitudes; they move far slower


@Loop
def _sum(phase, amplitude, out):
    harmonics = amplitude.shape[1]
    cosines, sines = np.empty(harmonics), np.empty(harmonics)
    for n in range(harmonics):
        cosines[n] = math.cos(0.37 * (n + 1) ** 2)
        sines[n] = math.sin(0.37 * (n + 1) ** 2)
    real, imag, x, y, total = np.zeros(GRID), np.zeros(GRID), np.zeros(GRID), np.zeros(GRID), np.zeros(GRID)
    for cell in range(amplitude.shape[0]):
        first = cell * GRID
        count = min(GRID, len(phase) - first)
        for k in range(count):
            real[k], imag[k] = math.cos(phase[first + k]), math.sin(phase[first + k])
        for k in range(GRID):
            x[k], y[k], total[k] = 1.0, 0.0, 0.0
        for n in range(harmonics):
            loud, cosine, sine = amplitude[cell, n], cosines[n], sines[n]
            for k in range(GRID):  # a whole cell at once
                turned = x[k] * real[k] - y[k] * imag[k]
                y[k] = x[k] * imag[k] + y[k] * real[k]
                x[k] = turned
                total[k] += loud * (y[k] * cosine + turned * sine)
        for k in range(count):
            out[first + k] = total[k]


def summed(phase: Floats, amplitude: Floats) -> Floats:
    """The sum of harmonics over time.

    phase is that of the fundamental in radians, (samples,). amplitude is (cells, harmonics), a cell for every GRID
    samples begun. Harmonic n starts 0.37 n^2 radians on, so that the crests do not all meet.
    """
    out = np.empty(len(phase))
    _sum(phase, amplitude, out)
    return out


def warm() -> None:
    """Have the loop ready: compiled on the first day, read from its cache afterwards."""
    summed(np.zeros(GRID), np.zeros((1, 1)))
