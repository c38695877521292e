"""Practice in time: the click goes on, and one exercise follows the other after whole bars of rest.

A take counts as the whole bars that were played, and is followed by as many bars of rest, or as many as the player sets. The rest holds
the next exercise's count-in; it is long enough for the verdict to be read.
"""

import math
from dataclasses import dataclass

from orexis.core.coach import rest_share
from orexis.core.exercises import Advance, Exercise, Load, Medium, Series

BETWEEN_TAKES_S = 8.0  # where no click goes on: reading, breathing, a bar of waiting
LEAST_REST_S = 5.0  # to hear the verdict, and to see what comes
MOST_REST_BARS = 16  # a longer rest is a pause
_OVER_BEATS = 0.75  # a note that goes on for so long beyond a bar line belongs to the bar before
_NEVER = (Advance.SETS, Advance.LIMIT)  # their rests are their own


@dataclass(frozen=True, slots=True)
class Bars:
    """Whole bars that a take lasted from its first beat after the count-in, the bars of rest after it, and a bar in seconds."""

    played: int
    rest: int
    bar_s: float

    @property
    def cycle_s(self) -> float:
        """Seconds from the first note of one take to the first note of the next."""
        return (self.played + self.rest) * self.bar_s


def gap_after(bars: Bars | None, take_s: float) -> float:
    """Seconds between a take of this length and the next; `bars`: None where no click goes on."""
    return BETWEEN_TAKES_S if bars is None else max(0.0, round(bars.cycle_s - take_s, 2))


def keeps_time(series: Series) -> bool:
    """Whether a series can be practised in time: a click runs in it, and something sounds."""
    if series.advance in _NEVER:
        return False
    return all(exercise.click and exercise.medium != Medium.AIR for exercise in series.exercises)


def bars_of(
    exercise: Exercise, stopped_s: float | None, load: Load, *, rest_bars: int = 0, extra: bool = False
) -> Bars:
    """The bars that a take lasted, and those of rest after it.

    `stopped_s`: seconds from the count-in's first beat to the end of the last note; None: nothing was heard. `rest_bars`: how many the
    player wants; 0: as long as was played, half as long again after heavy work or with `extra` care, and time for the verdict.
    """
    bar_s = exercise.beats_per_bar * exercise.beat_s
    beats = exercise.beats if stopped_s is None else stopped_s / exercise.beat_s - exercise.count_in_beats
    played = max(1, math.ceil((beats - _OVER_BEATS) / exercise.beats_per_bar))
    if rest_bars:
        return Bars(played, min(MOST_REST_BARS, rest_bars), bar_s)
    share = rest_share(load, extra=extra)
    return Bars(played, max(math.ceil(share * played), math.ceil(LEAST_REST_S / bar_s)), bar_s)
