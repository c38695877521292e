"""How an import joins the record: it is worked out on a copy, and what came of it is laid into the record in one short transaction.

So nobody who plays meanwhile waits for a long import. What is laid in belongs to the players of the file alone; where one of them
practised while it was worked out, the copy is of yesterday, and `OutdatedError` asks for another.
"""

import hashlib
import sqlite3
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path

from sqlalchemy import Table

from orexis.services.archive.tables import TABLES, ExportedTable
from orexis.services.projections.registry import PROJECTIONS
from orexis.services.record import Record
from orexis.store.database import Database
from orexis.store.models import PathPlaceRow

_NAME = "orexis.db.import"
_LOGS = ("", "-wal", "-shm", "-journal")
_MOST_NAMES = 400  # in one IN (...), below what SQLite allows
_REMADE = ("sessions", "takes")  # rows that are there already, and of which summaries are written anew
_ROW_ID = "id"


class OutdatedError(Exception):
    """Somebody whose rows came changed something since the copy was made."""


@contextmanager
def working_copy(record: Record) -> Iterator[Database]:
    """A copy of the record to work on; it goes when that is done."""
    path = record.folder / _NAME
    remove(path)
    record.database.copy_to(path)
    copy = Database(path)
    try:
        yield copy
    finally:
        copy.close()
        remove(path)


def remove(path: Path) -> None:
    """Delete a database with its logs."""
    for ending in _LOGS:
        path.with_name(path.name + ending).unlink(missing_ok=True)


def state_of(db: sqlite3.Connection, players: Iterable[str]) -> str:
    """A digest of what these players have, but for what was measured: another one means that something changed."""
    digest = hashlib.sha256()
    for names in _groups(players):
        for part in TABLES:
            if part.derived or part.file in ("devices", "analyses"):
                continue
            columns = ", ".join(f'"{column}"' for column in part.columns)
            order = ", ".join(f'"{name}"' for name in part.key)
            rows = db.execute(
                f'SELECT {columns} FROM main."{part.table.name}" WHERE {_owned(part, "main", names)} ORDER BY {order}'
            )
            for row in rows:
                digest.update(repr(row).encode())
    return digest.hexdigest()


def lay_in(record: Record, copy: Database, players: Iterable[str], before: str, *, first: bool) -> None:
    """Everything that these players have in the copy, into the record. `first`: nobody was in it, so that its summaries are the copy's.

    OutdatedError where they have not the state any more that the copy began with (`state_of`).
    """
    mine = tuple(players)
    with record.database.beside(copy.path, "copy") as db:
        if state_of(db, mine) != before or (first and db.execute("SELECT 1 FROM main.player LIMIT 1").fetchone()):
            raise OutdatedError
        for names in _groups(mine):
            for part in TABLES:
                if not part.derived and part.table.name != PathPlaceRow.__tablename__:
                    _lay_in_table(db, part, names)
            for table in _summaries():
                columns = ", ".join(
                    f'"{column}"' for column in (item.name for item in table.columns) if column != _ROW_ID
                )
                owned = f"player_id IN ({names})"
                db.execute(f'DELETE FROM main."{table.name}" WHERE {owned}')
                db.execute(
                    f'INSERT INTO main."{table.name}" ({columns}) SELECT {columns} FROM copy."{table.name}" WHERE {owned}'
                )
        if first:
            db.execute("DELETE FROM main.projection")
            db.execute("INSERT INTO main.projection (name, version) SELECT name, version FROM copy.projection")


def _lay_in_table(db: sqlite3.Connection, part: ExportedTable, names: str) -> None:
    table, keys = part.table.name, ", ".join(f'"{name}"' for name in part.key)
    columns = ", ".join(f'"{column}"' for column in part.columns)
    known = " AND ".join(f'here."{name}" = there."{name}"' for name in part.key)
    new = f'NOT EXISTS (SELECT 1 FROM main."{table}" here WHERE {known})'
    owned = "1" if part.file == "devices" else _owned(part, "copy", names)
    rows = f'SELECT {columns} FROM copy."{table}" there WHERE {owned}'
    if part.file in _REMADE:
        changes = ", ".join(f'"{column}" = excluded."{column}"' for column in part.columns if column not in part.key)
        db.execute(f'INSERT INTO main."{table}" ({columns}) {rows} ON CONFLICT ({keys}) DO UPDATE SET {changes}')
    else:
        db.execute(f'INSERT INTO main."{table}" ({columns}) {rows} AND {new}')


def _owned(part: ExportedTable, where: str, names: str) -> str:
    """The condition that a row belongs to one of these players."""
    if part.file == "players":
        return f"id IN ({names})"
    if "player_id" in part.columns:
        return f"player_id IN ({names})"
    for column, parent in (("session_id", "session"), ("take_id", "take"), ("goal_id", "goal")):
        if column in part.columns:
            return f"{column} IN (SELECT id FROM {where}.{parent} WHERE player_id IN ({names}))"
    raise ValueError(f"{part.file} belongs to nobody")


def _summaries() -> list[Table]:
    return [table.__table__ for projection in PROJECTIONS for table in projection.tables]


def _groups(players: Iterable[str]) -> Iterator[str]:
    """Ids as SQL lists, so many at a time. They were checked to be 32 hexadecimal digits, so that nothing else can stand in them."""
    ids = sorted(players)
    for start in range(0, len(ids), _MOST_NAMES):
        yield ", ".join(f"'{int(player_id, 16):032x}'" for player_id in ids[start : start + _MOST_NAMES])
