"""What a day is planned from, read from the record: a bounded number of rows, whatever the history."""

from datetime import datetime, timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orexis.core.coach import Freshness, Verdict, set_played
from orexis.core.exercises import FREE_PRACTICE, IN_SETS, SetPlayed
from orexis.core.planning import (
    HEAVY_EXERCISE_TYPES,
    LOOKED_BACK,
    CheckIn,
    DayKind,
    Days,
    ExerciseTypeDay,
    GoalEvidence,
    PlanningContext,
    PlayingHistory,
    PracticeHistory,
    Week,
    high_loads,
    loads_elsewhere,
    monday,
    plan_week,
    planning_context_of,
)
from orexis.services.clock import local_day, utc
from orexis.services.documents import all_from_json, from_json
from orexis.services.planning.days import PlayerOnInstrument, standings
from orexis.services.projections.levels import exercise_type_days
from orexis.services.projections.ranges import range_notes_of
from orexis.services.queries.measures_by_day import latest_middles
from orexis.services.values.players import Player
from orexis.services.values.sessions import SessionSummary
from orexis.store.models import AnalysisRow, ExerciseTypeDayRow, PracticeDayRow, SessionRow, TakeRow

_LOADS_BACK = 26 * 7  # days of load that the weeks look at
_ELSEWHERE_AHEAD = 21  # days
_HIGH_BACK = 15 * 7  # the same of heavy work: four practised weeks, with pauses between
_SPENT_BACK = 9  # days: this week and the days before that its rules look at
_SETS_SINCE = timedelta(weeks=60)  # sets further back have been lost again by pauses, or have long made five
_SETS_EXERCISE_TYPE = IN_SETS.id
_CENTRES, _CENTRE_AMONG, _TIRING_SESSIONS = 5, 30, 12


def whose_of(person: Player) -> PlayerOnInstrument:
    """The player with the instrument in hand."""
    return PlayerOnInstrument(person.id, person.own_instrument, person.standard)


def playing_history_of(db: Session, person: Player, today: int, *, until: int | None = None) -> PlayingHistory:
    """Loads by day over all instruments and of playing elsewhere, because lips have one load; days that were heavy, and those that ended
    spent. `until`: the day before which playing elsewhere is over, where that is not `today`.
    """
    row, player_id = PracticeDayRow, person.id
    query = (
        select(row.day, func.sum(row.load), func.max(row.kind == DayKind.HEAVY))
        .where(row.player_id == player_id, row.day >= today - _LOADS_BACK)
        .group_by(row.day)
    )
    rows = db.execute(query).all()
    loads = {day: float(load) for day, load, _ in rows if load}
    for day, load in _elsewhere(person, today - _LOADS_BACK, until or today).items():
        loads[day] = loads.get(day, 0.0) + load
    heavy = frozenset(day for day, _, was_heavy in rows if was_heavy)
    return PlayingHistory(loads, _spent(db, player_id, today), heavy, _high_loads(db, player_id, today - _HIGH_BACK))


def _high_loads(db: Session, player_id: str, since: int) -> dict[int, float]:
    """The load of heavy exercises by day, over all instruments."""
    row = ExerciseTypeDayRow
    query = select(row.stats_json).where(
        row.player_id == player_id, row.day >= since, row.exercise_type.in_(HEAVY_EXERCISE_TYPES)
    )
    return high_loads(all_from_json(ExerciseTypeDay, db.scalars(query)))


def _spent(db: Session, player_id: str, today: int) -> frozenset[int]:
    since = datetime.fromordinal(today - _SPENT_BACK).astimezone()
    query = select(SessionRow.started_at, SessionRow.summary).where(
        SessionRow.player_id == player_id, SessionRow.started_at >= since, SessionRow.played
    )
    return frozenset(
        local_day(utc(started))
        for started, text in db.execute(query)
        if Freshness.SPENT in (summary := from_json(SessionSummary, text)).checks
        or summary.stopped
        or summary.to_the_limit
    )


def days_of(person: Player, today: int, *, end: int | None = None) -> Days:
    """What the player can give, and what they play elsewhere from today on (to before `end`, or for some weeks)."""
    own = person.settings
    moved = {_ordinal(day): minutes for day, minutes in own.moved.items()}
    return Days(
        tuple(own.minutes),
        frozenset(_ordinal(day) for day in own.performances),
        moved,
        own.plays_now,
        _elsewhere(person, today, end if end is not None else today + _ELSEWHERE_AHEAD),
    )


def _elsewhere(person: Player, first: int, end: int) -> dict[int, float]:
    return loads_elsewhere((item.planned for item in person.settings.elsewhere), first, end)


def _ordinal(day: str) -> int:
    return datetime.fromisoformat(day).toordinal()


def week_of(db: Session, person: Player, today: int) -> Week:
    """The week as it is planned now."""
    practised = playing_history_of(db, person, today)
    return plan_week(today, monday(today), practised, days_of(person, today), standard=person.standard)


def practice_history_of(db: Session, person: Player, today: int) -> PracticeHistory:
    """Exercise types, standings, notes and sets of the instrument in hand."""
    whose = whose_of(person)
    latest = db.scalar(
        select(func.max(PracticeDayRow.day)).where(
            PracticeDayRow.player_id == person.id, PracticeDayRow.instrument == person.instrument
        )
    )
    since = min(today, latest if latest is not None else today) - LOOKED_BACK
    days = exercise_type_days(db, whose.owner, since=since)
    return PracticeHistory(
        days,
        standings(db, whose, days, before=today),
        range_notes_of(db, whose.owner),
        sets_of(db, person, today) if any(day.exercise_type == _SETS_EXERCISE_TYPE for day in days) else (),
        _free_loads(db, person.id, since=monday(today)),
    )


def _free_loads(db: Session, player_id: str, *, since: int) -> dict[int, float]:
    """What was played without an exercise, by day, over all instruments."""
    query = (
        select(TakeRow.day, func.sum(TakeRow.load))
        .where(TakeRow.player_id == player_id, TakeRow.exercise_type == FREE_PRACTICE)
        .where(TakeRow.day >= since, TakeRow.discarded_at.is_(None))
        .group_by(TakeRow.day)
    )
    return {day: float(load) for day, load in db.execute(query)}


def sets_of(db: Session, person: Player, today: int) -> tuple[SetPlayed, ...]:
    """The pedal sets that were really played on the instrument in hand."""
    since = datetime.fromordinal(today).astimezone() - _SETS_SINCE
    query = (
        select(TakeRow.day, func.min(AnalysisRow.version), AnalysisRow.verdict)
        .join(AnalysisRow, AnalysisRow.take_id == TakeRow.id)
        .group_by(TakeRow.id)
        .where(
            TakeRow.player_id == person.id,
            TakeRow.instrument == person.instrument,
            TakeRow.exercise_type == _SETS_EXERCISE_TYPE,
        )
        .where(TakeRow.discarded_at.is_(None), TakeRow.started_at >= since)
        .order_by(TakeRow.started_at)
    )
    # SQLite gives the verdict of the row with the least version: the one that was told.
    return tuple(set_played(from_json(Verdict, text), day=day) for day, _, text in db.execute(query))


def planning_context_from(db: Session, person: Player, said: CheckIn, today: int) -> PlanningContext:
    """All that a day is planned from, without what goals wish."""
    return planning_context_of(
        practice_history_of(db, person, today),
        said,
        instrument=person.own_instrument,
        standard=person.standard,
        approaches=person.settings.chosen,
        care=person.settings.care,
        today=today,
        week=week_of(db, person, today),
    )


def goal_evidence_of(db: Session, person: Player) -> GoalEvidence:
    """Centre in the middle of the last days; minutes of playing to the first "tiring" in the middle of the last sessions."""
    centres = sorted(
        latest_middles(db, person.id, person.instrument, "pitch_error_cents", days=_CENTRES, looked_at=_CENTRE_AMONG)
    )
    summaries = db.scalars(
        select(SessionRow.summary)
        .where(SessionRow.player_id == person.id, SessionRow.played, SessionRow.instrument == person.instrument)
        .order_by(SessionRow.started_at.desc())
        .limit(_TIRING_SESSIONS)
    )
    told = [from_json(SessionSummary, text).tiring_after_s for text in summaries]
    minutes = sorted(seconds / 60.0 for seconds in told if seconds is not None)
    return GoalEvidence(
        centres[len(centres) // 2] if centres else None, minutes[len(minutes) // 2] if minutes else None
    )
