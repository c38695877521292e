"""What is judged: one declaration for each thing, and the tables made from them."""

from orexis.core.coach.judging.declare import About, Column, Cue, Followed, Judged, Limit, Reason, TrendMeasure
from orexis.core.coach.judging.doubt import found_again, in_doubt, in_words, parted
from orexis.core.coach.judging.looking import looked_over, without_what_breaths_cost
from orexis.core.coach.judging.sheet import Finding, Limits, Sheet
from orexis.core.coach.judging.table import (
    COLUMNS,
    JUDGED,
    LIMITS,
    NOT_HEARD,
    ORDER,
    REASONS,
    STAGES,
    THREE_QUESTIONS,
    ReasonId,
    cue_for,
    limits_of,
)
from orexis.core.stages import Stage

__all__ = [
    "COLUMNS",
    "JUDGED",
    "LIMITS",
    "NOT_HEARD",
    "ORDER",
    "REASONS",
    "STAGES",
    "THREE_QUESTIONS",
    "About",
    "Column",
    "Cue",
    "Finding",
    "Followed",
    "Judged",
    "Limit",
    "Limits",
    "Reason",
    "ReasonId",
    "Sheet",
    "Stage",
    "TrendMeasure",
    "cue_for",
    "found_again",
    "in_doubt",
    "in_words",
    "limits_of",
    "looked_over",
    "parted",
    "without_what_breaths_cost",
]
