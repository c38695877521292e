"""Low work, pedal sets and tone in time in rehearsed weeks, by the minutes of a day: `python -m benchmarks.rehearsals --low`."""

from concurrent.futures import ProcessPoolExecutor

from orexis.core.coach import Standard
from orexis.core.exercises import IN_SETS, DayPlace
from orexis.core.instruments import instrument_named
from orexis.core.planning import DayKind, GoalKind, GoalTarget, monday
from orexis.core.rehearsal import rehearse

MINUTES, PEDAL_MINUTES = (10, 20, 30, 40, 60), (40, 60, 75, 90, 120)
_PLAYERS = (("trumpet-bb", "developing"), ("horn-f-bb", "advanced"), ("trombone-tenor", "developing"), ("tuba-eb", "advanced"))  # fmt: skip
_WEEKS, _PEDAL_WEEKS = 10, 12
_COMES_ROUND_DAYS = 21


InTime = dict[str, tuple[float, float]]


def low_work(case: tuple[int, str, str]) -> tuple[int, int, float, float, int, InTime]:
    """Practised days, those with low work, seconds of it and of all (takes and rests), exercises not met again within three weeks.

    Last, by kind of day, seconds of tone and of the clock while practised in time.
    """
    minutes, instrument, standard = case
    made = rehearse(
        weeks=_WEEKS,
        instrument=instrument_named(instrument),
        standard=Standard(standard),
        kind="steady",
        seed=1,
        minutes=minutes,
    )
    days = [day for day in made.days if day.load]
    low = all_ = 0.0
    with_low, met = 0, dict[str, list[int]]()
    for day in days:
        played = [item for item in day.blocks if item.takes]
        with_low += any(item.block.place == DayPlace.LOW for item in played)
        low += sum(item.used_s for item in played if item.block.place == DayPlace.LOW)
        all_ += sum(item.used_s for item in played)
        for item in played:
            met.setdefault(item.block.exercise_type, []).append(day.day)
    end = days[-1].day
    late = sum(any(b - a > _COMES_ROUND_DAYS for a, b in zip(on, [*on[1:], end], strict=True)) for on in met.values())
    in_time = {
        str(kind): (
            sum(day.in_time_tone_s for day in days if day.kind == kind),
            sum(day.in_time_s for day in days if day.kind == kind),
        )
        for kind in DayKind
    }
    return len(days), with_low, low, all_, late, in_time


def pedals(minutes: int) -> tuple[list[int], int, int]:
    """Pedal days of each week, blocks of sets that were planned, and those not reached, with the goal of five sets."""
    made = rehearse(
        weeks=_PEDAL_WEEKS,
        instrument=instrument_named("trombone-bass"),
        standard=Standard.ADVANCED,
        seed=1,
        kind="steady",
        minutes=minutes,
        targets=[GoalTarget(GoalKind.PEDALS, 5.0)],
    )
    weeks = [sum(monday(day) == week.start for day in made.sets_by_day) for week in made.weeks]
    sets = [item for day in made.days for item in day.blocks if item.block.exercise_type == IN_SETS.id]
    return weeks, len(sets), sum(item.takes == 0 for item in sets)


def tables() -> None:
    """Print both."""
    with ProcessPoolExecutor(2) as pool:
        cases = [(minutes, *player) for minutes in MINUTES for player in _PLAYERS]
        found = list(pool.map(low_work, cases))
        print(
            "| minutes a day | days with low work | its share of the time | exercises away for more than three weeks |"
        )
        print("|---|---|---|---|")
        for minutes in MINUTES:
            rows = [row for case, row in zip(cases, found, strict=True) if case[0] == minutes]
            days, with_low, late = sum(row[0] for row in rows), sum(row[1] for row in rows), sum(row[4] for row in rows)
            share = sum(row[2] for row in rows) / sum(row[3] for row in rows)
            print(f"| {minutes} | {with_low} of {days} | {share:.0%} | {late} |", flush=True)
        print("\n| in time, on days that are | seconds of tone a minute |\n|---|---|")
        for kind in (DayKind.HEAVY, DayKind.MEDIUM, DayKind.LIGHT):
            tone, clock = (sum(row[5][str(kind)][at] for row in found) for at in (0, 1))
            print(f"| {kind} | {60.0 * tone / clock:.1f} |", flush=True)
        print("\n| minutes a day | pedal days, week by week | blocks of sets planned, not reached |\n|---|---|---|")
        for minutes, (weeks, planned, lost) in zip(PEDAL_MINUTES, pool.map(pedals, PEDAL_MINUTES), strict=True):
            print(f"| {minutes} | {', '.join(map(str, weeks))} | {planned}, {lost} |", flush=True)
