"""Candidates for the period from three windows of different length.

One length cannot serve: a long window misses short touches, a short one loses pedals. Each window computes the
autocorrelation of the Hann-weighted signal through a zero-padded FFT and divides it by that of the weight
(P. Boersma, "Accurate short-term analysis of the fundamental frequency and the harmonics-to-noise ratio of a sampled
sound", 1993). The transform back is twice as long as it need be, which interpolates the lags exactly; a peak is then
refined at the largest multiple of its period within reach, where an error in the lag weighs least.
"""

from dataclasses import dataclass

import numpy as np
from scipy import fft

from orexis.core.sound import Floats, Samples
from orexis.core.trace.values import SILENCE_DB

_BLUR = 0.03
PER_WINDOW = 4  # candidates kept from each window
_OVER = 2  # interpolation of the lags
_OCTAVE_COST = 0.03  # of two equal peaks the shorter period is right
_WEAKEST = 0.3  # peaks under this are noise


@dataclass(frozen=True, slots=True)
class WindowSpec:
    """A window's length and the range of pitch it looks for.

    `handicap` is what its peaks cost on the path; those above `sharp_to_hz` cost more: there the window is so many periods long that it blurs a vibrato, but it must know of them, or it would take the octave
    below for the note.
    """

    seconds: float
    low_hz: float
    high_hz: float
    halvings: int  # decimation by 2^halvings after the first stage
    handicap: float
    sharp_to_hz: float


# The longest keeps three periods of 20 Hz. Ranges overlap so that steady notes find the longer, quieter window.
WINDOWS = (
    WindowSpec(seconds=0.025, low_hz=120.0, high_hz=2050.0, halvings=0, handicap=0.012, sharp_to_hz=2050.0),
    WindowSpec(seconds=0.064, low_hz=46.0, high_hz=2050.0, halvings=1, handicap=0.005, sharp_to_hz=500.0),
    WindowSpec(seconds=0.150, low_hz=19.5, high_hz=1000.0, halvings=2, handicap=0.0, sharp_to_hz=140.0),
)


@dataclass(frozen=True, slots=True, eq=False)
class Candidates:
    """Per frame and candidate: `f0_hz`, `height` (0 where there is none), `cost` on the path; per frame: level, brightness."""

    f0_hz: Floats
    height: Floats
    cost: Floats
    level_db: Floats
    brightness_hz: Floats

    @property
    def peaks(self) -> tuple[Floats, Floats, Floats]:
        """The columns of shape (n, candidates)."""
        return (self.f0_hz, self.height, self.cost)

    @property
    def columns(self) -> tuple[Floats, ...]:
        """All columns in their order."""
        return (*self.peaks, self.level_db, self.brightness_hz)


class Window:
    """One window length at one rate."""

    def __init__(self, spec: WindowSpec, rate: float) -> None:
        self.spec, self.rate = spec, rate
        self.width = 2 * round(spec.seconds * rate / 2.0)
        # A peak and its right neighbour must lie inside the lags.
        self._reach = min(int(np.ceil(rate / spec.low_hz)) + 2, self.width // 2 - 1)
        self._first = max(2 * _OVER // 2, int(_OVER * rate / spec.high_hz))
        self._size = int(fft.next_fast_len(self.width + self._reach + 1, real=True))
        self._weight = np.hanning(self.width + 2)[1:-1].astype(np.float32)
        own = fft.irfft(np.abs(fft.rfft(self._weight, self._size)) ** 2, self._size * _OVER)
        self._last = self._reach * _OVER
        self._norm = (own[0] / own[: self._last + 1]).astype(np.float32)
        self._power = float(np.sum(self._weight**2))
        lags = np.arange(self._first, self._last)
        self._lean = (_OCTAVE_COST * np.log2(lags / (_OVER * rate / 2050.0))).astype(np.float32)
        self._hz = np.fft.rfftfreq(self._size, 1.0 / rate)

    def candidates(self, frames: Samples) -> Candidates:
        """From frames of shape (n, width)."""
        centred = frames - frames.mean(axis=1, keepdims=True)
        spectrum = fft.rfft(centred * self._weight, self._size, axis=1)
        power = spectrum.real**2 + spectrum.imag**2
        curve = fft.irfft(power, self._size * _OVER, axis=1)[:, : self._last + 1] * self._norm
        energy = np.maximum(curve[:, 0], 1e-20)
        curve = curve / energy[:, None]
        f0, height = self._peaks(curve)
        level = 10.0 * np.log10(np.maximum(energy * _OVER / self._power, 10.0 ** (SILENCE_DB / 10.0)))
        # A matrix product would round differently for batches of different size.
        centre = (power * self._hz).sum(axis=1) / np.maximum(power.sum(axis=1), 1e-20)
        cost = self.spec.handicap + np.where(f0 > self.spec.sharp_to_hz, _BLUR, 0.0)
        return Candidates(f0, height, cost, level.astype(np.float64), centre.astype(np.float64))

    def _peaks(self, curve: Samples) -> tuple[Floats, Floats]:
        inner = curve[:, self._first : self._last]
        is_peak = (inner > curve[:, self._first - 1 : self._last - 1]) & (
            inner >= curve[:, self._first + 1 : self._last + 1]
        )
        score = np.where(is_peak & (inner > _WEAKEST), inner - self._lean, -9.0)
        best = np.argpartition(-score, PER_WINDOW, axis=1)[:, :PER_WINDOW]
        rows = np.arange(len(curve))[:, None]
        found = score[rows, best] > -5.0
        lag, height = _parabola(curve, rows, best + self._first)
        lag = self._refined(curve, rows, lag)
        f0 = _OVER * self.rate / lag
        found &= (f0 >= self.spec.low_hz) & (f0 <= self.spec.high_hz)
        return np.where(found, f0, 1.0), np.where(found, np.clip(height, 0.0, 1.0), 0.0)

    def _refined(self, curve: Samples, rows: np.ndarray[tuple[int, ...], np.dtype[np.int64]], lag: Floats) -> Floats:
        """The lag measured again at its largest multiple in reach."""
        times = np.maximum(1, ((self._last - 2) / lag).astype(np.int64))
        far = np.rint(times * lag).astype(np.int64)
        # The rounded multiple may lie one step beside the top.
        beside = np.stack([curve[rows, far - 1], curve[rows, far], curve[rows, far + 1]])
        far = far + np.argmax(beside, axis=0) - 1
        precise, height = _parabola(curve, rows, np.clip(far, 1, self._last - 1))
        good = (np.abs(precise - times * lag) < 0.2 * lag) & (height > _WEAKEST)
        return np.where(good, precise / times, lag)


def _parabola(
    curve: Samples,
    rows: np.ndarray[tuple[int, ...], np.dtype[np.int64]],
    at: np.ndarray[tuple[int, ...], np.dtype[np.int64]],
) -> tuple[Floats, Floats]:
    """Top of the parabola through three neighbours: place and height."""
    left, mid, right = (curve[rows, at + step].astype(np.float64) for step in (-1, 0, 1))
    bend = left - 2.0 * mid + right
    shift = np.where(bend < -1e-12, 0.5 * (left - right) / np.where(bend < -1e-12, bend, -1.0), 0.0)
    shift = np.clip(shift, -1.0, 1.0)
    return (at + shift).astype(np.float64), mid - 0.25 * (left - right) * shift
