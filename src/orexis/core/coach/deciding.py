"""What comes next after a take: again, on, a step back, an easier form, or enough for today; said with its reason.

Pure rules over what happened in this session. The player may overrule any of it.
"""

from dataclasses import dataclass
from enum import StrEnum

from orexis.core.coach.judging import THREE_QUESTIONS
from orexis.core.coach.verdict import Outcome
from orexis.core.figures import Advance, Form, Load
from orexis.core.schools import Choice

MOST_FAILURES = 3  # of one rung, in whatever form it was tried
MOST_LOST = 2  # rungs in a row
MOST_MISSES = 4  # of one figure that is no rung, before going on
EASIER_AFTER = 2  # misses for one reason
MOST_NOT_HEARD = 3


class NextStep(StrEnum):
    """What can come next."""

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
    """What the rules look at. Indices count figures of the block; failures are those of the present rung."""

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
    comfort: int | None = None  # the last rung inside the working range; None: not known
    past_tries: int = 0  # attempts beyond comfort in this session, this one included
    lost_rung: Choice = Choice.STEP_BACK


@dataclass(frozen=True, slots=True)
class Advice:
    """What comes next if nobody objects."""

    step: NextStep
    say: str
    ask: str | None = None


def decide(now: Situation) -> Advice:
    """The rules in their order."""
    if now.outcome == Outcome.NOT_HEARD:
        return _not_heard(now)
    if now.outcome == Outcome.HELD:
        return _held(now)
    if now.advance == Advance.CLIMB:
        return _lost(now)
    return _missed(now)


def _not_heard(now: Situation) -> Advice:
    if now.not_heard >= MOST_NOT_HEARD:
        return Advice(NextStep.WAIT, "Nothing could be judged three times: see to the microphone, then go on.")
    return Advice(NextStep.AGAIN, "That one does not count.")


def _held(now: Situation) -> Advice:
    if now.form != Form.AS_WRITTEN:
        return Advice(NextStep.AS_WRITTEN, "That was the easier form: now as it is written.")
    last = now.index + 1 >= now.count
    if now.advance == Advance.CLIMB:
        if now.comfort is not None and now.index > now.comfort:
            return Advice(
                NextStep.END_BLOCK, "One step past what you own, and it held. That is enough up there for today."
            )
        return (
            Advice(NextStep.END_BLOCK, "The last rung held.") if last else Advice(NextStep.NEXT, "Held: a semitone on.")
        )
    return (
        Advice(NextStep.END_BLOCK, "That was the last of these.") if last else Advice(NextStep.NEXT, "On to the next.")
    )


def _lost(now: Situation) -> Advice:
    """A rung that was not held."""
    if now.failures >= MOST_FAILURES:
        return Advice(
            NextStep.END_REGISTER, "This rung failed three times: stopping here keeps the good notes. Enough for today."
        )
    if now.lost_in_a_row >= MOST_LOST:
        return Advice(
            NextStep.END_REGISTER, "Two rungs in a row were lost: the lips have had enough up there for today."
        )
    if now.comfort is not None and now.index > now.comfort:
        if now.past_tries >= 2:
            return Advice(
                NextStep.END_BLOCK, "One step past what you own: a try and a retry. It will be there another day."
            )
        return Advice(NextStep.AGAIN, "One more try at the new one, no more.")
    if now.lost_rung == Choice.STOP_HERE:
        return Advice(NextStep.END_REGISTER, "As you chose: after a rung that failed, enough for today.")
    if now.lost_rung == Choice.ONE_MORE_TRY:
        if now.failures >= 2:
            return Advice(NextStep.END_REGISTER, "As you chose: one more try, then stop.")
        return Advice(NextStep.AGAIN, "One more try.")
    if now.outcome == Outcome.NEARLY and now.failures == 1:
        return Advice(NextStep.AGAIN, "Close. Once more.")
    if now.index > now.first:
        return Advice(NextStep.BACK, "A semitone back, where it is good.", _ask(now))
    if now.same_reason >= EASIER_AFTER and now.form == Form.AS_WRITTEN:
        return Advice(NextStep.EASIER, "An easier form first.")
    return Advice(NextStep.AGAIN, "Once more, from the same place.", _ask(now))


def _missed(now: Situation) -> Advice:
    """A figure that is no rung."""
    if now.failures >= MOST_MISSES:
        step = NextStep.END_BLOCK if now.index + 1 >= now.count else NextStep.NEXT
        return Advice(step, "Leave it for today: it comes back tomorrow.", _ask(now))
    if now.high and now.failures >= 2 and now.form == Form.AS_WRITTEN:
        return Advice(NextStep.EASIER, "Not a third time the same: an easier form.")
    if now.same_reason >= EASIER_AFTER and now.form == Form.AS_WRITTEN:
        return Advice(NextStep.EASIER, "Twice for the same reason: an easier form.", _ask(now))
    if now.outcome == Outcome.NEARLY and now.failures >= 2:
        step = NextStep.END_BLOCK if now.index + 1 >= now.count else NextStep.NEXT
        return Advice(step, "Close enough to go on.")
    return Advice(NextStep.AGAIN, "Once more.")


def _ask(now: Situation) -> str | None:
    """Three things a player can check, when attempts keep failing and no single reason stands out."""
    return THREE_QUESTIONS if now.failures >= 2 and now.same_reason < 2 else None


def rest_after(played_s: float, load: Load, *, extra: bool = False) -> float:
    """Seconds of rest after a block: as long as was played, half as long again after heavy work or with `extra` care."""
    share = 1.5 if load == Load.HIGH or extra else 1.0
    return min(900.0, max(15.0, share * played_s))
