"""Intervals on the horn: what is made, and that an overshoot is heard. Truth: the simulated player."""

import pytest

from orexis.core.coach import Outcome, limits_of
from orexis.core.figures import Figure, family_named
from orexis.core.horn import horn_named
from orexis.core.listen import ListenResult, listen
from orexis.core.player import parse_flaws, play
from orexis.errors import FigureError

HORNS = ("trumpet-bb", "trombone-tenor", "horn-f-bb", "tuba-eb")


def made(horn: str, **params: str) -> tuple[Figure, ...]:
    return family_named("intervals").series(horn_named(horn), params).figures


def heard(figure: Figure, *flaws: str) -> ListenResult:
    sound, _ = play(figure, flaws=parse_flaws(flaws), seed=4)
    return listen(
        sound, horn=horn_named(figure.horn), figure=figure, limits=limits_of("developing"), a4=440.0, first_beat_s=0.0
    )


def test_every_interval_up_to_the_widest_there_and_back_with_the_last_note_held() -> None:
    figures = made("trumpet-bb", direction="up, then down", widest="5")
    start = figures[0].notes[0].pitch.midi
    assert [figure.notes[1].pitch.midi - start for figure in figures] == [1, -1, 2, -2, 3, -3, 4, -4, 5, -5]
    for figure in figures:
        assert {figure.notes[0].pitch.midi, figure.notes[-1].pitch.midi} == {start}
        assert figure.notes[-1].beats == 4.0
        assert all(note.slurred for note in figure.notes[1:])
    short = made("trumpet-bb", rhythm="short, then long", join="tongue")[0]
    assert [note.beats for note in short.notes] == [0.5, 1.5, 0.5, 1.5, 4.0]
    assert not any(note.slurred for note in short.notes)


def test_wider_before_narrower_is_refused_with_the_remedy() -> None:
    with pytest.raises(FigureError, match="raise the last one"):
        made("tuba-eb", narrowest="7", widest="3")


@pytest.mark.parametrize("horn", HORNS)
def test_played_clean_it_is_held_and_reached_from_beyond_it_is_not(horn: str) -> None:
    for figure, cents in ((made(horn)[1], 150), (made(horn, direction="down")[4], -150)):
        clean = heard(figure).verdict
        assert clean is not None
        assert clean.outcome == Outcome.CLEAN, (figure.id, clean.reason, clean.value)
        flawed = heard(figure, f"overshoot={cents}c@{figure.notes[3].id}").verdict
        assert flawed is not None
        assert (flawed.reason, flawed.note) == ("overshoot", figure.notes[3].id)
