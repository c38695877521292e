"""What an instrument is: an open tube, what lengthens it, and the parts written for it.

Conventions: lengths in metres, pulls in millimetres, deviations in cents against equal temperament at A4.
The instrument itself is fixed at A440 and 23 C; another A4 moves the targets, never the tube. Warmer air inside moves the
instrument's pitch (`Setup`).
"""

import math
from dataclasses import dataclass, field, replace
from functools import lru_cache

from orexis.core.messages import tell
from orexis.core.theory import Pitch, Transposition
from orexis.errors import InstrumentError

SPEED_OF_SOUND_M_S = 345.0  # dry air at 23 C: 331.3 + 0.606 * 23
REFERENCE_C = 23.0  # a heated room, in which makers tune
CENTS_PER_DEGREE = 2.9  # 600 * log2(T) per kelvin near 296 K
# The air inside is warmed by breath: a colder room moves it by about half of its own degrees.
ROOM_SHARE = 0.5
TEMPERATURE_RANGE = (-5.0, 45.0)
CORRECTION_CENTS = 100.0  # a semitone: more is another partial
LONGEST_SLIDE_MM = 120.0  # longer than any slide that a hand moves while playing
MOST_PARTIALS = 24  # above it partials lie closer than lips can tell apart
MOST_LEARNED = 2000  # every note on every fingering, ten times over
MOST_PREFERRED = 128  # one for every key of MIDI


@dataclass(frozen=True, slots=True)
class Part:
    """One way in which a part for the instrument is written."""

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
    """Piston or rotary valves. `lowers` is what each does alone, in semitones; a fifth valve is a long whole step.

    `compensating` lets the last valve multiply instead of add.
    """

    count: int
    compensating: bool = False
    moving: tuple[MovingSlide, ...] = ()
    lowers: tuple[float, ...] = (2.0, 1.0, 3.0, 5.0)


@dataclass(frozen=True, slots=True)
class SlideValve:
    """A valve on a slide instrument: its name is the key that the open tube falls to."""

    name: str
    semitones: float


@dataclass(frozen=True, slots=True)
class HandSlide:
    """A trombone's slide: positions on the open tube, travel, and the valves behind it.

    With `dependent` the second valve speaks only through the first.
    """

    positions: int
    travel_m: float
    valves: tuple[SlideValve, ...] = ()
    dependent: bool = False


@dataclass(frozen=True, slots=True)
class Correction:
    """How far this instrument's partial departs from theory, in cents."""

    partial: int
    cents: float


@dataclass(frozen=True, slots=True)
class Learned:
    """How far this instrument departs from theory on one partial of one tube, in cents, as it was learned from takes."""

    fingering: str  # its label
    partial: int
    cents: float


@dataclass(frozen=True, slots=True)
class Preferred:
    """How this player takes a note (concert): on this tube (its label) and partial, whatever the charts say."""

    midi: int
    fingering: str
    partial: int


@dataclass(frozen=True, slots=True)
class Setup:
    """What is this player's own about an instrument. Corrections are cents added to theory, by partial; so is what was learned."""

    room_c: float = REFERENCE_C
    corrections: tuple[Correction, ...] = ()
    moving: tuple[MovingSlide, ...] | None = None  # None: those of the catalogue
    travel_m: float | None = None
    lowest: Pitch | None = None  # the player's own bottom and top, concert; None: those of the catalogue
    highest: Pitch | None = None
    # What the player says is comfortable today, concert: where work begins until the record knows better.
    comfortable_low: Pitch | None = None
    comfortable_high: Pitch | None = None
    learned: tuple[Learned, ...] = ()
    preferred: tuple[Preferred, ...] = ()
    shifts_at: Pitch | None = None  # the pedal that still needs a shift of the lips: no sets below it

    def correction(self, partial: int, fingering: str = "") -> float:
        """Cents by which this instrument departs from theory on a partial of a tube (its label), warmth included."""
        own = sum(item.cents for item in self.corrections if item.partial == partial)
        return own + _learned(self.learned).get((fingering, partial), 0.0) + warmth_cents(self.room_c)


@lru_cache(maxsize=64)
def _learned(items: tuple[Learned, ...]) -> dict[tuple[str, int], float]:
    return {(item.fingering, item.partial): item.cents for item in items}


def warmth_cents(room_c: float) -> float:
    """How far the instrument's pitch lies above that at 23 C once it is played in."""
    return CENTS_PER_DEGREE * ROOM_SHARE * (room_c - REFERENCE_C)


AS_BUILT = Setup()


@dataclass(frozen=True, slots=True)
class Instrument:
    """An instrument of the catalogue, or a player's own (`with_setup`)."""

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
    kind: str = "brass"  # trumpet, instrument, trombone, tuba: what it is counted among
    # On a double horn: from this concert note upwards the second side is taken first.
    second_side_from: Pitch | None = None
    # How much worse a flat way is than a sharp one when ways are ranked (a hand in the bell can lower, not raise).
    flat_weight: float = 1.0
    setup: Setup = AS_BUILT
    source: str = field(default="", compare=False)

    def __hash__(self) -> int:
        return hash(self.id)  # equal ones have the same, and it is asked often: paths and ways are cached by it

    @property
    def slides(self) -> bool:
        """Whether pitch is made by a hand slide."""
        return isinstance(self.mechanism, HandSlide)

    @property
    def middle_partial(self) -> int:
        """The partial in the comfortable middle of the range."""
        return 2 * self.slur_partial

    def part(self, part_id: str | None) -> Part:
        """The part by id, the first when None or unknown to this instrument."""
        return next((part for part in self.parts if part.id == part_id), self.parts[0])

    def side(self, name: str | None) -> Side:
        """The side by name, the first when None."""
        return next((side for side in self.sides if side.name == name), self.sides[0])

    def with_setup(self, setup: Setup) -> "Instrument":
        """The instrument as the player has it; InstrumentError for what cannot be."""
        _check_setup(setup)
        mechanism = self.mechanism
        if isinstance(mechanism, Valves) and setup.moving is not None:
            if any(not 1 <= slide.valve <= mechanism.count for slide in setup.moving):
                raise InstrumentError(
                    tell(
                        "{value} has {count} valves: a slide belongs to one of them.",
                        value=self.name,
                        count=mechanism.count,
                    )
                )
            mechanism = replace(mechanism, moving=setup.moving)
        if isinstance(mechanism, HandSlide) and setup.travel_m is not None:
            mechanism = replace(mechanism, travel_m=setup.travel_m)
        lowest, highest = setup.lowest or self.lowest, setup.highest or self.highest
        if not lowest.midi <= self.easy.midi < highest.midi:
            raise InstrumentError(
                tell(
                    "Your lowest and highest notes are {lowest} and {highest} (concert): they must lie on either side of {easy}, where long tones start.",
                    lowest=lowest.name,
                    highest=highest.name,
                    easy=self.easy.name,
                )
            )
        top = max(self.top_partial, min(MOST_PARTIALS, self._partial_at(highest)))
        return replace(self, mechanism=mechanism, setup=setup, lowest=lowest, highest=highest, top_partial=top)

    def _partial_at(self, pitch: Pitch) -> int:
        """The lowest partial of an open tube that reaches up to a note."""
        steps = min(pitch.midi - side.fundamental.midi for side in self.sides)
        return math.ceil(2.0 ** (steps / 12.0) - 0.02)


def _check_setup(setup: Setup) -> None:
    low, high = TEMPERATURE_RANGE
    if not low <= setup.room_c <= high:
        raise InstrumentError(
            tell("The room is {room_c:g} degrees: write {low:g} to {high:g}.", room_c=setup.room_c, low=low, high=high)
        )
    if any(abs(item.cents) > CORRECTION_CENTS or not 1 <= item.partial <= 32 for item in setup.corrections):
        raise InstrumentError(
            tell(
                "A partial departs by at most {correction_cents:g} cents; partials are counted 1 to 32.",
                correction_cents=CORRECTION_CENTS,
            )
        )
    if len(setup.learned) > MOST_LEARNED or any(abs(item.cents) > CORRECTION_CENTS for item in setup.learned):
        raise InstrumentError(
            tell(
                "What was learned of the instrument departs by more than {correction_cents:g} cents: give it back.",
                correction_cents=CORRECTION_CENTS,
            )
        )
    if len({item.midi for item in setup.preferred}) < len(setup.preferred) or len(setup.preferred) > MOST_PREFERRED:
        raise InstrumentError("One way is preferred for a note: take the other away.")
    if any(not 0 <= slide.travel_mm <= LONGEST_SLIDE_MM for slide in setup.moving or ()):
        raise InstrumentError(
            tell("A valve slide moves 0 to {longest_slide_mm:g} mm.", longest_slide_mm=LONGEST_SLIDE_MM)
        )
    low_note, high_note = setup.comfortable_low, setup.comfortable_high
    if low_note is not None and high_note is not None and low_note.midi > high_note.midi:
        raise InstrumentError(
            tell(
                "Comfortable from {low_note} up to {high_note} (concert): the lower note comes first.",
                low_note=low_note.name,
                high_note=high_note.name,
            )
        )
    if setup.travel_m is not None and not 0.3 <= setup.travel_m <= 1.2:
        raise InstrumentError(
            tell("The hand slide moves {travel_m:g} cm: write 30 to 120.", travel_m=100 * setup.travel_m)
        )


def open_length_m(side: Side) -> float:
    """Sounding length of the open tube: c / (2 f1)."""
    return SPEED_OF_SOUND_M_S / (2.0 * side.fundamental.frequency())
