"""Sound as a value: mono samples that carry their own rate."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Samples = NDArray[np.float32]
_LOUDEST = 8.0  # of full scale: floating-point recorders go a little over 1, and nothing real over this


@dataclass(frozen=True, slots=True, eq=False)
class Sound:
    """Mono sound: `samples` shape (n,), float32, full scale 1.0; `rate` in Hz."""

    samples: Samples
    rate: int

    @property
    def duration_s(self) -> float:
        """Return how long the sound is, in seconds."""
        return len(self.samples) / self.rate


def finite(samples: Samples) -> Samples:
    """The samples, with what is no number as silence and what no device gives cut to eight times full scale."""
    if not len(samples) or float(np.abs(samples).max()) <= _LOUDEST:  # false where any is no number
        return samples
    return np.asarray(np.clip(np.nan_to_num(samples, nan=0.0, posinf=1.0, neginf=-1.0), -_LOUDEST, _LOUDEST))
