"""The streaming tracker: samples in, frames out; the same code for files and live sound.

Input is cut to one grid before anything else, so that the numbers do not depend on the sizes of the blocks. A final
frame needs 75 ms of sound after its centre for the longest window, 20 ms for the decision and 3 ms for the filters.
A provisional frame needs 32 ms; it comes from the two shorter windows. Memory is bounded by one second of sound.
"""

import numpy as np

from orexis.core.sound import Floats, Samples, Sound
from orexis.core.trace.bank import PER_WINDOW, WINDOWS, Candidates, Window
from orexis.core.trace.decimate import Decimator
from orexis.core.trace.path import Choice, Path, provisional
from orexis.core.trace.values import HOP_S, Trace, joined
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
        views = np.lib.stride_tricks.sliding_window_view(self.buffer, self.window.width)
        found = self.window.candidates(views[starts])
        self.next_frame += len(starts)
        keep = int(np.rint(self.next_frame * HOP_S * rate)) - half - self.origin
        self.buffer, self.origin = self.buffer[max(0, keep) :], self.origin + max(0, keep)
        return found


class Tracker:
    """Feed it blocks of mono samples at `rate` Hz; SoundError when the rate is out of bounds."""

    def __init__(self, rate: int) -> None:
        low, high = RATE_RANGE
        if not low <= rate <= high:
            raise SoundError(f"The sound has {rate} samples a second: Orexis reads {low} to {high}.")
        first = max(1, round(rate / _BASE_RATE))
        self._stages = [Decimator(first), Decimator(2), Decimator(2)]
        self._lines = [_Line(Window(spec, rate / first / 2**spec.halvings)) for spec in WINDOWS]
        self._waiting: list[list[Candidates]] = [[] for _ in WINDOWS]
        self._path = Path()
        self._entered: list[tuple[float, float]] = []  # level and brightness of frames not yet decided
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
        rest = self._trace(self._path.finish())
        whole = joined([tail, rest])
        missing = max(0, len(whole) - (self._decided - wanted)) if self._decided > wanted else len(whole)
        return Trace(*(column[:missing] for column in whole.columns))

    def provisional(self) -> Trace:
        """Guesses for the frames after the last final one."""
        short, mid = (_stacked(self._waiting[i]) for i in (0, 1))
        pending = len(self._entered)
        level: list[tuple[float, float]] = list(self._entered)
        before = self._last_hz
        choices = [Choice(before, 0.9 if np.isfinite(before) else 0.0)] * pending
        count = min(len(short.level_db), len(mid.level_db))
        for i in range(count):
            f0, height, cost = (np.concatenate((a[i], b[i])) for a, b in zip(short.peaks, mid.peaks, strict=True))
            level_db = float(short.level_db[i])
            choice = provisional(f0, height, level_db, before_hz=before, cost=cost)
            before = choice.f0_hz if np.isfinite(choice.f0_hz) else before
            choices.append(choice)
            level.append((level_db, float(short.brightness_hz[i])))
        return _frames(choices, level, self._decided)

    def _advance(self, samples: Samples) -> Trace:
        signal = samples
        for i, (stage, line) in enumerate(zip(self._stages, self._lines, strict=True)):
            signal = stage.push(signal)
            found = line.push(signal)
            if found is not None:
                self._waiting[i].append(found)
        return self._trace(self._decide())

    def _decide(self) -> list[Choice]:
        """Run the path over the frames that all windows have reached."""
        stacks = [_stacked(waiting) for waiting in self._waiting]
        ready = min(len(stack.level_db) for stack in stacks)
        if not ready:
            return []
        columns = zip(*(stack.peaks for stack in stacks), strict=True)
        f0, height, cost = (np.concatenate([part[:ready] for part in column], axis=1) for column in columns)
        decided = []
        for i in range(ready):
            level = float(stacks[0].level_db[i])
            self._entered.append((level, float(stacks[0].brightness_hz[i])))
            choice = self._path.push(f0[i], height[i], cost[i], level)
            if choice is not None:
                decided.append(choice)
        self._waiting = [[_after(stack, ready)] for stack in stacks]
        return decided

    def _trace(self, choices: list[Choice]) -> Trace:
        level, self._entered = self._entered[: len(choices)], self._entered[len(choices) :]
        out = _frames(choices, level, self._decided)
        self._decided += len(choices)
        if choices:
            self._last_hz = choices[-1].f0_hz
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


def _frames(choices: list[Choice], level: list[tuple[float, float]], first: int) -> Trace:
    f0 = np.array([choice.f0_hz for choice in choices], float)
    height = np.clip(np.array([choice.height for choice in choices], float), 0.0, 0.99999)
    tone = np.minimum(10.0 * np.log10(np.maximum(height, 1e-5) / (1.0 - height)), _MOST_TONE_DB)
    pairs: Floats = np.array(level, float).reshape(-1, 2)
    return Trace(
        np.arange(first, first + len(choices)).astype(np.float64) * HOP_S, f0, height, pairs[:, 0], tone, pairs[:, 1]
    )


def track(sound: Sound) -> Trace:
    """The whole trace of a sound, in bounded memory beside the result."""
    tracker = Tracker(sound.rate)
    block = round(_FILE_BLOCK_S * sound.rate)
    parts = [tracker.push(sound.samples[i : i + block]) for i in range(0, len(sound.samples), block)]
    return joined([*parts, tracker.finish()])
