"""The simulated player: an exercise in, sound and truth out."""

from dataclasses import dataclass

import numpy as np

from orexis.core.exercises import Exercise, Medium
from orexis.core.instruments import instrument_named
from orexis.core.player.flaws import Flaws
from orexis.core.player.gestures import CONTROL_RATE
from orexis.core.player.performance import Defect, Performance, PlayedNote, performance
from orexis.core.player.synthesis import Timbre, render, timbre_of
from orexis.core.sound import Sound

PLAYER_RATE = 44_100  # Hz: what most microphones give
_TRUTH_HOP = 5  # control steps: 5 ms


@dataclass(frozen=True, slots=True)
class Truth:
    """What was really played: pitch every 5 ms from time 0 (None where there is no tone), notes and defects."""

    seed: int
    hop_s: float
    f0_hz: tuple[float | None, ...]
    notes: tuple[PlayedNote, ...]
    defects: tuple[Defect, ...]
    schema: int = 1


def play(
    exercise: Exercise, *, a4: float = 440.0, flaws: Flaws | None = None, seed: int = 0, rate: int = PLAYER_RATE
) -> tuple[Sound, Truth]:
    """Play the exercise. Time 0 of sound and truth is the first beat of the count-in; the same seed plays the same."""
    flaws = flaws or Flaws()
    rng = np.random.default_rng(seed)
    instrument = instrument_named(exercise.instrument)
    played = performance(exercise, instrument, a4=a4, flaws=flaws, rng=rng)
    room = flaws.find("room")
    sound = render(
        played,
        _timbre(exercise, instrument.sides[0].fundamental.frequency()),
        rate=rate,
        room=room.word if room else "dry",
        noise_db=flaws.size("noise", -72.0),
        rng=rng,
    )
    return sound, _truth(played, seed)


def _timbre(exercise: Exercise, fundamental_hz: float) -> Timbre:
    """An instrument's, or that of a mouthpiece alone: no bell, and thinner."""
    if exercise.medium == Medium.MOUTHPIECE:
        return Timbre(bell_hz=700.0, slope=1.2)
    return timbre_of(fundamental_hz)


def _truth(played: Performance, seed: int) -> Truth:
    hop = slice(0, None, _TRUTH_HOP)
    heard = zip(played.f0_hz[hop], played.level_db[hop], strict=True)
    f0 = tuple(round(float(f), 4) if np.isfinite(f) and level > -70.0 else None for f, level in heard)
    return Truth(seed, _TRUTH_HOP / CONTROL_RATE, f0, played.notes, played.defects)
