"""Planning: the day with what the player changed in it, the weeks, paths."""

from collections.abc import Iterable
from dataclasses import replace
from datetime import date, datetime

from orexis.core.exercises import EXERCISE_TYPES, exercise_type_named, exercise_types_for
from orexis.core.messages import tell
from orexis.core.planning import (
    CheckIn,
    DayPlan,
    Days,
    GoalTarget,
    KeptBlock,
    PlanningContext,
    PlayingHistory,
    Week,
    as_arranged,
    compose,
    instead,
    monday,
    plan_week,
    wish_of,
)
from orexis.core.progress import opens, path_of
from orexis.errors import InputError
from orexis.services.clock import local_day, now
from orexis.services.documents import from_json
from orexis.services.planning.goals import goals_of
from orexis.services.planning.remember import days_of, planning_context_from, playing_history_of, whose_of
from orexis.services.planning.written import in_written
from orexis.services.players.use import Players
from orexis.services.projections.registry import LEVELS
from orexis.services.record import Record
from orexis.services.values.planning import DayShown, PathShown, WeeksShown
from orexis.services.values.players import Player

WEEKS_AHEAD, WEEKS_BACK = 3, 4
_MOST_WEEKS = 53  # at once
_FARTHEST = 7 * 520  # days from today, either way: ten years
_MOST_SWAPS = 8  # as many as a menu shows without scrolling


class Planning:
    """The day's plan, the weeks, and the levels a player stands on."""

    def __init__(self, record: Record, players: Players) -> None:
        self._record, self._players = record, players

    # -- the day -----------------------------------------------------------------------------------------------------

    def known(self, person: Player, said: CheckIn, at: datetime) -> PlanningContext:
        """All that today is planned from, the wishes of the goals that are on included."""
        today = local_day(at)
        with self._record.database.reading() as db:
            bare = planning_context_from(db, person, said, today)
            rows = goals_of(db, person, states=("on",))
        return replace(bare, wishes=tuple(wish_of(from_json(GoalTarget, row.target), bare) for row in rows))

    def day(
        self,
        person: Player,
        minutes: int,
        said: CheckIn,
        *,
        kept: Iterable[KeptBlock] = (),
        without: Iterable[str] = (),
        arranged: bool = False,
        at: datetime | None = None,
    ) -> tuple[PlanningContext, DayPlan]:
        """The day. `arranged`: exactly the kept blocks in their order; otherwise composed around those."""
        known = self.known(person, said, at or now())
        blocks = tuple(kept)
        for block in blocks:
            if not exercise_type_named(block.exercise_type).suits(person.own_instrument):
                raise InputError(
                    tell(
                        "{exercise_type_named} isn’t for the {own_instrument}.",
                        exercise_type_named=exercise_type_named(block.exercise_type).name,
                        own_instrument=person.own_instrument.name,
                    )
                )
        if arranged:
            return known, as_arranged(known, blocks)
        return known, compose(known, minutes, kept=blocks, without=without)

    def shown(self, person: Player, known: PlanningContext, plan: DayPlan) -> DayShown:
        """A day for the page, its notes as the player reads them."""
        part = person.own_instrument.part(person.part)
        names = {exercise_type.id: exercise_type.name for exercise_type in exercise_types_for(known.instrument)}
        here = {block.exercise_type for block in plan.blocks}
        others = {
            block.exercise_type: instead(known, block.exercise_type, plan.minutes, without=here)[:_MOST_SWAPS]
            for block in plan.blocks
        }
        blocks = tuple(
            replace(block, why=in_written(block.why, part), says=in_written(block.says, part)) for block in plan.blocks
        )
        return DayShown(replace(plan, blocks=blocks), names, others)

    # -- the weeks ---------------------------------------------------------------------------------------------------

    def weeks(
        self, player_id: str, *, since: date | None = None, count: int | None = None, at: datetime | None = None
    ) -> WeeksShown:
        """The weeks played, this one as it is planned now, and those ahead if they go as planned.

        `since`, `count`: so many weeks from that of a date; otherwise the last few that were played and those that are planned closely.
        InputError for more than a year at once, or a date too far away.
        """
        person, today = self._players.get(player_id), local_day(at or now())
        start = monday(today)
        first, last = _window(start, since, count)
        with self._record.database.reading() as db:
            practised = playing_history_of(db, person, min(today, first), until=today)
        given = days_of(person, today, end=last)
        back = [_past(week, practised, given, person) for week in range(first, min(start, last), 7)]
        shown = [week for week in back if since is not None or any(day.played for day in week.days)]
        for week_start in range(start, last, 7):
            week = plan_week(max(today, week_start), week_start, practised, given, standard=person.standard)
            if week_start >= first:
                shown.append(week)
            practised = _as_planned(practised, week, today)
        return WeeksShown(
            today,
            tuple(shown),
            given.minutes,
            tuple(sorted(person.settings.performances)),
            dict(person.settings.moved),
            tuple(_warnings(shown, today)),
        )

    # -- paths -------------------------------------------------------------------------------------------------------

    def paths(self, player_id: str, *, at: datetime | None = None) -> tuple[PathShown, ...]:
        """Every path of the instrument in hand, and where the player stands on it."""
        person, today = self._players.get(player_id), local_day(at or now())
        with self._record.database.reading() as db:
            known = planning_context_from(db, person, CheckIn(), today)
        shown, part = [], person.own_instrument.part(person.part)
        for exercise_type in exercise_types_for(person.own_instrument):
            path = path_of(exercise_type.id, person.own_instrument)
            if path is None:
                continue
            standing = known.standing(path)
            lately = known.lately.get(exercise_type.id)
            shown.append(
                PathShown(
                    exercise_type.id,
                    exercise_type.name,
                    standing.step,
                    tuple(in_written(step.say, part) for step in path.steps),
                    dict(path.steps[standing.step].params),
                    opens(standing, path),
                    standing.change,
                    lately is not None and lately.is_back_on(today),
                )
            )
        return tuple(shown)

    def set_step(self, player_id: str, exercise_type_id: str, step: int, *, at: datetime | None = None) -> None:
        """The player's own word about where they stand; InputError for a step that there is not."""
        person = self._players.get(player_id)
        path = path_of(exercise_type_named(exercise_type_id).id, person.own_instrument)
        if path is None:
            raise InputError(
                tell(
                    "{exercise_types} has no levels: its start follows your range.",
                    exercise_types=EXERCISE_TYPES[exercise_type_id].name,
                )
            )
        if not 0 <= step < len(path.steps):
            raise InputError(
                tell("There is no level {step}: choose 1 to {count}.", step=step + 1, count=len(path.steps))
            )
        with self._record.database.writing() as db:
            LEVELS.set_by_hand(db, whose_of(person).owner, exercise_type_id, step, local_day(at or now()))


def _window(this_week: int, since: date | None, count: int | None) -> tuple[int, int]:
    """The first day of a window of weeks, and the day after its last."""
    if since is None:
        return this_week - 7 * WEEKS_BACK, this_week + 7 * (WEEKS_AHEAD + 1)
    first = monday(since.toordinal())
    if abs(first - this_week) > _FARTHEST:
        raise InputError(
            tell("{isoformat} is too far away: choose a date within ten years.", isoformat=since.isoformat())
        )
    weeks = count or 6
    if not 1 <= weeks <= _MOST_WEEKS:
        raise InputError(tell("{weeks} weeks at once: choose 1 to {most_weeks}.", weeks=weeks, most_weeks=_MOST_WEEKS))
    return first, first + 7 * weeks


def _past(start: int, practised: PlayingHistory, given: Days, person: Player) -> Week:
    """A week that is over: what was played on its days, under the bound that it had."""
    before = PlayingHistory(
        {day: load for day, load in practised.loads.items() if day < start},
        practised.spent,
        practised.heavy,
        practised.high,
    )
    planned = plan_week(start, start, before, given, standard=person.standard)
    days = tuple(replace(day, played=practised.loads.get(day.day)) for day in planned.days)
    return replace(planned, days=days)


def _as_planned(practised: PlayingHistory, week: Week, today: int) -> PlayingHistory:
    """As if the days ahead went as planned."""
    ahead = {day.day: day.target for day in week.days if day.day >= today and day.target}
    heavy = {day.day for day in week.days if day.kind == "heavy"}
    return PlayingHistory({**practised.loads, **ahead}, practised.spent, practised.heavy | heavy, practised.high)


def _warnings(weeks: list[Week], today: int) -> Iterable[str]:
    for week in weeks:
        played = sum(day.played or 0.0 for day in week.days)
        if week.start <= today < week.start + 7 and played > week.bound:
            yield "You have played enough for this week: the days left are off."
    ahead = [day for week in weeks for day in week.days if day.day >= today]
    if ahead and not any(day.minutes for day in ahead):
        yield "No practice time is set. Set minutes for at least one day."
