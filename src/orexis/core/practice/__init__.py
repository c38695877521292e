"""The session as a state machine, and the built-in routines."""

from orexis.core.practice.after_take import warmth_takes
from orexis.core.practice.ending import Ending
from orexis.core.practice.machine import opening, step
from orexis.core.practice.routine import (
    LIPS,
    ROUTINES,
    Routine,
    check_series,
    planned,
    routine_for,
    school_params,
    state_for,
)
from orexis.core.practice.state import (
    FORMS,
    PHASES,
    BlockPlan,
    CheckMark,
    Effect,
    Event,
    Heard,
    Overruling,
    Rest,
    SessionState,
    Step,
    TakeMark,
)

__all__ = [
    "FORMS",
    "LIPS",
    "PHASES",
    "ROUTINES",
    "BlockPlan",
    "CheckMark",
    "Effect",
    "Ending",
    "Event",
    "Heard",
    "Overruling",
    "Rest",
    "Routine",
    "SessionState",
    "Step",
    "TakeMark",
    "check_series",
    "opening",
    "planned",
    "routine_for",
    "school_params",
    "state_for",
    "step",
    "warmth_takes",
]
