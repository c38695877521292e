"""Takes made of notes that real players held: what is asked, what sounds, and what may be said of it."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from benchmarks.ear.case import Floats
from benchmarks.ear.sampled import RATE
from benchmarks.real.notes import bent, cut, hz_of, length_s, midi_of, names, shifted_cents
from orexis.core.exercises import EXERCISE_TYPES, Exercise, Melody, MelodyNote, melody_exercise
from orexis.core.instruments import INSTRUMENTS

_LONGEST_S = 12.0
_PART_S = 1.6  # of each of two notes that are asked
_FURTHEST_CENTS = 250.0  # that a note is resampled in a line
_LEVEL = 0.08


@dataclass(frozen=True, slots=True, eq=False)
class Take:
    """One sound and what was asked; `onsets_s` are the true ones."""

    kind: str
    name: str
    exercise: Exercise
    samples: Floats
    onsets_s: tuple[float, ...]


def takes(instrument: str) -> Iterator[Take]:
    """Return the takes of one instrument, one after the other."""
    for name in names(instrument):
        yield from _of_note(instrument, name)
    yield from _lines(instrument)


def _of_note(instrument: str, name: str) -> Iterator[Take]:
    midi, whole = midi_of(instrument, name), min(_LONGEST_S, length_s(instrument, name))
    hz = hz_of(midi)
    label = f"{instrument} {name}"
    one = asked(instrument, [midi], [whole])
    held = cut(instrument, name, hz, 0.0, whole if whole == _LONGEST_S else whole + 0.6)
    yield _take("held", label, one, [(0.0, held)])
    middle = 1.0 if whole > 2.5 else 0.6
    short = whole - middle - 0.3
    plain = cut(instrument, name, hz, middle, short, fade_s=0.04)
    sized = asked(instrument, [midi], [short])
    dipped = plain * 10.0 ** (_dips(len(plain)) / 20.0)
    yield _take("dips", label, sized, [(0.0, dipped)])
    for kind, cents, seconds in (("deep scoop", -170.0, 0.15), ("long scoop", -130.0, 0.3)):
        drawn = np.zeros(len(plain))
        size = round(seconds * RATE)
        drawn[:size] = cents * (0.5 + 0.5 * np.cos(np.linspace(0.0, np.pi, size)))
        yield _take(kind, label, sized, [(0.0, bent(plain, drawn))])
    two_s = min(_PART_S, (whole - 0.1) / 2)
    two = asked(instrument, [midi, midi], [two_s, two_s])
    yield _take("held for two", label, two, [(0.0, cut(instrument, name, hz, 0.0, 2 * two_s))])
    three_s = 2 * two_s / 3
    three = asked(instrument, [midi] * 3, [three_s] * 3)
    yield _take("held for three", label, three, [(0.0, cut(instrument, name, hz, 0.0, 2 * two_s))])
    for ms in (30, 45, 60):
        first = cut(instrument, name, hz, 0.0, two_s - ms / 1000.0)
        second = cut(instrument, name, hz, 0.5, two_s)
        yield _take(f"two, {ms} ms", label, two, [(0.0, first), (two_s, second)])


def _lines(instrument: str) -> Iterator[Take]:
    """Scales of five notes, tongued with a short silence and slurred, each note from the nearest recording."""
    have = {name: midi_of(instrument, name) for name in names(instrument)}
    low, high = min(have.values()), max(have.values())
    step_s = 0.9
    for bottom in range(low, high - 7, 2):
        midis = [bottom + k for k in (0, 2, 4, 5, 7)]
        chosen = [min(have, key=lambda name, midi=midi: abs(have[name] - midi)) for midi in midis]  # type: ignore[misc]
        off = [shifted_cents(instrument, name, midi) for name, midi in zip(chosen, midis, strict=True)]
        if max(map(abs, off)) > _FURTHEST_CENTS:
            continue
        for slurred in (False, True):
            exercise = asked(instrument, midis, [step_s] * 5, slurred=slurred)
            parts = []
            for i, (name, midi) in enumerate(zip(chosen, midis, strict=True)):
                hz = hz_of(midi)
                joined = slurred and i > 0
                length = step_s + 0.02 if slurred and i < 4 else step_s - 0.06
                part = cut(instrument, name, hz, 0.5 if joined else 0.0, length, fade_s=0.02)
                rms = float(np.sqrt(np.mean(part[round(0.3 * RATE) : round(0.7 * RATE)] ** 2)))
                parts.append((i * step_s, part * _LEVEL / rms))
            kind = "slurred line" if slurred else "tongued line"
            yield _take(kind, f"{instrument} {bottom}", exercise, parts)


def asked(instrument: str, midis: list[int], lengths_s: list[float], *, slurred: bool = False) -> Exercise:
    """Return the exercise that asks for the notes, a beat a second."""
    starts = np.concatenate(([0.0], np.cumsum(lengths_s)))
    notes = tuple(
        MelodyNote(midi, round(float(start), 3), round(length, 3), slurred and i > 0)
        for i, (midi, start, length) in enumerate(zip(midis, starts[:-1], lengths_s, strict=True))
    )
    return melody_exercise(
        Melody("asked", notes), EXERCISE_TYPES["tune"], INSTRUMENTS[instrument], name="asked", tempo=60
    )


def _take(kind: str, name: str, exercise: Exercise, parts: list[tuple[float, Floats]]) -> Take:
    zero = exercise.start_s(exercise.notes[0])
    out = np.zeros(round((zero + max(at + len(part) / RATE for at, part in parts) + 0.9) * RATE))
    for at, part in parts:
        first = round((zero + at) * RATE)
        out[first : first + len(part)] += part
    loud = out[np.abs(out) > 0.1 * np.abs(out).max()]
    out *= _LEVEL / max(1e-9, float(np.sqrt(np.mean(loud**2))))
    out *= min(1.0, 0.9 / float(np.abs(out).max()))
    return Take(kind, name, exercise, out, tuple(zero + at for at, _ in parts))


def _dips(count: int) -> Floats:
    """Two dips of 8 dB, 0.2 s wide, a third and two thirds of the way."""
    level = np.zeros(count)
    width = round(0.2 * RATE)
    for share in (0.33, 0.66):
        at = round(share * count) - width // 2
        level[at : at + width] -= 8.0 * np.hanning(width)
    return level
