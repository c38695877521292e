"""Triads to today's limit. Exercises alternate: a triad, then its low note.

| what happened | what follows |
|---|---|
| triad held | its low note |
| triad lost | one more try; lost again, that is today's limit: its low note |
| low note held | the next triad; at the limit: loose pedals, and no more register work today, nor tomorrow |
| low note rough | again until it is centred, four times at the most; then the lips have had enough |

How far it goes, nobody caps: the triads do.
"""

from orexis.core.coach.advance.values import MOST_MISSES, Advice, NextStep, Situation

_TRIES = 2  # of a triad


def limit(now: Situation) -> Advice:
    """Return what follows a take of triads to the limit, by the table at the top of this file."""
    return _low_note(now) if now.index % 2 else _triad(now)


def _triad(now: Situation) -> Advice:
    if now.outcome.is_good:
        return Advice(NextStep.NEXT, "Clean. Now the low note.")
    if now.failures >= _TRIES:
        return Advice(NextStep.NEXT, "That’s today’s limit. Play the low note until it’s centred.")
    return Advice(NextStep.AGAIN, "One more try at this one.")


def _low_note(now: Situation) -> Advice:
    if now.outcome.is_good:
        if now.before_lost >= _TRIES:
            return Advice(
                NextStep.END_REGISTER,
                "Back home, and centred. Free pedal tones now. No more high work today or tomorrow.",
            )
        if now.last:
            return Advice(NextStep.END_REGISTER, "That was the highest triad there is. Free pedal tones now.")
        return Advice(NextStep.NEXT, "The low note is clean. Next: a semitone up.")
    if now.failures >= MOST_MISSES:
        return Advice(
            NextStep.END_REGISTER,
            "The low note stayed rough four times. Your lips have had enough. Free pedal tones now.",
        )
    return Advice(NextStep.AGAIN, "The low note again, until it’s centred.")
