"""The simulated player without an exercise: a few things that players play when nobody asks, with pauses between them."""

from dataclasses import dataclass

import numpy as np

from orexis.core.figures import FAMILIES, Figure, Load, Medium
from orexis.core.horn import Instrument
from orexis.core.player.play import PLAYER_RATE, Truth, play
from orexis.core.sound import Sound

_PAUSE_S = (2.6, 4.0)  # between two things
_BEFORE_S = 1.0
_NOISE_DB = -72.0


@dataclass(frozen=True, slots=True)
class Passage:
    """One thing that was played. `at_s`: where its truth's time 0 lies in the sound."""

    at_s: float
    figure: Figure
    truth: Truth


@dataclass(frozen=True, slots=True)
class FreePerformance:
    """The sound and what was really played in it, in order."""

    sound: Sound
    passages: tuple[Passage, ...]


def play_freely(horn: Instrument, *, seconds: float, a4: float = 440.0, seed: int = 0) -> FreePerformance:
    """Easy and medium exercises of this horn, drawn by the seed and without a flaw, until the time is up; the last one is played to
    its end.
    """
    rng = np.random.default_rng(seed)
    figures = _easy_figures(horn)
    parts: list[np.ndarray] = [_noise(_BEFORE_S, rng)]
    passages: list[Passage] = []
    at = _BEFORE_S
    while at < seconds or not passages:
        figure = figures[int(rng.integers(len(figures)))]
        sound, truth = play(figure, a4=a4, seed=int(rng.integers(2**31)))
        skipped = round(figure.start_s(figure.notes[0]) * sound.rate)  # nobody counts in
        passages.append(Passage(at - skipped / sound.rate, figure, truth))
        pause = _noise(float(rng.uniform(*_PAUSE_S)), rng)
        parts += [sound.samples[skipped:], pause]
        at += (len(sound.samples) - skipped + len(pause)) / sound.rate
    return FreePerformance(Sound(np.concatenate(parts).astype(np.float32), PLAYER_RATE), tuple(passages))


def _easy_figures(horn: Instrument) -> list[Figure]:
    """The first figure of each exercise that is played on the instrument and is not heavy."""
    families = [f for f in FAMILIES.values() if f.medium == Medium.HORN and f.load != Load.HIGH and f.suits(horn)]
    return [family.series(horn).figures[0] for family in families]


def _noise(seconds: float, rng: np.random.Generator) -> np.ndarray:
    return rng.normal(0.0, 10.0 ** (_NOISE_DB / 20.0), round(seconds * PLAYER_RATE)).astype(np.float32)
