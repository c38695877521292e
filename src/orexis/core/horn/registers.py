"""Where in the range of an instrument a note lies: *low* up to a tone over the easy note, *high* from a fourth over the comfortable
middle on.
"""

from enum import StrEnum

from orexis.core.horn.instrument import Instrument
from orexis.core.horn.neighbours import slot_of
from orexis.core.horn.tube import Tube

_LOW_OVER_EASY, _HIGH_OVER_MIDDLE = 2, 5


class Register(StrEnum):
    """Where in the range a note lies."""

    LOW = "low"
    MIDDLE = "middle"
    HIGH = "high"


def register_of(midi: int, horn: Instrument) -> Register:
    """Where a note lies on this horn."""
    tube = Tube(position=1) if horn.slides else Tube(side=horn.sides[0].name)
    if midi <= horn.easy.midi + _LOW_OVER_EASY:
        return Register.LOW
    middle = slot_of(horn, tube, horn.middle_partial).pitch.midi
    return Register.HIGH if midi >= middle + _HIGH_OVER_MIDDLE else Register.MIDDLE
