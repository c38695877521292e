"""What rehearsed weeks leave: days, blocks, weeks, goals, and what is counted of them."""

from dataclasses import dataclass, field
from enum import StrEnum

from orexis.core.coach import Freshness, Lips, Range
from orexis.core.planning import DayBlock, DayKind, Forecast, GoalTarget
from orexis.core.progress import PathPosition
from orexis.core.rehearsal.learner import Learner

_NOTHING = Range(None, None)


class Planner(StrEnum):
    """Who plans the days: the record, or the fixed routine of thirty minutes."""

    RECORD = "record"
    FIXED = "fixed"


class FirstWeek(StrEnum):
    """What is played in the first week: what later weeks are planned from must not hang on it."""

    FULL = "full"
    TWO_DAYS = "two days"
    TEN_MINUTES = "ten minutes"
    ONE_EXERCISE = "one exercise"

    def minutes(self, weekday: int, given: int) -> int:
        """Minutes on a day of it, Monday 0."""
        match self:
            case FirstWeek.TWO_DAYS:
                return given if weekday < 2 else 0
            case FirstWeek.TEN_MINUTES:
                return 10 if weekday == 4 else 0
            case FirstWeek.ONE_EXERCISE:
                return 10 if weekday == 0 else 0
        return given


@dataclass(slots=True)
class BlockPlayed:
    """A block as it went. `ended`: why."""

    block: DayBlock
    spare: bool = False
    takes: int = 0
    clean: int = 0
    load: float = 0.0
    used_s: float = 0.0  # of the clock: takes and rests
    ended: str = "not reached"


@dataclass(slots=True)
class RehearsedDay:
    """A rehearsed day as it went."""

    day: int
    kind: DayKind
    minutes: int
    target: float | None
    load: float = 0.0
    playing_s: float = 0.0
    lips: Lips = Lips.FRESH
    endurance: Freshness = Freshness.FRESH
    blocks: list[BlockPlayed] = field(default_factory=list)
    planned_minutes: float = 0.0  # of all blocks, as the day began
    alone: Range = _NOTHING
    joined: Range = _NOTHING
    minutes_to_tiring: float | None = None
    clock_s: float = 0.0  # takes, what lies between them, rests
    in_time_s: float = 0.0  # of it, takes in time with the bars of rest after each
    in_time_tone_s: float = 0.0
    high_when_spent: int = 0  # takes of heavy work after a check note said spent


@dataclass(frozen=True, slots=True)
class RehearsedWeek:
    """A week: what was planned, the bound, and what was played."""

    start: int
    bound: float
    target: float
    load: float


@dataclass(slots=True)
class RehearsedGoal:
    """A goal with its forecasts, one a week, and the day on which it was reached."""

    target: GoalTarget
    date: int
    forecasts: list[tuple[int, Forecast]] = field(default_factory=list)
    positions: list[float] = field(default_factory=list)
    reached: int | None = None


@dataclass(slots=True)
class Rehearsal:
    """All that happened in rehearsed weeks."""

    who: Learner
    days: list[RehearsedDay]
    weeks: list[RehearsedWeek]
    goals: list[RehearsedGoal]
    standings: dict[str, PathPosition]
    path_days: dict[
        str, list[tuple[int, int, bool, int, int]]
    ]  # day, step (-1: not on the path), held, standing before and after
    met: dict[int, list[int]]  # notes in range: days on which they were tried
    in_range_on: dict[int, list[int]]  # and the days on which they were in range
    sets_by_day: dict[int, tuple[int, int]]  # pedal sets asked for and allowed
