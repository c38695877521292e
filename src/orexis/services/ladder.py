"""The player's ladder: tries kept as rows, read as rungs by the coach's rules."""

from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.coach import (
    Attempt,
    Range,
    Rung,
    attempt_of,
    lopsided,
    ranges_over,
    rungs,
    start_tomorrow,
    working_range,
)
from orexis.core.figures import Figure
from orexis.core.horn import Tube, lowest_pedal, slot_of
from orexis.core.listen import Hearing
from orexis.services.clock import now
from orexis.services.values import Player
from orexis.store.models import RungAttemptRow, TakeRow

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
    history: tuple[tuple[int, Range], ...] = ()  # ordinal days and the working range at their end


def ladder_of(db: Session, person: Player) -> Ladder:
    """Everything tried on the horn in hand."""
    tries = attempts(db, person)
    found = rungs(tries)
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
        _history(tries),
    )


def _history(tries: list[Attempt]) -> tuple[tuple[int, Range], ...]:
    """From the first try to the last half year and now, at even steps."""
    if not tries:
        return ()
    last = max(now().date().toordinal(), tries[-1].day)
    first = max(tries[0].day, last - _HISTORY_DAYS)
    step = max(1, -(-(last - first) // _HISTORY_POINTS))
    days = sorted(range(last, first - 1, -step))
    return tuple(zip(days, ranges_over(tries, days), strict=True))


def attempts(db: Session, person: Player) -> list[Attempt]:
    """All tries, in the order they were made."""
    query = (
        select(RungAttemptRow)
        .where(RungAttemptRow.player_id == person.id, RungAttemptRow.horn == person.horn)
        .order_by(RungAttemptRow.id)
    )
    return [
        Attempt(row.midi, row.day, row.held, row.sounded_s, row.connected, row.from_midi, row.take_id, row.match)
        for row in db.scalars(query)
    ]


def add_attempt(db: Session, person: Player, figure: Figure, hearing: Hearing, take: TakeRow) -> None:
    """Keep a take as a try, where it was one."""
    assert hearing.verdict is not None
    day = take.started_at.date().toordinal()
    tried = attempt_of(figure, hearing.measures, hearing.verdict.outcome, day=day, take_id=take.id)
    if tried is None:
        return
    db.add(
        RungAttemptRow(
            player_id=person.id,
            horn=person.horn,
            take_id=take.id,
            midi=tried.midi,
            day=tried.day,
            held=tried.held,
            sounded_s=tried.sounded_s,
            connected=tried.connected,
            from_midi=tried.from_midi,
            match=tried.match,
        )
    )
