"""Sound as a value: mono samples that carry their own rate."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Samples = NDArray[np.float32]


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
    """The samples, with what is no number as silence and what is infinite as full scale."""
    if np.isfinite(samples.sum(dtype=np.float64)):
        return samples
    return np.asarray(np.nan_to_num(samples, nan=0.0, posinf=1.0, neginf=-1.0))
