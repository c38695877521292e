"""From candidates to one path: a Viterbi search with a short, fixed look-ahead.

Each frame's states are its candidates and "no tone". Staying near costs nothing, jumping costs by the octave, so a
single frame's octave slip is outvoted while a real slur, which lasts, is not. Frame k is decided by the best state
of frame k + LOOKAHEAD, whatever the blocks the sound came in: live and file give the same numbers.
"""

from collections import deque
from dataclasses import dataclass

import numpy as np

from orexis.core.sound import Floats

LOOKAHEAD = 4
_UNVOICED = 0.52  # a peak must stand higher than this to be called tone
_OCTAVE_COST = 0.03  # of peaks of equal height the shortest period is right: every multiple repeats too
_PIVOT = np.log2(300.0)
_JUMP = 0.4  # per octave
_JUMP_MOST = 0.5
_SWITCH = 0.12  # tone to no tone and back
_GATE_DB = -75.0  # below this nothing is called tone


@dataclass(frozen=True, slots=True)
class Choice:
    """The decided state of one frame: f0 (NaN for no tone) and the height of its peak."""

    f0_hz: float
    height: float


class Path:
    """Runs along the frames and gives the decided ones."""

    def __init__(self) -> None:
        self._octave: Floats | None = None  # log2 of the last frame's candidates
        self._cost: Floats | None = None
        self._frames: deque[tuple[Floats, Floats, np.ndarray[tuple[int, ...], np.dtype[np.int64]]]] = deque()

    def push(self, f0_hz: Floats, height: Floats, cost: Floats, level_db: float) -> Choice | None:
        """Take one frame; gives the frame LOOKAHEAD before it once there is one."""
        octave = np.log2(f0_hz)
        gain = np.append(worth(height, octave, cost) if level_db > _GATE_DB else np.zeros_like(height), _UNVOICED)
        if self._cost is None or self._octave is None:
            back = np.zeros(len(gain), np.int64)
            self._cost = gain
        else:
            total = self._cost[:, None] - self._moves(self._octave, octave)
            back = np.argmax(total, axis=0)
            best = total[back, np.arange(len(gain))] + gain
            self._cost = best - best.max()  # kept near 0 however long the sound is
        self._octave = octave
        self._frames.append((f0_hz, height, back))
        return self._decide(LOOKAHEAD) if len(self._frames) > LOOKAHEAD else None

    def finish(self) -> list[Choice]:
        """Decide what is left."""
        left = []
        while self._frames:
            left.append(self._decide(len(self._frames) - 1))
        return left

    def _moves(self, before: Floats, now: Floats) -> Floats:
        jump = np.full((len(before) + 1, len(now) + 1), _SWITCH)
        jump[:-1, :-1] = np.minimum(_JUMP * np.abs(before[:, None] - now[None, :]), _JUMP_MOST)
        jump[-1, -1] = 0.0
        return jump

    def _decide(self, ahead: int) -> Choice:
        assert self._cost is not None
        state = int(np.argmax(self._cost))
        for step in range(ahead, 0, -1):
            state = int(self._frames[step][2][state])
        f0_hz, height, _ = self._frames.popleft()
        if state == len(f0_hz) or height[state] <= 0.0:
            return Choice(float("nan"), float(height.max(initial=0.0)))
        return Choice(float(f0_hz[state]), float(height[state]))


def worth(height: Floats, octave: Floats, cost: Floats) -> Floats:
    """What a peak is worth on the path; 0 for no peak."""
    return np.where(height > 0.0, height - cost + _OCTAVE_COST * (octave - _PIVOT), 0.0)


def provisional(f0_hz: Floats, height: Floats, level_db: float, *, before_hz: float, cost: Floats) -> Choice:
    """A quick guess for a frame whose long window is not complete: the best peak, near the last pitch when equal."""
    if level_db <= _GATE_DB or not len(height):
        return Choice(float("nan"), 0.0)
    lean = np.zeros_like(height)
    if np.isfinite(before_hz):
        lean = np.minimum(_JUMP * np.abs(np.log2(f0_hz / before_hz)), _JUMP_MOST)
    best = int(np.argmax(worth(height, np.log2(f0_hz), cost) - lean))
    if height[best] < _UNVOICED:
        return Choice(float("nan"), float(height[best]))
    return Choice(float(f0_hz[best]), float(height[best]))
