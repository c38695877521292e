"""What several commands take."""

import json
from pathlib import Path
from typing import Any

import click

from orexis.core.messages import tell
from orexis.errors import ExerciseError

FILE = click.Path(path_type=Path)
DATA = click.option("--data", type=FILE, help="Data folder.")
INSTRUMENT = click.option("--instrument", "--horn", "instrument", default="trumpet-bb")
STANDARD = click.option(
    "--standard", "--stage", "standard", default="developing", help="beginner, developing, advanced or professional."
)


def print_json(value: Any) -> None:
    """Print a result on stdout."""
    print(json.dumps(value, indent=2, ensure_ascii=False))


def bytes_of(path: Path) -> bytes:
    """What a file holds; ExerciseError where it cannot be read."""
    try:
        return path.read_bytes()
    except OSError as error:
        raise ExerciseError(tell("{path} cannot be read: {why}.", path=path, why=error.strerror)) from error
