"""Measures -> verdict."""

from orexis.core.coach.limits import STAGES, Limits, limits_of
from orexis.core.coach.reasons import CUES, ORDER, Cue
from orexis.core.coach.verdict import OUTCOMES, Finding, Verdict, judge

__all__ = ["CUES", "ORDER", "OUTCOMES", "STAGES", "Cue", "Finding", "Limits", "Verdict", "judge", "limits_of"]
