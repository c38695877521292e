"""How a note ends: whether its pitch falls or rises in the last moments before it is let go."""

import numpy as np

from orexis.core.notes import HeardNote
from orexis.core.signals import median
from orexis.core.sound import Floats
from orexis.core.theory import cents_between
from orexis.core.trace import HOP_S, Trace

_FALL_S, _PERIODS = 0.15, 3.0
_AT_ONCE_S = 0.05  # a note that follows so soon is heard in the last moments of the one before
_FED_DB = 6.0  # louder than this the note is still blown
_LATE_S = 0.3  # what an ear takes as the end of a note


def fall_off_cents(
    trace: Trace, direct: Trace, heard: HeardNote, settled: tuple[Floats, Floats], next_s: float | None
) -> float | str:
    """The last 150 ms before release against the settled end, in cents; why not, where that cannot be told.

    `settled`: times in s and cents of the settled part. `direct` is the trace without the room's tail (the same trace where
    nothing rings): what the room holds on to after the player let go is no part of the note. `next_s`: when another begins.
    """
    if next_s is not None and next_s - heard.release_s < _AT_ONCE_S:
        return "the next note followed at once"
    end_s = heard.release_s if direct is trace else let_go_s(direct, heard)
    last = trace.part(end_s - max(_FALL_S, _PERIODS / heard.f0_hz), end_s)
    f0 = last.f0_hz[last.voiced]
    if len(f0) < 3:
        return "no pitch was heard in its last moments"
    time_s, calm = settled
    late = calm[time_s < end_s - _FALL_S][-round(_LATE_S / HOP_S) :]
    if not len(late):
        return "the note is too short"
    return cents_between(heard.f0_hz, median(f0)) - median(late)


def let_go_s(direct: Trace, heard: HeardNote) -> float:
    """When the note was last fed, as loud as it was but for 6 dB."""
    part = direct.part(heard.onset_s, heard.release_s)
    if not len(part):
        return heard.release_s
    fed = np.flatnonzero(part.level_db > median(part.level_db) - _FED_DB)
    return float(part.time_s[fed[-1]])
