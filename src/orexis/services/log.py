"""Reading the record: the log, one take, its trace and its sound; discarding with an undo."""

from pathlib import Path
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import selectinload

from orexis.core.trace import Trace, track
from orexis.errors import MissingError
from orexis.files.soundfiles import read_sound
from orexis.services.clock import now
from orexis.services.practice import Practice
from orexis.services.rows import log_session_of, take_of, utc
from orexis.services.values import LogSession, Take
from orexis.store.models import SessionRow, TakeRow

_MOST_SESSIONS = 200


def sessions(practice: Practice, player_id: str, *, limit: int = 50, offset: int = 0) -> tuple[LogSession, ...]:
    """The player's sessions that have takes, newest first."""
    query = (
        select(SessionRow)
        .where(SessionRow.player_id == player_id, SessionRow.takes.any(TakeRow.discarded_at.is_(None)))
        .options(selectinload(SessionRow.takes).selectinload(TakeRow.analyses))
        .order_by(SessionRow.started_at.desc())
        .limit(max(1, min(limit, _MOST_SESSIONS)))
        .offset(max(0, offset))
    )
    with practice.database.transaction() as db:
        return tuple(log_session_of(row) for row in db.scalars(query))


def take(practice: Practice, take_id: str) -> Take:
    """One take, discarded or not."""
    with practice.database.transaction() as db:
        row = db.get(TakeRow, take_id)
        if row is None:
            raise MissingError("There is no such take: it may have been deleted.")
        return take_of(row, row.session.player_id)


def takes_like(practice: Practice, take_id: str, *, most: int = 12) -> list[dict[str, Any]]:
    """Takes of the same figure by the same player, the newest first, the take itself left out."""
    with practice.database.transaction() as db:
        row = db.get(TakeRow, take_id)
        if row is None:
            raise MissingError("There is no such take: it may have been deleted.")
        query = (
            select(TakeRow)
            .join(SessionRow)
            .where(SessionRow.player_id == row.session.player_id, TakeRow.horn == row.horn, TakeRow.id != take_id)
            .where(TakeRow.discarded_at.is_(None), TakeRow.figure["id"].as_string() == row.figure["id"])
            .order_by(TakeRow.started_at.desc())
            .limit(most)
        )
        return [
            {"id": r.id, "number": r.number, "started_at": utc(r.started_at), "outcome": r.analyses[-1].outcome}
            for r in db.scalars(query)
            if r.analyses
        ]


def sound_file(practice: Practice, take_id: str) -> Path:
    """The take's FLAC file."""
    path = practice.sound_path(take(practice, take_id).id)
    if not path.exists():
        raise MissingError("The sound of this take is not in the data folder; its measures are.")
    return path


def trace(practice: Practice, take_id: str) -> Trace:
    """The take's trace, tracked again from its sound: the same code gives the same numbers."""
    return track(read_sound(sound_file(practice, take_id)))


def discard(practice: Practice, take_id: str, *, discarded: bool) -> Take:
    """Throw a take away, or bring it back."""
    with practice.database.transaction() as db:
        row = db.get(TakeRow, take_id)
        if row is None:
            raise MissingError("There is no such take: it may have been deleted.")
        row.discarded_at = now() if discarded else None
        return take_of(row, row.session.player_id)


def remark(practice: Practice, take_id: str, text: str) -> Take:
    """The player's own words on a take."""
    with practice.database.transaction() as db:
        row = db.get(TakeRow, take_id)
        if row is None:
            raise MissingError("There is no such take: it may have been deleted.")
        row.remark = text[:2000]
        return take_of(row, row.session.player_id)
