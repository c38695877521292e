"""One take being heard: journal, tracker and the ear for its end, fed by whatever source there is."""

import numpy as np

from orexis.core.figures import Figure
from orexis.core.practice import Ending
from orexis.core.sound import Samples, Sound
from orexis.core.trace import Trace, Tracker, joined
from orexis.errors import InputError
from orexis.services.journal import JournalFile

MAX_BLOCK_SAMPLES = 192_000  # one second at the highest rate
MAX_TAKE_S = 600.0


class LiveTake:
    """Accepts blocks in order, tolerates repeats, and says how many samples it has."""

    def __init__(self, file: JournalFile, figure: Figure) -> None:
        self.file, self.figure = file, figure
        head = file.head
        self._tracker = Tracker(head.rate)
        self._parts: list[Trace] = []
        self.first_beat_s = head.first_beat_s or 0.0
        self.ending = Ending(figure, self.first_beat_s)
        before = file.read()
        if len(before):  # going on after a restart: hear again what the journal kept
            self._hear(before)

    @property
    def received(self) -> int:
        """Samples that are safe in the journal."""
        return self.file.received

    def accept(self, start: int, samples: Samples) -> Trace:
        """Take a block that begins at sample `start`; final frames that became ready.

        What was there already is passed over. A hole means that a block is missing: nothing is taken, and the sender
        sees from `received` where to go on.
        """
        if len(samples) > MAX_BLOCK_SAMPLES:
            raise InputError(f"A block has {len(samples)} samples: at most {MAX_BLOCK_SAMPLES}.")
        if start > self.received or start + len(samples) <= self.received:
            return joined([])
        fresh = samples[self.received - start :]
        if self.received + len(fresh) > MAX_TAKE_S * self.file.head.rate:
            raise InputError(f"A take lasts at most {MAX_TAKE_S / 60:g} minutes: end it and begin another.")
        self.file.append(fresh)
        return self._hear(fresh)

    def provisional(self) -> Trace:
        """Guesses after the last final frame."""
        return self._tracker.provisional()

    def finish(self) -> tuple[Sound, Trace]:
        """The whole sound and its trace."""
        sound = Sound(self.file.read(), self.file.head.rate)
        self._parts.append(self._tracker.finish())
        self.file.close()
        return sound, joined(self._parts)

    def frames_so_far(self) -> Trace:
        """Final frames from the start, for a page that comes back."""
        return joined(self._parts)

    def _hear(self, samples: Samples) -> Trace:
        block = 4 * self.file.head.rate
        parts = [
            self._tracker.push(np.ascontiguousarray(samples[i : i + block])) for i in range(0, len(samples), block)
        ]
        frames = joined(parts)
        self._parts.append(frames)
        self.ending.hear(frames)
        return frames
