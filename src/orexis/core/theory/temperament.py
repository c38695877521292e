"""Just intonation: where an interval over a sounding root stops beating.

Cents are against equal temperament. Ratios are the simplest that the ear takes for the interval (Helmholtz, On the
Sensations of Tone, ch. 10); the minor seventh is 9/5, that of a dominant chord 7/4.
"""

from orexis.core.theory.pitch import cents_between

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
    words = "octave" if octaves == 1 else f"{octaves} octaves"
    return f"{words} and {INTERVAL_NAMES[rest]}" if rest else words
