"""How far a player is: the order of each limit's numbers, and from where on an exercise is offered."""

from enum import StrEnum

from orexis.core.earlier_names import STANDARDS as EARLIER
from orexis.core.messages import tell
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
        raise InputError(
            tell("There is no level “{name}”: choose {standard}.", name=name[:30], standard=", ".join(Standard))
        ) from None
