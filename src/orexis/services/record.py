"""The data folder: the database, the journal of takes under way, the sound of those that were kept."""

import contextlib
import shutil
import tempfile
from pathlib import Path
from typing import TypeVar

from sqlalchemy.orm import Session

from orexis.core.messages import tell
from orexis.errors import MissingError, StorageError
from orexis.services.folder_lock import FolderLock
from orexis.services.journal import Journal
from orexis.services.pins import Pins
from orexis.store.database import Database

DATABASE = "orexis.db"
_Row = TypeVar("_Row")


class Record:
    """The data folder: where everything is kept."""

    def __init__(self, folder: Path, *, locked: bool = True, only_look: bool = False) -> None:
        """`locked`: nobody else may open it meanwhile; without, only to read or to copy beside somebody who has it.

        `only_look`: the folder cannot be written, so that a copy of the database elsewhere is what is read; `seal` it before it is used.
        ConflictError where another Orexis holds the folder, DamagedError where the database cannot be read as one.
        """
        self.folder, self.only_look = folder, only_look
        self.lock = FolderLock(folder) if locked and not only_look else None
        self._elsewhere: tempfile.TemporaryDirectory[str] | None = None
        try:
            self.database = Database(self._copied_elsewhere() if only_look else folder / DATABASE)
            self.journal = Journal(folder / "journal")
            self.pins = Pins(folder)
        except BaseException:
            self._unlock()
            raise

    def _copied_elsewhere(self) -> Path:
        """The database with its log, where SQLite can write beside it. StorageError where there is no room for that either."""
        self._elsewhere = tempfile.TemporaryDirectory(prefix="orexis-", ignore_cleanup_errors=True)
        place = Path(self._elsewhere.name) / DATABASE
        try:
            shutil.copyfile(self.folder / DATABASE, place)
            with contextlib.suppress(FileNotFoundError):
                shutil.copyfile(self.folder / f"{DATABASE}-wal", place.with_name(f"{DATABASE}-wal"))
        except OSError as error:
            raise StorageError(tell("The data cannot be read: {strerror}.", strerror=error.strerror)) from error
        return place

    def sound_path(self, take_id: str) -> Path:
        """Where a take's sound is kept."""
        return self.folder / "takes" / take_id[:2] / f"{take_id}.flac"

    def close(self) -> None:
        """Close the database; the journal's files are closed with their takes."""
        self.database.close()
        self._unlock()

    def _unlock(self) -> None:
        if self._elsewhere is not None:
            self._elsewhere.cleanup()
        if self.lock is not None:
            self.lock.release()


def require_row(db: Session, kind: type[_Row], key: str, what: str) -> _Row:
    """The row by its key; MissingError says what there is not."""
    row = db.get(kind, key)
    if row is None:
        raise _missing(what)
    return row


def require_owned(
    db: Session, kind: type[_Row], key: str, owner_id: str, what: str, *, column: str = "player_id"
) -> _Row:
    """The row by its key, where it belongs to its owner; for anybody else there is none. The one place that decides it.

    `column`: the one that names the owner, as `take_id` for a remark.
    """
    row = require_row(db, kind, key, what)
    if getattr(row, column) != owner_id:
        raise _missing(what)
    return row


def _missing(what: str) -> MissingError:
    return MissingError(tell("There is no such {what}: it may have been deleted.", what=what))
