"""What a horn is: an open tube, what lengthens it, and the parts written for it.

Conventions: lengths in metres, pulls in millimetres, deviations in cents against equal temperament at A4.
The horn itself is fixed at A440 and 23 C; another A4 moves the targets, never the tube.
"""

from dataclasses import dataclass, field

from orexis.core.theory import Pitch, Transposition

SPEED_OF_SOUND_M_S = 345.0  # dry air at 23 C: 331.3 + 0.606 * 23


@dataclass(frozen=True, slots=True)
class Part:
    """One way in which a part for the horn is written."""

    id: str
    clef: str  # "treble" | "bass" | "alto" | "tenor"
    transposition: Transposition


@dataclass(frozen=True, slots=True)
class Side:
    """One open tube; a double horn has two, picked by the thumb."""

    name: str | None
    fundamental: Pitch


@dataclass(frozen=True, slots=True)
class MovingSlide:
    """A valve slide that moves while playing: it serves tubes that use its valve."""

    name: str
    valve: int
    travel_mm: float


@dataclass(frozen=True, slots=True)
class Valves:
    """Piston or rotary valves; `compensating` lets the last valve multiply instead of add."""

    count: int
    compensating: bool = False
    moving: tuple[MovingSlide, ...] = ()


@dataclass(frozen=True, slots=True)
class HandSlide:
    """A trombone's slide: so many positions on the open tube, so much travel."""

    positions: int
    travel_m: float


@dataclass(frozen=True, slots=True)
class Instrument:
    """A horn of the catalogue."""

    id: str
    name: str
    sides: tuple[Side, ...]
    mechanism: Valves | HandSlide
    parts: tuple[Part, ...]
    lowest: Pitch  # lowest normal note, concert
    highest: Pitch  # highest note a strong player owns, concert
    easy: Pitch  # a comfortable low note, concert: where long tones start
    top_partial: int  # highest partial that is practised
    slur_partial: int  # lower partial of the first two-partial slur
    # On a double horn: from this concert note upwards the second side is taken first.
    second_side_from: Pitch | None = None
    # How much worse a flat way is than a sharp one when ways are ranked (a hand in the bell can lower, not raise).
    flat_weight: float = 1.0
    source: str = field(default="", compare=False)

    def part(self, part_id: str | None) -> Part:
        """The part by id, the first when None or unknown to this horn."""
        return next((part for part in self.parts if part.id == part_id), self.parts[0])

    def side(self, name: str | None) -> Side:
        """The side by name, the first when None."""
        return next((side for side in self.sides if side.name == name), self.sides[0])


def open_length_m(side: Side) -> float:
    """Sounding length of the open tube: c / (2 f1)."""
    return SPEED_OF_SOUND_M_S / (2.0 * side.fundamental.frequency())
