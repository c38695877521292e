"""Who sounds, as a take runs: what a loudspeaker plays with a line is no playing.

Nothing is taken out of the sound while it comes in: a chord that has not sounded before is not known until it has been heard for a
while (`core/room/known_sound.py` does that once the take is whole). But how loud the loudspeaker is by itself is heard in the count-in.
A frame that is hardly louder, and whose pitch is one that the sounding tones could be taken for, is the loudspeaker's. A loud loudspeaker and
the player together have a common period far under both: such a frame, lower than anything in the line, is nobody's.
"""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from orexis.core.theory import KnownTone
from orexis.core.trace.values import HOP_S, Trace

_LATE_S = 0.5  # the way through the air, and the room's ring
_EARLY_S = 0.05
_NEAR = 35.0  # cents
# Common periods of several tones; partials of one.
_TIMES = np.array([1 / 8, 1 / 7, 1 / 6, 0.2, 0.25, 1 / 3, 0.5, 1.0, 2.0, 3.0, 4.0])
_UNDER, _FAR_UNDER = 0.8, 0.55  # of the line's lowest note: so low nothing is asked, and nobody slips
_USUAL = 90.0  # percentile of its levels in the count-in: the clicks are louder
_LOUDER_DB = 4.0  # another chord may be that much louder
_LEAST = round(0.05 / HOP_S)  # frames of it in the count-in; else headphones are worn


class LoudspeakerFilter:
    """Feed it final frames in their order. `alone_until_s`: before it nobody plays; `lowest_hz`: of the line."""

    def __init__(self, tones: Sequence[KnownTone], alone_until_s: float, lowest_hz: float) -> None:
        self._hz = np.array([tone.hz for tone in tones])
        self._start_s = np.array([tone.start_s for tone in tones]) - _EARLY_S
        self._end_s = np.array([tone.end_s for tone in tones]) + _LATE_S
        self._alone_until_s, self._lowest_hz = alone_until_s, lowest_hz
        self._levels: list[float] = []  # of the loudspeaker by itself, dB

    def without(self, trace: Trace) -> Trace:
        """Return the frames, without pitch where the loudspeaker alone sounds."""
        if not len(self._hz) or not trace.voiced.any():
            return trace
        its, sounding = self._could_be_its(trace)
        alone = its & (trace.time_s < self._alone_until_s)
        self._levels += trace.level_db[alone].tolist()
        if len(self._levels) < _LEAST:
            return trace
        soft = trace.level_db < np.percentile(self._levels, _USUAL) + _LOUDER_DB
        under = trace.f0_hz < _UNDER * self._lowest_hz
        far_under = trace.f0_hz < _FAR_UNDER * self._lowest_hz
        left_out = (its & (alone | soft | under)) | (sounding & far_under)
        return replace(trace, f0_hz=np.where(left_out, np.nan, trace.f0_hz))

    def guesses(self, trace: Trace) -> Trace:
        """Return provisional frames so; nothing is learned of them."""
        known, self._levels = self._levels, list(self._levels)
        out = self.without(trace)
        self._levels = known
        return out

    def _could_be_its(self, trace: Trace) -> tuple[NDArray[np.bool_], NDArray[np.bool_]]:
        """Whether each frame's pitch is one that the tones could be taken for; whether any of them sounds."""
        at = trace.time_s[:, None]
        sounding = (self._start_s <= at) & (at <= self._end_s)
        with np.errstate(invalid="ignore"):
            cents = 1200.0 * np.log2(trace.f0_hz[:, None, None] / (self._hz[:, None] * _TIMES))
            near = np.abs(cents).min(axis=2) < _NEAR
        return np.asarray((near & sounding).any(axis=1)), np.asarray(sounding.any(axis=1))
