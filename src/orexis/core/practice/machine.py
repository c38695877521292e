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

from orexis.core.coach import REPORTS, Advice, NextStep
from orexis.core.exercises import Form, Load
from orexis.core.messages import tell
from orexis.core.practice.advising import advised, checked
from orexis.core.practice.events import (
    Effect,
    EffectName,
    Event,
    EventName,
)
from orexis.core.practice.in_time import gap_after
from orexis.core.practice.progression import (
    TIRING_REST_S,
    after_check,
    carried_out,
    form_at_first,
    in_block,
    next_block,
    over,
    with_check,
)
from orexis.core.practice.state import (
    OPEN_PHASES,
    TIRED_LIPS,
    Overruling,
    Phase,
    Rest,
    SessionState,
    Step,
    TakeMark,
)
from orexis.errors import ConflictError

_LEAVES = (NextStep.END_BLOCK, NextStep.END_REGISTER, NextStep.REST, NextStep.WAIT)
_CHOICE_PHASES = (Phase.PREVIEW, Phase.VERDICT, Phase.REST)


def step(state: SessionState, event: Event) -> Step:
    """One step. ConflictError when the event makes no sense in this phase."""
    rule = _RULES.get(event.name)
    made = rule(state, event) if rule else None
    if made is None:
        raise ConflictError(tell("“{event}” isn’t possible during {phase}.", event=event.name[:20], phase=state.phase))
    return made


def opening(state: SessionState) -> SessionState:
    """A session as it begins: with the check note, where checks are on."""
    first = state.at(0, state.plan[0].first, form_at_first(state.plan[0]))
    return replace(first, checking=state.checks_on)


def _begin(state: SessionState, event: Event) -> Step | None:
    if state.phase not in _CHOICE_PHASES or not event.take_key:
        return None
    opened = replace(state, phase=Phase.COUNT_IN, take_key=event.take_key, advice=None, rest=None, paused=False)
    opened = replace(opened, changed="", bars=None)
    return Step(opened, (Effect(EffectName.OPEN_TAKE, event.take_key),))


def _counted_in(state: SessionState, event: Event) -> Step | None:
    return Step(replace(state, phase=Phase.LISTENING)) if state.phase == Phase.COUNT_IN else None


def _ended(state: SessionState, event: Event) -> Step | None:
    if state.phase not in (Phase.COUNT_IN, Phase.LISTENING):
        return None
    return Step(replace(state, phase=Phase.JUDGING), _on_take(EffectName.CLOSE_TAKE, state))


def _judged(state: SessionState, event: Event) -> Step | None:
    if state.phase != Phase.JUDGING or event.result is None:
        return None
    result = event.result
    mark = TakeMark(
        event.take_key or "",
        state.block,
        state.exercise_index,
        result.outcome,
        result.reason,
        state.form,
        state.checking,
        result.load,
        gap_after(result.bars, result.take_s),
    )
    counted = replace(
        state,
        phase=Phase.VERDICT,
        bars=result.bars,
        takes=(*state.takes, mark),
        playing_s=state.playing_s + result.playing_s,
        load=state.load + result.load,
        block_s=state.block_s + result.take_s,
        block_playing_s=state.block_playing_s + result.playing_s,
        block_load=state.block_load + (0.0 if state.checking else result.load),
        since_check_s=state.since_check_s + result.playing_s,
    )
    if state.checking:
        return Step(checked(counted, mark, result))
    made = advised(counted, result)
    return Step(made if _stays_in_block(made) else replace(made, bars=None))


def _stays_in_block(state: SessionState) -> bool:
    """Whether another take of the block follows by what is advised: where none does, the click stops while the verdict is read."""
    step = state.advice.step if state.advice else NextStep.AGAIN
    last = step == NextStep.NEXT and state.exercise_index + 1 >= state.current.exercises
    return step not in _LEAVES and not last


def _drop(state: SessionState, event: Event) -> Step | None:
    if state.phase in OPEN_PHASES:
        return Step(replace(state, phase=Phase.PREVIEW, take_key=None), _on_take(EffectName.DROP_TAKE, state))
    if state.phase != Phase.VERDICT:
        return None
    kept = tuple(take for take in state.takes if take.take_id != state.take_key)
    dropped = replace(state, phase=Phase.PREVIEW, take_key=None, takes=kept, advice=None, bars=None)
    return Step(dropped, _on_take(EffectName.ERASE_TAKE, state))


def _go_on(state: SessionState, event: Event) -> Step | None:
    """Return the step that carries out what was advised."""
    if state.phase != Phase.VERDICT:
        return None
    advice = state.advice or Advice(NextStep.AGAIN, "")
    if state.checking:
        return Step(after_check(state, advice))
    return Step(carried_out(state, advice.step))


def _rest_over(state: SessionState, event: Event) -> Step | None:
    if state.phase != Phase.REST:
        return None
    return Step(with_check(replace(state, phase=Phase.PREVIEW, rest=None)))


def _played(state: SessionState, event: Event) -> Step | None:
    """Playing heard during a rest: the rest goes on for as long again."""
    if state.phase != Phase.REST or state.rest is None or not 0.0 < event.seconds <= 3600.0:
        return None
    rest = replace(state.rest, heard_s=state.rest.heard_s + event.seconds, seconds=state.rest.seconds + event.seconds)
    return Step(replace(state, rest=rest))


def _chosen(name: EventName) -> Callable[[SessionState, Event], Step | None]:
    """A step that the player picks; where something else was advised, that is noted."""

    def rule(state: SessionState, event: Event) -> Step | None:
        if state.phase not in _CHOICE_PHASES:
            return None
        noted = _noted(state, name)
        if noted.checking and name in (EventName.NEXT, EventName.SKIP):
            return Step(after_check(replace(noted, since_check_s=0.0), Advice(NextStep.NEXT, "")))
        match name:
            case EventName.SKIP:
                return Step(next_block(noted))
            case EventName.HARDER:
                easier = noted.form != Form.AS_WRITTEN
                same = noted.at(noted.block, noted.exercise_index)
                return Step(same if easier else in_block(noted, noted.exercise_index + 1))
            case EventName.AGAIN:
                index, form = _to_repeat(noted)
                return Step(noted.at(noted.block, index, form))
        return Step(carried_out(noted, NextStep(name)))

    return rule


def _to_repeat(state: SessionState) -> tuple[int, Form]:
    """Index and form of what is played again: while the click goes on what was played last, for the session moves on in the rest."""
    here = [take for take in state.kept if take.block == state.block and not take.check]
    if state.bars is not None and here:
        return here[-1].exercise_index, here[-1].form
    return state.exercise_index, state.form


def _noted(state: SessionState, name: EventName) -> SessionState:
    advice = state.advice.step if state.advice else EventName.GO_ON
    if state.phase != Phase.VERDICT or advice == name:
        return state
    entry = Overruling(advice, name, state.block, state.exercise_index)
    return replace(state, overruled=(*state.overruled, entry))


def _pause(state: SessionState, event: Event) -> Step | None:
    return None if state.phase in (*OPEN_PHASES, Phase.DONE) else Step(replace(state, paused=True, bars=None))


def _resume(state: SessionState, event: Event) -> Step | None:
    if state.phase == Phase.DONE:
        return Step(replace(state.at(state.block, state.exercise_index), stopped=None))
    return Step(replace(state, paused=False))


def _report(state: SessionState, event: Event) -> Step | None:
    """What hurts ends the session; tired lips get five minutes off and nothing heavy after it."""
    known = REPORTS.get(event.word or "")
    if known is None:
        return None
    stop, said = known
    effects = _on_take(EffectName.DROP_TAKE, state) if state.phase in OPEN_PHASES else ()
    if stop:
        return Step(replace(over(state), stopped=event.word, caution=said, register_over=event.word), effects)
    if state.phase == Phase.DONE:
        return Step(replace(state, caution=said))
    there = replace(state.at(state.block, state.exercise_index), caution=said, register_over=TIRED_LIPS, bars=None)
    if there.current.load == Load.HIGH:
        there = next_block(replace(there, block_playing_s=0.0))
    if there.phase == Phase.DONE:
        return Step(there, effects)
    return Step(replace(there, phase=Phase.REST, rest=Rest(TIRING_REST_S, "tired lips")), effects)


def _stop(state: SessionState, event: Event) -> Step | None:
    effects = _on_take(EffectName.DROP_TAKE, state) if state.phase in OPEN_PHASES else ()
    return Step(over(state), effects)


def _on_take(name: EffectName, state: SessionState) -> tuple[Effect, ...]:
    return (Effect(name, state.take_key),) if state.take_key else ()


_RULES: dict[EventName, Callable[[SessionState, Event], Step | None]] = {
    EventName.BEGIN: _begin,
    EventName.COUNTED_IN: _counted_in,
    EventName.ENDED: _ended,
    EventName.JUDGED: _judged,
    EventName.DROP: _drop,
    EventName.GO_ON: _go_on,
    EventName.AGAIN: _chosen(EventName.AGAIN),
    EventName.NEXT: _chosen(EventName.NEXT),
    EventName.BACK: _chosen(EventName.BACK),
    EventName.EASIER: _chosen(EventName.EASIER),
    EventName.HARDER: _chosen(EventName.HARDER),
    EventName.SKIP: _chosen(EventName.SKIP),
    EventName.PAUSE: _pause,
    EventName.RESUME: _resume,
    EventName.REST_OVER: _rest_over,
    EventName.PLAYED: _played,
    EventName.REPORT: _report,
    EventName.STOP: _stop,
}
