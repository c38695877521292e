"""Where free playing is cut into parts: at silences, from its frames alone.

A part begins half a second before a tone and ends when nothing has sounded for two seconds. One that goes on for long is cut at
the first short pause, so that each can be read soon and in bounded memory.
"""

from dataclasses import dataclass

import numpy as np

from orexis.core.trace import HOP_S, Trace

BEFORE_S = 0.5  # kept before the first tone
SILENCE_S = 2.0  # without a tone: the part is over
LONG_S, LONGEST_S = 150.0, 180.0
_PAUSE_S = 0.25  # ends a long part
_TONE_S = 0.06  # shorter sounds begin nothing


@dataclass(frozen=True, slots=True)
class PartBoundary:
    """A part begins or ends. `at_s`: seconds from the start of the sound; `tone_s`: of a part that ends, its seconds of tone."""

    begins: bool
    at_s: float
    tone_s: float = 0.0


class PartCutter:
    """Feed it final frames in order; it says where parts begin and end."""

    def __init__(self) -> None:
        self._began_s: float | None = None
        self._tone_s = 0.0  # of the part, or of the tone that may begin one
        self._quiet_s = 0.0

    @property
    def open(self) -> bool:
        """Whether a part is being played."""
        return self._began_s is not None

    @property
    def tone_s(self) -> float:
        """Seconds of tone in the part that is being played."""
        return round(self._tone_s, 3) if self.open else 0.0

    def hear(self, frames: Trace) -> list[PartBoundary]:
        """The cuts that these frames bring, in order."""
        return [cut for at, tone in zip(frames.time_s, frames.voiced, strict=True) if (cut := self._frame(at, tone))]

    def _frame(self, at: np.float64, tone: np.bool_) -> PartBoundary | None:
        self._quiet_s = 0.0 if tone else self._quiet_s + HOP_S
        self._tone_s += HOP_S if tone else 0.0
        if self._began_s is not None:
            return self._ended(float(at), float(at) - self._began_s)
        if not tone:
            self._tone_s = 0.0
        elif self._tone_s >= _TONE_S:
            self._began_s = max(0.0, float(at) - self._tone_s - BEFORE_S)
            return PartBoundary(begins=True, at_s=self._began_s)
        return None

    def _ended(self, at: float, long: float) -> PartBoundary | None:
        """The end of the part, where it has come."""
        paused = self._quiet_s >= (_PAUSE_S if long >= LONG_S else SILENCE_S)
        if not paused and long < LONGEST_S:
            return None
        cut = PartBoundary(begins=False, at_s=at, tone_s=round(self._tone_s, 3))
        self._began_s, self._tone_s = None, 0.0
        return cut
