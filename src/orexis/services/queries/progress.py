"""Reading the record: trends with their claims, endurance by week, milestones. A bounded number of rows by day or week, never a take."""

from dataclasses import dataclass
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.coach import RangeState
from orexis.core.exercises import EXERCISE_TYPES
from orexis.core.messages import tell
from orexis.core.planning import GoalTarget, goal_in_words
from orexis.core.progress import MoveReason, PathPosition
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
from orexis.services.documents import from_json
from orexis.services.players.use import Players
from orexis.services.projections.kept_take import Owner
from orexis.services.projections.ranges import range_notes_of
from orexis.services.queries.measures_by_day import points_of
from orexis.services.queries.playing import (
    ChecksAfter,
    DayOfPlaying,
    checks_after,
    days_of,
    days_since,
    sessions_since,
    told,
    weeks_of,
    weeks_since,
)
from orexis.services.record import Record
from orexis.services.values.players import Player
from orexis.services.values.playing import WeekOfPlaying
from orexis.store.models import GoalRow, MeasureDayRow, MeasureWeekRow, PathPlaceRow, PracticeDayRow

SPANS = (6, 12, 26, 52)  # weeks
LONGEST_BY_DAY = 12  # weeks: beyond that a day is no point of its own any more
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
class TrendLine:
    """One line at the top, and the reason by which its takes are found in the log; None where there is none."""

    says: str
    reason: str | None


@dataclass(frozen=True, slots=True)
class ProgressShown:
    """The page: three lines at the top, then everything else."""

    weeks: int
    by_week: bool  # whether a point of a trend is a week; then `days` is empty, and `playing` has the weeks
    improving: tuple[TrendLine, ...]
    standing: tuple[TrendLine, ...]
    slipped: tuple[TrendLine, ...]
    trends: tuple[TrendShown, ...]
    playing: tuple[WeekOfPlaying, ...]
    days: tuple[DayOfPlaying, ...]
    checks: tuple[ChecksAfter, ...]
    spent: tuple[InCommon, ...]  # what sessions that ended spent had in common; empty where there are too few
    milestones: tuple[Milestone, ...]


class ProgressQueries:
    """What pages show of a player over weeks."""

    def __init__(self, record: Record, players: Players) -> None:
        self._record, self._players = record, players

    def read(self, player_id: str, weeks: int) -> ProgressShown:
        """Over the last weeks, on the instrument in hand; InputError for a span that there is not."""
        if weeks not in SPANS:
            raise InputError(tell("{weeks} weeks: choose {map}.", weeks=weeks, map=", ".join(map(str, SPANS))))
        person, today = self._players.get(player_id), local_day(now())
        since = today - 7 * weeks
        with self._record.database.reading() as db:
            by_week = _drawn_by_week(db, person, today, weeks)
            kept = MeasureWeekRow if by_week else MeasureDayRow
            # A week that the span cuts is left out.
            points = points_of(db, kept, person.id, person.instrument, since=since)
            trends, sessions = _trends(points), sessions_since(db, person, since)
            by_weeks = weeks_of(weeks_since(db, person, since), sessions)
            return ProgressShown(
                weeks,
                by_week,
                _lines(trends, Direction.BETTER),
                _lines(trends, Direction.STILL),
                _lines(trends, Direction.WORSE),
                trends,
                by_weeks,
                () if by_week else days_of(days_since(db, person, since), sessions),
                checks_after(sessions),
                in_common(told(session) for session in sessions),
                _milestones(db, person, since),
            )


def lately(db: Session, person: Player, today: int) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """What got better over the shortest span, and what slipped, the clearest first, in words."""
    trends = _trends(points_of(db, MeasureDayRow, person.id, person.instrument, since=today - 7 * SPANS[0]))
    better, worse = (_lines(trends, direction) for direction in (Direction.BETTER, Direction.WORSE))
    return tuple(line.says for line in better), tuple(line.says for line in worse)


def _trends(points: dict[str, list[DayPoint]]) -> tuple[TrendShown, ...]:
    out = []
    for measure in TREND_MEASURES.values():
        for scope in (None, *SCOPES, *EXERCISE_TYPES):
            series = points.get(key_of(measure.id, scope))
            if series:
                trend = trend_of(measure.id, scope, series)
                words = scope_in_words(scope) if scope else ""
                out.append(TrendShown(measure, trend, claimed(measure, trend), words))
    return tuple(out)


def _drawn_by_week(db: Session, person: Player, today: int, weeks: int) -> bool:
    """A long span is drawn by weeks once the record reaches further back than what is drawn by days."""
    row = PracticeDayRow
    if weeks <= LONGEST_BY_DAY:
        return False
    mine = select(row.day).where(row.player_id == person.id, row.instrument == person.instrument, row.takes > 0)
    first = db.scalar(mine.order_by(row.day).limit(1))
    return first is not None and first < today - 7 * LONGEST_BY_DAY


def _lines(trends: tuple[TrendShown, ...], direction: Direction) -> tuple[TrendLine, ...]:
    """The clearest few: those whose change is largest against its own interval; a measure once."""
    matching = [item for item in trends if item.trend.claim is not None and item.trend.claim.direction == direction]
    matching.sort(key=lambda item: (-clearness(item.trend.claim), item.measure.id, item.trend.scope or ""))
    out: list[TrendLine] = []
    seen: set[str] = set()
    for item in matching:
        if item.says and item.measure.id not in seen:
            seen.add(item.measure.id)
            out.append(TrendLine(item.says, item.measure.reason))
    return tuple(out[:_TOP_LINES])


def _milestones(db: Session, person: Player, since: int) -> tuple[Milestone, ...]:
    """Notes that became the player's own, steps reached, goals met: the latest first."""
    reached: list[tuple[int, str]] = []
    part = person.own_instrument.part(person.part)
    for midi, range_note in range_notes_of(db, Owner(person.id, person.instrument)).items():
        if (
            range_note.state == RangeState.IN_RANGE
            and range_note.in_range_since is not None
            and range_note.in_range_since >= since
        ):
            name = part.transposition.written(pitch_of_midi(midi)).name
            reached.append((range_note.in_range_since, tell("{name} is in your range", name=name)))
    places = select(PathPlaceRow.exercise_type, PathPlaceRow.standing).where(
        PathPlaceRow.player_id == person.id, PathPlaceRow.instrument == person.instrument
    )
    for exercise_type, text in db.execute(places):
        standing = from_json(PathPosition, text) if text else None
        change = standing.change if standing else None
        if (
            standing
            and change
            and change.why == MoveReason.ON
            and change.day >= since
            and exercise_type in EXERCISE_TYPES
        ):
            reached.append(
                (
                    change.day,
                    tell(
                        "{exercise_types}: level {step}",
                        exercise_types=EXERCISE_TYPES[exercise_type].name,
                        step=standing.step + 1,
                    ),
                )
            )
    targets = select(GoalRow.ended, GoalRow.target).where(
        GoalRow.player_id == person.id,
        GoalRow.instrument == person.instrument,
        GoalRow.state == "reached",
    )
    for ended, text in db.execute(targets):
        if ended is not None and ended >= since:
            reached.append(
                (
                    ended,
                    tell(
                        "a goal was reached: {goal_in_words}", goal_in_words=goal_in_words(from_json(GoalTarget, text))
                    ),
                )
            )
    latest = sorted(reached, key=lambda item: (-item[0], item[1]))[:_MOST_MILESTONES]
    return tuple(Milestone(date.fromordinal(day).isoformat(), says) for day, says in latest)
