"""How fresh the lips are, told by the check note: fresh, tiring, spent, with the numbers that say so.

The baseline is the first check after ten minutes of playing; before there is one, today's first. Tiring: one sign.
Spent: two signs of double size.
"""

from dataclasses import dataclass
from enum import StrEnum

from orexis.core.measures import EnduranceChange

CHECK_EVERY_S = 600.0  # of playing
BASELINE_AFTER_S = 600.0  # ten minutes: lips are warm by then, and not yet tired

# What counts as a sign: unit, size, and whether it is a rise or a fall (or either).
_SIGNS: tuple[tuple[str, str, float, int], ...] = (
    ("response_ms", "ms slower to speak", 40.0, 1),
    ("tone_to_noise_db", "dB airier", 3.0, -1),
    ("pitch_wobble_cents", "cents less steady", 4.0, 1),
    ("pitch_error_cents", "cents off the first one", 10.0, 0),
)


class Freshness(StrEnum):
    """What the check note says of the lips."""

    FRESH = "fresh"
    TIRING = "tiring"
    SPENT = "spent"


@dataclass(frozen=True, slots=True)
class Sign:
    """One sign of tiring: how much of what, and whether it has double the size."""

    measure: str
    words: str
    value: float
    double: bool


@dataclass(frozen=True, slots=True)
class Endurance:
    """The state and the signs it was read from; None where nothing was measured."""

    state: Freshness | None
    signs: tuple[Sign, ...] = ()


def endurance_of(change: EnduranceChange | None) -> Endurance:
    """Read a change of the check note against the baseline; None: there is no baseline yet."""
    if change is None:
        return Endurance(Freshness.FRESH)
    values = [(row, getattr(change, row[0])) for row in _SIGNS]
    if all(value is None for _, value in values):
        return Endurance(None)
    signs = tuple(_sign(row, value) for row, value in values if value is not None and _size(row, value) > row[2])
    if sum(sign.double for sign in signs) >= 2:
        return Endurance(Freshness.SPENT, signs)
    return Endurance(Freshness.TIRING if signs else Freshness.FRESH, signs)


def _size(row: tuple[str, str, float, int], value: float) -> float:
    return abs(value) if row[3] == 0 else row[3] * value


def _sign(row: tuple[str, str, float, int], value: float) -> Sign:
    return Sign(row[0], row[1], round(abs(value), 1), _size(row, value) > 2.0 * row[2])
