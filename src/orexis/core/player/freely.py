"""The simulated player without an exercise: a few things that players play when nobody asks, with pauses between them."""

from dataclasses import dataclass

import numpy as np

from orexis.core.exercises import EXERCISE_TYPES, Exercise, Load, Medium
from orexis.core.instruments import Instrument
from orexis.core.player.play import PLAYER_RATE, Truth, play
from orexis.core.sound import Sound

_PAUSE_S = (2.6, 4.0)  # between two things
_BEFORE_S = 1.0  # silence from which the room's noise is learned
_NOISE_DB = -72.0  # a quiet room


@dataclass(frozen=True, slots=True)
class Passage:
    """One thing that was played. `at_s`: where its truth's time 0 lies in the sound."""

    at_s: float
    exercise: Exercise
    truth: Truth


@dataclass(frozen=True, slots=True)
class FreePerformance:
    """The sound and what was really played in it, in order."""

    sound: Sound
    passages: tuple[Passage, ...]


def play_freely(instrument: Instrument, *, seconds: float, a4: float = 440.0, seed: int = 0) -> FreePerformance:
    """Easy and medium exercises of this instrument, drawn by the seed and without a flaw, until the time is up; the last one is played to
    its end.
    """
    rng = np.random.default_rng(seed)
    exercises = _easy_exercises(instrument)
    parts: list[np.ndarray] = [_noise(_BEFORE_S, rng)]
    passages: list[Passage] = []
    at = _BEFORE_S
    while at < seconds or not passages:
        exercise = exercises[int(rng.integers(len(exercises)))]
        sound, truth = play(exercise, a4=a4, seed=int(rng.integers(2**31)))
        skipped = round(exercise.start_s(exercise.notes[0]) * sound.rate)  # nobody counts in
        passages.append(Passage(at - skipped / sound.rate, exercise, truth))
        pause = _noise(float(rng.uniform(*_PAUSE_S)), rng)
        parts += [sound.samples[skipped:], pause]
        at += (len(sound.samples) - skipped + len(pause)) / sound.rate
    return FreePerformance(Sound(np.concatenate(parts).astype(np.float32), PLAYER_RATE), tuple(passages))


def _easy_exercises(instrument: Instrument) -> list[Exercise]:
    """The first exercise of each type that is played on the instrument and is not heavy."""
    exercise_types = [
        f
        for f in EXERCISE_TYPES.values()
        if f.medium == Medium.INSTRUMENT and f.load != Load.HIGH and f.suits(instrument)
    ]
    return [exercise_type.series(instrument).exercises[0] for exercise_type in exercise_types]


def _noise(seconds: float, rng: np.random.Generator) -> np.ndarray:
    return rng.normal(0.0, 10.0 ** (_NOISE_DB / 20.0), round(seconds * PLAYER_RATE)).astype(np.float32)
