"""Opening a file from a teacher or a player: looked at whole before anything is written.

Who sent it becomes a *guest* of this household, unless they are somebody of it already; takes come in as that guest's, whatever the
file says of whose they are. Nothing that is here is changed: a take that is known stays, and remarks are only added.
"""

import re
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import closing
from dataclasses import replace
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter, ValidationError
from sqlalchemy import func, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from orexis.core.earlier_names import with_names_of_today
from orexis.core.exercises import Exercise, checked_exercise
from orexis.core.messages import tell
from orexis.core.practice import Phase, SessionState
from orexis.errors import InputError, OrexisError, StorageError
from orexis.files.strict_json import strict_json
from orexis.services.archive.exporter import sound_name
from orexis.services.archive.importer import sounds_laid_down
from orexis.services.archive.rows import add_rows, check_blocks, check_in_hand, checked_rows
from orexis.services.archive.zip_files import Shape, check_sums, checksum_of, manifest_of, read_lines
from orexis.services.clock import utc
from orexis.services.documents import from_json, to_json
from orexis.services.lessons.wrapping import EARLIER_FORMAT, EARLIER_HEAD, FORMAT, HEAD, PARTS, SCHEMA
from orexis.services.projections.kept_take import ORDER, load_take
from orexis.services.projections.rebuild import add_missing_facts
from orexis.services.projections.registry import apply_take
from orexis.services.record import Record
from orexis.services.takes.marks import check_mark
from orexis.services.values.lessons import (
    MOST_BYTES,
    MOST_ITEMS,
    MOST_TAKES,
    Answer,
    ExchangeDirection,
    ExchangeKind,
    Head,
    checked_name,
    checked_words,
)
from orexis.services.values.sessions import summary_of
from orexis.services.values.takes import MOST_REMARKS
from orexis.store.models import ExchangeRow, InstrumentRow, MarkRow, PlayerRow, SessionRow, TakeRow

SHAPE = Shape(
    "a lesson or recordings of Orexis",
    FORMAT,
    SCHEMA,
    re.compile(
        r"(?:exchange|parcel)\.json|(?:players|instruments|horns|sessions|blocks|takes|analyses|marks)\.jsonl|measures\.csv"
        r"|sound/[0-9a-f]{2}/[0-9a-f]{32}\.flac|(?:exercises|figures)/[0-9a-f]{32}\.musicxml"
    ),
    most_files=4 * MOST_TAKES + 20,
    most_bytes=MOST_BYTES,
    earlier_format=EARLIER_FORMAT,
)
_MOST_HEAD = 8 << 20  # the head of a lesson file names its takes, and holds no sound
_HEAD: TypeAdapter[Head] = TypeAdapter(Head)
_ID = re.compile(r"[0-9a-f]{32}")


class OpenedFile:
    """A file that was opened: what it says, and what came in."""

    def __init__(self, head: Head, checksum: str) -> None:
        self.head, self.checksum = head, checksum
        self.marks = 0
        self.skipped: list[str] = []


def opened(record: Record, path: Path, player_id: str) -> OpenedFile:
    """Open a file for a player. InputError where it is none of ours, is damaged, or holds what cannot be."""
    try:
        with zipfile.ZipFile(path) as archive:
            files = manifest_of(archive, SHAPE)["files"]
            check_sums(archive, files, lambda said: None)
            came = OpenedFile(_head(archive), checksum_of(files))
            _write(record, archive, set(files), came, player_id)
            return came
    except (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError) as error:
        raise InputError("This file is no lesson and no recordings of Orexis, or it is damaged.") from error
    except IntegrityError as error:
        raise InputError("Something in this file belongs to nothing that is in it. Nothing was imported.") from error
    except OSError as error:
        raise StorageError(
            tell("The file could not be read or written: {strerror}.", strerror=error.strerror or error)
        ) from error


def _head(archive: zipfile.ZipFile) -> Head:
    name = next((name for name in (HEAD, EARLIER_HEAD) if name in archive.namelist()), None)
    if name is None or archive.getinfo(name).file_size > _MOST_HEAD:
        raise InputError("This file does not say what it is: it is no lesson and no recordings of Orexis.")
    try:
        head = _HEAD.validate_python(with_names_of_today(strict_json(archive.read(name))))
    except (ValueError, RecursionError) as error:
        if not isinstance(error, ValidationError):
            raise InputError(
                tell("{name} is no JSON: {error}. Nothing was imported.", name=name, error=str(error)[:80])
            ) from error
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"])
        raise InputError(
            tell(
                "{name}: {where} cannot be used ({first}). Nothing was imported.",
                name=name,
                where=where,
                first=first["msg"],
            )
        ) from error
    told = head.lesson if head.kind == ExchangeKind.LESSON else head.review_request
    if told is None or not _ID.fullmatch(head.id) or not _ID.fullmatch(head.player_id):
        raise InputError("This file does not say what it is: it is no lesson and no recordings of Orexis.")
    checked_name(head.sender, "sender's name")
    checked_name(told.title, "title")
    checked_words(told.words)
    if head.answer is not None:
        checked_name(head.answer.by, "writer's name")
        checked_words(head.answer.words)
    if head.lesson is not None:
        lesson = head.lesson
        for part in (lesson.exercises, lesson.routines, lesson.goals, lesson.recordings):
            if len(part) > MOST_ITEMS:
                raise InputError(
                    tell(
                        "This lesson has {count} entries of one kind: {most_items} are the most.",
                        count=len(part),
                        most_items=MOST_ITEMS,
                    )
                )
            for item in part:
                checked_words(item.words)
    return head


def _write(record: Record, archive: zipfile.ZipFile, files: set[str], came: OpenedFile, player_id: str) -> None:
    """Sound first, under names of its own; then all rows at once."""
    head = came.head
    rows = {part: _rows(archive, part, name) for part, table in PARTS.items() if (name := table.name_in(files))}
    takes = _checked_takes(rows.get("takes", []), head)
    with record.database.reading() as db:
        known = set(db.scalars(select(TakeRow.id).where(TakeRow.id.in_([take["id"] for take in takes]))))
        here = db.get(PlayerRow, head.player_id)
        own, exchange = here is not None and not here.guest, db.get(ExchangeRow, head.id)
    fresh = [take for take in takes if take["id"] not in known]
    if own and fresh:
        came.skipped.append(
            tell("{count} takes of a player here are no longer in the data. They were left out.", count=len(fresh))
        )
        fresh = []
    if head.answer is not None and exchange is None and not _any_known(record, rows.get("marks", [])):
        raise InputError("This answers recordings that were not sent from here. Nothing was imported.")
    sounds = [name for name in (sound_name(take["id"]) for take in fresh) if name in files]
    with sounds_laid_down(record, archive, sounds), record.database.writing() as db:
        if head.answer is not None:
            _answered(db, head.id, head.answer)
        elif exchange is None:
            if not own and takes:
                _guest(db, head, rows, fresh)
            whose = player_id if head.kind == ExchangeKind.LESSON or not (own or takes) else head.player_id
            _kept(db, head, whose)
        came.marks = _marks(db, rows.get("marks", []), came)


def _rows(archive: zipfile.ZipFile, part: str, name: str) -> list[dict[str, Any]]:
    with closing(read_lines(archive, name)) as lines:
        return list(checked_rows(PARTS[part], _few(lines, name)))


def _few(lines: Iterator[dict[str, Any]], name: str) -> Iterator[dict[str, Any]]:
    """Only so many that memory stays small."""
    for number, line in enumerate(lines):
        if number >= 100 * MOST_TAKES:
            raise InputError(
                tell(
                    "There are more than {most_takes} lines in {name}. Nothing was imported.",
                    most_takes=100 * MOST_TAKES,
                    name=name,
                )
            )
        yield line


def _checked_takes(takes: list[dict[str, Any]], head: Head) -> list[dict[str, Any]]:
    """They become takes of the sender's, in the exchange's own session."""
    if len(takes) > MOST_TAKES:
        raise InputError(
            tell("This file holds {count} takes: {most_takes} are the most.", count=len(takes), most_takes=MOST_TAKES)
        )
    if len({take["instrument"] for take in takes}) > 1:
        raise InputError("The takes of this file are of different instruments. Nothing was imported.")
    own = {"session_id": head.id, "player_id": head.player_id, "discarded_at": None}
    return [{**take, **own, "exercise": to_json(from_outside(from_json(Exercise, take["exercise"])))} for take in takes]


def from_outside(exercise: Exercise) -> Exercise:
    """An exercise that somebody else's program wrote: within bounds, and engraved where it can be ended. ExerciseError where it is not."""
    return replace(checked_exercise(exercise), from_file=True)


def _guest(db: Session, head: Head, rows: dict[str, list[dict[str, Any]]], fresh: list[dict[str, Any]]) -> None:
    """The sender with the instrument they play, their session and what is new of their takes."""
    counts = {"added": 0, "same": 0, "kept": 0}
    people = [row for row in rows.get("players", []) if row["id"] == head.player_id][:1]
    instruments = [{**row, "player_id": head.player_id} for row in rows.get("instruments", [])]
    if db.get(PlayerRow, head.player_id) is None:
        if not people or people[0]["instrument_id"] not in {instrument["id"] for instrument in instruments}:
            raise InputError("This file does not say who played, or on which instrument. Nothing was imported.")
        guest = {**people[0], "name": checked_name(people[0]["name"], "name"), "settings": "{}", "guest": True}
        add_rows(db, PARTS["players"], [guest], counts)
    has = set(db.scalars(select(InstrumentRow.catalogue_id).where(InstrumentRow.player_id == head.player_id)))
    add_rows(
        db,
        PARTS["instruments"],
        [instrument for instrument in instruments if instrument["catalogue_id"] not in has],
        counts,
    )
    check_in_hand(db)
    if not fresh or db.get(SessionRow, head.id) is not None:
        return
    sessions = [{**row, "player_id": head.player_id} for row in rows.get("sessions", []) if row["id"] == head.id]
    blocks = [row for row in rows.get("blocks", []) if row["session_id"] == head.id]
    if len(sessions) != 1 or not blocks:
        raise InputError("The takes of this file belong to no session. Nothing was imported.")
    keys = {take["id"] for take in fresh}
    add_rows(db, PARTS["sessions"], [_with_only(sessions[0], fresh)], counts)
    add_rows(db, PARTS["blocks"], blocks, counts)
    check_blocks(db, SessionRow.id == head.id)
    add_rows(db, PARTS["takes"], fresh, counts)
    add_rows(db, PARTS["analyses"], [row for row in rows.get("analyses", []) if row["take_id"] in keys], counts)
    try:
        add_missing_facts(db)
        for row in db.scalars(select(TakeRow).where(TakeRow.id.in_(keys)).order_by(*ORDER)).all():
            apply_take(db, load_take(db, row))
    except (ValueError, OrexisError) as error:
        raise InputError(
            tell("The takes of this file cannot be read ({error}). Nothing was imported.", error=error)
        ) from error


def _with_only(session: dict[str, Any], fresh: list[dict[str, Any]]) -> dict[str, Any]:
    """The session of these takes: others came in an earlier one."""
    keys, began = {take["id"] for take in fresh}, session["started_at"]
    ends = ((take["started_at"] - began).total_seconds() + take["duration_s"] for take in fresh)
    lasted_s = max(0.0, *ends)
    state = from_json(SessionState, session["state"])
    if not state.plan:
        raise InputError("The takes of this file belong to no session. Nothing was imported.")
    takes = tuple(replace(take, block=0) for take in state.takes if take.take_id in keys)
    own = SessionState(state.plan[:1], phase=Phase.DONE, takes=takes, playing_s=state.playing_s, load=state.load)
    return {**session, "state": to_json(own), "summary": to_json(summary_of(own, lasted_s)), "ended_at": began}


def _kept(db: Session, head: Head, player_id: str) -> None:
    told = head.lesson if head.kind == ExchangeKind.LESSON else head.review_request
    db.add(
        ExchangeRow(
            id=head.id,
            player_id=player_id,
            kind=head.kind,
            way=ExchangeDirection.RECEIVED,
            sender=head.sender,
            made_at=utc(head.made_at),
            contents=to_json(told),
            answer=None,
            answered_by=None,
            answered_at=None,
        )
    )


def _answered(db: Session, exchange_id: str, answer: Answer) -> None:
    """Keep an answer where it is newer than the one that is there."""
    row = db.get(ExchangeRow, exchange_id)
    if row is None or row.way != ExchangeDirection.SENT:
        return
    if row.answered_at is None or utc(row.answered_at) <= utc(answer.at):
        row.answer, row.answered_by, row.answered_at = answer.words, answer.by, utc(answer.at)


def _any_known(record: Record, marks: list[dict[str, Any]]) -> bool:
    with record.database.reading() as db:
        query = select(TakeRow.id).where(TakeRow.id.in_([mark["take_id"] for mark in marks])).limit(1)
        return db.scalar(query) is not None


def _marks(db: Session, marks: list[dict[str, Any]], came: OpenedFile) -> int:
    """Those on takes that are here; how many are new."""
    wanted = {mark["take_id"] for mark in marks}
    lasted = db.execute(select(TakeRow.id, TakeRow.duration_s).where(TakeRow.id.in_(wanted))).all()
    lengths = {row.id: row.duration_s for row in lasted}
    good = [mark for mark in marks if mark["take_id"] in lengths]
    for mark in good:
        check_mark(
            mark["at_s"],
            nearer=mark["nearer"],
            words=mark["words"],
            by=mark["by"],
            duration_s=lengths[mark["take_id"]],
        )
    if len(good) < len(marks):
        came.skipped.append(
            tell("{count} remarks belong to takes that are not here. They were left out.", count=len(marks) - len(good))
        )
    counts = {"added": 0, "same": 0, "kept": 0}
    if good:
        add_rows(db, PARTS["marks"], good, counts)
        counted = select(func.count()).select_from(MarkRow).where(MarkRow.take_id.in_(wanted)).group_by(MarkRow.take_id)
        if any(count > MOST_REMARKS for count in db.scalars(counted)):
            raise InputError(
                tell(
                    "A take would have more than {most_remarks} remarks. Nothing was imported.",
                    most_remarks=MOST_REMARKS,
                )
            )
    return counts["added"]
