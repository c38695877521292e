"""Weeks of planned and simulated practice at measure level: what the rules make of players of known kinds."""

from orexis.core.rehearsal.learner import KINDS, Learner, LearnerKind, learner
from orexis.core.rehearsal.measured import flawless, measured
from orexis.core.rehearsal.telling import as_json
from orexis.core.rehearsal.values import FirstWeek, Planner, Rehearsal
from orexis.core.rehearsal.weeks import FIRST_DAY, rehearse

__all__ = [
    "FIRST_DAY",
    "KINDS",
    "FirstWeek",
    "Learner",
    "LearnerKind",
    "Planner",
    "Rehearsal",
    "as_json",
    "flawless",
    "learner",
    "measured",
    "rehearse",
]
