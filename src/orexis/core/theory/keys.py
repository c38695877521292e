"""Keys and scales: signatures, spelling that follows the key, scale steps.

A key is counted in fifths from C (sharps positive, -7..7), always by its major form; `minor` lowers the tonic to the
sixth degree. Notes outside the key are spelled sharp when a line rises and flat when it falls.
"""

from dataclasses import dataclass

from orexis.core.theory.pitch import SEMITONES, STEPS, Pitch

_LINE = "FCGDAEB"  # naturals by fifths, F = -1
_MAJOR = (0, 2, 4, 5, 7, 9, 11)
SCALES: dict[str, tuple[int, ...]] = {
    "major": _MAJOR,
    "minor": (0, 2, 3, 5, 7, 8, 11),
    "chromatic": tuple(range(12)),
    "whole-tone": (0, 2, 4, 6, 8, 10),
}


@dataclass(frozen=True, slots=True)
class Key:
    """A key signature and the step of it that is the tonic."""

    fifths: int
    minor: bool = False

    def alter_of(self, step: str) -> int:
        """What the signature does to a step."""
        place = _LINE.index(step)
        sharps = 1 if self.fifths > place else 0
        flats = -1 if -self.fifths > 6 - place else 0
        return sharps + flats

    def spelled(self, midi: int, *, rising: bool = True) -> Pitch:
        """The keyboard number as this key writes it."""
        inside = [pitch for step in STEPS if (pitch := _named(step, self.alter_of(step), midi))]
        if inside:
            return inside[0]
        # A note that the key does not have: a neighbour raised or lowered.
        signs = (0, 1, -1) if (rising and self.fifths > -3) or self.fifths > 3 else (0, -1, 1)
        outside = [f for alter in signs for step in STEPS if (f := _named(step, alter, midi))]
        return outside[0]


def _named(step: str, alter: int, midi: int) -> Pitch | None:
    """The pitch of this name on that keyboard number, if there is one."""
    octave, rest = divmod(midi - SEMITONES[step] - alter, 12)
    return Pitch(step, alter, octave - 1) if rest == 0 else None


def key_of(tonic: Pitch, *, minor: bool = False) -> Key:
    """The key on a tonic, by the signature with the fewest signs; five flats before seven sharps."""
    wanted = (tonic.midi - (9 if minor else 0)) % 12
    options = [fifths for fifths in range(-6, 7) if (7 * fifths) % 12 == wanted]
    by_name = [f for f in options if _tonic_alter(f, minor=minor) == tonic.alter]
    return Key(min(by_name or options, key=lambda f: (abs(f), f)), minor)


def _tonic_alter(fifths: int, *, minor: bool) -> int:
    place = fifths + (3 if minor else 0) + 1
    return place // 7


def scale(tonic: Pitch, *, octaves: int = 1, minor: bool = False) -> tuple[Pitch, ...]:
    """Tonic to tonic, rising, spelled in its key (harmonic minor's leading note raised)."""
    key = key_of(tonic, minor=minor)
    steps = SCALES["minor" if minor else "major"]
    pitches = [tonic.midi + 12 * o + s for o in range(octaves) for s in steps]
    return tuple(key.spelled(midi) for midi in (*pitches, tonic.midi + 12 * octaves))


def transposed_fifths(fifths: int, semitones: int) -> int:
    """The signature of a part written so many semitones higher; seven signs at most, the fewer the better."""
    return (fifths + 7 * semitones + 5) % 12 - 5
