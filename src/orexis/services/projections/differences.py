"""What the summaries of a record say otherwise than its takes: found in a copy, in which they are made again."""

import tempfile
from contextlib import closing
from pathlib import Path
from sqlite3 import Connection, connect

from orexis.services.projections.rebuild import rebuild
from orexis.services.projections.registry import PROJECTIONS
from orexis.services.projections.sessions import rebuild_sessions
from orexis.services.record import Record
from orexis.store.database import Database
from orexis.store.models import Base

_NOT_COMPARED = {"range_attempt": {"id", "from_midi"}}  # the database's own number, and what is not written any more
# Columns of rows that are more than a summary.
_OF_ROWS: dict[str, dict[str, tuple[str, ...]]] = {
    "evidence": {
        "take": (
            "id",
            "written",
            "fingering",
            "playing_s",
            "load",
            "pitch_error_cents",
            "pitch_wobble_cents",
            "pitch_drift_cents",
            "hold_s",
            "fact",
        ),
    },
    "sessions": {"session": ("id", "state", "summary", "played")},
}


def differences(record: Record) -> dict[str, int]:
    """By summary, how many rows differ, are missing or belong to nothing; only those that do. Nothing is changed."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "again.db"
        record.database.copy_to(path)
        copy = Database(path)
        try:
            with copy.writing() as db:
                rebuild(db)
                rebuild_sessions(db)
        finally:
            copy.close()
        with closing(connect(record.database.path)) as link:
            link.execute("ATTACH ? AS again", (str(path),))
            counts = {name: _differing(link, tables) for name, tables in _compared().items()}
    return {name: count for name, count in counts.items() if count}


def _compared() -> dict[str, dict[str, tuple[str, ...]]]:
    """By summary its tables, with the columns that are compared."""
    out = {
        item.name: {table.__tablename__: _columns(table.__tablename__) for table in item.tables} for item in PROJECTIONS
    }
    for name, tables in _OF_ROWS.items():
        out[name] = out.get(name, {}) | tables
    return out


def _columns(table: str) -> tuple[str, ...]:
    left_out = _NOT_COMPARED.get(table, set())
    return tuple(column.name for column in Base.metadata.tables[table].columns if column.name not in left_out)


def _differing(link: Connection, tables: dict[str, tuple[str, ...]]) -> int:
    """Rows that one of the two has and the other has not; a row that differs counts once."""
    total = 0
    for table, columns in tables.items():
        names = ", ".join(f'"{name}"' for name in columns)
        here, there = (f"SELECT {names} FROM {place}.{table}" for place in ("main", "again"))
        counts = [
            int(link.execute(f"SELECT count(*) FROM ({one} EXCEPT {other})").fetchone()[0])
            for one, other in ((here, there), (there, here))
        ]
        total += max(counts)
    return total
