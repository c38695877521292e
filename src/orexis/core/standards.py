"""How far a player is: the order of each limit's numbers, and from where on an exercise is offered."""

from enum import StrEnum

from orexis.core.earlier_names import STANDARDS as EARLIER
from orexis.errors import InputError


class Standard(StrEnum):
    """The player's level: how exact a clean take must be."""

    BEGINNER = "beginner"
    DEVELOPING = "developing"
    ADVANCED = "advanced"
    PROFESSIONAL = "professional"


def standard_named(name: str) -> Standard:
    """The standard of this name, or of its name in earlier releases ("growing"); InputError names what there is."""
    try:
        return Standard(EARLIER.get(name, name))
    except ValueError:
        raise InputError(f"There is no level “{name[:30]}”: choose {', '.join(Standard)}.") from None
