"""A new record in the tests is a copy of one that went through all migrations, made once a process: each would take half a second."""

import shutil
import tempfile
from functools import cache
from pathlib import Path

from orexis.store.database import Database

_migrate = Database._migrate


@cache
def _made() -> Path:
    folder = tempfile.TemporaryDirectory(prefix="orexis-new-")
    _KEPT.append(folder)
    path = Path(folder.name) / "new.db"
    Database._migrate = _migrate  # type: ignore[method-assign]
    try:
        Database(path).close()
    finally:
        Database._migrate = _from_copy  # type: ignore[method-assign]
    return path


def _from_copy(self: Database) -> None:
    if not self.path.exists():
        shutil.copyfile(_made(), self.path)
    _migrate(self)


_KEPT: list[tempfile.TemporaryDirectory[str]] = []  # until the process ends


def copy_new_records() -> None:
    """From now on, in this process and those that are forked from it."""
    Database._migrate = _from_copy  # type: ignore[method-assign]
    _made()
