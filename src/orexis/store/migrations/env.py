"""Alembic's entry: runs on the connection it is given, or opens its own."""

from alembic import context
from sqlalchemy import Connection, create_engine

from orexis.store.models import Base


def _run(connection: Connection) -> None:
    context.configure(connection=connection, target_metadata=Base.metadata, render_as_batch=True)
    with context.begin_transaction():
        context.run_migrations()


given = context.config.attributes.get("connection")
if given is not None:
    _run(given)
else:
    with create_engine(context.config.get_main_option("sqlalchemy.url") or "").connect() as own:
        _run(own)
