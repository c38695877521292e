"""Pitch names and transposition against what every table of note frequencies says."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orexis.core.theory import Transposition, cents_between, nearest_pitch, parse_pitch, pitch_of_midi
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
