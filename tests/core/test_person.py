"""The simulated player as a person."""

import numpy as np
import pytest

from orexis.core.player import (
    SimulatedLips,
    after_days,
    after_playing,
    after_rest,
    performance_flaws,
    person,
    play,
    tiredness,
)
from tests.conftest import exercise_of


def test_a_seed_is_a_person_and_a_take_is_another_each_time() -> None:
    exercise = exercise_of("trumpet-bb", "two-partial-slur")
    assert person(3) == person(3)
    assert person(3) != person(4)
    one = performance_flaws(person(3), SimulatedLips(), exercise, seed=1)
    assert one == performance_flaws(person(3), SimulatedLips(), exercise, seed=1)
    assert one != performance_flaws(person(3), SimulatedLips(), exercise, seed=2)


def test_lips_tire_and_recover() -> None:
    someone = person(5)
    worn = after_playing(SimulatedLips(), 2.0 * someone.strength_s)
    assert tiredness(someone, worn) == pytest.approx(2.0)
    assert tiredness(someone, after_rest(worn, 8 * 3600)) < 0.05
    exercise = exercise_of("tuba-eb", "long-low-tones")
    note = exercise.notes[0].id
    fresh = np.mean(
        [performance_flaws(someone, SimulatedLips(), exercise, seed=k).size("response", 0, note) for k in range(20)]
    )
    tired = np.mean([performance_flaws(someone, worn, exercise, seed=k).size("response", 0, note) for k in range(20)])
    assert tired > fresh + 40.0


def test_weeks_teach_and_idleness_takes_back() -> None:
    someone = person(6)
    later = after_days(someone, practised=42)
    assert later.habit == pytest.approx(0.5, abs=0.02)
    assert later.strength_s > someone.strength_s
    assert after_days(later, practised=0, idle=30).habit > later.habit
    assert after_days(someone, practised=5000).habit >= 0.15


@pytest.mark.parametrize("seed", range(4))
def test_anybody_can_play_on_any_instrument(seed: int) -> None:
    for instrument in ("trumpet-bb", "horn-f-bb", "trombone-tenor", "tuba-eb"):
        exercise = exercise_of(instrument, "two-partial-slur")
        flaws = performance_flaws(person(seed, standard="beginner"), SimulatedLips(3000.0), exercise, seed=seed)
        sound, truth = play(exercise, flaws=flaws, seed=seed)
        assert np.isfinite(sound.samples).all()
        assert len(truth.notes) == len(exercise.notes)
