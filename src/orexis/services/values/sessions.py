"""A session and where it stands; and what the log shows of one."""

from dataclasses import dataclass
from datetime import datetime

from orexis.core.coach import Freshness, Outcome
from orexis.core.exercises import Advance, Exercise, Load, Series, at_tempo, in_form
from orexis.core.practice import Overruling, SessionState
from orexis.services.values.players import Terms


@dataclass(frozen=True, slots=True)
class PracticeSession:
    """One session. `block` is the series that the state stands in, `check` the check note's."""

    id: str
    player_id: str
    exercise_type: str
    title: str
    instrument: str
    params: dict[str, str]
    terms: Terms
    block: Series
    check: Series | None
    state: SessionState
    started_at: datetime
    ended_at: datetime | None
    rest_since: datetime | None = None  # when the rest under way began

    @property
    def exercise(self) -> Exercise:
        """The exercise that comes next or is being played, in its present form."""
        if self.state.checking and self.check is not None:
            return self.check.exercises[0]
        state = self.state
        return in_form(at_tempo(self.block.exercises[state.exercise_index], state.tempo_percent), state.form)


@dataclass(frozen=True, slots=True)
class SessionSummary:
    """What the log shows of a session; kept with every step of it."""

    playing_s: float = 0.0
    take_ids: tuple[str, ...] = ()
    outcomes: tuple[Outcome, ...] = ()  # of the same takes: shown as small shapes
    checks: tuple[Freshness, ...] = ()
    check_minutes: tuple[float, ...] = ()  # of playing before each of them
    stopped: str | None = None  # what was reported, where it ended everything
    overruled: tuple[Overruling, ...] = ()
    against: str | None = None  # what spoke against it
    tiring_after_s: float | None = None  # playing until the first check note that said tiring
    to_the_limit: bool = False  # a climb without a cap was begun
    heavy_over: str | None = None  # why it had no more heavy work
    load: float = 0.0
    high_load: float = 0.0  # of it, by heavy blocks
    blocks: int = 0  # that were planned
    reached: int = 0  # that were come to
    lasted_s: float = 0.0  # from its beginning to the end of its last take


def summary_of(state: SessionState, lasted_s: float = 0.0) -> SessionSummary:
    """The summary of where a session stands."""
    return SessionSummary(
        playing_s=round(state.playing_s, 1),
        take_ids=tuple(take.take_id for take in state.kept),
        outcomes=tuple(take.outcome for take in state.kept),
        checks=tuple(check.state for check in state.checks if check.state is not None),
        check_minutes=tuple(round(check.playing_s / 60.0, 1) for check in state.checks if check.state is not None),
        stopped=state.stopped,
        overruled=state.overruled,
        against=state.against,
        tiring_after_s=next(
            (check.playing_s for check in state.checks if check.state in (Freshness.TIRING, Freshness.SPENT)), None
        ),
        heavy_over=state.register_over,
        to_the_limit=any(state.plan[t.block].advance == Advance.LIMIT for t in state.kept if not t.check),
        load=round(sum(take.load for take in state.kept), 1),
        high_load=round(sum(take.load for take in state.kept if state.plan[take.block].load == Load.HIGH), 1),
        blocks=sum(not block.spare for block in state.plan),
        reached=state.block + 1,
        lasted_s=round(lasted_s, 1),
    )
