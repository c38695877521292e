"""A day that gives way: what is left of it chosen again in a session, with its exercises, and said in a sentence."""

from collections.abc import Iterable
from dataclasses import dataclass

from orexis.core.exercises import EXERCISE_TYPES, DayPlace, Series
from orexis.core.messages import tell
from orexis.core.planning.blocks import DayPlan, day_series, planned_blocks
from orexis.core.planning.context import PlanningContext
from orexis.core.planning.day import rest_of_day
from orexis.core.practice import BlockPlan, SessionState, left_by, loosening_due, routine_of, with_rest_of_day


@dataclass(frozen=True, slots=True)
class ReplannedSession:
    """The session with the rest of its day chosen anew.

    `first`: number of the first block that is another; `series`: of the blocks from there on, a number where the block stays
    as it was under that number; `plan`: what was chosen, None where blocks only changed their order.
    """

    state: SessionState
    first: int
    series: tuple[Series | int, ...]
    plan: DayPlan | None = None


def replan_rest(
    known: PlanningContext, before: SessionState, after: SessionState, *, without: Iterable[str] = ()
) -> ReplannedSession | None:
    """The session after a step in which its day gave way; None where it did not, or where nothing else can be chosen.

    `known`: as of now, today's takes included. `without`: exercise types that the player left out.
    """
    at = loosening_due(before, after)
    if at is not None:
        return _loosened(after, at)
    left = left_by(before, after)
    plan = rest_of_day(known, left, without=without) if left is not None else None
    if left is None or plan is None:
        return None
    made = day_series(known, plan)
    routine = routine_of(known.instrument, known.approaches, zip(made, planned_blocks(known, plan, made), strict=True))
    tail: list[tuple[Series | int, BlockPlan]] = list(zip(routine.blocks, routine.plan, strict=True))
    for number in left.held:
        held = after.plan[number]
        tail.insert(_place_for(held, [block for _, block in tail]), (number, held))
    staying = [after.plan[at] for at in (*range(after.block, left.first), *left.held)]
    blocks = tuple(block for _, block in tail)
    state = with_rest_of_day(after, left.first, blocks, _said(before, staying, plan))
    return ReplannedSession(state, left.first, tuple(series for series, _ in tail), plan)


def _loosened(after: SessionState, at: int) -> ReplannedSession:
    """The block that loosens lips moved to the front of what is to come."""
    first = after.block + 1
    order = (at, *(number for number in range(first, len(after.plan)) if number != at))
    said = tell("{name} come next: they loosen tiring lips.", name=EXERCISE_TYPES[after.plan[at].exercise_type].name)
    state = with_rest_of_day(after, first, tuple(after.plan[number] for number in order), said)
    return ReplannedSession(state, first, order)


def _place_for(held: BlockPlan, blocks: list[BlockPlan]) -> int:
    """In front of the first block whose place in the day comes later, or that is only brought in at the end."""
    order = [str(place) for place in DayPlace]
    later = [at for at, block in enumerate(blocks) if block.spare or order.index(block.place) > order.index(held.place)]
    return min(later, default=len(blocks))


def _said(before: SessionState, staying: Iterable[BlockPlan], plan: DayPlan) -> str:
    """What came in and what was left out; nothing where only the minutes changed."""
    was = [block.exercise_type for block in before.plan[before.block + 1 :] if not block.spare]
    now = [*(block.exercise_type for block in plan.blocks), *(block.exercise_type for block in staying)]
    new = [EXERCISE_TYPES[exercise_type].name for exercise_type in now if exercise_type not in was]
    out = [EXERCISE_TYPES[exercise_type].name for exercise_type in was if exercise_type not in now]
    parts = [tell("Added: {new}.", new=", ".join(new))] if new else []
    parts += [tell("Moved to another day: {out}.", out=", ".join(out))] if out else []
    return " ".join(["The rest of the plan has changed.", *parts]) if parts else ""
