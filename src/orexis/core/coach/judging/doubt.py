"""What only echoes may have made is not held against anybody.

A room that rings is taken out of the sound for a second look (`core/room`). What stands in both, at the same note, is the player's;
what is found beside the echoes alone is left open: not measured there, and said so. This holds for what echoes bring about
(`Reason.echoes_do_it`); how notes begin and break is looked at without them in the first place.
"""

from collections.abc import Iterable, Sequence

from orexis.core.coach.judging.sheet import Finding
from orexis.core.coach.judging.table import REASONS

# The same fault, told from another side: a note that is not what was asked; a line that is broken or dips.
_ALIKE = (frozenset({"missing", "wrong-partial", "wrong-note"}), frozenset({"gap", "bump"}))
_SAME_TIME_S = 0.3


def in_doubt(found: Iterable[Finding]) -> bool:
    """Whether a second look is worth its cost."""
    return any(REASONS[item.reason].echoes_do_it for item in found)


def parted(found: Sequence[Finding], beside: Sequence[Finding]) -> tuple[tuple[Finding, ...], tuple[Finding, ...]]:
    """The findings that stand, and those that are left open. `beside`: what was found without the echoes."""
    stand = tuple(item for item in found if not REASONS[item.reason].echoes_do_it or _stands_in(item, beside))
    return stand, tuple(item for item in found if item not in stand)


def _stands_in(finding: Finding, beside: Iterable[Finding]) -> bool:
    if finding.reason == "extra":
        return any(other.reason == "extra" and _at_once(finding, other) for other in beside)
    same = next((alike for alike in _ALIKE if finding.reason in alike), {finding.reason})
    return any(other.reason in same and other.note == finding.note for other in beside)


def _at_once(one: Finding, other: Finding) -> bool:
    return one.at_s is not None and other.at_s is not None and abs(one.at_s - other.at_s) < _SAME_TIME_S


def in_words(left_open: Iterable[Finding]) -> str:
    """“Left open: a slot touched, the sag. Heard with this room's echoes, and not without them.”"""
    labels = ", ".join(dict.fromkeys(REASONS[item.reason].label for item in left_open))
    return f"Left open: {labels}. Heard with this room's echoes, and not without them."
