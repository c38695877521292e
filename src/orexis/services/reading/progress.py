"""Reading the record: trends with their claims, endurance by week, milestones. A bounded number of rows by day, never a take."""

from dataclasses import dataclass
from datetime import date

from pydantic import TypeAdapter
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orexis.core.coach import RungState
from orexis.core.figures import FAMILIES
from orexis.core.planning import Aim, said_of
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
from orexis.core.trends.spent import InCommon, in_common
from orexis.core.trends.words import claimed, clearness, scope_in_words
from orexis.errors import InputError
from orexis.services.clock import local_day, now
from orexis.services.codec import unpacked
from orexis.services.players import Player, Players
from orexis.services.reading.ladder import kept_rungs
from orexis.services.reading.playing import (
    ChecksAfter,
    DayOfPlaying,
    WeekOfPlaying,
    checks_after,
    days_of,
    days_since,
    sittings_since,
    told,
    weeks_of,
)
from orexis.services.record import Record
from orexis.store.models import MeasureDayRow, PathPlaceRow, ProgrammeRow

SPANS = (6, 12, 26, 52)  # weeks
_POINTS: TypeAdapter[list[tuple[int, float, float, float, int]]] = TypeAdapter(
    list[tuple[int, float, float, float, int]]
)
_MOST_MILESTONES, _TOP_LINES = 12, 3


@dataclass(frozen=True, slots=True)
class TrendShown:
    """A trend with its names, and its claim in words where there is one."""

    measure: TrendMeasure
    trend: Trend
    says: str | None
    scope: str  # in words; empty for everything


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
            trends, sittings = _trends(db, person, since), sittings_since(db, person, since)
            days = days_since(db, person, since)
            return ProgressShown(
                weeks,
                _lines(trends, Direction.BETTER),
                _lines(trends, Direction.STILL),
                _lines(trends, Direction.WORSE),
                trends,
                weeks_of(days, sittings),
                days_of(days, sittings, since),
                checks_after(summary for _, summary in sittings),
                in_common(told(summary) for _, summary in sittings),
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
