"""Two spans side by side, and the same exercise then and now."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session, aliased

from orexis.core.coach import Outcome
from orexis.core.exercises import EXERCISE_TYPES
from orexis.core.messages import tell
from orexis.core.trends import SCOPES, TREND_MEASURES, Claim, DayPoint, TrendMeasure, compared
from orexis.core.trends.measures import key_of
from orexis.core.trends.words import change_in_words, scope_in_words
from orexis.errors import InputError
from orexis.services.clock import local_day, now, utc
from orexis.services.journal import REHEARSED
from orexis.services.players.use import Players
from orexis.services.queries.measures_by_day import points_of
from orexis.services.record import Record
from orexis.services.values.players import Player
from orexis.store.models import MeasureDayRow, TakeRow

_LONGEST_DAYS = 3700  # ten years
_LATELY_DAYS, _APART_DAYS, _MOST_EXERCISES = 42, 5, 12


@dataclass(frozen=True, slots=True)
class Span:
    """From a day to a day, both counted in."""

    start: date
    end: date


@dataclass(frozen=True, slots=True)
class SideBySide:
    """A measure in both spans: the mean of the days' middles, how many days, and the change in words where it may be claimed."""

    measure: TrendMeasure
    scope: str
    first: float
    first_days: int
    last: float
    last_days: int
    claim: Claim | None
    says: str | None


@dataclass(frozen=True, slots=True)
class ThenAndNow:
    """The earliest and the latest take of an exercise that can be heard."""

    title: str
    written: str
    then_id: str
    then_at: datetime
    then_outcome: Outcome
    now_id: str
    now_at: datetime
    now_outcome: Outcome
    days: int


class Spans:
    """Looking at two times at once."""

    def __init__(self, record: Record, players: Players) -> None:
        self._record, self._players = record, players

    def compare(self, player_id: str, first: Span, last: Span) -> tuple[SideBySide, ...]:
        """On the instrument in hand; InputError for spans that cannot be."""
        for span in (first, last):
            if not 0 <= (span.end - span.start).days <= _LONGEST_DAYS:
                raise InputError(
                    tell(
                        "From {start} to {end} is not a period. The end must come after the start.",
                        start=span.start,
                        end=span.end,
                    )
                )
        if last.start <= first.end:
            raise InputError("The second period must start after the first one ends.")
        person = self._players.get(player_id)
        with self._record.database.reading() as db:
            before, after = _points(db, person, first), _points(db, person, last)
        out = []
        for measure in TREND_MEASURES.values():
            for scope in (None, *SCOPES, *EXERCISE_TYPES):
                key = key_of(measure.id, scope)
                if key in before and key in after:
                    out.append(_side_by_side(measure, scope, before[key], after[key]))
        return tuple(out)

    def then_and_now(self, player_id: str) -> tuple[ThenAndNow, ...]:
        """Exercises played lately and at least some days before, those furthest apart first."""
        person = self._players.get(player_id)
        with self._record.database.reading() as db:
            pairs = [pair for pair in _pairs(db, person) if pair.days >= _APART_DAYS]
        heard = [
            pair for pair in pairs if all(self._record.sound_path(key).exists() for key in (pair.then_id, pair.now_id))
        ]
        return tuple(sorted(heard, key=lambda pair: (-pair.days, pair.title))[:_MOST_EXERCISES])


def _points(db: Session, person: Player, span: Span) -> dict[str, list[DayPoint]]:
    since, until = span.start.toordinal(), span.end.toordinal()
    return points_of(db, MeasureDayRow, person.id, person.instrument, since=since, until=until)


def _side_by_side(
    measure: TrendMeasure, scope: str | None, first: Sequence[DayPoint], last: Sequence[DayPoint]
) -> SideBySide:
    claim = compared(measure.id, first, last)
    return SideBySide(
        measure,
        scope_in_words(scope) if scope else "",
        round(sum(point.middle for point in first) / len(first), 2),
        len(first),
        round(sum(point.middle for point in last) / len(last), 2),
        len(last),
        claim,
        change_in_words(measure, claim) if claim else None,
    )


def _pairs(db: Session, person: Player) -> list[ThenAndNow]:
    """One statement: exercises of the last weeks, and for each its earliest take with sound, by the index."""
    row, early = TakeRow, aliased(TakeRow)
    since = local_day(now() - timedelta(days=_LATELY_DAYS))
    mine = (
        row.player_id == person.id,
        row.instrument == person.instrument,
        row.discarded_at.is_(None),
        row.source != REHEARSED,
    )
    latest = (
        select(row.exercise_id, func.max(row.started_at).label("at"))
        .where(*mine, row.day >= since)
        .group_by(row.exercise_id)
        .order_by(func.max(row.started_at).desc())
        .limit(4 * _MOST_EXERCISES)
        .subquery()
    )
    first_id = (
        select(early.id)
        .where(
            early.player_id == person.id,
            early.instrument == person.instrument,
            early.exercise_id == latest.c.exercise_id,
        )
        .where(early.discarded_at.is_(None), early.source != REHEARSED)
        .order_by(early.started_at)
        .limit(1)
        .correlate(latest)
        .scalar_subquery()
    )
    then = aliased(TakeRow)
    query = (
        select(
            row.title, row.written, row.id, row.started_at, row.outcome, then.id, then.started_at, then.outcome, row.day - then.day
        )
        .join(latest, (row.exercise_id == latest.c.exercise_id) & (row.started_at == latest.c.at))
        .join(then, then.id == first_id)
        .where(*mine)
    )  # fmt: skip
    return [
        ThenAndNow(
            title, written, then_id, utc(then_at), Outcome(then_said), now_id, utc(now_at), Outcome(now_said), days
        )
        for title, written, now_id, now_at, now_said, then_id, then_at, then_said, days in db.execute(query)
    ]
