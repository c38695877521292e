"""Series of numbers: spectra of frames, convolution, running means, extremes and medians.

Spectra are made in compiled code, by the same transforms as those of the tracker (docs/decisions/0004-compiled-loops.md).
Every running value is that of a window about its own place; beyond both ends the first and the last value go on.
"""

from functools import cache
from typing import Any

import numpy as np
from numpy.lib.stride_tricks import sliding_window_view
from numpy.typing import ArrayLike, NDArray

from orexis.core.compiled import Loop

Array = NDArray[Any]
_TAPS_PER_FACTOR = 16  # holds aliases 80 dB down
_AT_ONCE = 2048  # values: what they need stays in the processor’s own memory


@Loop
def spectra(frames, size):
    """Return the spectra of frames filled up with zeros to a size; shape (n, width) to (n, size // 2 + 1), the same precision."""
    return np.fft.rfft(frames, size)


@Loop
def frames_of(spectra, size):
    """Return the frames of spectra: what `spectra` turns round; shape (n, size // 2 + 1) to (n, size)."""
    return np.fft.irfft(spectra, size)


def convolved(values: Array, by: Array) -> Array:
    """Return the convolution of two series in full; shape (n + m - 1,). Complex where one of them is."""
    count = len(values) + len(by) - 1
    size = 1 << (count - 1).bit_length()
    if np.iscomplexobj(values) or np.iscomplexobj(by):
        return np.asarray(np.fft.ifft(np.fft.fft(values, size) * np.fft.fft(by, size))[:count])
    return np.asarray(np.fft.irfft(np.fft.rfft(values, size) * np.fft.rfft(by, size), size)[:count])


@cache
def low_pass(factor: int) -> NDArray[np.float32]:
    """Return a Kaiser-windowed sinc that keeps what a decimation by `factor` can hold; one tap for none.

    A resampler of high quality holds sound back by 40 ms and more; for pitch this is enough, and its delay is taken out exactly.
    """
    if factor == 1:
        return np.ones(1, np.float32)
    half = _TAPS_PER_FACTOR * factor // 2
    taps = np.sinc(0.86 / factor * np.arange(-half, half + 1)) * np.kaiser(2 * half + 1, 6.0)
    return (taps / taps.sum()).astype(np.float32)


@Loop
def thinned(kept, samples, taps, factor):
    """Every factor-th value of the low-passed samples, and those that the next call needs.

    Tap by tap over all values: each is summed in the same order whatever the block, and many at once.
    """
    buffer = np.concatenate((kept, samples))
    count = max(0, (len(buffer) - len(taps)) // factor + 1)
    out = np.zeros(count, np.float32)
    for first in range(0, count, _AT_ONCE):
        here = out[first : first + _AT_ONCE]
        reach = buffer[first * factor : (first + len(here) - 1) * factor + len(taps)]
        for phase in range(factor):
            every = reach[phase::factor].copy()
            for k in range(phase, len(taps), factor):
                tap, ahead = taps[k], k // factor
                part = every[ahead : ahead + len(here)]
                for i in range(len(here)):
                    here[i] += part[i] * tap
    return out, buffer[count * factor :].copy()


def decimated(samples: NDArray[np.float32], factor: int) -> NDArray[np.float32]:
    """Return every factor-th of the low-passed samples; the first stands where the first of those given stood."""
    taps = low_pass(factor)
    silence = np.zeros(len(taps) // 2, np.float32)
    return np.asarray(thinned(silence, np.concatenate((samples, silence)), taps, factor)[0])


def median(values: ArrayLike) -> float:
    """Return the median of a series of shape (n,), NaN where it is empty or holds one: numpy's own takes four times as long for some hundred values."""
    ordered = np.sort(values)
    middle = len(ordered) // 2
    if not len(ordered) or np.isnan(ordered[-1]):  # NaN is sorted last
        return float("nan")
    return float(ordered[middle] if len(ordered) % 2 else (ordered[middle - 1] + ordered[middle]) / 2)


def running_mean(values: Array, width: int) -> Array:
    """Return the mean of `width` values about each; shape and precision as given."""
    if not len(values):
        return values.copy()
    sums = np.concatenate(([0.0], np.cumsum(_longer(values, width), dtype=np.float64)))
    return np.asarray((sums[width:] - sums[:-width]) / width, values.dtype)


def running_maximum(values: Array, width: int) -> Array:
    """Return the greatest of `width` values about each; shape (n,)."""
    return _running(np.maximum, values, width)


def running_minimum(values: Array, width: int) -> Array:
    """Return the least of `width` values about each; shape (n,)."""
    return _running(np.minimum, values, width)


def _running(extreme: np.ufunc, values: Array, width: int) -> Array:
    """The extreme of two neighbours, then of two such pairs, and so on: log2(width) steps."""
    if not len(values):
        return values.copy()
    found, reach = _longer(values, width), 1
    while reach < width:
        step = min(reach, width - reach)
        found = extreme(found[:-step], found[step:])
        reach += step
    return found


def running_median(values: Array, width: int) -> Array:
    """Return the median of `width` values about each, an odd number of them; shape (n,)."""
    if not len(values):
        return values.copy()
    return np.asarray(np.median(sliding_window_view(_longer(values, width), width), axis=1))


def _longer(values: Array, width: int) -> Array:
    before, after = width // 2, width - width // 2 - 1
    return np.concatenate((np.full(before, values[0], values.dtype), values, np.full(after, values[-1], values.dtype)))
