"""What only echoes may have made is not held against anybody.

A room that rings is taken out of the sound for a second look (`core/room`). What stands in both, at the same note, is the player's;
what is found beside the echoes alone is left open: not measured there, and said so. Each reason's declaration says whether echoes can
bring it about, and how it is confirmed without them (`Reason.echoes`, `echoes.py`); how notes begin and break is looked at without
them in the first place.
"""

from collections.abc import Iterable, Sequence

from orexis.core.coach.judging.context import Fault
from orexis.core.coach.judging.criterion import FaultKind
from orexis.core.coach.judging.table import REASONS
from orexis.core.exercises import Exercise
from orexis.core.measures import Measures
from orexis.core.messages import tell


def has_doubtful(faults: Iterable[Fault]) -> bool:
    """Whether a second look is worth its cost."""
    return any(REASONS[item.reason].echoes is not None for item in faults)


def split_by_confirmation(
    faults: Sequence[Fault], measures: Measures, exercise: Exercise, beside: Sequence[Fault]
) -> tuple[tuple[Fault, ...], tuple[Fault, ...]]:
    """The findings of `measures` that stand, and those left open. `beside`: what was found without the echoes."""
    stand = tuple(item for item in faults if _stands(item, measures, exercise, beside))
    return stand, tuple(item for item in faults if item not in stand)


def faults_told_again(left_open: Sequence[Fault], beside: Sequence[Fault]) -> tuple[Fault, ...]:
    """What is to be said of a note that was missed with the echoes and is there without them: how it began, where it lay."""
    there = {item.note for item in left_open if REASONS[item.reason].kind == FaultKind.ABSENT}
    return tuple(item for item in beside if item.note in there and REASONS[item.reason].told_again)


def _stands(finding: Fault, measures: Measures, exercise: Exercise, beside: Sequence[Fault]) -> bool:
    confirm = REASONS[finding.reason].echoes
    return confirm is None or confirm(finding, measures, exercise, beside)


def describe_left_open(left_open: Iterable[Fault]) -> str:
    """“Left open: a slot touched, the sag. Heard with this room's echoes, and not without them.”"""
    labels = ", ".join(dict.fromkeys(REASONS[item.reason].label for item in left_open))
    return tell("Not counted: {labels}. It may have been the room’s echo.", labels=labels)
