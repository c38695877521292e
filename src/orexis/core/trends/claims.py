"""From days to a claim: what changed, by how much, and only where the interval allows.

A trend is the middle of each day's takes with its middle half. It is drawn from five days on. A change is that of the mean of the
days' middles from the first third of the span's days to the last third; its 90% interval comes from a bootstrap over days (each
third drawn anew 1000 times, by a fixed seed). Where the whole interval is smaller than what a player would notice it "stands still",
whether or not it leaves 0 out; a change is claimed only where the interval leaves 0 out and reaches what is noticed.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from operator import attrgetter
from statistics import fmean

import numpy as np
from numpy.typing import NDArray

from orexis.core.trends.measures import TREND_MEASURES

FEWEST_DAYS, FEWEST_OF_A_THIRD = 5, 3
DRAWS, SEED = 1000, 11
# A change smaller than this is none that anybody would notice.
NOTICED: dict[str, float] = {
    "cents": 3.0, "ms": 15.0, "%": 8.0, "dB": 0.8, "of 100": 6.0, "s": 1.5, "a second": 0.4,
}  # fmt: skip


class Direction(StrEnum):
    """Whether a measure improved, slipped or stayed."""

    BETTER = "better"
    WORSE = "worse"
    STILL = "still"
    CHANGED = "changed"  # where neither way is better


@dataclass(slots=True)
class DayPoint:
    """A day: its ordinal date, the ends of the middle half of its takes, their middle, how many. A week: its Monday, the means of its days.

    Not frozen, though never changed: a season has four thousand of them, and frozen ones take longer to make.
    """

    day: int
    low: float
    middle: float
    high: float
    takes: int


@dataclass(frozen=True, slots=True)
class Claim:
    """What may be said: from about, to about, over so many days, with the interval of the change."""

    direction: Direction
    before: float
    after: float
    low: float
    high: float
    days: int


@dataclass(frozen=True, slots=True)
class Trend:
    """A measure over a span. `claim`: None where nothing may be said; `missing`: days still wanted for a line."""

    measure: str
    scope: str | None  # a register, a loudness, an exercise type; None: everything
    points: tuple[DayPoint, ...]
    claim: Claim | None
    missing: int


def trend_of(measure: str, scope: str | None, points: Sequence[DayPoint]) -> Trend:
    """The trend with what may be claimed of it."""
    ordered = tuple(sorted(points, key=attrgetter("day")))
    missing = max(0, FEWEST_DAYS - len(ordered))
    return Trend(measure, scope, ordered, None if missing else claim_of(measure, ordered), missing)


def claim_of(measure: str, points: Sequence[DayPoint]) -> Claim | None:
    """The change from the first third of the days to the last."""
    third = len(points) // 3
    if third < FEWEST_OF_A_THIRD:
        return None
    return compared(measure, points[:third], points[-third:])


def compared(measure: str, first: Sequence[DayPoint], last: Sequence[DayPoint]) -> Claim | None:
    """The change between two spans of days; None where the interval allows nothing."""
    if min(len(first), len(last)) < FEWEST_OF_A_THIRD:
        return None
    before, after = ([point.middle for point in span] for span in (first, last))
    of_first, of_last = _draws(len(before), len(after))
    changes = np.sort(of_last @ np.array(after) - of_first @ np.array(before))
    low, high = _at(changes, 0.05), _at(changes, 0.95)
    direction = _direction(measure, low, high)
    if direction is None:
        return None
    days = last[-1].day - first[0].day
    return Claim(direction, round(fmean(before), 2), round(fmean(after), 2), round(low, 2), round(high, 2), days)


def _at(ordered: NDArray[np.float64], share: float) -> float:
    """So far through them, in between by a straight line: what `numpy.percentile` gives, at a tenth of its cost for so few."""
    place = share * (len(ordered) - 1)
    below = int(place)
    return float(ordered[below] + (place - below) * (ordered[min(below + 1, len(ordered) - 1)] - ordered[below]))


@lru_cache(maxsize=64)
def _draws(first: int, last: int) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """How often each day is drawn of each span, as weights of a mean; the same for every measure of so many days."""
    rng = np.random.default_rng(SEED)
    return _weights(rng.integers(0, first, (DRAWS, first))), _weights(rng.integers(0, last, (DRAWS, last)))


def _weights(picked: NDArray[np.int64]) -> NDArray[np.float64]:
    draws, days = picked.shape
    flat = (np.arange(draws)[:, None] * days + picked).ravel()
    return np.bincount(flat, minlength=draws * days).reshape(draws, days) / days


def _direction(measure: str, low: float, high: float) -> Direction | None:
    told = TREND_MEASURES[measure]
    if max(abs(low), abs(high)) < NOTICED[told.unit]:
        return Direction.STILL
    if low <= 0.0 <= high:
        return None
    if told.more_is_better is None:
        return Direction.CHANGED
    return Direction.BETTER if (low > 0.0) == told.more_is_better else Direction.WORSE
