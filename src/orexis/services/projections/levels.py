"""Exercises by day, and the level that a player stands on in each, with every day but the latest taken in.

The first take of a new day moves the levels by the day before it, so that a page which asks where a player stands reads one row
an exercise and the days since. Each day is taken in by the terms of the last session in which it was played: who changes their
range in between is not moved on days that are past.
"""

from collections.abc import Iterable
from typing import Any

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from orexis.core.coach import Standard
from orexis.core.planning import ExerciseTypeDay, TakeFact, follow_days, with_take
from orexis.core.planning.levels import ByHand, PathOn
from orexis.core.progress import Path, PathPosition, path_of
from orexis.services.documents import all_from_json, from_json, to_json
from orexis.services.projections.kept_take import ORDER, KeptTake, Owner, takes_that_count, terms_of_take
from orexis.store.models import ExerciseTypeDayRow, PathPlaceRow, SessionRow, TakeRow


class Levels:
    """A row for each exercise and day, and one for each exercise with its level."""

    name, version = "levels", 12
    tables: tuple[Any, ...] = (ExerciseTypeDayRow, PathPlaceRow)

    def apply(self, db: Session, take: KeptTake) -> None:
        """Count the take in its exercise's day; before the first of a new day the levels take in the day before."""
        if take.row.fact is None:
            return
        owner, day = take.owner, take.row.day
        latest = latest_day(db, owner)
        _refresh_day(db, owner, day, take.row.exercise_type)
        if latest is not None and day > latest:
            for exercise_type in _exercise_types_of(db, owner):
                self._move(db, owner, exercise_type, known=True, since=latest, before=day)
        elif latest is not None and day < latest:
            self._move(db, owner, take.row.exercise_type, known=False, since=0, before=latest)

    def retract(self, db: Session, take: KeptTake) -> None:
        """Its day without the take, and the levels that it had moved."""
        if take.row.fact is None:
            return
        owner, before = take.owner, latest_day(db, take.owner)
        _refresh_day(db, owner, take.row.day, take.row.exercise_type)
        latest = latest_day(db, owner)
        if latest != before:
            self._move_all(db, owner, latest)
        elif latest is not None and take.row.day < latest:
            self._move(db, owner, take.row.exercise_type, known=False, since=0, before=latest)

    def begin(self, db: Session, owner: Owner) -> None:
        """Forget everything of an owner but what they set by hand."""
        db.execute(delete(ExerciseTypeDayRow).filter_by(**owner.key))

    def collect(self, db: Session, take: KeptTake) -> None:
        """Days are made when all takes are there."""

    def finish(self, db: Session, owner: Owner) -> None:
        """Every exercise on every day, then the levels."""
        days = (
            select(TakeRow.day, TakeRow.exercise_type)
            .where(*takes_that_count(owner), TakeRow.fact.is_not(None))
            .distinct()
        )
        for day, exercise_type in db.execute(days).all():
            _refresh_day(db, owner, day, exercise_type)
        self._move_all(db, owner, latest_day(db, owner))

    def set_by_hand(self, db: Session, owner: Owner, exercise_type: str, step: int, day: int) -> None:
        """The player's own word, kept beside the level; it holds from the next day of practice on."""
        row = db.get(PathPlaceRow, (*owner.key.values(), exercise_type))
        by_hand = from_json(ByHand, row.by_hand) if row is not None else ()
        standing = from_json(PathPosition, row.standing) if row is not None and row.standing else None
        _put_level(db, owner, exercise_type, standing, (*by_hand, (day, step)))
        latest = latest_day(db, owner)
        if latest is not None and day < latest:  # the clock was put back
            self._move(db, owner, exercise_type, known=False, since=0, before=latest)

    def _move_all(self, db: Session, owner: Owner, latest: int | None) -> None:
        for exercise_type in _exercise_types_of(db, owner):
            self._move(db, owner, exercise_type, known=False, since=0, before=latest or 0)

    def _move(self, db: Session, owner: Owner, exercise_type: str, *, known: bool, since: int, before: int) -> None:
        """An exercise's level from its days in a span; from what is known of it, or from its beginning."""
        row = db.get(PathPlaceRow, (*owner.key.values(), exercise_type))
        by_hand = from_json(ByHand, row.by_hand) if row is not None else ()
        standing = from_json(PathPosition, row.standing) if known and row is not None and row.standing else None
        days = [
            day for day in exercise_type_days(db, owner, since=since, exercise_type=exercise_type) if day.day < before
        ]
        if days:
            standing = follow_days(
                standing, _paths(db, owner, exercise_type, since=since, before=before), days, by_hand
            )
        if standing is not None or by_hand:
            _put_level(db, owner, exercise_type, standing, by_hand)
        else:
            db.execute(delete(PathPlaceRow).filter_by(**owner.key, exercise_type=exercise_type))


def exercise_type_days(
    db: Session, owner: Owner, *, since: int, exercise_type: str | None = None
) -> tuple[ExerciseTypeDay, ...]:
    """Days by exercise from a day on, the oldest first; of one exercise only where it is named."""
    row = ExerciseTypeDayRow
    query = select(row.stats_json).where(
        row.player_id == owner.player_id, row.instrument == owner.instrument, row.day >= since
    )
    if exercise_type is not None:
        query = query.where(row.exercise_type == exercise_type)
    return all_from_json(ExerciseTypeDay, db.scalars(query.order_by(row.day, row.exercise_type)))


def latest_day(db: Session, owner: Owner) -> int | None:
    """The latest day on which any exercise was played."""
    return db.scalar(select(func.max(ExerciseTypeDayRow.day)).filter_by(**owner.key))


def _exercise_types_of(db: Session, owner: Owner) -> list[str]:
    played = select(ExerciseTypeDayRow.exercise_type).filter_by(**owner.key)
    placed = select(PathPlaceRow.exercise_type).filter_by(**owner.key)
    return sorted(db.scalars(played.union(placed)))


def _refresh_day(db: Session, owner: Owner, day: int, exercise_type: str) -> None:
    row = TakeRow
    query = (
        select(row.fact)
        .where(*takes_that_count(owner), row.day == day, row.exercise_type == exercise_type, row.fact.is_not(None))
        .order_by(*ORDER)
    )
    told: ExerciseTypeDay | None = None
    for text in db.scalars(query):
        told = with_take(told, from_json(TakeFact, text or ""))
    if told is None:
        db.execute(delete(ExerciseTypeDayRow).filter_by(**owner.key, day=day, exercise_type=exercise_type))
    else:
        db.merge(ExerciseTypeDayRow(**owner.key, day=day, exercise_type=exercise_type, stats_json=to_json(told)))
    db.flush()


def _paths(db: Session, owner: Owner, exercise_type: str, *, since: int, before: int) -> PathOn:
    """The path and the player's level on each day in a span, by the terms under which its last take was played."""
    columns = (TakeRow.day, TakeRow.instrument, TakeRow.part, TakeRow.a4_hz, TakeRow.standard, SessionRow.terms)
    query = (
        select(*columns)
        .join(SessionRow, SessionRow.id == TakeRow.session_id)
        .where(*takes_that_count(owner), TakeRow.exercise_type == exercise_type, TakeRow.fact.is_not(None))
        .where(TakeRow.day >= since, TakeRow.day < before)
        .order_by(*ORDER)
    )
    by_day = {values.day: values for values in db.execute(query)}

    def path_on(day: int) -> tuple[Path, Standard] | None:
        values = by_day[day]
        terms = terms_of_take(values, values.terms)
        path = path_of(exercise_type, terms.own_instrument)
        return None if path is None else (path, terms.standard)

    return path_on


def _put_level(
    db: Session, owner: Owner, exercise_type: str, standing: PathPosition | None, by_hand: Iterable[Any]
) -> None:
    text = to_json(standing) if standing is not None else None
    db.merge(
        PathPlaceRow(**owner.key, exercise_type=exercise_type, standing=text, by_hand=to_json(tuple(by_hand), ByHand))
    )
    db.flush()
