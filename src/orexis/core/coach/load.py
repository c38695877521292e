"""Load: playing time weighted by height and loudness, in seconds of middle, usual playing.

load = sum over notes of hold * w_height * w_level, w_height = 2^(semitones over the middle / 12), w_level =
2^((level - usual level) / 12 dB), both within 0.5 to 4. A failed attempt in the top third of the range adds 3 s at its
height.
"""

import math

from orexis.core.measures import Measures

_LEAST, _MOST = 0.5, 4.0
_FAILED_S = 3.0  # the effort of a note that did not speak, in seconds of that note
USUAL_DB = -23.0  # a usual mf at a microphone on the stand, until the player's own is known


def weight(hz: float, middle_hz: float, level_db: float | None, usual_db: float = USUAL_DB) -> float:
    """Return the weight of a second of tone: height times loudness, each between 0.5 and 4."""
    octaves = 0.0 if level_db is None else (level_db - usual_db) / 12.0
    loud = 2.0 ** min(math.log2(_MOST), max(math.log2(_LEAST), octaves))
    return _within(hz / middle_hz) * loud


def _within(value: float) -> float:
    return min(_MOST, max(_LEAST, value))


def load_of(
    measures: Measures, *, middle_hz: float, top_hz: float, usual_db: float = USUAL_DB, failed: bool = False
) -> float:
    """The load of a take, in seconds."""
    total = 0.0
    for note in measures.notes:
        if note.f0_hz and note.hold_s:
            total += note.hold_s * weight(note.f0_hz, middle_hz, note.level_db, usual_db)
    asked = [note.written_hz for note in measures.notes if note.written_hz]
    third = math.exp(math.log(middle_hz) + 2.0 / 3.0 * (math.log(top_hz) - math.log(middle_hz)))
    if failed and asked and max(asked) >= third:
        total += _FAILED_S * _within(max(asked) / middle_hz)
    return round(total, 2)
