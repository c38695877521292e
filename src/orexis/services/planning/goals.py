"""Goals: goals with dates on the record, where each stands, and when it will be reached."""

from collections.abc import Iterable, Mapping
from datetime import date, datetime
from uuid import uuid4

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.messages import tell
from orexis.core.planning import (
    PRIOR_DAYS,
    CheckIn,
    Forecast,
    GoalHistory,
    GoalKind,
    GoalPosition,
    GoalTarget,
    checked_target,
    days_before_forecast,
    days_for,
    exercise_type_of,
    forecast,
    goal_history_over,
    goal_in_words,
    place_of,
    why_never_worked_at,
    would_change,
)
from orexis.core.theory import parse_pitch
from orexis.errors import ConflictError, InputError, OrexisError
from orexis.services.clock import local_day, now
from orexis.services.documents import from_json, to_json
from orexis.services.planning.remember import goal_evidence_of, planning_context_from
from orexis.services.planning.written import in_written
from orexis.services.players.use import Players
from orexis.services.record import Record, require_owned, require_row
from orexis.services.values.planning import GoalShown
from orexis.services.values.players import Player
from orexis.store.models import GoalDayRow, GoalRow, PracticeDayRow

STATES = ("on", "paused", "given up", "reached")
_MOST_GOALS = 6  # more goals than days of the week get no work
_LONGEST_GOAL = 3 * 366  # three years: forecasts end at five
_LOOKS_BACK = 60  # days


class Goals:
    """The goals of all players: shown with a forecast, added, changed, closed when they are reached."""

    def __init__(self, record: Record, players: Players) -> None:
        self._record, self._players = record, players

    def all(self, player_id: str, *, at: datetime | None = None) -> tuple[GoalShown, ...]:
        """All of the instrument in hand, those that are on first. One whose target is met is closed as reached."""
        person, today = self._players.get(player_id), local_day(at or now())
        with self._record.database.reading() as db:
            rows = goals_of(db, person, states=STATES)
            if not rows:
                return ()
            known, shown = planning_context_from(db, person, CheckIn(), today), goal_evidence_of(db, person)
            noted = {row.id: _noted(db, row.id) for row in rows}
            practised = _practised(db, person)
        places = {row.id: place_of(from_json(GoalTarget, row.target), known, shown) for row in rows}
        latest = max(practised, default=None)
        self._note(rows, places, latest, today)
        for row in rows:
            noted[row.id][max(latest or 0, row.began)] = places[row.id].position
        ordered = sorted(rows, key=lambda row: (STATES.index(row.state), row.day, row.id))
        missing = days_before_forecast(len(practised))
        return tuple(
            _shown(
                row, places[row.id], goal_history_over(practised, noted[row.id]), person, today, missing_days=missing
            )
            for row in ordered
        )

    def add(self, player_id: str, target: GoalTarget, by: date, *, at: datetime | None = None) -> GoalShown:
        """A new goal; InputError for one that is met, impossible, or before today."""
        person, today = self._players.get(player_id), local_day(at or now())
        checked_target(target, person.own_instrument)
        never = why_never_worked_at(target, person.terms.standard, person.settings.minutes)
        if never is not None:
            raise InputError(never)
        if by.toordinal() <= today:
            raise InputError("Choose a date after today.")
        if by.toordinal() > today + _LONGEST_GOAL:
            raise InputError("The date is more than three years away. Choose an earlier one.")
        with self._record.database.reading() as db:
            place = place_of(target, planning_context_from(db, person, CheckIn(), today), goal_evidence_of(db, person))
            others = goals_of(db, person, states=("on", "paused"))
        if place.reached:
            raise InputError(tell("You can do that already ({now}): choose more.", now=place.now))
        if any(from_json(GoalTarget, row.target) == target for row in others):
            raise ConflictError("There is a goal like this already.")
        if len(others) >= _MOST_GOALS:
            raise ConflictError(
                tell("{most_goals} goals are active. Finish or pause one first.", most_goals=_MOST_GOALS)
            )
        row = GoalRow(
            id=uuid4().hex,
            player_id=person.id,
            instrument=person.instrument,
            target=to_json(target),
            day=by.toordinal(),
            state="on",
            began=today,
            ended=None,
        )
        with self._record.database.writing() as db:
            db.add(row)
            db.flush()
            db.add(GoalDayRow(goal_id=row.id, day=today, position=place.position))
        return next(item for item in self.all(player_id, at=at) if item.id == row.id)

    def add_to_all(
        self, player_ids: Iterable[str], kind: GoalKind, value: str, by: date, *, joined: bool = False
    ) -> tuple[str, ...]:
        """The same goal for several. A note is named as each of them reads it; anything else is a number.

        Return a sentence for each player who cannot have it.
        """
        refused: list[str] = []
        for person in [self._players.get(key) for key in dict.fromkeys(player_ids)]:
            try:
                self.add(person.id, _target_of(person, kind, value, joined=joined), by)
            except OrexisError as error:
                refused.append(f"{person.name}: {error}")
        return tuple(refused)

    def change(self, player_id: str, goal_id: str, *, state: str, by: date | None) -> None:
        """Go on, pause, give up, or move the date."""
        if state not in STATES[:3]:
            raise InputError(tell("A goal is {states}, not “{state}”.", states=", ".join(STATES[:3]), state=state[:20]))
        with self._record.database.writing() as db:
            row = require_owned(db, GoalRow, goal_id, player_id, "goal")
            if row.state == "reached":
                raise ConflictError("This goal is reached. Add another.")
            row.state = state
            row.ended = local_day(now()) if state == "given up" else None
            if by is not None:
                if by.toordinal() <= local_day(now()):
                    raise InputError("Choose a date after today.")
                row.day = by.toordinal()

    def _note(self, rows: list[GoalRow], places: Mapping[str, GoalPosition], latest: int | None, today: int) -> None:
        """Where each stands at the end of the latest day of practice, and reached where it is."""
        with self._record.database.reading() as db:
            fresh = [
                row
                for row in rows
                if row.state == "on"
                and (places[row.id].reached or (latest is not None and _is_new(db, row, latest, places)))
            ]
        if not fresh:
            return
        with self._record.database.writing() as db:
            for row in fresh:
                place = places[row.id]
                db.merge(GoalDayRow(goal_id=row.id, day=latest or today, position=place.position))
                if place.reached:
                    kept = require_row(db, GoalRow, row.id, "goal")
                    kept.state, kept.ended = "reached", today
                    row.state, row.ended = "reached", today


def _target_of(person: Player, kind: GoalKind, value: str, *, joined: bool) -> GoalTarget:
    """The target, its note as this player reads it; InputError where the value is neither a note's name nor a number."""
    if kind == GoalKind.OWN:
        transposition = person.own_instrument.part(person.part).transposition
        return GoalTarget(kind, float(transposition.concert(parse_pitch(value)).midi), joined=joined)
    try:
        return GoalTarget(kind, float(value))
    except ValueError:
        raise InputError(tell("The goal's value is “{value}”: write a number.", value=value[:20])) from None


def goals_of(db: Session, person: Player, *, states: tuple[str, ...]) -> list[GoalRow]:
    """Those of the instrument in hand that are in one of these states, the nearest date first."""
    row = GoalRow
    query = select(row).where(row.player_id == person.id, row.instrument == person.instrument, row.state.in_(states))
    rows = list(db.scalars(query.order_by(row.day, row.id)))
    db.expunge_all()
    return rows


def _noted(db: Session, goal_id: str) -> dict[int, float]:
    """Positions by day, the latest of them."""
    row = GoalDayRow
    query = select(row.day, row.position).where(row.goal_id == goal_id)
    return {note.day: note.position for note in db.execute(query.order_by(row.day.desc()).limit(_LOOKS_BACK))}


def _practised(db: Session, person: Player) -> list[int]:
    """Return the days on which the instrument in hand was played, the latest first."""
    row = PracticeDayRow
    query = select(row.day).where(row.player_id == person.id, row.instrument == person.instrument, row.takes > 0)
    return list(db.scalars(query.order_by(row.day.desc()).limit(_LOOKS_BACK)))


def _is_new(db: Session, row: GoalRow, day: int, places: Mapping[str, GoalPosition]) -> bool:
    known = db.get(GoalDayRow, (row.id, day))
    return known is None or known.position != places[row.id].position


def _shown(
    row: GoalRow, place: GoalPosition, gained: GoalHistory, person: Player, today: int, *, missing_days: int
) -> GoalShown:
    target, part = from_json(GoalTarget, row.target), person.own_instrument.part(person.part)
    first = gained.positions[0]
    days = days_for(target.kind, person.settings.minutes)
    prior = PRIOR_DAYS[target.kind]
    told: Forecast | None = None
    otherwise = None
    if row.state == "on" and not missing_days:
        told = forecast(place, gained, prior_days=prior, today=today, days_a_week=days)
        otherwise = would_change(
            place, gained, target.kind, prior_days=prior, today=today, days_a_week=days, date=row.day
        )
    return GoalShown(
        id=row.id,
        target=target,
        says=in_written(goal_in_words(target), part),
        exercise_type=exercise_type_of(target, person.own_instrument),
        date=_iso(row.day) or "",
        state=row.state,
        began=_iso(row.began) or "",
        ended=_iso(row.ended),
        now=in_written(place.now, part),
        asked=in_written(place.asked, part),
        share=1.0 if row.state == "reached" else place.share_since(first),
        steps_left=place.steps_left,
        median=_iso(told.median) if told else None,
        low=_iso(told.low) if told else None,
        high=_iso(told.high) if told else None,
        otherwise=otherwise,
        missing_days=missing_days,
    )


def _iso(day: int | None) -> str | None:
    return None if day is None else date.fromordinal(day).isoformat()
