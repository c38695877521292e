"""When a take is over, heard from its frames alone: the player's hands are full.

A take ends after a second without tone once every written note had its chance, or once the player has played and then
stopped for two seconds, or four seconds after the written end when nothing was played. It never lasts longer than the
figure by more than two minutes.
"""

from dataclasses import dataclass

from orexis.core.figures import Figure
from orexis.core.trace import HOP_S, Trace

_QUIET_S = 1.0
_QUIET_EARLY_S = 2.0
_NOTHING_S = 4.0
_MOST_OVER_S = 120.0
_LEAST_TONE_S = 0.15


@dataclass(slots=True)
class Ending:
    """Feed it final frames; `over` turns True once and stays."""

    figure: Figure
    first_beat_s: float
    tone_s: float = 0.0
    quiet_s: float = 0.0
    over: bool = False

    def hear(self, frames: Trace) -> bool:
        """Take the next final frames."""
        start = self.first_beat_s + self.figure.start_s(self.figure.notes[0]) - 0.5 * self.figure.beat_s
        for time_s, voiced in zip(frames.time_s, frames.voiced, strict=True):
            if time_s < start:
                continue
            if voiced:
                self.tone_s += HOP_S
                self.quiet_s = 0.0
            else:
                self.quiet_s += HOP_S
            self.over = self.over or self._is_over(float(time_s))
        return self.over

    def _is_over(self, now_s: float) -> bool:
        written_end = self.first_beat_s + self.figure.duration_s
        if now_s > written_end + _MOST_OVER_S:
            return True
        if self.tone_s < _LEAST_TONE_S:
            return now_s > written_end + _NOTHING_S
        last = self.figure.notes[-1]
        last_due = self.first_beat_s + self.figure.start_s(last)
        enough = _QUIET_S if now_s > last_due + _QUIET_S else _QUIET_EARLY_S
        return self.quiet_s >= enough
