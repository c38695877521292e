"""Weeks of the demo before its last days: planned by the record and rehearsed at measure level, without sound."""

from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from functools import partial

from orexis.core.planning import Aim, AimKind, middle_of
from orexis.core.practice import Event, EventName, Phase
from orexis.core.rehearsal import KINDS, Learner, learner
from orexis.services.house import House
from orexis.services.players import Player

WEEKS = 6
_MINUTES, _HOUR, _MOST_TAKES = 20, 18, 120
_HABIT = (3.5, 1.5)  # how large her faults are at first, and now
_SOUND_ONLY = (2, 4, 6)  # days before today with two sessions of sound each
_WITH_SOUND = 10  # the last days, which have sessions with sound beside these
_WEEK = (20, 20, 0, 20, 0, 20, 0)  # minutes, Monday first


def rehearse_weeks(house: House, player: Player, today: date, *, seed: int) -> None:
    """Two programmes begun, and practice on most days since."""
    first = today - timedelta(weeks=WEEKS)
    who = learner(KINDS["steady"], player.instrument, player.stage, seed, middle=middle_of(player.instrument))
    house.players.change_settings(player.id, {"minutes": _WEEK})
    began = _evening(first)
    house.programmes.add(player.id, Aim(AimKind.SLUR, 7.0), today + timedelta(weeks=9), at=began)
    house.programmes.add(
        player.id, Aim(AimKind.OWN, float(round(who.high) + 8), joined=True), today + timedelta(weeks=6), at=began
    )
    days = (today - first).days
    person = who.who
    for number in range(days):
        day = first + timedelta(days=number)
        who.who = replace(person, habit=_HABIT[0] + (_HABIT[1] - _HABIT[0]) * number / days)
        left = (today - day).days
        practised = _WEEK[day.weekday()] > 0 and left not in _SOUND_ONLY
        if practised:
            _evening_of_practice(house, player, who, _evening(day), minutes=10 if left <= _WITH_SOUND else _MINUTES)
        who.sleeps(practised=practised)


def _evening(day: date) -> datetime:
    return datetime.combine(day, time(_HOUR, 5), UTC)


def _evening_of_practice(house: House, player: Player, who: Learner, moment: datetime, *, minutes: int) -> None:
    session = house.sessions.open_day(player.id, minutes, at=moment)
    for _ in range(_MOST_TAKES):
        state = house.sessions.get(session.id).state
        if state.phase == Phase.DONE or state.paused:
            break
        if state.phase == Phase.REST and state.rest is not None:
            who.rests(state.rest.seconds)
            moment += timedelta(seconds=state.rest.seconds)
            house.takes.happen(session.id, Event(EventName.REST_OVER))
            continue
        step = None if state.checking else state.current.step
        take = house.takes.measured(session.id, partial(who.plays, step=step), at=moment)
        who.has_played(take.figure.family, step, take.figure, take.verdict.outcome, take.measures.figure.playing_s)
        moment += timedelta(seconds=take.duration_s + 8.0)
        house.takes.happen(session.id, Event(EventName.GO_ON))
    house.takes.happen(session.id, Event(EventName.STOP))
    house.programmes.all(player.id, at=moment)
