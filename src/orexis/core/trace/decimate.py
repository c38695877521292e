"""Streaming decimation by a whole factor with a short linear-phase filter.

A resampler of high quality holds back 40 ms and more; for pitch a short filter is enough, and its delay (half its
length) is taken out exactly: output sample i stands for input time i * factor / rate.
"""

import numpy as np

from orexis.core.sound import Samples
from orexis.core.trace.peaks import decimate

_TAPS_PER_FACTOR = 16


def _low_pass(half: int, cut: float) -> Samples:
    """A Kaiser-windowed sinc of 2 * half + 1 taps; `cut` as a share of half the sampling rate."""
    n = np.arange(-half, half + 1)
    taps = np.sinc(cut * n) * np.kaiser(2 * half + 1, 6.0)
    return (taps / taps.sum()).astype(np.float32)


class Decimator:
    """Keeps every `factor`-th sample of the low-passed signal."""

    def __init__(self, factor: int) -> None:
        self._factor = factor
        half = _TAPS_PER_FACTOR * factor // 2
        self._taps = _low_pass(half, 0.86 / factor) if factor > 1 else np.ones(1, np.float32)
        self._half = half if factor > 1 else 0
        # Starting with `half` zeros puts the first output on the first input sample.
        self._kept: Samples = np.zeros(self._half, np.float32)

    @property
    def delay(self) -> int:
        """Input samples that the newest output still waits for."""
        return self._half

    def push(self, samples: Samples) -> Samples:
        """The output that has become complete."""
        buffer = np.concatenate((self._kept, samples))
        width, factor = len(self._taps), self._factor
        count = max(0, (len(buffer) - width) // factor + 1)
        out: Samples = np.empty(count, np.float32)
        if count:
            decimate(buffer, self._taps, factor, count, out)
        self._kept = buffer[count * factor :]
        return out
