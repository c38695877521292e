"""The rest of a day chosen anew in its session: read from the record as it is now, written over the blocks not come to."""

from collections.abc import Iterable

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from orexis.core.exercises import Series
from orexis.core.messages import tell
from orexis.core.planning import CheckIn, ReplannedSession, replan_rest
from orexis.core.practice import BlockPlan, SessionState, left_by, loosening_due
from orexis.services.clock import utc
from orexis.services.documents import Params, from_json, to_json
from orexis.services.planning.use import Planning
from orexis.services.players.use import Players
from orexis.services.record import require_row
from orexis.services.sessions.lips import lips_today
from orexis.store.models import SessionBlockRow, SessionRow

ARRANGED, WITHOUT = "arranged", "without"  # parameters of a session


def day_title(plan: Iterable[BlockPlan]) -> str:
    """What a session of a planned day is called."""
    return tell("Practice of {sum} exercises", sum=sum(not block.spare for block in plan))


def replan_session_rest(
    db: Session, players: Players, planning: Planning, row: SessionRow, before: SessionState, after: SessionState
) -> ReplannedSession | None:
    """The rest of the day, where it gave way; None for a day that the player arranged, and for one on another instrument than
    the one in hand now.
    """
    params = from_json(Params, row.params)
    gives_way = left_by(before, after) is not None or loosening_due(before, after) is not None
    if ARRANGED in params or not gives_way:
        return None
    person = players.get(row.player_id)
    if person.instrument != row.instrument:
        return None
    moment = utc(row.started_at)
    lips = lips_today(db, row.player_id, moment)  # an earlier session of the day may have said spent
    known = planning.known(person, CheckIn(lips.felt, "quiet" in params, lips.no_heavy), moment)
    return replan_rest(known, before, after, without=filter(None, params.get(WITHOUT, "").split(",")))


def write_rest(db: Session, session_id: str, anew: ReplannedSession) -> None:
    """The series of the blocks that are chosen anew in the place of those that were to come; those that stay move along."""
    require_row(db, SessionRow, session_id, "session").title = day_title(anew.state.plan)
    row = SessionBlockRow
    after = row.session_id == session_id, row.number >= anew.first
    texts = {kept.number: kept.series for kept in db.execute(select(row.number, row.series).where(*after))}
    db.execute(delete(row).where(*after))
    for number, series in enumerate(anew.series, anew.first):
        text = to_json(series) if isinstance(series, Series) else texts[series]
        db.add(SessionBlockRow(session_id=session_id, number=number, series=text))
