"""Where a session stands, as values. No clock: seconds come in with the events."""

from dataclasses import dataclass, field, replace
from enum import StrEnum

from orexis.core.approaches import Choice
from orexis.core.coach import Advice, Freshness, NextStep, Outcome
from orexis.core.exercises import Advance, Exercise, Form, Load
from orexis.core.practice.events import Effect, EventName
from orexis.core.practice.in_time import BETWEEN_TAKES_S, Bars, bars_of


class Phase(StrEnum):
    """What a session is doing: showing, counting in, listening, judging, resting."""

    PREVIEW = "preview"
    COUNT_IN = "count-in"
    LISTENING = "listening"
    JUDGING = "judging"
    VERDICT = "verdict"
    REST = "rest"
    DONE = "done"


LONGEST_REST_S = 900.0  # after a quarter of an hour it is a new session
TIRED_LIPS = "your lips are tired"  # why there is no more heavy work, where the player says so
WORN_LIPS = "the check note says your lips are worn out"  # where the check note does
LIPS_SAID = frozenset({TIRED_LIPS, WORN_LIPS})
OPEN_PHASES = (Phase.COUNT_IN, Phase.LISTENING, Phase.JUDGING)  # a take is under way


def usual_spent_s(take_s: float, playing_s: float) -> float:
    """Seconds that a take costs of the day, its rest included: as long as was played, and at least the time between two takes."""
    return round(take_s + max(playing_s, BETWEEN_TAKES_S), 2)


@dataclass(frozen=True, slots=True)
class BlockPlan:
    """One block: what is played, how one goes on inside it, and for how long at the most."""

    exercise_type: str
    title: str
    place: str
    load: Load
    advance: Advance
    exercises: int
    first: int = 0
    minutes: float | None = None
    rest_s: float | None = None  # between sets
    pauses: tuple[int, ...] = ()  # exercises before which the rest is long: another pitch begins
    pause_s: float = 0.0
    comfort: int | None = None  # index of the last note inside the working range
    why: str = ""
    most_load: float | None = None  # the block's share of the day's load: it ends when that is reached
    step: int | None = None  # of the exercise type's path, where it is played as the path has it
    easier: bool = False  # begins in the easier form, because it comes back
    recovery: bool = False  # follows at once, without a rest before it
    spare: bool = False  # comes only where time and load are left when all others are over
    kept: bool = False  # the player holds on to it: it stays where the rest of the day is chosen anew
    in_time: bool = False  # can be practised in time

    @property
    def sets_asked(self) -> int:
        """How many sets of the first pitch are asked for; 0 where nothing is counted in sets."""
        if self.advance != Advance.SETS:
            return 0
        return self.pauses[0] if self.pauses else self.exercises


@dataclass(frozen=True, slots=True)
class TakeMark:
    """What is kept in sight of a take: the small shapes on the stand."""

    take_id: str
    block: int
    exercise_index: int
    outcome: Outcome
    reason: str | None
    form: Form = Form.AS_WRITTEN
    check: bool = False
    load: float = 0.0
    gap_s: float = BETWEEN_TAKES_S  # to the next take


@dataclass(frozen=True, slots=True)
class CheckMark:
    """A check note: how fresh the lips were after how much playing."""

    take_id: str
    state: Freshness | None
    signs: tuple[str, ...]
    playing_s: float


@dataclass(frozen=True, slots=True)
class Rest:
    """A rest before what comes next."""

    seconds: float
    why: str
    heard_s: float = 0.0  # playing heard during it


@dataclass(frozen=True, slots=True)
class Overruling:
    """What the player decided instead of what was advised."""

    advised: NextStep | EventName
    chosen: EventName
    block: int
    exercise_index: int


@dataclass(frozen=True, slots=True)
class SessionState:
    """The whole of it; kept after every step. `exercise_index` counts into the block's series."""

    plan: tuple[BlockPlan, ...]
    block: int = 0
    exercise_index: int = 0
    form: Form = Form.AS_WRITTEN
    phase: Phase = Phase.PREVIEW
    paused: bool = False
    checking: bool = False  # the check note comes before the exercise that is shown otherwise
    checks_on: bool = False
    lost_note: Choice = Choice.STEP_BACK  # the player's approach
    extra_rest: bool = False
    tempo_steps: bool = False  # the tempo rises after clean takes and falls after misses
    tempo_percent: int = 100  # of the written tempo, in the present block
    in_time: bool = False  # the player practises in time where that can be
    rest_bars: int = 0  # between takes in time; 0: as long as was played
    bars: Bars | None = None  # of the last take, while the click goes on after it
    take_key: str | None = None
    takes: tuple[TakeMark, ...] = ()
    checks: tuple[CheckMark, ...] = ()
    advice: Advice | None = None
    rest: Rest | None = None
    register_over: str | None = None  # why there is no more heavy work today
    stopped: str | None = None  # why everything was stopped
    caution: str | None = None  # said since something was reported
    past_tries: int = 0
    playing_s: float = 0.0
    load: float = 0.0
    minutes: float | None = None  # of the whole day, where it has a length
    most_load: float | None = None  # of the whole day
    used_s: float = 0.0  # by the blocks that are over, and the rests after them
    ending: bool = False  # the last check note is due, and nothing after it
    block_s: float = 0.0  # takes and rests of the present block
    block_playing_s: float = 0.0
    block_load: float = 0.0
    since_check_s: float = 0.0  # playing
    overruled: tuple[Overruling, ...] = ()
    thrown_away: tuple[str, ...] = ()  # takes that prove nothing any more
    against: str | None = None  # what spoke against beginning at all, where it was begun all the same
    changed: str = ""  # what came in and went where the rest of the day was chosen anew; until the next take

    @property
    def kept(self) -> tuple[TakeMark, ...]:
        """Takes that were not thrown away."""
        return tuple(take for take in self.takes if take.take_id not in self.thrown_away)

    @property
    def current(self) -> BlockPlan:
        """The plan of the block that is being played."""
        return self.plan[self.block]

    @property
    def here(self) -> tuple[TakeMark, ...]:
        """Takes of the present exercise, in whatever form, check notes left out."""
        return tuple(
            take
            for take in self.kept
            if not take.check and (take.block, take.exercise_index) == (self.block, self.exercise_index)
        )

    @property
    def block_used_s(self) -> float:
        """Time that the present block has taken: takes, rests, and what lies between two takes."""
        return self.block_s + sum(take.gap_s for take in self.takes if take.block == self.block and not take.check)

    @property
    def block_rested_s(self) -> float:
        """What of the present block's time was not played."""
        return max(0.0, self.block_used_s - self.block_playing_s)

    @property
    def runs_in_time(self) -> bool:
        """Whether the click goes on between the takes of the present block."""
        return self.in_time and self.current.in_time and not self.checking

    def is_barred(self, block: BlockPlan) -> bool:
        """Whether a block may not be played any more today, because heavy work is over.

        Pedal sets lie far from the register: only lips that are worn out or tired, and a climb to the limit, bar them.
        """
        if self.register_over is None or block.load != Load.HIGH:
            return False
        if block.advance != Advance.SETS:
            return True
        worn = any(check.state == Freshness.SPENT for check in self.checks)
        limit = any(played.advance == Advance.LIMIT for played in self.plan[: self.block + 1])
        return worn or limit or self.register_over == TIRED_LIPS

    def bars_after(self, exercise: Exercise, stopped_s: float | None) -> Bars | None:
        """The bars of a take of the present block and of the rest after it; None where the click does not go on."""
        if not self.runs_in_time:
            return None
        return bars_of(exercise, stopped_s, self.current.load, rest_bars=self.rest_bars, extra=self.extra_rest)

    @property
    def misses(self) -> dict[str, int]:
        """For each reason: how often in a row the present exercise has missed by it."""
        counts: dict[str, int] = {}
        for take in self.here:
            if take.outcome.is_good:
                counts = {}
            elif take.outcome in (Outcome.CLOSE, Outcome.NOT_YET) and take.reason:
                counts = {take.reason: counts.get(take.reason, 0) + 1}
        return counts

    @property
    def failures(self) -> int:
        """Misses of the present exercise: of a note all of them, of any other exercise those since it was last held."""
        range_note, count = self.current.advance.by_notes, 0
        for take in self.here:
            if take.outcome.is_good and take.form == Form.AS_WRITTEN and not range_note:
                count = 0
            elif take.outcome in (Outcome.CLOSE, Outcome.NOT_YET):
                count += 1
        return count

    @property
    def before_lost(self) -> int:
        """Misses of the exercise before this one in the block; none where it was held."""
        outcomes = [
            take.outcome
            for take in self.kept
            if not take.check and (take.block, take.exercise_index) == (self.block, self.exercise_index - 1)
        ]
        return 0 if any(o.is_good for o in outcomes) else sum(o in (Outcome.CLOSE, Outcome.NOT_YET) for o in outcomes)

    @property
    def lost_in_a_row(self) -> int:
        """Different notes of this block lost one after another, up to now."""
        lost: list[int] = []
        for take in reversed([t for t in self.kept if t.block == self.block and not t.check]):
            if take.outcome == Outcome.NOT_YET:
                if take.exercise_index not in lost:
                    lost.append(take.exercise_index)
            elif take.outcome.is_good:
                break
        return len(lost)

    @property
    def not_heard(self) -> int:
        """Takes in a row that could not be judged."""
        count = 0
        for take in reversed(self.kept):
            if take.outcome != Outcome.NOT_HEARD:
                break
            count += 1
        return count

    def at(self, block: int, exercise_index: int, form: Form = Form.AS_WRITTEN) -> "SessionState":
        """The same in front of another exercise."""
        same = block == self.block
        return replace(
            self, block=block, exercise_index=exercise_index, form=form, phase=Phase.PREVIEW, take_key=None, advice=None,
            rest=None, block_s=self.block_s if same else 0.0, past_tries=self.past_tries if same else 0,
            block_playing_s=self.block_playing_s if same else 0.0, block_load=self.block_load if same else 0.0,
            tempo_percent=self.tempo_percent if same else 100, bars=self.bars if same else None,
        )  # fmt: skip


def share_is_played(state: SessionState) -> bool:
    """Whether the present block has brought its share of the day's load: half of one more take would go beyond it."""
    most = state.current.most_load
    takes = sum(take.block == state.block and not take.check for take in state.takes)
    return most is not None and takes > 0 and state.block_load * (1.0 + 0.5 / takes) >= most


def lowest_good(state: SessionState) -> int | None:
    """Number of the last exercise of a descent that was good; None where none was, where none lies lower, or in other blocks."""
    if state.current.advance != Advance.FALLING:
        return None
    good = [t.exercise_index for t in state.kept if t.block == state.block and not t.check and t.outcome.is_good]
    return max(good) if good and max(good) + 1 < state.current.exercises else None


@dataclass(frozen=True, slots=True)
class Step:
    """The state after an event and the effects it asks for."""

    state: SessionState
    effects: tuple[Effect, ...] = field(default=())
