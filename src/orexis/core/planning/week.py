"""Weeks: how much load a week may bring, what kind each day is, and how much falls to it.

The base is what the player says they play now, as far as the given minutes hold it, until four weeks are recorded; then the mean of the
last four practised weeks. A week grows by at most a tenth over its base and is never cut below what the base's minutes make as easy and
medium work: the bound is there against jumps and against too much heavy work, and must not turn given minutes into waiting. Heavy work
has a bound of its own: a tenth over the last four practised weeks at most, half after a week off, 0.7 after three that grew. After weeks
off the floor is lower for a week. Weeks before a pause of three weeks and more count half. Never two heavy days in a row; the day
after "spent", or after a climb to the limit, is light; two days before a performance medium, the day before light, the
day itself and the day after it light, with less load around it (see phases). What is planned stays under the bound, because the last take of a block goes a little beyond its share.
Days are ordinal dates; a week begins on Monday.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from orexis.core.coach import Standard
from orexis.core.messages import tell
from orexis.core.planning.phases import WeekPhase, load_share, phase_of, prepared_for

GROWTH, AFTER_A_WEEK_OFF, LIGHTER = 1.1, 0.5, 0.7
GROWING_WEEKS, LOOKED_AT = 3, 4
PAUSE_WEEKS, AFTER_A_PAUSE = 3, 0.5
BASE_WEEKS = 4  # recorded, until they stand in the place of what the player says
FLOOR = 0.95  # of the base's minutes at the usual rate: what they make as easy and medium work
FLOOR_AFTER_WEEKS_OFF: tuple[tuple[int, float], ...] = (
    (3, 0.5),
    (1, 0.7),
)  # so many weeks off and more: this share of the floor
HEAVY_AT_FIRST = 0.2  # of a week's bound may be heavy work, where hardly any was played
UNDER = 0.93  # so much of the bound is planned
MOST_DAYS = 6  # practised in a week: one is off
LOAD_PER_MINUTE: dict[Standard, float] = {
    Standard.BEGINNER: 19.0,
    Standard.DEVELOPING: 19.0,
    Standard.ADVANCED: 19.0,
    Standard.PROFESSIONAL: 20.0,
}
_GREW = 1.02  # smaller differences are chance
AFTER_A_HEAVY_DAY = "after a heavy day"  # why a day is light
_MUCH_ELSEWHERE = 600.0  # load beside which a day's practice is light
_WORTH_PLAYING = 0.2  # a day that may bring less than so much of the usual is off
_HEAVY_EVERY = 3  # of the days that are given


class DayKind(StrEnum):
    """How heavy a day of the week is planned."""

    HEAVY = "heavy"
    MEDIUM = "medium"
    LIGHT = "light"
    OFF = "off"


WEIGHT: dict[DayKind, float] = {DayKind.HEAVY: 1.15, DayKind.MEDIUM: 1.0, DayKind.LIGHT: 0.8, DayKind.OFF: 0.0}


@dataclass(frozen=True, slots=True)
class PlayingHistory:
    """What the weeks are planned from. `loads`: by day; `spent`: days that ended spent or at the limit."""

    loads: Mapping[int, float] = field(default_factory=dict)
    spent: frozenset[int] = frozenset()
    heavy: frozenset[int] = frozenset()  # days that were heavy
    high: Mapping[int, float] = field(default_factory=dict)  # of the loads, that of heavy work


@dataclass(frozen=True, slots=True)
class Days:
    """What the player can give: minutes by weekday (Monday first), performances, and days moved by hand. `plays_now`: minutes a week
    that they say they play now; None: as many as they give. `elsewhere`: load by day that they play beside their practice.
    """

    minutes: tuple[int, ...] = (30, 30, 30, 30, 30, 30, 0)
    performances: frozenset[int] = frozenset()
    moved: Mapping[int, int] = field(default_factory=dict)  # day -> minutes on it, in place of the weekday's
    plays_now: int | None = None
    elsewhere: Mapping[int, float] = field(default_factory=dict)

    def base_minutes(self, given: float) -> float:
        """Of the minutes given to a week, those that the player is used to."""
        return given if self.plays_now is None else min(given, float(self.plays_now))


@dataclass(frozen=True, slots=True)
class PlannedDay:
    """A day of a week: its kind, the minutes given, the load it may bring, and why it is of that kind."""

    day: int
    kind: DayKind
    minutes: int
    target: float
    why: str
    played: float | None = None  # load, of days that are over


@dataclass(frozen=True, slots=True)
class Week:
    """A week: `bound` is the load that it must not go beyond, `high_bound` that of heavy work in it, `target` what is planned, `why`
    what set the bound.
    """

    start: int
    bound: float
    target: float
    why: str
    days: tuple[PlannedDay, ...]
    high_bound: float = 0.0
    phase: WeekPhase = WeekPhase.USUAL


def monday(day: int) -> int:
    """The first day of a day's week."""
    return day - (day - 1) % 7


def week_load(loads: Mapping[int, float], start: int) -> float:
    """The load of the week that starts on a day."""
    return sum(loads.get(day, 0.0) for day in range(start, start + 7))


def bound_of(practised: PlayingHistory, start: int, *, base: float) -> tuple[float, str]:
    """The most that a week may bring, and why. `base`: the load of what the player says they play now."""
    weeks = _weeks_before(practised.loads, start)
    if not weeks:
        return base, "first week: as much as you play now"
    floor = FLOOR * base
    off = (start - weeks[0][0]) // 7 - 1
    usual = _mean_of_last(weeks, start)
    if off:
        share = next(share for least, share in FLOOR_AFTER_WEEKS_OFF if off >= least)
        return max(AFTER_A_WEEK_OFF * usual, share * floor), "after a week off: gentler than usual"
    if len(weeks) < BASE_WEEKS and usual < base:
        return base, "as much as you play now, until four weeks are recorded"
    if GROWTH * usual < floor:
        return floor, "the minutes that you are used to, mostly easy work"
    those = (
        "the last practised week"
        if len(weeks) == 1
        else tell("the last {count} practised weeks", count=min(len(weeks), LOOKED_AT))
    )
    return GROWTH * usual, tell("a tenth over {those} at most", those=those)


def high_bound_of(practised: PlayingHistory, start: int, bound: float) -> float:
    """The most heavy work that a week may bring, of its bound."""
    weeks = _weeks_before(practised.loads, start)
    if not weeks:
        return HEAVY_AT_FIRST * bound
    high = [(began, week_load(practised.high, began)) for began, _ in weeks]
    usual = max(_mean_of_last(high, start), HEAVY_AT_FIRST * bound / GROWTH)
    if weeks[0][0] < start - 7:
        return AFTER_A_WEEK_OFF * usual
    loads = [load for _, load in weeks[: GROWING_WEEKS + 1]]
    grew = len(loads) > GROWING_WEEKS and all(loads[at] > _GREW * loads[at + 1] for at in range(GROWING_WEEKS))
    return (LIGHTER if grew else GROWTH) * usual


def _mean_of_last(weeks: list[tuple[int, float]], start: int) -> float:
    """The mean of the last four weeks (the latest first); those before a long pause count half."""
    kept, later, share = [], start, 1.0
    for began, load in weeks[:LOOKED_AT]:
        if later < start and (later - began) // 7 > PAUSE_WEEKS:
            share = AFTER_A_PAUSE
        kept.append(share * load)
        later = began
    return sum(kept) / len(kept)


def plan_week(today: int, start: int, practised: PlayingHistory, given: Days, *, standard: Standard) -> Week:
    """The week that starts on a Monday, seen from today: what is over stays as it was, the rest is planned from it."""
    rate = LOAD_PER_MINUTE[standard]
    minutes = _minutes(start, given)
    bound, why = bound_of(practised, start, base=rate * given.base_minutes(sum(minutes.values())))
    kinds = _kinds(start, today, minutes, practised, given)
    done = sum(practised.loads.get(day, 0.0) for day in range(start, min(today, start + 7)))
    today_done = practised.loads.get(today, 0.0) if start <= today < start + 7 else 0.0
    towards = prepared_for(given.performances)
    shares = {day: load_share(day, towards) for day in minutes}
    practised_minutes = sum(minutes.values())
    usual = sum(minutes[day] * shares[day] for day in minutes) / practised_minutes if practised_minutes else 1.0
    target = UNDER * bound * usual
    reserved = sum(given.elsewhere.get(day, 0.0) for day in range(max(start, today), start + 7))
    left = max(0.0, target - done - reserved)
    ahead = [day for day in range(max(start, today), start + 7) if minutes[day] and kinds[day][0] != DayKind.OFF]
    weights = {day: WEIGHT[kinds[day][0]] * minutes[day] * shares[day] for day in ahead}
    while (least := _not_worth_playing(weights, minutes, left, rate)) is not None:
        kinds[least] = (DayKind.OFF, "enough for this week")
        del weights[least]
    total = sum(weights.values())
    days = []
    for day in range(start, start + 7):
        kind, reason = kinds[day]
        share = left * weights[day] / total if day in weights and total else 0.0
        most = 1.5 * rate * minutes[day]
        played = practised.loads.get(day) if day < today or (day == today and today_done) else None
        days.append(PlannedDay(day, kind, minutes[day], round(min(share, most), 1), reason, played))
    planned = done + sum(day.target for day in days)
    high = high_bound_of(practised, start, bound)
    return Week(
        start,
        round(bound, 1),
        round(min(target, planned), 1),
        why,
        tuple(days),
        round(high, 1),
        phase_of(start, towards),
    )


def _not_worth_playing(
    weights: Mapping[int, float], minutes: Mapping[int, int], left: float, rate: float
) -> int | None:
    """The day that would get the least, if that is too little: it is left out, and what it would have had goes to the others."""
    total = sum(weights.values())
    worth = {day: left * weight / (total * rate * minutes[day]) for day, weight in weights.items()}
    least = min(worth, key=lambda day: (worth[day], -day), default=None)
    return least if least is not None and worth[least] < _WORTH_PLAYING else None


def _weeks_before(loads: Mapping[int, float], start: int) -> list[tuple[int, float]]:
    """Practised weeks before a Monday, the latest first. The week in which the record begins counts as if it were whole."""
    by_week: dict[int, float] = {}
    first = min((day for day, load in loads.items() if load > 0.0), default=start)
    for day, load in loads.items():
        if day < start and load > 0.0:
            began = monday(day)
            whole = 7.0 / (began + 7 - first) if began == monday(first) else 1.0
            by_week[began] = by_week.get(began, 0.0) + whole * load
    return sorted(by_week.items(), reverse=True)


def _minutes(start: int, given: Days) -> dict[int, int]:
    """Minutes by day; of seven given days the shortest stays free, unless it was moved by hand."""
    by_day = {day: given.moved.get(day, given.minutes[(day - 1) % 7]) for day in range(start, start + 7)}
    practised = [day for day, minutes in by_day.items() if minutes > 0]
    if len(practised) > MOST_DAYS:
        free = [day for day in practised if day not in given.moved] or practised
        by_day[min(free, key=lambda day: (by_day[day], -day))] = 0
    return by_day


def _kinds(
    start: int, today: int, minutes: Mapping[int, int], practised: PlayingHistory, given: Days
) -> dict[int, tuple[DayKind, str]]:
    """The kind of each day, what is fixed first; heavy days then go where there is most time, never side by side."""
    kinds: dict[int, tuple[DayKind, str]] = {}
    for day in range(start, start + 7):
        kinds[day] = _fixed(day, minutes[day], practised, given)
    free = [day for day, (kind, why) in kinds.items() if kind == DayKind.MEDIUM and not why and day >= today]
    heavy = set(practised.heavy)
    most = max(1, sum(minutes[day] > 0 for day in kinds) // _HEAVY_EVERY)
    most -= sum(start <= day < min(today, start + 7) for day in heavy)
    for day in sorted(free, key=lambda day: (-minutes[day], day)):
        if most <= 0:
            break
        if day - 1 in heavy or day + 1 in heavy:
            continue
        heavy.add(day)
        kinds[day] = (DayKind.HEAVY, "you have time, and are rested")
        most -= 1
    for day, (kind, why) in kinds.items():
        if kind == DayKind.MEDIUM and not why:
            after = day >= today and day - 1 in heavy
            kinds[day] = (DayKind.LIGHT, AFTER_A_HEAVY_DAY) if after else (DayKind.MEDIUM, "a normal day")
    return kinds


def _fixed(day: int, minutes: int, practised: PlayingHistory, given: Days) -> tuple[DayKind, str]:
    if minutes <= 0:
        return DayKind.OFF, "no practice time set" if day not in given.moved else "moved to another day"
    if day in given.performances:
        return DayKind.LIGHT, "performance day: half the usual, nothing heavy"
    if day + 1 in given.performances:
        return DayKind.LIGHT, "the day before a performance"
    if day - 1 in given.performances:
        return DayKind.LIGHT, "the day after a performance"
    if day - 1 in practised.spent:
        return DayKind.LIGHT, "yesterday was heavy work"
    if given.elsewhere.get(day, 0.0) >= _MUCH_ELSEWHERE:
        return DayKind.LIGHT, "you also play elsewhere"
    if day + 2 in given.performances:
        return DayKind.MEDIUM, "two days before a performance"
    if day in practised.heavy:
        return DayKind.HEAVY, "as played"
    return DayKind.MEDIUM, ""
