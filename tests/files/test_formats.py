"""Exercises and sound in and out: what we write, others read back; what is broken gets a sentence."""

import io
from pathlib import Path

import mido
import numpy as np
import pytest
import soundfile
from lxml import etree

from orexis.core.exercises import Exercise, exercise_types_for
from orexis.core.instruments import INSTRUMENTS, instrument_named
from orexis.core.sound import Sound
from orexis.errors import ExerciseError, SoundError
from orexis.files import soundfiles
from orexis.files.engraving import exercise_to_svg
from orexis.files.exercise_json import exercise_to_json
from orexis.files.exercise_json_read import exercise_from_json
from orexis.files.layout import TICKS as DIVISIONS
from orexis.files.midi import TICKS, exercise_to_midi
from orexis.files.musicxml import exercise_to_musicxml
from orexis.files.soundfiles import read_sound, write_flac, write_wav
from tests.conftest import exercise_of, some

ALL = [(instrument.id, part.id) for instrument in INSTRUMENTS.values() for part in instrument.parts]
_STEPS = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}


def sounding(xml: bytes) -> list[tuple[int, float]]:
    """Sounding MIDI numbers and quarter lengths, ties joined: a reader of our own MusicXML, written apart from it."""
    root = etree.fromstring(xml)
    change = int(root.findtext(".//transpose/chromatic") or 0) + 12 * int(
        root.findtext(".//transpose/octave-change") or 0
    )
    notes: list[tuple[int, float]] = []
    for note in root.iter("note"):
        length = int(note.findtext("duration") or 0) / DIVISIONS
        if note.find("rest") is not None:
            continue
        midi = 12 * (int(note.findtext("pitch/octave") or 0) + 1) + _STEPS[note.findtext("pitch/step") or "C"]
        midi += int(note.findtext("pitch/alter") or 0) + change
        if any(tie.get("type") == "stop" for tie in note.findall("tie")):
            notes[-1] = (midi, notes[-1][1] + length)
        else:
            notes.append((midi, length))
    return notes


@pytest.mark.parametrize(
    ("instrument", "part"), some(ALL[::4] + [pair for pair in ALL if pair not in ALL[::4]], len(ALL[::4]))
)
def test_musicxml_sounds_as_the_exercise(instrument: str, part: str) -> None:
    instrument = instrument_named(instrument)
    for exercise_type in exercise_types_for(instrument):
        for exercise in exercise_type.series(instrument).exercises[:3]:
            found = sounding(exercise_to_musicxml(exercise, instrument, instrument.part(part)))
            assert [midi for midi, _ in found] == [note.pitch.midi for note in exercise.notes], exercise.id
            assert [beats for _, beats in found] == pytest.approx([note.beats for note in exercise.notes], abs=0.05)


@pytest.mark.parametrize(
    ("instrument", "part"), some(ALL[::4] + [pair for pair in ALL if pair not in ALL[::4]], len(ALL[::4]))
)
def test_every_note_is_engraved_with_its_id(instrument: str, part: str) -> None:
    instrument = instrument_named(instrument)
    for exercise_type in exercise_types_for(instrument):
        exercise = exercise_type.series(instrument).exercises[0]
        svg = exercise_to_svg(exercise, instrument, instrument.part(part))
        for note in exercise.notes:
            assert f'data-id="{note.id}"' in svg
        assert "currentColor" in svg


@pytest.mark.parametrize("instrument", sorted(INSTRUMENTS))
def test_midi_is_read_back_by_another_library(instrument: str) -> None:
    exercise = exercise_of(instrument, "two-partial-slur", tempo="90")
    file = mido.MidiFile(file=io.BytesIO(exercise_to_midi(exercise)))
    notes, clicks = file.tracks
    heard = [message.note for message in notes if message.type == "note_on"]
    assert heard == [note.pitch.midi for note in exercise.notes]
    assert file.length == pytest.approx(exercise.duration_s, abs=0.2)
    assert sum(message.type == "note_on" for message in clicks) == exercise.count_in_beats + int(exercise.beats)
    assert file.ticks_per_beat == TICKS


@pytest.mark.parametrize("instrument", ["horn-f-bb", "trombone-bass"])
def test_json_there_and_back(instrument: str) -> None:
    for exercise_type in exercise_types_for(instrument_named(instrument)):
        for exercise in exercise_type.series(instrument_named(instrument)).exercises:
            assert exercise_from_json(exercise_to_json(exercise)) == exercise


def _with(exercise: Exercise, old: str, new: str) -> bytes:
    text = exercise_to_json(exercise).decode()
    assert old in text
    return text.replace(old, new).encode()


@pytest.mark.parametrize(
    ("old", "new", "says"),
    [
        ('"tempo_bpm": 72.0', '"tempo_bpm": 0', "tempo"),
        ('"beats": 2.0', '"beats": -1', "no length"),
        ('"instrument": "tuba-eb"', '"instrument": "kazoo"', "kazoo"),
        ('"octave": 2', '"octave": 99', "out of range"),
        ('"id": "n2"', '"id": "n1"', "share one id"),
        ('"schema": 3', '"schema": 7', "form 7"),
        ('"notes": [', '"notes": 4, "x": [', "notes"),
    ],
)
def test_broken_exercises_are_refused(old: str, new: str, says: str) -> None:
    from orexis.errors import InputError

    with pytest.raises(InputError, match=says):
        exercise_from_json(_with(exercise_of("tuba-eb", "two-partial-slur"), old, new))


def test_a_huge_exercise_file_is_refused_at_once() -> None:
    with pytest.raises(ExerciseError, match="1 MB"):
        exercise_from_json(b" " * 1_000_001)


def _sound(rate: int = 44_100, seconds: float = 0.5) -> Sound:
    return Sound((0.3 * np.sin(np.arange(round(rate * seconds)) * 0.05)).astype(np.float32), rate)


def test_wav_and_flac_come_back(tmp_path: Path) -> None:
    sound = _sound()
    write_wav(tmp_path / "a.wav", sound)
    write_flac(tmp_path / "a.flac", sound)
    assert np.max(np.abs(read_sound(tmp_path / "a.wav").samples - sound.samples)) < 1e-4
    assert np.max(np.abs(read_sound(tmp_path / "a.flac").samples - sound.samples)) < 1e-6


def test_stereo_is_mixed_down(tmp_path: Path) -> None:
    both = np.stack([np.full(8_000, 0.5), np.full(8_000, -0.1)], axis=1)
    soundfile.write(tmp_path / "s.wav", both, 8_000, subtype="FLOAT")
    assert read_sound(tmp_path / "s.wav").samples == pytest.approx(0.2)


def test_over_long_sound_is_refused_whatever_its_header_says(tmp_path: Path) -> None:
    write_wav(tmp_path / "long.wav", _sound(8_000, 3.0))
    with pytest.raises(SoundError, match="longer than"):
        read_sound(tmp_path / "long.wav", max_seconds=2.0)


@pytest.mark.parametrize("data", [b"", b"hello", b"RIFF\x00\x00\x00\x00WAVE", b"fLaC" + b"\xff" * 200])
def test_what_is_no_sound_is_refused(data: bytes) -> None:
    with pytest.raises(SoundError, match=r"WAV or FLAC|empty"):
        read_sound(io.BytesIO(data))


def test_truncated_flac_and_odd_rates(tmp_path: Path) -> None:
    write_flac(tmp_path / "a.flac", _sound(seconds=2.0))
    whole = (tmp_path / "a.flac").read_bytes()
    (tmp_path / "cut.flac").write_bytes(whole[: len(whole) // 2])
    with pytest.raises(SoundError):
        read_sound(tmp_path / "cut.flac")
    soundfile.write(tmp_path / "slow.wav", np.zeros(100), 4_000)
    with pytest.raises(SoundError, match="4000"):
        read_sound(tmp_path / "slow.wav")
    soundfile.write(tmp_path / "ogg.ogg", np.zeros(1000), 44_100)
    with pytest.raises(SoundError, match="WAV or FLAC"):
        read_sound(tmp_path / "ogg.ogg")


def test_more_samples_than_are_held_at_once_are_refused(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A sound at 192 kHz may be half as long as one at 96."""
    soundfile.write(tmp_path / "a.wav", np.zeros(192_000, np.float32), 192_000)
    monkeypatch.setattr(soundfiles, "_MOST_SAMPLES", 100_000)
    with pytest.raises(SoundError, match="192000 samples a second: cut it"):
        read_sound(tmp_path / "a.wav")
