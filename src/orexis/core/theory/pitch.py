"""Pitches by name.

Conventions: scientific names in concert pitch, C4 = middle C, A4 = `a4` Hz (default 440). `alter` is in
semitones (-2..2). A pitch keeps its spelling; `midi` is its place on the keyboard (C4 = 60). Cents are
1200 * log2(ratio). Source of the equal-tempered formula: ISO 16 and f = a4 * 2^((midi-69)/12).
"""

import math
import re
from dataclasses import dataclass
from numbers import Real
from typing import TYPE_CHECKING, overload

from orexis.core.messages import tell
from orexis.errors import PitchError

if TYPE_CHECKING:  # names and exercises need no arrays, and loading them takes a tenth of a second
    import numpy as np
    from numpy.typing import NDArray

    Frequencies = NDArray[np.float64]

STEPS = "CDEFGAB"
SEMITONES = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}
_ALTERS = {"": 0, "#": 1, "##": 2, "x": 2, "b": -1, "bb": -2, "♯": 1, "♭": -1}
_SIGNS = {0: "", 1: "#", 2: "##", -1: "b", -2: "bb"}
_NAME = re.compile(r"([A-Ga-g])(##|#|x|bb|b|♯|♭)?(-?\d{1,2})")
# What a brass player can reach, with room on both sides: C0 is 16 Hz, C8 4186 Hz.
_LOWEST, _HIGHEST = 12, 108


@dataclass(frozen=True, slots=True)
class Pitch:
    """A spelled pitch: `step` is one of C D E F G A B, `alter` in semitones, `octave` scientific."""

    step: str
    alter: int
    octave: int

    def __post_init__(self) -> None:
        if self.step not in STEPS or not -2 <= self.alter <= 2:
            raise PitchError(
                tell(
                    "{step}{alter:+d} is no pitch: use a step C to B and at most two sharps or flats.",
                    step=self.step,
                    alter=self.alter,
                )
            )
        if not _LOWEST <= self.midi <= _HIGHEST:
            raise PitchError(tell("{value} is out of range: use a note from C0 to C8.", value=self.name))

    @property
    def midi(self) -> int:
        """Return the keyboard number; C4 is 60."""
        return 12 * (self.octave + 1) + SEMITONES[self.step] + self.alter

    @property
    def name(self) -> str:
        """Return the scientific name, such as Bb3."""
        return f"{self.step}{_SIGNS[self.alter]}{self.octave}"

    @property
    def staff_place(self) -> int:
        """Diatonic steps above C0, by which a note is placed on a staff."""
        return 7 * self.octave + STEPS.index(self.step)

    def frequency(self, *, a4: float = 440.0) -> float:
        """Return the equal-tempered frequency in Hz."""
        return a4 * 2.0 ** ((self.midi - 69) / 12.0)


def parse_pitch(text: str) -> Pitch:
    """Read a scientific name such as `Bb3` or `F#4`; PitchError otherwise."""
    match = _NAME.fullmatch(text.strip())
    if match is None:
        raise PitchError(
            tell("“{text}” is no note name: write a letter, # or b, and an octave, such as Bb3.", text=text[:20])
        )
    step, sign, octave = match.groups()
    return Pitch(step.upper(), _ALTERS[sign or ""], int(octave))


# Spelling on its own, without a key: the flats that brass parts use most, and F sharp.
_PLAIN = [
    ("C", 0),
    ("D", -1),
    ("D", 0),
    ("E", -1),
    ("E", 0),
    ("F", 0),
    ("F", 1),
    ("G", 0),
    ("A", -1),
    ("A", 0),
    ("B", -1),
    ("B", 0),
]


def pitch_of_midi(midi: int) -> Pitch:
    """The plainest spelling of a keyboard number."""
    step, alter = _PLAIN[midi % 12]
    return Pitch(step, alter, midi // 12 - 1)


def flat_spelling(midi: int) -> Pitch:
    """The spelling in flats, so that neighbours on one tube of a flat-built instrument agree."""
    plain = pitch_of_midi(midi)
    return Pitch("G", -1, plain.octave) if (plain.step, plain.alter) == ("F", 1) else plain


_ONE = (float, Real)  # made once: it is asked thousands of times a take


@overload
def cents_between(low_hz: float, high_hz: float) -> float: ...
@overload
def cents_between(low_hz: float, high_hz: "Frequencies") -> "Frequencies": ...
def cents_between(low_hz: float, high_hz: "float | Frequencies") -> "float | Frequencies":
    """Cents from the first frequency to the second, or to each of an array of any shape (NaN stays NaN)."""
    if isinstance(high_hz, _ONE):
        return 1200.0 * math.log2(high_hz / low_hz)
    import numpy as np

    return np.asarray(1200.0 * np.log2(high_hz / low_hz))


def ratio_of(cents: float) -> float:
    """The frequency ratio of an interval in cents: 2^(cents/1200)."""
    return 2.0 ** (cents / 1200.0)


def midi_of_frequency(frequency_hz: float, *, a4: float = 440.0) -> float:
    """Return the keyboard number of a frequency, with its fraction of a semitone."""
    return 69.0 + 12.0 * math.log2(frequency_hz / a4)


def nearest_pitch(frequency_hz: float, *, a4: float = 440.0) -> Pitch:
    """The equal-tempered pitch nearest to a frequency."""
    return pitch_of_midi(round(midi_of_frequency(frequency_hz, a4=a4)))
