"""Where the session stands next: exercises, blocks, rests, check notes, the end."""

from collections.abc import Sequence
from dataclasses import replace

from orexis.core.coach import CHECK_EVERY_S, Advice, Freshness, NextStep, rest_after
from orexis.core.exercises import Advance, DayPlace, Form, Load
from orexis.core.practice.state import BlockPlan, Phase, Rest, SessionState, lowest_good

TIRING_REST_S = 300.0  # five minutes, in which lips recover most of what they will
_WORTH_GIVING_S, _MOST_LONGER, _LEAST_LEFT = 15.0, 2.5, 0.4
_LEAST_SPARE_S, _MOST_SPARE_S, _LEAST_SPARE_LOAD = 100.0, 600.0, 4.0
_MOST_BREATH_S = 300.0  # the most spare time that goes to breathing at once


def carried_out(state: SessionState, name: NextStep) -> SessionState:
    """The session after a piece of advice was taken."""
    match name:
        case NextStep.NEXT:
            return in_block(state, state.exercise_index + 1)
        case NextStep.BACK:
            return in_block(state, max(0, state.exercise_index - 1))
        case NextStep.FROM_THE_TOP:
            return in_block(_down_to_the_last_good(state), state.current.first)
        case NextStep.EASIER:
            return state.at(state.block, state.exercise_index, _easier(state.form, state.current.advance))
        case NextStep.AS_WRITTEN:
            return state.at(state.block, state.exercise_index)
        case NextStep.END_BLOCK | NextStep.END_REGISTER:
            return next_block(state)
        case NextStep.WAIT:
            return replace(state.at(state.block, state.exercise_index, state.form), paused=True, bars=None)
    return state.at(state.block, state.exercise_index, state.form)


def _down_to_the_last_good(state: SessionState) -> SessionState:
    """A descent that was lost ends, from now on, where it was last good; anything else stays as it is."""
    end = lowest_good(state)
    if end is None or state.here[-1].outcome.is_good:
        return state
    shorter = replace(state.current, exercises=end + 1)
    return replace(state, plan=(*state.plan[: state.block], shorter, *state.plan[state.block + 1 :]))


def in_block(state: SessionState, index: int) -> SessionState:
    """In front of another exercise of the block, or of the next block after the last exercise."""
    if index >= state.current.exercises:
        return next_block(state)
    there = state.at(state.block, index)
    if state.current.advance == Advance.SETS and index > state.exercise_index:
        pitch = index in state.current.pauses
        seconds = state.current.pause_s if pitch else state.current.rest_s or 180.0
        rest = Rest(seconds, "a long rest before the next pitch" if pitch else "between sets")
        return replace(there, phase=Phase.REST, rest=rest, block_s=state.block_s + seconds)
    return with_check(there)


def next_block(state: SessionState) -> SessionState:
    """The next block that is allowed, after a rest as long as this one asks for."""
    following = state.block + 1
    while following < len(state.plan) and state.is_barred(state.plan[following]):
        following += 1
    if following >= len(state.plan):
        return finished(state)
    spare, recovery = state.plan[following].spare, state.plan[following].recovery
    rest = Rest(0.0, "") if recovery else _rest_between(state)
    used_s = state.used_s + state.block_used_s
    if not spare:
        plan = _time_given_on(state, following, rest.seconds)
    else:
        block = _spare_found(state, following, used_s, rest)
        if block is None:
            return finished(state)
        following, plan, rest = block
    shared = replace(state, used_s=used_s + rest.seconds, plan=plan)
    there = shared.at(following, shared.plan[following].first, form_at_first(shared.plan[following]))
    if recovery:  # what was played before it is rested from after it
        return with_check(replace(there, block_playing_s=state.block_playing_s))
    if state.block_playing_s <= 0.0 or rest.seconds <= 0.0:
        return with_check(there)
    return replace(there, phase=Phase.REST, rest=rest)


def form_at_first(plan: BlockPlan) -> Form:
    """What comes back begins in the easier form."""
    return Form.SLOWER if plan.easier else Form.AS_WRITTEN


def _rest_between(state: SessionState) -> Rest:
    """As long as was played, less what was rested between takes."""
    plan = state.current
    seconds = rest_after(state.block_playing_s, plan.load, rested_s=state.block_rested_s, extra=state.extra_rest)
    rested = state.block_rested_s > 0.5 * state.block_playing_s
    return Rest(seconds, "short: you rested between takes" if rested else "as long as you played")


def _time_given_on(state: SessionState, following: int, rest_s: float) -> tuple[BlockPlan, ...]:
    """The plan with the minutes, and the load, that this block and any that is left out did not use shared over what follows.

    What it took beyond its own comes off what follows, so that the day keeps its length.
    """
    plan = state.plan
    if not plan[following].minutes:
        return plan
    ended = plan[state.block : following]
    barred = [block for block in plan[following:] if state.is_barred(block)]
    # Sets need the time that they need, neither more nor less.
    open_ = [block for block in plan[following:] if block not in barred and block.advance != Advance.SETS]
    total = _minutes(open_)
    spare = 60.0 * (_minutes(ended) + _minutes(barred)) - state.block_used_s - rest_s
    if abs(spare) < _WORTH_GIVING_S or total <= 0.0:
        return plan
    longer = min(_MOST_LONGER, max(_LEAST_LEFT, 1.0 + spare / (60.0 * total)))
    unused = max(0.0, _load(ended) + _load(barred) - state.block_load)
    heavier = 1.0 + unused / _load(open_) if _load(open_) > 0.0 else 1.0
    return (
        *plan[:following],
        *(_longer(block, longer, heavier) if block in open_ else block for block in plan[following:]),
    )


def _longer(block: BlockPlan, longer: float, heavier: float) -> BlockPlan:
    most = None if block.most_load is None else round(block.most_load * max(1.0, min(longer, heavier)), 2)
    return replace(block, minutes=round((block.minutes or 0.0) * longer, 2), most_load=most)


def _spare_found(
    state: SessionState, following: int, used_s: float, rest: Rest
) -> tuple[int, tuple[BlockPlan, ...], Rest] | None:
    """The first spare block for which there is time and load, the plan with it, and the rest before it: none before breath."""
    for at in range(following, len(state.plan)):
        before = Rest(0.0, "") if state.plan[at].place == DayPlace.BREATH else rest
        plan = _with_time_left(state, at, used_s + before.seconds)
        if plan is not None:
            return at, plan, before
    return None


def _with_time_left(state: SessionState, following: int, used_s: float) -> tuple[BlockPlan, ...] | None:
    """The plan with a spare block brought in for what is left of the day's minutes and load; None where that is too little.

    Breath asks nothing of the lips: it comes where the load is used up and minutes are left.

    Nothing is added for lips that are spent, or after anything was reported.
    """
    spent = any(check.state == Freshness.SPENT for check in state.checks)
    if state.minutes is None or spent or state.caution is not None:
        return None
    spare, left_s = state.plan[following], 60.0 * state.minutes - used_s
    load = None if state.most_load is None else state.most_load - state.load
    for_the_lips = spare.place != DayPlace.BREATH
    if left_s < _LEAST_SPARE_S or (for_the_lips and load is not None and load < _LEAST_SPARE_LOAD):
        return None
    last = for_the_lips and all(block.place == DayPlace.BREATH for block in state.plan[following + 1 :])
    most_s = left_s if last else _MOST_SPARE_S if for_the_lips else _MOST_BREATH_S
    minutes = round(min(left_s, most_s) / 60.0, 2)
    most_load = round(load, 2) if for_the_lips and load is not None else None
    brought = replace(spare, minutes=minutes, most_load=most_load)
    return (*state.plan[:following], brought, *state.plan[following + 1 :])


def _minutes(blocks: Sequence[BlockPlan]) -> float:
    return sum(block.minutes or 0.0 for block in blocks)


def _load(blocks: Sequence[BlockPlan]) -> float:
    return sum(block.most_load or 0.0 for block in blocks)


def finished(state: SessionState) -> SessionState:
    """The last check note, where checks are on and something was played since the last one; then the end."""
    if state.checks_on and state.since_check_s > 30.0 and not state.checking:
        return replace(state.at(state.block, state.exercise_index), checking=True, ending=True)
    return over(state)


def over(state: SessionState) -> SessionState:
    """The end: nothing is under way any more."""
    return replace(
        state, phase=Phase.DONE, take_key=None, advice=None, rest=None, checking=False, ending=False, paused=False
    )


def with_check(state: SessionState) -> SessionState:
    """The check note first, when ten minutes of playing have passed since the last."""
    due = state.checks_on and state.since_check_s >= CHECK_EVERY_S
    return replace(state, checking=True, bars=None) if due else state


def after_check(state: SessionState, advice: Advice) -> SessionState:
    """On from the check note, with what it said."""
    if advice.step == NextStep.AGAIN:
        return state.at(state.block, state.exercise_index, state.form)
    there = replace(state.at(state.block, state.exercise_index, state.form), checking=False)
    if state.ending:
        return over(there)
    if state.here and _nothing_follows(state) and state.register_over is not None:
        return finished(there)
    if state.is_barred(state.current):
        return next_block(there)
    if advice.step == NextStep.REST:
        rest = Rest(TIRING_REST_S, "the check note says your lips are tiring")
        return replace(there, phase=Phase.REST, rest=rest, block_s=there.block_s + rest.seconds)
    return there


def only_easy_follows(state: SessionState) -> bool:
    """Whether neither the present block nor any that comes after it, spare ones not counted, is more than easy."""
    coming = [state.current, *(block for block in state.plan[state.block + 1 :] if not block.spare)]
    return all(block.load == Load.EASY for block in coming)


def _nothing_follows(state: SessionState) -> bool:
    """Whether the present block is the last, spare ones not counted."""
    return all(block.spare for block in state.plan[state.block + 1 :])


def _easier(form: Form, advance: Advance) -> Form:
    """Slower first, then shorter; going down, fewer notes at once."""
    if advance == Advance.FALLING:
        return Form.SHORTER
    return {Form.AS_WRITTEN: Form.SLOWER, Form.SLOWER: Form.SHORTER}.get(form, form)
