"""Weeks around a performance: lighter before, light on the day, lighter after; every weekend player practises as usual."""

import pytest

from orexis.core.coach import Standard
from orexis.core.planning import DayKind, WeekPhase
from orexis.core.planning.phases import load_share, phase_of, prepared_for
from orexis.core.planning.week import Days, PlayingHistory, plan_week

MONDAY = 739_677  # an ordinal Monday
MINUTES = (30, 30, 30, 30, 30, 30, 0)


def test_monday_is_one() -> None:
    assert (MONDAY - 1) % 7 == 0


def planned(performance: int, start: int) -> tuple[float, WeekPhase, dict[int, DayKind]]:
    week = plan_week(
        MONDAY - 1, start, PlayingHistory(), Days(MINUTES, frozenset({performance})), standard=Standard.DEVELOPING
    )
    return week.target / week.bound, week.phase, {day.day: day.kind for day in week.days}


@pytest.mark.parametrize("weekday", range(7))
def test_a_week_before_a_performance_brings_less(weekday: int) -> None:
    performance = MONDAY + 28 + weekday
    usual, phase, _ = planned(performance, MONDAY)
    assert phase == WeekPhase.USUAL
    weeks = [planned(performance, MONDAY + 7 * week) for week in range(1, 7)]
    shares = [share / usual for share, _, _ in weeks]
    assert all(share <= 1.01 for share in shares)
    assert min(shares[2:5]) < 0.92
    assert shares[0] == pytest.approx(1.0, abs=0.01)
    assert shares[5] == pytest.approx(1.0, abs=0.01)
    assert weeks[3][1] == WeekPhase.PERFORMANCE
    assert weeks[3][2][performance] in (DayKind.LIGHT, DayKind.OFF)
    after = planned(performance, MONDAY + 7 * ((performance + 1 - MONDAY) // 7))[2][performance + 1]
    assert after in (DayKind.LIGHT, DayKind.OFF)


def test_who_plays_every_weekend_prepares_for_the_first() -> None:
    weekends = [MONDAY + 5 + 7 * week for week in range(8)]
    assert prepared_for(weekends) == {weekends[0]}
    assert prepared_for([MONDAY, MONDAY + 15]) == {MONDAY, MONDAY + 15}
    assert load_share(weekends[5], prepared_for(weekends)) == 1.0
    assert phase_of(MONDAY + 35, prepared_for(weekends)) == WeekPhase.USUAL
