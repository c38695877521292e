"""Weeks of planned and simulated practice at measure level: what the rules make of players of known kinds."""

from orexis.core.rehearsal.learner import KINDS, Learner, LearnerKind, learner
from orexis.core.rehearsal.measured import flawless, measured
from orexis.core.rehearsal.weeks import Planner, Rehearsal, rehearse

__all__ = [
    "KINDS",
    "Learner",
    "LearnerKind",
    "Planner",
    "Rehearsal",
    "flawless",
    "learner",
    "measured",
    "rehearse",
]
