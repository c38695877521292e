"""When a take is over, heard from its frames alone: the player's hands are full.

A take ends after a second without tone once every written note had its chance; earlier when the player has stopped for
two seconds although the next written note is two seconds overdue; four seconds after the written end when nothing was
played. It never lasts longer than the exercise by more than two minutes.

In time a take ends 0.8 s after the written end, or later, once it has been quiet for half a second, and a bar after the written end
at the latest. A note that is held to the breath's end still ends it as above.
"""

from bisect import bisect_right
from dataclasses import dataclass, field

from orexis.core.exercises import Exercise, Medium
from orexis.core.trace import HOP_S, Trace

_QUIET_S = 1.0  # after the last note, for its ring
_QUIET_EARLY_S = 2.0  # in the middle: a breath takes less
_NOTHING_S = 4.0  # nobody played: four seconds past the end
_AIR_S = 0.5  # blown air needs no ring
_IN_TIME_S, _IN_TIME_QUIET_S = 0.8, 0.5
_MOST_OVER_S = 120.0  # whoever still plays is at something else
_LEAST_TONE_S = 0.15  # less tone is a knock or a cough
_ANSWERED_S = 0.3  # a note that is due so soon after the tone stopped counts as still to come


@dataclass(slots=True)
class Ending:
    """Feed it final frames; `over` turns True once and stays."""

    exercise: Exercise
    first_beat_s: float
    in_time: bool = False
    tone_s: float = 0.0
    quiet_s: float = 0.0
    over: bool = False
    _due: list[float] = field(default_factory=list)

    def __post_init__(self) -> None:
        self._due = [self.first_beat_s + self.exercise.start_s(note) for note in self.exercise.notes]

    def hear(self, frames: Trace) -> bool:
        """Read the next final frames of the take, and return whether it has ended."""
        start = self._due[0] - 0.5 * self.exercise.beat_s
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
        written_end = self.first_beat_s + self.exercise.duration_s
        if now_s > written_end + _MOST_OVER_S:
            return True
        if self.exercise.medium == Medium.AIR:
            return now_s > written_end + _AIR_S
        if self.in_time and not any(note.to_breath_end for note in self.exercise.notes):
            bar_s = self.exercise.beats_per_bar * self.exercise.beat_s
            if now_s > written_end + (_IN_TIME_S if self.quiet_s >= _IN_TIME_QUIET_S else bar_s):
                return True
        if self.tone_s < _LEAST_TONE_S:
            return now_s > written_end + (_IN_TIME_S if self.in_time else _NOTHING_S)
        if now_s > self._due[-1] + _QUIET_S:
            return self.quiet_s >= _QUIET_S
        return self.quiet_s >= _QUIET_EARLY_S and now_s > self._overdue(now_s - self.quiet_s)

    def _overdue(self, stopped_s: float) -> float:
        """When the next note after the tone stopped is too late to be waited for."""
        following = bisect_right(self._due, stopped_s - _ANSWERED_S)
        return self._due[min(following, len(self._due) - 1)] + _QUIET_EARLY_S
