"""Rehearsed weeks of many players: what the plan must never do, what it must always do, and what it is worth.

`python -m benchmarks.rehearsals [--weeks 10] [--seeds 5] [--first 1] [--instruments a,b] [--minutes 30] [--forecasts]`, and
`--first-weeks`: whether plans fill the given time, from four kinds of first week.
"""

import argparse
from collections import defaultdict
from collections.abc import Iterable
from concurrent.futures import ProcessPoolExecutor

from benchmarks.rehearsals.checks import FoundExercise, Whole, check, forecasts_checked, whole
from orexis.core.coach import Standard
from orexis.core.instruments import instrument_named
from orexis.core.rehearsal import KINDS, FirstWeek, Planner, rehearse

INSTRUMENTS = ("trumpet-bb", "horn-f-bb", "trombone-tenor", "euphonium-bb", "tuba-eb")
_GOAL_WEEKS = 30
_STANDARDS = {"trumpet-bb": Standard.DEVELOPING, "horn-f-bb": Standard.ADVANCED, "tuba-eb": Standard.ADVANCED}
Case = tuple[str, str, int, int, int]


def one(case: Case) -> FoundExercise:
    """One player with the composed days and with the fixed routine."""
    kind, instrument, seed, weeks, minutes = case
    standard = _STANDARDS.get(instrument, Standard.DEVELOPING)
    weeks += KINDS[kind].away  # as many weeks of practice as the others have
    made = rehearse(
        weeks=weeks, instrument=instrument_named(instrument), standard=standard, kind=kind, seed=seed, minutes=minutes
    )
    fixed = rehearse(
        weeks=weeks,
        instrument=instrument_named(instrument),
        standard=standard,
        kind=kind,
        seed=seed,
        minutes=30,
        planner=Planner.FIXED,
    )
    return check(made, fixed)


def one_from(case: tuple[Case, FirstWeek]) -> Whole:
    """One player whose first week was of this kind."""
    (kind, instrument, seed, weeks, minutes), first = case
    standard, away = _STANDARDS.get(instrument, Standard.DEVELOPING), KINDS[kind].away
    made = rehearse(
        weeks=weeks + away,
        instrument=instrument_named(instrument),
        standard=standard,
        kind=kind,
        seed=seed,
        minutes=minutes,
        first_week=first,
    )
    return whole(made, away)


def first_weeks_table(cases: list[Case], *, in_turn: bool) -> None:
    """Print it, a row a kind of first week. `in_turn`: each player has one of the four, not all."""
    print(FIRST_WEEKS_HEAD)
    with ProcessPoolExecutor(2) as pool:
        for number, first in enumerate(FirstWeek):
            chosen = cases[number :: len(FirstWeek)] if in_turn else cases
            print(first_week_row(first, list(pool.map(one_from, [(case, first) for case in chosen]))), flush=True)


FIRST_WEEKS_HEAD = (
    "| first week | players | given days with a session from week 8 on | tone, share of the time: heavy / medium / light days | "
    "load a week, weeks 2 to 5 and last four | weeks over bound | heavy in a row | high when spent |\n|---|---|---|---|---|---|---|---|"
)


def first_week_row(first: FirstWeek, found: list[Whole]) -> str:
    """A row of it, of players who all began like this."""

    def total(name: str) -> int:
        return int(sum(getattr(item, name) for item in found))

    shares = []
    for kind in ("heavy", "medium", "light"):
        clock = sum(item.clock_s.get(kind, 0.0) for item in found)
        shares.append(f"{sum(item.tone_s.get(kind, 0.0) for item in found) / clock:.0%}" if clock else "–")
    early, late = (sum(getattr(item, name) for item in found) / len(found) for name in ("load_early", "load_late"))
    return (
        f"| {first} | {len(found)} | {total('with_session')} of {total('given_days')} | {' / '.join(shares)} | "
        f"{early:.0f}, {late:.0f} | {total('over_bound')} | {total('heavy_in_a_row')} | {total('high_when_spent')} |"
    )


def one_with_goals(case: Case) -> list[tuple[str, str]]:
    """Forecasts of several goals against what came: (goal kind, "in" | "early" | "late" | "open")."""
    kind, instrument, seed, weeks, minutes = case
    return forecasts_checked(
        kind, instrument, seed, weeks, minutes, standard=_STANDARDS.get(instrument, Standard.DEVELOPING)
    )


def table(cases: list[Case]) -> None:
    """Print it, a row a kind of player."""
    with ProcessPoolExecutor(2) as pool:
        found = list(pool.map(one, cases, chunksize=4))
    by_kind: dict[str, list[FoundExercise]] = defaultdict(list)
    for case, result in zip(cases, found, strict=True):
        by_kind[case[0]].append(result)
    print(
        "| kind | players | weeks over bound | heavy in a row | high when spent | sets beyond | moves against the rule | "
        "days off by 10% planned / by the clock | in range not met in 12 days | steps a week | per 1000 load, composed | "
        "fixed | |\n|---|---|---|---|---|---|---|---|---|---|---|---|---|"
    )
    for kind, results in [*by_kind.items(), ("all", found)]:
        print(_row(kind, results))


def _row(kind: str, found: list[FoundExercise]) -> str:
    def total(name: str) -> int:
        return int(sum(getattr(item, name) for item in found))

    def mean(name: str) -> float:
        return float(sum(getattr(item, name) for item in found)) / len(found)

    own, fixed = mean("steps_per_load"), mean("fixed_steps_per_load")
    gain = f"{own / fixed - 1.0:+.0%}" if fixed > 0 else ""
    return (
        f"| {kind} | {len(found)} | {total('over_bound')} of {total('weeks')} | {total('heavy_in_a_row')} | "
        f"{total('high_when_spent')} | {total('sets_beyond')} | {total('against_the_rule')} of {total('moves')} | "
        f"{total('minutes_off')} / {total('clock_off')} of {total('days')} | {total('not_met')} of {total('in_range')} | "
        f"{mean('steps_a_week'):.2f} | {own:.2f} | {fixed:.2f} | {gain} |"
    )


def forecast_table(cases: list[Case]) -> None:
    """Print how often the 80% span held the truth."""
    with ProcessPoolExecutor(2) as pool:
        found = [pair for pairs in pool.map(one_with_goals, cases, chunksize=2) for pair in pairs]
    print(
        "\n| goal | forecasts | within the 80% span | came earlier | came later | not known yet |\n|---|---|---|---|---|---|"
    )
    for target in [*sorted({target for target, _ in found}), "all"]:
        outcomes = [outcome for name, outcome in found if target in (name, "all")]
        told = [outcome for outcome in outcomes if outcome != "open"]
        share = {name: told.count(name) / max(1, len(told)) for name in ("in", "early", "late")}
        print(
            f"| {target} | {len(told)} | {share['in']:.0%} | {share['early']:.0%} | {share['late']:.0%} | "
            f"{outcomes.count('open')} |"
        )


def cases_of(kinds: Iterable[str], instruments: Iterable[str], seeds: range, weeks: int, minutes: int) -> list[Case]:
    """All of them."""
    return [(k, h, s, weeks, minutes) for k in kinds for h in instruments for s in seeds]


def main() -> None:
    """Read the options and print the tables."""
    read = argparse.ArgumentParser(description=__doc__)
    read.add_argument("--weeks", type=int, default=10)
    read.add_argument("--seeds", type=int, default=5)
    read.add_argument("--first", type=int, default=1, help="the first seed; which goal is forecast goes by the seed")
    read.add_argument("--minutes", type=int, default=30)
    read.add_argument("--instruments", default=",".join(INSTRUMENTS))
    read.add_argument("--kinds", default=",".join(KINDS))
    read.add_argument("--forecasts", action="store_true")
    read.add_argument("--first-weeks", action="store_true", help="Whether plans fill the given time.")
    read.add_argument("--in-turn", action="store_true", help="Each player has one of the first weeks, not all four.")
    read.add_argument("--low", action="store_true", help="Low work and pedal sets by the minutes of a day.")
    read.add_argument("--calibrate", action="store_true", help="Measure level against sound.")
    given = read.parse_args()
    if given.calibrate:
        from benchmarks.rehearsals.calibrate import calibrated

        calibrated()
        return
    if given.low:
        from benchmarks.rehearsals.low import tables

        tables()
        return
    instruments, kinds = given.instruments.split(","), given.kinds.split(",")
    seeds = range(given.first, given.first + given.seeds)
    if given.first_weeks:
        cases = cases_of(kinds, instruments, seeds, max(given.weeks, 2 * 8), given.minutes)
        first_weeks_table(cases, in_turn=given.in_turn)
    elif not given.forecasts:
        table(cases_of(kinds, instruments, seeds, given.weeks, given.minutes))
    else:
        forecast_table(cases_of(kinds, instruments, seeds, max(given.weeks, _GOAL_WEEKS), given.minutes))


if __name__ == "__main__":
    main()
