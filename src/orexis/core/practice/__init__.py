"""The session as a state machine."""

from orexis.core.practice.advising import warmth_takes
from orexis.core.practice.edge import NOTHING, Owned
from orexis.core.practice.ending import Ending
from orexis.core.practice.machine import opening, step
from orexis.core.practice.routine import Routine, check_series, free_routine, planned, routine_of, state_for
from orexis.core.practice.state import (
    BETWEEN_TAKES_S,
    LONGEST_REST_S,
    OPEN_PHASES,
    TIRED_LIPS,
    BlockPlan,
    CheckMark,
    Effect,
    EffectName,
    Event,
    EventName,
    Overruling,
    Phase,
    Rest,
    SessionState,
    Step,
    TakeMark,
    TakeResult,
)
from orexis.core.practice.time_left import Left, left_by, with_rest_of_day

__all__ = [
    "BETWEEN_TAKES_S",
    "LONGEST_REST_S",
    "NOTHING",
    "OPEN_PHASES",
    "TIRED_LIPS",
    "BlockPlan",
    "CheckMark",
    "Effect",
    "EffectName",
    "Ending",
    "Event",
    "EventName",
    "Left",
    "Overruling",
    "Owned",
    "Phase",
    "Rest",
    "Routine",
    "SessionState",
    "Step",
    "TakeMark",
    "TakeResult",
    "check_series",
    "free_routine",
    "left_by",
    "opening",
    "planned",
    "routine_of",
    "state_for",
    "step",
    "warmth_takes",
    "with_rest_of_day",
]
