"""Measures by day and by week, as rows: a day in one, kept in the transaction of the take that changes it.

A week is the mean of its days, made from them in the same transaction, so that a long span reads fifty rows.
"""

from collections.abc import Iterable

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from orexis.core.planning import monday
from orexis.core.trends import DayPoint
from orexis.services.codec import packed, unpacked
from orexis.store.models import MeasureDayRow, MeasureWeekRow

Told = dict[str, tuple[float, float, float, int]]  # by measure: a quarter, a half, three quarters of the way; takes
Kept = type[MeasureDayRow] | type[MeasureWeekRow]


def keep_day(db: Session, player_id: str, horn: str, day: int, told: Told) -> None:
    """What a day's takes came to, instead of what was there; its week follows."""
    key = {"player_id": player_id, "horn": horn}
    _put(db, MeasureDayRow, {**key, "day": day}, told)
    start, row = monday(day), MeasureDayRow
    query = select(row.told).filter_by(**key).where(row.day.between(start, start + 6))
    _put(db, MeasureWeekRow, {**key, "day": start}, week_of_days(unpacked(Told, text) for text in db.scalars(query)))


def week_of_days(days: Iterable[Told]) -> Told:
    """By measure the means over the days that have it; takes are summed."""
    found: dict[str, list[tuple[float, float, float, int]]] = {}
    for told in days:
        for name, values in told.items():
            found.setdefault(name, []).append(values)
    return {name: _mean(values) for name, values in found.items()}


def _mean(days: list[tuple[float, float, float, int]]) -> tuple[float, float, float, int]:
    low, middle, high = (round(sum(day[at] for day in days) / len(days), 3) for at in range(3))
    return low, middle, high, sum(day[3] for day in days)


def _put(db: Session, kept: Kept, key: dict[str, str | int], told: Told) -> None:
    if told:
        db.merge(kept(**key, told=packed(told)))
    else:
        db.execute(delete(kept).filter_by(**key))
    db.flush()


def points_of(
    db: Session, kept: Kept, player_id: str, horn: str, *, since: int, until: int | None = None
) -> dict[str, list[DayPoint]]:
    """By measure, its days or weeks in order, from a day on (a week by its Monday), up to one where it is given."""
    query = select(kept.day, kept.told).where(kept.player_id == player_id, kept.horn == horn, kept.day >= since)
    if until is not None:
        query = query.where(kept.day <= until)
    found: dict[str, list[DayPoint]] = {}
    for day, text in db.execute(query.order_by(kept.day)):
        for name, (low, middle, high, takes) in unpacked(Told, text).items():
            found.setdefault(name, []).append(DayPoint(day, low, middle, high, takes))
    return found


def middle_of_day(db: Session, player_id: str, horn: str, day: int, measure: str) -> float | None:
    """A measure's median on a day; None where no take had it."""
    row = db.get(MeasureDayRow, (player_id, horn, day))
    values = unpacked(Told, row.told).get(measure) if row is not None else None
    return values[1] if values is not None else None


def latest_middles(db: Session, player_id: str, horn: str, measure: str, *, days: int, looked_at: int) -> list[float]:
    """A measure's medians on the last days that have it, the latest first, among so many of practice."""
    row = MeasureDayRow
    query = select(row.told).where(row.player_id == player_id, row.horn == horn)
    texts = db.scalars(query.order_by(row.day.desc()).limit(looked_at))
    found = [values for text in texts if (values := unpacked(Told, text).get(measure)) is not None]
    return [middle for _, middle, _, _ in found[:days]]
