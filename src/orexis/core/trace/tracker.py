"""The streaming tracker: samples in, frames out; the same code for files and live sound.

Input is cut to one grid before anything else, so that the numbers do not depend on the sizes of the blocks. A final
frame needs 75 ms of sound after its centre for the longest window, 20 ms for the decision, 10 ms for the smoothing and 3
ms for the filters.
A provisional frame needs 32 ms; it comes from the two shorter windows. Memory is bounded by one second of sound.
"""

import numpy as np

from orexis.core.messages import tell
from orexis.core.sound import Samples, Sound
from orexis.core.trace.bank import WINDOWS, AnalysisWindow
from orexis.core.trace.f0_path import closed, guessed, led, nothing_reached, path_state
from orexis.core.trace.filtering import cleaned
from orexis.core.trace.peaks import ROW
from orexis.core.trace.values import HOP_S, Trace, joined
from orexis.errors import SoundError

RATE_RANGE = (8_000, 192_000)
_BASE_RATE = 16_000  # Hz: holds every harmonic that the pitch of a brass instrument needs
_FILE_BLOCK_S = 4.0  # bounds memory; frames are the same for any block


class Tracker:
    """Feed it blocks of mono samples at `rate` Hz; SoundError when the rate is out of bounds.

    `drone_hz` says that a drone of this pitch is sounding from the loudspeaker the whole time: what is no louder than
    the softest moment is then the drone, and no playing.
    """

    def __init__(self, rate: int, *, drone_hz: float | None = None) -> None:
        low, high = RATE_RANGE
        if not low <= rate <= high:
            raise SoundError(
                tell(
                    "The sound has {rate} samples a second: Orexis reads {low} to {high}.",
                    rate=rate,
                    low=low,
                    high=high,
                )
            )
        first = max(1, round(rate / _BASE_RATE))
        factors = (first, 2, 2)
        self._lines = [
            AnalysisWindow(spec, factor, rate / first / 2**spec.halvings)
            for spec, factor in zip(WINDOWS, factors, strict=True)
        ]
        self._rows = [np.empty((0, ROW)) for _ in WINDOWS]  # that the path has not reached yet
        self._path, self._reached = path_state(len(WINDOWS)), nothing_reached()
        self._drone_hz = float(drone_hz or 0.0)
        self._rate, self._pushed = rate, 0
        self._last_hz = float("nan")

    def push(self, samples: Samples) -> Trace:
        """Final frames that have become ready."""
        self._pushed += len(samples)
        return self._advance(cleaned(samples))

    def finish(self) -> Trace:
        """The frames still open, as if silence followed."""
        wanted = int(self._pushed / self._rate / HOP_S + 1e-9) + 1
        tail = self._advance(np.zeros(round(0.12 * self._rate), np.float32))
        whole = joined([tail, Trace(*closed(self._path, self._reached))])
        given = self._reached.given + len(whole) - len(tail)
        kept = max(0, len(whole) - max(0, given - wanted))
        return Trace(*(column[:kept] for column in whole.columns))

    def provisional(self) -> Trace:
        """Guesses for the frames after the last final one."""
        return Trace(*guessed(self._rows[0], self._rows[1], self._reached, self._last_hz))

    def _advance(self, samples: Samples) -> Trace:
        self._look(samples)
        return self._lead()

    def _look(self, signal: Samples) -> None:
        for i, line in enumerate(self._lines):
            signal, rows = line.push(signal)
            if len(rows):
                self._rows[i] = np.concatenate((self._rows[i], rows)) if len(self._rows[i]) else rows

    def _lead(self) -> Trace:
        ready, columns, self._reached = led(tuple(self._rows), self._path, self._drone_hz, self._reached)
        if ready:
            self._rows = [rows[ready:] for rows in self._rows]
        if len(columns[1]):
            self._last_hz = float(columns[1][-1])
        return Trace(*columns)


def warm_windows() -> None:
    """Have the inner loops ready that look into windows of sound."""
    Tracker(RATE_RANGE[0])._look(cleaned(np.zeros(4_000, np.float32)))


def warm_path() -> None:
    """Have those ready that lead from what the windows show to pitch."""
    tracker = Tracker(RATE_RANGE[0])
    tracker._lead()
    tracker.provisional()
    closed(tracker._path, tracker._reached)


def track(sound: Sound, *, drone_hz: float | None = None) -> Trace:
    """The whole trace of a sound, in bounded memory beside the result."""
    tracker = Tracker(sound.rate, drone_hz=drone_hz)
    block = round(_FILE_BLOCK_S * sound.rate)
    parts = [tracker.push(sound.samples[i : i + block]) for i in range(0, len(sound.samples), block)]
    return joined([*parts, tracker.finish()])
