"""What days remember, as rows: families by day, and standings on paths with every day but the latest taken in.

A take adds to its family's day in its own transaction. The first take of a new day moves the standings by the days
before it, so that a page which asks where a player stands reads one row a family and the days since.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from operator import attrgetter

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from orexis.core.coach import Stage
from orexis.core.horn import Instrument
from orexis.core.planning import FamilyDay, TakeFact, with_take
from orexis.core.progress import Path, Standing, entered, moved, path_of, placed_by_hand, stands
from orexis.services.codec import packed, unpacked
from orexis.store.models import FamilyDayRow, PathPlaceRow, TakeRow

ByHand = tuple[tuple[int, int], ...]
_Days = tuple[FamilyDay, ...]


@dataclass(frozen=True, slots=True)
class Whose:
    """A player with a horn: whose days and standings these are."""

    player_id: str
    horn: Instrument
    stage: Stage

    @property
    def key(self) -> dict[str, str]:
        """As columns."""
        return {"player_id": self.player_id, "horn": self.horn.id}


def family_days(db: Session, whose: Whose, *, since: int) -> tuple[FamilyDay, ...]:
    """Days by family from a day on, the oldest first."""
    row = FamilyDayRow
    # One text for all of them: joined by the database and checked at once they cost a third.
    texts = select(func.group_concat(row.told)).where(
        row.player_id == whose.player_id, row.horn == whose.horn.id, row.day >= since
    )
    found = unpacked(_Days, f"[{db.scalar(texts) or ''}]")
    return tuple(sorted(found, key=attrgetter("day", "family")))


def add_fact(db: Session, whose: Whose, fact: TakeFact) -> None:
    """Count a take in its family's day; before the first of a new day the standings are moved by the days before it."""
    latest = db.scalar(
        select(func.max(FamilyDayRow.day)).where(
            FamilyDayRow.player_id == whose.player_id, FamilyDayRow.horn == whose.horn.id
        )
    )
    if latest is not None and latest < fact.day:
        keep_standings(db, whose, standings(db, whose, family_days(db, whose, since=latest), before=fact.day))
    key = {**whose.key, "day": fact.day, "family": fact.family}
    row = db.get(FamilyDayRow, tuple(key.values()))
    before = unpacked(FamilyDay, row.told) if row else None
    db.merge(FamilyDayRow(**key, told=packed(with_take(before, fact))))
    db.flush()
    if latest is not None and fact.day < latest:  # recovered late, or the clock was put back
        standing_anew(db, whose, fact.family)


def anew(db: Session, whose: Whose, day: int, family: str) -> None:
    """A family's day from the takes that count, and the standing on its path from all its days: a take was thrown away."""
    row = TakeRow
    query = (
        select(row.fact)
        .where(row.player_id == whose.player_id, row.horn == whose.horn.id, row.day == day)
        .where(row.family == family, row.discarded_at.is_(None), row.fact.is_not(None))
        .order_by(row.started_at, row.number)
    )
    told: FamilyDay | None = None
    for text in db.scalars(query):
        told = with_take(told, unpacked(TakeFact, text or ""))
    key = {**whose.key, "day": day, "family": family}
    if told is None:
        db.execute(delete(FamilyDayRow).filter_by(**key))
    else:
        db.merge(FamilyDayRow(**key, told=packed(told)))
    db.flush()
    standing_anew(db, whose, family)


def standing_anew(db: Session, whose: Whose, family: str) -> None:
    """From the family's days, all but the latest on which anything was played."""
    path = path_of(family, whose.horn)
    if path is None:
        return
    days = [day for day in family_days(db, whose, since=0) if day.family == family]
    latest = db.scalar(select(func.max(FamilyDayRow.day)).filter_by(**whose.key)) or 0
    place = db.get(PathPlaceRow, (whose.player_id, whose.horn.id, family))
    by_hand = unpacked(ByHand, place.by_hand) if place else ()
    standing = followed(None, path, whose.stage, [day for day in days if day.day < latest], by_hand)
    if standing is not None or place is not None:
        _put(db, whose, family, standing, by_hand)


def standings(db: Session, whose: Whose, days: Iterable[FamilyDay], *, before: int) -> dict[str, Standing]:
    """Where the player stands on each path, with the given days taken in that are over and not taken in yet."""
    rows = db.execute(
        select(PathPlaceRow.family, PathPlaceRow.standing, PathPlaceRow.by_hand).filter_by(**whose.key)
    ).all()
    known = {family: unpacked(Standing, text) for family, text, _ in rows if text}
    by_hand = {family: unpacked(ByHand, text) for family, _, text in rows}
    fresh: dict[str, list[FamilyDay]] = {}
    for day in days:
        if day.day < before:
            fresh.setdefault(day.family, []).append(day)
    out: dict[str, Standing] = {}
    for family in {*known, *fresh, *by_hand}:
        path = path_of(family, whose.horn)
        if path is not None:
            found = followed(known.get(family), path, whose.stage, fresh.get(family, ()), by_hand.get(family, ()))
            if found is not None:
                out[family] = found
    return out


def followed(
    known: Standing | None, path: Path, stage: Stage, days: Iterable[FamilyDay], by_hand: ByHand
) -> Standing | None:
    """A standing moved on by days, and by what the player set in between; None where there is neither."""
    now = known
    last = now.last_day if now is not None and now.last_day is not None else 0
    seen = now.change.day if now is not None and now.change is not None else 0
    waiting = [item for item in by_hand if item[0] > max(last, seen) or (now is None)]
    for day in sorted(days, key=lambda item: item.day):
        if day.day <= last or not day.takes:
            continue
        while waiting and waiting[0][0] <= day.day:
            now = _set(now, path, stage, waiting.pop(0))
        before = entered(path, stage) if now is None else stands(now, path, day.day)
        told = day.on_path()
        after = moved(before, path, told) if told is not None else before
        now = _on(after, day.day)
    for item in waiting:
        now = _set(now, path, stage, item)
    return now


def _on(standing: Standing, day: int) -> Standing:
    return Standing(standing.step, standing.days, day, standing.change)


def _set(now: Standing | None, path: Path, stage: Stage, item: tuple[int, int]) -> Standing:
    return placed_by_hand(now or entered(path, stage), path, item[1], item[0])


def keep_standings(db: Session, whose: Whose, found: dict[str, Standing]) -> None:
    """Write those that changed."""
    for family, standing in found.items():
        row = db.get(PathPlaceRow, (whose.player_id, whose.horn.id, family))
        if row is None or row.standing != packed(standing):
            _put(db, whose, family, standing, unpacked(ByHand, row.by_hand) if row else ())


def set_by_hand(db: Session, whose: Whose, family: str, step: int, today: int) -> None:
    """The player's own word, kept beside the standing."""
    row = db.get(PathPlaceRow, (whose.player_id, whose.horn.id, family))
    by_hand = unpacked(ByHand, row.by_hand) if row else ()
    standing = unpacked(Standing, row.standing) if row is not None and row.standing else None
    _put(db, whose, family, standing, (*by_hand, (today, step)))


def _put(db: Session, whose: Whose, family: str, standing: Standing | None, by_hand: ByHand) -> None:
    text = packed(standing) if standing is not None else None
    db.merge(PathPlaceRow(**whose.key, family=family, standing=text, by_hand=packed(by_hand)))
    db.flush()
