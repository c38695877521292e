"""The session as a state machine: (state, event) -> (state, effects). Pure: no clock, no sound, no store.

    preview --begin--> count-in --counted-in--> listening --ended--> judging --judged--> verdict
       ^                  |  drop                  |  drop                                 |
       |<-----------------+------------------------+                        go-on, again, next, back, easier, skip
       |                                                                                   |
       |<--------------------------- rest-over --- rest <----------------------------------+
    any --stop--> done;   verdict --go-on--> done after the last block;   a report of pain --> done

Whoever leads the session says `go-on` by itself after a few seconds, so that nobody has to. A take is named by its key
from the moment it begins, so that a reload, a lost connection or a restart of the server finds the way back to it.
"""

from collections.abc import Callable
from dataclasses import replace

from orexis.core.coach import CHECK_EVERY_S, REPORTS, Advice, Situation, decide, rest_after
from orexis.core.practice.state import (
    CheckMark,
    Effect,
    Event,
    Heard,
    Overruling,
    Rest,
    SessionState,
    Step,
    TakeMark,
)
from orexis.errors import ConflictError

_TIRING_REST_S = 300.0
_TEMPO_AFTER, _TEMPO_STEP, _TEMPO_RANGE = 2, 4, (72, 132)  # takes; percent
_BETWEEN_TAKES_S = 8.0  # reading, breathing, a bar of waiting
_EARLY, _MOST_ROUNDS = 0.7, 3
_OPEN = ("count-in", "listening", "judging")


def step(state: SessionState, event: Event) -> Step:
    """One step. ConflictError when the event makes no sense in this phase."""
    rule = _RULES.get(event.name)
    made = rule(state, event) if rule else None
    if made is None:
        raise ConflictError(f"“{event.name[:20]}” is not possible during {state.phase}.")
    return made


def opening(state: SessionState) -> SessionState:
    """A session as it begins: with the check note, where checks are on."""
    first = state.at(0, state.plan[0].first)
    return replace(first, checking=state.checks_on)


def _begin(state: SessionState, event: Event) -> Step | None:
    if state.phase not in ("preview", "verdict", "rest") or not event.take_key:
        return None
    opened = replace(state, phase="count-in", take_key=event.take_key, advice=None, rest=None, paused=False)
    return Step(opened, (Effect("open-take", event.take_key),))


def _counted_in(state: SessionState, event: Event) -> Step | None:
    return Step(replace(state, phase="listening")) if state.phase == "count-in" else None


def _ended(state: SessionState, event: Event) -> Step | None:
    if state.phase not in ("count-in", "listening"):
        return None
    return Step(replace(state, phase="judging"), _on_take("close-take", state))


def _judged(state: SessionState, event: Event) -> Step | None:
    if state.phase != "judging" or event.heard is None:
        return None
    heard = event.heard
    mark = TakeMark(
        event.take_key or "", state.block, state.figure_index, heard.outcome, heard.reason, state.form, state.checking
    )
    counted = replace(
        state,
        phase="verdict",
        takes=(*state.takes, mark),
        playing_s=state.playing_s + heard.playing_s,
        load=state.load + heard.load,
        block_s=state.block_s + heard.take_s,
        block_playing_s=state.block_playing_s + heard.playing_s,
        since_check_s=state.since_check_s + heard.playing_s,
    )
    return Step(_checked(counted, mark, heard) if state.checking else _advised(counted, heard))


def _checked(state: SessionState, mark: TakeMark, heard: Heard) -> SessionState:
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


def _advised(state: SessionState, heard: Heard) -> SessionState:
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


def _drop(state: SessionState, event: Event) -> Step | None:
    if state.phase in _OPEN:
        return Step(replace(state, phase="preview", take_key=None), _on_take("drop-take", state))
    if state.phase != "verdict":
        return None
    kept = tuple(take for take in state.takes if take.take_id != state.take_key)
    dropped = replace(state, phase="preview", take_key=None, takes=kept, advice=None)
    return Step(dropped, _on_take("erase-take", state))


def _go_on(state: SessionState, event: Event) -> Step | None:
    """What was advised, carried out."""
    if state.phase != "verdict":
        return None
    advice = state.advice or Advice("again", "")
    if state.checking:
        return Step(_after_check(state, advice))
    return Step(_carried_out(state, advice.step))


def _carried_out(state: SessionState, name: str) -> SessionState:
    match name:
        case "next":
            return _in_block(state, state.figure_index + 1)
        case "back":
            return _in_block(state, max(0, state.figure_index - 1))
        case "from-the-top":
            return _in_block(state, state.current.first)
        case "easier":
            return state.at(state.block, state.figure_index, _easier(state.form))
        case "as-written":
            return state.at(state.block, state.figure_index)
        case "end-block" | "end-register":
            return _next_block(state)
        case "wait":
            return replace(state.at(state.block, state.figure_index, state.form), paused=True)
    return state.at(state.block, state.figure_index, state.form)


def _in_block(state: SessionState, index: int) -> SessionState:
    if index >= state.current.figures:
        return _next_block(state)
    there = state.at(state.block, index)
    if state.current.advance == "sets" and index > state.figure_index:
        seconds = state.current.rest_s or 180.0
        return replace(there, phase="rest", rest=Rest(seconds, "between sets"), block_s=state.block_s + seconds)
    return _with_check(there)


def _next_block(state: SessionState) -> SessionState:
    """The next block that is allowed, after a rest as long as this one asks for."""
    following = state.block + 1
    while following < len(state.plan) and state.register_over and state.plan[following].load == "high":
        following += 1
    if following >= len(state.plan):
        return _finished(state)
    seconds = rest_after(state.block_playing_s, state.current.load, extra=state.extra_rest)
    there = state.at(following, state.plan[following].first)
    if state.block_playing_s <= 0.0:
        return _with_check(there)
    return replace(there, phase="rest", rest=Rest(seconds, "as long as was played"))


def _finished(state: SessionState) -> SessionState:
    """The last check note, where checks are on and something was played since the last one; then the end."""
    if state.checks_on and state.since_check_s > 30.0 and not state.checking:
        return replace(state.at(state.block, state.figure_index), checking=True)
    return replace(state, phase="done", take_key=None, advice=None, checking=False)


def _with_check(state: SessionState) -> SessionState:
    """The check note first, when ten minutes of playing have passed since the last."""
    due = state.checks_on and state.since_check_s >= CHECK_EVERY_S
    return replace(state, checking=True) if due else state


def _after_check(state: SessionState, advice: Advice) -> SessionState:
    if advice.step == "again":
        return state.at(state.block, state.figure_index, state.form)
    played_all = bool(state.here) and _block_is_over(state)
    there = replace(state.at(state.block, state.figure_index, state.form), checking=False)
    if played_all:
        return _finished(there)
    if state.register_over and state.current.load == "high":
        return _next_block(there)
    if advice.step == "rest":
        return replace(there, phase="rest", rest=Rest(_TIRING_REST_S, "the check note says tiring"))
    return there


def _block_is_over(state: SessionState) -> bool:
    """Whether nothing is left after the present figure: the check note was the last."""
    last_block = state.block + 1 >= len(state.plan)
    return last_block and (state.figure_index + 1 >= state.current.figures or state.register_over is not None)


def _rest_over(state: SessionState, event: Event) -> Step | None:
    if state.phase != "rest":
        return None
    return Step(_with_check(replace(state, phase="preview", rest=None)))


def _played(state: SessionState, event: Event) -> Step | None:
    """Playing heard during a rest: the rest goes on for as long again."""
    if state.phase != "rest" or state.rest is None or not 0.0 < event.seconds <= 3600.0:
        return None
    rest = replace(state.rest, heard_s=state.rest.heard_s + event.seconds, seconds=state.rest.seconds + event.seconds)
    return Step(replace(state, rest=rest))


def _chosen(name: str) -> Callable[[SessionState, Event], Step | None]:
    """A step that the player picks; where something else was advised, that is noted."""

    def rule(state: SessionState, event: Event) -> Step | None:
        if state.phase not in ("preview", "verdict", "rest"):
            return None
        noted = _noted(state, name)
        if noted.checking and name in ("next", "skip"):
            return Step(_after_check(replace(noted, since_check_s=0.0), Advice("next", "")))
        match name:
            case "skip":
                return Step(_next_block(noted))
            case "harder":
                form = "as written" if noted.form != "as written" else None
                made = noted.at(noted.block, noted.figure_index) if form else _in_block(noted, noted.figure_index + 1)
                return Step(made)
            case "again":
                return Step(noted.at(noted.block, noted.figure_index, noted.form))
        return Step(_carried_out(noted, name))

    return rule


def _noted(state: SessionState, name: str) -> SessionState:
    advised = state.advice.step if state.advice else "go-on"
    if state.phase != "verdict" or advised == name:
        return state
    entry = Overruling(advised, name, state.block, state.figure_index)
    return replace(state, overruled=(*state.overruled, entry))


def _easier(form: str) -> str:
    """Slower first, then shorter."""
    return {"as written": "slower", "slower": "shorter"}.get(form, form)


def _pause(state: SessionState, event: Event) -> Step | None:
    return None if state.phase in (*_OPEN, "done") else Step(replace(state, paused=True))


def _resume(state: SessionState, event: Event) -> Step | None:
    if state.phase == "done":
        return Step(replace(state.at(state.block, state.figure_index), stopped=None))
    return Step(replace(state, paused=False))


def _report(state: SessionState, event: Event) -> Step | None:
    """What hurts ends the session; tired lips get five minutes off and nothing heavy after it."""
    known = REPORTS.get(event.word or "")
    if known is None:
        return None
    stop, said = known
    effects = _on_take("drop-take", state) if state.phase in _OPEN else ()
    if stop:
        ended = replace(state, phase="done", take_key=None, advice=None, rest=None, checking=False)
        return Step(replace(ended, stopped=event.word, caution=said, register_over=event.word), effects)
    there = replace(state.at(state.block, state.figure_index), caution=said, register_over="the lips are tired")
    if there.current.load == "high":
        there = _next_block(replace(there, block_playing_s=0.0))
    if there.phase == "done":
        return Step(there, effects)
    return Step(replace(there, phase="rest", checking=False, rest=Rest(_TIRING_REST_S, "tired lips")), effects)


def _stop(state: SessionState, event: Event) -> Step | None:
    effects = _on_take("drop-take", state) if state.phase in _OPEN else ()
    ended = replace(state, phase="done", take_key=None, advice=None, rest=None, checking=False)
    return Step(ended, effects)


def _on_take(name: str, state: SessionState) -> tuple[Effect, ...]:
    return (Effect(name, state.take_key),) if state.take_key else ()


_RULES: dict[str, Callable[[SessionState, Event], Step | None]] = {
    "begin": _begin,
    "counted-in": _counted_in,
    "ended": _ended,
    "judged": _judged,
    "drop": _drop,
    "go-on": _go_on,
    "again": _chosen("again"),
    "next": _chosen("next"),
    "back": _chosen("back"),
    "easier": _chosen("easier"),
    "harder": _chosen("harder"),
    "skip": _chosen("skip"),
    "pause": _pause,
    "resume": _resume,
    "rest-over": _rest_over,
    "played": _played,
    "report": _report,
    "stop": _stop,
}
