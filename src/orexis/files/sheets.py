"""Sheets to be printed, as PDF: a heading, then parts with lines, pictures, a table.

Typst sets them. What is written comes to it as data, so that no name or remark is ever read as markup; engraved exercises are the
SVG of `orexis.files.engraving`. The same sheet gives the same bytes.
"""

import json
import tempfile
from dataclasses import asdict, dataclass
from pathlib import Path

import typst

from orexis.core.messages import tell
from orexis.errors import ExerciseError

_TEMPLATE = Path(__file__).with_name("sheets.typ")
_MOST_PARTS, _MOST_ROWS = 200, 2000


@dataclass(frozen=True, slots=True)
class Picture:
    """An SVG drawing, in percent of the line's width, with a word under it. Narrow ones stand side by side."""

    svg: str
    width: float = 100.0
    caption: str = ""


@dataclass(frozen=True, slots=True)
class SheetPart:
    """A part: its title with something at the right margin, lines, pictures, a table.

    `columns`: shares of the width; `align`: "left" or "right" for each.
    """

    title: str = ""
    right: str = ""
    lines: tuple[str, ...] = ()
    pictures: tuple[Picture, ...] = ()
    head: tuple[str, ...] = ()
    rows: tuple[tuple[str, ...], ...] = ()
    columns: tuple[float, ...] = ()
    align: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class PracticeSheet:
    """What is printed: title, a line under it, a foot on every page, the parts."""

    title: str
    under: str
    foot: str
    parts: tuple[SheetPart, ...]


def sheet_to_pdf(sheet: PracticeSheet) -> bytes:
    """A4 pages; ExerciseError where there is too much for a sheet."""
    if len(sheet.parts) > _MOST_PARTS or any(len(part.rows) > _MOST_ROWS for part in sheet.parts):
        raise ExerciseError(
            tell(
                "That is too much for a sheet: at most {most_parts} parts of {most_rows} rows.",
                most_parts=_MOST_PARTS,
                most_rows=_MOST_ROWS,
            )
        )
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        told = asdict(sheet)
        for number, part in enumerate(sheet.parts):
            for place, picture in enumerate(part.pictures):
                (folder / f"{number}-{place}.svg").write_text(picture.svg)
                told["parts"][number]["pictures"][place]["svg"] = f"{number}-{place}.svg"
        source = folder / "sheet.typ"
        source.write_text(_TEMPLATE.read_text())
        made = typst.compile(
            str(source), root=str(folder), ignore_system_fonts=True, sys_inputs={"sheet": json.dumps(told)}
        )
    return bytes(made)
