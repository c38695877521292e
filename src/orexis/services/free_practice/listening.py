"""Listening to somebody who just plays: the pitch of every moment at once, and parts cut at silences into the journal."""

import contextlib
import threading
from collections import deque
from dataclasses import replace
from datetime import datetime, timedelta
from uuid import uuid4

import numpy as np

from orexis.core.free_practice import PartCutter
from orexis.core.messages import tell
from orexis.core.sound import Samples, finite
from orexis.core.trace import Trace, Tracker, joined
from orexis.errors import InputError, StorageError
from orexis.services.journal import JournalFile, TakeHead
from orexis.services.takes.life import Takes
from orexis.services.takes.open_take import MAX_BLOCK_SAMPLES

_BEHIND_S = 3.0  # of sound is held before a part: its first tone is heard that late at the most
_LEAST_TONE_S = 0.15  # a part with less is a noise


class FreeListening:
    """One stream of sound. Its first block says where it begins; blocks come in order, and repeats are passed over."""

    def __init__(self, takes: Takes, head: TakeHead) -> None:
        """`head`: of the stream; each part gets its own key and time."""
        self._takes, self._head = takes, takes.with_mute(head)
        self._tracker = Tracker(head.rate)
        self._cutter = PartCutter()
        self._first: int | None = None  # sample at which the stream began
        self._received = 0
        self._behind: deque[tuple[int, Samples]] = deque()
        self._part_from = 0  # no part begins before: the end of the last one
        self._file: JournalFile | None = None
        self._begins_at: int | None = None  # a part that has begun and that the disk has not taken yet
        self._lock = threading.Lock()

    @property
    def received(self) -> int:
        """Samples that were taken, counted as the sender counts them."""
        return (self._first or 0) + self._received

    @property
    def begun(self) -> bool:
        """Return whether any sound has arrived yet."""
        return self._first is not None

    def accept(self, start: int, samples: Samples) -> tuple[Trace, list[str]]:
        """Final frames that became ready (timed as the sender counts samples), and the keys of parts that are over.

        After a hole nothing is taken: the sender sees from `received` where to go on. InputError for a block that is too long,
        StorageError when the disk will not take it.
        """
        if len(samples) > MAX_BLOCK_SAMPLES:
            raise InputError(
                tell(
                    "A block has {count} samples: at most {max_block_samples}.",
                    count=len(samples),
                    max_block_samples=MAX_BLOCK_SAMPLES,
                )
            )
        with self._lock:
            if self._first is None:
                self._first = start
            if start > self.received or start + len(samples) <= self.received:
                return joined([]), []
            self._begin()
            fresh = finite(np.ascontiguousarray(samples[self.received - start :]))
            if self._file is not None:
                self._file.append(fresh)
            self._hold(fresh)
            self._received += len(fresh)
            frames = self._tracker.push(fresh)
            return self._as_sent(frames), self._cut(frames)

    def provisional(self) -> Trace:
        """Guesses after the last final frame."""
        with self._lock:
            return self._as_sent(self._tracker.provisional())

    def finish(self) -> list[str]:
        """The stream is over: the key of the part that was being played, if it holds a tone."""
        with self._lock:
            self._cutter.hear(self._tracker.finish())
            return self._closed(self._cutter.tone_s)

    def _as_sent(self, frames: Trace) -> Trace:
        """The same frames on the sender's clock."""
        time_s, *others = frames.columns
        return Trace(time_s + (self._first or 0) / self._head.rate, *others)

    def _hold(self, fresh: Samples) -> None:
        self._behind.append((self._received, fresh))
        while self._behind[0][0] + len(self._behind[0][1]) < self._received - _BEHIND_S * self._head.rate:
            self._behind.popleft()

    def _cut(self, frames: Trace) -> list[str]:
        over: list[str] = []
        for cut in self._cutter.hear(frames):
            if cut.begins:
                self._begins_at = max(round(cut.at_s * self._head.rate), self._part_from, self._behind[0][0])
                with contextlib.suppress(StorageError):  # tried again, and told, before anything more is taken
                    self._begin()
            else:
                over += self._closed(cut.tone_s)
        return over

    def _begin(self) -> None:
        """Write the part that has begun, with what was held of it; nothing where none has."""
        if self._begins_at is None:
            return
        at, held = self._begins_at, self._behind[0][0]
        began = datetime.fromisoformat(self._head.started_at) + timedelta(seconds=at / self._head.rate)
        file = self._takes.open_part(replace(self._head, take_id=uuid4().hex, started_at=began.isoformat()))
        try:
            file.append(np.concatenate([block for _, block in self._behind])[at - held :])
        except StorageError:
            file.close()
            self._takes.drop_part(file.head.take_id)
            raise
        self._file, self._begins_at = file, None

    def _closed(self, tone_s: float) -> list[str]:
        self._begins_at = None
        if self._file is None:
            return []
        key = self._file.head.take_id
        self._file.close()
        self._file, self._part_from = None, self._received
        if tone_s >= _LEAST_TONE_S:
            return [key]
        self._takes.drop_part(key)
        return []
