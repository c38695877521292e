"""Measures by day and by week, read from what the projections keep: a day in one row, and a week in one."""

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.trends import DayPoint
from orexis.services.documents import DayStats, from_json
from orexis.store.models import MeasureDayRow, MeasureWeekRow

Kept = type[MeasureDayRow] | type[MeasureWeekRow]


def points_of(
    db: Session, kept: Kept, player_id: str, instrument: str, *, since: int, until: int | None = None
) -> dict[str, list[DayPoint]]:
    """By measure, its days or weeks in order, from a day on (a week by its Monday), up to one where it is given."""
    query = select(kept.day, kept.stats_json).where(
        kept.player_id == player_id, kept.instrument == instrument, kept.day >= since
    )
    if until is not None:
        query = query.where(kept.day <= until)
    points: dict[str, list[DayPoint]] = {}
    for day, text in db.execute(query.order_by(kept.day)):
        for name, (low, middle, high, takes) in from_json(DayStats, text).items():
            points.setdefault(name, []).append(DayPoint(day, low, middle, high, takes))
    return points


def middle_of_day(db: Session, player_id: str, instrument: str, day: int, measure: str) -> float | None:
    """A measure's median on a day; None where no take had it."""
    row = db.get(MeasureDayRow, (player_id, instrument, day))
    values = from_json(DayStats, row.stats_json).get(measure) if row is not None else None
    return values[1] if values is not None else None


def latest_middles(
    db: Session, player_id: str, instrument: str, measure: str, *, days: int, looked_at: int
) -> list[float]:
    """A measure's medians on the last days that have it, the latest first, among so many of practice."""
    row = MeasureDayRow
    query = select(row.stats_json).where(row.player_id == player_id, row.instrument == instrument)
    texts = db.scalars(query.order_by(row.day.desc()).limit(looked_at))
    latest = [values for text in texts if (values := from_json(DayStats, text).get(measure)) is not None]
    return [middle for _, middle, _, _ in latest[:days]]
