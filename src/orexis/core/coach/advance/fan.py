"""A fan of glides: each is a note of its own. One that does not arrive is tried once more, then the fan is over for today:
repeating a note that will not settle teaches failing.
"""

from orexis.core.coach.advance.values import Advice, NextStep, Situation, on_or_over


def fan(now: Situation) -> Advice:
    """Return what follows a take of a glissando fan, by the table at the top of this file."""
    if now.outcome.is_good:
        return on_or_over(now, "You got all of them." if now.last else "You got there. Next: one position further in.")
    if now.failures >= 2:
        return Advice(NextStep.END_BLOCK, "It didn’t settle twice. Stop the fan here for today.")
    return Advice(NextStep.AGAIN, "One more try.")
