"""The session as a state machine, and the built-in routines."""

from orexis.core.practice.advising import warmth_takes
from orexis.core.practice.edge import Owned
from orexis.core.practice.ending import Ending
from orexis.core.practice.machine import opening, step
from orexis.core.practice.routine import ROUTINES, Routine, check_series, planned, routine_for, state_for
from orexis.core.practice.state import (
    OPEN_PHASES,
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

__all__ = [
    "OPEN_PHASES",
    "ROUTINES",
    "BlockPlan",
    "CheckMark",
    "Effect",
    "EffectName",
    "Ending",
    "Event",
    "EventName",
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
    "opening",
    "planned",
    "routine_for",
    "state_for",
    "step",
    "warmth_takes",
]
