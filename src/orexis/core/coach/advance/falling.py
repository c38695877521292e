"""Downwards, each figure a semitone lower: what is lost goes up again, or takes fewer notes, never lower.

| what happened | what follows |
|---|---|
| held | a semitone lower |
| lost once | once more |
| lost twice | a semitone up again, where it was good; on the first: fewer notes |
| the same one lost three times, or two in a row | enough down there for today, at the last good one |
"""

from orexis.core.coach.advance.values import MOST_FAILURES, MOST_LOST, Advice, NextStep, Situation, ask
from orexis.core.coach.verdict import Outcome
from orexis.core.figures import Form


def falling(now: Situation) -> Advice:
    """Return what follows a take of a falling pattern, by the table at the top of this file."""
    if now.outcome == Outcome.HELD:
        return (
            Advice(NextStep.END_BLOCK, "The lowest of these held.")
            if now.last
            else Advice(NextStep.NEXT, "Held: a semitone lower.")
        )
    if now.failures >= MOST_FAILURES:
        return Advice(NextStep.END_BLOCK, "Lost three times: the way down waits for tomorrow.", ask(now))
    if now.lost_in_a_row >= MOST_LOST:
        return Advice(NextStep.END_BLOCK, "Two in a row were lost: low enough for today.")
    if now.failures < 2:
        return Advice(NextStep.AGAIN, "Once more." if now.outcome == Outcome.NOT_YET else "Close. Once more.")
    if now.index > now.first:
        return Advice(NextStep.BACK, "A semitone up again, where it is good.", ask(now))
    if now.form == Form.AS_WRITTEN:
        return Advice(NextStep.EASIER, "Fewer notes first.", ask(now))
    return Advice(NextStep.AGAIN, "Once more.", ask(now))
