"""An exercise to listen to: played without a flaw, with its count-in and click, in the instrument's own kind of tone."""

from functools import lru_cache

import numpy as np

from orexis.core.exercises import Exercise
from orexis.core.player import PLAYER_RATE, parse_flaws, play, sounded
from orexis.core.sound import Floats, Sound
from orexis.files.soundfiles import wav_bytes

_CLICK_HZ = (1320.0, 990.0)  # first beat, other beats
_BESIDE = 0.06  # of full scale, for each tone that sounds with the line
_CLICK_S = 0.05  # long enough to hear, too short to have a pitch


@lru_cache(maxsize=24)
def exercise_wav(exercise: Exercise, a4: float, *, click: bool) -> bytes:
    """16-bit WAV; sample 0 is the first beat of the count-in."""
    sound, _ = play(exercise, a4=a4, flaws=parse_flaws(["noise=-90db", "room=small"]), seed=3)
    samples = 0.9 * sound.samples.astype(np.float64)
    if exercise.accompaniment:
        samples += _BESIDE * sounded(exercise.sounding(a4=a4), sound.rate, len(samples))
    if click:
        for beat in range(exercise.clicks):
            _add_click(samples, beat * exercise.beat_s, first=beat % exercise.beats_per_bar == 0)
    return wav_bytes(Sound(np.clip(samples, -1.0, 1.0).astype(np.float32), sound.rate))


def _add_click(samples: Floats, at_s: float, *, first: bool) -> None:
    start = round(at_s * PLAYER_RATE)
    t = np.arange(min(round(_CLICK_S * PLAYER_RATE), max(0, len(samples) - start))) / PLAYER_RATE
    wave = np.minimum(t / 0.002, 1.0) * np.exp(-t / 0.009) * np.sin(2 * np.pi * _CLICK_HZ[0 if first else 1] * t)
    samples[start : start + len(t)] += (0.25 if first else 0.15) * wave
