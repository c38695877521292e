"""What was played: by day and by week, and how fresh the check notes found the lips after so many minutes."""

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from typing import NamedTuple

from pydantic import TypeAdapter
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orexis.core.coach import Freshness
from orexis.core.planning import monday
from orexis.core.trends.spent import SessionTold
from orexis.services.clock import local_day, utc
from orexis.services.values.players import Player
from orexis.services.values.playing import WeekOfPlaying
from orexis.store.models import PracticeDayRow, SessionRow

_LONGEST_SESSION_S = 6 * 3600.0  # longer ones were left open overnight
_CHECK_MINUTES = 10  # the check note comes about every ten minutes


@dataclass(frozen=True, slots=True)
class DayOfPlaying:
    """A day: load, of it that of heavy work, minutes of tone, what of its sessions was rest (0 to 1), whether a check note said
    spent, what was reported.
    """

    day: str
    load: float
    high_load: float
    playing_min: float
    rest_share: float | None
    spent: bool
    report: str | None


@dataclass(frozen=True, slots=True)
class ChecksAfter:
    """Check notes after so many minutes of playing (up to ten more): how many said what."""

    minutes: int
    fresh: int
    tiring: int
    spent: int


@dataclass(frozen=True, slots=True)
class SessionEndurance:
    """What endurance is read from, of one session: its summary without the takes."""

    day: int
    checks: tuple[Freshness, ...]
    check_minutes: tuple[float, ...]
    stopped: str | None
    tiring_after_s: float | None
    playing_s: float
    lasted_s: float
    load: float
    high_load: float


class _EnduranceColumns(NamedTuple):
    """The same as the database picks it out of summaries, in this order; those of earlier releases lack some."""

    checks: tuple[Freshness, ...] | None
    check_minutes: tuple[float, ...] | None
    stopped: str | None
    tiring_after_s: float | None
    playing_s: float | None
    lasted_s: float | None
    load: float | None
    high_load: float | None


_ALL_PICKED: TypeAdapter[tuple[_EnduranceColumns, ...]] = TypeAdapter(tuple[_EnduranceColumns, ...])


def sessions_since(db: Session, person: Player, since: int) -> list[SessionEndurance]:
    """With the day on the wall, from the Monday before; a year has hundreds, and is read from an index alone."""
    row = SessionRow
    mine = select(row.started_at, row.endurance).where(
        row.player_id == person.id,
        row.instrument == person.instrument,
        row.played,
        row.started_at >= date.fromordinal(monday(since)).isoformat(),
    )
    rows = db.execute(mine).all()
    # One text for all of them: checked at once they cost half.
    picked = _ALL_PICKED.validate_json(f"[{','.join(text for _, text in rows)}]")
    return [_played(local_day(utc(started)), one) for (started, _), one in zip(rows, picked, strict=True)]


def _played(day: int, one: _EnduranceColumns) -> SessionEndurance:
    return SessionEndurance(
        day,
        one.checks or (),
        one.check_minutes or (),
        one.stopped,
        one.tiring_after_s,
        one.playing_s or 0.0,
        one.lasted_s or 0.0,
        one.load or 0.0,
        one.high_load or 0.0,
    )


def told(session: SessionEndurance) -> SessionTold:
    """What sessions that ended spent are compared by."""
    spent = Freshness.SPENT in session.checks
    return SessionTold(spent, session.playing_s, session.lasted_s, session.load, session.high_load)


class DayPlayed(NamedTuple):
    """A day of practice on an instrument."""

    day: int
    playing_s: float
    load: float


def days_since(db: Session, person: Player, since: int) -> list[DayPlayed]:
    """Days of practice on the instrument in hand."""
    row = PracticeDayRow
    mine = select(row.day, row.playing_s, row.load).where(
        row.player_id == person.id, row.instrument == person.instrument, row.day >= since
    )
    return [DayPlayed(*values) for values in db.execute(mine.order_by(row.day))]


class WeekPlayed(NamedTuple):
    """A week of practice on an instrument, by its Monday."""

    start: int
    days: int
    takes: int
    clean: int
    playing_s: float
    load: float


def weeks_since(db: Session, person: Player, since: int) -> list[WeekPlayed]:
    """The weeks of the same days, added up by the database."""
    row = PracticeDayRow
    start = row.day - (row.day - monday(since)) % 7
    sums = func.sum(row.takes), func.sum(row.clean), func.sum(row.playing_s), func.sum(row.load)
    mine = select(start, func.count(), *sums).where(
        row.player_id == person.id, row.instrument == person.instrument, row.day >= monday(since)
    )
    return [WeekPlayed._make(values) for values in db.execute(mine.group_by(start).order_by(start))]


def weeks_of(weeks: list[WeekPlayed], played: list[SessionEndurance]) -> tuple[WeekOfPlaying, ...]:
    """Return the weeks with practice, with what their sessions said."""
    sessions: dict[int, list[SessionEndurance]] = {}
    for one in played:
        sessions.setdefault(monday(one.day), []).append(one)
    return tuple(_week(week, sessions.get(week.start, [])) for week in weeks)


def days_of(days: list[DayPlayed], played: list[SessionEndurance]) -> tuple[DayOfPlaying, ...]:
    """Return days of practice, with what their sessions said."""
    by_day: dict[int, list[SessionEndurance]] = {}
    for one in played:
        by_day.setdefault(one.day, []).append(one)
    return tuple(_day(day, by_day.get(day.day, [])) for day in days)


def _day(day: DayPlayed, own: list[SessionEndurance]) -> DayOfPlaying:
    return DayOfPlaying(
        date.fromordinal(day.day).isoformat(),
        round(day.load, 1),
        round(min(day.load, sum(one.high_load for one in own)), 1),
        round(day.playing_s / 60.0, 1),
        _rest_share(own),
        any(Freshness.SPENT in one.checks for one in own),
        next((one.stopped for one in own if one.stopped), None),
    )


def checks_after(played: Iterable[SessionEndurance]) -> tuple[ChecksAfter, ...]:
    """The first of a session is what the others are compared with, and says nothing."""
    counts: dict[int, Counter[Freshness]] = {}
    for one in played:
        for minutes, state in list(zip(one.check_minutes, one.checks, strict=False))[1:]:
            counts.setdefault(int(minutes // _CHECK_MINUTES) * _CHECK_MINUTES, Counter())[state] += 1
    return tuple(
        ChecksAfter(start, count[Freshness.FRESH], count[Freshness.TIRING], count[Freshness.SPENT])
        for start, count in sorted(counts.items())
    )


def _week(week: WeekPlayed, sessions: list[SessionEndurance]) -> WeekOfPlaying:
    tiring = sorted(one.tiring_after_s / 60.0 for one in sessions if one.tiring_after_s is not None)
    return WeekOfPlaying(
        date.fromordinal(week.start).isoformat(),
        week.days,
        round(week.playing_s / 60.0, 1),
        round(week.load, 1),
        week.takes,
        week.clean,
        round(tiring[len(tiring) // 2], 1) if tiring else None,
        sum(Freshness.SPENT in one.checks for one in sessions),
        sum(one.stopped is not None for one in sessions),
        _share(sum(one.high_load for one in sessions), sum(one.load for one in sessions)),
        _rest_share(sessions),
    )


def _rest_share(sessions: list[SessionEndurance]) -> float | None:
    """What of their time was not playing. Takes of several days that came together as one session have no rests."""
    own = [one for one in sessions if one.lasted_s <= _LONGEST_SESSION_S]
    played = _share(sum(one.playing_s for one in own), sum(one.lasted_s for one in own))
    return None if played is None else round(max(0.0, 1.0 - played), 2)


def _share(part: float, whole: float) -> float | None:
    return round(part / whole, 2) if whole > 0.0 else None
