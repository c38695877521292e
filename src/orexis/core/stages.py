"""How far a player is: the order of each limit's numbers, and from where on an exercise is offered."""

from enum import StrEnum


class Stage(StrEnum):
    """How far a player is."""

    STARTING = "starting"
    GROWING = "growing"
    SECURE = "secure"
    CONCERT = "concert"
