"""An exercise played in once comes back as the line that was written."""

import pytest

from orexis.core.exercises import TunePart, melody_of_line, score_series
from orexis.core.free_practice import line_of_notes
from orexis.core.instruments import instrument_named
from orexis.core.notes import HeardNote, segment_notes
from orexis.core.player import play
from orexis.core.theory import Transposition
from orexis.core.trace import track

CONCERT = Transposition(0)


@pytest.mark.parametrize(
    ("instrument_id", "line"),
    [
        ("trombone-tenor", "Bb2 C3 D3 - Eb3 F3:2 rest:1 F3 D3 - Bb2:4"),
        ("trumpet-bb", "C4:2 E4:1 G4 - E4 - C4:2 rest:2 D4:0.5 E4 F4 G4:2"),
        ("horn-f-bb", "C4 D4 - E4:2 - C4 rest:1 G4:2"),
    ],
)
def test_what_is_played_is_written(instrument_id: str, line: str) -> None:
    instrument = instrument_named(instrument_id)
    transposition = instrument.parts[0].transposition
    tune = (TunePart("Mine", melody_of_line(line, transposition, title="Mine", tempo_bpm=80.0)),)
    exercise = score_series(instrument, tune, {"octave": "as written"}).exercises[0]
    sound, _ = play(exercise, seed=3)
    heard = segment_notes(track(sound))
    again = line_of_notes(heard, transposition, tempo_bpm=80.0, a4=440.0)
    read = melody_of_line(again, transposition, title="Mine")
    notes = tune[0].melody.notes
    assert [note.midi for note in read.notes] == [note.midi for note in notes]
    assert [note.start_beat for note in read.notes] == [note.start_beat for note in notes]
    assert [note.slurred for note in read.notes] == [note.slurred for note in notes]


def _note(onset_s: float, release_s: float, hz: float = 440.0) -> HeardNote:
    return HeardNote("h", hz, onset_s, release_s, onset_s, release_s, False)


def test_notes_that_lie_close_get_a_finer_grid() -> None:
    heard = [_note(0.25 * at, 0.25 * at + 0.2) for at in range(4)]
    assert line_of_notes(heard, CONCERT, tempo_bpm=60.0, a4=440.0) == "A4:0.25 A4 A4 A4"
    assert line_of_notes([], CONCERT, tempo_bpm=60.0, a4=440.0) == ""


def test_what_was_cut_short_is_a_rest() -> None:
    heard = [_note(0.0, 0.5), _note(3.0, 4.0)]
    assert line_of_notes(heard, CONCERT, tempo_bpm=60.0, a4=440.0) == "A4:0.5 rest:2.5 A4:1"
