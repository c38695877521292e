"""Everything out: a ZIP of JSON lines and sound, the same record giving the same bytes.

    players.jsonl, instruments.jsonl, ...   one JSON object a line, in a fixed order
    sound/ab/<take>.flac              as it lies
    exercises/<id>.musicxml             kept exercises once more, for other programs
    manifest.json                     last: schema, and for each file its size and SHA-256

Memory does not grow with the record: rows are read as they are written, sound in pieces. One reading transaction sees one moment of
it throughout.
"""

import json
import os
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from sqlalchemy import ColumnElement, select
from sqlalchemy.orm import Session

from orexis.core.exercises import Exercise
from orexis.core.instruments import INSTRUMENTS
from orexis.core.messages import tell
from orexis.files.musicxml import exercise_to_musicxml
from orexis.services.archive.tables import TABLES, ExportedTable
from orexis.services.archive.zip_files import Report, Wrapping, dumped, pieces_of
from orexis.services.clock import utc
from orexis.services.documents import from_json
from orexis.services.record import Record
from orexis.store.models import OwnExerciseRow, TakeRow

FORMAT, SCHEMA = "orexis-export", 7
_ROWS = 200  # read at once, bounds memory


@dataclass(frozen=True, slots=True)
class ExportSummary:
    """What was written: files, sounds, bytes."""

    files: int
    sounds: int
    size: int


def taken_out(record: Record, *, report: Report = lambda said: None) -> Iterator[bytes]:
    """Yield the export, piece by piece."""
    with Wrapping() as zipped, record.database.reading() as db:
        for part in TABLES:
            report(f"{part.file} ...")
            yield from zipped.packed(f"{part.file}.jsonl", lines_of(rows_of(db, part)))
        for name, pieces in _exercises(db):
            yield from zipped.packed(name, pieces)
        for number, key in enumerate(db.scalars(select(TakeRow.id).order_by(TakeRow.id))):
            if number % 500 == 0:
                report(tell("sound {number} ...", number=number))
            path = record.sound_path(key)
            if path.exists():
                yield from zipped.as_it_lies(sound_name(key), pieces_of(path))
        yield from zipped.sealed(format=FORMAT, schema=SCHEMA)


def sound_name(take_id: str) -> str:
    """Where a take's sound lies in a file."""
    return f"sound/{take_id[:2]}/{take_id}.flac"


def write_export(record: Record, path: Path, *, report: Report = lambda said: None) -> ExportSummary:
    """All or nothing: under another name until it is whole."""
    unfinished = path.with_name(f"{path.name}.part")
    try:
        with unfinished.open("wb") as out:
            for piece in taken_out(record, report=report):
                out.write(piece)
            out.flush()
            os.fsync(out.fileno())
        os.replace(unfinished, path)
    except BaseException:
        unfinished.unlink(missing_ok=True)
        raise
    with zipfile.ZipFile(path) as archive:
        names = archive.namelist()
    return ExportSummary(len(names), sum(name.startswith("sound/") for name in names), path.stat().st_size)


def rows_of(db: Session, part: ExportedTable, *only: ColumnElement[bool]) -> Iterator[dict[str, Any]]:
    """A table's rows, all or some; JSON columns stand inside as what they are."""
    columns = [part.table.c[name] for name in part.columns]
    query = select(*columns).where(*only).order_by(*part.order).execution_options(yield_per=_ROWS)
    dates = {name for name in part.columns if "DATETIME" in str(part.table.c[name].type).upper()}
    for row in db.execute(query):
        line: dict[str, Any] = {}
        for name, value in zip(part.columns, row, strict=True):
            if name in part.values and value is not None:
                line[name] = json.loads(value)
            elif name in dates and value is not None:
                line[name] = utc(value).isoformat()
            else:
                line[name] = value
        yield line


def lines_of(rows: Iterator[dict[str, Any]]) -> Iterator[bytes]:
    """Yield rows as JSON lines, UTF-8."""
    return ((dumped(row) + "\n").encode() for row in rows)


def _exercises(db: Session) -> Iterator[tuple[str, Iterator[bytes]]]:
    """Kept exercises that are notes, as MusicXML."""
    query = select(OwnExerciseRow.id, OwnExerciseRow.instrument, OwnExerciseRow.exercise).order_by(OwnExerciseRow.id)
    for key, instrument, text in db.execute(query).all():
        if text is not None and instrument in INSTRUMENTS:
            known = INSTRUMENTS[instrument]
            xml = exercise_to_musicxml(from_json(Exercise, text), known, known.parts[0])
            yield f"exercises/{key}.musicxml", iter([xml])
