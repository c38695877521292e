"""Opening the database: SQLite in WAL mode with foreign keys, made with the tables of today, or brought up to date by Alembic.

Before a migration the whole record, the write-ahead log included, is copied beside itself by SQLite's own backup; a
database written by a later release is refused. Reads take no write lock, and see one moment of the record throughout;
writers queue (BEGIN IMMEDIATE).
"""

import os
import shutil
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from pathlib import Path

from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.engine.interfaces import DBAPIConnection
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session, sessionmaker
from sqlalchemy.pool import ConnectionPoolEntry

from orexis.errors import BusyError, DamagedError, NewerDatabaseError, OrexisError, StorageError
from orexis.store.models import Base

_MIGRATIONS = Path(__file__).parent / "migrations" / "versions"
_BUSY_S = 10.0  # waits for another writer before it gives up
_WANTED_MB = 200  # a long session with its sound, and a copy of the record
_FULL_MB = 1.0  # less is a full disk, whatever SQLite says
_WRITES = "orexis_writes"


class Database:
    """One SQLite file and its sessions."""

    def __init__(self, path: Path) -> None:
        self.path = path
        self._sealed: str | None = None
        self.url = f"sqlite:///{path}"
        self.engine = _engine(self.url)
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            self._migrate()
        except OSError as error:
            raise StorageError(f"{path.parent} cannot be written: {error.strerror}.") from error
        except DatabaseError as error:
            self.engine.dispose()
            said = self._in_words(error, "opened")
            if said is None:
                raise
            raise said from error
        self._readers = sessionmaker(self.engine, expire_on_commit=False)
        self._writers = sessionmaker(
            self.engine.execution_options(**{_WRITES: True}), expire_on_commit=False, autoflush=False
        )

    def seal(self, why: str) -> None:
        """From now on it is only read: StorageError with this reason for whoever wants to write."""
        self._sealed = why

    def close(self) -> None:
        """Close all connections to the database file."""
        self.engine.dispose()

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A session that can only read: it waits for no writer, and no writer waits for it."""
        try:
            with self._readers() as session:
                yield session
        except DatabaseError as error:
            said = self._in_words(error, "read")
            if said is None:
                raise
            raise said from error

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """A session that commits at the end, or leaves everything as it was. Compute before, not inside."""
        self._check_open_for_writing()
        try:
            with self._writers.begin() as session:
                yield session
        except DatabaseError as error:
            said = self._in_words(error, "written")
            if said is None:
                raise
            raise said from error

    @contextmanager
    def beside(self, path: Path, name: str) -> Iterator[sqlite3.Connection]:
        """A transaction that writes this database and reads another one, as `name`; all or nothing, other writers wait."""
        self._check_open_for_writing()
        try:
            with closing(sqlite3.connect(self.path, timeout=_BUSY_S, isolation_level=None)) as db:
                db.execute("PRAGMA foreign_keys=ON")
                db.execute(f'ATTACH DATABASE ? AS "{name}"', (str(path),))
                db.execute("BEGIN IMMEDIATE")
                try:
                    yield db
                except BaseException:
                    db.execute("ROLLBACK")
                    raise
                db.execute("COMMIT")
        except sqlite3.OperationalError as error:
            said = _cause(str(getattr(error, "sqlite_errorname", "")), "written", self.path)
            if said is None:
                raise
            raise said from error

    def copy_to(self, path: Path) -> None:
        """A whole copy of the record as it is at this moment, what is still in the write-ahead log included."""
        unfinished = path.with_name(f"{path.name}.part")
        try:
            with closing(sqlite3.connect(self.path)) as source, closing(sqlite3.connect(unfinished)) as copy:
                source.backup(copy)
            os.replace(unfinished, path)
        except (sqlite3.Error, OSError) as error:
            with suppress(OSError):
                unfinished.unlink(missing_ok=True)
            name = str(getattr(error, "sqlite_errorname", "SQLITE_FULL"))
            said = _cause(name, "copied", path)
            if said is None:
                raise
            raise said from error

    def _check_open_for_writing(self) -> None:
        if self._sealed:
            raise StorageError(self._sealed)

    def _in_words(self, error: DatabaseError, done: str) -> OrexisError | None:
        """What SQLite says of the disk or of other writers, in plain words; None for anything else, which is a mistake of ours."""
        return _cause(str(getattr(error.orig, "sqlite_errorname", "")), done, self.path)

    def _version(self) -> str | None:
        """The migration that the record has reached; None where it is new."""
        with self.engine.connect() as db:
            if db.exec_driver_sql("SELECT 1 FROM sqlite_master WHERE name = 'alembic_version'").first() is None:
                return None
            return db.exec_driver_sql("SELECT version_num FROM alembic_version").scalar()

    def _make(self, head: str) -> None:
        """A new record has the tables of today at once: all the migrations would take most of a second."""
        with self.engine.execution_options(**{_WRITES: True}).begin() as connection:
            Base.metadata.create_all(connection)
            connection.exec_driver_sql("CREATE TABLE alembic_version (version_num VARCHAR(32) NOT NULL PRIMARY KEY)")
            connection.exec_driver_sql("INSERT INTO alembic_version VALUES (?)", (head,))

    def _migrate(self) -> None:
        head, current = max(file.name[:4] for file in _MIGRATIONS.glob("[0-9]*.py")), self._version()
        if current == head:
            return
        if current is None:
            self._make(head)
            return
        from orexis.store.migrating import known, upgrade  # slow to load, and rarely needed

        if current not in known(self.url):
            raise NewerDatabaseError(
                f"The record in {self.path} was written by a later release of Orexis: open it with that release or a newer one."
            )
        self.copy_to(self.path.with_suffix(f".before-{head}.db"))
        # A table made anew is dropped for a moment: with foreign keys on, that would take its children along.
        alone = _engine(self.url, foreign_keys=False)
        with alone.execution_options(**{_WRITES: True}).begin() as connection:
            upgrade(self.url, connection)
            broken = connection.exec_driver_sql("PRAGMA foreign_key_check").all()
            if broken:
                raise StorageError(f"The record could not be brought up to date ({len(broken)} rows would be lost).")
        alone.dispose()


# By the beginning of SQLite's name for it: what it is in words.
_CAUSES: tuple[tuple[str, type[OrexisError], str], ...] = (
    ("SQLITE_BUSY", BusyError, "something else was writing to it for more than ten seconds: try again"),
    ("SQLITE_LOCKED", BusyError, "something else was writing to it for more than ten seconds: try again"),
    ("SQLITE_FULL", StorageError, "the disk is full: free at least {room}"),
    ("SQLITE_READONLY", StorageError, "its folder cannot be written: look at its permissions"),
    (
        "SQLITE_CANTOPEN",
        StorageError,
        "its file cannot be opened: look at the folder's permissions, and whether it is there",
    ),
    ("SQLITE_IOERR", StorageError, "the disk does not answer as it should"),
    ("SQLITE_CORRUPT", DamagedError, "it is damaged. Restore a copy, in Settings or with “orexis restore”"),
    ("SQLITE_NOTADB", DamagedError, "it is damaged. Restore a copy, in Settings or with “orexis restore”"),
)


def _cause(name: str, done: str, path: Path) -> OrexisError | None:
    """The error for SQLite's own name of it."""
    if name.startswith(("SQLITE_IOERR", "SQLITE_CANTOPEN")) and _free_mb(path) < _FULL_MB:
        name = "SQLITE_FULL"  # the file of its shared memory did not fit
    for begins, kind, cause in _CAUSES:
        if name.startswith(begins):
            return kind(f"The record could not be {done}: {cause.format(room=_room(path))}. Nothing was changed.")
    return None


def _room(path: Path) -> str:
    """How much Orexis wants where a file lies, and how much is free."""
    free = _free_mb(path)
    return f"{_WANTED_MB} MB" + (f" ({free:.1f} MB are free now)" if free < _WANTED_MB else "")


def _free_mb(path: Path) -> float:
    try:
        return shutil.disk_usage(path.parent).free / 1e6
    except OSError:
        return float("inf")


def _engine(url: str, *, foreign_keys: bool = True) -> Engine:
    engine = create_engine(url, connect_args={"timeout": _BUSY_S}, pool_size=16, max_overflow=32)

    @event.listens_for(engine, "connect")
    def _on_connect(connection: DBAPIConnection, _: ConnectionPoolEntry) -> None:
        # The driver's own transaction handling would begin too late; SQLAlchemy's "begin" event does it instead.
        connection.isolation_level = None
        cursor = connection.cursor()
        cursor.execute("PRAGMA journal_mode=WAL")
        cursor.execute("PRAGMA synchronous=NORMAL")
        cursor.execute(f"PRAGMA foreign_keys={'ON' if foreign_keys else 'OFF'}")
        cursor.close()

    @event.listens_for(engine, "begin")
    def _on_begin(connection: Connection) -> None:
        writes = connection.get_execution_options().get(_WRITES, False)
        connection.exec_driver_sql(f"PRAGMA query_only={'OFF' if writes else 'ON'}")
        connection.exec_driver_sql("BEGIN IMMEDIATE" if writes else "BEGIN")

    return engine
