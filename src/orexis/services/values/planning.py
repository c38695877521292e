"""Values that the pages Today and Plan show."""

from dataclasses import dataclass

from orexis.core.planning import DayPlan, GoalTarget, Week
from orexis.core.progress import Change


@dataclass(frozen=True, slots=True)
class OwnBlock:
    """A block of a day that a player arranged."""

    exercise_type: str
    minutes: float
    params: dict[str, str]


@dataclass(frozen=True, slots=True)
class OwnRoutine:
    """A day that a player arranged and kept."""

    id: str
    name: str
    blocks: tuple[OwnBlock, ...]


@dataclass(frozen=True, slots=True)
class PathShown:
    """An exercise type's path as steps in words, where the player stands on it, and what opens the next step."""

    exercise_type: str
    name: str
    step: int
    steps: tuple[str, ...]
    params: dict[str, str]  # of the present step
    opens: str
    change: Change | None
    comes_back: bool


@dataclass(frozen=True, slots=True)
class GoalShown:
    """A goal: where the player stands, what is left, when it will be reached, and what would change that."""

    id: str
    target: GoalTarget
    says: str
    exercise_type: str
    date: str
    state: str  # on, paused, given up, reached
    began: str
    ended: str | None
    now: str
    asked: str
    share: float  # of the way since it began, 0 to 1
    steps_left: int
    median: str | None
    low: str | None
    high: str | None
    otherwise: str | None  # what would let the date be met, where it is not
    missing_days: int = 0  # of practice, before a date can be told


@dataclass(frozen=True, slots=True)
class WeeksShown:
    """The weeks ahead and those played, and what the player can give."""

    today: int
    weeks: tuple[Week, ...]
    minutes: tuple[int, ...]
    performances: tuple[str, ...]
    moved: dict[str, int]
    warnings: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class DayShown:
    """A day as planned, with the instrument's names for its exercise types, and what could stand in the place of each block."""

    plan: DayPlan
    names: dict[str, str]
    instead: dict[str, tuple[str, ...]]
