"""The weeks around a performance: less load in the seven days before it and in the five after it.

Only a performance with none in the two weeks before it is prepared for in this way: who plays every weekend practises as usual.
Days are ordinal dates.
"""

from collections.abc import Collection
from enum import StrEnum

BEFORE_DAYS, BEFORE_SHARE = 7, 0.75  # lips are fresh on the day, and nothing is lost in a week
AFTER_DAYS, AFTER_SHARE = 5, 0.85
_APART_DAYS = 14


class WeekPhase(StrEnum):
    """What a week is for, as seen from the performances."""

    USUAL = "usual"
    BEFORE = "before a performance"
    PERFORMANCE = "performance"
    AFTER = "after a performance"


def prepared_for(performances: Collection[int]) -> frozenset[int]:
    """Those performances that weeks are planned towards."""
    days = sorted(performances)
    return frozenset(day for day in days if not any(day - _APART_DAYS <= other < day for other in days))


def load_share(day: int, performances: Collection[int]) -> float:
    """How much of its usual load a day brings. `performances`: those that are prepared for."""
    if any(day <= on <= day + BEFORE_DAYS for on in performances):
        return BEFORE_SHARE
    return AFTER_SHARE if any(day - AFTER_DAYS <= on < day for on in performances) else 1.0


def phase_of(start: int, performances: Collection[int]) -> WeekPhase:
    """What the week that starts on a Monday is for. `performances`: those that are prepared for."""
    shares = [load_share(day, performances) for day in range(start, start + 7)]
    if any(start <= on < start + 7 for on in performances):
        return WeekPhase.PERFORMANCE
    if shares.count(BEFORE_SHARE) > 1:
        return WeekPhase.BEFORE
    return WeekPhase.AFTER if shares.count(AFTER_SHARE) > 1 else WeekPhase.USUAL
