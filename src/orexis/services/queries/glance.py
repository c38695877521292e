"""Everybody in the household at a glance: when they last played, how much this week, and what is stuck."""

from dataclasses import dataclass
from datetime import date

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orexis.core.coach import REASONS
from orexis.core.exercises import EXERCISE_TYPES
from orexis.core.messages import tell
from orexis.core.planning import ExerciseTypeDay, monday
from orexis.core.planning.memory import lately
from orexis.services.clock import local_day, now
from orexis.services.documents import from_json
from orexis.services.players.use import Players
from orexis.services.record import Record
from orexis.store.models import ExerciseTypeDayRow, PracticeDayRow

_LOOKED_AT_DAYS, _LEAST_TAKES, _STUCK = 14, 6, 0.6


@dataclass(frozen=True, slots=True)
class Glance:
    """A player, all instruments together. `stuck`: where most takes of two weeks were missed, in words; None where nothing is."""

    player_id: str
    last_day: str | None
    days_ago: int | None
    days_this_week: int
    minutes_this_week: float
    minutes_last_week: float
    stuck: str | None


def at_a_glance(record: Record, players: Players) -> tuple[Glance, ...]:
    """One for each player, in the order of the household."""
    today = local_day(now())
    with record.database.reading() as db:
        return tuple(_glance(db, person.id, today) for person in players.all())


def _glance(db: Session, player_id: str, today: int) -> Glance:
    last, start = last_day_of(db, player_id, today), monday(today)
    played = minutes_by_day(db, player_id, start - 7)
    this_week = [minutes for day, minutes in played.items() if day >= start]
    return Glance(
        player_id,
        date.fromordinal(last).isoformat() if last else None,
        today - last if last else None,
        len(this_week),
        round(sum(this_week), 1),
        round(sum(minutes for day, minutes in played.items() if day < start), 1),
        stuck_at(db, player_id, today),
    )


def last_day_of(db: Session, player_id: str, today: int) -> int | None:
    """The last day up to today on which somebody played, on any instrument."""
    row = PracticeDayRow
    return db.scalar(select(func.max(row.day)).where(row.player_id == player_id, row.takes > 0, row.day <= today))


def minutes_by_day(db: Session, player_id: str, since: int) -> dict[int, float]:
    """Minutes of tone on each day that was played from a day on, all instruments together."""
    row = PracticeDayRow
    query = select(row.day, func.sum(row.playing_s)).where(row.player_id == player_id, row.day >= since, row.takes > 0)
    return {day: seconds / 60.0 for day, seconds in db.execute(query.group_by(row.day))}


def stuck_at(db: Session, player_id: str, today: int) -> str | None:
    """Where most takes of the last two weeks were missed, in words; None where nothing is."""
    row = ExerciseTypeDayRow
    query = (
        select(row.stats_json).where(row.player_id == player_id, row.day >= today - _LOOKED_AT_DAYS).order_by(row.day)
    )
    practised = lately((from_json(ExerciseTypeDay, text) for text in db.scalars(query)), since=today - _LOOKED_AT_DAYS)
    worst = max(
        (one for one in practised.values() if one.takes >= _LEAST_TAKES and one.missed_share >= _STUCK),
        key=lambda one: (one.missed_share, one.takes),
        default=None,
    )
    if worst is None or worst.exercise_type not in EXERCISE_TYPES:
        return None
    said = tell(
        "{exercise}: {missed} of {takes} takes missed.",
        exercise=EXERCISE_TYPES[worst.exercise_type].name,
        missed=worst.takes - worst.clean,
        takes=worst.takes,
    )
    if worst.reason is not None and worst.reason[0] in REASONS:
        said += " " + tell(
            "Most often: {reason} ({count}).", reason=REASONS[worst.reason[0]].label, count=worst.reason[1]
        )
    return said
