"""How a player's lips are on a day, from its sittings."""

from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.coach import Freshness, Lips, LipsToday
from orexis.services.documents import Params, from_json
from orexis.services.sessions.values import SessionSummary
from orexis.store.models import SessionRow


def lips_today(db: Session, player_id: str, at: datetime) -> LipsToday:
    """The last check-in, a check note that said spent, a report that ended everything: of the day's sittings until then."""
    begins = at.astimezone().replace(hour=0, minute=0, second=0, microsecond=0)
    query = (
        select(SessionRow.params, SessionRow.summary)
        .where(SessionRow.player_id == player_id, SessionRow.started_at >= begins, SessionRow.started_at <= at)
        .order_by(SessionRow.started_at)
    )
    today = LipsToday()
    for params, text in db.execute(query):
        summary = from_json(SessionSummary, text)
        felt = from_json(Params, params).get("lips", today.felt)
        spent = today.spent or Freshness.SPENT in summary.checks
        today = LipsToday(Lips(felt), spent, summary.stopped or today.stopped)
    return today
