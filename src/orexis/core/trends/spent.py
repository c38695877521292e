"""What sessions that ended spent had in common, beside those that did not: numbers, and no guess why."""

from collections.abc import Iterable
from dataclasses import dataclass
from statistics import median

FEWEST_SESSIONS = 3  # of either kind


@dataclass(frozen=True, slots=True)
class SessionTold:
    """A session in numbers: seconds of tone, seconds from its beginning to its last take, load, and the heavy part of it."""

    spent: bool
    tone_s: float
    lasted_s: float
    load: float
    high_load: float


@dataclass(frozen=True, slots=True)
class InCommon:
    """A number in the middle session that ended spent, and in the middle one that did not."""

    label: str
    unit: str
    spent: float
    other: float


def in_common(sessions: Iterable[SessionTold]) -> tuple[InCommon, ...]:
    """Empty where there are too few of either kind."""
    known = [one for one in sessions if one.tone_s > 0.0]
    spent, other = ([one for one in known if one.spent == is_spent] for is_spent in (True, False))
    if min(len(spent), len(other)) < FEWEST_SESSIONS:
        return ()

    def middle(rows: list[SessionTold], number: int) -> float:
        return round(float(median(_numbers(row)[number] for row in rows)), 1)

    return tuple(
        InCommon(label, unit, middle(spent, at), middle(other, at)) for at, (label, unit) in enumerate(_LABELS)
    )


_LABELS = (
    ("Tone", "min"), ("Load", ""), ("Heavy work, of the load", "%"), ("Rest for each minute of tone", "min"),
)  # fmt: skip


def _numbers(row: SessionTold) -> tuple[float, float, float, float]:
    heavy = 100.0 * row.high_load / row.load if row.load > 0.0 else 0.0
    rest = max(0.0, row.lasted_s - row.tone_s) / row.tone_s
    return row.tone_s / 60.0, row.load, heavy, rest
