"""The streaming tracker: samples in, frames out; the same code for files and live sound.

Input is cut to one grid before anything else, so that the numbers do not depend on the sizes of the blocks. A final
frame needs 75 ms of sound after its centre for the longest window, 20 ms for the decision, 10 ms for the smoothing and 3
ms for the filters.
A provisional frame needs 32 ms; it comes from the two shorter windows. Memory is bounded by one second of sound.
"""

import numpy as np

from orexis.core.sound import Floats, Samples, Sound
from orexis.core.trace.bank import WINDOWS, Candidates, Window
from orexis.core.trace.config import MEAN_AFTER, MEAN_BEFORE, PER_WINDOW
from orexis.core.trace.decimate import Decimator
from orexis.core.trace.path import Path, provisional
from orexis.core.trace.peaks import surroundings
from orexis.core.trace.values import HOP_S, SILENCE_DB, Trace, joined
from orexis.errors import SoundError

RATE_RANGE = (8_000, 192_000)
_BASE_RATE = 16_000
_FILE_BLOCK_S = 4.0
_MOST_TONE_DB = 50.0


class _Line:
    """One decimated signal with its window, and the frames read from it so far."""

    def __init__(self, window: Window) -> None:
        self.window = window
        # Half a window of silence in front lets frame 0 stand at time 0.
        self.buffer: Samples = np.zeros(window.width // 2, np.float32)
        self.origin = -(window.width // 2)  # sample index of buffer[0]
        self.next_frame = 0

    def push(self, samples: Samples) -> Candidates | None:
        self.buffer = np.concatenate((self.buffer, samples))
        half, rate = self.window.width // 2, self.window.rate
        last = int((self.origin + len(self.buffer) - half) / (rate * HOP_S) + 1)
        centres = np.rint(np.arange(self.next_frame, last + 1) * HOP_S * rate).astype(np.int64)
        starts = centres - half - self.origin
        starts = starts[starts + self.window.width <= len(self.buffer)]
        if not len(starts):
            return None
        found = self.window.candidates(self.buffer, starts)
        self.next_frame += len(starts)
        keep = int(np.rint(self.next_frame * HOP_S * rate)) - half - self.origin
        self.buffer, self.origin = self.buffer[max(0, keep) :], self.origin + max(0, keep)
        return found


class Tracker:
    """Feed it blocks of mono samples at `rate` Hz; SoundError when the rate is out of bounds.

    `drone_hz` says that a drone of this pitch is sounding from the loudspeaker the whole time: what is no louder than
    the softest moment is then the drone, and no playing.
    """

    def __init__(self, rate: int, *, drone_hz: float | None = None) -> None:
        low, high = RATE_RANGE
        if not low <= rate <= high:
            raise SoundError(f"The sound has {rate} samples a second: Orexis reads {low} to {high}.")
        first = max(1, round(rate / _BASE_RATE))
        self._stages = [Decimator(first), Decimator(2), Decimator(2)]
        self._lines = [_Line(Window(spec, rate / first / 2**spec.halvings)) for spec in WINDOWS]
        self._waiting: list[list[Candidates]] = [[] for _ in WINDOWS]
        self._path = Path(len(WINDOWS), drone_hz=drone_hz or 0.0)
        self._entered = np.empty((0, 2))  # level and brightness of frames not yet decided
        self._passed = np.full(MEAN_BEFORE, SILENCE_DB)  # levels of the last frames decided upon
        self._decided = 0
        self._rate, self._pushed = rate, 0
        self._last_hz = float("nan")

    def push(self, samples: Samples) -> Trace:
        """Final frames that have become ready."""
        self._pushed += len(samples)
        return self._advance(np.nan_to_num(samples.astype(np.float32), nan=0.0, posinf=1.0, neginf=-1.0))

    def finish(self) -> Trace:
        """The frames still open, as if silence followed."""
        wanted = int(self._pushed / self._rate / HOP_S + 1e-9) + 1
        tail = self._advance(np.zeros(round(0.12 * self._rate), np.float32))
        whole = joined([tail, self._trace(*self._path.finish())])
        missing = max(0, len(whole) - (self._decided - wanted)) if self._decided > wanted else len(whole)
        return Trace(*(column[:missing] for column in whole.columns))

    def provisional(self) -> Trace:
        """Guesses for the frames after the last final one."""
        short, mid = (_stacked(self._waiting[i]) for i in (0, 1))
        count = min(len(short.level_db), len(mid.level_db))
        both = zip(short.peaks, mid.peaks, strict=True)
        first, second, third = (np.concatenate((a[:count], b[:count]), axis=1) for a, b in both)
        f0, height = provisional(first, second, third, short.level_db[:count], before_hz=self._last_hz)
        pending, last = len(self._entered), self._last_hz
        before = np.full(pending, last), np.full(pending, 0.9 if np.isfinite(last) else 0.0)
        level = np.column_stack((short.level_db[:count], short.brightness_hz[:count]))
        return _frames(
            np.concatenate((before[0], f0)),
            np.concatenate((before[1], height)),
            np.concatenate((self._entered, level)),
            self._decided,
        )

    def _advance(self, samples: Samples) -> Trace:
        signal = samples
        for i, (stage, line) in enumerate(zip(self._stages, self._lines, strict=True)):
            signal = stage.push(signal)
            found = line.push(signal)
            if found is not None:
                self._waiting[i].append(found)
        return self._trace(*self._decide())

    def _decide(self) -> tuple[Floats, Floats]:
        """Run the path over the frames that all windows have reached."""
        stacks = [_stacked(waiting) for waiting in self._waiting]
        ready = min(len(stack.level_db) for stack in stacks)
        if not ready:
            return np.empty(0), np.empty(0)
        columns = zip(*(stack.peaks for stack in stacks), strict=True)
        peaks = [np.concatenate([part[:ready] for part in column], axis=1) for column in columns]
        short = stacks[0]
        fresh = np.column_stack((short.level_db[:ready], short.brightness_hz[:ready]))
        self._entered = np.concatenate((self._entered, fresh))
        self._waiting = [[_after(stack, ready)] for stack in stacks]
        levels = (short.level_db[:ready], *self._about(short.level_db, ready))
        return self._path.push((peaks[0], peaks[1], peaks[2]), levels)

    def _about(self, level_db: Floats, ready: int) -> tuple[Floats, Floats, Floats]:
        """What `surroundings` says; the line of the short window is always MEAN_AFTER frames ahead and more."""
        reach = np.concatenate((self._passed, level_db[: ready + MEAN_AFTER]))
        missing = MEAN_BEFORE + ready + MEAN_AFTER - len(reach)
        reach = np.concatenate((reach, np.full(missing, SILENCE_DB)))
        self._passed = reach[ready : ready + MEAN_BEFORE]
        loudest, about, mean = np.empty(ready), np.empty(ready), np.empty(ready)
        surroundings(reach, loudest, about, mean)
        return loudest, about, mean

    def _trace(self, f0: Floats, height: Floats) -> Trace:
        level, self._entered = self._entered[: len(f0)], self._entered[len(f0) :]
        out = _frames(f0, height, level, self._decided)
        self._decided += len(f0)
        if len(f0):
            self._last_hz = float(f0[-1])
        return out


def _stacked(parts: list[Candidates]) -> Candidates:
    if not parts:
        none = np.empty((0, PER_WINDOW))
        return Candidates(none, none, none, np.empty(0), np.empty(0))
    if len(parts) == 1:
        return parts[0]
    return Candidates(*(np.concatenate(column) for column in zip(*(part.columns for part in parts), strict=True)))


def _after(stack: Candidates, count: int) -> Candidates:
    return Candidates(*(column[count:] for column in stack.columns))


def _frames(f0: Floats, height: Floats, level: Floats, first: int) -> Trace:
    confidence = np.clip(height, 0.0, 0.99999)
    tone = np.minimum(10.0 * np.log10(np.maximum(confidence, 1e-5) / (1.0 - confidence)), _MOST_TONE_DB)
    time_s = np.arange(first, first + len(f0)).astype(np.float64) * HOP_S
    return Trace(time_s, f0, confidence, level[:, 0], tone, level[:, 1])


def warm() -> None:
    """Have the inner loops ready: compiled on the first day, read from their cache afterwards."""
    noise = np.random.default_rng(0).normal(0.0, 0.01, 4_000).astype(np.float32)
    tracker = Tracker(8_000)
    tracker.push(noise)
    tracker.provisional()
    tracker.finish()


def track(sound: Sound, *, drone_hz: float | None = None) -> Trace:
    """The whole trace of a sound, in bounded memory beside the result."""
    tracker = Tracker(sound.rate, drone_hz=drone_hz)
    block = round(_FILE_BLOCK_S * sound.rate)
    parts = [tracker.push(sound.samples[i : i + block]) for i in range(0, len(sound.samples), block)]
    return joined([*parts, tracker.finish()])
