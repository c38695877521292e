"""When a goal will be reached: the player's own rate, a prior from the goal where the record is short, and a simulation.

Rate (steps a day of practice) ~ Gamma(a, b): a = PRIOR_STEPS + steps gained, b = PRIOR_STEPS * prior days + days practised,
over the last RECENT days of practice, times a lognormal DRIFT. Each further step takes Gamma-distributed days with mean 1 / rate, a little longer
the further it goes, and never fewer than the rule of growth needs. Days of practice become days of the calendar by the days of the week
that are given. The median and the middle 80% of the simulated dates are the forecast.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from orexis.core.exercises import GoalKind
from orexis.core.messages import counted, tell
from orexis.core.planning.frame import LEAST_FOR_SETS
from orexis.core.planning.goals import GoalPosition

PRIOR_STEPS = 1.5  # weak: a few real steps outweigh it
RECENT = 30  # days of practice
SLOWER_EACH = 0.03  # each step takes so much longer than the one before
SHAPE = 1.6  # of the days of one step
DRIFT = 0.35  # how far the rate itself may be another from now on, as a natural logarithm
DRAWS = 2000  # the 80% interval repeats within a day
FARTHEST_DAYS = 5 * 365  # five years: beyond it a date means nothing
DAYS_BEFORE_FORECAST = 3  # of practice on the instrument before any date is told: a prior alone is nobody's forecast
_LEAST_DAYS = 2.0  # a step is held on two days at least


@dataclass(frozen=True, slots=True)
class Forecast:
    """Ordinal dates: the median, and the ends of the middle 80%. None: not within five years at this rate."""

    median: int | None
    low: int | None
    high: int | None


@dataclass(frozen=True, slots=True)
class GoalHistory:
    """What the record shows: the position at the end of each day of practice, the oldest first."""

    positions: Sequence[float]

    @property
    def steps(self) -> float:
        """Gained over the days that are looked at: at most a step a day, because a range that becomes known is not gained."""
        recent = self.positions[-RECENT:]
        return max(0.0, sum(min(1.0, max(-1.0, after - before)) for before, after in pairwise(recent)))

    @property
    def days(self) -> int:
        """Days of practice that are looked at."""
        return max(0, len(self.positions[-RECENT:]) - 1)


def goal_history_over(practised: Iterable[int], noted: Mapping[int, float]) -> GoalHistory:
    """What was gained by day of practice (ordinal dates), from the positions that were noted at the end of some of them.

    Positions are noted when somebody looks: what came between two looks is shared evenly over the days of practice between.
    """
    if not noted:
        return GoalHistory(())
    known = sorted(noted)
    days = sorted({known[0], *(day for day in practised if day > known[0])})
    return GoalHistory([float(value) for value in np.interp(days, known, [noted[day] for day in known])])


def days_before_forecast(practised: int) -> int:
    """Return how many more days of practice it takes before a date is told."""
    return max(0, DAYS_BEFORE_FORECAST - practised)


def forecast(
    place: GoalPosition, gained: GoalHistory, *, prior_days: float, today: int, days_a_week: float, seed: int = 0
) -> Forecast:
    """The forecast from today; where nothing is practised, none."""
    if place.reached:
        return Forecast(today, today, today)
    if days_a_week <= 0.0:
        return Forecast(None, None, None)
    rng = np.random.default_rng((seed, place.steps_left, gained.days))
    rate = rng.gamma(PRIOR_STEPS + gained.steps, 1.0, DRAWS) / (PRIOR_STEPS * prior_days + gained.days)
    rate *= rng.lognormal(0.0, DRIFT, DRAWS)
    left = place.goal - place.position
    days = np.zeros(DRAWS)
    for number in range(place.steps_left):
        part = min(1.0, left - number)
        mean = part * (1.0 + SLOWER_EACH * number) / rate
        days += np.maximum(_LEAST_DAYS * part, rng.gamma(SHAPE, 1.0, DRAWS) / SHAPE * mean)
    calendar = days * 7.0 / days_a_week
    low, median, high = (float(value) for value in np.percentile(calendar, (10.0, 50.0, 90.0)))
    return Forecast(*(_date(today, value) for value in (median, low, high)))


def _date(today: int, days: float) -> int | None:
    return today + round(days) if days <= FARTHEST_DAYS else None


def would_change(
    place: GoalPosition,
    gained: GoalHistory,
    kind: GoalKind,
    *,
    prior_days: float,
    today: int,
    days_a_week: float,
    date: int,
) -> str | None:
    """What would let the date be met, where it is not: more days, or how near one would come; None where it is met."""
    now = forecast(place, gained, prior_days=prior_days, today=today, days_a_week=days_a_week)
    if now.median is not None and now.median <= date:
        return None
    if kind == GoalKind.PEDALS and days_a_week <= 0.0:
        return tell(
            "practise {least_for_sets} minutes or more on some days: sets with their rests need that",
            least_for_sets=LEAST_FOR_SETS,
        )
    for more in range(int(days_a_week) + 1, 7):
        then = forecast(place, gained, prior_days=prior_days, today=today, days_a_week=float(more))
        if then.median is not None and then.median <= date:
            return tell("practise {more} days a week", more=more)
    weeks = max(0.0, date - today) / 7.0
    mean = (PRIOR_STEPS * prior_days + gained.days) / (PRIOR_STEPS + gained.steps)
    steps = int(weeks * days_a_week / mean)
    if steps <= 0:
        return "choose a later date"
    far = {
        GoalKind.OWN: counted(steps, "{count} semitone", "{count} semitones"),
        GoalKind.CENTRE: counted(steps, "{count} cent", "{count} cents"),
        GoalKind.PEDALS: counted(steps, "{count} set", "{count} sets"),
    }.get(kind, counted(steps, "{count} step", "{count} steps"))
    return tell("choose a smaller goal: about {far} from where you are now", far=far)
