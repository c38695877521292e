"""Read the rows of a session and its blocks as values, and write them back."""

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.exercises import Series
from orexis.core.practice import SessionState
from orexis.services.clock import utc
from orexis.services.documents import Params, from_json
from orexis.services.values.players import Terms
from orexis.services.values.sessions import PracticeSession
from orexis.store.models import SessionBlockRow, SessionRow

CHECK_BLOCK = -1  # the check note is no block of the plan


def session_of(db: Session, row: SessionRow) -> PracticeSession:
    """A session with the block it stands in; its other blocks are not read."""
    state = from_json(SessionState, row.state)
    blocks = select(SessionBlockRow.number, SessionBlockRow.series).where(
        SessionBlockRow.session_id == row.id, SessionBlockRow.number.in_((state.block, CHECK_BLOCK))
    )
    series = {number: from_json(Series, text) for number, text in db.execute(blocks)}
    return PracticeSession(
        id=row.id,
        player_id=row.player_id,
        exercise_type=row.exercise_type,
        title=row.title,
        instrument=row.instrument,
        params={key: str(value) for key, value in from_json(Params, row.params).items()},
        terms=from_json(Terms, row.terms),
        block=series[state.block],
        check=series.get(CHECK_BLOCK),
        state=state,
        started_at=utc(row.started_at),
        ended_at=utc(row.ended_at) if row.ended_at else None,
        rest_since=utc(row.rest_since) if row.rest_since else None,
    )
