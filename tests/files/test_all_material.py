"""Every exercise type on every suiting instrument: made, valid, engraved, exported, played. Counted, so that none is left out."""

import io

import mido
import numpy as np
import pytest

from orexis.core.exercises import EXERCISE_TYPES, exercise_types_for
from orexis.core.instruments import INSTRUMENTS, instrument_named
from orexis.core.player import play
from orexis.files.engraving import exercise_to_svg
from orexis.files.exercise_json import exercise_to_json
from orexis.files.exercise_json_read import exercise_from_json
from orexis.files.midi import exercise_to_midi
from orexis.files.musicxml import exercise_to_musicxml
from tests.conftest import some
from tests.files.test_readers import schema

EXPECTED = 34 * 25 + 36 * 8  # instruments with valves, instruments with a slide


def test_they_are_all_there() -> None:
    assert len(EXERCISE_TYPES) == 36
    assert sum(len(exercise_types_for(instrument)) for instrument in INSTRUMENTS.values()) == EXPECTED


PLAIN = ("trumpet-bb", "horn-f-bb", "trombone-bass", "euphonium-bb-comp", "tuba-f-5")


@pytest.mark.parametrize("instrument_id", some([*PLAIN, *sorted(set(INSTRUMENTS) - set(PLAIN))], 3))
def test_everything_the_instrument_can_practise(instrument_id: str) -> None:
    instrument = instrument_named(instrument_id)
    for exercise_type in exercise_types_for(instrument):
        exercise = exercise_type.series(instrument).exercises[0]
        xml = exercise_to_musicxml(exercise, instrument, instrument.parts[0])
        assert schema().is_valid(xml.decode()), exercise_type.id
        assert exercise_to_svg(exercise, instrument, instrument.parts[0]).count("data-id=") >= len(exercise.notes), (
            exercise_type.id
        )
        assert exercise_from_json(exercise_to_json(exercise)) == exercise
        assert mido.MidiFile(file=io.BytesIO(exercise_to_midi(exercise))).length > 0 or exercise.medium == "air"
        sound, truth = play(exercise, seed=2, rate=8_000)
        assert np.sqrt(np.mean(sound.samples**2)) > 1e-4, exercise_type.id
        if exercise.medium != "air":
            heard = [hz for hz in truth.f0_hz if hz is not None]
            asked = [exercise.target_hz(note, a4=440.0) for note in exercise.notes]
            assert min(heard) > 0.9 * min(asked), exercise_type.id
            assert max(heard) < 1.12 * max(asked), exercise_type.id
