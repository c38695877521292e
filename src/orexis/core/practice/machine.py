"""The session as a state machine: (state, event) -> (state, effects). Pure: no clock, no sound, no store.

    preview --begin--> count-in --counted-in--> listening --ended--> judging --judged--> verdict
       ^                  |  drop                  |  drop                                 |
       |<-----------------+------------------------+      again / next / drop              |
       |<----------------------------------------------------------------------------------+
    any --stop--> done;  verdict --next--> done after the last figure

A take is named by its key from the moment it begins, so that a reload, a lost connection or a restart of the server
finds the way back to it.
"""

from dataclasses import dataclass, field, replace

from orexis.errors import ConflictError

PHASES = ("preview", "count-in", "listening", "judging", "verdict", "done")


@dataclass(frozen=True, slots=True)
class TakeMark:
    """What is kept in sight of a take: the small shapes on the stand."""

    take_id: str
    figure_index: int
    outcome: str
    reason: str | None


@dataclass(frozen=True, slots=True)
class SessionState:
    """Where a session stands. `figure_index` counts into its series; `advice` is what comes next if nobody objects."""

    figure_count: int
    phase: str = "preview"
    figure_index: int = 0
    take_key: str | None = None
    takes: tuple[TakeMark, ...] = ()
    advice: str | None = None  # "next" | "again" after a verdict

    @property
    def misses(self) -> dict[str, int]:
        """For each reason: how often in a row the present figure has missed by it."""
        counts: dict[str, int] = {}
        for take in self.takes:
            if take.figure_index != self.figure_index:
                continue
            if take.outcome == "held":
                counts = {}
            elif take.outcome in ("nearly", "not yet") and take.reason:
                counts = {take.reason: counts.get(take.reason, 0) + 1}
        return counts


@dataclass(frozen=True, slots=True)
class Event:
    """What happened. `name`: begin, counted-in, ended, judged, drop, again, next, back, stop."""

    name: str
    take_key: str | None = None
    outcome: str | None = None
    reason: str | None = None


@dataclass(frozen=True, slots=True)
class Effect:
    """What is to be done outside: open-take, close-take, drop-take, erase-take."""

    name: str
    take_key: str


@dataclass(frozen=True, slots=True)
class Step:
    """The state after an event and the effects it asks for."""

    state: SessionState
    effects: tuple[Effect, ...] = field(default=())


def step(state: SessionState, event: Event) -> Step:
    """One step. ConflictError when the event makes no sense in this phase."""
    match (state.phase, event.name):
        case ("preview" | "verdict", "begin") if event.take_key:
            opened = replace(state, phase="count-in", take_key=event.take_key, advice=None)
            return Step(opened, (Effect("open-take", event.take_key),))
        case ("count-in", "counted-in"):
            return Step(replace(state, phase="listening"))
        case ("count-in" | "listening", "ended"):
            return Step(replace(state, phase="judging"), _on_take("close-take", state))
        case ("judging", "judged"):
            return Step(_judged(state, event))
        case ("count-in" | "listening" | "judging", "drop"):
            return Step(replace(state, phase="preview", take_key=None), _on_take("drop-take", state))
        case ("verdict", "drop"):
            return _dropped(state)
        case ("verdict", "again"):
            return Step(replace(state, phase="preview", take_key=None, advice=None))
        case ("preview" | "verdict", "next"):
            return Step(_at_figure(state, state.figure_index + 1))
        case ("preview" | "verdict", "back"):
            return Step(_at_figure(state, max(0, state.figure_index - 1)))
        case ("done", "back"):
            return Step(_at_figure(state, state.figure_index))
        case ("count-in" | "listening" | "judging", "stop"):
            return Step(replace(state, phase="done", take_key=None), _on_take("drop-take", state))
        case (_, "stop"):
            return Step(replace(state, phase="done", take_key=None))
    raise ConflictError(f"“{event.name[:20]}” is not possible during {state.phase}.")


def _on_take(name: str, state: SessionState) -> tuple[Effect, ...]:
    return (Effect(name, state.take_key),) if state.take_key else ()


def _judged(state: SessionState, event: Event) -> SessionState:
    mark = TakeMark(event.take_key or "", state.figure_index, event.outcome or "not heard", event.reason)
    advice = "next" if event.outcome == "held" else "again"
    return replace(state, phase="verdict", takes=(*state.takes, mark), advice=advice)


def _dropped(state: SessionState) -> Step:
    """The last take is thrown away, and with it its shape."""
    kept = tuple(take for take in state.takes if take.take_id != state.take_key)
    return Step(replace(state, phase="preview", take_key=None, takes=kept, advice=None), _on_take("erase-take", state))


def _at_figure(state: SessionState, index: int) -> SessionState:
    if index >= state.figure_count:
        return replace(state, phase="done", take_key=None, advice=None)
    return replace(state, phase="preview", figure_index=index, take_key=None, advice=None)
