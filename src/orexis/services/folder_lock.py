"""One Orexis at a time writes a data folder: a lock that the operating system lets go of with the process that holds it."""

import contextlib
import json
import os
from pathlib import Path

from filelock import FileLock, Timeout

from orexis.core.messages import tell
from orexis.errors import ConflictError, StorageError

_LOCK, _HOLDER = "orexis.lock", "orexis.lock.json"


class FolderLock:
    """The lock of a data folder. ConflictError says who holds it, and where to find them."""

    def __init__(self, folder: Path) -> None:
        self._holder = folder / _HOLDER
        # A lock of the kernel: it is gone with its process, whatever becomes of that.
        self._lock = FileLock(str(folder / _LOCK), timeout=0, thread_local=False)  # released by whichever thread closes
        try:
            folder.mkdir(parents=True, exist_ok=True)
            self._lock.acquire()
        except Timeout as error:
            raise ConflictError(_taken(folder, self._holder)) from error
        except OSError as error:
            raise StorageError(
                tell("{folder} cannot be written: {strerror}.", folder=folder, strerror=error.strerror)
            ) from error
        self.say("")

    def say(self, address: str) -> None:
        """Leave word of who holds it; `address` is where a browser finds it, or nothing."""
        with contextlib.suppress(OSError):  # a full disk keeps nobody from playing
            self._holder.write_text(json.dumps({"process": os.getpid(), "address": address}))

    def release(self) -> None:
        """Let go, so that another may come."""
        with contextlib.suppress(OSError):
            self._holder.unlink(missing_ok=True)
        self._lock.release()


def address_of(folder: Path) -> str | None:
    """Where the Orexis that holds a folder is found; None where nothing is said of it."""
    try:
        told = json.loads((folder / _HOLDER).read_text())
        return str(told["address"]) or None
    except (OSError, ValueError, KeyError, TypeError):
        return None


def _taken(folder: Path, holder: Path) -> str:
    address = address_of(holder.parent)
    where = tell(" Open {address}, or stop it first.", address=address) if address else " Stop it first."
    return tell("Orexis is already running on {folder}.{where}", folder=folder, where=where)
