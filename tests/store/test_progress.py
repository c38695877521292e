"""Reading the record over weeks: days kept with the takes, what is claimed, what came for the first time."""

from datetime import UTC, date, datetime, timedelta
from functools import partial

import pytest

from orexis.core.exercises import Exercise
from orexis.core.measures import Measures
from orexis.core.player import parse_flaws
from orexis.core.practice import Event
from orexis.core.rehearsal import measured
from orexis.core.trends import DayPoint
from orexis.errors import InputError
from orexis.services.application import Application
from orexis.services.clock import now
from orexis.services.queries.playing import _EnduranceColumns
from orexis.services.queries.progress import ProgressShown
from orexis.services.values.players import Player
from orexis.store.models import OF_ENDURANCE


def sagging(exercise: Exercise, cents: float) -> Measures:
    return measured(exercise, parse_flaws([f"sag=-{cents}c@{note.id}" for note in exercise.notes]))


def practised(house: Application, days: int = 15) -> tuple[Player, list[str]]:
    """Long tones that sag less and less, on every second day up to yesterday."""
    player = house.players.add(name="Wim Olde", standard="developing", instrument="tuba-eb")
    takes = []
    for number in range(days):
        at = datetime.combine((now() - timedelta(days=2 * (days - number))).date(), datetime.min.time(), UTC)
        at += timedelta(hours=17)
        session = house.sessions.open(player.id, "long-low-tones", {"steps": "1", "beats": "8"}, at=at)
        for _ in range(3):
            sag = 30.0 - 24.0 * number / days
            takes.append(house.takes.measured(session.id, partial(sagging, cents=sag), at=at).id)
            house.takes.happen(session.id, Event("next"))
    return player, takes


def test_what_got_better_is_said_with_its_interval_and_a_take_thrown_away_is_out_of_it(house: Application) -> None:
    player, takes = practised(house)
    shown = house.progress.read(player.id, 6)
    assert any(
        line.says.startswith("Drop or rise in a note") and line.reason == "pitch-drift" for line in shown.improving
    )
    sag = next(item for item in shown.trends if item.measure.id == "pitch_drift" and item.trend.scope is None)
    assert len(sag.trend.points) == 15
    assert sag.says is not None
    assert "better" in sag.says
    assert sag.trend.points[0].takes == 3
    assert sag.trend.claim is not None
    assert sag.trend.claim.high < -3.0
    assert sum(week.takes for week in shown.playing) == 45
    assert any("is in your range" in item.says for item in shown.milestones)
    house.takes.discard(takes[0], discarded=True)
    again = house.progress.read(player.id, 6)
    assert next(i for i in again.trends if i.measure.id == "pitch_drift").trend.points[0].takes == 2


def test_a_long_span_is_drawn_by_weeks_once_the_record_is_long(house: Application) -> None:
    player, takes = practised(house, days=46)
    shown = house.progress.read(player.id, 26)
    assert shown.by_week
    days = {point.day: point for point in trend(house.progress.read(player.id, 12), "pitch_drift")}
    weeks = trend(shown, "pitch_drift")
    assert len(weeks) in (13, 14)
    for week in weeks:
        assert date.fromordinal(week.day).weekday() == 0
        own = [days[day] for day in range(week.day, week.day + 7) if day in days]
        if min(days) <= week.day - 1 and own:
            assert week.takes == sum(day.takes for day in own)
            assert week.middle == pytest.approx(sum(day.middle for day in own) / len(own), abs=1e-3)
    assert shown.days == ()
    assert len(shown.playing) in (13, 14)
    house.takes.discard(takes[-1], discarded=True)
    assert (
        sum(week.takes for week in trend(house.progress.read(player.id, 26), "pitch_drift"))
        == sum(week.takes for week in weeks) - 1
    )


def test_a_short_record_is_drawn_by_days_in_every_span(house: Application) -> None:
    player, _ = practised(house, days=9)
    shown = house.progress.read(player.id, 52)
    assert not shown.by_week
    assert len(trend(shown, "pitch_drift")) == 9


def trend(shown: ProgressShown, measure: str) -> tuple[DayPoint, ...]:
    return next(i.trend.points for i in shown.trends if i.measure.id == measure and i.trend.scope is None)


def test_spans_and_an_empty_record(house: Application) -> None:
    player = house.players.add(name="Wim Olde", standard="developing", instrument="tuba-eb")
    shown = house.progress.read(player.id, 12)
    assert (shown.trends, shown.improving, shown.playing, shown.milestones) == ((), (), (), ())
    with pytest.raises(InputError, match="6, 12, 26, 52"):
        house.progress.read(player.id, 7)


def test_endurance_is_read_in_the_order_in_which_the_database_picks_it_out() -> None:
    assert _EnduranceColumns._fields == OF_ENDURANCE
