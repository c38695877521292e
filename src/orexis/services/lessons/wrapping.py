"""A lesson or a review request as a file: a ZIP in open formats that any program can look into.

    exchange.json               who, to whom, words, and all that is no take
    players, instruments, sessions, blocks, takes, analyses, marks .jsonl    as in an export, of these takes only
    measures.csv                every note of them, for a spreadsheet
    exercises/<take>.musicxml   what was asked
    sound/ab/<take>.flac        as it was recorded
    manifest.json               last: a SHA-256 for each

Of a player goes: name, standard, the instrument. Settings, other takes, what was reported of lips or pain stay at home.
"""

from collections.abc import Callable, Iterable, Iterator
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from orexis.core.coach import Outcome, Standard
from orexis.core.exercises import Advance, Exercise, Load, Series
from orexis.core.instruments import INSTRUMENTS
from orexis.core.measures import Measures
from orexis.core.practice import BlockPlan, Phase, SessionState, TakeMark
from orexis.files.musicxml import exercise_to_musicxml
from orexis.services.archive.exporter import lines_of, rows_of, sound_name
from orexis.services.archive.tables import TABLES, ExportedTable
from orexis.services.archive.zip_files import Wrapping, dumped, pieces_of
from orexis.services.documents import from_json, plain
from orexis.services.paper.tables import TakeOfNotes, local_date, notes_lines
from orexis.services.record import Record
from orexis.services.values.lessons import ExchangeKind, Head
from orexis.services.values.players import Terms
from orexis.services.values.sessions import summary_of
from orexis.store.models import ExchangeRow, InstrumentRow, MarkRow, PlayerRow, TakeRow

FORMAT, SCHEMA, HEAD = "orexis-exchange", 3, "exchange.json"
EARLIER_FORMAT, EARLIER_HEAD = "orexis-parcel", "parcel.json"  # to schema 2
PARTS: dict[str, ExportedTable] = {part.file: part for part in TABLES}


def wrapped(
    record: Record, head: Head, take_ids: tuple[str, ...], *, sound: bool, sealed: Callable[[str], None]
) -> Iterator[bytes]:
    """The file, piece by piece. Without sound it is an answer: remarks only. `sealed` is told its checksum."""
    with Wrapping() as zipped, record.database.reading() as db:
        yield from zipped.packed(HEAD, iter([dumped(plain(head)).encode()]))
        if sound:
            yield from _takes(db, record, zipped, head, take_ids)
        marks = rows_of(db, PARTS["marks"], MarkRow.take_id.in_(take_ids))
        yield from zipped.packed("marks.jsonl", lines_of(marks))
        yield from zipped.sealed(format=FORMAT, schema=SCHEMA)
        sealed(zipped.checksum)


def _takes(db: Session, record: Record, zipped: Wrapping, head: Head, take_ids: tuple[str, ...]) -> Iterator[bytes]:
    wanted = TakeRow.id.in_(take_ids)
    takes = list(rows_of(db, PARTS["takes"], wanted))
    takes.sort(key=lambda row: take_ids.index(row["id"]))
    analyses = list(rows_of(db, PARTS["analyses"], PARTS["analyses"].table.c.take_id.in_(take_ids)))
    player = db.get_one(PlayerRow, head.player_id)
    instruments = [
        instrument
        for instrument in player.instruments
        if instrument.catalogue_id in {take["instrument"] for take in takes}
    ] or player.instruments[:1]
    files: dict[str, Iterable[dict[str, Any]]] = {
        "players": [_player(player, instruments[0])],
        "instruments": rows_of(
            db, PARTS["instruments"], InstrumentRow.id.in_([instrument.id for instrument in instruments])
        ),
        "sessions": [_session(head, takes)] if takes else [],
        "blocks": _blocks(head, takes),
        "takes": [_take(head, take, number) for number, take in enumerate(takes, 1)],
        "analyses": analyses,
    }
    for name, rows in files.items():
        yield from zipped.packed(f"{name}.jsonl", lines_of(iter(rows)))
    newest = {row["take_id"]: row["measures"] for row in analyses}
    measured = (
        (_about(take), from_json(Measures, dumped(newest[take["id"]]))) for take in takes if take["id"] in newest
    )
    yield from zipped.packed("measures.csv", (line.encode() for line in notes_lines(measured)))
    for take in takes:
        exercise, instrument = from_json(Exercise, dumped(take["exercise"])), INSTRUMENTS[take["instrument"]]
        xml = exercise_to_musicxml(exercise, instrument, instrument.part(take["part"]))
        yield from zipped.packed(f"exercises/{take['id']}.musicxml", iter([xml]))
    for take in takes:
        path = record.sound_path(take["id"])
        if path.exists():
            yield from zipped.as_it_lies(sound_name(take["id"]), pieces_of(path))


def _about(take: dict[str, Any]) -> TakeOfNotes:
    return TakeOfNotes(
        take["id"], local_date(datetime.fromisoformat(take["started_at"])), take["title"], take["written"]
    )


def _player(row: PlayerRow, instrument: InstrumentRow) -> dict[str, Any]:
    return {
        "id": row.id,
        "name": row.name,
        "standard": row.standard,
        "instrument_id": instrument.id,
        "created_at": row.created_at.isoformat(),
        "settings": {},
        "guest": True,
    }


def _take(head: Head, take: dict[str, Any], number: int) -> dict[str, Any]:
    """Of the exchange's one session, in which they stand one after another."""
    return {**take, "session_id": head.id, "number": number, "exercise_index": number - 1, "discarded_at": None}


def _session(head: Head, takes: list[dict[str, Any]]) -> dict[str, Any]:
    """One that has these takes and nothing else: what else was played then, and how it went, is nobody's business."""
    first = takes[0]
    title = head.review_request.title if head.review_request else head.lesson.title if head.lesson else ""
    block = BlockPlan(first["exercise_type"], title, "", Load.MEDIUM, Advance.IN_ORDER, len(takes))
    marks = tuple(
        TakeMark(take["id"], 0, index, Outcome(take["outcome"]), take["reason"], load=take["load"])
        for index, take in enumerate(takes)
    )
    playing_s, load = sum(take["playing_s"] for take in takes), sum(take["load"] for take in takes)
    state = SessionState((block,), phase=Phase.DONE, takes=marks, playing_s=playing_s, load=load)
    terms = Terms(first["instrument"], first["part"], first["a4_hz"], standard=Standard(first["standard"]))
    return {
        "id": head.id,
        "player_id": head.player_id,
        "exercise_type": first["exercise_type"],
        "title": title,
        "instrument": first["instrument"],
        "params": {},
        "terms": plain(terms),
        "state": plain(state),
        "summary": plain(summary_of(state)),
        "remark": "",
        "rest_since": None,
        "started_at": min(take["started_at"] for take in takes),
        "ended_at": max(take["started_at"] for take in takes),
        "played": True,
    }


def _blocks(head: Head, takes: list[dict[str, Any]]) -> list[dict[str, Any]]:
    if not takes:
        return []
    exercises = tuple(from_json(Exercise, dumped(take["exercise"])) for take in takes)
    series = Series(takes[0]["exercise_type"], takes[0]["instrument"], head.sender, exercises)
    return [{"session_id": head.id, "number": 0, "series": plain(series)}]


def head_of(row: ExchangeRow, told: Any, answer: Any = None) -> Head:
    """What the file says of itself."""
    lesson, review_request = (told, None) if row.kind == ExchangeKind.LESSON else (None, told)
    return Head(row.id, ExchangeKind(row.kind), row.sender, row.player_id, row.made_at, lesson, review_request, answer)
