"""Where a player stands: each exercise type's path of growth, and the rules by which one moves along it."""

from orexis.core.exercises import PathStep
from orexis.core.progress.earlier_levels import renumbered_level
from orexis.core.progress.paths import Path, path_of
from orexis.core.progress.standing import (
    NEW,
    Change,
    DayOnPath,
    MoveReason,
    PathPosition,
    after_a_pause,
    entered,
    moved,
    needed,
    opens,
    placed_by_hand,
    stands,
)

__all__ = [
    "NEW",
    "Change",
    "DayOnPath",
    "MoveReason",
    "Path",
    "PathPosition",
    "PathStep",
    "after_a_pause",
    "entered",
    "moved",
    "needed",
    "opens",
    "path_of",
    "placed_by_hand",
    "renumbered_level",
    "stands",
]
