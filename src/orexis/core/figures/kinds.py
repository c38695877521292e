"""The words with meaning that figures, families and sessions share. Each is its own text in JSON."""

from enum import StrEnum


class Medium(StrEnum):
    """What sounds."""

    HORN = "horn"
    MOUTHPIECE = "mouthpiece"
    AIR = "air"


class Load(StrEnum):
    """How heavy a family is on the lips."""

    EASY = "easy"
    MEDIUM = "medium"
    HIGH = "high"


class Advance(StrEnum):
    """How one goes on inside a series: one after another, rung by rung, or in sets with rests between."""

    IN_ORDER = "in-order"
    CLIMB = "climb"
    SETS = "sets"


class Form(StrEnum):
    """The form in which a figure is tried."""

    AS_WRITTEN = "as written"
    SLOWER = "slower"
    SHORTER = "shorter"


class Loudness(StrEnum):
    """What is asked of loudness going up."""

    GROW = "grow"
    EVEN = "even"
    EASE = "ease"


class Place(StrEnum):
    """Where in the day a family stands, in order."""

    BREATH = "breath"
    BUZZ = "buzz"
    TONES = "tones"
    SLURS = "slurs"
    CENTRE = "centre"
    REGISTER = "register"
    LOW = "low"
    MUSIC = "music"
    CHECK = "check"
