"""From candidates to one path: a Viterbi search with a short, fixed look-ahead.

Each frame's states are its candidates and "no tone". Staying near costs nothing, jumping costs by the octave, so a
single frame's octave slip is outvoted while a real slur, which lasts, is not. Frame k is decided by the best state
of frame k + LOOKAHEAD, whatever the blocks the sound came in: live and file give the same numbers. The pitch is then
smoothed over two frames to either side where they agree.
"""

import numpy as np

from orexis.core.sound import Floats
from orexis.core.trace.config import FLOOR_BLOCKS, LOOKAHEAD, PER_WINDOW, SILENCE_DB, SMOOTH
from orexis.core.trace.walking import Frames, PathState, decide, guess, smoothed, walk


class Path:
    """Runs along the frames and gives the decided ones as (f0, height): f0 NaN for no tone."""

    def __init__(self, windows: int, *, drone_hz: float = 0.0) -> None:
        count, slots = windows * PER_WINDOW, LOOKAHEAD + 1
        self._state = PathState(
            total=np.zeros(count + 1),
            octaves=np.zeros(count),
            ring_f0=np.ones((slots, count)),
            ring_height=np.zeros((slots, count)),
            ring_back=np.zeros((slots, count + 1), np.int64),
            ring_quiet=np.zeros(slots, np.int64),
            counts=np.zeros(4, np.int64),
            floor=np.vstack((np.zeros(FLOOR_BLOCKS), np.full(FLOOR_BLOCKS, SILENCE_DB))),
            last=np.array([np.nan, 0.0]),
        )
        self._drone_hz = drone_hz
        self._held = np.full((SMOOTH, 2), np.nan)  # decided frames whose neighbours are not

    def push(
        self, peaks: tuple[Floats, Floats, Floats], levels: tuple[Floats, Floats, Floats, Floats]
    ) -> tuple[Floats, Floats]:
        """Take frames; gives those decided now.

        `peaks`: f0, height and cost of shape (n, candidates). `levels` of shape (n,): in the shortest window, the
        loudest such of the frames about it as far as a knock reaches, of its neighbours, and in the longest window.
        """
        f0, high = np.empty(len(levels[0])), np.empty(len(levels[0]))
        done = walk(Frames(*peaks, *levels), self._state, self._drone_hz, f0, high)
        return self._smoothed(f0[:done], high[:done])

    def finish(self) -> tuple[Floats, Floats]:
        """Decide what is left."""
        left = [decide(self._state) for _ in range(int(self._state.counts[0]))]
        pairs = np.array([*left, *[(np.nan, 0.0)] * SMOOTH], float)
        return self._smoothed(pairs[:, 0], pairs[:, 1])

    def _smoothed(self, f0: Floats, height: Floats) -> tuple[Floats, Floats]:
        """The frames whose neighbours are known."""
        self._held = np.concatenate((self._held, np.column_stack((f0, height))))
        count = len(self._held) - 2 * SMOOTH
        if count <= 0:
            return np.empty(0), np.empty(0)
        out = np.empty(count)
        smoothed(np.ascontiguousarray(self._held[:, 0]), out)
        found = self._held[SMOOTH : SMOOTH + count, 1]
        self._held = self._held[count:]
        return out, found


def provisional(
    f0_hz: Floats, height: Floats, cost: Floats, level_db: Floats, *, before_hz: float
) -> tuple[Floats, Floats]:
    """Guesses for frames whose long window is not complete, given the last pitch heard."""
    f0, high = np.empty(len(f0_hz)), np.empty(len(f0_hz))
    guess(f0_hz, height, cost, level_db, before_hz, f0, high)
    return f0, high
