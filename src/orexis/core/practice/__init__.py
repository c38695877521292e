"""The session as a state machine."""

from orexis.core.practice.advising import warmth_takes
from orexis.core.practice.edge import NOTHING, PlayerRange
from orexis.core.practice.ending import Ending
from orexis.core.practice.events import (
    Effect,
    EffectName,
    Event,
    EventName,
    TakeResult,
)
from orexis.core.practice.in_time import BETWEEN_TAKES_S, MOST_REST_BARS, Bars, gap_after, keeps_time
from orexis.core.practice.machine import opening, step
from orexis.core.practice.routine import Routine, check_series, free_routine, planned, routine_of, state_for
from orexis.core.practice.state import (
    LIPS_SAID,
    LONGEST_REST_S,
    OPEN_PHASES,
    TIRED_LIPS,
    BlockPlan,
    CheckMark,
    Overruling,
    Phase,
    Rest,
    SessionState,
    Step,
    TakeMark,
    usual_spent_s,
)
from orexis.core.practice.time_left import TimeLeft, left_by, loosening_due, with_rest_of_day

__all__ = [
    "BETWEEN_TAKES_S",
    "LIPS_SAID",
    "LONGEST_REST_S",
    "MOST_REST_BARS",
    "NOTHING",
    "OPEN_PHASES",
    "TIRED_LIPS",
    "Bars",
    "BlockPlan",
    "CheckMark",
    "Effect",
    "EffectName",
    "Ending",
    "Event",
    "EventName",
    "Overruling",
    "Phase",
    "PlayerRange",
    "Rest",
    "Routine",
    "SessionState",
    "Step",
    "TakeMark",
    "TakeResult",
    "TimeLeft",
    "check_series",
    "free_routine",
    "gap_after",
    "keeps_time",
    "left_by",
    "loosening_due",
    "opening",
    "planned",
    "routine_of",
    "state_for",
    "step",
    "usual_spent_s",
    "warmth_takes",
    "with_rest_of_day",
]
