"""Candidates for the period from three windows of different length.

One length cannot serve: a long window misses short touches, a short one loses pedals. Each window computes the
autocorrelation of the Hann-weighted signal through a zero-padded FFT and divides it by that of the weight
(P. Boersma, "Accurate short-term analysis of the fundamental frequency and the harmonics-to-noise ratio of a sampled
sound", 1993). The transform back is twice as long as it need be, which interpolates the lags exactly; a peak is then
refined at the largest multiple of its period within reach, where an error in the lag weighs least. A peak whose
harmonics are mostly missing in the window's spectrum costs more: it is the common subharmonic of several sounds.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from orexis.core.compiled import good_size
from orexis.core.signals import low_pass
from orexis.core.sound import Floats, Samples
from orexis.core.trace.config import LENGTHS_S, OVER
from orexis.core.trace.filtering import FilterCoefficients, FilterState, heard
from orexis.core.trace.peaks import Looking

_BLUR = 0.03  # what a peak costs where its window blurs a vibrato (fitted)
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


class AnalysisWindow:
    """One window after a decimation by `factor`, at `rate` Hz behind it: feed it samples, it gives rows of candidates."""

    def __init__(self, spec: WindowSpec, factor: int, rate: float) -> None:
        self._terms = _terms(spec, factor, rate)
        # `half a filter` of silence puts the first output on the first input sample, half a window frame 0 at time 0.
        silence = self._terms.width // 2
        self._state = FilterState(
            kept=np.zeros(len(self._terms.taps) // 2, np.float32),
            buffer=np.zeros(silence, np.float32),
            origin=-silence,
            next_frame=0,
        )

    def push(self, samples: Samples) -> tuple[Samples, Floats]:
        """The decimated samples, for the next line, and the rows that became ready."""
        signal, rows, *state = heard(samples, self._terms, self._state)
        self._state = FilterState(*state)
        return signal, rows


@lru_cache(maxsize=32)  # for each window by the rates that microphones have
def _terms(spec: WindowSpec, factor: int, rate: float) -> FilterCoefficients:
    taps = low_pass(factor)
    width = 2 * round(spec.seconds * rate / 2.0)
    # A peak and its right neighbour must lie inside the lags.
    reach = min(int(np.ceil(rate / spec.low_hz)) + 2, width // 2 - 1)
    size = good_size(width + reach + 1)
    weight = np.hanning(width + 2)[1:-1].astype(np.float32)
    own = np.fft.irfft(np.abs(np.fft.rfft(weight, size)) ** 2, size * OVER)
    last = reach * OVER
    looking = Looking(
        rate=float(rate),
        bin_hz=rate / size,
        first=max(OVER, int(OVER * rate / spec.high_hz)),
        last=last,
        low_hz=spec.low_hz,
        high_hz=spec.high_hz,
        handicap=spec.handicap,
        sharp_to_hz=spec.sharp_to_hz,
        blur=_BLUR,
        resolution_hz=_HANN_WIDTH / spec.seconds,
        energy=float(np.sum(weight**2)),
    )
    norm = (own[0] / own[: last + 1]).astype(np.float32)
    return FilterCoefficients(
        taps=taps, factor=factor, width=width, size=size, weight=weight, norm=norm, looking=looking
    )
