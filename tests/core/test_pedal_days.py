"""Pedal sets in the plan: three days a week first, whatever the minutes; judged by the sets of that day."""

from dataclasses import replace

import pytest

from orexis.core.approaches import DEFAULTS
from orexis.core.coach import Care, Outcome, Standard
from orexis.core.exercises import IN_SETS, GoalKind, Load, SetsToday
from orexis.core.instruments import instrument_named
from orexis.core.planning import (
    DayKind,
    ExerciseTypeDay,
    GoalTarget,
    PlanningContext,
    TakeFact,
    compose,
    wish_of,
    with_take,
)
from orexis.core.planning.fitting import sets_for
from orexis.core.planning.week import AFTER_A_HEAVY_DAY
from orexis.core.rehearsal import rehearse

TODAY = 739_945
GOAL = GoalTarget(GoalKind.PEDALS, 5.0)


def known(minutes: int, **more: object) -> PlanningContext:
    bare = PlanningContext(
        instrument_named("trombone-bass"),
        Standard.ADVANCED,
        DEFAULTS,
        Care(),
        TODAY,
        kind=DayKind.MEDIUM,
        target=18.5 * minutes,
        week_left=110.0 * minutes,
        sets=SetsToday(2, None, "two sets"),
    )
    asked = replace(bare, **more)  # type: ignore[arg-type]
    return replace(asked, wishes=(wish_of(GOAL, asked),))


def heavy(who: PlanningContext, minutes: int) -> list[str]:
    return [block.exercise_type for block in compose(who, minutes).blocks if block.load_class == Load.HIGH]


@pytest.mark.parametrize("minutes", [40, 45, 60, 75, 90, 120])
def test_sets_come_before_other_heavy_work_on_any_day_from_forty_minutes(minutes: int) -> None:
    assert heavy(known(minutes), minutes) == [IN_SETS.id]
    on_a_heavy_day = heavy(known(minutes, kind=DayKind.HEAVY), minutes)
    assert IN_SETS.id in on_a_heavy_day
    assert len(on_a_heavy_day) <= 2
    # A day that is light because the one before was heavy has room for them, one before a performance has none.
    assert heavy(known(minutes, kind=DayKind.LIGHT, kind_why=AFTER_A_HEAVY_DAY), minutes) == [IN_SETS.id]
    assert heavy(known(minutes, kind=DayKind.LIGHT, kind_why="the day before a performance"), minutes) == []


def test_there_are_none_on_a_fourth_day_a_second_day_running_or_on_worn_lips() -> None:
    for reason in ({"pedal_days": 3}, {"pedals_yesterday": True}, {"no_heavy": "Your lips were worn out."}):
        assert IN_SETS.id not in heavy(known(60, **reason), 60)
    assert IN_SETS.id not in heavy(known(30), 30)


def test_as_many_sets_as_the_day_has_room_for_and_a_second_pitch_after_the_first_month() -> None:
    five = {"sets": "5"}
    assert [sets_for(five, minutes, further=False)["sets"] for minutes in (40, 60, 75, 90)] == ["2", "4", "5", "5"]
    assert "pitches" not in sets_for(five, 90, further=False)
    three = {"sets": "3"}
    assert [sets_for(three, minutes, further=True).get("pitches") for minutes in (60, 90, 120)] == [None, None, "2"]


def day_of(asked: int, *clean: bool) -> ExerciseTypeDay:
    made: ExerciseTypeDay | None = None
    for number, held in enumerate(clean):
        outcome = Outcome.CLEAN if held else Outcome.NOT_YET
        made = with_take(made, TakeFact(IN_SETS.id, TODAY, f"G1-{number + 1}", outcome, step=0, asked=asked))
    assert made is not None
    return made


def test_a_pedal_day_is_met_by_the_sets_that_it_asked_for() -> None:
    def met(asked: int, *clean: bool) -> bool:
        told = day_of(asked, *clean).on_path()
        assert told is not None
        return told.clean

    assert met(2, True, True)
    assert not met(2, True, False)
    assert not met(3, True, True)
    assert met(3, True, True, True)
    assert met(0, True, True)  # of an earlier release, which did not say how many


def test_three_weeks_with_the_goal_have_three_pedal_days_each() -> None:
    made = rehearse(
        weeks=3,
        instrument=instrument_named("trombone-bass"),
        standard=Standard.ADVANCED,
        kind="steady",
        seed=1,
        minutes=60,
        targets=[GOAL],
    )
    days = [day for day in made.days if any(b.block.exercise_type == IN_SETS.id and b.takes for b in day.blocks)]
    first = made.weeks[0].start
    assert [sum((day.day - first) // 7 == week for day in days) for week in range(3)] == [3, 3, 3]
