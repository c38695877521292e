"""Sound as it arrives, written through at once: raw little-endian float32 beside a small JSON head.

The head is written before the first sample. A process that dies leaves the file as it is; what the operating system
was handed is safe from a kill of the process. Encoding to FLAC comes at the end of the take. What cannot be read any more
is set aside in `broken/` with the reason beside it, and never deleted.
"""

import contextlib
import json
import os
import re
from collections.abc import Iterator
from dataclasses import asdict, dataclass
from datetime import datetime
from pathlib import Path
from typing import Any

import numpy as np

from orexis.core.messages import tell
from orexis.core.sound import Samples, Sound, finite
from orexis.core.trace import RATE_RANGE
from orexis.errors import ConflictError, InputError, MissingError, OrexisError, StorageError
from orexis.services.clock import local_day

MICROPHONE = "microphone"  # the source of a take that a clock ran beside
REHEARSED = "rehearsed"  # the source of a take of measures only, which never had a sound
_KEY = re.compile(r"[0-9a-f]{32}")
_FULL = "The sound could not be saved. The disk may be full. Your playing is safe in this window: free some space and it continues."


@dataclass(frozen=True, slots=True)
class TakeHead:
    """What is known of a take when it begins. `first_beat_sample` is the count-in's first beat, None when not known."""

    take_id: str
    session_id: str
    rate: int
    first_beat_sample: int | None
    source: str
    device: dict[str, Any]
    started_at: str
    clicked: bool = True  # False: the first note began it, and no click was heard
    keeps_sound: bool = True  # False: only what was measured is kept

    @property
    def first_beat_s(self) -> float | None:
        """The moment of the first beat in seconds from the start of the sound; None when it is not known."""
        return None if self.first_beat_sample is None else round(self.first_beat_sample / self.rate, 6)

    @property
    def day(self) -> int:
        """The ordinal date on which it began, by the calendar on the wall."""
        return local_day(datetime.fromisoformat(self.started_at))


@dataclass(frozen=True, slots=True)
class Broken:
    """Something in the journal that could not be finished: which take it was, and why."""

    take_id: str
    why: str


def checked_key(key: str) -> str:
    """A take's key names files, so it is 32 hexadecimal digits and nothing else."""
    if not _KEY.fullmatch(key):
        raise InputError("A take's key is 32 hexadecimal digits.")
    return key


def checked_head(head: TakeHead) -> TakeHead:
    """The head itself; InputError where a file that was damaged says what no head says."""
    checked_key(head.take_id)
    first = head.first_beat_sample
    well = (
        isinstance(head.session_id, str)
        and isinstance(head.rate, int)
        and RATE_RANGE[0] <= head.rate <= RATE_RANGE[1]
        and (first is None or isinstance(first, int))
        and isinstance(head.source, str)
        and isinstance(head.device, dict)
        and datetime.fromisoformat(head.started_at).tzinfo is not None
    )
    if not well:
        raise InputError("The head of a take in the journal is damaged.")
    return head


class JournalFile:
    """One take being written. Not shared between threads at one time."""

    def __init__(self, path: Path, head: TakeHead) -> None:
        self.path, self.head = path, head
        try:
            self._file = path.open("ab", buffering=0)
            # A kill in the middle of a write can leave part of a sample.
            whole = path.stat().st_size // 4
            self._file.truncate(whole * 4)
        except OSError as error:
            raise StorageError(_FULL) from error
        self.received = whole

    def append(self, samples: Samples) -> None:
        """Write through; StorageError when the disk will not take it, and the file is as before."""
        data = samples.astype("<f4").tobytes()
        try:
            written = self._file.write(data)
            if written != len(data):
                raise OSError("short write")
        except OSError as error:
            self._file.truncate(self.received * 4)
            raise StorageError(_FULL) from error
        self.received += len(samples)

    def read(self) -> Samples:
        """Return everything that was written so far."""
        return finite(np.fromfile(self.path, "<f4"))

    def close(self) -> None:
        """Close the file; what was written stays."""
        self._file.close()


def why_broken(error: Exception) -> str:
    """Return why a take could not be finished, in words; an error that nobody foresaw with its name, for whoever mends it."""
    if isinstance(error, OrexisError):
        return str(error)
    return f"Orexis itself failed on it ({type(error).__name__}: {error})."


class Journal:
    """The folder of takes not yet finished."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._broken = folder / "broken"
        with contextlib.suppress(OSError):  # where it cannot be written, takes say so when they begin
            folder.mkdir(parents=True, exist_ok=True)

    def open(self, head: TakeHead) -> JournalFile:
        """Begin a take, or go on with it after a restart."""
        key = checked_key(head.take_id)
        if self.has(key):
            known = self.head(key)
            if known.session_id != head.session_id or known.rate != head.rate:
                raise ConflictError("A take of this key is open in another session.")
            return self.file(key)
        path, unfinished = self._path(key, "json"), self._path(key, "part")
        try:
            unfinished.write_text(json.dumps(asdict(head)))
            os.replace(unfinished, path)
        except OSError as error:
            unfinished.unlink(missing_ok=True)
            raise StorageError(_FULL) from error
        return self.file(key)

    def file(self, key: str) -> JournalFile:
        """The sound of a take whose head is there, to go on writing."""
        return JournalFile(self._path(key, "f32"), self.head(key))

    def head(self, key: str) -> TakeHead:
        """The head of a take in the journal; InputError when it cannot be read."""
        try:
            return checked_head(TakeHead(**json.loads(self._path(key, "json").read_text())))
        except (OSError, ValueError, TypeError, AttributeError, InputError) as error:
            raise InputError(tell("The head of take {value} in the journal cannot be read.", value=key)) from error

    def has(self, key: str) -> bool:
        """Whether the take is in the journal."""
        return self._path(key, "json").exists()

    def pending(self) -> Iterator[str]:
        """The keys of all takes that were not finished, in order."""
        for path in sorted(self._folder.glob("*.json")):
            if _KEY.fullmatch(path.stem):
                yield path.stem

    def sound(self, key: str) -> Sound:
        """The sound of a take in the journal, cut to whole samples."""
        path = self._path(key, "f32")
        count = path.stat().st_size // 4 if path.exists() else 0
        samples = np.fromfile(path, "<f4", count=count) if count else np.zeros(0, np.float32)
        return Sound(finite(samples), self.head(key).rate)

    def remove(self, key: str) -> None:
        """Forget a take: its sound is kept elsewhere, or is not wanted."""
        for suffix in ("f32", "json"):
            self._path(key, suffix).unlink(missing_ok=True)

    def set_aside(self, key: str, why: str) -> None:
        """Move what cannot be finished out of the way, with the reason beside it."""
        self._broken.mkdir(exist_ok=True)
        (self._broken / f"{checked_key(key)}.txt").write_text(why)
        for suffix in ("f32", "json"):
            path = self._path(key, suffix)
            if path.exists():
                os.replace(path, self._broken / path.name)

    def seen(self, key: str) -> None:
        """Tell no more of a take that was set aside; its files stay."""
        told = self._broken / f"{checked_key(key)}.txt"
        if not told.exists():
            raise MissingError("There is no such notice any more.")
        os.replace(told, told.with_suffix(".seen"))

    def broken(self) -> tuple[Broken, ...]:
        """Return the takes that were set aside and not seen yet, and why."""
        paths = sorted(self._broken.glob("*.txt")) if self._broken.exists() else []
        return tuple(Broken(path.stem, path.read_text()) for path in paths)

    def _path(self, key: str, suffix: str) -> Path:
        return self._folder / f"{checked_key(key)}.{suffix}"
