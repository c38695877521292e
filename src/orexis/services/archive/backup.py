"""Copies of the record beside itself: by hand, once a week, before a migration. Sound is not copied: it never changes.

A copy is kept only when it is whole, so that a damaged record never pushes out the last good one.
"""

import sqlite3
from contextlib import closing
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

from orexis.core.messages import tell
from orexis.errors import DamagedError, StorageError
from orexis.services.clock import now
from orexis.services.record import Record

KEPT = 5  # five weeks of copies
BEFORE_RESTORING = "-before-restoring"
_EVERY = timedelta(days=7)
_FOLDER, _STAMP = "backups", "%Y-%m-%d-%H%M%S"


@dataclass(frozen=True, slots=True)
class BackupCopy:
    """A copy of the record: when it was made, and what is in it; nothing is known of one that is not whole."""

    name: str
    made_at: datetime
    size: int
    whole: bool
    before_restoring: bool = False
    players: tuple[str, ...] = ()
    takes: int = 0
    last_day: int | None = None  # the ordinal date of its last take


def backups(folder: Path) -> list[Path]:
    """Return the copies of the record in a data folder, the newest first."""
    return sorted((folder / _FOLDER).glob("orexis-*.db"), reverse=True)


def copies(folder: Path) -> tuple[BackupCopy, ...]:
    """What each copy holds, the newest first."""
    return tuple(described(path) for path in backups(folder))


def described(path: Path) -> BackupCopy:
    """A copy, looked at without changing it."""
    plain = BackupCopy(path.name, _made(path), path.stat().st_size, False, BEFORE_RESTORING in path.name)
    try:
        with closing(sqlite3.connect(f"{path.as_uri()}?mode=ro&immutable=1", uri=True)) as db:
            if not is_whole(db):
                return plain
            players = tuple(name for (name,) in db.execute("SELECT name FROM player WHERE NOT guest ORDER BY name"))
            takes, last = db.execute("SELECT count(*), max(day) FROM take WHERE discarded_at IS NULL").fetchone()
    except sqlite3.Error:
        return plain
    return BackupCopy(path.name, plain.made_at, plain.size, True, plain.before_restoring, players, takes, last)


def is_whole(db: sqlite3.Connection) -> bool:
    """Whether SQLite finds nothing wrong with a database."""
    return bool(db.execute("PRAGMA quick_check(1)").fetchone() == ("ok",))


def back_up(record: Record) -> Path:
    """A copy of the record as it is now; the oldest beyond five go. DamagedError where the record is not whole."""
    target = place_for_copy(record.folder)
    record.database.copy_to(target)
    if not described(target).whole:
        target.unlink(missing_ok=True)
        raise DamagedError("The record is damaged, so no copy was made of it. Restore an earlier copy.")
    prune(record.folder)
    return target


def place_for_copy(folder: Path, ending: str = "") -> Path:
    """The file of a copy that is made now."""
    target = folder / _FOLDER / f"orexis-{now().strftime(_STAMP)}{ending}.db"
    try:
        target.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise StorageError(tell("The copy could not be made: {strerror}.", strerror=error.strerror)) from error
    return target


def prune(folder: Path) -> None:
    """Delete the oldest copies beyond five."""
    for old in backups(folder)[KEPT:]:
        old.unlink(missing_ok=True)


def weekly_backup(record: Record) -> Path | None:
    """A copy where the last is older than a week, or there is none and anybody has played."""
    made = backups(record.folder)
    if made and now() - _made(made[0]) < _EVERY:
        return None
    return back_up(record)


def _made(path: Path) -> datetime:
    try:
        text = path.stem.removeprefix("orexis-").removesuffix(BEFORE_RESTORING)
        return datetime.strptime(text, _STAMP).replace(tzinfo=UTC)
    except ValueError:
        return datetime.min.replace(tzinfo=UTC)
