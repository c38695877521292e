"""Figures as JSON: the documented form of docs/formats.md, checked on reading."""

from pydantic import TypeAdapter, ValidationError

from orexis.core.figures import Figure, checked_figure
from orexis.core.horn import horn_named
from orexis.errors import FigureError, PitchError

MAX_JSON_BYTES = 1_000_000
_FIGURE: TypeAdapter[Figure] = TypeAdapter(Figure)


def figure_to_json(figure: Figure) -> bytes:
    """Return an exercise as indented JSON, UTF-8."""
    return _FIGURE.dump_json(figure, indent=2)


def figure_from_json(data: bytes | str) -> Figure:
    """Read and check a figure; FigureError says what is wrong with it."""
    if len(data) > MAX_JSON_BYTES:
        raise FigureError("The figure file is larger than 1 MB: a figure is one take's worth of notes.")
    try:
        figure = checked_figure(_FIGURE.validate_json(data))
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"]) or "the file"
        raise FigureError(f"This is no figure: {place}: {first['msg'].lower()}.") from error
    except PitchError as error:
        raise FigureError(f"This is no figure: {error}") from error
    if figure.schema != 1:
        raise FigureError(f"The figure has form {figure.schema}: this release reads form 1.")
    horn_named(figure.horn)
    return figure
