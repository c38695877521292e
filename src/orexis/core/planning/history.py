"""From what is remembered to what a day is planned from: the same for the record on disk and for rehearsed weeks."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from orexis.core.approaches import Approaches
from orexis.core.coach import Care, Lips, RangeNote, RangeState, Standard, range_of, start_tomorrow
from orexis.core.exercises import EXERCISE_TYPES, IN_SETS, Load, SetPlayed, sets_today
from orexis.core.instruments import Fingering, Instrument, lowest_pedal, slot_of
from orexis.core.planning.context import GoalRequest, PlanningContext
from orexis.core.planning.memory import ExerciseTypeDay, lately
from orexis.core.planning.week import UNDER, DayKind, Week, monday
from orexis.core.practice import PlayerRange
from orexis.core.progress import PathPosition

LOOKED_BACK = 60  # days of exercise types that are read
RECENTLY = 14  # two weeks, so that each weekday counts twice
NOTES_AFTER = 7  # notes in range are taken up after so many days, so that none waits twelve
PEDAL_EXERCISE_TYPE = IN_SETS.id
_UNDER_SAID = 5  # semitones


@dataclass(frozen=True, slots=True)
class PracticeHistory:
    """What the record holds of a player on an instrument. `days`: exercise types of the last sixty days; `free_loads`: what was played without an
    exercise on the days of this week.
    """

    days: tuple[ExerciseTypeDay, ...] = ()
    standings: Mapping[str, PathPosition] = field(default_factory=dict)
    range_notes: Mapping[int, RangeNote] = field(default_factory=dict)
    sets: tuple[SetPlayed, ...] = ()
    free_loads: Mapping[int, float] = field(default_factory=dict)

    def high_between(self, first: int, end: int) -> float:
        """The load of heavy exercises on the days from the first to before the end."""
        return sum(load for day, load in high_loads(self.days).items() if first <= day < end)

    def load_on(self, day: int) -> float:
        """The load of a day of this week."""
        return self.load_between(day, day + 1)

    def load_between(self, first: int, end: int) -> float:
        """The load of the days of this week from the first to before the end."""
        exercises = sum(day.load for day in self.days if first <= day.day < end)
        return exercises + sum(load for day, load in self.free_loads.items() if first <= day < end)


@dataclass(frozen=True, slots=True)
class CheckIn:
    """What the player says today, and why sessions until now leave no heavy work to it."""

    lips: Lips = Lips.FRESH
    quiet: bool = False
    no_heavy: str | None = None


# Pedal sets have bounds of their own.
HEAVY_EXERCISE_TYPES = frozenset(f.id for f in EXERCISE_TYPES.values() if f.load == Load.HIGH and not f.counted_in_sets)


def high_loads(days: Iterable[ExerciseTypeDay]) -> dict[int, float]:
    """The load of heavy exercises by day."""
    loads: dict[int, float] = {}
    for day in days:
        if day.exercise_type in HEAVY_EXERCISE_TYPES:
            loads[day.day] = loads.get(day.day, 0.0) + day.load
    return loads


def middle_of(instrument: Instrument) -> int:
    """The comfortable middle of the range, as a keyboard number."""
    fingering = Fingering(position=1) if instrument.slides else Fingering(side=instrument.sides[0].name)
    return slot_of(instrument, fingering, instrument.middle_partial).pitch.midi


def planning_context_of(
    remembered: PracticeHistory,
    said: CheckIn,
    *,
    instrument: Instrument,
    standard: Standard,
    approaches: Approaches,
    care: Care,
    today: int,
    week: Week | None,
    wishes: Iterable[GoalRequest] = (),
) -> PlanningContext:
    """All that a day is planned from."""
    range_notes, days = dict(remembered.range_notes), remembered.days
    planned = next((day for day in week.days if day.day == today), None) if week else None
    pedal_days = {day.day for day in days if day.exercise_type == PEDAL_EXERCISE_TYPE and day.takes and day.day < today}
    return PlanningContext(
        instrument=instrument,
        standard=standard,
        approaches=approaches,
        care=care,
        today=today,
        kind=planned.kind if planned else DayKind.MEDIUM,
        kind_why=planned.why if planned else "",
        target=planned.target if planned else None,
        week_left=_week_left(week, remembered, today) if week else None,
        high_left=max(0.0, week.high_bound - remembered.high_between(week.start, today + 1)) if week else None,
        lips=said.lips,
        quiet=said.quiet,
        no_heavy=said.no_heavy,
        played_load=round(remembered.load_on(today), 1),
        in_range=PlayerRange(range_of(range_notes, joined=False), range_of(range_notes, joined=True)),
        start_up=_first_range_note(range_notes, instrument, standard),
        start_down=max(
            lowest_pedal(instrument).midi,
            start_tomorrow(range_notes, up=False, otherwise=_easy(range_notes, instrument)),
        ),
        stale=_stale(range_notes, today),
        lately=lately(days, since=today - RECENTLY),
        standings=remembered.standings,
        practising_since=min((day.day for day in days), default=None),
        heavy_yesterday=frozenset(
            day.exercise_type
            for day in days
            if day.day == today - 1
            and day.takes
            and day.exercise_type in EXERCISE_TYPES
            and EXERCISE_TYPES[day.exercise_type].load == Load.HIGH
        ),
        wishes=tuple(wishes),
        sets=sets_today(remembered.sets, today, braces=care.braces, returning=care.returning),
        pedal_days=sum(day >= monday(today) for day in pedal_days),
        pedals_yesterday=today - 1 in pedal_days,
    )


def _first_range_note(range_notes: dict[int, RangeNote], instrument: Instrument, standard: Standard) -> int:
    """Where a climb begins: a few notes inside what is in range. Where nothing is in range yet it begins on easy ground: a fourth
    under what the player calls comfortable, or else about the middle, those who start below it.
    """
    low, high = instrument.setup.comfortable_low, instrument.setup.comfortable_high
    if high is not None and range_of(range_notes, joined=False).high is None:
        return max(high.midi - _UNDER_SAID, low.midi if low else lowest_pedal(instrument).midi)
    return start_tomorrow(
        range_notes,
        up=True,
        otherwise=instrument.easy.midi + 2 if standard == Standard.BEGINNER else middle_of(instrument),
    )


def _easy(range_notes: Mapping[int, RangeNote], instrument: Instrument) -> int:
    """Where a descent begins where nothing is in range: the low note that the player calls comfortable, or the instrument's easy one."""
    low = instrument.setup.comfortable_low
    return low.midi if low is not None and not range_notes else instrument.easy.midi


def _week_left(week: Week, remembered: PracticeHistory, today: int) -> float:
    """What is planned of the week and was not played before today."""
    return max(0.0, UNDER * week.bound - remembered.load_between(week.start, today))


def _stale(range_notes: Mapping[int, RangeNote], today: int) -> tuple[int, ...]:
    """Notes in range that were not tried for a while."""
    stale = []
    for midi, range_note in range_notes.items():
        if range_note.state == RangeState.IN_RANGE:
            tried = max((*range_note.clean_days, *range_note.failed_days), default=today)
            if today - tried >= NOTES_AFTER:
                stale.append(midi)
    return tuple(sorted(stale))
