"""Everything in again: into an empty folder, or beside what is there.

First the whole file is read and checked against its manifest; then sound is laid down under names of its own; then the rows are worked
out on a copy of the record, and join it in one short transaction (`join.py`), so that nobody who plays meanwhile waits. A kill at any
moment leaves the record as it was, and at most sound that no take names; stopped, not even that. What is here already is never
overwritten: a row with the same id stays, and is counted as kept where it differs.
"""

import contextlib
import os
import re
import shutil
import sqlite3
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from orexis.core.messages import tell
from orexis.errors import ConflictError, InputError, StorageError
from orexis.services.archive.backup import back_up
from orexis.services.archive.exporter import FORMAT, SCHEMA
from orexis.services.archive.join import OutdatedError, lay_in, state_of, working_copy
from orexis.services.archive.rows import add_rows, check_blocks, check_in_hand, checked_rows
from orexis.services.archive.tables import TABLES, ExportedTable
from orexis.services.archive.zip_files import PIECE, Report, Shape, check_sums, manifest_of, read_lines
from orexis.services.projections.rebuild import fill_played_before, keep_versions, rebuild
from orexis.services.projections.sessions import rebuild_sessions
from orexis.services.record import Record
from orexis.services.values.takes import MOST_REMARKS
from orexis.store.earlier_levels import with_levels_of_today
from orexis.store.models import MarkRow, PlayerRow, SessionRow, TakeRow

SHAPE = Shape(
    "an export of Orexis",
    FORMAT,
    SCHEMA,
    re.compile(r"(?:[a-z_]+\.jsonl|sound/[0-9a-f]{2}/[0-9a-f]{32}\.flac|(?:exercises|figures)/[0-9a-f]{32}\.musicxml)"),
)
_WITH_LEVELS = ("takes", "places")
_SAID, _REMARKS = "analyses", "marks"  # files of what was heard in takes, and of words on them
_LEAST_FREE = 256 << 20  # stays free for playing
_ROWS = 400  # written at once, bounds memory
_TRIES = 3  # a player who practises all the while ends a take every minute or so
# Files whose rows others belong to, with the column by which those name them.
_PARENTS = {"players": "player_id", "sessions": "session_id", "takes": "take_id", "goals": "goal_id"}
_SCHEMA_OF_PLAYED_BEFORE = 3  # files of earlier ones do not say what was played before a take
_SCHEMA_OF_LEVELS = 7  # earlier ones number some levels otherwise
_FLAC = b"fLaC"


@dataclass(slots=True)
class ImportSummary:
    """What came of it, by table: rows added, those that were here already, and those that were here and differ."""

    added: dict[str, int] = field(default_factory=dict)
    same: dict[str, int] = field(default_factory=dict)
    kept: dict[str, int] = field(default_factory=dict)
    sounds: int = 0


def bring_in(record: Record, path: Path, *, report: Report = lambda said: None) -> ImportSummary:
    """Read an export. InputError where it is none, is damaged, or holds what cannot be."""
    try:
        with zipfile.ZipFile(path) as archive:
            manifest = manifest_of(archive, SHAPE)
            check_sums(archive, manifest["files"], report)
            return _bring(record, archive, manifest, report)
    except (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError) as error:
        raise InputError(
            tell("“{path}” is no export of Orexis, or it is damaged: {error}.", path=path.name[:40], error=error)
        ) from error
    except (IntegrityError, sqlite3.IntegrityError) as error:
        raise InputError("Something in this file belongs to nothing that is in it. Nothing was imported.") from error
    except OSError as error:
        raise StorageError(
            tell("The export could not be read or written: {strerror}.", strerror=error.strerror or error)
        ) from error


def _bring(record: Record, archive: zipfile.ZipFile, manifest: dict[str, Any], report: Report) -> ImportSummary:
    files = manifest["files"]
    ids = _checked(archive, files, report)
    if record.folder.exists() and has_players(record):
        back_up(record)
    sounds = [name for name in files if name.startswith("sound/")]
    stranger = next((name for name in sounds if Path(name).stem not in ids["take_id"]), None)
    if stranger is not None:
        raise InputError(tell("No take of this export names “{stranger}”. Nothing was imported.", stranger=stranger))
    _ask_for_space(record, sum(files[name]["size"] for name in sounds) + 2 * record.database.path.stat().st_size)
    with sounds_laid_down(record, archive, sounds, report) as fresh:
        for _ in range(_TRIES):
            with contextlib.suppress(OutdatedError):
                out = _joined(record, archive, manifest, frozenset(ids["player_id"]), report)
                out.sounds = len(fresh)
                return out
        raise ConflictError(
            "A player of this file is practising. Import it when they have finished. Nothing was imported."
        )


def _checked(archive: zipfile.ZipFile, files: dict[str, Any], report: Report) -> dict[str, set[str]]:
    """Every row once, before anything is written: by the column that names them, the ids there are. InputError where a row cannot be."""
    ids: dict[str, set[str]] = {column: set() for column in _PARENTS.values()}
    for part in TABLES:
        if name := part.name_in(files):
            report(tell("reading {file} ...", file=part.file))
            with closing(read_lines(archive, name)) as rows:
                for row in checked_rows(part, rows):
                    if part.file in _PARENTS:
                        ids[_PARENTS[part.file]].add(str(row["id"]))
                    if not part.derived and any(row[column] not in ids[column] for column in ids if column in row):
                        raise InputError(
                            tell(
                                "{file}: a row belongs to nothing that is in this file. Nothing was imported.",
                                file=part.file,
                            )
                        )
    return ids


def _joined(
    record: Record, archive: zipfile.ZipFile, manifest: dict[str, Any], players: frozenset[str], report: Report
) -> ImportSummary:
    """The rows worked out on a copy, and laid into the record. OutdatedError where one of the players practised meanwhile."""
    out = ImportSummary()
    with working_copy(record) as copy:
        with closing(sqlite3.connect(copy.path)) as db:
            before = state_of(db, players)
        with copy.reading() as db:
            first = not _anybody(db)
        with copy.writing() as db:
            _tables(db, archive, manifest, out, players, report)
        report("joining ...")
        lay_in(record, copy, players, before, first=first)
    return out


def _check_remarks(db: Session) -> None:
    """InputError where a take would have more remarks than anybody can add."""
    counted = select(MarkRow.take_id).group_by(MarkRow.take_id).having(func.count() > MOST_REMARKS).limit(1)
    if db.scalar(counted) is not None:
        raise InputError(
            tell(
                "A take of this export has more than {most_remarks} remarks. Nothing was imported.",
                most_remarks=MOST_REMARKS,
            )
        )


def _ask_for_space(record: Record, needed: int) -> None:
    """StorageError where the sound would fill the disk."""
    free = shutil.disk_usage(record.folder).free
    if needed + _LEAST_FREE > free:
        raise StorageError(
            tell(
                "The sound of this export needs {needed} MB, and {value} MB are free. Nothing was imported.",
                needed=needed >> 20,
                value=max(0, free - _LEAST_FREE) >> 20,
            )
        )


def _tables(
    db: Session,
    archive: zipfile.ZipFile,
    manifest: dict[str, Any],
    out: ImportSummary,
    came: frozenset[str],
    report: Report,
) -> None:
    files = manifest["files"]
    everybody_came = not _anybody(db)
    here = frozenset(db.scalars(select(TakeRow.id)))
    for part in TABLES:
        name = part.name_in(files)
        if name and not part.derived:
            report(f"{part.file} ...")
            with closing(read_lines(archive, name)) as rows:
                # What was said of a take that is here already stays as it is.
                fresh = (row for row in rows if row.get("take_id") not in here) if part.file == _SAID else rows
                checked = checked_rows(part, fresh)
                if int(manifest["schema"]) < _SCHEMA_OF_LEVELS and part.file in _WITH_LEVELS:
                    checked = map(with_levels_of_today, checked)
                _rows(db, part, checked, out)
                if part.file == _REMARKS:
                    _check_remarks(db)
    check_in_hand(db)
    check_blocks(db, SessionRow.player_id.in_(came))
    if int(manifest["schema"]) < _SCHEMA_OF_PLAYED_BEFORE:
        fill_played_before(db, came)
    # Summaries in the file are for other readers: what takes prove is made from the takes, here as everywhere.
    if out.added:
        rebuild(db, player_ids=came, report=report)
        rebuild_sessions(db, came)
    if everybody_came:
        keep_versions(db)


def _anybody(db: Session) -> bool:
    return db.scalar(select(PlayerRow.id).limit(1)) is not None


def has_players(record: Record) -> bool:
    """Whether anybody is in the record yet."""
    with record.database.reading() as db:
        return _anybody(db)


@contextmanager
def sounds_laid_down(
    record: Record, archive: zipfile.ZipFile, names: list[str], report: Report = lambda said: None
) -> Iterator[list[Path]]:
    """Sound under the names of its takes, before the rows that name them; what is here already stays.

    Gives the files that are new. Where what follows fails or is stopped, they go again.
    """
    fresh: list[Path] = []
    try:
        for number, name in enumerate(names):
            if number % 20 == 0:
                report(tell("sound {number} of {count} ...", number=number, count=len(names)))
            target = record.sound_path(Path(name).stem)
            if not target.exists():
                _lay_down(archive, name, target)
                fresh.append(target)
        yield fresh
    except BaseException:
        for target in fresh:
            target.unlink(missing_ok=True)
        raise


def _lay_down(archive: zipfile.ZipFile, name: str, target: Path) -> None:
    """Write one sound beside the others: the whole file, or none of it."""
    target.parent.mkdir(parents=True, exist_ok=True)
    unfinished = target.with_suffix(".part")
    try:
        with archive.open(name) as source, unfinished.open("wb") as out:
            head = source.read(PIECE)
            if not head.startswith(_FLAC):
                raise InputError(tell("“{name}” is no FLAC sound. Nothing was imported.", name=name))
            out.write(head)
            while piece := source.read(PIECE):
                out.write(piece)
        os.replace(unfinished, target)
    except BaseException:
        unfinished.unlink(missing_ok=True)
        raise


def _rows(db: Session, part: ExportedTable, rows: Iterator[dict[str, Any]], out: ImportSummary) -> None:
    counts = {"added": 0, "same": 0, "kept": 0}
    batch: list[dict[str, Any]] = []
    for row in rows:
        batch.append(row)
        if len(batch) == _ROWS:
            add_rows(db, part, batch, counts)
            batch = []
    if batch:
        add_rows(db, part, batch, counts)
    for name, count in counts.items():
        if count:
            getattr(out, name)[part.file] = count
