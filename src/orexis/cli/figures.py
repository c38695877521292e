"""`orexis figure`: families listed, figures in every form."""

import dataclasses
from typing import Any

from orexis.core.figures import families_for, family_named
from orexis.core.horn import horn_named
from orexis.errors import FigureError


def families_json(horn_id: str) -> dict[str, Any]:
    """All families with their parameters for a horn."""
    horn = horn_named(horn_id)
    return {
        "schema": 1,
        "horn": horn.id,
        "families": [
            {
                "id": f.id,
                "name": f.name,
                "place": f.place,
                "purpose": f.purpose,
                "load": f.load,
                "serves": list(f.serves),
                "judged": list(f.judged),
                "params": [dataclasses.asdict(p) for p in f.specs(horn)],
            }
            for f in families_for(horn)
        ],
    }


def figure_bytes(family: str, horn_id: str, params: list[str], index: int, part_id: str | None, form: str) -> bytes:
    """One figure of the series in the form asked for."""
    from orexis.files.engraving import figure_to_svg
    from orexis.files.figure_json import figure_to_json
    from orexis.files.midi import figure_to_midi
    from orexis.files.musicxml import figure_to_musicxml

    horn = horn_named(horn_id)
    given = dict(_pair(text) for text in params)
    figures = family_named(family).series(horn, given).figures
    if not 0 <= index < len(figures):
        raise FigureError(f"The series has {len(figures)} exercises: choose 0 to {len(figures) - 1}.")
    figure, part = figures[index], horn.part(part_id)
    match form:
        case "json":
            return figure_to_json(figure) + b"\n"
        case "musicxml":
            return figure_to_musicxml(figure, horn, part)
        case "midi":
            return figure_to_midi(figure)
        case "svg":
            return figure_to_svg(figure, horn, part).encode()
    raise FigureError(f"There is no format “{form[:20]}”: choose json, musicxml, midi or svg.")


def _pair(text: str) -> tuple[str, str]:
    key, sign, value = text.partition("=")
    if not sign:
        raise FigureError(f"“{text[:40]}” is no parameter: write key=value.")
    return key, value
