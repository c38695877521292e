"""The inner loop of steady partials, compiled by numba: each is one turning number."""

import math

import numpy as np

from orexis.core.compiled import Loop
from orexis.core.signals import Array
from orexis.core.sound import Floats


@Loop
def _sum(turning, step, out):
    real, imag = turning.real.copy(), turning.imag.copy()
    cosine, sine = step.real.copy(), step.imag.copy()
    for i in range(len(out)):
        total = 0.0
        for k in range(len(real)):
            total += real[k]
            turned = real[k] * cosine[k] - imag[k] * sine[k]
            imag[k] = real[k] * sine[k] + imag[k] * cosine[k]
            real[k] = turned
        out[i] = total


def steady(hz: Floats, values: Array, first_s: float, count: int, rate: int) -> Floats:
    """Return the sum of partials over time, shape (count,): complex values (loudness and phase at 0 s), from first_s on."""
    out = np.empty(count)
    _sum(values * np.exp(2j * math.pi * hz * first_s), np.exp(2j * math.pi * hz / rate), out)
    return out


def warm() -> None:
    """Have the loop ready: compiled on the first day, read from its cache afterwards."""
    steady(np.ones(1), np.ones(1, complex), 0.0, 1, 1)
