"""What sounds all the time is not playing: mains hum, a fan, a drone from the loudspeaker, the room after a click.

Frames far under the take's own loudness have no pitch that counts. How far is learned from what was there before the first
loud moment (the count-in), between two bounds: no hum stands nearer to the playing than that, and no release is cut.
"""

from dataclasses import replace

import numpy as np

from orexis.core.signals import median
from orexis.core.trace import HOP_S, Trace

_LOUD_SHARE = 90.0  # percentile of the voiced frames' levels: how loud the player plays
_NEVER_DB, _ALWAYS_DB = 26.0, 42.0  # under that: nothing nearer is background, everything further is
_OVER_DB = 8.0  # above the median level of what was there before
_LEAST_S, _BEFORE_S = 0.25, 0.15


def without_background(trace: Trace) -> Trace:
    """The trace with no pitch where only the background sounds."""
    if not trace.voiced.any():
        return trace
    loud = float(np.percentile(trace.level_db[trace.voiced], _LOUD_SHARE))
    first = int(np.flatnonzero(trace.level_db > loud - _NEVER_DB)[0])
    before = trace.level_db[: max(0, first - round(_BEFORE_S / HOP_S))]
    known = len(before) * HOP_S >= _LEAST_S
    floor = median(before) + _OVER_DB if known else -np.inf
    least = min(max(floor, loud - _ALWAYS_DB), loud - _NEVER_DB)
    f0 = np.where(trace.level_db >= least, trace.f0_hz, np.nan)
    return replace(trace, f0_hz=f0)
