"""Paths of growth: every step can be played, and one moves along them by the rule."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orexis.core.coach import Standard
from orexis.core.exercises import EXERCISE_TYPES, exercise_types_for
from orexis.core.instruments import INSTRUMENTS, instrument_named
from orexis.core.progress import (
    NEW,
    DayOnPath,
    MoveReason,
    Path,
    PathPosition,
    PathStep,
    entered,
    moved,
    path_of,
    placed_by_hand,
    stands,
)
from tests.conftest import some

PLAIN = ("trumpet-bb", "trombone-bass", "tuba-eb")
WITHOUT = {"loose-pedals", "check-note"}  # nothing has to grow
BY_RANGE = {
    "step-ladder", "pair-ladder", "glide-ladder", "glide-fan", "triad-with-reset", "top-note-cold", "two-octave-scale",
}  # fmt: skip


def path(steps: int = 6, *, easy: bool = False, heavy: bool = False) -> Path:
    return Path("x", tuple(PathStep(str(n), {"n": str(n)}) for n in range(steps)), easy, heavy)


def after(standing: PathPosition, way: Path, days: str, first: int = 100) -> PathPosition:
    """A day for each letter: h held, m missed, e held at an easier step, a dot for a day without."""
    for offset, letter in enumerate(days):
        if letter != ".":
            step = standing.step - 1 if letter == "e" else standing.step
            standing = moved(standing, way, DayOnPath(first + offset, step, letter in "he"))
    return standing


@pytest.mark.parametrize("instrument_id", some([*PLAIN, *sorted(set(INSTRUMENTS) - set(PLAIN))], len(PLAIN)))
def test_every_step_of_every_path_gives_exercises(instrument_id: str) -> None:
    instrument = instrument_named(instrument_id)
    for exercise_type in exercise_types_for(instrument):
        found = path_of(exercise_type.id, instrument)
        if found is None:
            assert exercise_type.id in WITHOUT | BY_RANGE, exercise_type.id
            continue
        steps = [tuple(sorted(step.params.items())) for step in found.steps]
        assert len(set(steps)) == len(steps), exercise_type.id
        assert len(steps) >= 2, exercise_type.id
        for step in found.steps:
            assert exercise_type.series(instrument, step.params).exercises, (exercise_type.id, step.say)


def test_parameters_chosen_by_hand_are_known_for_the_hardest_step_that_they_meet() -> None:
    instrument = instrument_named("trumpet-bb")
    found = path_of("siren", instrument)
    assert found is not None
    assert found.step_with({"interval": "7", "widest": "12", "beats": "4", "low": "Bb3"}) == 1
    assert found.step_with({"interval": "7", "widest": "13", "beats": "4"}) is None


def test_three_days_of_five_open_the_next_step_and_two_where_it_is_easy() -> None:
    assert after(NEW, path(), "hh").step == 0
    assert after(NEW, path(), "hhh").step == 1
    assert after(NEW, path(), "hmhmh").step == 1
    assert after(NEW, path(), "hmhmmh").step == 0  # the first is out of sight
    assert after(NEW, path(easy=True), "hh").step == 1
    assert after(NEW, path(2), "hhhhhhh").step == 1  # the last step stays


def test_three_misses_in_a_row_lead_a_step_back_and_easier_work_proves_nothing() -> None:
    at_two = PathPosition(step=2)
    assert after(at_two, path(), "mm").step == 2
    back = after(at_two, path(), "mmm")
    assert (back.step, back.change.why if back.change else None) == (1, MoveReason.BACK)
    assert after(at_two, path(), "mhmm").step == 2
    assert after(NEW, path(), "mmm").step == 0
    assert after(at_two, path(), "eee").step == 2


@pytest.mark.parametrize(
    ("away", "heavy", "easy"), [(13, 5, 5), (14, 4, 5), (41, 4, 5), (42, 3, 4), (119, 3, 4), (120, 0, 3)]
)
def test_a_pause_leads_back_more_so_on_heavy_paths(away: int, heavy: int, easy: int) -> None:
    known = PathPosition(step=5, last_day=100)
    for is_heavy, expected in ((True, heavy), (False, easy)):
        way = path(heavy=is_heavy)
        now = stands(known, way, 100 + away)
        assert now.step == expected
        # Looked at again, and played on that day, it is counted once.
        assert stands(now, way, 100 + away).step == expected
        assert moved(now, way, DayOnPath(100 + away, expected, True)).step == expected


def test_the_players_own_word_stands_until_the_rules_move_on_from_it() -> None:
    set_ = placed_by_hand(PathPosition(step=5, last_day=100), path(), 2, 130)
    assert stands(set_, path(heavy=True), 135).step == 2
    assert after(set_, path(), "hhh", first=131).step == 3
    assert placed_by_hand(NEW, path(), 99, 1).step == 5


def test_a_stage_comes_onto_a_path_further_on() -> None:
    steps = [entered(path(20), standard).step for standard in Standard]
    assert steps == sorted(steps)
    assert steps[0] == 0


@given(st.text("hme.", max_size=60), st.booleans(), st.integers(0, 5))
def test_never_more_than_one_step_on_in_a_day_and_never_off_the_path(days: str, heavy: bool, start: int) -> None:
    way, standing = path(heavy=heavy), PathPosition(step=start)
    for offset, letter in enumerate(days):
        before = standing
        standing = after(standing, way, letter, first=100 + 3 * offset)
        assert 0 <= standing.step < len(way.steps)
        assert standing.step - before.step <= 1


def test_exercise_types_that_grow_are_all_known() -> None:
    assert {*WITHOUT, *BY_RANGE} <= set(EXERCISE_TYPES)
