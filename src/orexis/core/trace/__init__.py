"""Sound to trace: f0, voicing, level and tone, frame by frame."""

from orexis.core.trace.loudspeaker import LoudspeakerFilter
from orexis.core.trace.tracker import RATE_RANGE, Tracker, track, warm_path, warm_windows
from orexis.core.trace.values import HIGHEST_HZ, HOP_S, LOWEST_HZ, SILENCE_DB, Trace, joined

__all__ = [
    "HIGHEST_HZ",
    "HOP_S",
    "LOWEST_HZ",
    "RATE_RANGE",
    "SILENCE_DB",
    "LoudspeakerFilter",
    "Trace",
    "Tracker",
    "joined",
    "track",
    "warm_path",
    "warm_windows",
]
