"""Levels by the numbers of earlier releases, when some exercises had more and narrower ones.

Notes count the share of the way that was reached: level 46 of 91 became level 13 of 25.
"""

from orexis.core.exercises.build import middle_note
from orexis.core.instruments import Instrument
from orexis.core.progress.paths import path_of


def renumbered_level(exercise_type: str, instrument: Instrument, level: int) -> int:
    """Return today's number of a level of an earlier release; exercises whose levels stayed keep theirs. Counted from 0."""
    before = _levels_before(exercise_type, instrument)
    path = path_of(exercise_type, instrument)
    if before is None or path is None:
        return level
    last = len(path.steps) - 1
    return min(last, round(level * last / max(1, before - 1)))


def _levels_before(exercise_type: str, instrument: Instrument) -> int | None:
    """How many levels it had; None where that has not changed."""
    middle, lowest, top = middle_note(instrument).midi, instrument.lowest.midi, instrument.top_partial
    match exercise_type:
        case "interval-stairs":
            return 2 * sum(middle - down - notes + 1 >= lowest for down in range(12) for notes in (5, 6, 7, 8))
        case "lip-trill":
            low = max(4, 2 * instrument.slur_partial)
            return 31 * len(range(low, min(low + 3, top)))
        case "two-partial-slur":
            return 1 + 4 * len(range(instrument.slur_partial, min(instrument.slur_partial + 6, top)))
        case "one-octave-scale":
            return max(1, instrument.highest.midi - 12 - instrument.easy.midi)
        case "falling-scale":
            return max(1, middle - 12 - lowest + 1)
    return None
