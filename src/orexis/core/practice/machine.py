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

from orexis.core.coach import REPORTS, Advice
from orexis.core.practice.after_take import advised, checked
from orexis.core.practice.places import TIRING_REST_S, after_check, carried_out, in_block, next_block, with_check
from orexis.core.practice.state import Effect, Event, Overruling, Rest, SessionState, Step, TakeMark
from orexis.errors import ConflictError

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
    return Step(checked(counted, mark, heard) if state.checking else advised(counted, heard))


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
        return Step(after_check(state, advice))
    return Step(carried_out(state, advice.step))


def _rest_over(state: SessionState, event: Event) -> Step | None:
    if state.phase != "rest":
        return None
    return Step(with_check(replace(state, phase="preview", rest=None)))


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
            return Step(after_check(replace(noted, since_check_s=0.0), Advice("next", "")))
        match name:
            case "skip":
                return Step(next_block(noted))
            case "harder":
                form = "as written" if noted.form != "as written" else None
                made = noted.at(noted.block, noted.figure_index) if form else in_block(noted, noted.figure_index + 1)
                return Step(made)
            case "again":
                return Step(noted.at(noted.block, noted.figure_index, noted.form))
        return Step(carried_out(noted, name))

    return rule


def _noted(state: SessionState, name: str) -> SessionState:
    advice = state.advice.step if state.advice else "go-on"
    if state.phase != "verdict" or advice == name:
        return state
    entry = Overruling(advice, name, state.block, state.figure_index)
    return replace(state, overruled=(*state.overruled, entry))


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
        return Step(replace(_over(state), stopped=event.word, caution=said, register_over=event.word), effects)
    there = replace(state.at(state.block, state.figure_index), caution=said, register_over="the lips are tired")
    if there.current.load == "high":
        there = next_block(replace(there, block_playing_s=0.0))
    if there.phase == "done":
        return Step(there, effects)
    return Step(replace(there, phase="rest", checking=False, rest=Rest(TIRING_REST_S, "tired lips")), effects)


def _stop(state: SessionState, event: Event) -> Step | None:
    effects = _on_take("drop-take", state) if state.phase in _OPEN else ()
    return Step(_over(state), effects)


def _over(state: SessionState) -> SessionState:
    return replace(state, phase="done", take_key=None, advice=None, rest=None, checking=False)


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
