"""Weeks of the demo before its last days: planned by the record and rehearsed at measure level, without sound."""

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from datetime import UTC, date, datetime, time, timedelta

from orexis.core.exercises import Exercise, Medium
from orexis.core.instruments import INSTRUMENTS, Instrument
from orexis.core.measures import Measures, NoteMeasures
from orexis.core.planning import DayKind, GoalKind, GoalTarget, middle_of, monday
from orexis.core.practice import Event, EventName, Phase
from orexis.core.rehearsal import KINDS, Learner, learner
from orexis.services.application import Application
from orexis.services.values.players import Player

_MOST_TAKES = 120  # no session holds more: stops one that never ends


@dataclass(frozen=True, slots=True)
class DemoWeeks:
    """How somebody of the demo has practised. `given`: minutes, Monday first; `habit`: size of the faults at first, and now."""

    weeks: int
    given: tuple[int, ...]
    hour: int
    kind: str
    habit: tuple[float, float]
    goals_since: int | None = None  # weeks ago
    thin_until: int = 0  # weeks ago: before, there were fewer evenings
    thin_days: tuple[int, ...] = ()  # weekdays on which there were any then
    thin_minutes: int = 12  # of those
    register: float = 0.0  # cents sharper an octave up: a habit that the instrument has no part in
    instrument: dict[str, float] = field(
        default_factory=dict
    )  # by how much fingerings of this very instrument depart from theory


def rehearse_weeks(house: Application, player: Player, today: date, weeks: DemoWeeks, *, seed: int) -> None:
    """Practice on most of the days given, and two goals where there are any."""
    first = today - timedelta(weeks=weeks.weeks)
    who = learner(
        KINDS[weeks.kind], player.own_instrument, player.standard, seed, middle=middle_of(player.own_instrument)
    )
    thinner = tuple(weeks.thin_minutes if at in weeks.thin_days else 0 for at in range(7))
    house.players.change_settings(player.id, {"minutes": thinner if weeks.thin_until else weeks.given})
    days = (today - first).days
    person = who.who
    for number in range(days):
        day = first + timedelta(days=number)
        who.who = replace(person, habit=weeks.habit[0] + (weeks.habit[1] - weeks.habit[0]) * number / days)
        left = (today - day).days
        if weeks.goals_since is not None and left == 7 * weeks.goals_since:
            _goals(house, player, who, today, _evening(day, weeks.hour))
        if left == 7 * weeks.thin_until:
            house.players.change_settings(player.id, {"minutes": weeks.given})
        practised = not _is_off(house, player, _evening(day, weeks.hour))
        if practised:
            minutes = weeks.thin_minutes if left > 7 * weeks.thin_until > 0 else max(10, weeks.given[day.weekday()])
            _evening_of_practice(house, player, who, weeks, _evening(day, weeks.hour), minutes=minutes)
        who.sleeps(practised=practised)


def _goals(house: Application, player: Player, who: Learner, today: date, at: datetime) -> None:
    house.goals.add(player.id, GoalTarget(GoalKind.SLUR, 7.0), today + timedelta(weeks=9), at=at)
    house.goals.add(
        player.id, GoalTarget(GoalKind.OWN, float(round(who.high) + 8), joined=True), today + timedelta(weeks=6), at=at
    )


def _is_off(house: Application, player: Player, at: datetime) -> bool:
    """Whether the week has the day off: then nobody plays."""
    today = at.astimezone().date().toordinal()
    week = next(week for week in house.planning.weeks(player.id, at=at).weeks if week.start == monday(today))
    return any(day.day == today and day.kind == DayKind.OFF for day in week.days)


def _evening(day: date, hour: int) -> datetime:
    return datetime.combine(day, time(hour, 5), UTC)


def _evening_of_practice(
    house: Application, player: Player, who: Learner, weeks: DemoWeeks, moment: datetime, *, minutes: int
) -> None:
    session = house.sessions.open_day(player.id, minutes, at=moment)
    state = session.state
    for _ in range(_MOST_TAKES):
        if state.phase == Phase.DONE or state.paused:
            break
        if state.phase == Phase.REST and state.rest is not None:
            who.rests(state.rest.seconds)
            moment += timedelta(seconds=state.rest.seconds)
            state = house.takes.happen(session.id, Event(EventName.REST_OVER))
            continue
        step = None if state.checking else state.current.step
        take = house.takes.measured(session.id, _on_this_instrument(who, weeks, player.own_instrument, step), at=moment)
        who.has_played(
            take.exercise.exercise_type, step, take.exercise, take.verdict.outcome, take.measures.exercise.playing_s
        )
        moment += timedelta(seconds=take.duration_s + 8.0)
        state = house.takes.happen(session.id, Event(EventName.GO_ON))
    house.takes.happen(session.id, Event(EventName.STOP))
    house.goals.all(player.id, at=moment)


def _on_this_instrument(
    who: Learner, weeks: DemoWeeks, instrument: Instrument, step: int | None
) -> Callable[[Exercise], Measures]:
    """How the learner plays on an instrument that departs from theory, with a slope of their own over the register."""
    middle = middle_of(INSTRUMENTS[instrument.id])

    def plays(exercise: Exercise) -> Measures:
        measures = who.plays(exercise, step)
        if exercise.medium != Medium.INSTRUMENT or not (weeks.register or weeks.instrument):
            return measures
        notes = {note.id: note for note in exercise.notes}

        def moved(row: NoteMeasures) -> NoteMeasures:
            note = notes.get(row.target or "")
            if note is None or row.pitch_error_cents is None:
                return row
            cents = weeks.instrument.get(note.fingering.label, 0.0) + weeks.register * (note.pitch.midi - middle) / 12.0
            share = note.instrument_cents if note.keep_fingering else 0.0
            centre = row.pitch_error_cents + cents
            return replace(
                row, pitch_error_cents=centre + share, judged_error_cents=centre, instrument_cents=note.instrument_cents
            )

        return replace(measures, notes=tuple(moved(row) for row in measures.notes))

    return plays
