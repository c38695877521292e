"""Families on every horn: right notes, right tubes, stable ids, clear refusals."""

import pytest

from orexis.core.figures import FAMILIES, family_named
from orexis.core.horn import HORNS, horn_named
from orexis.errors import FigureError, HornError, PitchError
from tests.conftest import figure_of


@pytest.mark.parametrize("horn_id", sorted(HORNS))
@pytest.mark.parametrize("family_id", sorted(FAMILIES))
def test_every_family_on_every_horn(horn_id: str, family_id: str) -> None:
    series = family_named(family_id).series(horn_named(horn_id))
    again = family_named(family_id).series(horn_named(horn_id))
    assert series == again
    assert len({figure.id for figure in series.figures}) >= len(series.figures) // 2
    for figure in series.figures:
        assert figure.duration_s > figure.count_in_beats * figure.beat_s
        assert [note.id for note in figure.notes] == [f"n{i + 1}" for i in range(len(figure.notes))]


def test_long_tones_go_down_by_semitones_and_up_again() -> None:
    series = family_named("long-low-tones").series(horn_named("tuba-eb"), {"start": "Eb2", "steps": "3"})
    assert [figure.notes[0].pitch.name for figure in series.figures] == ["Eb2", "D2", "Db2", "C2", "Db2", "D2", "Eb2"]
    assert all(figure.notes[0].to_breath_end for figure in series.figures)


def test_slurs_stay_on_one_tube_and_step_down() -> None:
    series = family_named("two-partial-slur").series(horn_named("trumpet-bb"))
    assert [figure.notes[0].tube.label for figure in series.figures] == ["0", "2", "1", "1-2", "2-3", "1-3", "1-2-3"]
    for figure in series.figures:
        assert [note.partial for note in figure.notes] == [3, 2, 3]
        assert [note.slurred for note in figure.notes] == [False, True, True]
    assert series.figures[6].notes[0].pitch.name == "B3"  # sharp, and B all the same
    assert series.figures[6].notes[0].horn_cents == pytest.approx(53.6 + 2.0, abs=0.1)


def test_a_single_tube_can_be_chosen() -> None:
    assert len(family_named("two-partial-slur").series(horn_named("trombone-tenor"), {"tube": "4"}).figures) == 1


@pytest.mark.parametrize(
    ("params", "error", "says"),
    [
        ({"stepps": "3"}, FigureError, "stepps"),
        ({"steps": "many"}, FigureError, "whole number"),
        ({"steps": "99"}, FigureError, "0 to 12"),
        ({"start": "H2"}, PitchError, "H2"),
        ({"start": "C1"}, HornError, "no slot"),
        ({"dynamic": "loud"}, FigureError, "mf"),
    ],
)
def test_bad_parameters_are_refused(params: dict[str, str], error: type[Exception], says: str) -> None:
    with pytest.raises(error, match=says):
        family_named("long-low-tones").series(horn_named("trumpet-bb"), params)


def test_unknown_family() -> None:
    with pytest.raises(FigureError, match="long-low-tones"):
        family_named("scales-of-doom")


def test_hold_is_asked_of_long_tones_only() -> None:
    assert figure_of("tuba-eb", "long-low-tones").hold_s == pytest.approx(6.0)
    assert figure_of("tuba-eb", "two-partial-slur").hold_s is None
