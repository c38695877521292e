"""One exercise after another: a miss is played again, then in an easier form, then left for tomorrow."""

from orexis.core.coach.advance.values import EASIER_AFTER, MOST_MISSES, Advice, NextStep, Situation, ask, on_or_over
from orexis.core.coach.verdict import Outcome
from orexis.core.exercises import Form


def in_order(now: Situation) -> Advice:
    """Return what follows a take of exercises played in order, by the table at the top of this file."""
    if now.outcome.is_good:
        return on_or_over(now, "That was the last one." if now.last else "On to the next one.")
    if now.failures >= MOST_MISSES:
        step = NextStep.END_BLOCK if now.last else NextStep.NEXT
        return Advice(step, "That’s enough of it today. It comes back tomorrow.", ask(now))
    if now.high and now.failures >= 2 and now.form == Form.AS_WRITTEN:
        return Advice(NextStep.EASIER, "Try an easier version.")
    if now.same_reason >= EASIER_AFTER and now.form == Form.AS_WRITTEN:
        return Advice(NextStep.EASIER, "Twice for the same reason. Try an easier version.", ask(now))
    if now.outcome == Outcome.CLOSE and now.failures >= 2:
        return on_or_over(now, "Close enough. Continue.")
    return Advice(NextStep.AGAIN, "Repeat it.")
