"""What is remembered of a day, exercise type by exercise type: small enough to be kept with every take, enough to plan from.

Days are ordinal dates, loads seconds of middle, usual playing (coach.load), spent seconds include the rests of the block.
"""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace

from orexis.core.coach import Outcome
from orexis.core.exercises import IN_SETS, Form
from orexis.core.progress import DayOnPath

FAILED_OFTEN = 4  # times a day: it comes back tomorrow
_SHARE_CLEAN = 2.0 / 3.0  # of the exercises tried, for a day to count as held
_SETS_AT_LEAST = 2  # asked of a pedal day of which no more is known


@dataclass(frozen=True, slots=True)
class TakeFact:
    """What a judged take leaves behind. `step`: of its exercise type's path, None where it was played by other parameters."""

    exercise_type: str
    day: int
    exercise: str
    outcome: Outcome
    step: int | None = None
    form: Form = Form.AS_WRITTEN
    last: bool = False  # the last exercise of its series: the top of a climb
    climb: bool = False
    asked: int = 0  # exercises of its series that make the day, where they are counted: pedal sets on the first pitch
    reason: str | None = None
    load: float = 0.0
    playing_s: float = 0.0
    spent_s: float = 0.0
    values: dict[str, float] = field(default_factory=dict)  # what is followed over weeks (core/trends)


@dataclass(frozen=True, slots=True)
class ExerciseTypeDay:
    """An exercise type on a day. `exercises`: those of `step`, tried as written, and whether each was held at least once."""

    exercise_type: str
    day: int
    takes: int = 0
    clean: int = 0
    load: float = 0.0
    playing_s: float = 0.0
    spent_s: float = 0.0
    step: int | None = None
    exercises: dict[str, bool] = field(default_factory=dict)
    climbed: bool | None = None  # of a climb: whether its top was held
    asked: int = 0  # pedal sets asked for that day
    failed: dict[str, int] = field(default_factory=dict)  # by exercise, in whatever form, since it was last held
    reasons: dict[str, int] = field(default_factory=dict)

    @property
    def comes_back(self) -> tuple[str, ...]:
        """Exercises that failed so often that they come back tomorrow."""
        return tuple(name for name, times in self.failed.items() if times >= FAILED_OFTEN)

    @property
    def main_reason(self) -> tuple[str, int] | None:
        """What was found most often, and in how many takes."""
        return max(self.reasons.items(), key=lambda item: (item[1], item[0]), default=None)

    def on_path(self) -> DayOnPath | None:
        """What the day says about the path; None where its step was not played."""
        if self.step is None or not self.exercises:
            return None
        return DayOnPath(self.day, self.step, self._is_clean())

    def _is_clean(self) -> bool:
        if self.climbed is not None:
            return self.climbed
        if self.exercise_type == IN_SETS.id:
            return sum(self.exercises.values()) >= (self.asked or _SETS_AT_LEAST)
        return sum(self.exercises.values()) >= _SHARE_CLEAN * len(self.exercises)


def with_take(day: ExerciseTypeDay | None, take: TakeFact) -> ExerciseTypeDay:
    """The day with one more take; one that could not be judged counts its time only."""
    known = day or ExerciseTypeDay(take.exercise_type, take.day)
    if take.outcome == Outcome.NOT_HEARD:
        return replace(known, spent_s=known.spent_s + take.spent_s)
    clean = take.outcome.is_good
    counted = replace(
        known,
        takes=known.takes + 1,
        clean=known.clean + clean,
        load=round(known.load + take.load, 2),
        playing_s=round(known.playing_s + take.playing_s, 2),
        spent_s=round(known.spent_s + take.spent_s, 2),
        failed=_failed(known.failed, take, clean=clean),
        reasons=known.reasons if clean or not take.reason else _one_more(known.reasons, take.reason),
    )
    return _on_its_step(counted, take, clean=clean)


def _failed(before: dict[str, int], take: TakeFact, *, clean: bool) -> dict[str, int]:
    if not clean:
        return _one_more(before, take.exercise)
    return {name: times for name, times in before.items() if name != take.exercise or take.form != Form.AS_WRITTEN}


def _one_more(counts: dict[str, int], name: str) -> dict[str, int]:
    return counts | {name: counts.get(name, 0) + 1}


def _on_its_step(day: ExerciseTypeDay, take: TakeFact, *, clean: bool) -> ExerciseTypeDay:
    """The highest step played that day is the one that it speaks of."""
    if take.step is None or take.form != Form.AS_WRITTEN or (day.step is not None and take.step < day.step):
        return day
    fresh = take.step != day.step
    exercises = {} if fresh else day.exercises
    climbed = None if fresh else day.climbed
    if take.climb:
        climbed = bool(climbed) or (clean and take.last)
    tried = exercises | {take.exercise: exercises.get(take.exercise, False) or clean}
    return replace(
        day, step=take.step, exercises=tried, climbed=climbed, asked=max(take.asked, 0 if fresh else day.asked)
    )


@dataclass(frozen=True, slots=True)
class RecentPractice:
    """An exercise type over the days that are looked at."""

    exercise_type: str
    takes: int = 0
    clean: int = 0
    last_day: int | None = None
    load: float = 0.0
    spent_s: float = 0.0
    reason: tuple[str, int] | None = None
    comes_back: tuple[str, ...] = ()  # from its last day

    def is_back_on(self, today: int) -> bool:
        """Whether something that failed too often on its last day comes back today."""
        return bool(self.comes_back) and self.last_day is not None and self.last_day < today

    @property
    def missed_share(self) -> float:
        """Share of takes not held; an exercise type never played counts as half."""
        return 0.5 if self.takes == 0 else 1.0 - self.clean / self.takes


def lately(days: Iterable[ExerciseTypeDay], *, since: int) -> dict[str, RecentPractice]:
    """By exercise type: takes, outcomes and reasons since a day; loads and last days over all days that are given."""
    by_type: dict[str, list[ExerciseTypeDay]] = {}
    for day in days:
        by_type.setdefault(day.exercise_type, []).append(day)
    return {
        exercise_type: _lately(exercise_type, sorted(of, key=lambda day: day.day), since)
        for exercise_type, of in by_type.items()
    }


def _lately(exercise_type: str, days: list[ExerciseTypeDay], since: int) -> RecentPractice:
    recent = [day for day in days if day.day >= since]
    reasons: dict[str, int] = {}
    for day in recent:
        for name, times in day.reasons.items():
            reasons[name] = reasons.get(name, 0) + times
    return RecentPractice(
        exercise_type,
        sum(day.takes for day in recent),
        sum(day.clean for day in recent),
        days[-1].day,
        sum(day.load for day in days),
        sum(day.spent_s for day in days),
        max(reasons.items(), key=lambda item: (item[1], item[0]), default=None),
        days[-1].comes_back,
    )
