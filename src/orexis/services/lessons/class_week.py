"""A teacher's class on one page: for each player the week, what got better, what slipped, what is stuck, what was said of lips."""

from dataclasses import dataclass
from datetime import date, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.planning import monday
from orexis.core.practice import LIPS_SAID
from orexis.services.clock import local_day, now
from orexis.services.documents import from_json
from orexis.services.planning.goals import Goals
from orexis.services.players.use import Players
from orexis.services.queries.glance import last_day_of, minutes_by_day, stuck_at
from orexis.services.queries.progress import lately
from orexis.services.record import Record
from orexis.services.values.lessons import ExchangeDirection, ExchangeKind, Lesson
from orexis.services.values.players import Player
from orexis.services.values.sessions import SessionSummary
from orexis.store.models import ExchangeRow, GoalRow, SessionRow

_LIPS_DAYS = 14


@dataclass(frozen=True, slots=True)
class ClassMember:
    """A player of the class. `minutes`: of tone on each day of this week, Monday first; `lips`: the latest report of two weeks;
    `open_lessons`: given to them, with parts that they have not added yet.
    """

    player_id: str
    minutes: tuple[float, ...]
    last_week_minutes: float
    last_day: str | None
    better: str | None
    slipped: str | None
    stuck: str | None
    lips: str | None
    lips_day: str | None
    open_lessons: int


@dataclass(frozen=True, slots=True)
class OnTheWay:
    """Where one player stands on the way to a goal of the class. `share` of the way done, 0 to 1; `median`: when it is expected."""

    player_id: str
    state: str
    share: float
    now: str
    median: str | None
    ended: str | None


@dataclass(frozen=True, slots=True)
class ClassGoal:
    """A goal that two players or more have, and where each of them stands."""

    says: str
    by: str
    players: tuple[OnTheWay, ...]


@dataclass(frozen=True, slots=True)
class ClassShown:
    """The class. `teachers`: who looks after it; it has no members where there is none."""

    teachers: tuple[str, ...]
    members: tuple[ClassMember, ...]
    goals: tuple[ClassGoal, ...]


def class_week(record: Record, players: Players, goals: Goals) -> ClassShown:
    """Everybody who plays here and does not teach."""
    today = local_day(now())
    here = [person for person in players.all() if not person.guest]
    teachers = tuple(person.name for person in here if person.settings.teaches)
    if not teachers:
        return ClassShown((), (), ())
    class_ = [person for person in here if not person.settings.teaches]
    with record.database.reading() as db:
        return ClassShown(teachers, tuple(_member(db, person, today) for person in class_), _goals(db, goals, class_))


def _member(db: Session, person: Player, today: int) -> ClassMember:
    start = monday(today)
    played, last = minutes_by_day(db, person.id, start - 7), last_day_of(db, person.id, today)
    better, slipped = lately(db, person, today)
    return ClassMember(
        person.id,
        tuple(round(played.get(day, 0.0), 1) for day in range(start, start + 7)),
        round(sum(minutes for day, minutes in played.items() if day < start), 1),
        date.fromordinal(last).isoformat() if last else None,
        better[0] if better else None,
        slipped[0] if slipped else None,
        stuck_at(db, person.id, today),
        *_lips(db, person.id),
        _open_lessons(db, person.id),
    )


def _lips(db: Session, player_id: str) -> tuple[str | None, str | None]:
    """What was said of the lips last, and the day."""
    row = SessionRow
    since = now() - timedelta(days=_LIPS_DAYS)
    sessions = select(row.started_at, row.summary).where(
        row.player_id == player_id, row.played, row.started_at >= since
    )
    for started_at, text in db.execute(sessions.order_by(row.started_at.desc())):
        summary = from_json(SessionSummary, text)
        # High work also ends by misses, which is not about lips.
        said = summary.stopped or (summary.heavy_over if summary.heavy_over in LIPS_SAID else None)
        if said is not None:
            return said, date.fromordinal(local_day(started_at)).isoformat()
    return None, None


def _open_lessons(db: Session, player_id: str) -> int:
    row = ExchangeRow
    given = select(row.contents, row.taken).where(
        row.player_id == player_id, row.kind == ExchangeKind.LESSON, row.way == ExchangeDirection.RECEIVED
    )
    return sum(
        bool(set(from_json(Lesson, contents).parts) - set(from_json(tuple[str, ...], taken)))
        for contents, taken in db.execute(given)
    )


def _goals(db: Session, goals: Goals, people: list[Player]) -> tuple[ClassGoal, ...]:
    """Goals that at least two have, the same as each of them reads it; given up ones left out, the nearest date first."""
    having = set(db.scalars(select(GoalRow.player_id).where(GoalRow.state != "given up").distinct()))
    ways: dict[str, list[tuple[str, OnTheWay]]] = {}
    for person in people:
        for goal in goals.all(person.id) if person.id in having else ():
            if goal.state != "given up":
                on_the_way = OnTheWay(person.id, goal.state, goal.share, goal.now, goal.median, goal.ended)
                ways.setdefault(goal.says, []).append((goal.date, on_the_way))
    found = [
        ClassGoal(says, max(day for day, _ in ways), tuple(way for _, way in ways))
        for says, ways in ways.items()
        if len(ways) > 1
    ]
    return tuple(sorted(found, key=lambda goal: (goal.by, goal.says)))
