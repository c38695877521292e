"""What a judged take means for the session: advice, the state of the lips, the tempo, the time of the block."""

from dataclasses import replace

from orexis.core.coach import PROVES_NOTHING, Advice, Freshness, NextStep, Outcome, Situation, decide, rest_after
from orexis.core.exercises import EXERCISE_TYPES, Advance, Form, Load, Medium
from orexis.core.messages import tell
from orexis.core.practice.edge import came_through
from orexis.core.practice.events import TakeResult
from orexis.core.practice.progression import only_easy_follows
from orexis.core.practice.state import (
    WORN_LIPS,
    BlockPlan,
    CheckMark,
    SessionState,
    TakeMark,
    lowest_good,
    share_is_played,
)

_TEMPO_AFTER, _TEMPO_STEP, _TEMPO_RANGE = 2, 4, (72, 132)  # takes; percent
_DRY = 5  # takes in a row without one that was held
_EARLY, _MOST_ROUNDS = 0.85, 8
_NO_ROUNDS = (Advance.SETS, Advance.FAN, Advance.LIMIT)
_WARMTH_TAKES = 4  # at either end


def checked(state: SessionState, mark: TakeMark, result: TakeResult) -> SessionState:
    """After a check note: go on, rest, or no more heavy work."""
    if result.outcome == Outcome.NOT_HEARD:
        return replace(state, advice=Advice(NextStep.AGAIN, "The check note wasn’t heard. Repeat it."))
    check = CheckMark(mark.take_id, result.endurance, result.signs, state.playing_s)
    kept = replace(state, checks=(*state.checks, check), since_check_s=0.0)
    said = f" ({', '.join(result.signs)})" if result.signs else ""
    if result.endurance == Freshness.SPENT:
        return replace(
            kept,
            register_over=WORN_LIPS,
            advice=Advice(
                NextStep.END_REGISTER,
                tell("Your lips are worn out{said}. No more high work. This is a good place to stop.", said=said),
            ),
        )
    if result.endurance == Freshness.TIRING and only_easy_follows(state):
        return replace(
            kept, advice=Advice(NextStep.NEXT, tell("Your lips are tiring{said}. Finish with what is easy.", said=said))
        )
    if result.endurance == Freshness.TIRING:
        return replace(
            kept,
            advice=Advice(
                NextStep.REST, tell("Your lips are tiring{said}. Take five minutes off, then easy work.", said=said)
            ),
        )
    return replace(
        kept,
        advice=Advice(
            NextStep.NEXT, "Fresh." if result.endurance else "Noted. The next check note is compared with this one."
        ),
    )


def advised(state: SessionState, result: TakeResult) -> SessionState:
    """What comes next after a take, by the coach's rules and the block's time."""
    plan = state.current
    comfort = _edge(state)
    past = state.past_tries + int(comfort is not None and state.exercise_index > comfort)
    advice = decide(
        Situation(
            outcome=result.outcome,
            advance=plan.advance,
            index=state.exercise_index,
            first=plan.first if plan.advance.by_notes else 0,
            count=plan.exercises,
            failures=state.failures,
            same_reason=state.misses.get(result.reason or "", 0),
            lost_in_a_row=state.lost_in_a_row,
            not_heard=state.not_heard,
            form=state.form,
            high=plan.load == Load.HIGH,
            comfort=comfort,
            past_tries=past,
            lost_note=state.lost_note,
            before_lost=state.before_lost,
        )
    )
    over = advice.say if advice.step == NextStep.END_REGISTER and state.register_over is None else state.register_over
    if plan.minutes:
        advice = _within_minutes(state, 60.0 * plan.minutes, advice)
    return replace(state, past_tries=past, register_over=over, advice=advice, tempo_percent=_tempo(state))


def _edge(state: SessionState) -> int | None:
    """The last exercise inside what is in range, where the climb came through it; None where the edge is not known."""
    comfort = state.current.comfort
    held = {
        take.exercise_index
        for take in state.takes
        if take.block == state.block and not take.check and take.outcome.is_good
    }
    return comfort if comfort is not None and came_through(held, comfort) else None


def _within_minutes(state: SessionState, seconds: float, advice: Advice) -> Advice:
    """A block that has had its time or its share of the load, or that has run out of good notes, ends; one that was
    through early goes round again, unless it is heavy; a descent that was lost goes through its good ones once more.
    """
    plan = state.current
    takes = [take for take in state.takes if take.block == state.block and not take.check]
    rest_s = rest_after(state.block_playing_s, plan.load, rested_s=state.block_rested_s, extra=state.extra_rest)
    used_s = state.block_used_s + rest_s
    if advice.step not in (NextStep.END_REGISTER, NextStep.END_BLOCK):
        if share_is_played(state):
            return Advice(NextStep.END_BLOCK, "That’s enough of this today. Rest until the next one.")
        if used_s >= seconds:
            return Advice(NextStep.END_BLOCK, "Time for the next exercise.")
        if _is_dry(takes):
            return Advice(NextStep.END_BLOCK, "No more good ones today. The time goes to what comes next.")
    if advice.step != NextStep.END_BLOCK or used_s >= _EARLY * seconds:
        return advice
    if _may_go_round(state, takes):
        return Advice(NextStep.FROM_THE_TOP, "There’s time left. Once more from the start.")
    if not takes[-1].outcome.is_good and lowest_good(state) is not None and not share_is_played(state):
        return Advice(NextStep.FROM_THE_TOP, "Low enough for today. Once more from the top, down to the last good one.")
    return advice


def _may_go_round(state: SessionState, takes: list[TakeMark]) -> bool:
    """Whether a block that is through with its last exercise may begin again: held, not heavy, its share not yet played."""
    plan = state.current
    if plan.load == Load.HIGH or plan.advance in _NO_ROUNDS or share_is_played(state):
        return False
    ends_past_the_range = plan.advance.has_edge and plan.comfort is not None
    rounds = sum(1 for take in takes if take.exercise_index + 1 == plan.exercises and take.outcome.is_good)
    return takes[-1].outcome.is_good and not ends_past_the_range and rounds < _MOST_ROUNDS


def _is_dry(takes: list[TakeMark]) -> bool:
    """Whether the last takes of a block, of more than one exercise, were all missed."""
    last = [take for take in takes if take.outcome != Outcome.NOT_HEARD][-_DRY:]
    missed = len(last) == _DRY and all(not take.outcome.is_good for take in last)
    return missed and len({take.exercise_index for take in last}) > 1


def _tempo(state: SessionState) -> int:
    """A step faster after two clean takes in a row as written, a step back after two misses; never on a ladder."""
    if not state.tempo_steps or state.current.advance != Advance.IN_ORDER:
        return state.tempo_percent
    last = [t for t in state.takes if t.block == state.block and not t.check and t.outcome != Outcome.NOT_HEARD][
        -_TEMPO_AFTER:
    ]
    if len(last) < _TEMPO_AFTER or any(take.form != Form.AS_WRITTEN for take in last):
        return state.tempo_percent
    held = [take.outcome.is_good for take in last]
    change = _TEMPO_STEP if all(held) else 0 if any(held) else -_TEMPO_STEP
    return min(_TEMPO_RANGE[1], max(_TEMPO_RANGE[0], state.tempo_percent + change))


def _shows_warmth(block: BlockPlan) -> bool:
    """Whether its notes lie where an easy note on the instrument lies: a mouthpiece has no warmth, and what glides has no place."""
    exercise_type = EXERCISE_TYPES.get(block.exercise_type)
    if exercise_type is None or block.load != Load.EASY:
        return False
    return exercise_type.medium == Medium.INSTRUMENT and not PROVES_NOTHING & set(exercise_type.judged)


def warmth_takes(state: SessionState, baseline: str) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Takes of easy work just after the check note `baseline` and just before now: they tell what the instrument's warmth moved.

    Both empty while there are too few for the two not to overlap.
    """
    order = [take.take_id for take in state.takes]
    easy = tuple(
        take.take_id
        for take in state.takes[order.index(baseline) + 1 :]
        if not take.check and take.outcome != Outcome.NOT_HEARD and _shows_warmth(state.plan[take.block])
    )
    if len(easy) < 2 * _WARMTH_TAKES:
        return (), ()
    return easy[:_WARMTH_TAKES], easy[-_WARMTH_TAKES:]
