"""Every family on every suiting horn: made, valid, engraved, exported, played. Counted, so that none is left out."""

import io

import mido
import numpy as np
import pytest

from orexis.core.figures import FAMILIES, families_for
from orexis.core.horn import HORNS, horn_named
from orexis.core.player import play
from orexis.files.engraving import figure_to_svg
from orexis.files.figure_json import figure_from_json, figure_to_json
from orexis.files.midi import figure_to_midi
from orexis.files.musicxml import figure_to_musicxml
from tests.conftest import some
from tests.files.test_readers import schema

EXPECTED = 34 * 25 + 36 * 8  # horns with valves, horns with a slide


def test_they_are_all_there() -> None:
    assert len(FAMILIES) == 36
    assert sum(len(families_for(horn)) for horn in HORNS.values()) == EXPECTED


PLAIN = ("trumpet-bb", "horn-f-bb", "trombone-bass", "euphonium-bb-comp", "tuba-f-5")


@pytest.mark.parametrize("horn_id", some([*PLAIN, *sorted(set(HORNS) - set(PLAIN))], 3))
def test_everything_the_horn_can_practise(horn_id: str) -> None:
    horn = horn_named(horn_id)
    for family in families_for(horn):
        figure = family.series(horn).figures[0]
        xml = figure_to_musicxml(figure, horn, horn.parts[0])
        assert schema().is_valid(xml.decode()), family.id
        assert figure_to_svg(figure, horn, horn.parts[0]).count("data-id=") >= len(figure.notes), family.id
        assert figure_from_json(figure_to_json(figure)) == figure
        assert mido.MidiFile(file=io.BytesIO(figure_to_midi(figure))).length > 0 or figure.medium == "air"
        sound, truth = play(figure, seed=2, rate=8_000)
        assert np.sqrt(np.mean(sound.samples**2)) > 1e-4, family.id
        if figure.medium != "air":
            heard = [hz for hz in truth.f0_hz if hz is not None]
            asked = [figure.target_hz(note, a4=440.0) for note in figure.notes]
            assert min(heard) > 0.9 * min(asked), family.id
            assert max(heard) < 1.12 * max(asked), family.id
