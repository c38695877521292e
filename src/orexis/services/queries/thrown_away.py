"""Takes thrown away that may still be brought back."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select

from orexis.core.coach import Outcome
from orexis.services.clock import now, utc
from orexis.services.record import Record
from orexis.store.models import TakeRow

KEPT_DAYS = 30  # after them a take is gone with its sound
_MOST = 200  # newest first: older ones are purged before anybody looks


@dataclass(frozen=True, slots=True)
class DiscardedTake:
    """A take that may still be brought back, and for how many days."""

    id: str
    title: str
    written: str
    outcome: Outcome
    started_at: datetime
    days_left: int


def thrown_away(record: Record, player_id: str) -> tuple[DiscardedTake, ...]:
    """Return the discarded takes that can still be restored, the latest first."""
    row, moment = TakeRow, now()
    query = (
        select(row.id, row.title, row.written, row.outcome, row.started_at, row.discarded_at)
        .where(row.player_id == player_id, row.discarded_at.is_not(None))
        .order_by(row.discarded_at.desc())
        .limit(_MOST)
    )
    with record.database.reading() as db:
        return tuple(
            DiscardedTake(key, title, written, Outcome(said), utc(at), max(0, KEPT_DAYS - (moment - utc(when)).days))
            for key, title, written, said, at, when in db.execute(query)
            if when is not None
        )
