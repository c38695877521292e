"""What a judged take means for the session: advice, the state of the lips, the tempo, the time of the block."""

from dataclasses import replace

from orexis.core.coach import Advice, Situation, decide, rest_after
from orexis.core.practice.state import CheckMark, Heard, SessionState, TakeMark

_TEMPO_AFTER, _TEMPO_STEP, _TEMPO_RANGE = 2, 4, (72, 132)  # takes; percent
_BETWEEN_TAKES_S = 8.0  # reading, breathing, a bar of waiting
_EARLY, _MOST_ROUNDS = 0.7, 3
_WARMTH_TAKES = 4  # at either end


def checked(state: SessionState, mark: TakeMark, heard: Heard) -> SessionState:
    """After a check note: go on, rest, or no more heavy work."""
    if heard.outcome == "not heard":
        return replace(state, advice=Advice("again", "The check note was not heard: once more."))
    check = CheckMark(mark.take_id, heard.endurance, heard.signs, state.playing_s)
    kept = replace(state, checks=(*state.checks, check), since_check_s=0.0)
    said = f" ({', '.join(heard.signs)})" if heard.signs else ""
    if heard.endurance == "spent":
        return replace(
            kept,
            register_over="the check note says that the lips are spent",
            advice=Advice(
                "end-register", f"Spent for today{said}: no more high work, and that is a good place to stop."
            ),
        )
    if heard.endurance == "tiring":
        return replace(kept, advice=Advice("rest", f"Tiring{said}: five minutes off, then easy work first."))
    return replace(
        kept, advice=Advice("next", "Fresh." if heard.endurance else "Heard; nothing to compare it with yet.")
    )


def advised(state: SessionState, heard: Heard) -> SessionState:
    """What comes next after a take, by the coach's rules and the block's time."""
    plan = state.current
    past = state.past_tries + int(plan.comfort is not None and state.figure_index > plan.comfort)
    advice = decide(
        Situation(
            outcome=heard.outcome,
            advance=plan.advance,
            index=state.figure_index,
            first=plan.first if plan.advance == "climb" else 0,
            count=plan.figures,
            failures=state.failures,
            same_reason=state.misses.get(heard.reason or "", 0),
            lost_in_a_row=state.lost_in_a_row,
            not_heard=state.not_heard,
            form=state.form,
            high=plan.load == "high",
            comfort=plan.comfort,
            past_tries=past,
            lost_rung=state.lost_rung,
        )
    )
    over = advice.say if advice.step == "end-register" and state.register_over is None else state.register_over
    if plan.minutes:
        advice = _in_time(state, 60.0 * plan.minutes, advice)
    return replace(state, past_tries=past, register_over=over, advice=advice, tempo_percent=_tempo(state))


def _in_time(state: SessionState, seconds: float, advice: Advice) -> Advice:
    """A block that has had its time ends; one that was through early goes round again, unless it is heavy."""
    plan = state.current
    takes = [take for take in state.takes if take.block == state.block and not take.check]
    rest_s = rest_after(state.block_playing_s, plan.load, extra=state.extra_rest)
    used_s = state.block_s + _BETWEEN_TAKES_S * len(takes) + rest_s
    if advice.step not in ("end-register", "end-block") and used_s >= seconds:
        return Advice("end-block", "Time for the next thing.")
    rounds = sum(1 for take in takes if take.figure_index + 1 == plan.figures and take.outcome == "held")
    again = advice.step == "end-block" and takes[-1].outcome == "held" and plan.advance == "in-order"
    if again and plan.load != "high" and rounds < _MOST_ROUNDS and used_s < _EARLY * seconds:
        return Advice("from-the-top", "There is time left: once more from the top.")
    return advice


def _tempo(state: SessionState) -> int:
    """A step faster after two clean takes in a row as written, a step back after two misses; never on a ladder."""
    if not state.tempo_steps or state.current.advance != "in-order":
        return state.tempo_percent
    last = [t for t in state.takes if t.block == state.block and not t.check and t.outcome != "not heard"][
        -_TEMPO_AFTER:
    ]
    if len(last) < _TEMPO_AFTER or any(take.form != "as written" for take in last):
        return state.tempo_percent
    held = [take.outcome == "held" for take in last]
    change = _TEMPO_STEP if all(held) else 0 if any(held) else -_TEMPO_STEP
    return min(_TEMPO_RANGE[1], max(_TEMPO_RANGE[0], state.tempo_percent + change))


def warmth_takes(state: SessionState, baseline: str) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Takes of easy work just after the check note `baseline` and just before now: they tell what the horn's warmth moved.

    Both empty while there are too few for the two not to overlap.
    """
    order = [take.take_id for take in state.takes]
    easy = tuple(
        take.take_id
        for take in state.takes[order.index(baseline) + 1 :]
        if not take.check and take.outcome != "not heard" and state.plan[take.block].load == "easy"
    )
    if len(easy) < 2 * _WARMTH_TAKES:
        return (), ()
    return easy[:_WARMTH_TAKES], easy[-_WARMTH_TAKES:]
