"""Figures as JSON: the documented form of docs/formats.md, checked on reading."""

import json
from dataclasses import replace

from pydantic import TypeAdapter, ValidationError

from orexis.core.earlier_names import with_names_of_today
from orexis.core.figures import Figure, checked_figure
from orexis.core.horn import horn_named
from orexis.errors import FigureError, PitchError

MAX_JSON_BYTES = 1_000_000
_SCHEMA = 2  # 1 had measures by other names: see core/earlier_names.py
_FIGURE: TypeAdapter[Figure] = TypeAdapter(Figure)


def figure_to_json(figure: Figure) -> bytes:
    """Return an exercise as indented JSON, UTF-8."""
    return _FIGURE.dump_json(figure, indent=2)


def figure_from_json(data: bytes | str) -> Figure:
    """Read and check a figure; FigureError says what is wrong with it."""
    if len(data) > MAX_JSON_BYTES:
        raise FigureError("The exercise file is larger than 1 MB: an exercise is one take's worth of notes.")
    try:
        figure = checked_figure(_FIGURE.validate_python(with_names_of_today(json.loads(data))))
    except (json.JSONDecodeError, UnicodeDecodeError, RecursionError) as error:
        raise FigureError(f"This is no exercise: it is no JSON ({str(error)[:80]}).") from error
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"]) or "the file"
        raise FigureError(f"This is no exercise: {place}: {first['msg'].lower()}.") from error
    except PitchError as error:
        raise FigureError(f"This is no exercise: {error}") from error
    if not 1 <= figure.schema <= _SCHEMA:
        raise FigureError(f"The exercise has form {figure.schema}: this release reads forms 1 to {_SCHEMA}.")
    horn_named(figure.horn)
    return replace(figure, schema=_SCHEMA)
