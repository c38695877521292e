"""What is counted of rehearsed weeks. The rules are stated here once more, on their own, and not taken from the planner."""

from dataclasses import dataclass
from itertools import pairwise

from orexis.core.coach import Lips, Standard
from orexis.core.instruments import instrument_named
from orexis.core.planning import LEAST_FOR_SETS, DayKind, Forecast, GoalKind, GoalTarget, middle_of, monday
from orexis.core.progress import path_of
from orexis.core.rehearsal import KINDS, Rehearsal, learner, rehearse
from orexis.core.rehearsal.values import RehearsedDay

MET_WITHIN = 12
_EASY = {"breath", "buzz-answer", "siren", "buzz-intervals", "buzz-a-tune", "tune", "find-the-middle"}
_HEAVY = {"to-the-pedal", "pedal-sets"}


SETTLED_AFTER = 8  # weeks from which a plan must be whole, whatever the first week was


@dataclass(frozen=True, slots=True)
class Whole:
    """Whether plans fill the time that is given. Seconds of tone and of the clock from the eighth week on, by kind of day."""

    given_days: int
    with_session: int
    tone_s: dict[str, float]
    clock_s: dict[str, float]
    load_early: float  # a week's, of weeks 2 to 5
    load_late: float  # of the last four
    over_bound: int
    heavy_in_a_row: int
    high_when_spent: int


def whole(made: Rehearsal, away: int) -> Whole:
    """Counts of one player whose first week may have been anything."""
    by_day = {day.day: day for day in made.days}
    start = made.weeks[0].start
    settled = [day for day in made.days if day.day >= start + 7 * SETTLED_AFTER and not _rests(day, made, away)]
    given = [day for day in settled if (day.day - start) % 7 < 6]
    played = [day for day in settled if day.load]
    tone, clock = dict[str, float](), dict[str, float]()
    for day in played:
        tone[day.kind] = tone.get(day.kind, 0.0) + day.playing_s
        clock[day.kind] = clock.get(day.kind, 0.0) + max(day.clock_s, 60.0 * day.minutes)
    loads = [week.load for week in made.weeks]
    return Whole(
        given_days=len(given),
        with_session=sum(day.load > 0 for day in given),
        tone_s=tone,
        clock_s=clock,
        load_early=sum(loads[1:5]) / 4.0,
        load_late=sum(loads[-4:]) / 4.0,
        over_bound=sum(week.load > week.bound * 1.0005 for week in made.weeks),
        heavy_in_a_row=sum(
            day.kind == DayKind.HEAVY and day.day - 1 in by_day and by_day[day.day - 1].kind == DayKind.HEAVY
            for day in made.days
            if day.load
        ),
        high_when_spent=sum(day.high_when_spent for day in made.days),
    )


def _rests(day: RehearsedDay, made: Rehearsal, away: int) -> bool:
    """Days that nobody could play on: away, or with sore lips."""
    if day.lips == Lips.SORE:
        return True
    first = made.weeks[0].start + 7 * max(1, (len(made.weeks) - away) // 2)
    return bool(away) and first <= day.day < first + 7 * away


@dataclass(frozen=True, slots=True)
class FoundExercise:
    """Counts of one player."""

    weeks: int
    over_bound: int
    heavy_in_a_row: int
    high_when_spent: int
    sets_beyond: int
    moves: int
    against_the_rule: int
    days: int
    minutes_off: int
    clock_off: int
    in_range: int
    not_met: int
    steps_a_week: float
    steps_per_load: float
    fixed_steps_per_load: float


def check(made: Rehearsal, fixed: Rehearsal) -> FoundExercise:
    """All counts."""
    played = [day for day in made.days if day.load]
    by_day = {day.day: day for day in made.days}
    moves, against = _moves(made)
    in_range, not_met = _met(made)
    practised_weeks = max(1, sum(any(monday(day.day) == week.start for day in played) for week in made.weeks))
    load, fixed_load = sum(day.load for day in played), sum(day.load for day in fixed.days)
    return FoundExercise(
        weeks=len(made.weeks),
        over_bound=sum(week.load > week.bound * 1.0005 for week in made.weeks),
        heavy_in_a_row=sum(
            day.kind == DayKind.HEAVY and day.day - 1 in by_day and by_day[day.day - 1].kind == DayKind.HEAVY
            for day in played
        ),
        high_when_spent=sum(day.high_when_spent for day in made.days),
        sets_beyond=_sets_beyond(made),
        moves=moves,
        against_the_rule=against,
        days=len(played),
        minutes_off=sum(abs(day.planned_minutes - day.minutes) > 0.1 * day.minutes for day in played),
        clock_off=sum(abs(day.clock_s / 60.0 - day.minutes) > 0.1 * day.minutes for day in played),
        in_range=in_range,
        not_met=not_met,
        steps_a_week=made.who.learned / practised_weeks,
        steps_per_load=1000.0 * made.who.learned / max(1.0, load),
        fixed_steps_per_load=1000.0 * fixed.who.learned / max(1.0, fixed_load),
    )


def _sets_beyond(made: Rehearsal) -> int:
    """Days with more sets than allowed, more than three pedal days in a week, two in a row."""
    days = sorted(made.sets_by_day)
    over = sum(asked > allowed for asked, allowed in made.sets_by_day.values())
    by_week: dict[int, int] = {}
    for day in days:
        by_week[monday(day)] = by_week.get(monday(day), 0) + 1
    return over + sum(count > 3 for count in by_week.values()) + sum(b - a == 1 for a, b in pairwise(days))


def _moves(made: Rehearsal) -> tuple[int, int]:
    """Days on paths, and those on which the standing moved otherwise than the rule says."""
    moves = wrong = 0
    for exercise_type, rows in made.path_days.items():
        path = path_of(exercise_type, made.who.instrument)
        assert path is not None
        need = 2 if exercise_type in _EASY else 3
        on_step: list[bool] = []
        last: tuple[int, int] | None = None  # day, step after it
        for day, step, held, before, after in rows:
            moves += 1
            expected = before
            if last is not None and before != last[1]:
                wrong += before != _after_pause(last[1], day - last[0], heavy=exercise_type in _HEAVY)
                on_step = []
            if step >= before:
                on_step = [*on_step, held][-5:]
                if sum(on_step) >= need and before + 1 < len(path.steps):
                    expected = before + 1
                elif len(on_step) >= 3 and not any(on_step[-3:]) and before > 0:
                    expected = before - 1
            wrong += after != expected
            if after != before:
                on_step = []
            last = (day, after)
    return moves, wrong


def _after_pause(step: int, away: int, *, heavy: bool) -> int:
    back = 0 if away < 14 else 1 if away < 42 else 2 if away < 120 else step
    return max(0, step - (back if heavy else back // 2))


def _met(made: Rehearsal) -> tuple[int, int]:
    """PlayerRange notes, and those that were once not tried for more than twelve days while practice went on."""
    practised = [day.day for day in made.days if day.load]
    missed = 0
    for midi, in_range in made.in_range_on.items():
        met = set(made.met.get(midi, ()))
        waited = False
        since: int | None = None
        for day in [day.day for day in made.days]:
            if day not in in_range:
                since = None
                continue
            if day in met or since is None or not any(p in practised for p in range(day - 6, day + 1)):
                since = day
            waited = waited or day - since > MET_WITHIN
        missed += waited
    return len(made.in_range_on), missed


def forecasts_checked(
    kind: str, instrument_id: str, seed: int, weeks: int, minutes: int, *, standard: Standard
) -> list[tuple[str, str]]:
    """One goal at a time, each a little beyond what the player has."""
    instrument, chosen = instrument_named(instrument_id), KINDS[kind]
    who = learner(chosen, instrument, chosen.standard or standard, seed, middle=middle_of(instrument))
    top = min(instrument.highest.midi, round(who.high) + seed % 3)
    targets = [
        GoalTarget(GoalKind.OWN, float(top)),
        GoalTarget(GoalKind.HOLD, (9.0, 12.0, 16.0)[seed % 3]),
        GoalTarget(GoalKind.SLUR, float(4 + seed % 2)),
        GoalTarget(GoalKind.TRILL, (2.8, 3.2, 3.6)[seed % 3]),
        GoalTarget(GoalKind.PEDALS, float(3 + seed % 3)),
        GoalTarget(GoalKind.OWN, float(max(instrument.lowest.midi, round(who.low) - seed % 3))),
        GoalTarget(GoalKind.OWN, float(top - 2), joined=True),
        GoalTarget(GoalKind.MINUTES, (12.0, 16.0, 20.0)[seed % 3]),
    ]
    out: list[tuple[str, str]] = []
    target = targets[(seed + len(instrument_id)) % len(targets)]
    if target.kind == GoalKind.PEDALS:  # no shorter day has room for sets
        minutes = max(minutes, LEAST_FOR_SETS)
    made = rehearse(
        weeks=weeks, instrument=instrument, standard=standard, kind=kind, seed=seed, minutes=minutes, targets=[target]
    )
    end = made.days[-1].day
    for goal in made.goals:
        out += [(goal.target.kind.value, _told(found, goal.reached, end)) for _, found in goal.forecasts]
    return out


def _told(found: Forecast, reached: int | None, end: int) -> str:
    low = found.low if found.low is not None else end + 10_000
    high = found.high if found.high is not None else end + 10_000
    if reached is None:
        return "late" if high <= end else "in" if low > end else "open"
    return "early" if reached < low else "late" if reached > high else "in"
