"""Figures and sound in and out: what we write, others read back; what is broken gets a sentence."""

import io
from pathlib import Path

import mido
import numpy as np
import pytest
import soundfile
from lxml import etree

from orexis.core.figures import Figure, families_for
from orexis.core.horn import HORNS, horn_named
from orexis.core.sound import Sound
from orexis.errors import FigureError, SoundError
from orexis.files.engraving import figure_to_svg
from orexis.files.figure_json import figure_from_json, figure_to_json
from orexis.files.layout import TICKS as DIVISIONS
from orexis.files.midi import TICKS, figure_to_midi
from orexis.files.musicxml import figure_to_musicxml
from orexis.files.soundfiles import read_sound, write_flac, write_wav
from tests.conftest import figure_of, some

ALL = [(horn.id, part.id) for horn in HORNS.values() for part in horn.parts]
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
    ("horn", "part"), some(ALL[::4] + [pair for pair in ALL if pair not in ALL[::4]], len(ALL[::4]))
)
def test_musicxml_sounds_as_the_figure(horn: str, part: str) -> None:
    instrument = horn_named(horn)
    for family in families_for(instrument):
        for figure in family.series(instrument).figures[:3]:
            found = sounding(figure_to_musicxml(figure, instrument, instrument.part(part)))
            assert [midi for midi, _ in found] == [note.pitch.midi for note in figure.notes], figure.id
            assert [beats for _, beats in found] == pytest.approx([note.beats for note in figure.notes], abs=0.05)


@pytest.mark.parametrize(
    ("horn", "part"), some(ALL[::4] + [pair for pair in ALL if pair not in ALL[::4]], len(ALL[::4]))
)
def test_every_note_is_engraved_with_its_id(horn: str, part: str) -> None:
    instrument = horn_named(horn)
    for family in families_for(instrument):
        figure = family.series(instrument).figures[0]
        svg = figure_to_svg(figure, instrument, instrument.part(part))
        for note in figure.notes:
            assert f'data-id="{note.id}"' in svg
        assert "currentColor" in svg


@pytest.mark.parametrize("horn", sorted(HORNS))
def test_midi_is_read_back_by_another_library(horn: str) -> None:
    figure = figure_of(horn, "two-partial-slur", tempo="90")
    file = mido.MidiFile(file=io.BytesIO(figure_to_midi(figure)))
    notes, clicks = file.tracks
    heard = [message.note for message in notes if message.type == "note_on"]
    assert heard == [note.pitch.midi for note in figure.notes]
    assert file.length == pytest.approx(figure.duration_s, abs=0.2)
    assert sum(message.type == "note_on" for message in clicks) == figure.count_in_beats + int(figure.beats)
    assert file.ticks_per_beat == TICKS


@pytest.mark.parametrize("horn", ["horn-f-bb", "trombone-bass"])
def test_json_there_and_back(horn: str) -> None:
    for family in families_for(horn_named(horn)):
        for figure in family.series(horn_named(horn)).figures:
            assert figure_from_json(figure_to_json(figure)) == figure


def _with(figure: Figure, old: str, new: str) -> bytes:
    text = figure_to_json(figure).decode()
    assert old in text
    return text.replace(old, new).encode()


@pytest.mark.parametrize(
    ("old", "new", "says"),
    [
        ('"tempo_bpm": 72.0', '"tempo_bpm": 0', "tempo"),
        ('"beats": 2.0', '"beats": -1', "no length"),
        ('"horn": "tuba-eb"', '"horn": "kazoo"', "kazoo"),
        ('"octave": 2', '"octave": 99', "out of range"),
        ('"id": "n2"', '"id": "n1"', "share one id"),
        ('"schema": 2', '"schema": 7', "form 7"),
        ('"notes": [', '"notes": 4, "x": [', "notes"),
    ],
)
def test_broken_figures_are_refused(old: str, new: str, says: str) -> None:
    from orexis.errors import InputError

    with pytest.raises(InputError, match=says):
        figure_from_json(_with(figure_of("tuba-eb", "two-partial-slur"), old, new))


def test_a_huge_figure_file_is_refused_at_once() -> None:
    with pytest.raises(FigureError, match="1 MB"):
        figure_from_json(b" " * 1_000_001)


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
