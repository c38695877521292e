"""Everything out: a ZIP of JSON lines and sound, the same record giving the same bytes.

    players.jsonl, horns.jsonl, ...   one JSON object a line, in a fixed order
    sound/ab/<take>.flac              as it lies
    figures/<id>.musicxml             kept figures once more, for other programs
    manifest.json                     last: schema, and for each file its size and SHA-256

Memory does not grow with the record: rows are read as they are written, sound in pieces. One reading transaction sees one moment of
it throughout.
"""

import hashlib
import io
import json
import os
import zipfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.figures import Figure
from orexis.core.horn import HORNS
from orexis.files.musicxml import figure_to_musicxml
from orexis.services.clock import utc
from orexis.services.codec import unpacked
from orexis.services.moving.tables import TABLES, Moved
from orexis.services.reading.derive import TAKES
from orexis.services.record import Record
from orexis.store.models import DerivedRow, OwnFigureRow, TakeRow

FORMAT, SCHEMA = "orexis-export", 1
MANIFEST = "manifest.json"
_PIECE = 1 << 20
_ROWS = 200
_EPOCH = (1980, 1, 1, 0, 0, 0)
Told = Callable[[str], None]


@dataclass(frozen=True, slots=True)
class Taken:
    """What was written: files, sounds, bytes."""

    files: int
    sounds: int
    size: int


def dumped(value: Any) -> str:
    """JSON in one way only."""
    return json.dumps(value, ensure_ascii=False, separators=(",", ":"), sort_keys=False)


class _Stream(io.RawIOBase):
    """Where the ZIP is written to: what came since is handed on. It cannot be sought in, so that any reader gets the same bytes."""

    def __init__(self) -> None:
        self._parts: list[bytes] = []

    def writable(self) -> bool:
        """Yes."""
        return True

    def write(self, data: Any) -> int:
        """Kept until it is taken."""
        self._parts.append(bytes(data))
        return len(data)

    def taken(self) -> bytes:
        """What came since."""
        out, self._parts = b"".join(self._parts), []
        return out


def taken_out(record: Record, *, told: Told = lambda said: None) -> Iterator[bytes]:
    """The export, piece by piece."""
    stream = _Stream()
    listed: dict[str, dict[str, Any]] = {}
    with zipfile.ZipFile(stream, "w", allowZip64=True) as archive, record.database.reading() as db:
        for part in TABLES:
            told(f"{part.file} ...")
            name, lines = f"{part.file}.jsonl", _lines(db, part)
            yield from _entry(archive, stream, listed, name, lines, zipfile.ZIP_DEFLATED)
        for name, pieces in _figures(db):
            yield from _entry(archive, stream, listed, name, pieces, zipfile.ZIP_DEFLATED)
        for number, key in enumerate(db.scalars(select(TakeRow.id).order_by(TakeRow.id))):
            if number % 500 == 0:
                told(f"sound {number} ...")
            path = record.sound_path(key)
            if path.exists():
                name = f"sound/{key[:2]}/{key}.flac"
                yield from _entry(archive, stream, listed, name, _pieces(path), zipfile.ZIP_STORED)
        rules = db.get(DerivedRow, TAKES)
        manifest = {"format": FORMAT, "schema": SCHEMA, "rules": rules.rules if rules else 0, "files": listed}
        yield from _entry(archive, stream, {}, MANIFEST, iter([dumped(manifest).encode()]), zipfile.ZIP_DEFLATED)
    yield stream.taken()


def write_export(record: Record, path: Path, *, told: Told = lambda said: None) -> Taken:
    """All or nothing: under another name until it is whole."""
    unfinished = path.with_name(f"{path.name}.part")
    try:
        with unfinished.open("wb") as out:
            for piece in taken_out(record, told=told):
                out.write(piece)
            out.flush()
            os.fsync(out.fileno())
        os.replace(unfinished, path)
    except BaseException:
        unfinished.unlink(missing_ok=True)
        raise
    with zipfile.ZipFile(path) as archive:
        names = archive.namelist()
    return Taken(len(names), sum(name.startswith("sound/") for name in names), path.stat().st_size)


def _entry(
    archive: zipfile.ZipFile,
    stream: _Stream,
    listed: dict[str, dict[str, Any]],
    name: str,
    pieces: Iterator[bytes],
    how: int,
) -> Iterator[bytes]:
    info = zipfile.ZipInfo(name, _EPOCH)
    info.compress_type, info.external_attr, info.create_system = how, 0o644 << 16, 3
    digest, size = hashlib.sha256(), 0
    with archive.open(info, "w", force_zip64=True) as out:
        for piece in pieces:
            digest.update(piece)
            size += len(piece)
            out.write(piece)
            yield stream.taken()
    listed[name] = {"size": size, "sha256": digest.hexdigest()}
    yield stream.taken()


def _lines(db: Session, part: Moved) -> Iterator[bytes]:
    """A table's rows as JSON lines; JSON columns stand inside as what they are."""
    columns = [part.table.c[name] for name in part.columns]
    query = select(*columns).order_by(*part.order).execution_options(yield_per=_ROWS)
    dates = {name for name in part.columns if "DATETIME" in str(part.table.c[name].type).upper()}
    for row in db.execute(query):
        found: dict[str, Any] = {}
        for name, value in zip(part.columns, row, strict=True):
            if name in part.values and value is not None:
                found[name] = json.loads(value)
            elif name in dates and value is not None:
                found[name] = utc(value).isoformat()
            else:
                found[name] = value
        yield (dumped(found) + "\n").encode()


def _figures(db: Session) -> Iterator[tuple[str, Iterator[bytes]]]:
    """Kept figures that are notes, as MusicXML."""
    query = select(OwnFigureRow.id, OwnFigureRow.horn, OwnFigureRow.figure).order_by(OwnFigureRow.id)
    for key, horn, text in db.execute(query).all():
        if text is not None and horn in HORNS:
            known = HORNS[horn]
            xml = figure_to_musicxml(unpacked(Figure, text), known, known.parts[0])
            yield f"figures/{key}.musicxml", iter([xml])


def _pieces(path: Path) -> Iterator[bytes]:
    with path.open("rb") as file:
        while piece := file.read(_PIECE):
            yield piece
