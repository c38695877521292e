"""Opening the database: SQLite in WAL mode with foreign keys, brought up to date by Alembic.

Before a migration the file is copied beside itself; a database written by a later release is refused.
"""

import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.engine.interfaces import DBAPIConnection
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session, sessionmaker
from sqlalchemy.pool import ConnectionPoolEntry

from orexis.errors import NewerDatabaseError, StorageError

_MIGRATIONS = Path(__file__).parent / "migrations"


def alembic_config(url: str) -> Config:
    """Alembic set up without an ini file."""
    config = Config()
    config.set_main_option("script_location", str(_MIGRATIONS))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


class Database:
    """One SQLite file and its sessions."""

    def __init__(self, path: Path) -> None:
        path.parent.mkdir(parents=True, exist_ok=True)
        self.path = path
        self.url = f"sqlite:///{path}"
        self.engine = _engine(self.url)
        self._migrate()
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)

    def close(self) -> None:
        """Let go of the file."""
        self.engine.dispose()

    @contextmanager
    def transaction(self) -> Iterator[Session]:
        """A session that commits at the end, or leaves everything as it was. Writers queue (BEGIN IMMEDIATE)."""
        try:
            with self._sessions.begin() as session:
                yield session
        except OperationalError as error:
            raise StorageError("The record could not be written: is the disk full? Nothing was changed.") from error

    def _migrate(self) -> None:
        config = alembic_config(self.url)
        scripts = ScriptDirectory.from_config(config)
        with self.engine.connect() as connection:
            current = MigrationContext.configure(connection).get_current_revision()
        head = scripts.get_current_head()
        if current == head:
            return
        known = {script.revision for script in scripts.walk_revisions()}
        if current is not None and current not in known:
            raise NewerDatabaseError(
                f"The record in {self.path} was written by a later release of Orexis: open it with that release or a newer one."
            )
        if current is not None:
            shutil.copy2(self.path, self.path.with_suffix(f".before-{head}.db"))
        with self.engine.begin() as connection:
            config.attributes["connection"] = connection
            command.upgrade(config, "head")


def _engine(url: str) -> Engine:
    engine = create_engine(url, connect_args={"timeout": 10.0})

    @event.listens_for(engine, "connect")
    def _on_connect(connection: DBAPIConnection, _: ConnectionPoolEntry) -> None:
        # The driver's own transaction handling would begin too late; SQLAlchemy's "begin" event does it instead.
        connection.isolation_level = None
        cursor = connection.cursor()
        cursor.execute("PRAGMA journal_mode=WAL")
        cursor.execute("PRAGMA synchronous=NORMAL")
        cursor.execute("PRAGMA foreign_keys=ON")
        cursor.close()

    @event.listens_for(engine, "begin")
    def _on_begin(connection: object) -> None:
        connection.exec_driver_sql("BEGIN IMMEDIATE")  # type: ignore[attr-defined]

    return engine
