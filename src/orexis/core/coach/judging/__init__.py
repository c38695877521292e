"""What is judged: one declaration for each thing, and the tables made from them."""

from orexis.core.coach.judging.confirmation import (
    describe_left_open,
    faults_told_again,
    has_doubtful,
    split_by_confirmation,
)
from orexis.core.coach.judging.context import Fault, JudgingContext, Limits
from orexis.core.coach.judging.criterion import (
    About,
    Column,
    Criterion,
    Cue,
    FaultType,
    Limit,
    TrendMeasure,
    TrendSource,
)
from orexis.core.coach.judging.find_faults import find_faults, remove_faults_of_breaths
from orexis.core.coach.judging.table import (
    COLUMNS,
    JUDGED,
    LIMITS,
    NOT_HEARD,
    ORDER,
    REASONS,
    STANDARDS,
    THREE_QUESTIONS,
    ReasonId,
    cue_for,
    limits_of,
)
from orexis.core.standards import Standard, standard_named

__all__ = [
    "COLUMNS",
    "JUDGED",
    "LIMITS",
    "NOT_HEARD",
    "ORDER",
    "REASONS",
    "STANDARDS",
    "THREE_QUESTIONS",
    "About",
    "Column",
    "Criterion",
    "Cue",
    "Fault",
    "FaultType",
    "JudgingContext",
    "Limit",
    "Limits",
    "ReasonId",
    "Standard",
    "TrendMeasure",
    "TrendSource",
    "cue_for",
    "describe_left_open",
    "faults_told_again",
    "find_faults",
    "has_doubtful",
    "limits_of",
    "remove_faults_of_breaths",
    "split_by_confirmation",
    "standard_named",
]
