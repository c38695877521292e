"""Weeks of practice without sound: the day composed, led by the session's own machine, judged, kept, planned on from."""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace

from orexis.core.approaches import DEFAULTS
from orexis.core.coach import (
    Attempt,
    Care,
    Freshness,
    Lips,
    Outcome,
    RangeNote,
    Standard,
    add,
    attempts_of,
    judge,
    limits_of,
    load_of,
    range_of,
    set_played,
)
from orexis.core.exercises import (
    IN_SETS,
    Exercise,
    Form,
    Load,
    Series,
    SetPlayed,
    at_tempo,
    exercise_type_named,
    in_form,
)
from orexis.core.instruments import Instrument
from orexis.core.planning import (
    LOOKED_BACK,
    PRIOR_DAYS,
    CheckIn,
    DayBlock,
    DayKind,
    DayPlan,
    Days,
    ExerciseTypeDay,
    Forecast,
    GoalEvidence,
    GoalHistory,
    GoalPosition,
    GoalTarget,
    PlanningContext,
    PlayingHistory,
    PracticeHistory,
    TakeFact,
    Week,
    compose,
    day_series,
    days_for,
    forecast,
    high_loads,
    middle_of,
    monday,
    place_of,
    plan_week,
    planned_blocks,
    planning_context_of,
    replan_rest,
    week_load,
    wish_of,
    with_take,
)
from orexis.core.practice import (
    Event,
    EventName,
    Phase,
    Routine,
    SessionState,
    TakeResult,
    gap_after,
    routine_of,
    state_for,
    step,
    usual_spent_s,
)
from orexis.core.progress import PathPosition, entered, moved, path_of, stands
from orexis.core.rehearsal.fixed import fixed_routine
from orexis.core.rehearsal.learner import KINDS, Learner, learner
from orexis.core.rehearsal.values import (
    BlockPlayed,
    FirstWeek,
    Planner,
    Rehearsal,
    RehearsedDay,
    RehearsedGoal,
    RehearsedWeek,
)

FIRST_DAY = 739_614  # a Monday
_MOST_TAKES = 400  # no day holds more: stops a session that never ends
_FORECAST_EVERY = 7  # days: once a week is how often people look
_SORE_CHANCE = 0.25  # two overdone days in a row hurt one player in four
_CARE = Care()


@dataclass(slots=True)
class _Memory:
    """What a rehearsal remembers of its days, as the record would of a player's."""

    days: dict[tuple[str, int], ExerciseTypeDay] = field(default_factory=dict)
    standings: dict[str, PathPosition] = field(default_factory=dict)
    range_notes: dict[int, RangeNote] = field(default_factory=dict)
    sets: list[SetPlayed] = field(default_factory=list)
    loads: dict[int, float] = field(default_factory=dict)
    spent: set[int] = field(default_factory=set)
    heavy: set[int] = field(default_factory=set)

    def remembered(self, today: int) -> PracticeHistory:
        recent = tuple(day for (_, on), day in self.days.items() if on >= today - LOOKED_BACK)
        return PracticeHistory(recent, dict(self.standings), dict(self.range_notes), tuple(self.sets))

    def practised(self) -> PlayingHistory:
        high = high_loads(self.days.values())
        return PlayingHistory(dict(self.loads), frozenset(self.spent), frozenset(self.heavy), high)


def rehearse(
    *,
    weeks: int,
    instrument: Instrument,
    standard: Standard,
    kind: str,
    seed: int,
    minutes: int = 30,
    targets: Iterable[GoalTarget] = (),
    planner: Planner = Planner.RECORD,
    days_a_week: int = 6,
    first_week: FirstWeek = FirstWeek.FULL,
) -> Rehearsal:
    """So many weeks. The same arguments give the same weeks."""
    chosen = KINDS[kind]
    who = learner(chosen, instrument, chosen.standard or standard, seed, middle=middle_of(instrument))
    return _RehearsalRun(who, weeks, minutes, list(targets), planner, days_a_week, first_week).run()


class _RehearsalRun:
    def __init__(
        self,
        who: Learner,
        weeks: int,
        minutes: int,
        targets: list[GoalTarget],
        planner: Planner,
        days_a_week: int,
        first_week: FirstWeek,
    ) -> None:
        self.who, self.weeks, self.minutes, self.planner = who, weeks, minutes, planner
        self.first_week = first_week
        self.given = Days(tuple(minutes if at < days_a_week else 0 for at in range(7)))
        self.memory = _Memory()
        end = FIRST_DAY + 7 * weeks
        self.out = Rehearsal(who, [], [], [RehearsedGoal(target, end) for target in targets], {}, {}, {}, {}, {})

    def run(self) -> Rehearsal:
        week: Week | None = None
        for day in range(FIRST_DAY, FIRST_DAY + 7 * self.weeks):
            week = plan_week(day, monday(day), self.memory.practised(), self.given, standard=self.who.standard)
            planned = next(item for item in week.days if item.day == day)
            if day == week.start:
                self.out.weeks.append(RehearsedWeek(week.start, week.bound, week.target, 0.0))
            minutes = planned.minutes
            if day < FIRST_DAY + 7:
                minutes = self.first_week.minutes(day - FIRST_DAY, minutes)
            played = self._day(day, planned.kind if minutes else DayKind.OFF, minutes, week)
            self.out.days.append(played)
            self._night(day, played)
        self.out.weeks = [
            replace(item, load=round(week_load(self.memory.loads, item.start), 1)) for item in self.out.weeks
        ]
        self.out.standings = self.memory.standings
        return self.out

    # -- a day -----------------------------------------------------------------------------------------------------

    def _day(self, day: int, kind: DayKind, minutes: int, week: Week) -> RehearsedDay:
        lips = self._lips_in_the_morning()
        away = self._is_away(day)
        if kind == DayKind.OFF or away or lips == Lips.SORE:
            self._goals(day, self._known(day, lips, week))
            return self._closed(RehearsedDay(day, DayKind.OFF, 0, None, lips=lips))
        known = self._known(day, lips, week)
        self._goals(day, known)
        if self.planner == Planner.FIXED:
            plan, routine = self._fixed(known)
        else:
            plan = compose(known, minutes)
            if self.first_week == FirstWeek.ONE_EXERCISE and day < FIRST_DAY + 7:
                plan = replace(plan, blocks=plan.blocks[-1:], spare=())
            series = day_series(known, plan)
            planned = zip(series, planned_blocks(known, plan, series), strict=True)
            routine = routine_of(self.who.instrument, known.approaches, planned)
        blocks = [BlockPlayed(b) for b in plan.blocks] + [BlockPlayed(b, spare=True) for b in plan.spare]
        asked = sum(block.minutes for block in plan.blocks)
        out = RehearsedDay(day, kind, minutes, plan.target, lips=lips, blocks=blocks, planned_minutes=asked)
        sets = next((b for b in plan.blocks if b.exercise_type == IN_SETS.id), None)
        if sets is not None and known.sets is not None:
            self.out.sets_by_day[day] = (int(sets.params.get("sets", "2")), known.sets.sets)
        self._session(out, routine, week)
        return self._closed(out)

    def _fixed(self, known: PlanningContext) -> tuple[DayPlan, Routine]:
        routine = fixed_routine(
            self.who.instrument,
            approaches=DEFAULTS,
            care=_CARE,
            in_range=known.in_range,
            start_midi=known.start_up,
            lips=known.lips,
        )
        blocks = tuple(
            DayBlock(
                b.exercise_type,
                exercise_type_named(b.exercise_type).place,
                b.load,
                b.minutes or 0.0,
                b.why,
                step=self._step_of(b.exercise_type, s),
            )
            for b, s in zip(routine.plan, routine.blocks, strict=True)
        )
        return DayPlan(30, DayKind.MEDIUM, None, 0.0, blocks), routine

    def _step_of(self, exercise_type: str, series: Series) -> int | None:
        """A fixed routine's exercises stand as high on the path as the standard enters it, or at its first step."""
        path = path_of(exercise_type, self.who.instrument)
        return entered(path, self.who.standard).step if path is not None else None

    def _known(self, day: int, lips: Lips, week: Week) -> PlanningContext:
        bare = self._bare(day, lips, week)
        wishes = [wish_of(item.target, bare) for item in self.out.goals if item.reached is None]
        return replace(bare, wishes=tuple(wishes))

    def _bare(self, day: int, lips: Lips, week: Week) -> PlanningContext:
        return planning_context_of(
            self.memory.remembered(day),
            CheckIn(lips=lips),
            instrument=self.who.instrument,
            standard=self.who.standard,
            approaches=DEFAULTS,
            care=_CARE,
            today=day,
            week=week,
        )

    def _lips_in_the_morning(self) -> Lips:
        last = self.out.days[-1] if self.out.days else None
        if last is None or not last.load:
            return Lips.FRESH
        overdone = [d for d in self.out.days[-2:] if d.endurance == Freshness.SPENT]
        if len(overdone) == 2 and self.who.rng.random() < _SORE_CHANCE:
            return Lips.SORE
        if overdone and overdone[-1] is last:
            return Lips.TIRED if self.who.rng.random() < 0.5 else Lips.WORKED
        return Lips.WORKED if last.endurance == Freshness.TIRING else Lips.FRESH

    def _is_away(self, day: int) -> bool:
        away = self.who.kind.away
        if not away:
            return False
        first = FIRST_DAY + 7 * max(1, (self.weeks - away) // 2)
        return first <= day < first + 7 * away

    # -- a session -------------------------------------------------------------------------------------------------

    def _session(self, out: RehearsedDay, routine: Routine, week: Week) -> None:
        state = state_for(
            routine, checks=True, approaches=DEFAULTS, care=_CARE, in_time=True, light=out.kind == DayKind.LIGHT
        )
        for number in range(_MOST_TAKES):
            if state.phase == Phase.DONE:
                break
            if state.phase == Phase.REST and state.rest is not None:
                self.who.rests(state.rest.seconds)
                out.clock_s += state.rest.seconds
                state = step(state, Event(EventName.REST_OVER)).state
                continue
            before = state
            state = self._take(out, state, routine, number)
            advised = state.advice
            state = step(state, Event(EventName.GO_ON)).state
            if state.block != before.block or state.phase == Phase.DONE:
                out.blocks[before.block].ended = advised.say if advised else ""
                out.blocks[before.block].used_s = max(0.0, state.used_s - before.used_s)
            if self.planner == Planner.RECORD and state.block != before.block:
                state, routine = self._given_way(out, before, state, routine, week)
            if state.paused:
                break
        out.playing_s = round(state.playing_s, 1)

    def _given_way(
        self, out: RehearsedDay, before: SessionState, state: SessionState, routine: Routine, week: Week
    ) -> tuple[SessionState, Routine]:
        """The rest of the day chosen anew, where it gave way."""
        made = replan_rest(self._known(out.day, out.lips, week), before, state)
        if made is None:
            return state, routine
        first = made.first
        series = tuple(routine.blocks[item] if isinstance(item, int) else item for item in made.series)
        was = list(out.blocks)
        ended = was[before.block]
        ended.block = replace(ended.block, minutes=round((state.used_s - before.used_s) / 60.0, 1))
        chosen = {block.exercise_type: block for block in ((*made.plan.spare, *made.plan.blocks) if made.plan else ())}
        out.blocks[first:] = [
            was[item] if isinstance(item, int) else BlockPlayed(chosen[plan.exercise_type], spare=plan.spare)
            for item, plan in zip(made.series, made.state.plan[first:], strict=True)
        ]
        return made.state, Routine((*routine.blocks[:first], *series), made.state.plan, routine.check)

    def _take(self, out: RehearsedDay, state: SessionState, routine: Routine, number: int) -> SessionState:
        exercise, step_number = self._exercise(state, routine, out)
        heard = self.who.plays(exercise, step_number)
        verdict = judge(heard, exercise, limits_of(self.who.standard))
        load = load_of(
            heard,
            middle_hz=self.who.instrument.middle_partial * self.who.instrument.sides[0].fundamental.frequency(),
            top_hz=self.who.instrument.highest.frequency(),
            failed=verdict.outcome == Outcome.NOT_YET,
        )
        endurance = None
        if state.checking:
            endurance = self._check(out, state)
        self.who.has_played(exercise.exercise_type, step_number, exercise, verdict.outcome, load)
        bars = state.bars_after(exercise, exercise.duration_s)
        gap_s = gap_after(bars, exercise.duration_s)
        self.who.rests(gap_s)
        out.clock_s += exercise.duration_s + gap_s
        if bars is not None:
            out.in_time_s += exercise.duration_s + gap_s
            out.in_time_tone_s += heard.exercise.playing_s
        out.high_when_spent += (
            not state.checking and out.endurance == Freshness.SPENT and state.current.load == Load.HIGH
        )
        out.load = round(out.load + load, 2)
        key = f"{out.day}-{number}"
        if not state.checking:
            self._kept(out, state, routine, exercise, step_number, verdict.outcome, verdict.reason, load)
            for tried in attempts_of(exercise, heard, verdict, day=out.day, take_id=key):
                self._tried(tried)
            if exercise.exercise_type == IN_SETS.id:
                self.memory.sets.append(set_played(verdict, day=out.day))
        result = TakeResult(
            verdict.outcome, verdict.reason, heard.exercise.playing_s, exercise.duration_s, load, bars, endurance
        )
        begun = step(state, Event(EventName.BEGIN, key)).state
        return step(step(begun, Event(EventName.ENDED)).state, Event(EventName.JUDGED, key, result)).state

    def _exercise(self, state: SessionState, routine: Routine, out: RehearsedDay) -> tuple[Exercise, int | None]:
        if state.checking:
            return routine.check.exercises[0], None
        written = routine.blocks[state.block].exercises[state.exercise_index]
        exercise = in_form(at_tempo(written, state.tempo_percent), state.form)
        step_number = out.blocks[state.block].block.step
        easier = 1.5 if state.form != Form.AS_WRITTEN else 0.0
        return exercise, None if step_number is None else max(0, round(step_number - easier))

    def _check(self, out: RehearsedDay, state: SessionState) -> Freshness:
        checks = self.who.checks()
        if checks != Freshness.FRESH and out.minutes_to_tiring is None:
            out.minutes_to_tiring = round(state.playing_s / 60.0, 1)
        order = (Freshness.FRESH, Freshness.TIRING, Freshness.SPENT)
        out.endurance = max(out.endurance, checks, key=order.index)
        return checks

    def _kept(
        self, out: RehearsedDay, state: SessionState, routine: Routine, exercise: Exercise, step_number: int | None,
        outcome: Outcome, reason: str | None, load: float,
    ) -> None:  # fmt: skip
        block, series = out.blocks[state.block], routine.blocks[state.block]
        block.takes += 1
        block.clean += outcome.is_good
        block.load = round(block.load + load, 1)
        fact = TakeFact(
            exercise_type=exercise.exercise_type,
            day=out.day,
            exercise=series.exercises[state.exercise_index].id,
            outcome=outcome,
            step=block.block.step,
            form=state.form,
            last=state.exercise_index + 1 == len(series.exercises),
            climb=series.advance == "climb",
            asked=state.current.sets_asked,
            reason=reason,
            load=load,
            playing_s=exercise.duration_s,
            spent_s=usual_spent_s(exercise.duration_s, exercise.duration_s),
        )
        place = (exercise.exercise_type, out.day)
        self.memory.days[place] = with_take(self.memory.days.get(place), fact)

    def _tried(self, tried: Attempt) -> None:
        add(self.memory.range_notes, tried)
        self.out.met.setdefault(tried.midi, [])
        if not self.out.met[tried.midi] or self.out.met[tried.midi][-1] != tried.day:
            self.out.met[tried.midi].append(tried.day)

    # -- the night ---------------------------------------------------------------------------------------------------

    def _closed(self, out: RehearsedDay) -> RehearsedDay:
        out.alone, out.joined = (
            range_of(self.memory.range_notes, joined=False),
            range_of(self.memory.range_notes, joined=True),
        )
        for midi, range_note in self.memory.range_notes.items():
            if range_note.state == "in_range":
                self.out.in_range_on.setdefault(midi, []).append(out.day)
        return out

    def _night(self, day: int, played: RehearsedDay) -> None:
        if played.load:
            self.memory.loads[day] = played.load
        if played.endurance == Freshness.SPENT:
            self.memory.spent.add(day)
        if played.kind == DayKind.HEAVY:
            self.memory.heavy.add(day)
        self._paths(day)
        self.who.sleeps(practised=bool(played.load))

    def _paths(self, day: int) -> None:
        for (exercise_type, on), summary in self.memory.days.items():
            path = path_of(exercise_type, self.who.instrument)
            if on != day or path is None:
                continue
            told = summary.on_path()
            known = self.memory.standings.get(exercise_type)
            before = entered(path, self.who.standard) if known is None else stands(known, path, day)
            after = before if told is None else moved(before, path, told)
            self.memory.standings[exercise_type] = replace(after, last_day=day)
            row = (day, told.step if told else -1, bool(told and told.clean), before.step, after.step)
            self.out.path_days.setdefault(exercise_type, []).append(row)

    # -- goals --------------------------------------------------------------------------------------------------

    def _goals(self, day: int, known: PlanningContext) -> None:
        shown = self._shown()
        for item in self.out.goals:
            place = place_of(item.target, known, shown)
            if item.reached is None and place.reached:
                item.reached = day
            item.positions.append(place.position)
            if (day - FIRST_DAY) % _FORECAST_EVERY == 0 and day > FIRST_DAY and item.reached is None:
                item.forecasts.append((day, self._forecast(item, place, day)))

    def _forecast(self, item: RehearsedGoal, place: GoalPosition, day: int) -> Forecast:
        practised = [position for played, position in zip(self.out.days, item.positions, strict=False) if played.load]
        return forecast(
            place,
            GoalHistory([*practised, place.position]),
            prior_days=PRIOR_DAYS[item.target.kind],
            today=day,
            days_a_week=days_for(item.target.kind, self.given.minutes),
        )

    def _shown(self) -> GoalEvidence:
        minutes = [d.minutes_to_tiring for d in self.out.days[-14:] if d.minutes_to_tiring is not None]
        middle = sorted(minutes)[len(minutes) // 2] if minutes else None
        return GoalEvidence(None, middle)
