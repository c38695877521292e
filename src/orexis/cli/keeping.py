"""Commands for the record: out, in, copies, checks."""

from pathlib import Path

import click

from orexis.cli.options import DATA, FILE


@click.command("export")
@click.argument("file", type=FILE)
@DATA
def export_all(file: Path, data: Path | None) -> None:
    """Write everything into one file: players, instruments, sessions, takes with their sound."""
    from orexis.cli.moving import export

    export(file, data)


@click.command("import")
@click.argument("file", type=FILE)
@DATA
def import_all(file: Path, data: Path | None) -> None:
    """Read such a file into an empty folder, or beside what is there."""
    from orexis.cli.moving import bring

    bring(file, data)


@click.command()
@DATA
def backup(data: Path | None) -> None:
    """Copy the database; the last five copies are kept."""
    from orexis.cli.moving import copy

    copy(data)


@click.command()
@click.argument("copy", required=False)
@DATA
def restore(copy: str | None, data: Path | None) -> None:
    """Put an earlier copy of the database in its place; the present one is kept as a copy. Without a name: list the copies."""
    from orexis.cli.moving import back_to

    back_to(copy, data)


@click.command()
@DATA
@click.option("--mend", is_flag=True, help="Mend what can be mended.")
def check(data: Path | None, mend: bool) -> None:
    """Read database, journal and sound, and say what is wrong."""
    from orexis.cli.moving import look

    look(data, mend=mend)
