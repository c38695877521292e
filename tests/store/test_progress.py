"""Reading the record over weeks: days kept with the takes, what is claimed, what came for the first time."""

from datetime import UTC, datetime, timedelta
from functools import partial

import pytest

from orexis.core.figures import Figure
from orexis.core.measures import Measures
from orexis.core.player import parse_flaws
from orexis.core.practice import Event
from orexis.core.rehearsal import measured
from orexis.errors import InputError
from orexis.services.clock import now
from orexis.services.house import House
from orexis.services.players import Player


def sagging(figure: Figure, cents: float) -> Measures:
    return measured(figure, parse_flaws([f"sag=-{cents}c@{note.id}" for note in figure.notes]))


def practised(house: House, days: int = 15) -> tuple[Player, list[str]]:
    """Long tones that sag less and less, on every second day up to yesterday."""
    player = house.players.add(name="Wim Olde", stage="growing", horn="tuba-eb")
    takes = []
    for number in range(days):
        at = datetime.combine((now() - timedelta(days=2 * (days - number))).date(), datetime.min.time(), UTC)
        at += timedelta(hours=17)
        session = house.sessions.open(player.id, "long-low-tones", {"steps": "1", "beats": "8"}, at=at)
        for _ in range(3):
            sag = 30.0 - 1.6 * number
            takes.append(house.takes.measured(session.id, partial(sagging, cents=sag), at=at).id)
            house.takes.happen(session.id, Event("next"))
    return player, takes


def test_what_got_better_is_said_with_its_interval_and_a_take_thrown_away_is_out_of_it(house: House) -> None:
    player, takes = practised(house)
    shown = house.progress.read(player.id, 6)
    assert any(line.says.startswith("Sag over a note") and line.reason == "sag" for line in shown.improving)
    sag = next(item for item in shown.trends if item.measure.id == "sag" and item.trend.scope is None)
    assert len(sag.trend.points) == 15
    assert sag.says is not None
    assert "better" in sag.says
    assert sag.trend.points[0].takes == 3
    assert sag.trend.claim is not None
    assert sag.trend.claim.high < -3.0
    assert sum(week.takes for week in shown.playing) == 45
    assert any("is yours" in item.says for item in shown.milestones)
    house.takes.discard(takes[0], discarded=True)
    again = house.progress.read(player.id, 6)
    assert next(i for i in again.trends if i.measure.id == "sag").trend.points[0].takes == 2


def test_spans_and_an_empty_record(house: House) -> None:
    player = house.players.add(name="Wim Olde", stage="growing", horn="tuba-eb")
    shown = house.progress.read(player.id, 12)
    assert (shown.trends, shown.improving, shown.playing, shown.milestones) == ((), (), (), ())
    with pytest.raises(InputError, match="6, 12, 26, 52"):
        house.progress.read(player.id, 7)
