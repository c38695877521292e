"""What lists show of each session: made from its state and the takes of it that count."""

from collections.abc import Iterable
from dataclasses import replace
from typing import Any

from sqlalchemy import select, update
from sqlalchemy.orm import Session

from orexis.core.practice import SessionState
from orexis.services.clock import utc
from orexis.services.documents import from_json, to_json
from orexis.services.values.sessions import SessionSummary, summary_of
from orexis.store.models import SessionRow, TakeRow


def with_thrown_away(state: SessionState, take_ids: Iterable[str]) -> SessionState:
    """The state with these of its takes thrown away, in the order in which they were played."""
    gone = frozenset(take_ids)
    return replace(state, thrown_away=tuple(take.take_id for take in state.takes if take.take_id in gone))


def rebuild_sessions(db: Session, player_ids: frozenset[str] | None = None) -> None:
    """The summaries of all sessions, or of some players'; a take that is not there any more shows nowhere."""
    mine = () if player_ids is None else (SessionRow.player_id.in_(player_ids),)
    kept = set(db.scalars(select(TakeRow.id).where(TakeRow.discarded_at.is_(None))))
    lasted = _lasted(db)
    for key, state_text, summary_text in db.execute(
        select(SessionRow.id, SessionRow.state, SessionRow.summary).where(*mine)
    ).all():
        state = from_json(SessionState, state_text)
        state = with_thrown_away(state, {take.take_id for take in state.takes} - kept)
        known_s = from_json(SessionSummary, summary_text).lasted_s  # of takes that are gone for good, too
        summary = summary_of(state, max(known_s, lasted.get(key, 0.0)))
        values: dict[str, Any] = {"state": to_json(state), "summary": to_json(summary), "played": bool(state.kept)}
        db.execute(update(SessionRow).where(SessionRow.id == key).values(**values))


def _lasted(db: Session) -> dict[str, float]:
    """By session, seconds from its beginning to the end of its last take."""
    lengths: dict[str, float] = {}
    times = select(TakeRow.session_id, SessionRow.started_at, TakeRow.started_at, TakeRow.duration_s).join(
        SessionRow, SessionRow.id == TakeRow.session_id
    )
    for key, began, at, duration_s in db.execute(times):
        until = (utc(at) - utc(began)).total_seconds() + duration_s
        lengths[key] = max(lengths.get(key, 0.0), until)
    return lengths
