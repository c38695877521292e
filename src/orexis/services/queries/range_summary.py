"""The player's ladder: tries kept as rows, read as notes by the coach's rules, and kept as they stand after each take."""

from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy import Integer, cast, func, select
from sqlalchemy.orm import Session

from orexis.core.coach import (
    Range,
    RangeNote,
    Reach,
    lopsided,
    range_of,
    start_tomorrow,
    working_range,
)
from orexis.core.instruments import Fingering, lowest_pedal, slot_of
from orexis.services.clock import local_day, now
from orexis.services.projections.kept_take import Owner
from orexis.services.projections.ranges import range_notes_of
from orexis.services.values.players import Player
from orexis.store.models import RangeDayRow

_HISTORY_DAYS, _HISTORY_POINTS = 182, 26


@dataclass(frozen=True, slots=True)
class RangeSummary:
    """Notes by keyboard number; where the register work starts next, upwards and downwards."""

    range_notes: dict[int, RangeNote]
    range: Range
    middle: int
    start_up: int
    start_down: int
    lopsided: str | None
    alone: Range
    joined: Range
    history: tuple[tuple[int, Reach], ...] = ()  # ordinal days and how far it went at their end


def range_summary_of(db: Session, person: Player) -> RangeSummary:
    """Everything tried on the instrument in hand, from the notes as they were kept."""
    by_midi = range_notes_of(db, Owner(person.id, person.instrument))
    instrument = person.own_instrument
    fingering = Fingering(position=1) if instrument.slides else Fingering(side=instrument.sides[0].name)
    middle = slot_of(instrument, fingering, instrument.middle_partial).pitch.midi
    return RangeSummary(
        by_midi,
        working_range(by_midi),
        middle,
        start_tomorrow(by_midi, up=True, otherwise=middle),
        max(lowest_pedal(instrument).midi, start_tomorrow(by_midi, up=False, otherwise=instrument.easy.midi)),
        lopsided(by_midi, middle),
        range_of(by_midi, joined=False),
        range_of(by_midi, joined=True),
        _history(db, person),
    )


def _history(db: Session, person: Player) -> tuple[tuple[int, Reach], ...]:
    """Over the last half year up to now, at even steps: what stood at the end of each. A bounded number of rows."""
    row, mine = RangeDayRow, (RangeDayRow.player_id == person.id, RangeDayRow.instrument == person.instrument)
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
    known = {day: _reach(reach) for day, *reach in db.execute(query)}
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
