"""When a planned day gives way, and what it has left then: a block was over before its time, or may not be played any more."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from orexis.core.coach import Freshness
from orexis.core.exercises import DayPlace, Load, exercise_type_named
from orexis.core.practice.progression import form_at_first
from orexis.core.practice.state import TIRED_LIPS, BlockPlan, Phase, SessionState

WORTH_IT_S = 90.0  # less than this is shared out, and nothing is chosen anew


@dataclass(frozen=True, slots=True)
class TimeLeft:
    """What a day that is under way has left. Minutes include the rests.

    `first`: number of the first block that may be chosen anew; `places`: of those that may, in order; `held`: numbers of
    those that stay as they are; `played`: exercise types that were begun, `high` of them heavy; `spare_minutes`, `spare_load`: what
    is left beyond what was planned for the places; the load None where the day is not bounded.
    """

    first: int
    day_minutes: int
    minutes: float
    load: float | None
    places: tuple[DayPlace, ...]
    held: tuple[int, ...]
    played: frozenset[str]
    high: int
    spare_minutes: float
    spare_load: float | None
    nothing_high: bool
    tired: bool  # the player said so
    ended: DayPlace | None = None  # the place of the block that was just over


def left_by(before: SessionState, after: SessionState) -> TimeLeft | None:
    """What is left where the step from one block to the next freed time or closed what was to come; None where it did not."""
    if after.minutes is None or after.phase == Phase.DONE or after.current.spare:
        return None
    on = after.block > before.block
    shut = any(after.is_barred(block) for block in after.plan[after.block :])
    if not (shut and (on or before.register_over is None)) and not (on and _freed_s(before, after) >= WORTH_IT_S):
        return None
    first = after.block + int(not on or after.current.recovery)
    following = [at for at in range(first, len(after.plan)) if not after.plan[at].spare]
    held = [at for at in following if _stays(after, after.plan[at])]
    # What loosens after a climb to the limit comes with the climb, if that is chosen again.
    open_ = [at for at in following if at not in held and (after.plan[at].minutes or not after.plan[at].recovery)]
    wanted = [before.plan[at] for at in open_ if not after.is_barred(after.plan[at])]
    staying = [after.plan[at] for at in (*range(after.block, first), *held)]
    minutes = after.minutes - after.used_s / 60.0 - _minutes(staying)
    load = None if after.most_load is None else after.most_load - after.load - _load(staying)
    if minutes <= 0.0 or not open_:
        return None
    begun = after.plan[:first]
    return TimeLeft(
        first=first,
        day_minutes=round(after.minutes),
        minutes=minutes,
        load=None if load is None else max(0.0, load),
        places=tuple(DayPlace(after.plan[at].place) for at in open_),
        held=tuple(held),
        played=frozenset(block.exercise_type for block in begun) | {after.plan[at].exercise_type for at in held},
        high=sum(block.load == Load.HIGH for block in (*begun, *(after.plan[at] for at in held))),
        spare_minutes=minutes - _minutes(wanted),
        spare_load=None if load is None else load - _load(wanted),
        nothing_high=after.register_over is not None,
        tired=after.register_over == TIRED_LIPS,
        ended=DayPlace(before.current.place) if on else None,
    )


def loosening_due(before: SessionState, after: SessionState) -> int | None:
    """Return the number of the block that loosens lips, where the check note has just said that they are tiring and others come first."""
    judged = before.checking and not after.checking and len(after.checks) > 0
    if not judged or after.minutes is None or after.phase == Phase.DONE or after.checks[-1].state != Freshness.TIRING:
        return None
    coming = range(after.block + 2, len(after.plan))
    return next((at for at in coming if exercise_type_named(after.plan[at].exercise_type).recovers), None)


def with_rest_of_day(state: SessionState, first: int, tail: tuple[BlockPlan, ...], said: str) -> SessionState:
    """The session with other blocks from a number on; in front of the first of them, where that is where it stands."""
    plan = (*state.plan[:first], *tail)
    made = replace(state, plan=plan, changed=said)
    if state.block < first:
        return made
    return replace(made, exercise_index=plan[first].first, form=form_at_first(plan[first]))


def _freed_s(before: SessionState, after: SessionState) -> float:
    """Seconds that the blocks from the present one to the next did not need."""
    ended = before.plan[before.block : after.block]
    rest = after.rest.seconds if after.rest is not None else 0.0
    return 60.0 * _minutes(ended) - before.block_used_s - rest


def _stays(state: SessionState, block: BlockPlan) -> bool:
    """What the player holds on to, and sets, whose time is what they need; neither where it may not be played any more."""
    return (block.kept or exercise_type_named(block.exercise_type).counted_in_sets) and not state.is_barred(block)


def _minutes(blocks: Sequence[BlockPlan]) -> float:
    return sum(block.minutes or 0.0 for block in blocks)


def _load(blocks: Sequence[BlockPlan]) -> float:
    return sum(block.most_load or 0.0 for block in blocks)
