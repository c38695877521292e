"""Downwards, each exercise a semitone lower: what is lost goes up again, or takes fewer notes, never lower.

| what happened | what follows |
|---|---|
| held | a semitone lower |
| lost once | once more |
| lost twice | a semitone up again, where it was good; on the first: fewer notes |
| the same one lost three times, or two in a row | enough down there for today, at the last good one |
"""

from orexis.core.coach.advance.values import MOST_FAILURES, MOST_LOST, Advice, NextStep, Situation, ask
from orexis.core.coach.verdict import Outcome
from orexis.core.exercises import Form


def falling(now: Situation) -> Advice:
    """Return what follows a take of a falling pattern, by the table at the top of this file."""
    if now.outcome.is_good:
        return (
            Advice(NextStep.END_BLOCK, "The lowest one was clean.")
            if now.last
            else Advice(NextStep.NEXT, "Clean. Next: a semitone lower.")
        )
    if now.failures >= MOST_FAILURES:
        return Advice(NextStep.END_BLOCK, "It failed three times. Try the way down again tomorrow.", ask(now))
    if now.lost_in_a_row >= MOST_LOST:
        return Advice(NextStep.END_BLOCK, "Two in a row failed. That’s low enough for today.")
    if now.failures < 2:
        return Advice(NextStep.AGAIN, "Repeat it." if now.outcome == Outcome.NOT_YET else "Close. Repeat it.")
    if now.index > now.first:
        return Advice(NextStep.BACK, "Go up a semitone, where it sounded good.", ask(now))
    if now.form == Form.AS_WRITTEN:
        return Advice(NextStep.EASIER, "Play fewer notes first.", ask(now))
    return Advice(NextStep.AGAIN, "Repeat it.", ask(now))
