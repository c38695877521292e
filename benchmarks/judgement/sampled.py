"""The same exercises played by a sampled instrument: single notes of a General MIDI sound font, tuned to what is asked and joined.

Each note is cut from one long rendered note, so that nothing is known of its making but its sound. Clean takes only, and
flaws that can be made by cutting: a hole, a wrong note, one off its pitch, one that is missing.
"""

from functools import lru_cache
from pathlib import Path

import numpy as np
from scipy.signal import resample_poly

from benchmarks.ear.case import Floats
from benchmarks.ear.sampled import BRASS, RATE, Stem, stems
from benchmarks.judgement.perform import Around, Flaw, in_place
from orexis.core.exercises import Exercise
from orexis.core.instruments import INSTRUMENTS, partial_frequency_hz
from orexis.core.sound import Sound
from orexis.core.theory import cents_between, ratio_of

CACHE = Path(".bench/stems")
_LONGEST_S = 2.3
_FADE_S = 0.03
MADE = {"gap", "wrong", "centre", "missing"}


@lru_cache(maxsize=4)
def _stems(font: str, instrument: str) -> dict[tuple[int, float, int], Stem]:
    return stems(font, instrument, CACHE)


def can_play(exercise: Exercise) -> bool:
    """Whether the font has its notes, long enough, and nothing in it moves within a note."""
    if exercise.instrument not in BRASS:
        return False
    _, low, high = BRASS[exercise.instrument]
    return all(
        low <= note.pitch.midi <= high
        and note.beats * exercise.beat_s <= _LONGEST_S
        and note.glide_beats == 0.0
        and note.shape in (None, "steady")
        for note in exercise.notes
    )


def sampled(exercise: Exercise, flaws: tuple[Flaw, ...], around: Around, rng: np.random.Generator, font: str) -> Sound:
    """The take as the microphone hears it."""
    by = {(flaw.name, flaw.place): flaw for flaw in flaws}
    have = _stems(font, exercise.instrument)
    notes = exercise.notes
    starts = [exercise.start_s(note) + rng.normal(0, 0.006) for note in notes]
    out = np.zeros(round((starts[-1] + notes[-1].beats * exercise.beat_s + 1.5) * RATE))
    for i, note in enumerate(notes):
        if ("missing", i) in by:
            continue
        slurred_on = i + 1 < len(notes) and notes[i + 1].slurred
        length = (starts[i + 1] - starts[i]) if slurred_on else note.beats * exercise.beat_s * 0.94
        gap = by.get(("gap", i + 1))
        if gap:
            length -= gap.size / 1000.0
        hz = exercise.target_hz(note, a4=440.0) * ratio_of(note.instrument_cents if note.keep_fingering else 0.0)
        if ("wrong", i) in by:
            hz = partial_frequency_hz(INSTRUMENTS[exercise.instrument], note.fingering, round(by[("wrong", i)].size))
        if ("centre", i) in by:
            hz *= ratio_of(by[("centre", i)].size)
        part = _note(have, note.pitch.midi, hz, length, attack=not note.slurred)
        at = round(starts[i] * RATE)
        span = min(len(part), len(out) - at)
        out[at : at + span] += part[:span]
    out *= 0.08 / max(1e-9, float(np.sqrt(np.mean(out[np.abs(out) > 0.1 * np.abs(out).max()] ** 2))))
    out = in_place(out, around.room, rng)
    out += rng.normal(0, 10 ** (around.noise_db / 20), len(out))
    return Sound(np.clip(out, -1, 1).astype(np.float32), RATE)


def _note(have: dict[tuple[int, float, int], Stem], midi: int, hz: float, length: float, *, attack: bool) -> Floats:
    stem = have[(midi + round(cents_between(440.0 * 2 ** ((midi - 69) / 12), hz) / 100.0), 2.6, 100)]
    ratio = stem.hz / hz
    up = 4000
    start = round((stem.onset_s if attack else stem.onset_s + 0.25) * RATE)
    raw = stem.samples[start : start + round((length + 0.1) * RATE / ratio) + RATE // 5]
    part = resample_poly(raw, round(up * ratio), up)[: round((length + _FADE_S) * RATE)]
    fade = round(_FADE_S * RATE)
    part[-fade:] *= np.linspace(1, 0, fade)
    if not attack:
        part[:fade] *= np.linspace(0, 1, fade)
    return np.asarray(part)
