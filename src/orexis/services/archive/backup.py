"""Copies of the record beside itself: by hand, once a week, before a migration. Sound is not copied: it never changes."""

from datetime import datetime, timedelta
from pathlib import Path

from orexis.services.clock import now
from orexis.services.record import Record

KEPT = 5  # five weeks of copies
_EVERY = timedelta(days=7)
_FOLDER, _STAMP = "backups", "%Y-%m-%d-%H%M%S"


def backups(folder: Path) -> list[Path]:
    """Return the copies of the record in a data folder, the newest first."""
    return sorted((folder / _FOLDER).glob("orexis-*.db"), reverse=True)


def back_up(record: Record) -> Path:
    """A copy of the record as it is now; the oldest beyond five go."""
    target = record.folder / _FOLDER / f"orexis-{now().strftime(_STAMP)}.db"
    target.parent.mkdir(parents=True, exist_ok=True)
    record.database.copy_to(target)
    for old in backups(record.folder)[KEPT:]:
        old.unlink(missing_ok=True)
    return target


def weekly_backup(record: Record) -> Path | None:
    """A copy where the last is older than a week, or there is none and anybody has played."""
    copies = backups(record.folder)
    if copies and now().replace(tzinfo=None) - _made(copies[0]) < _EVERY:
        return None
    return back_up(record)


def _made(path: Path) -> datetime:
    try:
        return datetime.strptime(path.stem.removeprefix("orexis-"), _STAMP)
    except ValueError:
        return datetime.min
