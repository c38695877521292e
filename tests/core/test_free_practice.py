"""Practice without an exercise: parts cut at silences, what is read, the free simulated player, temperaments."""

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest

from orexis.core.coach import limits_of
from orexis.core.exercises import free_series
from orexis.core.free_practice import PartCutter, Slurs, exercise_as_heard, read_freely, recognised
from orexis.core.instruments import instrument_named
from orexis.core.listen import JudgingTerms, ListeningTask, listen
from orexis.core.measures import Measures
from orexis.core.player import parse_flaws, play, play_freely
from orexis.core.sound import Sound
from orexis.core.theory import Chord, Temperament, chord_hz, parse_pitch, pitch_of_midi, tempered_cents
from orexis.core.trace import HOP_S, Trace
from orexis.core.tuning import notes_heard
from tests.conftest import INSTRUMENTS, exercise_of


def measured(sound: Sound, instrument: str) -> Measures:
    found = listen(sound, ListeningTask(instrument_named(instrument), None), JudgingTerms(limits_of("developing")))
    return found.measures


def frames(*spans: tuple[float, bool]) -> Trace:
    """Frames that sound or not for so many seconds, in order."""
    sounding = np.concatenate([np.full(round(seconds / HOP_S), on) for seconds, on in spans])
    size = len(sounding)
    f0 = np.where(sounding, 233.0, np.nan)
    return Trace(np.arange(size) * HOP_S, f0, *(np.zeros(size) for _ in range(4)))


def test_a_part_ends_after_two_seconds_of_silence() -> None:
    cuts = PartCutter().hear(frames((1.0, False), (2.0, True), (1.5, False), (1.0, True), (3.0, False)))
    assert [cut.begins for cut in cuts] == [True, False]
    assert cuts[0].at_s == pytest.approx(0.5, abs=0.05)
    assert cuts[1].at_s == pytest.approx(7.5, abs=0.05)
    assert cuts[1].tone_s == pytest.approx(3.0, abs=0.05)


def test_a_knock_begins_no_part() -> None:
    assert PartCutter().hear(frames((1.0, False), (0.04, True), (3.0, False))) == []


def test_a_long_part_is_cut_at_its_next_short_pause() -> None:
    cuts = PartCutter().hear(frames((155.0, True), (0.4, False), (30.0, True), (2.5, False)))
    assert [round(cut.at_s, 1) for cut in cuts] == [0.0, 155.2, 154.9, 187.4]


def test_a_tone_without_any_pause_is_cut_all_the_same() -> None:
    ends = [
        cut.at_s
        for cut in PartCutter().hear(
            frames(
                (400.0, True),
            )
        )
        if not cut.begins
    ]
    assert len(ends) == 2
    assert all(later - one < 181.0 for one, later in pairwise(ends))


@pytest.mark.parametrize("instrument", INSTRUMENTS)
def test_what_is_read_is_what_was_played(instrument: str) -> None:
    done = play_freely(instrument_named(instrument), seconds=25.0, seed=5)
    reading = read_freely([("t", measured(done.sound, instrument))], instrument_named(instrument), a4=440.0)
    played = [note for passage in done.passages for note in passage.truth.notes]
    asked = [note.pitch.midi for passage in done.passages for note in passage.exercise.notes]
    assert reading.notes == pytest.approx(len(played), abs=1)
    assert (reading.low, reading.high) == (min(asked), max(asked))
    assert reading.playing_s == pytest.approx(sum(note.release_s - note.onset_s for note in played), rel=0.12)
    assert reading.slurs.gaps == ()
    assert reading.slurs.touched == ()


def slurs_of(*flaws: str) -> tuple[Slurs, dict[str, float]]:
    sound, truth = play(exercise_of("trombone-tenor", "partial-chain"), flaws=parse_flaws(flaws), seed=1)
    reading = read_freely([("t", measured(sound, "trombone-tenor"))], instrument_named("trombone-tenor"), a4=440.0)
    return reading.slurs, {defect.name: defect.start_s for defect in truth.defects}


@pytest.mark.parametrize("ms", [45, 90, 150])
def test_a_silence_in_a_line_of_slurs_is_found_where_it_is(ms: int) -> None:
    slurs, wanted = slurs_of(f"gap={ms}ms@n4")
    assert [place.at_s for place in slurs.gaps] == [pytest.approx(wanted["gap"], abs=0.05)]
    assert [place.ms for place in slurs.gaps] == [pytest.approx(ms, abs=10)]


def test_a_touched_partial_is_found_where_it_is() -> None:
    exercise = exercise_of("trombone-tenor", "wide-slur")
    sound, truth = play(exercise, flaws=parse_flaws(["caught=4/80ms@n4"]), seed=1)
    slurs = read_freely([("t", measured(sound, "trombone-tenor"))], instrument_named("trombone-tenor"), a4=440.0).slurs
    assert [place.at_s for place in slurs.touched] == [pytest.approx(truth.defects[0].start_s, abs=0.05)]


def test_tongued_notes_are_no_gaps() -> None:
    for exercise in ("two-octave-scale", "wide-slur"):
        sound, _ = play(exercise_of("trumpet-bb", exercise), seed=1)
        assert (
            read_freely([("t", measured(sound, "trumpet-bb"))], instrument_named("trumpet-bb"), a4=440.0).slurs.gaps
            == ()
        )


def test_tuning_is_told_by_note() -> None:
    exercise = exercise_of("trumpet-bb", "long-low-tones")
    sound, _ = play(exercise, flaws=parse_flaws(["centre=22c"]), seed=1)
    reading = read_freely([("t", measured(sound, "trumpet-bb"))], instrument_named("trumpet-bb"), a4=440.0)
    assert [(item.midi, item.count) for item in reading.tuning] == [(exercise.notes[0].pitch.midi, 1)]
    share = exercise.notes[0].instrument_cents
    assert reading.tuning[0].cents == pytest.approx(22.0 + share, abs=3.0)


def test_nothing_played_reads_as_nothing() -> None:
    reading = read_freely([], instrument_named("trumpet-bb"), a4=440.0)
    assert (reading.notes, reading.low, reading.attack_cents, reading.loud_db) == (0, None, None, None)


def test_the_picture_of_a_part_has_its_notes_at_their_times() -> None:
    exercise = exercise_of("tuba-eb", "two-partial-slur")
    sound, truth = play(exercise, seed=1)
    shown = exercise_as_heard(measured(sound, "tuba-eb"), instrument_named("tuba-eb"), a4=440.0)
    assert [note.pitch.midi for note in shown.notes] == [note.pitch.midi for note in exercise.notes]
    assert shown.notes[0].start_beat == pytest.approx(truth.notes[0].onset_s, abs=0.05)
    assert shown.asks_nothing
    assert exercise_as_heard(Measures((), (), *_nothing()), instrument_named("tuba-eb"), a4=440.0).asks_nothing


def _nothing() -> tuple[object, ...]:
    silence = measured(Sound(np.zeros(44_100, np.float32), 44_100), "tuba-eb")
    return silence.exercise, silence.sound


def test_held_notes_of_free_playing_tell_the_instrument_from_the_player() -> None:
    instrument = instrument_named("trumpet-bb")
    exercise = exercise_of("trumpet-bb", "long-low-tones")
    sound, _ = play(exercise, seed=1)
    heard = notes_heard(
        free_series(instrument).exercises[0],
        instrument,
        measured(sound, "trumpet-bb"),
        day=1,
        minutes=20.0,
        playing_min=0.0,
    )
    assert [(note.midi, note.fingering, note.count) for note in heard] == [
        (exercise.notes[0].pitch.midi, exercise.notes[0].fingering.label, 1)
    ]


def test_temperaments_by_theory() -> None:
    assert tempered_cents(Temperament.JUST, 4) == pytest.approx(-13.69, abs=0.01)
    assert tempered_cents(Temperament.PYTHAGOREAN, 4) == pytest.approx(7.82, abs=0.01)
    assert tempered_cents(Temperament.PYTHAGOREAN, -5) == pytest.approx(1.96, abs=0.01)
    assert tempered_cents(Temperament.MEANTONE, 4) == pytest.approx(-13.69, abs=0.01)  # pure
    assert tempered_cents(Temperament.MEANTONE, 7) == pytest.approx(-3.42, abs=0.01)
    assert {tempered_cents(Temperament.EQUAL, step) for step in range(12)} == {0.0}


def test_a_just_dominant_chord_has_the_natural_seventh() -> None:
    hz = chord_hz(parse_pitch("Bb2"), Chord.DOMINANT, Temperament.JUST, a4=440.0)
    assert [value / hz[0] for value in hz] == pytest.approx([1.0, 5 / 4, 3 / 2, 7 / 4], abs=1e-4)
    equal = chord_hz(pitch_of_midi(46), Chord.MAJOR, Temperament.EQUAL, a4=442.0)
    assert equal[0] == pytest.approx(442.0 * 2 ** (-23 / 12), abs=0.01)


@pytest.mark.parametrize("instrument", INSTRUMENTS)
def test_an_exercise_is_recognised_at_another_tempo(instrument: str) -> None:
    exercises = [exercise_of(instrument, "add-one-arpeggio"), exercise_of(instrument, "one-octave-scale")]
    for index, exercise in enumerate(exercises):
        sound, truth = play(replace(exercise, tempo_bpm=1.3 * exercise.tempo_bpm), seed=2)
        found = recognised(measured(sound, instrument), exercises, a4=440.0)
        assert [item.exercise for item in found] == [index]
        assert found[0].start_s < truth.notes[0].onset_s < found[0].start_s + 1.0


def test_other_notes_and_another_rhythm_are_no_exercise() -> None:
    exercise = exercise_of("trumpet-bb", "one-octave-scale")
    third = exercise.notes[2]
    later = [
        replace(note, start_beat=note.start_beat + 6.0) if note.start_beat >= third.start_beat else note
        for note in exercise.notes
    ]
    sound, _ = play(replace(exercise, notes=tuple(later)), seed=2)
    assert recognised(measured(sound, "trumpet-bb"), [exercise], a4=440.0) == ()
    sound, _ = play(exercise_of("trumpet-bb", "add-one-arpeggio"), seed=2)
    assert recognised(measured(sound, "trumpet-bb"), [exercise], a4=440.0) == ()
