"""Everything in again: into an empty folder, or beside what is there.

First the whole file is read and checked against its manifest; then sound is laid down under names of its own; then all rows are
written in one transaction. A kill at any moment leaves the record as it was, and at most sound that no take names. What is here
already is never overwritten: a row with the same id stays, and is counted as kept where it differs.
"""

import hashlib
import json
import os
import re
import zipfile
from collections.abc import Callable, Generator, Iterator
from contextlib import closing
from dataclasses import dataclass, field
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter, ValidationError
from sqlalchemy import Boolean, DateTime, Float, Integer, and_, delete, insert, select
from sqlalchemy.orm import Session

from orexis.core.horn import HORNS
from orexis.errors import InputError, StorageError
from orexis.services.moving.backup import back_up
from orexis.services.moving.tables import TABLES, Moved
from orexis.services.moving.taking import FORMAT, MANIFEST, SCHEMA, dumped
from orexis.services.reading.derive import RULES, TAKES, bring_up_to_date
from orexis.services.record import Record
from orexis.store.models import DerivedRow, PlayerRow

_ID = re.compile(r"[0-9a-f]{32}")
_NAME = re.compile(
    r"(?:[a-z_]+\.jsonl|sound/[0-9a-f]{2}/[0-9a-f]{32}\.flac|figures/[0-9a-f]{32}\.musicxml|manifest\.json)"
)
_MOST_FILES = 5_000_000
_MOST_MANIFEST = 1 << 30
_LONGEST_LINE = 64 << 20
_PIECE, _ROWS = 1 << 20, 400
_FLAC = b"fLaC"
Told = Callable[[str], None]


@dataclass(slots=True)
class Brought:
    """What came of it, by table: rows added, those that were here already, and those that were here and differ."""

    added: dict[str, int] = field(default_factory=dict)
    same: dict[str, int] = field(default_factory=dict)
    kept: dict[str, int] = field(default_factory=dict)
    sounds: int = 0
    rebuilt: bool = False


def bring_in(record: Record, path: Path, *, told: Told = lambda said: None) -> Brought:
    """Read an export. InputError where it is none, is damaged, or holds what cannot be."""
    try:
        with zipfile.ZipFile(path) as archive:
            manifest = _manifest(archive)
            _check(archive, manifest["files"], told)
            return _bring(record, archive, manifest, told)
    except (zipfile.BadZipFile, EOFError, NotImplementedError, RuntimeError) as error:
        raise InputError(f"“{path.name[:40]}” is no export of Orexis, or it is damaged: {error}.") from error
    except OSError as error:
        raise StorageError(f"The export could not be read or written: {error.strerror or error}.") from error


# -- looking at the file ----------------------------------------------------------------------------------------------------


def _manifest(archive: zipfile.ZipFile) -> dict[str, Any]:
    infos = archive.infolist()
    names = [info.filename for info in infos]
    if len(names) > _MOST_FILES or len(set(names)) != len(names):
        raise InputError("This file holds too many entries, or one of them twice: it is no export of Orexis.")
    strange = next((name for name in names if not _NAME.fullmatch(name)), None)
    if strange is not None:
        raise InputError(f"“{strange[:60]}” has no place in an export of Orexis.")
    if MANIFEST not in names or archive.getinfo(MANIFEST).file_size > _MOST_MANIFEST:
        raise InputError("This file has no manifest: it is no export of Orexis, or it was cut off.")
    try:
        manifest = json.loads(archive.read(MANIFEST))
        files = manifest["files"]
        good = manifest["format"] == FORMAT and set(files) | {MANIFEST} == set(names)
        sized = all(archive.getinfo(name).file_size == told["size"] for name, told in files.items())
        schema, rules = int(manifest["schema"]), int(manifest["rules"])
    except (ValueError, KeyError, TypeError, AttributeError) as error:
        raise InputError("The manifest of this file cannot be read: it is no export of Orexis.") from error
    if schema > SCHEMA or rules > RULES:
        raise InputError("This export was made by a later release of Orexis: bring it in with that one or a newer one.")
    if not good or not sized:
        raise InputError("What this file holds is not what its manifest says: it is damaged.")
    found: dict[str, Any] = manifest
    return found


def _check(archive: zipfile.ZipFile, files: dict[str, Any], told: Told) -> None:
    """Every byte against its sum, before anything is written."""
    for number, (name, said) in enumerate(files.items()):
        if number % 500 == 0:
            told(f"checking {number} of {len(files)} ...")
        digest = hashlib.sha256()
        with archive.open(name) as file:
            while piece := file.read(_PIECE):
                digest.update(piece)
        if digest.hexdigest() != said["sha256"]:
            raise InputError(
                f"“{name}” is damaged: its checksum is not the one in the manifest. Nothing was brought in."
            )


# -- writing it ------------------------------------------------------------------------------------------------------------


def _bring(record: Record, archive: zipfile.ZipFile, manifest: dict[str, Any], told: Told) -> Brought:
    out = Brought()
    files = manifest["files"]
    for part in TABLES:
        if (name := f"{part.file}.jsonl") in files:
            told(f"reading {part.file} ...")
            with closing(_read(archive, name)) as rows:
                for _ in _checked_rows(part, rows):
                    pass
    if record.folder.exists() and known_to(record):
        back_up(record)
    out.sounds = _sounds(record, archive, [name for name in files if name.startswith("sound/")], told)
    with record.database.writing() as db:
        known_players = set(db.scalars(select(PlayerRow.id)))
        both = known_players & set(_players(archive, files))
        for part in TABLES:
            name = f"{part.file}.jsonl"
            if name in files:
                told(f"{part.file} ...")
                with closing(_read(archive, name)) as rows:
                    _rows(db, part, rows, both, out)
        if (both and out.added.get("takes")) or int(manifest["rules"]) != RULES:
            db.execute(delete(DerivedRow).where(DerivedRow.name == TAKES))
            out.rebuilt = True
        elif not both:
            db.merge(DerivedRow(name=TAKES, rules=RULES))
    if out.rebuilt:
        told("summaries ...")
        bring_up_to_date(record)
    return out


def known_to(record: Record) -> bool:
    """Whether anybody is in the record yet."""
    with record.database.reading() as db:
        return db.scalar(select(PlayerRow.id).limit(1)) is not None


def _sounds(record: Record, archive: zipfile.ZipFile, names: list[str], told: Told) -> int:
    """Laid down before the rows that name them; one that is here already stays."""
    added = 0
    for number, name in enumerate(names):
        if number % 200 == 0:
            told(f"sound {number} of {len(names)} ...")
        target = record.sound_path(Path(name).stem)
        if target.exists():
            continue
        target.parent.mkdir(parents=True, exist_ok=True)
        unfinished = target.with_suffix(".part")
        with archive.open(name) as source, unfinished.open("wb") as out:
            head = source.read(_PIECE)
            if not head.startswith(_FLAC):
                raise InputError(f"“{name}” is no FLAC sound. Nothing was brought in.")
            out.write(head)
            while piece := source.read(_PIECE):
                out.write(piece)
        os.replace(unfinished, target)
        added += 1
    return added


def _players(archive: zipfile.ZipFile, files: dict[str, Any]) -> Iterator[str]:
    if "players.jsonl" in files:
        with closing(_read(archive, "players.jsonl")) as rows:
            yield from (str(row.get("id")) for row in rows)


def _read(archive: zipfile.ZipFile, name: str) -> Generator[dict[str, Any], None, None]:
    with archive.open(name) as file:
        number = 0
        while line := file.readline(_LONGEST_LINE + 1):
            number += 1
            try:
                if len(line) > _LONGEST_LINE:
                    raise ValueError("too long")
                row = json.loads(line)
                if not isinstance(row, dict):
                    raise ValueError("no object")
            except ValueError as error:
                raise InputError(f"Line {number} of {name} cannot be read: {error}. Nothing was brought in.") from error
            yield row


def _rows(db: Session, part: Moved, rows: Iterator[dict[str, Any]], both: set[str], out: Brought) -> None:
    counts = {"added": 0, "same": 0, "kept": 0}
    batch: list[dict[str, Any]] = []
    for row in _checked_rows(part, rows):
        if part.derived and row.get("player_id") in both:
            continue  # made anew from the takes of both
        batch.append(row)
        if len(batch) == _ROWS:
            _insert(db, part, batch, counts)
            batch = []
    if batch:
        _insert(db, part, batch, counts)
    for name, count in counts.items():
        if count:
            getattr(out, name)[part.file] = count


def _checked_rows(part: Moved, rows: Iterator[dict[str, Any]]) -> Iterator[dict[str, Any]]:
    adapters = {name: TypeAdapter(kind) for name, kind in part.values.items()}
    for raw in rows:
        yield _checked(part, raw, adapters)


def _checked(part: Moved, raw: dict[str, Any], adapters: dict[str, TypeAdapter[Any]]) -> dict[str, Any]:
    """A row with values of the types that its columns have; InputError names the table, the row and the column."""
    unknown = sorted(set(raw) - set(part.columns))
    if unknown:
        raise InputError(f"{part.file}: there is no “{unknown[0][:40]}” here. Nothing was brought in.")
    row: dict[str, Any] = {}
    for name in part.columns:
        column = part.table.c[name]
        value = raw.get(name)
        try:
            if value is None:
                if not column.nullable and (name in raw or column.default is None):
                    raise ValueError("it is missing")
                row[name] = None if column.nullable else getattr(column.default, "arg", None)
                continue
            row[name] = _value(column, value, adapters.get(name))
        except (ValueError, TypeError) as error:
            said = error.errors()[0]["msg"] if isinstance(error, ValidationError) else error
            which = str(raw.get(part.key[0]))[:40]
            raise InputError(
                f"{part.file}, {which}: {name} cannot be used ({said}). Nothing was brought in."
            ) from error
    if "horn" in row and row["horn"] not in HORNS:
        raise InputError(f"{part.file}: there is no horn “{str(row['horn'])[:30]}”. Nothing was brought in.")
    if part.key == ("id",) and not _ID.fullmatch(str(row.get("id"))):
        raise InputError(f"{part.file}: “{str(row.get('id'))[:40]}” is no id. Nothing was brought in.")
    return row


def _value(column: Any, value: Any, adapter: TypeAdapter[Any] | None) -> Any:
    if adapter is not None:
        text = dumped(value)
        adapter.validate_json(text)
        return text
    if isinstance(column.type, DateTime):
        return datetime.fromisoformat(str(value)).astimezone(UTC)
    kinds: tuple[type, ...] = (str,)
    if isinstance(column.type, Boolean):
        kinds = (bool,)
    elif isinstance(column.type, Integer):
        kinds = (int,)
    elif isinstance(column.type, Float):
        kinds = (int, float)
    if not isinstance(value, kinds) or (isinstance(value, bool) and bool not in kinds):
        raise ValueError(f"it should be {kinds[0].__name__}")
    return value


def _insert(db: Session, part: Moved, batch: list[dict[str, Any]], counts: dict[str, int]) -> None:
    known = {} if part.derived else _known(db, part, batch)
    fresh = []
    for row in batch:
        key = tuple(row.get(name) for name in part.key)
        if part.derived or key not in known:
            fresh.append(row)
            known[key] = row
        elif all(_alike(known[key].get(name), value) for name, value in row.items()):
            counts["same"] += 1
        else:
            counts["kept"] += 1
    if fresh:
        db.execute(insert(part.table), fresh)
        counts["added"] += len(fresh)


def _known(db: Session, part: Moved, batch: list[dict[str, Any]]) -> dict[tuple[Any, ...], dict[str, Any]]:
    """Rows that are here already under these keys."""
    first = part.table.c[part.key[0]]
    wanted = {row.get(part.key[0]) for row in batch}
    columns = [part.table.c[name] for name in part.columns]
    rest = [part.table.c[name].in_({row.get(name) for row in batch}) for name in part.key[1:2]]
    query = select(*columns).where(and_(first.in_(wanted), *rest))
    found = {}
    for values in db.execute(query):
        row = dict(zip(part.columns, values, strict=True))
        found[tuple(row[name] for name in part.key)] = row
    return found


def _alike(here: Any, there: Any) -> bool:
    if isinstance(here, datetime) and isinstance(there, datetime):
        return here.replace(tzinfo=UTC) == there.astimezone(UTC)
    if isinstance(here, str) and isinstance(there, str) and here != there and here[:1] in "{[":
        try:
            return bool(json.loads(here) == json.loads(there))
        except ValueError:
            return False
    return bool(here == there)
