"""When the breath is taken in two steps."""

import pytest

from orexis.core.exercises import breathes_in_two_steps
from orexis.core.instruments import instrument_named
from tests.conftest import exercise_of


@pytest.mark.parametrize("instrument", ["trumpet-bb", "horn-f-bb", "trombone-tenor", "tuba-eb"])
def test_before_a_high_climb_and_nothing_else(instrument: str) -> None:
    horn = instrument_named(instrument)
    top = horn.highest.name
    assert breathes_in_two_steps(exercise_of(instrument, "step-ladder", start=top), horn)
    assert not breathes_in_two_steps(exercise_of(instrument, "long-low-tones"), horn)
    assert not breathes_in_two_steps(exercise_of(instrument, "siren"), horn)
