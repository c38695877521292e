"""What was played on each day, and the middle of its measures: made from the day's takes whenever one comes or goes.

A day is never long, so it is always made from all of its takes; a week is the mean of its days.
"""

from collections.abc import Iterable
from typing import Any

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from orexis.core.coach import Outcome
from orexis.core.planning import TakeFact, monday
from orexis.services.documents import DayStats, from_json, to_json
from orexis.services.projections.kept_take import ORDER, KeptTake, Owner, takes_that_count
from orexis.store.models import MeasureDayRow, MeasureWeekRow, PracticeDayRow, SessionRow, TakeRow

MEASURES_OF_DAY = (
    "pitch_error_cents",
    "pitch_wobble_cents",
    "pitch_drift_cents",
    "hold_s",
)  # of a take: its furthest note's


class _DaySummary:
    """A summary whose rows are days."""

    tables: tuple[Any, ...]

    def apply(self, db: Session, take: KeptTake) -> None:
        """Make the take's day from its takes."""
        self._refresh(db, take.owner, take.row.day)

    def retract(self, db: Session, take: KeptTake) -> None:
        """Make the take's day from the takes that are left."""
        self._refresh(db, take.owner, take.row.day)

    def begin(self, db: Session, owner: Owner) -> None:
        """Delete what is summarised for an owner, before it is made again."""
        for table in self.tables:
            db.execute(delete(table).filter_by(**owner.key))

    def collect(self, db: Session, take: KeptTake) -> None:
        """Days are made when all takes are there."""

    def finish(self, db: Session, owner: Owner) -> None:
        """Every day on which a take counts."""
        for day in db.scalars(
            select(TakeRow.day).where(*takes_that_count(owner)).distinct().order_by(TakeRow.day)
        ).all():
            self._refresh(db, owner, day)

    def _refresh(self, db: Session, owner: Owner, day: int) -> None:
        raise NotImplementedError


class PracticeDays(_DaySummary):
    """Takes that were judged, the clean ones, seconds of tone, load, and how the day was planned."""

    name, version = "practice days", 12
    tables = (PracticeDayRow,)

    def _refresh(self, db: Session, owner: Owner, day: int) -> None:
        row, of_day = TakeRow, (*takes_that_count(owner), TakeRow.day == day)
        takes, held, playing_s, load = db.execute(
            select(
                func.count().filter(row.outcome != Outcome.DONE),
                func.count().filter(row.outcome == Outcome.CLEAN),
                func.sum(row.playing_s),
                func.sum(row.load),
            ).where(*of_day)
        ).one()
        if playing_s is None:
            db.execute(delete(PracticeDayRow).filter_by(**owner.key, day=day))
            return
        planned = func.coalesce(  # plain as version 1 was, or wrapped with its version
            func.json_extract(SessionRow.params, "$.value.kind"), func.json_extract(SessionRow.params, "$.kind")
        )
        kind = db.scalar(
            select(planned)
            .join(TakeRow, TakeRow.session_id == SessionRow.id)
            .where(*of_day, planned.is_not(None))
            .order_by(*(column.desc() for column in ORDER))
            .limit(1)
        )
        db.merge(
            PracticeDayRow(
                **owner.key,
                day=day,
                takes=takes,
                clean=held,
                playing_s=round(playing_s, 3),
                load=round(load, 3),
                kind=kind,
            )
        )
        db.flush()


class MeasureDays(_DaySummary):
    """The middle of each measure over the takes of a day, and of a week over its days."""

    name, version = "measures by day", 10
    tables = (MeasureDayRow, MeasureWeekRow)

    def _refresh(self, db: Session, owner: Owner, day: int) -> None:
        columns = [getattr(TakeRow, name) for name in MEASURES_OF_DAY]
        query = select(TakeRow.fact, *columns).where(*takes_that_count(owner), TakeRow.day == day)
        by_measure: dict[str, list[float]] = {}
        for fact, *values in db.execute(query):
            for name, value in zip(MEASURES_OF_DAY, values, strict=True):
                if value is not None:
                    by_measure.setdefault(name, []).append(abs(value))
            for name, value in (from_json(TakeFact, fact).values if fact else {}).items():
                by_measure.setdefault(name, []).append(value)
        put_day(
            db, owner, day, {name: (*_quarters(by_measure[name]), len(by_measure[name])) for name in sorted(by_measure)}
        )


def put_day(db: Session, owner: Owner, day: int, stats: DayStats) -> None:
    """Write what a day's takes came to; its week follows."""
    _put(db, MeasureDayRow, owner, day, stats)
    start, row = monday(day), MeasureDayRow
    days = select(row.stats_json).filter_by(**owner.key).where(row.day.between(start, start + 6)).order_by(row.day)
    _put(db, MeasureWeekRow, owner, start, week_of_days(from_json(DayStats, text) for text in db.scalars(days)))


def week_of_days(days: Iterable[DayStats]) -> DayStats:
    """By measure the means over the days that have it; takes are summed."""
    by_measure: dict[str, list[tuple[float, float, float, int]]] = {}
    for stats in days:
        for name, values in stats.items():
            by_measure.setdefault(name, []).append(values)
    return {name: _mean(by_measure[name]) for name in sorted(by_measure)}


def _mean(days: list[tuple[float, float, float, int]]) -> tuple[float, float, float, int]:
    low, middle, high = (round(sum(day[at] for day in days) / len(days), 3) for at in range(3))
    return low, middle, high, sum(day[3] for day in days)


def _quarters(values: list[float]) -> tuple[float, float, float]:
    """A quarter, a half and three quarters of the way through them, in between by a straight line."""
    ordered = sorted(float(value) for value in values)
    at = [share * (len(ordered) - 1) for share in (0.25, 0.5, 0.75)]
    pairs = [(ordered[int(place)], ordered[min(int(place) + 1, len(ordered) - 1)], place % 1.0) for place in at]
    low, middle, high = (round(a + (b - a) * part, 3) for a, b, part in pairs)
    return low, middle, high


def _put(
    db: Session, table: type[MeasureDayRow] | type[MeasureWeekRow], owner: Owner, day: int, stats: DayStats
) -> None:
    if stats:
        db.merge(table(**owner.key, day=day, stats_json=to_json(stats, DayStats)))
    else:
        db.execute(delete(table).filter_by(**owner.key, day=day))
    db.flush()
