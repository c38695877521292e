"""Notes held by real players, one by one: two packages of recordings under the MIT licence, fetched by `scripts/setup-real`.

Only what their own sound tells is used: when a note begins and ends, and its pitch. They are resampled to the pitch that is asked.
"""

import re
from functools import lru_cache
from pathlib import Path

import numpy as np
import soundfile
from scipy.signal import resample_poly

from benchmarks.ear.case import Floats
from benchmarks.ear.sampled import RATE, Stem, settled_hz, stem_of
from orexis.core.theory import cents_between, parse_pitch, pitch_of_midi

FOLDER = Path(".bench/real")
PLAYERS = {"trombone-tenor-f": "trombone", "trumpet-bb": "trumpet"}
_SOUNDS_HIGHER = {("trumpet", "C3"): 12, ("trumpet", "As3"): 12}  # than its name says, in semitones
_FADE_S = 0.01
_UP = 4000


def names(instrument: str) -> list[str]:
    """Return the notes there are of an instrument, lowest first."""
    found = [path.stem for path in (FOLDER / PLAYERS[instrument]).glob("*.mp3")]
    return sorted(found, key=lambda name: midi_of(instrument, name))


def midi_of(instrument: str, name: str) -> int:
    """Return the keyboard number that the note sounds."""
    named = re.sub(r"^([A-G])s", r"\1#", name)
    return parse_pitch(named).midi + _SOUNDS_HIGHER.get((PLAYERS[instrument], name), 0)


def hz_of(midi: int) -> float:
    """Return the frequency of a keyboard number at A4 = 440 Hz."""
    return pitch_of_midi(midi).frequency(a4=440.0)


@lru_cache(maxsize=64)
def stem(instrument: str, name: str) -> Stem:
    """Return the recording at 44.1 kHz with its own onset, release and pitch."""
    samples, rate = soundfile.read(FOLDER / PLAYERS[instrument] / f"{name}.mp3")
    assert (rate, samples.ndim) == (RATE, 1)
    first = float(np.flatnonzero(np.abs(samples) > 0.05 * np.abs(samples).max())[0]) / RATE
    settled = settled_hz(samples[round(max(0.0, first - 0.1) * RATE) :], hz_of(midi_of(instrument, name)))
    return stem_of(samples, settled)


def length_s(instrument: str, name: str) -> float:
    """Return how long the note sounds."""
    have = stem(instrument, name)
    return have.release_s - have.onset_s


def cut(instrument: str, name: str, hz: float, begin_s: float, length: float, *, fade_s: float = _FADE_S) -> Floats:
    """Return a part of the note at another pitch, from so long after its onset; faded where it is cut."""
    have = stem(instrument, name)
    ratio = have.hz / hz
    first = round((have.onset_s + begin_s / ratio) * RATE)
    raw = have.samples[max(0, first) : first + round(length * RATE / ratio) + RATE // 5]
    part = np.asarray(resample_poly(raw, round(_UP * ratio), _UP))[: round(length * RATE)]
    fade = round(fade_s * RATE)
    if begin_s > 0.0:
        part[:fade] *= np.linspace(0.0, 1.0, fade)
    part[-fade:] *= np.linspace(1.0, 0.0, fade)
    return part


def bent(samples: Floats, cents: Floats) -> Floats:
    """Return the sound with its pitch moved by so many cents at each sample of it."""
    at = np.concatenate(([0.0], np.cumsum(2.0 ** (cents / 1200.0))[:-1]))
    return np.interp(at[at < len(samples) - 1], np.arange(len(samples)), samples)


def shifted_cents(instrument: str, name: str, midi: int) -> float:
    """Return how far the note is resampled to sound another, in cents."""
    return float(cents_between(stem(instrument, name).hz, hz_of(midi)))
