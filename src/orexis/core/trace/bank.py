"""Candidates for the period from three windows of different length.

One length cannot serve: a long window misses short touches, a short one loses pedals. Each window computes the
autocorrelation of the Hann-weighted signal through a zero-padded FFT and divides it by that of the weight
(P. Boersma, "Accurate short-term analysis of the fundamental frequency and the harmonics-to-noise ratio of a sampled
sound", 1993). The transform back is twice as long as it need be, which interpolates the lags exactly; a peak is then
refined at the largest multiple of its period within reach, where an error in the lag weighs least. A peak whose
harmonics are mostly missing in the window's spectrum costs more: it is the common subharmonic of several sounds.
"""

from dataclasses import dataclass

import numpy as np
from scipy import fft

from orexis.core.sound import Floats, Samples
from orexis.core.trace.config import LENGTHS_S, OVER, PER_WINDOW
from orexis.core.trace.peaks import Found, Looking, candidates, framed, powered

Indices = np.ndarray[tuple[int, ...], np.dtype[np.int64]]

_BLUR = 0.03
_HANN_WIDTH = 2.0  # half the main lobe, in bins of 1 / length


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
    WindowSpec(seconds=LENGTHS_S[0], low_hz=120.0, high_hz=2050.0, halvings=0, handicap=0.012, sharp_to_hz=2050.0),
    WindowSpec(seconds=LENGTHS_S[1], low_hz=46.0, high_hz=2050.0, halvings=1, handicap=0.005, sharp_to_hz=500.0),
    WindowSpec(seconds=LENGTHS_S[2], low_hz=19.5, high_hz=1000.0, halvings=2, handicap=0.0, sharp_to_hz=140.0),
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
        self._first = max(OVER, int(OVER * rate / spec.high_hz))
        self._size = int(fft.next_fast_len(self.width + self._reach + 1, real=True))
        self._weight = np.hanning(self.width + 2)[1:-1].astype(np.float32)
        own = fft.irfft(np.abs(fft.rfft(self._weight, self._size)) ** 2, self._size * OVER)
        self._last = self._reach * OVER
        self._norm = (own[0] / own[: self._last + 1]).astype(np.float32)
        self._looking = Looking(
            rate=rate,
            bin_hz=rate / self._size,
            first=self._first,
            last=self._last,
            low_hz=spec.low_hz,
            high_hz=spec.high_hz,
            handicap=spec.handicap,
            sharp_to_hz=spec.sharp_to_hz,
            blur=_BLUR,
            resolution_hz=_HANN_WIDTH / spec.seconds,
            energy=float(np.sum(self._weight**2)),
        )

    def candidates(self, buffer: Samples, starts: Indices) -> Candidates:
        """Of the windows that begin at these places of the buffer."""
        count = len(starts)
        frames: Samples = np.zeros((count, self._size), np.float32)
        framed(buffer, starts, self._weight, frames)
        spectrum = fft.rfft(frames, axis=1, overwrite_x=True)
        power: Samples = np.empty(spectrum.shape, np.float32)
        padded = np.zeros((count, self._size * OVER // 2 + 1), np.complex64)
        powered(spectrum, power, padded)
        curve = fft.irfft(padded, self._size * OVER, axis=1, overwrite_x=True)
        f0, height, cost = (np.empty((count, PER_WINDOW)) for _ in range(3))
        found = Candidates(f0, height, cost, np.empty(count), np.empty(count))
        candidates(curve, self._norm, power, self._looking, Found(*found.columns))
        return found
