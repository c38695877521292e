"""A line of text as an exercise: what is read, and what is refused."""

import pytest

from orexis.core.exercises import TunePart, melody_of_line, score_series
from orexis.core.instruments import instrument_named
from orexis.core.theory import Transposition
from orexis.errors import ExerciseError

CONCERT, TRUMPET = Transposition(0), instrument_named("trumpet-bb").parts[0].transposition


def test_a_line_is_read() -> None:
    made = melody_of_line("C4:2 d - E:0.5 , rest:1 Ab Bb3-c", CONCERT, title="Mine")
    assert [note.midi for note in made.notes] == [60, 62, 64, 68, 58, 60]
    assert [note.beats for note in made.notes] == [2.0, 2.0, 0.5, 1.0, 1.0, 1.0]
    assert [note.start_beat for note in made.notes] == [0.0, 2.0, 4.0, 5.5, 6.5, 7.5]
    assert [note.slurred for note in made.notes] == [False, False, True, False, False, True]
    assert [note.new_line for note in made.notes] == [True, False, False, True, False, False]


def test_loudness_stands_under_the_next_note() -> None:
    made = melody_of_line("(p) C4 D (f) E", CONCERT, title="Mine")
    assert [note.dynamic for note in made.notes] == ["p", None, "f"]
    instrument = instrument_named("trumpet-bb")
    exercise = score_series(instrument, (TunePart("Mine", made),), {"octave": "as written"}).exercises[0]
    assert [note.dynamic for note in exercise.notes] == ["p", None, "f"]


def test_short_notes_are_short_until_told_otherwise() -> None:
    made = melody_of_line("C4 (short) D E (plain) F", CONCERT, title="Mine")
    assert [note.articulation for note in made.notes] == [None, "short", "short", None]
    with pytest.raises(ExerciseError):
        melody_of_line("(shorter) C4", CONCERT, title="Mine")


def test_a_dot_under_a_slur_shortens_nothing() -> None:
    made = melody_of_line("(short) C5 D - E F", CONCERT, title="Mine")
    parts = (TunePart("Mine", made),)
    exercise = score_series(instrument_named("trumpet-bb"), parts, {"octave": "as written"}).exercises[0]
    assert [note.articulation for note in exercise.notes] == ["short", None, None, "short"]


def test_signs_stay_as_they_are_written() -> None:
    made = melody_of_line("Eb4 F#4 D#4 Gb4", CONCERT, title="Mine")
    parts = (TunePart("Mine", made),)
    exercise = score_series(instrument_named("trombone-tenor"), parts, {"octave": "as written"}).exercises[0]
    assert [note.pitch.name for note in exercise.notes] == ["Eb4", "F#4", "D#4", "Gb4"]


def test_it_is_read_as_the_part_is_written() -> None:
    made = melody_of_line("C5 G4", TRUMPET, title="Mine")
    assert [note.midi for note in made.notes] == [70, 65]
    instrument = instrument_named("trumpet-bb")
    exercise = score_series(instrument, (TunePart("Mine", made),), {"octave": "as written"}).exercises[0]
    assert [note.pitch.midi for note in exercise.notes] == [70, 65]
    assert exercise.key == -2  # written in C, without signs


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "Write a note"),
        ("rest:2", "Write a note"),
        ("C", "octave"),
        ("C4 X5", "X5"),
        ("C4:99", "99 beats"),
        ("C4:0", "0 beats"),
        ("C4 " * 600, "512"),
        ("C4 " * 2000, "letters"),
        ("C4 (loud)", "loud"),
        ("E9", "reach|range|no note|C8"),
    ],
)
def test_what_cannot_be_read_is_said(text: str, says: str) -> None:
    with pytest.raises(ExerciseError, match=says):
        melody_of_line(text, CONCERT, title="Mine")
