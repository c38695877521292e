"""What players do that is easily taken for something else: a wave for a second attack, a deep scoop for a split, a tail for a note."""

import numpy as np
import pytest
from scipy.signal import fftconvolve

from orexis.core.coach import limits_of
from orexis.core.exercises import EXERCISE_TYPES, Exercise, Melody, MelodyNote, melody_exercise
from orexis.core.instruments import instrument_named
from orexis.core.listen import JudgingTerms, ListeningTask, ListenResult, listen
from orexis.core.player import play
from orexis.core.sound import Sound


def asked(instrument: str, *notes: tuple[int, float]) -> Exercise:
    """Tongued notes of so many seconds each, one after the other."""
    starts = np.concatenate(([0.0], np.cumsum([length for _, length in notes])))
    line = tuple(MelodyNote(midi, float(at), length) for (midi, length), at in zip(notes, starts[:-1], strict=True))
    return melody_exercise(
        Melody("line", line), EXERCISE_TYPES["tune"], instrument_named(instrument), name="line", tempo=60
    )


def judged(sound: Sound, exercise: Exercise) -> ListenResult:
    task = ListeningTask(instrument_named(exercise.instrument), exercise, first_beat_s=0.0)
    return listen(sound, task, JudgingTerms(limits_of("developing")))


def reason(result: ListenResult) -> str | None:
    assert result.verdict is not None
    return result.verdict.reason


def waved(sound: Sound, depth_db: float, hz: float) -> Sound:
    """The sound with its level going up and down."""
    t = np.arange(len(sound.samples)) / sound.rate
    level = -0.5 * depth_db * (1.0 + np.cos(2 * np.pi * hz * t))
    return Sound((sound.samples * 10.0 ** (level / 20.0)).astype(np.float32), sound.rate)


def bent(sound: Sound, at_s: float, cents: float, length_s: float) -> Sound:
    """The sound with its pitch drawn up from so many cents under it, from a moment on."""
    drawn = np.zeros(len(sound.samples))
    first, size = round(at_s * sound.rate), round(length_s * sound.rate)
    drawn[first : first + size] = -cents * (0.5 + 0.5 * np.cos(np.linspace(0.0, np.pi, size)))
    at = np.concatenate(([0.0], np.cumsum(2.0 ** (drawn / 1200.0))[:-1]))
    samples = np.interp(at[at < len(drawn) - 1], np.arange(len(drawn)), sound.samples)
    return Sound(samples.astype(np.float32), sound.rate)


@pytest.mark.parametrize("instrument", ["trombone-tenor", "trumpet-bb"])
@pytest.mark.parametrize("depth_db", [0.0, 5.0, 9.0])
def test_a_held_note_is_not_two_however_its_level_waves(instrument: str, depth_db: float) -> None:
    midi = instrument_named(instrument).easy.midi + 5
    sound, _ = play(asked(instrument, (midi, 3.0)), seed=2)
    told = judged(waved(sound, depth_db, 5.0), asked(instrument, (midi, 1.5), (midi, 1.5)))
    assert reason(told) == "missing"
    assert sum(note.sounded is None for note in told.measures.notes) == 1


@pytest.mark.parametrize("instrument", ["trombone-tenor", "trumpet-bb"])
def test_two_tongued_notes_are_two(instrument: str) -> None:
    midi = instrument_named(instrument).easy.midi + 5
    two = asked(instrument, (midi, 1.5), (midi, 1.5))
    sound, _ = play(two, seed=2)
    told = judged(waved(sound, 5.0, 5.0), two)
    assert all(note.sounded for note in told.measures.notes)


@pytest.mark.parametrize(("cents", "length_s"), [(170.0, 0.15), (130.0, 0.3), (-150.0, 0.15)])
@pytest.mark.parametrize("instrument", ["trombone-tenor", "trumpet-bb", "tuba-eb"])
def test_a_deep_scoop_is_an_attack_and_no_split(instrument: str, cents: float, length_s: float) -> None:
    exercise = asked(instrument, (instrument_named(instrument).easy.midi + 5, 3.0))
    sound, truth = play(exercise, seed=2)
    told = judged(bent(sound, truth.notes[0].onset_s, cents, length_s), exercise)
    assert reason(told) == "attack"
    assert told.measures.notes[0].splits == 0


def test_a_soft_note_after_a_loud_one_begins_when_it_does_in_a_room() -> None:
    """What rings of the loud one hides the silence before it: without the room it is there."""
    exercise = asked("trombone-tenor", (50, 1.0), (52, 1.0), (54, 1.0))
    sound, truth = play(exercise, seed=2)
    begin, end = (round(at * sound.rate) for at in (truth.notes[1].onset_s - 0.03, truth.notes[2].onset_s - 0.03))
    samples = sound.samples.astype(float)
    samples[begin:end] *= 10.0 ** (-9.0 / 20.0)
    rng = np.random.default_rng(1)
    t = np.arange(round(0.6 * sound.rate)) / sound.rate
    tail = rng.normal(0, 1, len(t)) * 10.0 ** (-3.0 * t / 0.5) * (t > 0.01)
    wet = fftconvolve(samples, tail)[: len(samples)]
    wet *= 10.0 ** (-6.0 / 20.0) * np.std(samples) / np.std(wet)
    told = judged(Sound((0.5 * (samples + wet)).astype(np.float32), sound.rate), exercise)
    assert told.measures.sound.room_db_s is not None
    for note, true in zip(told.measures.notes, truth.notes, strict=True):
        assert note.onset_s == pytest.approx(true.onset_s, abs=0.04)


@pytest.mark.parametrize("instrument", ["trombone-tenor", "trumpet-bb", "horn-f-bb"])
@pytest.mark.parametrize(
    ("semitones", "wanted"), [(1, "wrong-fingering"), (-1, "wrong-fingering"), (12, "wrong-partial")]
)
def test_a_note_of_another_fingering_is_told_from_another_partial(instrument: str, semitones: int, wanted: str) -> None:
    midi = instrument_named(instrument).easy.midi + 5
    sound, _ = play(asked(instrument, (midi, 2.0), (midi + semitones, 2.0), (midi, 2.0)), seed=2)
    told = judged(sound, asked(instrument, (midi, 2.0), (midi, 2.0), (midi, 2.0)))
    assert reason(told) == wanted
