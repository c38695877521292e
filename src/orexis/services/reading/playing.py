"""What was played: by day and by week, and how fresh the check notes found the lips after so many minutes."""

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.coach import Freshness
from orexis.core.planning import monday
from orexis.core.trends.spent import SessionTold
from orexis.services.clock import local_day, utc
from orexis.services.codec import unpacked
from orexis.services.players import Player
from orexis.services.sessions.values import SessionSummary
from orexis.store.models import PracticeDayRow, SessionRow

_LONGEST_SITTING_S = 6 * 3600.0
_CHECK_MINUTES = 10


@dataclass(frozen=True, slots=True)
class WeekOfPlaying:
    """A week: minutes of tone, load, days, takes and those held; minutes of playing to the first "tiring" in its middle session.

    `high_share`: of its load; `rest_share`: of the time of its sessions; None where there is none.
    """

    start: str
    days: int
    playing_min: float
    load: float
    takes: int
    held: int
    minutes_to_tiring: float | None
    spent: int
    reports: int
    high_share: float | None = None
    rest_share: float | None = None


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


def sittings_since(db: Session, person: Player, since: int) -> list[tuple[int, SessionSummary]]:
    """With the day on the wall."""
    mine = select(SessionRow.started_at, SessionRow.summary).where(
        SessionRow.player_id == person.id,
        SessionRow.played,
        SessionRow.horn == person.horn,
        SessionRow.started_at >= date.fromordinal(monday(since)).isoformat(),
    )
    return [(local_day(utc(started)), unpacked(SessionSummary, text)) for started, text in db.execute(mine)]


def told(summary: SessionSummary) -> SessionTold:
    """What sessions that ended spent are compared by."""
    spent = Freshness.SPENT in summary.checks
    return SessionTold(spent, summary.playing_s, summary.lasted_s, summary.load, summary.high_load)


def days_since(db: Session, person: Player, since: int) -> list[PracticeDayRow]:
    """Days of practice from the Monday before, on the horn in hand."""
    row = PracticeDayRow
    mine = select(row).where(row.player_id == person.id, row.horn == person.horn, row.day >= monday(since))
    return list(db.scalars(mine.order_by(row.day)))


def weeks_of(days: list[PracticeDayRow], sittings: list[tuple[int, SessionSummary]]) -> tuple[WeekOfPlaying, ...]:
    """By week, those with practice."""
    weeks: dict[int, list[tuple[float, float, int, int]]] = {}
    for row in days:
        weeks.setdefault(monday(row.day), []).append((row.playing_s, row.load, row.takes, row.held))
    sessions: dict[int, list[SessionSummary]] = {}
    for day, summary in sittings:
        sessions.setdefault(monday(day), []).append(summary)
    return tuple(_week(start, weeks[start], sessions.get(start, [])) for start in sorted(weeks))


def days_of(
    days: list[PracticeDayRow], sittings: list[tuple[int, SessionSummary]], since: int
) -> tuple[DayOfPlaying, ...]:
    """By day."""
    by_day: dict[int, list[SessionSummary]] = {}
    for day, summary in sittings:
        by_day.setdefault(day, []).append(summary)
    out = []
    for row in days:
        own = by_day.get(row.day, [])
        if row.day >= since:
            high = min(row.load, sum(one.high_load for one in own))
            report = next((one.stopped for one in own if one.stopped), None)
            spent = any(Freshness.SPENT in one.checks for one in own)
            iso, minutes = date.fromordinal(row.day).isoformat(), round(row.playing_s / 60.0, 1)
            out.append(DayOfPlaying(iso, round(row.load, 1), round(high, 1), minutes, _rest_share(own), spent, report))
    return tuple(out)


def checks_after(summaries: Iterable[SessionSummary]) -> tuple[ChecksAfter, ...]:
    """The first of a sitting is what the others are compared with, and says nothing."""
    counts: dict[int, Counter[Freshness]] = {}
    for summary in summaries:
        for minutes, state in list(zip(summary.check_minutes, summary.checks, strict=False))[1:]:
            counts.setdefault(int(minutes // _CHECK_MINUTES) * _CHECK_MINUTES, Counter())[state] += 1
    return tuple(
        ChecksAfter(start, found[Freshness.FRESH], found[Freshness.TIRING], found[Freshness.SPENT])
        for start, found in sorted(counts.items())
    )


def _week(start: int, days: list[tuple[float, float, int, int]], sessions: list[SessionSummary]) -> WeekOfPlaying:
    tiring = sorted(one.tiring_after_s / 60.0 for one in sessions if one.tiring_after_s is not None)
    return WeekOfPlaying(
        date.fromordinal(start).isoformat(),
        len(days),
        round(sum(day[0] for day in days) / 60.0, 1),
        round(sum(day[1] for day in days), 1),
        sum(day[2] for day in days),
        sum(day[3] for day in days),
        round(tiring[len(tiring) // 2], 1) if tiring else None,
        sum("spent" in one.checks for one in sessions),
        sum(one.stopped is not None for one in sessions),
        _share(sum(one.high_load for one in sessions), sum(one.load for one in sessions)),
        _rest_share(sessions),
    )


def _rest_share(sessions: list[SessionSummary]) -> float | None:
    """What of their time was not playing. Takes of several days that came together as one sitting have no rests."""
    own = [one for one in sessions if one.lasted_s <= _LONGEST_SITTING_S]
    played = _share(sum(one.playing_s for one in own), sum(one.lasted_s for one in own))
    return None if played is None else round(max(0.0, 1.0 - played), 2)


def _share(part: float, whole: float) -> float | None:
    return round(part / whole, 2) if whole > 0.0 else None
