"""The player's ladder: tries kept as rows, read as rungs by the coach's rules, and kept as they stand after each take."""

from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy import Integer, cast, delete, func, or_, select
from sqlalchemy.orm import Session

from orexis.core.coach import (
    Attempt,
    Range,
    Reach,
    Rung,
    add,
    lopsided,
    range_of,
    ranges_over,
    reach_of,
    rungs,
    start_tomorrow,
    working_range,
)
from orexis.core.horn import Tube, lowest_pedal, slot_of
from orexis.services.clock import local_day, now
from orexis.services.codec import packed, unpacked
from orexis.services.players.values import Player
from orexis.store.models import RangeDayRow, RungAttemptRow, RungRow, TakeRow

_HISTORY_DAYS, _HISTORY_POINTS = 182, 26


@dataclass(frozen=True, slots=True)
class Ladder:
    """Rungs by keyboard number; where the register work starts next, upwards and downwards."""

    rungs: dict[int, Rung]
    range: Range
    middle: int
    start_up: int
    start_down: int
    lopsided: str | None
    alone: Range
    joined: Range
    history: tuple[tuple[int, Reach], ...] = ()  # ordinal days and how far it went at their end


def ladder_of(db: Session, person: Player) -> Ladder:
    """Everything tried on the horn in hand, from the rungs as they were kept."""
    found = kept_rungs(db, person.id, person.horn)
    horn = person.instrument
    tube = Tube(position=1) if horn.slides else Tube(side=horn.sides[0].name)
    middle = slot_of(horn, tube, horn.middle_partial).pitch.midi
    return Ladder(
        found,
        working_range(found),
        middle,
        start_tomorrow(found, up=True, otherwise=middle),
        max(lowest_pedal(horn).midi, start_tomorrow(found, up=False, otherwise=horn.easy.midi)),
        lopsided(found, middle),
        range_of(found, joined=False),
        range_of(found, joined=True),
        _history(db, person),
    )


def kept_rungs(db: Session, player_id: str, horn: str) -> dict[int, Rung]:
    """The rungs as they were kept."""
    query = select(RungRow.midi, RungRow.rung).where(RungRow.player_id == player_id, RungRow.horn == horn)
    return {midi: unpacked(Rung, text) for midi, text in db.execute(query)}


def _history(db: Session, person: Player) -> tuple[tuple[int, Reach], ...]:
    """Over the last half year up to now, at even steps: what stood at the end of each. A bounded number of rows."""
    row, mine = RangeDayRow, (RangeDayRow.player_id == person.id, RangeDayRow.horn == person.horn)
    first_day, last_day = db.execute(select(func.min(row.day), func.max(row.day)).where(*mine)).one()
    if last_day is None:
        return ()
    last = max(local_day(now()), last_day)
    first = max(first_day, last - _HISTORY_DAYS)
    stride = max(1, -(-(last - first) // _HISTORY_POINTS))
    # SQLite gives the other columns of the row that holds the greatest day of its step.
    steps = (last - row.day) / stride
    ends = (row.low, row.high, row.alone_low, row.alone_high, row.joined_low, row.joined_high)
    query = select(func.max(row.day), *ends).where(*mine, row.day >= first).group_by(cast(steps, Integer))
    known = {day: _reach(found) for day, *found in db.execute(query)}
    before = db.execute(select(*ends).where(*mine, row.day < first).order_by(row.day.desc()).limit(1)).first()
    own = _reach(before) if before else None
    out: list[tuple[int, Reach]] = []
    for day in sorted(range(last, first - 1, -stride)):
        own = next((known[at] for at in range(day, day - stride, -1) if at in known), own)
        if own is not None:
            out.append((day, own))
    return tuple(out)


def _reach(ends: Sequence[int | None]) -> Reach:
    """From the columns of a day."""
    return Reach(Range(*ends[0:2]), Range(*ends[2:4]), Range(*ends[4:6]))


def attempts(
    db: Session, player_id: str, horn: str, take_id: str | None = None, *, counts: bool = True
) -> list[Attempt]:
    """All tries that count, in the order they were made; a take thrown away proves nothing.

    Of the take `take_id` it is said whether it `counts`, whatever the record says.
    """
    row = RungAttemptRow
    query = (
        select(row.midi, row.day, row.held, row.sounded_s, row.connected, row.take_id, row.match)
        .outerjoin(TakeRow, TakeRow.id == row.take_id)
        .where(row.player_id == player_id, row.horn == horn)
        .where(or_(TakeRow.discarded_at.is_(None), row.take_id == take_id))
        .order_by(row.day, row.id)
    )
    tries = [Attempt(*values) for values in db.execute(query)]
    return [item for item in tries if counts or item.take_id != take_id]


@dataclass(frozen=True, slots=True)
class LadderChange:
    """Rungs and days to be written: computed before the transaction, so that nobody waits for it."""

    attempts: tuple[Attempt, ...]
    rungs: dict[int, str]
    days: tuple[tuple[int, Reach], ...]
    anew: bool = False  # all rows of this horn are replaced


def ladder_after(db: Session, player_id: str, horn: str, tries: tuple[Attempt, ...]) -> LadderChange:
    """The ladder after one more take; made anew when the take is older than what is known already."""
    day = tries[0].day
    latest = db.scalar(
        select(RangeDayRow.day)
        .where(RangeDayRow.player_id == player_id, RangeDayRow.horn == horn)
        .order_by(RangeDayRow.day.desc())
        .limit(1)
    )
    if latest is not None and day < latest:
        return _anew([*attempts(db, player_id, horn), *tries], tries)
    found = kept_rungs(db, player_id, horn)
    before = {midi: packed(rung) for midi, rung in found.items()}
    for tried in tries:
        add(found, tried)
    after = {midi: packed(rung) for midi, rung in found.items()}
    changed = {midi: text for midi, text in after.items() if before.get(midi) != text}
    return LadderChange(tries, changed, ((day, reach_of(found)),))


def ladder_anew(
    db: Session, player_id: str, horn: str, take_id: str | None = None, *, counts: bool = True
) -> LadderChange:
    """The ladder from all the tries that count."""
    return _anew(attempts(db, player_id, horn, take_id, counts=counts), ())


def _anew(tries: list[Attempt], fresh: tuple[Attempt, ...]) -> LadderChange:
    days = sorted({item.day for item in tries})
    ranges = tuple(zip(days, ranges_over(tries, days), strict=True))
    return LadderChange(fresh, {midi: packed(rung) for midi, rung in rungs(tries).items()}, ranges, anew=True)


def keep_ladder(db: Session, player_id: str, horn: str, change: LadderChange) -> None:
    """Write a change."""
    if change.anew:
        for table in (RungRow, RangeDayRow):
            db.execute(delete(table).where(table.player_id == player_id, table.horn == horn))
    db.add_all(try_row(player_id, horn, tried) for tried in change.attempts)
    for midi, text in change.rungs.items():
        db.merge(RungRow(player_id=player_id, horn=horn, midi=midi, rung=text))
    for day, reach in change.days:
        own, alone, joined = reach.own, reach.alone, reach.joined
        db.merge(
            RangeDayRow(
                player_id=player_id, horn=horn, day=day, low=own.low, high=own.high, alone_low=alone.low,
                alone_high=alone.high, joined_low=joined.low, joined_high=joined.high,
            )
        )  # fmt: skip


def try_row(player_id: str, horn: str, tried: Attempt) -> RungAttemptRow:
    """A try as a row."""
    return RungAttemptRow(
        player_id=player_id,
        horn=horn,
        take_id=tried.take_id,
        midi=tried.midi,
        day=tried.day,
        held=tried.held,
        sounded_s=tried.sounded_s,
        connected=tried.connected,
        match=tried.match,
    )
