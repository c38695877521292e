"""An earlier copy in the place of the record. The present record is kept as a copy first, so that this can be undone.

A database that is copied over another by hand leaves the write-ahead log of the old one beside it, which is then replayed onto the
new one: that is why this is a command. What is done, in order: the copy is looked at; the present record becomes a copy, or is set
aside as it is where it cannot be read; its log goes; the copy takes its place; it is brought up to date, and looked at again.
"""

import os
import shutil
import sqlite3
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

from orexis.core.messages import tell
from orexis.errors import DamagedError, MissingError, StorageError
from orexis.services.archive.backup import (
    BEFORE_RESTORING,
    BackupCopy,
    backups,
    described,
    is_whole,
    place_for_copy,
    prune,
)
from orexis.services.archive.set_aside import FOLDER, take_back
from orexis.services.clock import now
from orexis.services.projections.rebuild import bring_up_to_date
from orexis.services.record import Record

_LOGS = ("-wal", "-shm", "-journal")


@dataclass(frozen=True, slots=True)
class Restored:
    """What was put in place, where the record of before is, and how many sounds came back from what was set aside."""

    copy: BackupCopy
    kept_as: str
    sounds_back: int


def restore(folder: Path, name: str) -> Restored:
    """Put a copy in the place of the record. Nobody else may have the folder open.

    MissingError where there is no such copy, DamagedError where it is not whole, StorageError where the disk refuses.
    """
    path = next((path for path in backups(folder) if path.name == name), None)
    if path is None:
        raise MissingError(tell("There is no copy {name}: choose one of those listed.", name=name[:80]))
    copy = described(path)
    if not copy.whole:
        raise DamagedError(tell("The copy {name} is damaged: choose another.", name=name))
    database = folder / "orexis.db"
    fresh = database.with_name("orexis.db.part")
    try:
        shutil.copyfile(path, fresh)
        with fresh.open("rb") as file:
            os.fsync(file.fileno())
        kept_as = _keep_present(folder, database)
        for ending in _LOGS:
            database.with_name(database.name + ending).unlink(missing_ok=True)
        os.replace(fresh, database)
    except OSError as error:
        fresh.unlink(missing_ok=True)
        raise StorageError(
            tell(
                "The copy could not be put in place: {strerror}. The present record is in backups/.",
                strerror=error.strerror,
            )
        ) from error
    record = Record(folder, locked=False)
    try:
        bring_up_to_date(record)
        with closing(sqlite3.connect(database)) as db:
            if not is_whole(db):
                raise DamagedError("The restored record is not whole: choose another copy.")
        back = take_back(record)
    finally:
        record.close()
    prune(folder)
    return Restored(copy, kept_as, back)


def _keep_present(folder: Path, database: Path) -> str:
    """The present record as a copy, its log included; set aside as it is where it cannot be read. Where it is now."""
    if not database.exists():
        return ""
    target = place_for_copy(folder, BEFORE_RESTORING)
    try:
        with closing(sqlite3.connect(database)) as present, closing(sqlite3.connect(target)) as copy:
            present.backup(copy)
            if is_whole(copy):
                return str(target.relative_to(folder))
    except sqlite3.Error:
        pass
    target.unlink(missing_ok=True)
    aside = folder / FOLDER / f"damaged-{now():%Y-%m-%d-%H%M%S}"
    aside.mkdir(parents=True)
    for ending in ("", *_LOGS):
        part = database.with_name(database.name + ending)
        if part.exists():
            shutil.copyfile(part, aside / part.name)
    return str(aside.relative_to(folder))
