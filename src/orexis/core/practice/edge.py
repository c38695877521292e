"""Where a climb comes to the edge of what the player owns.

"One step past what you own, one try and one retry, once a session" holds at the edge only, and only where the edge is known:
(a) the player owns a working range of that kind, alone for single notes, joined for lines; (b) the climb really came through
it: at least two exercises inside the range were held on the way; (c) the exercise has a note beyond it. Otherwise a climb goes on
until the loss rules or the block's minutes end it: that is how a range becomes known.
"""

from dataclasses import dataclass

from orexis.core.coach import Range
from orexis.core.exercises import Exercise, Series

HELD_INSIDE = 2  # one good note may be luck
_UNKNOWN = Range(None, None)


@dataclass(frozen=True, slots=True)
class PlayerRange:
    """The player's working ranges of both kinds."""

    alone: Range = _UNKNOWN
    joined: Range = _UNKNOWN


NOTHING = PlayerRange()


def comfort_of(series: Series, in_range: PlayerRange) -> int | None:
    """Index of the last exercise inside the range before one that goes beyond it; None where the edge is not known."""
    if not series.advance.has_edge:
        return None
    joined = any(len({note.pitch.midi for note in exercise.notes}) > 1 for exercise in series.exercises)
    own = in_range.joined if joined else in_range.alone
    if own.low is None or own.high is None:
        return None
    low, high = own.low, own.high
    inside = [_inside(exercise, low, high) for exercise in series.exercises[series.first :]]
    if inside.count(True) < HELD_INSIDE or all(inside):
        return None
    # From the first exercise inside on, the climb meets its edge where one is not.
    begins = inside.index(True)
    if False not in inside[begins:]:
        return None
    last = begins + inside[begins:].index(False) - 1
    return series.first + last if last + 1 - begins >= HELD_INSIDE else None


def came_through(held: set[int], comfort: int) -> bool:
    """Whether enough exercises inside the range were held on the way. `held`: indices held in this block."""
    return sum(index <= comfort for index in held) >= HELD_INSIDE


def _inside(exercise: Exercise, low: int, high: int) -> bool:
    midis = [note.pitch.midi for note in exercise.notes]
    return low <= min(midis) and max(midis) <= high
