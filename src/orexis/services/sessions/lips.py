"""How a player's lips are on a day, from its sessions and those of the day before."""

from datetime import datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.coach import Freshness, Lips, LipsToday
from orexis.services.clock import local_day, utc
from orexis.services.documents import Params, from_json
from orexis.services.values.sessions import SessionSummary
from orexis.store.models import SessionRow


def lips_today(db: Session, player_id: str, at: datetime) -> LipsToday:
    """What the day's sessions until then said of the lips, and whether yesterday's leave no heavy work to today."""
    begins = at.astimezone().replace(hour=0, minute=0, second=0, microsecond=0) - timedelta(days=1)
    query = (
        select(SessionRow.started_at, SessionRow.params, SessionRow.summary)
        .where(SessionRow.player_id == player_id, SessionRow.started_at >= begins, SessionRow.started_at <= at)
        .order_by(SessionRow.started_at)
    )
    today, yesterday = LipsToday(), False
    for started, params, text in db.execute(query):
        summary = from_json(SessionSummary, text)
        worn = Freshness.SPENT in summary.checks
        if local_day(utc(started)) < local_day(at):
            yesterday = yesterday or worn or summary.to_the_limit or summary.stopped is not None
            continue
        felt = from_json(Params, params).get("lips", today.felt)
        over = summary.heavy_over or today.heavy_over
        today = LipsToday(Lips(felt), today.spent or worn, summary.stopped or today.stopped, over)
    return LipsToday(today.felt, today.spent, today.stopped, today.heavy_over, yesterday)
