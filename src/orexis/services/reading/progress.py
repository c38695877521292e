"""Reading the record: trends with their claims, endurance by week, milestones. A bounded number of rows by day, never a take."""

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

from pydantic import TypeAdapter
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orexis.core.coach import Freshness, RungState
from orexis.core.figures import FAMILIES
from orexis.core.planning import Aim, monday, said_of
from orexis.core.progress import Moved, Standing
from orexis.core.theory import pitch_of_midi
from orexis.core.trends import (
    SCOPES,
    TREND_MEASURES,
    DayPoint,
    Direction,
    Trend,
    TrendMeasure,
    trend_of,
)
from orexis.core.trends.measures import key_of
from orexis.core.trends.spent import InCommon, SessionTold, in_common
from orexis.core.trends.words import claimed, clearness, scope_in_words
from orexis.errors import InputError
from orexis.services.clock import local_day, now, utc
from orexis.services.codec import unpacked
from orexis.services.players import Player, Players
from orexis.services.reading.ladder import kept_rungs
from orexis.services.record import Record
from orexis.services.sessions.values import SessionSummary
from orexis.store.models import MeasureDayRow, PathPlaceRow, PracticeDayRow, ProgrammeRow, SessionRow

SPANS = (6, 12, 26, 52)  # weeks
_LONGEST_SITTING_S = 6 * 3600.0
_POINTS: TypeAdapter[list[tuple[int, float, float, float, int]]] = TypeAdapter(
    list[tuple[int, float, float, float, int]]
)
_MOST_MILESTONES, _TOP_LINES, _CHECK_MINUTES = 12, 3, 10


@dataclass(frozen=True, slots=True)
class TrendShown:
    """A trend with its names, and its claim in words where there is one."""

    measure: TrendMeasure
    trend: Trend
    says: str | None
    scope: str  # in words; empty for everything


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


@dataclass(frozen=True, slots=True)
class Milestone:
    """Something that came for the first time."""

    day: str
    says: str


@dataclass(frozen=True, slots=True)
class Line:
    """One line at the top, and the reason by which its takes are found in the log; None where there is none."""

    says: str
    reason: str | None


@dataclass(frozen=True, slots=True)
class ProgressShown:
    """The page: three lines at the top, then everything else."""

    weeks: int
    improving: tuple[Line, ...]
    standing: tuple[Line, ...]
    slipped: tuple[Line, ...]
    trends: tuple[TrendShown, ...]
    playing: tuple[WeekOfPlaying, ...]
    days: tuple[DayOfPlaying, ...]
    checks: tuple[ChecksAfter, ...]
    spent: tuple[InCommon, ...]  # what sessions that ended spent had in common; empty where there are too few
    milestones: tuple[Milestone, ...]


class Progress:
    """How it goes over weeks."""

    def __init__(self, record: Record, players: Players) -> None:
        self._record, self._players = record, players

    def read(self, player_id: str, weeks: int) -> ProgressShown:
        """Over the last weeks, on the horn in hand; InputError for a span that there is not."""
        if weeks not in SPANS:
            raise InputError(f"{weeks} weeks are no span here: choose {', '.join(map(str, SPANS))}.")
        person, today = self._players.get(player_id), local_day(now())
        since = today - 7 * weeks
        with self._record.database.reading() as db:
            trends, sittings = _trends(db, person, since), _sittings(db, person, since)
            days = _days_played(db, person, since)
            return ProgressShown(
                weeks,
                _lines(trends, Direction.BETTER),
                _lines(trends, Direction.STILL),
                _lines(trends, Direction.WORSE),
                trends,
                _playing(days, sittings),
                _days(days, sittings, since),
                _checks(summary for _, summary in sittings),
                in_common(_told(summary) for _, summary in sittings),
                _milestones(db, person, since),
            )


def _trends(db: Session, person: Player, since: int) -> tuple[TrendShown, ...]:
    points = _points(db, person, since)
    out = []
    for measure in TREND_MEASURES.values():
        for scope in (None, *SCOPES, *FAMILIES):
            found = points.get(key_of(measure.id, scope))
            if found:
                trend = trend_of(measure.id, scope, found)
                words = scope_in_words(scope) if scope else ""
                out.append(TrendShown(measure, trend, claimed(measure, trend), words))
    return tuple(out)


def _points(db: Session, person: Player, since: int) -> dict[str, list[DayPoint]]:
    """Days by measure. A year has sixteen thousand: the database hands them over a measure at a time, as JSON."""
    row = MeasureDayRow
    point = func.json_array(row.day, row.low, row.middle, row.high, row.takes)
    query = (
        select(row.measure, func.json_group_array(func.json(point)))
        .where(row.player_id == person.id, row.horn == person.horn, row.day >= since)
        .group_by(row.measure)
    )
    return {key: [DayPoint(*values) for values in _POINTS.validate_json(text)] for key, text in db.execute(query)}


def _lines(trends: tuple[TrendShown, ...], direction: Direction) -> tuple[Line, ...]:
    """The clearest few: those whose change is largest against its own interval; a measure once."""
    found = [item for item in trends if item.trend.claim is not None and item.trend.claim.direction == direction]
    found.sort(key=lambda item: (-clearness(item.trend.claim), item.measure.id, item.trend.scope or ""))
    out: list[Line] = []
    seen: set[str] = set()
    for item in found:
        if item.says and item.measure.id not in seen:
            seen.add(item.measure.id)
            out.append(Line(item.says, item.measure.reason))
    return tuple(out[:_TOP_LINES])


def _sittings(db: Session, person: Player, since: int) -> list[tuple[int, SessionSummary]]:
    """With the day on the wall."""
    mine = select(SessionRow.started_at, SessionRow.summary).where(
        SessionRow.player_id == person.id,
        SessionRow.played,
        SessionRow.horn == person.horn,
        SessionRow.started_at >= date.fromordinal(monday(since)).isoformat(),
    )
    return [(local_day(utc(started)), unpacked(SessionSummary, text)) for started, text in db.execute(mine)]


def _told(summary: SessionSummary) -> SessionTold:
    spent = Freshness.SPENT in summary.checks
    return SessionTold(spent, summary.playing_s, summary.lasted_s, summary.load, summary.high_load)


def _days_played(db: Session, person: Player, since: int) -> list[PracticeDayRow]:
    row = PracticeDayRow
    mine = select(row).where(row.player_id == person.id, row.horn == person.horn, row.day >= monday(since))
    return list(db.scalars(mine.order_by(row.day)))


def _playing(days: list[PracticeDayRow], sittings: list[tuple[int, SessionSummary]]) -> tuple[WeekOfPlaying, ...]:
    weeks: dict[int, list[tuple[float, float, int, int]]] = {}
    for row in days:
        weeks.setdefault(monday(row.day), []).append((row.playing_s, row.load, row.takes, row.held))
    sessions: dict[int, list[SessionSummary]] = {}
    for day, summary in sittings:
        sessions.setdefault(monday(day), []).append(summary)
    return tuple(_week(start, weeks[start], sessions.get(start, [])) for start in sorted(weeks))


def _days(
    days: list[PracticeDayRow], sittings: list[tuple[int, SessionSummary]], since: int
) -> tuple[DayOfPlaying, ...]:
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


def _checks(summaries: Iterable[SessionSummary]) -> tuple[ChecksAfter, ...]:
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


def _milestones(db: Session, person: Player, since: int) -> tuple[Milestone, ...]:
    """Notes that became the player's own, steps reached, aims met: the latest first."""
    found: list[tuple[int, str]] = []
    part = person.instrument.part(person.part)
    for midi, rung in kept_rungs(db, person.id, person.horn).items():
        if rung.state == RungState.OWNED and rung.owned_since is not None and rung.owned_since >= since:
            name = part.transposition.written(pitch_of_midi(midi)).name
            found.append((rung.owned_since, f"{name} is yours"))
    places = select(PathPlaceRow.family, PathPlaceRow.standing).where(
        PathPlaceRow.player_id == person.id, PathPlaceRow.horn == person.horn
    )
    for family, text in db.execute(places):
        standing = unpacked(Standing, text) if text else None
        change = standing.change if standing else None
        if standing and change and change.why == Moved.ON and change.day >= since and family in FAMILIES:
            found.append((change.day, f"{FAMILIES[family].name}: step {standing.step + 1}"))
    aims = select(ProgrammeRow.ended, ProgrammeRow.aim).where(
        ProgrammeRow.player_id == person.id, ProgrammeRow.horn == person.horn, ProgrammeRow.state == "reached"
    )
    for ended, text in db.execute(aims):
        if ended is not None and ended >= since:
            found.append((ended, f"an aim is met: {said_of(unpacked(Aim, text))}"))
    latest = sorted(found, key=lambda item: (-item[0], item[1]))[:_MOST_MILESTONES]
    return tuple(Milestone(date.fromordinal(day).isoformat(), says) for day, says in latest)
