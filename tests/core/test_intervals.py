"""Intervals on the instrument: what is made, and that an overshoot is heard. Truth: the simulated player."""

import pytest

from orexis.core.coach import Outcome, limits_of
from orexis.core.exercises import Exercise, exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.core.listen import JudgingTerms, ListeningTask, ListenResult, listen
from orexis.core.player import parse_flaws, play
from orexis.errors import ExerciseError

INSTRUMENTS = ("trumpet-bb", "trombone-tenor", "horn-f-bb", "tuba-eb")


def made(instrument: str, **params: str) -> tuple[Exercise, ...]:
    return exercise_type_named("intervals").series(instrument_named(instrument), params).exercises


def heard(exercise: Exercise, *flaws: str) -> ListenResult:
    sound, _ = play(exercise, flaws=parse_flaws(flaws), seed=4)
    return listen(
        sound,
        ListeningTask(instrument_named(exercise.instrument), exercise, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
    )


def test_every_interval_up_to_the_widest_there_and_back_with_the_last_note_held() -> None:
    exercises = made("trumpet-bb", direction="up, then down", widest="5")
    start = exercises[0].notes[0].pitch.midi
    assert [exercise.notes[1].pitch.midi - start for exercise in exercises] == [1, -1, 2, -2, 3, -3, 4, -4, 5, -5]
    for exercise in exercises:
        assert {exercise.notes[0].pitch.midi, exercise.notes[-1].pitch.midi} == {start}
        assert exercise.notes[-1].beats == 4.0
        assert all(note.slurred for note in exercise.notes[1:])
    short = made("trumpet-bb", rhythm="short, then long", join="tongue")[0]
    assert [note.beats for note in short.notes] == [0.5, 1.5, 0.5, 1.5, 4.0]
    assert not any(note.slurred for note in short.notes)


def test_wider_before_narrower_is_refused_with_the_remedy() -> None:
    with pytest.raises(ExerciseError, match="raise the last one"):
        made("tuba-eb", narrowest="7", widest="3")


@pytest.mark.parametrize("instrument", INSTRUMENTS)
def test_played_clean_it_is_held_and_reached_from_beyond_it_is_not(instrument: str) -> None:
    for exercise, cents in ((made(instrument)[1], 150), (made(instrument, direction="down")[4], -150)):
        clean = heard(exercise).verdict
        assert clean is not None
        assert clean.outcome == Outcome.CLEAN, (exercise.id, clean.reason, clean.value)
        flawed = heard(exercise, f"overshoot={cents}c@{exercise.notes[3].id}").verdict
        assert flawed is not None
        assert (flawed.reason, flawed.note) == ("overshoot", exercise.notes[3].id)
