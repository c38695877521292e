"""Where in the range of an instrument a note lies: *low* up to a tone over the easy note, *high* from a fourth over the comfortable
middle on.
"""

from enum import StrEnum

from orexis.core.instruments.fingering import Fingering
from orexis.core.instruments.instrument import Instrument
from orexis.core.instruments.neighbours import slot_of

_LOW_OVER_EASY, _HIGH_OVER_MIDDLE = 2, 5


class Register(StrEnum):
    """Where in the range a note lies."""

    LOW = "low"
    MIDDLE = "middle"
    HIGH = "high"


def register_of(midi: int, instrument: Instrument) -> Register:
    """Where a note lies on this instrument."""
    fingering = Fingering(position=1) if instrument.slides else Fingering(side=instrument.sides[0].name)
    if midi <= instrument.easy.midi + _LOW_OVER_EASY:
        return Register.LOW
    middle = slot_of(instrument, fingering, instrument.middle_partial).pitch.midi
    return Register.HIGH if midi >= middle + _HIGH_OVER_MIDDLE else Register.MIDDLE
