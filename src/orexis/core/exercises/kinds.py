"""The words with meaning that exercises, exercise types and sessions share. Each is its own text in JSON."""

from enum import StrEnum


class Medium(StrEnum):
    """What makes the sound: instrument, mouthpiece or breath."""

    INSTRUMENT = "instrument"
    MOUTHPIECE = "mouthpiece"
    AIR = "air"


class Load(StrEnum):
    """How heavy an exercise type is on the lips."""

    EASY = "easy"
    MEDIUM = "medium"
    HIGH = "high"


class Advance(StrEnum):
    """How one goes on inside a series: one after another, in sets with rests between, or by notes of some kind.

    A climb goes on by what holds; pairs widen; what falls goes lower; in a fan each glide is a note; triads to the limit
    take turns with their low note.
    """

    IN_ORDER = "in-order"
    CLIMB = "climb"
    PAIRS = "pairs"
    FALLING = "falling"
    FAN = "fan"
    LIMIT = "limit"
    SETS = "sets"

    @property
    def by_notes(self) -> bool:
        """Whether an exercise is a note: its misses are counted in whatever form it was tried, and the next asks for it."""
        return self not in (Advance.IN_ORDER, Advance.SETS)

    @property
    def has_edge(self) -> bool:
        """Whether it stops one step past what the player owns, where that is known."""
        return self in (Advance.CLIMB, Advance.PAIRS)


class Form(StrEnum):
    """The form in which an exercise is tried."""

    AS_WRITTEN = "as written"
    SLOWER = "slower"
    SHORTER = "shorter"


class Loudness(StrEnum):
    """What is asked of loudness going up."""

    GROW = "grow"
    EVEN = "even"
    EASE = "ease"


class Articulation(StrEnum):
    """How much of its written length a tongued note is to last; None of these: as the standard asks."""

    FULL = "full"
    PORTATO = "portato"
    SHORT = "short"


class Accompanied(StrEnum):
    """What sounds while a line is played."""

    NOTHING = "nothing"
    DRONE = "a drone"
    CHORDS = "chords"
    SECOND_PART = "a second part"


class Role(StrEnum):
    """What the rules of the day call for by its role, whichever exercise has it."""

    SINGLE_NOTES = "single notes"  # climbs note by note, up and down
    NOTES_IN_LINE = "notes in a line"
    LOW_NOTES = "low notes"  # long tones that keep the low side


class GoalKind(StrEnum):
    """What a goal can be about."""

    OWN = "own"
    HOLD = "hold"
    SLUR = "slur"
    TRILL = "trill"
    PEDALS = "pedals"
    CENTRE = "centre"
    MINUTES = "minutes"


class DayPlace(StrEnum):
    """Where in the day an exercise type stands, in order."""

    BREATH = "breath"
    BUZZ = "buzz"
    TONES = "tones"
    SLURS = "slurs"
    CENTRE = "centre"
    REGISTER = "register"
    LOW = "low"
    MUSIC = "music"
    CHECK = "check"
