"""A line through points of which some lie far out.

Theil (1950) and Sen (1968): the slope is the median of the slopes of all pairs of points at different places, the line goes through the
medians. As `scipy.stats.theilslopes`, whose package takes a second to load into every process (docs/decisions/0012-start.md).
"""

import numpy as np
from numpy.typing import ArrayLike

from orexis.core.signals import median


def theil_sen(values: ArrayLike, places: ArrayLike) -> tuple[float, float]:
    """Slope, and the value at place 0. `values` and `places`: the same length, at least two of them at different places."""
    y, x = np.asarray(values, dtype=np.float64), np.asarray(places, dtype=np.float64)
    apart = x[:, None] - x[None, :]
    pairs = apart > 0.0
    slope = median((y[:, None] - y[None, :])[pairs] / apart[pairs])
    return slope, median(y) - slope * median(x)
