"""The bounds of a day and a week, each at its edge: what was played, lips, care, pauses, pedals, what waits to be kept."""

from dataclasses import replace
from types import SimpleNamespace
from typing import Any

import pytest

from orexis.core.approaches import DEFAULTS
from orexis.core.coach import Care, Lips, Range, RangeNote, RangeState, Standard, judge, limits_of, load_of
from orexis.core.coach.range_notes import NoteHistory as RangeNoteKept
from orexis.core.exercises import EXERCISE_TYPES, PathStep, SetPlayed, exercise_type_named, sets_today
from orexis.core.instruments import instrument_named
from orexis.core.planning import (
    CheckIn,
    DayKind,
    Days,
    ExerciseTypeDay,
    GoalHistory,
    GoalKind,
    GoalPosition,
    PlanningContext,
    PlayingHistory,
    PracticeHistory,
    compose,
    follow_days,
    forecast,
    monday,
    plan_week,
    planning_context_of,
)
from orexis.core.planning.fitting import TIRED, WORKED, today_bound
from orexis.core.planning.history import NOTES_AFTER
from orexis.core.practice import PlayerRange
from orexis.core.progress import Change, MoveReason, Path, PathPosition, stands
from orexis.core.progress.standing import PAUSES
from orexis.core.rehearsal import flawless

TODAY = 739_945  # a Wednesday
TUBA = instrument_named("tuba-eb")


def known(**more: object) -> PlanningContext:
    plain = PlanningContext(
        instrument_named("trumpet-bb"), Standard.DEVELOPING, DEFAULTS, Care(), TODAY, target=100.0, kind=DayKind.MEDIUM
    )
    return replace(plain, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("more", "bound"),
    [
        ({}, 100.0),
        ({"played_load": 30.0}, 70.0),
        ({"played_load": 130.0}, 0.0),
        ({"lips": Lips.WORKED}, 100.0 * WORKED),
        ({"lips": Lips.TIRED}, 100.0 * TIRED),
        ({"lips": Lips.SORE}, 100.0 * TIRED),
        ({"care": Care(braces=True)}, 70.0),
        ({"care": Care(returning=True)}, 50.0),
        ({"care": Care(braces=True, returning=True)}, 50.0),
        ({"lips": Lips.WORKED, "played_load": 10.0, "care": Care(braces=True)}, 70.0 * WORKED - 10.0),
        ({"target": None}, None),
    ],
)
def test_what_today_may_still_bring(more: dict[str, object], bound: float | None) -> None:
    assert (WORKED, TIRED) == (0.8, 0.5)
    found = today_bound(known(**more), 30)
    assert found is None if bound is None else found == pytest.approx(bound)


def test_every_block_has_its_share_of_the_bound_and_what_a_day_has_left_is_not_gone_beyond() -> None:
    from orexis.core.planning.fitting import bounded

    plan = compose(known(), 30)
    assert sum(block.most_load or 0.0 for block in plan.blocks) == pytest.approx(
        min(100.0, plan.target or 0.0), rel=0.4
    )
    assert all(block.most_load is not None and block.most_load > 0 for block in plan.blocks if block.load)
    for most, target in ((20.0, 20.0), (400.0, 100.0)):
        assert bounded(known(), 30, plan.blocks, most=most).target == target


def weekly(loads: dict[int, float], today: int, **more: object) -> object:
    given = Days(more.pop("minutes", (30,) * 7), **more)  # type: ignore[arg-type]
    return plan_week(
        today, monday(today), PlayingHistory(loads, frozenset(), frozenset()), given, standard=Standard.DEVELOPING
    )


def test_a_day_never_brings_more_than_its_minutes_can() -> None:
    """One short day left in a week of which nothing was played: it does not get the whole week's load."""
    start = monday(TODAY)
    loads = {start - 7 * week + day: 400.0 for week in range(1, 5) for day in range(5)}
    found = weekly(loads, start + 6, minutes=(0, 0, 0, 0, 0, 0, 20))
    from orexis.core.planning.week import LOAD_PER_MINUTE

    assert found.days[6].target == pytest.approx(1.5 * LOAD_PER_MINUTE[Standard.DEVELOPING] * 20, rel=0.01)  # type: ignore[attr-defined]
    assert found.target < 0.5 * found.bound  # type: ignore[attr-defined]


def test_one_week_off_is_a_week_off() -> None:
    start = monday(TODAY)
    loads = {start - 7 * week + day: 500.0 for week in range(2, 6) for day in range(6)}
    off = weekly(loads, start, minutes=(10,) * 7)
    assert off.bound == pytest.approx(1500.0)  # type: ignore[attr-defined]
    assert "after a week off" in off.why  # type: ignore[attr-defined]
    on = weekly(loads | {start - 7: 3000.0}, start)
    assert on.bound > 3000.0  # type: ignore[attr-defined]


def test_of_seven_given_days_one_stays_free_and_the_day_before_a_performance_is_light() -> None:
    from datetime import date

    start = monday(TODAY) + 7
    found = weekly({}, TODAY - 30, minutes=(30, 30, 30, 30, 30, 30, 20))
    assert [day.kind == DayKind.OFF for day in found.days] == [False] * 6 + [True]  # type: ignore[attr-defined]
    given = Days((30,) * 7, frozenset({start + 4}))
    week = plan_week(start, start, PlayingHistory({}, frozenset(), frozenset()), given, standard=Standard.DEVELOPING)
    by_day = {day.day - start: day for day in week.days}
    assert by_day[3].kind == DayKind.LIGHT, date.fromordinal(start + 3)
    assert "day before a performance" in by_day[3].why
    assert by_day[2].kind == DayKind.MEDIUM
    assert by_day[4].kind == DayKind.LIGHT


PLAIN = Path("x", tuple(PathStep(str(n), {}) for n in range(8)), easy=False, heavy=False)


@pytest.mark.parametrize(
    ("away", "heavy", "step"),
    [(13, True, 5), (14, True, 4), (41, True, 4), (42, True, 3), (119, True, 3), (120, True, 0),
     (14, False, 5), (42, False, 4), (119, False, 4), (120, False, 3)],
)  # fmt: skip
def test_a_pause_costs_what_is_written_from_its_first_day_on(away: int, heavy: bool, step: int) -> None:
    """Heavy work one step, two, all; other work half of that, rounded down."""
    assert [days for days, _ in PAUSES] == [120, 42, 14]
    standing = PathPosition(5, last_day=TODAY - away)
    assert stands(standing, replace(PLAIN, heavy=heavy), TODAY).step == step


def test_a_pause_after_a_step_set_by_hand_is_counted_from_then() -> None:
    standing = PathPosition(5, last_day=TODAY - 60, change=Change(MoveReason.BY_HAND, TODAY - 13, 2))
    assert stands(standing, replace(PLAIN, heavy=True), TODAY).step == 5


def test_what_was_set_by_hand_holds_from_the_day_on_which_it_was_set() -> None:
    day = ExerciseTypeDay("x", TODAY, takes=1, clean=1, step=6, exercises={"a": True})
    moved = follow_days(None, lambda _: (PLAIN, Standard.BEGINNER), [day], ((TODAY, 6),))
    assert moved is not None
    assert (moved.step, moved.days) == (6, ((TODAY, True),))
    before = follow_days(None, lambda _: (PLAIN, Standard.BEGINNER), [day], ((TODAY + 1, 6),))
    assert before is not None
    assert before.step == 0


def remembered(*days: ExerciseTypeDay, range_notes: dict[int, RangeNote] | None = None) -> PracticeHistory:
    return PracticeHistory(tuple(days), {}, range_notes or {}, ())


def seen(memory: PracticeHistory, today: int = TODAY, **care: bool) -> PlanningContext:
    return planning_context_of(
        memory,
        CheckIn(),
        instrument=TUBA,
        standard=Standard.ADVANCED,
        approaches=DEFAULTS,
        care=Care(**care),
        today=today,
        week=None,
    )


def test_pedal_days_are_those_of_this_week_and_yesterday_is_yesterday() -> None:
    start = monday(TODAY)
    played = [ExerciseTypeDay("pedal-sets", day, takes=2) for day in (start - 1, start, start + 1)]
    found = seen(remembered(*played), start + 2)
    assert (found.pedal_days, found.pedals_yesterday) == (2, True)
    later = seen(remembered(*played), start + 3)
    assert (later.pedal_days, later.pedals_yesterday) == (2, False)
    assert seen(remembered(*played), start).pedals_yesterday
    assert seen(remembered(*played), start).pedal_days == 0


def test_a_note_is_taken_up_from_the_day_on_that_is_written() -> None:
    def range_note(days: int) -> dict[int, RangeNote]:
        return {
            50: RangeNote(50, RangeState.IN_RANGE, clean_days=[TODAY - days], alone=RangeNoteKept(RangeState.IN_RANGE))
        }

    assert seen(remembered(range_notes=range_note(NOTES_AFTER))).stale == (50,)
    assert seen(remembered(range_notes=range_note(NOTES_AFTER - 1))).stale == ()


def test_heavy_work_is_not_repeated_the_day_after_and_not_done_when_spent() -> None:
    heavy = [exercise_type.id for exercise_type in EXERCISE_TYPES.values() if exercise_type.load == "high"]
    plain = known(kind=DayKind.HEAVY, target=900.0, in_range=PlayerRange(Range(60, 72), Range(60, 72)))
    today = [block.exercise_type for block in compose(plain, 60).blocks if block.exercise_type in heavy]
    assert today
    after = compose(replace(plain, heavy_yesterday=frozenset(today)), 60)
    assert not {block.exercise_type for block in after.blocks} & set(today)
    spent = compose(replace(plain, no_heavy="The check note says worn out."), 60)
    assert not {block.exercise_type for block in spent.blocks} & set(heavy)
    assert "The check note says worn out." in spent.says


def test_returning_after_an_injury_goes_before_braces_and_a_week_without_pedals_costs_a_set() -> None:
    assert sets_today((), TODAY, braces=True, returning=True).sets == 1
    assert sets_today((), TODAY, braces=True, returning=True).notes == 8
    assert sets_today((), TODAY, braces=True).notes == 12
    start = monday(TODAY)
    weeks = range(30, 1, -1)  # up to the week before last
    played = [SetPlayed(start - 7 * week + day, 20, 20) for week in weeks for day in (0, 2, 4)]
    assert sets_today(played, start - 7).sets == 5
    assert sets_today(played, start).sets == 4
    assert sets_today(played, start + 7).sets == 3
    assert sets_today(played, start + 14).sets == 2


def test_a_forecast_spans_what_the_rate_itself_may_become() -> None:
    """Much is known of the rate, and little of whether it stays: eight in ten lie within a span of weeks, not of days."""
    place = GoalPosition(4.0, 10.0, "", "")
    gained = GoalHistory([0.5 * day for day in range(200)])
    found = forecast(place, gained, prior_days=10.0, today=TODAY, days_a_week=4.0)
    assert found.low is not None
    assert found.median is not None
    assert found.high is not None
    days = found.median - TODAY
    assert 0.25 * days < found.median - found.low < 0.45 * days
    assert 0.65 * days < found.high - found.median < days
    assert GoalKind.HOLD in EXERCISE_TYPES["long-low-tones"].leads_to


@pytest.mark.parametrize(("times", "load"), [(0.9, 0.0), (2.0, 6.0), (3.0, 9.0), (6.0, 12.0)])
def test_a_failed_attempt_high_up_weighs_by_its_height(times: float, load: float) -> None:
    """Three seconds at its height, which counts at most fourfold; below the top third it costs what sounded."""
    notes = [SimpleNamespace(f0_hz=None, hold_s=None, level_db=None, written_hz=200.0 * times)]
    measures: Any = SimpleNamespace(notes=notes)
    assert load_of(measures, middle_hz=200.0, top_hz=500.0, failed=True) == load
    assert load_of(measures, middle_hz=200.0, top_hz=500.0) == 0.0


@pytest.mark.parametrize(("cents", "reason"), [(60.0, "bend"), (78.0, "bend"), (82.0, None), (100.0, None)])
def test_a_bend_is_asked_to_four_fifths_of_its_depth(cents: float, reason: str | None) -> None:
    exercise = exercise_type_named("lip-bend").series(TUBA, {"fingering": "few"}).exercises[0]
    clean = flawless(exercise)
    first = next(row for row in clean.notes if row.target == exercise.notes[0].id)
    assert first.f0_hz is not None
    bent = first.f0_hz * 2.0 ** (-cents / 1200.0)
    notes = tuple(replace(row, f0_hz=bent) if row.target == exercise.notes[1].id else row for row in clean.notes)
    verdict = judge(replace(clean, notes=notes), exercise, limits_of("developing"))
    assert ("bend" in {fault.reason for fault in verdict.findings}) == (reason == "bend")
