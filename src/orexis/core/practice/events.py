"""What happens to a session, and what is to be done outside because of it, as values."""

from dataclasses import dataclass
from enum import StrEnum

from orexis.core.coach import Freshness, Outcome
from orexis.core.practice.in_time import Bars


class EventName(StrEnum):
    """What can happen to a session."""

    BEGIN = "begin"
    COUNTED_IN = "counted-in"
    ENDED = "ended"
    JUDGED = "judged"
    DROP = "drop"
    GO_ON = "go-on"
    AGAIN = "again"
    NEXT = "next"
    BACK = "back"
    EASIER = "easier"
    HARDER = "harder"
    SKIP = "skip"
    PAUSE = "pause"
    RESUME = "resume"
    REST_OVER = "rest-over"
    PLAYED = "played"
    REPORT = "report"
    STOP = "stop"


class EffectName(StrEnum):
    """What is to be done outside after a step; carried out in one place, by whoever keeps the takes."""

    OPEN_TAKE = "open-take"
    CLOSE_TAKE = "close-take"
    DROP_TAKE = "drop-take"
    ERASE_TAKE = "erase-take"


@dataclass(frozen=True, slots=True)
class TakeResult:
    """What a judged take brings to the session."""

    outcome: Outcome
    reason: str | None = None
    playing_s: float = 0.0
    take_s: float = 0.0
    load: float = 0.0
    bars: Bars | None = None  # where it was practised in time
    endurance: Freshness | None = None
    signs: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Event:
    """What happened: with a take's key, what a judged take brought, seconds of playing, the word reported."""

    name: EventName
    take_key: str | None = None
    result: TakeResult | None = None
    seconds: float = 0.0
    word: str | None = None


@dataclass(frozen=True, slots=True)
class Effect:
    """What is to be done outside, with which take."""

    name: EffectName
    take_key: str
