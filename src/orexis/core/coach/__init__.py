"""Measures -> verdict -> what next."""

from orexis.core.coach.attempts import attempt_of
from orexis.core.coach.care import CAUTIONS, REPORTS, Care, caution_for
from orexis.core.coach.deciding import Advice, Situation, decide, pedal_sets, rest_after
from orexis.core.coach.endurance import BASELINE_AFTER_S, CHECK_EVERY_S, Endurance, Sign, endurance_of
from orexis.core.coach.ladder import Attempt, Range, Rung, lopsided, ranges_over, rungs, start_tomorrow, working_range
from orexis.core.coach.limits import STAGES, Limits, limits_of
from orexis.core.coach.load import load_of
from orexis.core.coach.reasons import CUES, NOT_HEARD, ORDER, THREE_QUESTIONS, Cue
from orexis.core.coach.schools import DEFAULTS, QUESTIONS, Question, checked_schools
from orexis.core.coach.sheet import Finding
from orexis.core.coach.verdict import OUTCOMES, Verdict, judge

__all__ = [
    "BASELINE_AFTER_S",
    "CAUTIONS",
    "CHECK_EVERY_S",
    "CUES",
    "DEFAULTS",
    "NOT_HEARD",
    "ORDER",
    "OUTCOMES",
    "QUESTIONS",
    "REPORTS",
    "STAGES",
    "THREE_QUESTIONS",
    "Advice",
    "Attempt",
    "Care",
    "Cue",
    "Endurance",
    "Finding",
    "Limits",
    "Question",
    "Range",
    "Rung",
    "Sign",
    "Situation",
    "Verdict",
    "attempt_of",
    "caution_for",
    "checked_schools",
    "decide",
    "endurance_of",
    "judge",
    "limits_of",
    "load_of",
    "lopsided",
    "pedal_sets",
    "ranges_over",
    "rest_after",
    "rungs",
    "start_tomorrow",
    "working_range",
]
