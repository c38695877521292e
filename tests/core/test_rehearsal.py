"""Rehearsed weeks: what the plan must never do, seen over players of several kinds; measures against sound."""

import numpy as np
import pytest

from benchmarks.rehearsals.checks import FoundExercise, check
from orexis.core.coach import Outcome, Standard, judge, limits_of
from orexis.core.instruments import instrument_named
from orexis.core.planning import DayKind, parse_target
from orexis.core.player import parse_flaws
from orexis.core.rehearsal import KINDS, Planner, Rehearsal, as_json, measured, rehearse
from tests.conftest import exercise_of, heard

TUBA = instrument_named("tuba-eb")


def weeks(kind: str, count: int = 5, seed: int = 2, **more: object) -> Rehearsal:
    return rehearse(weeks=count, instrument=TUBA, standard=Standard.DEVELOPING, kind=kind, seed=seed, **more)  # type: ignore[arg-type]


def assert_nothing_forbidden(found: FoundExercise) -> None:
    """No bound is broken, and every move is by the rule."""
    assert found.days >= 15
    for name in (
        "over_bound", "heavy_in_a_row", "high_when_spent", "sets_beyond", "against_the_rule", "minutes_off",
    ):  # fmt: skip
        assert getattr(found, name) == 0, name
    assert found.moves > 100
    assert found.not_met <= 0.03 * max(1, found.in_range)


def test_who_can_improve_does_and_more_for_the_load_than_by_the_same_half_hour_every_day() -> None:
    found = check(weeks("steady", 8), weeks("steady", 8, planner=Planner.FIXED))
    assert_nothing_forbidden(found)
    assert found.steps_per_load > 4.0 / 3.0 * found.fixed_steps_per_load


@pytest.mark.broad
@pytest.mark.parametrize("kind", sorted(set(KINDS) - {"steady"}))
def test_no_bound_is_broken_and_every_move_is_by_the_rule(kind: str) -> None:
    count = 12 if kind == "returns" else 5
    assert_nothing_forbidden(check(weeks(kind, count), weeks(kind, count, planner=Planner.FIXED)))


@pytest.mark.broad
def test_who_learns_fast_goes_further_than_who_stands_still() -> None:
    fast, plateau = weeks("fast", 8), weeks("plateau", 8)
    assert fast.who.learned > 1.5 * plateau.who.learned


def test_who_comes_back_from_six_weeks_away_begins_with_half_and_lower() -> None:
    made = weeks("returns", 14)
    away = [day for day in made.days if day.kind == DayKind.OFF]
    assert len(away) >= 42
    played = [week for week in made.weeks if week.load]
    before = [week.load for week in made.weeks if week.start < made.weeks[4].start]
    back = played[len(before)]
    assert back.load <= 0.55 * np.mean(before)


def test_the_same_arguments_give_the_same_weeks_as_json() -> None:
    targets = [parse_target("hold=9", TUBA)]
    first, again = (
        as_json(weeks("beginner", 3, targets=targets), kind="beginner", seed=2, minutes=30) for _ in range(2)
    )
    assert first == again
    assert set(first) == {"schema", "player", "instrument", "days", "weeks", "goals"}
    assert len(first["days"]) == 21
    block = next(day for day in first["days"] if day["blocks"])["blocks"][0]
    assert {"exercise_type", "params", "step", "of", "minutes", "load_class", "why", "takes", "clean", "ended"} <= set(
        block
    )
    assert first["goals"][0]["forecasts"]


@pytest.mark.parametrize(
    ("flaw", "measure"),
    [
        ("centre=-14c", "judged_error_cents"),
        ("sag=-25c", "pitch_drift_cents"),
        ("entry=-60c/200ms", "attack_error_cents"),
    ],
)
def test_measures_without_sound_are_those_of_sound(flaw: str, measure: str) -> None:
    exercise = exercise_of("tuba-eb", "long-low-tones")
    flaws = parse_flaws([f"{flaw}@{exercise.notes[0].id}"])
    from_sound = getattr(heard(exercise, flaw)[0].measures.notes[0], measure)
    assert getattr(measured(exercise, flaws).notes[0], measure) == pytest.approx(from_sound, rel=0.25, abs=2.0)


def test_a_flaw_beyond_its_limit_is_no_more_held_than_by_sound() -> None:
    exercise = exercise_of("tuba-eb", "two-partial-slur")
    limits = limits_of(Standard.DEVELOPING)
    assert judge(measured(exercise, parse_flaws([])), exercise, limits).outcome == Outcome.CLEAN
    gap = judge(measured(exercise, parse_flaws(["gap=140ms@n2"])), exercise, limits)
    assert (gap.outcome, gap.reason) == (Outcome.NOT_YET, "gap")
    missed = judge(measured(exercise, parse_flaws(["miss=4@n1"])), exercise, limits)
    assert missed.reason == "wrong-partial"
