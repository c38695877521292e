"""A record is brought up to date by Alembic. Apart from the database: it is loaded only where there is something to do."""

from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import Connection

_MIGRATIONS = Path(__file__).parent / "migrations"


def alembic_config(url: str) -> Config:
    """Alembic set up without an ini file."""
    config = Config()
    config.set_main_option("script_location", str(_MIGRATIONS))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


def known(url: str) -> frozenset[str]:
    """Return the versions that this release can bring up to date."""
    return frozenset(script.revision for script in ScriptDirectory.from_config(alembic_config(url)).walk_revisions())


def upgrade(url: str, connection: Connection) -> None:
    """Bring the record up to date on a connection that writes."""
    config = alembic_config(url)
    config.attributes["connection"] = connection
    command.upgrade(config, "head")
