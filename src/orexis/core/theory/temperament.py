"""Temperaments: how far each note of the octave lies from equal temperament, counted from a root; and chords over one.

Ratios of just intonation are the simplest that the ear takes for the interval (Helmholtz, On the Sensations of Tone, ch. 10); the
minor seventh is 9/5, that of a dominant chord 7/4. Pythagorean tuning stacks pure fifths, quarter-comma meantone fifths that make
pure major thirds; both run from three fifths below the root (its minor third) to eight above it (its minor sixth).
"""

from enum import StrEnum

from orexis.core.messages import counted, tell
from orexis.core.theory.pitch import Pitch, cents_between, pitch_of_midi, ratio_of

# semitones above the root -> (numerator, denominator)
RATIOS: dict[int, tuple[int, int]] = {
    0: (1, 1),
    1: (16, 15),
    2: (9, 8),
    3: (6, 5),
    4: (5, 4),
    5: (4, 3),
    6: (45, 32),
    7: (3, 2),
    8: (8, 5),
    9: (5, 3),
    10: (9, 5),
    11: (15, 8),
}
INTERVAL_NAMES = (
    "unison",
    "half step",
    "whole step",
    "minor third",
    "major third",
    "fourth",
    "tritone",
    "fifth",
    "minor sixth",
    "major sixth",
    "minor seventh",
    "major seventh",
    "octave",
)


class Temperament(StrEnum):
    """How the octave is divided; `tempered_cents` tells each degree's distance from equal temperament."""

    EQUAL = "equal"
    JUST = "just"
    PYTHAGOREAN = "pythagorean"
    MEANTONE = "meantone"


class Chord(StrEnum):
    """What a drone sounds over its root."""

    NOTE = "note"
    OCTAVE = "octave"
    FIFTH = "fifth"
    MAJOR = "major"
    MINOR = "minor"
    DOMINANT = "dominant"


_CHORDS: dict[Chord, tuple[int, ...]] = {
    Chord.NOTE: (0,),
    Chord.OCTAVE: (0, 12),
    Chord.FIFTH: (0, 7, 12),
    Chord.MAJOR: (0, 4, 7),
    Chord.MINOR: (0, 3, 7),
    Chord.DOMINANT: (0, 4, 7, 10),
}
_FIFTH_CENTS = {
    Temperament.PYTHAGOREAN: cents_between(2, 3),
    Temperament.MEANTONE: cents_between(1, 5) / 4.0,  # four of them, less two octaves, make a pure third
}
NATURAL_SEVENTH = cents_between(4, 7) - 1000.0
_MOST_FIFTHS_UP = 8  # G sharp above C; the next is spelled flat


def tempered_cents(temperament: Temperament, semitones: int) -> float:
    """How far a note so many semitones over the root lies from equal temperament."""
    step = semitones % 12
    if temperament == Temperament.EQUAL:
        return 0.0
    if temperament == Temperament.JUST:
        return just_cents(step)
    up = step * 7 % 12  # fifths over the root, octaves left out
    fifths = up if up <= _MOST_FIFTHS_UP else up - 12
    return fifths * (_FIFTH_CENTS[temperament] - 700.0)


def chord_hz(root: Pitch, chord: Chord, temperament: Temperament, *, a4: float = 440.0) -> tuple[float, ...]:
    """The frequencies of a chord whose root is in equal temperament; a just dominant chord has the natural seventh."""
    out = []
    for semitones in _CHORDS[chord]:
        natural = chord == Chord.DOMINANT and semitones == 10 and temperament == Temperament.JUST
        cents = NATURAL_SEVENTH if natural else tempered_cents(temperament, semitones)
        out.append(round(pitch_of_midi(root.midi + semitones).frequency(a4=a4) * ratio_of(cents), 3))
    return tuple(out)


def just_cents(semitones: int) -> float:
    """How far the just interval lies from the tempered one: a major third is 13.7 c low, a fifth 2.0 c high."""
    over, under = RATIOS[semitones % 12]
    return cents_between(under, over) - 100.0 * (semitones % 12)


def interval_name(semitones: int) -> str:
    """In words, up to the octave and beyond."""
    size = abs(semitones)
    if size <= 12:
        return INTERVAL_NAMES[size]
    octaves, rest = divmod(size, 12)
    words = counted(octaves, "octave", "{count} octaves")
    return tell("{value} and {interval_names}", value=words, interval_names=INTERVAL_NAMES[rest]) if rest else words
