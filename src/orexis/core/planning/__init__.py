"""The day and the weeks, from the record."""

from orexis.core.exercises import GoalKind
from orexis.core.planning.blocks import DayBlock, DayPlan, KeptBlock, day_series, planned_blocks
from orexis.core.planning.context import GoalRequest, PlanningContext
from orexis.core.planning.day import as_arranged, compose, instead
from orexis.core.planning.elsewhere import Effort, Elsewhere, loads_elsewhere
from orexis.core.planning.fitting import too_heavy
from orexis.core.planning.forecast import (
    Forecast,
    GoalHistory,
    days_before_forecast,
    forecast,
    goal_history_over,
    would_change,
)
from orexis.core.planning.frame import FEWEST_MINUTES, LEAST_FOR_SETS, MOST_MINUTES
from orexis.core.planning.goals import (
    BOUNDS,
    PRIOR_DAYS,
    GoalEvidence,
    GoalPosition,
    GoalTarget,
    days_for,
    exercise_type_of,
    goal_in_words,
    parse_target,
    place_of,
    why_never_worked_at,
    wish_of,
)
from orexis.core.planning.goals import checked as checked_target
from orexis.core.planning.history import (
    HEAVY_EXERCISE_TYPES,
    LOOKED_BACK,
    CheckIn,
    PracticeHistory,
    high_loads,
    middle_of,
    planning_context_of,
)
from orexis.core.planning.levels import ByHand, follow_days, with_set_by_hand
from orexis.core.planning.memory import ExerciseTypeDay, RecentPractice, TakeFact, with_take
from orexis.core.planning.phases import WeekPhase
from orexis.core.planning.replan import ReplannedSession, replan_rest
from orexis.core.planning.week import (
    LOAD_PER_MINUTE,
    DayKind,
    Days,
    PlannedDay,
    PlayingHistory,
    Week,
    bound_of,
    high_bound_of,
    monday,
    plan_week,
    week_load,
)

__all__ = [
    "BOUNDS",
    "FEWEST_MINUTES",
    "HEAVY_EXERCISE_TYPES",
    "LEAST_FOR_SETS",
    "LOAD_PER_MINUTE",
    "LOOKED_BACK",
    "MOST_MINUTES",
    "PRIOR_DAYS",
    "ByHand",
    "CheckIn",
    "DayBlock",
    "DayKind",
    "DayPlan",
    "Days",
    "Effort",
    "Elsewhere",
    "ExerciseTypeDay",
    "Forecast",
    "GoalEvidence",
    "GoalHistory",
    "GoalKind",
    "GoalPosition",
    "GoalRequest",
    "GoalTarget",
    "KeptBlock",
    "PlannedDay",
    "PlanningContext",
    "PlayingHistory",
    "PracticeHistory",
    "RecentPractice",
    "ReplannedSession",
    "TakeFact",
    "Week",
    "WeekPhase",
    "as_arranged",
    "bound_of",
    "checked_target",
    "compose",
    "day_series",
    "days_before_forecast",
    "days_for",
    "exercise_type_of",
    "follow_days",
    "forecast",
    "goal_history_over",
    "goal_in_words",
    "high_bound_of",
    "high_loads",
    "instead",
    "loads_elsewhere",
    "middle_of",
    "monday",
    "parse_target",
    "place_of",
    "plan_week",
    "planned_blocks",
    "planning_context_of",
    "replan_rest",
    "too_heavy",
    "week_load",
    "why_never_worked_at",
    "wish_of",
    "with_set_by_hand",
    "with_take",
    "would_change",
]
