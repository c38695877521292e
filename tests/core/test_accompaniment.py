"""Playing with sound: chords that fit, a second part by the rules, notes tuned to what sounds, and a loudspeaker taken out."""

from dataclasses import replace
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest

from benchmarks.with_sound import Beside, asked, beside_it, heard, lanes, reasons
from orexis.core.exercises import Accompanied, checked_exercise, shortened
from orexis.core.exercises.tunes import TUNES
from orexis.core.instruments import instrument_named
from orexis.core.player import play
from orexis.core.room import without_known
from orexis.core.sound import Sound
from orexis.core.theory import NATURAL_SEVENTH, KnownTone, cents_between, just_cents
from orexis.errors import ExerciseError
from orexis.files.exercise_json import exercise_to_json
from orexis.files.exercise_json_read import exercise_from_json
from orexis.services.ear import Ear
from orexis.services.journal import MICROPHONE, Journal, TakeHead
from orexis.services.takes.open_take import OpenTake
from tests.conftest import some


@pytest.mark.parametrize("tune", TUNES)
@pytest.mark.parametrize("instrument", ["trumpet-bb", "tuba-eb"])
def test_a_second_part_keeps_the_rules(instrument: str, tune: str) -> None:
    exercise = asked(instrument, Accompanied.SECOND_PART, tune=tune)
    assert exercise.accompaniment is not None
    under = [note for note in exercise.accompaniment.notes if note.start_beat >= 0.0]
    assert [note.start_beat for note in under] == [note.start_beat for note in exercise.notes]
    sizes = [above.pitch.midi - below.pitch.midi for above, below in zip(exercise.notes, under, strict=True)]
    assert all(0 <= size <= 16 for size in sizes)
    assert sizes[-1] % 12 == 0  # home
    assert sum(size % 12 in (3, 4, 8, 9) for size in sizes) >= 0.75 * len(sizes)
    assert all(size % 12 not in (1, 2, 6, 10, 11) for size in sizes)
    lowest = instrument_named(instrument).lowest.midi
    assert all(note.pitch.midi >= lowest for note in under)
    moves = zip(pairwise(sizes), pairwise(under), strict=True)
    assert not any(a == b and a % 12 in (0, 7) and x.pitch != y.pitch for (a, b), (x, y) in moves)


def test_chords_lead_home_and_hold_most_of_the_melody() -> None:
    for tune in TUNES:
        names = [note.text for note in asked("trumpet-bb", Accompanied.CHORDS, tune=tune).notes if note.text]
        assert names[-1] == "I"
        assert ("V7", "IV") not in set(pairwise(names))
    exercise = asked("trumpet-bb", Accompanied.CHORDS, tune="Lamp in the Hall")
    assert [note.text for note in exercise.notes if note.text][-2:] == ["V7", "I"]


def test_thirds_and_sevenths_are_asked_where_they_belong() -> None:
    """Melody and chord agree: every note of the chord is a simple ratio of one that sounds with it."""
    exercise = asked("trumpet-bb", Accompanied.CHORDS, tune="Lamp in the Hall")
    tonic = min(exercise.notes, key=lambda note: note.start_beat).pitch.midi
    thirds = {note.target_cents for note in exercise.notes if (note.pitch.midi - tonic) % 12 == 4}
    assert any(cents == pytest.approx(just_cents(4), abs=0.01) for cents in thirds)
    hedge = asked("trumpet-bb", Accompanied.CHORDS, tune="Ferry at Low Water")
    assert hedge.accompaniment is not None
    sevenths = [note.cents for note in hedge.accompaniment.notes if note.cents < -20.0]
    assert sevenths
    assert sevenths[0] == pytest.approx(just_cents(7) + NATURAL_SEVENTH, abs=0.01)
    for note in exercise.notes:
        hz = exercise.target_hz(note, a4=440.0)
        at = exercise.start_s(note)
        sounds = exercise.sounding(a4=440.0)
        over = [hz / tone.hz for tone in sounds if tone.start_s <= at < tone.end_s - 1e-6]
        simple = [up / down * 2.0**octave for up in range(1, 8) for down in range(1, 6) for octave in (-1, 0, 1)]
        chord_tone = min(abs(cents_between(ratio, one)) for ratio in over for one in simple) < 0.5
        assert chord_tone or note.beats <= 1.0


def test_a_line_too_low_is_refused_and_shorter_forms_end_together() -> None:
    with pytest.raises(ExerciseError):
        asked("tuba-eb", Accompanied.SECOND_PART, octave="two octaves down")
    short = shortened(asked("trumpet-bb", Accompanied.CHORDS))
    assert short.accompaniment is not None
    assert max(note.start_beat + note.beats for note in short.accompaniment.notes) <= short.beats + 1e-6


@pytest.mark.parametrize(
    ("instrument", "sounds"),
    some(
        [
            ("trumpet-bb", Accompanied.CHORDS),
            ("trumpet-bb", Accompanied.DRONE),
            ("trombone-tenor", Accompanied.SECOND_PART),
        ],
        1,
    ),
)
def test_what_the_loudspeaker_plays_is_taken_out(instrument: str, sounds: Accompanied) -> None:
    exercise = asked(instrument, sounds)
    assert reasons(exercise, beside=None) == []  # headphones
    assert reasons(exercise, beside=Beside(-15.0)) == []
    assert reasons(exercise, "centre=30c@n5", beside=Beside(-15.0)) == ["pitch"]


@pytest.mark.parametrize(("instrument", "sounds"), [("horn-f-bb", Accompanied.CHORDS), ("tuba-eb", Accompanied.DRONE)])
def test_the_lanes_show_the_player_alone(instrument: str, sounds: Accompanied) -> None:
    seen = lanes(instrument, sounds, Beside(-12.0))
    assert seen.counted_in_s == 0.0
    assert seen.lost < 0.04
    assert seen.other_s < 0.2 * seen.unfiltered_s
    assert lanes(instrument, sounds, None).lost == 0.0  # headphones


def test_how_loud_the_loudspeaker_is_beside_the_player() -> None:
    exercise = asked("trumpet-bb", Accompanied.CHORDS)
    with_headphones, beside_it = (
        heard(exercise, beside=beside).measures.sound.loudspeaker_db for beside in (None, Beside(-6.0))
    )
    assert with_headphones is None or with_headphones < -35.0
    assert beside_it == pytest.approx(-6.0, abs=1.0)


def test_an_open_take_shows_the_player_alone_and_keeps_all(tmp_path: Path) -> None:
    exercise = asked("trumpet-bb", Accompanied.CHORDS)
    played, _ = play(exercise, seed=3)
    sound = beside_it(played, exercise, Beside(-12.0))
    head = TakeHead("0" * 32, "s", sound.rate, 0, MICROPHONE, {}, "2026-01-01T12:00:00+00:00")
    take = OpenTake(Journal(tmp_path).open(head), exercise, Ear(), a4=440.0)
    for at in range(0, len(sound.samples), sound.rate):
        take.accept(at, sound.samples[at : at + sound.rate])
        assert not take.provisional().voiced[take.provisional().time_s < exercise.alone_until_s].any()
    shown = take.frames_so_far()
    _, trace = take.finish()
    early = exercise.alone_until_s
    assert not shown.part(0.0, early).voiced.any()
    assert shown.part(early, exercise.duration_s).voiced.mean() > 0.8
    assert trace.part(0.0, early).voiced.mean() > 0.8


def test_a_loudspeaker_with_a_clock_of_its_own_is_taken_out() -> None:
    exercise = asked("trumpet-bb", Accompanied.CHORDS)
    assert reasons(exercise, beside=Beside(-15.0, drift_ppm=30.0)) == []
    assert reasons(exercise, "centre=30c@n5", beside=Beside(-15.0, drift_ppm=-30.0)) == ["pitch"]


def test_a_note_out_of_tune_with_the_chord_is_told() -> None:
    """In equal temperament a major third is 14 cents sharp of the chord."""
    exercise = asked("trumpet-bb", Accompanied.CHORDS)
    third = next(note for note in exercise.notes if note.target_cents < -13.0 and note.beats >= 1.0)
    assert reasons(exercise, f"centre=26c@{third.id}", beside=None) == ["pitch"]


def test_a_recording_may_begin_within_its_count_in() -> None:
    rng = np.random.default_rng(1)
    tones = [KnownTone(220.0, -1.0, 1.0), KnownTone(220.0, 1.0, 2.0), KnownTone(330.0, 1.0, 2.0)]
    t = np.arange(88_200) / 44_100
    heard = 0.1 * np.sin(2.0 * np.pi * 220.0 * (t + 1.0)) * (t < 1.0) + 1e-4 * rng.normal(0.0, 1.0, len(t))
    left = without_known(Sound(heard.astype(np.float32), 44_100), tones, alone_until_s=0.9).samples
    assert np.abs(left[8_820:35_280]).max() < 0.01


def test_nothing_is_taken_out_where_nothing_sounds() -> None:
    rng = np.random.default_rng(1)
    quiet = Sound((1e-6 * rng.normal(0.0, 1.0, 88_200)).astype(np.float32), 44_100)
    assert without_known(quiet, [KnownTone(220.0, 0.0, 1.5)], alone_until_s=1.5) is quiet


@pytest.mark.parametrize("wrong", [{"start_beat": -9.0}, {"beats": 0.0}, {"cents": float("nan")}, {"cents": 1e6}])
def test_what_cannot_sound_is_refused_from_a_file(wrong: dict[str, float]) -> None:
    exercise = asked("trumpet-bb", Accompanied.CHORDS)
    assert exercise.accompaniment is not None
    assert exercise_from_json(exercise_to_json(exercise)) == exercise
    notes = exercise.accompaniment.notes
    for changed in ((replace(notes[0], **wrong), *notes[1:]), notes * 3):
        bad = replace(exercise, accompaniment=replace(exercise.accompaniment, notes=changed))
        with pytest.raises(ExerciseError):
            checked_exercise(bad)
