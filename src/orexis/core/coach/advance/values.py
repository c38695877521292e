"""What the rules of going on look at, and what they say. Limits that several of them share."""

from dataclasses import dataclass
from enum import StrEnum

from orexis.core.approaches import Choice
from orexis.core.coach.judging import THREE_QUESTIONS
from orexis.core.coach.verdict import Outcome
from orexis.core.exercises import Advance, Form

MOST_FAILURES = 3  # of one note, in whatever form it was tried
MOST_LOST = 2  # notes in a row
MOST_MISSES = 4  # of one exercise that is no note, before going on
EASIER_AFTER = 2  # misses for one reason


class NextStep(StrEnum):
    """What can come next in a series."""

    NEXT = "next"
    AGAIN = "again"
    BACK = "back"
    EASIER = "easier"
    AS_WRITTEN = "as-written"
    FROM_THE_TOP = "from-the-top"
    END_BLOCK = "end-block"
    END_REGISTER = "end-register"
    REST = "rest"
    WAIT = "wait"


@dataclass(frozen=True, slots=True)
class Situation:
    """What the rules look at. Indices count exercises of the block; failures are those of the present note."""

    outcome: Outcome
    advance: Advance
    index: int
    first: int
    count: int
    failures: int = 0
    same_reason: int = 0  # misses in a row for the same reason, this one included
    lost_in_a_row: int = 0
    not_heard: int = 0  # in a row
    form: Form = Form.AS_WRITTEN
    high: bool = False
    comfort: int | None = None  # the last note inside the working range; None: not known
    past_tries: int = 0  # attempts beyond comfort in this session, this one included
    lost_note: Choice = Choice.STEP_BACK
    before_lost: int = 0  # misses of the exercise before this one, where it was never held

    @property
    def last(self) -> bool:
        """Whether this is the last exercise of the block."""
        return self.index + 1 >= self.count


@dataclass(frozen=True, slots=True)
class Advice:
    """What comes next if nobody objects."""

    step: NextStep
    say: str
    ask: str | None = None


def ask(now: Situation) -> str | None:
    """Three things a player can check, when attempts keep failing and no single reason stands out."""
    return THREE_QUESTIONS if now.failures >= 2 and now.same_reason < EASIER_AFTER else None


def on_or_over(now: Situation, say: str) -> Advice:
    """The next exercise, or the end of the block after the last."""
    return Advice(NextStep.END_BLOCK if now.last else NextStep.NEXT, say)
