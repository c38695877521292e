"""Measures without sound, for weeks of history: what the ear would have said of a performance, drawn and not heard.

Each measure is the flaw's own size plus the ear's error, whose bias and spread were found by playing and hearing several
hundred notes (`benchmarks/calibration.py` prints them; docs/simulated-player.md has the table). Gaps and touches shorter
than the ear's shortest are left out, as they are when heard.
"""

from dataclasses import dataclass

import numpy as np

from orexis.core.figures import Figure
from orexis.core.player.flaws import Flaws


@dataclass(frozen=True, slots=True)
class Error:
    """The ear's error of one measure, in the measure's unit."""

    bias: float
    spread: float


# benchmarks/calibration.py, all horns, three stages of player.
ERRORS: dict[str, Error] = {
    "centre_cents": Error(-0.1, 1.3),
    "sag_cents": Error(0.3, 0.8),
    "entry_cents": Error(2.8, 4.2),
    "response_ms": Error(-3.5, 2.3),
    "gap_ms": Error(-0.6, 3.1),
    "caught_ms": Error(-0.8, 2.0),
}
_SHORTEST_GAP_MS, _SHORTEST_TOUCH_MS = 18.0, 15.0


@dataclass(frozen=True, slots=True)
class ImaginedNote:
    """What would have been measured of a note and of the move into it. None where nothing would have been found."""

    id: str
    right: bool
    centre_cents: float
    sag_cents: float
    entry_cents: float | None
    response_ms: float | None
    gap_ms: float | None
    caught_ms: float | None


def imagine(figure: Figure, flaws: Flaws, *, seed: int) -> tuple[ImaginedNote, ...]:
    """The note table of a performance with these flaws."""
    rng = np.random.default_rng((seed, 13))

    def heard(name: str, true: float) -> float:
        error = ERRORS[name]
        return round(true + float(rng.normal(error.bias, error.spread)), 2)

    out = []
    for note in figure.notes:
        gap, caught = flaws.find("gap", note.id), flaws.find("caught", note.id)
        out.append(
            ImaginedNote(
                id=note.id,
                right=flaws.find("miss", note.id) is None,
                centre_cents=heard("centre_cents", flaws.size("centre", 0.0, note.id)),
                sag_cents=heard("sag_cents", flaws.size("sag", 0.0, note.id)),
                entry_cents=None if note.slurred else heard("entry_cents", flaws.size("entry", 0.0, note.id)),
                response_ms=None
                if note.slurred
                else max(0.0, heard("response_ms", flaws.size("response", 15.0, note.id))),
                gap_ms=heard("gap_ms", gap.size) if note.slurred and gap and gap.size >= _SHORTEST_GAP_MS else None,
                caught_ms=heard("caught_ms", caught.extra)
                if note.slurred and caught and caught.extra >= _SHORTEST_TOUCH_MS
                else None,
            )
        )
    return tuple(out)
