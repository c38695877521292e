"""What only echoes may have made is not held against anybody.

A room that rings is taken out of the sound for a second look (`core/room`). What stands in both, at the same note, is the player's;
what is found beside the echoes alone is left open: not measured there, and said so. This holds for what echoes bring about
(`Reason.echoes_do_it`); how notes begin and break is looked at without them in the first place. Echoes make no silence: a
note that is missing where nothing sounds is missing.
"""

from collections.abc import Iterable, Sequence

from orexis.core.coach.judging.sheet import Finding
from orexis.core.coach.judging.table import REASONS
from orexis.core.figures import Figure
from orexis.core.measures import Measures

# The same fault, told from another side: a note that is not what was asked; a line that is broken or dips.
_ALIKE = (frozenset({"missing", "wrong-partial", "wrong-note"}), frozenset({"gap", "bump"}))
# A pitch that is off lies, without the echoes, in this note or in one that it was parted from elsewhere.
_OFF = frozenset({"centre", "sag"})
_OFF_BESIDE = _OFF | {"caught", "wrong-partial", "wrong-note"}
_OF_ONE_NOTE = _OFF | {"entry"}
# Said of the take as a whole; their place is only where they show most.
_OF_THE_WHOLE = frozenset(
    {
        "count",
        "siren-break",
        "siren-jump",
        "siren-range",
        "breath-inside",
        "two-ways",
        "trill",
        "pulse",
        "timing",
        "loudness",
    }
)
_SAME_TIME_S = 0.3
_SOUNDS = 0.25  # share of a missing note's time in which another may sound
_LONG_S = 0.25  # shorter notes are run into each other by echoes


def in_doubt(found: Iterable[Finding]) -> bool:
    """Whether a second look is worth its cost."""
    return any(REASONS[item.reason].echoes_do_it for item in found)


def parted(
    found: Sequence[Finding], measures: Measures, figure: Figure, beside: Sequence[Finding]
) -> tuple[tuple[Finding, ...], tuple[Finding, ...]]:
    """The findings of `measures` that stand, and those left open. `beside`: what was found without the echoes."""
    stand = tuple(item for item in found if _stands(item, measures, figure, beside))
    return stand, tuple(item for item in found if item not in stand)


def found_again(left_open: Sequence[Finding], beside: Sequence[Finding]) -> tuple[Finding, ...]:
    """What is to be said of a note that was missed with the echoes and is there without them: how it began, where it lay."""
    there = {item.note for item in left_open if item.reason == "missing"}
    return tuple(item for item in beside if item.note in there and item.reason in _OF_ONE_NOTE)


def _stands(finding: Finding, measures: Measures, figure: Figure, beside: Sequence[Finding]) -> bool:
    if not REASONS[finding.reason].echoes_do_it:
        return True
    if finding.reason == "missing" and _nothing_sounds(finding, measures, figure):
        return True
    if finding.reason == "caught" and _touched_without_echoes(finding, measures):
        return True
    if finding.reason == "extra":
        return any(other.reason == "extra" and _at_once(finding, other) for other in beside)
    if finding.reason in _OFF:
        near = _neighbours(finding.note, measures)
        return any(other.reason in _OFF_BESIDE and other.note in near for other in beside)
    same = next((alike for alike in _ALIKE if finding.reason in alike), {finding.reason})
    whole = finding.reason in _OF_THE_WHOLE
    return any(other.reason in same and (whole or other.note == finding.note) for other in beside)


def _nothing_sounds(missing: Finding, measures: Measures, figure: Figure) -> bool:
    """Whether most of a note's time is silent."""
    written = next((note for note in figure.notes if note.id == missing.note), None)
    if written is None or missing.at_s is None:
        return False
    begin, end = missing.at_s, missing.at_s + written.beats * figure.beat_s
    spans = [(note.onset_s, note.release_s) for note in measures.notes]
    sounds = sum(max(0.0, min(b, end) - max(a, begin)) for a, b in spans if a is not None and b is not None)
    return end - begin >= _LONG_S and sounds < _SOUNDS * (end - begin)


def _touched_without_echoes(caught: Finding, measures: Measures) -> bool:
    """Whether this touch was found in the sound without the room in the first place."""
    return any(
        touch.without_echoes and touch.start_s == caught.at_s for move in measures.moves for touch in move.caught
    )


def _neighbours(note: str | None, measures: Measures) -> set[str | None]:
    """The note itself and those on either side of it."""
    order = [row.target for row in measures.notes if row.target is not None]
    if note not in order:
        return {note}
    place = order.index(note)
    return set(order[max(0, place - 1) : place + 2])


def _at_once(one: Finding, other: Finding) -> bool:
    return one.at_s is not None and other.at_s is not None and abs(one.at_s - other.at_s) < _SAME_TIME_S


def in_words(left_open: Iterable[Finding]) -> str:
    """“Left open: a slot touched, the sag. Heard with this room's echoes, and not without them.”"""
    labels = ", ".join(dict.fromkeys(REASONS[item.reason].label for item in left_open))
    return f"Left open: {labels}. Heard with this room's echoes, and not without them."
