"""Pitch names and transposition against what every table of note frequencies says."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orexis.core.theory import (
    Key,
    Transposition,
    cents_between,
    interval_name,
    just_cents,
    key_of,
    nearest_pitch,
    parse_pitch,
    pitch_of_midi,
    scale,
    transposed_fifths,
)
from orexis.core.theory.naming import NoteNames, called
from orexis.errors import PitchError


@pytest.mark.parametrize(
    ("name", "hz"), [("A4", 440.0), ("C4", 261.6256), ("Bb1", 58.2705), ("Eb1", 38.8909), ("F#5", 739.9888)]
)
def test_frequency_of_known_notes(name: str, hz: float) -> None:
    assert parse_pitch(name).frequency() == pytest.approx(hz, rel=1e-6)


@given(st.integers(min_value=12, max_value=108))
def test_names_come_back(midi: int) -> None:
    pitch = pitch_of_midi(midi)
    assert parse_pitch(pitch.name) == pitch
    assert pitch.midi == midi
    assert nearest_pitch(pitch.frequency(a4=442.0), a4=442.0) == pitch


@given(st.integers(min_value=36, max_value=80), st.sampled_from([-5, 0, 2, 7, 9, 14, 21, 26]))
def test_transposition_there_and_back(midi: int, semitones: int) -> None:
    part = Transposition(semitones)
    written = part.written(pitch_of_midi(midi))
    assert written.midi == midi + semitones
    assert part.concert(written).midi == midi
    assert abs(written.alter) <= 1


@pytest.mark.parametrize(
    ("concert", "semitones", "written"), [("Bb3", 2, "C4"), ("F3", 7, "C4"), ("Eb2", 21, "C4"), ("Ab3", 2, "Bb3")]
)
def test_spelling_follows_the_interval(concert: str, semitones: int, written: str) -> None:
    assert Transposition(semitones).written(parse_pitch(concert)).name == written


def test_an_octave_is_1200_cents() -> None:
    assert cents_between(220.0, 440.0) == pytest.approx(1200.0)


@pytest.mark.parametrize("text", ["", "H3", "C", "Cb9b", "A99", "C-9", "B###2"])
def test_bad_names_are_refused_with_a_remedy(text: str) -> None:
    with pytest.raises(PitchError, match=r"write|use|out of range"):
        parse_pitch(text)


@pytest.mark.parametrize(
    ("tonic", "fifths", "third"),
    [("C4", 0, "E4"), ("Bb3", -2, "D4"), ("F#3", 6, "A#3"), ("Db4", -5, "F4"), ("B2", 5, "D#3")],
)
def test_scales_are_spelled_in_their_key(tonic: str, fifths: int, third: str) -> None:
    pitch = parse_pitch(tonic)
    steps = scale(pitch)
    assert key_of(pitch).fifths == fifths
    assert steps[2].name == third
    assert len({step.step for step in steps[:7]}) == 7  # every letter once
    assert steps[-1].midi - steps[0].midi == 12


@given(st.integers(min_value=24, max_value=100), st.integers(min_value=-6, max_value=6), st.booleans())
def test_a_key_spells_every_note_with_one_sign_at_most(midi: int, fifths: int, rising: bool) -> None:
    found = Key(fifths).spelled(midi, rising=rising)
    assert found.midi == midi
    assert abs(found.alter) <= 1


@pytest.mark.parametrize(
    ("semitones", "cents"), [(0, 0.0), (3, 15.6), (4, -13.7), (5, -2.0), (7, 2.0), (9, -15.6), (12, 0.0), (16, -13.7)]
)
def test_just_intervals(semitones: int, cents: float) -> None:
    assert just_cents(semitones) == pytest.approx(cents, abs=0.05)


def test_intervals_in_words_and_transposed_keys() -> None:
    assert interval_name(7) == "fifth"
    assert interval_name(-16) == "octave and major third"
    assert transposed_fifths(-2, 2) == 0
    assert transposed_fifths(0, 7) == 1
    assert all(abs(transposed_fifths(f, s)) <= 6 for f in range(-6, 7) for s in range(-14, 27))


def test_notes_are_called_as_players_call_them() -> None:
    said = "from Bb3 to F#4, B3, Ebb2 and A4 = 440 Hz; partial 12, C♯5"
    assert called(said, NoteNames.LETTERS) == "from B♭3 to F♯4, B3, E𝄫2 and A4 = 440 Hz; partial 12, C♯5"
    assert called(said, NoteNames.H_AND_B) == "from B3 to Fis4, H3, Eses2 and A4 = 440 Hz; partial 12, Cis5"
    assert called(said, NoteNames.SYLLABLES) == "from Si♭3 to Fa♯4, Si3, Mi𝄫2 and La4 = 440 Hz; partial 12, Do♯5"
    assert called("Ab3 Db4 Gb5", NoteNames.H_AND_B) == "As3 Des4 Ges5"
