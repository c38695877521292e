"""What the tracker gives: one frame every 5 ms.

Conventions: `time_s` is the centre of the frame; `f0_hz` is NaN where there is no pitch; `confidence` 0..1 is the
height of the normalised autocorrelation at the chosen period; `level_db` is RMS in dB under full scale;
`tone_to_noise_db` is the energy that repeats with the period against the rest, 10 log10(r / (1 - r)) (Boersma 1993);
`spectral_centroid_hz` is the centre of gravity of the power spectrum. All arrays have shape (n,) and float64.
"""

from dataclasses import dataclass

import numpy as np

from orexis.core.sound import Floats

HOP_S = 0.005  # 200 frames a second: a gap of 20 ms is four of them
LOWEST_HZ, HIGHEST_HZ = 20.0, 2000.0
SILENCE_DB = -120.0  # what digital silence is called


@dataclass(frozen=True, slots=True, eq=False)
class Trace:
    """Pitch, level and tone against time."""

    time_s: Floats
    f0_hz: Floats
    confidence: Floats
    level_db: Floats
    tone_to_noise_db: Floats
    spectral_centroid_hz: Floats

    def __len__(self) -> int:
        return len(self.time_s)

    @property
    def voiced(self) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
        """Whether each frame has a pitch."""
        return np.isfinite(self.f0_hz)

    def part(self, start_s: float, stop_s: float) -> "Trace":
        """The frames with start_s <= time < stop_s."""
        low, high = np.searchsorted(self.time_s, (start_s - 1e-9, stop_s - 1e-9))
        return Trace(*(column[low:high] for column in self.columns))

    @property
    def columns(self) -> tuple[Floats, ...]:
        """The six columns in their order."""
        return (
            self.time_s,
            self.f0_hz,
            self.confidence,
            self.level_db,
            self.tone_to_noise_db,
            self.spectral_centroid_hz,
        )


def joined(parts: list[Trace]) -> Trace:
    """Several traces, one after the other."""
    if not parts:
        return Trace(*(np.empty(0) for _ in range(6)))
    return Trace(*(np.concatenate(columns) for columns in zip(*(part.columns for part in parts), strict=True)))
