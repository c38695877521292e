"""Note by note: the next when this one is held, one back when it is not, and an end to it.

| what happened | what follows |
|---|---|
| held | the next note; one step past what is in range: enough for today |
| the same note failed three times, or two notes in a row were lost | the register is over for today |
| lost one step past what is in range | one more try, no more |
| nearly, the first time | once more |
| lost | as the approach says: one back, one more try, or an end; never before the first |

A ladder of pairs goes by the same rules: one pair back is a narrower one.
"""

from orexis.core.approaches import Choice
from orexis.core.coach.advance.values import EASIER_AFTER, MOST_FAILURES, MOST_LOST, Advice, NextStep, Situation, ask
from orexis.core.coach.verdict import Outcome
from orexis.core.exercises import Advance, Form

_ON = {Advance.CLIMB: "Clean. Next: one step further.", Advance.PAIRS: "Clean. Now the next pair."}
_BACK = {
    Advance.CLIMB: "Go back one step, where it sounded good.",
    Advance.PAIRS: "Go back one pair, where it sounded good.",
}


def climb(now: Situation) -> Advice:
    """Return what follows a take of a climb, by the table at the top of this file."""
    if now.outcome.is_good:
        return _held(now)
    return _over(now) or _past(now) or _by_approach(now) or _lost(now)


def _held(now: Situation) -> Advice:
    if now.comfort is not None and now.index > now.comfort:
        return Advice(NextStep.END_BLOCK, "One note past your range, and it was clean. That’s enough for today.")
    return (
        Advice(NextStep.END_BLOCK, "The last note was clean.") if now.last else Advice(NextStep.NEXT, _ON[now.advance])
    )


def _over(now: Situation) -> Advice | None:
    if now.failures >= MOST_FAILURES:
        return Advice(
            NextStep.END_REGISTER, "This note failed three times. Stop here for today and keep the good ones."
        )
    if now.lost_in_a_row >= MOST_LOST:
        return Advice(NextStep.END_REGISTER, "Two notes in a row failed. Your lips have had enough up there today.")
    return None


def _past(now: Situation) -> Advice | None:
    """Beyond what is in range: a try and a retry."""
    if now.comfort is None or now.index <= now.comfort:
        return None
    if now.past_tries >= 2:
        return Advice(NextStep.END_BLOCK, "One note past your range, tried twice. It will come another day.")
    return Advice(NextStep.AGAIN, "One more try at the new note.")


def _by_approach(now: Situation) -> Advice | None:
    if now.lost_note == Choice.STOP_HERE:
        return Advice(NextStep.END_REGISTER, "A note failed, so that’s enough for today, as you chose.")
    if now.lost_note == Choice.ONE_MORE_TRY:
        if now.failures >= 2:
            return Advice(NextStep.END_REGISTER, "One more try, then stop, as you chose.")
        return Advice(NextStep.AGAIN, "One more try.")
    return None


def _lost(now: Situation) -> Advice:
    if now.outcome == Outcome.CLOSE and now.failures == 1:
        return Advice(NextStep.AGAIN, "Close. Repeat it.")
    if now.index > now.first:
        return Advice(NextStep.BACK, _BACK[now.advance], ask(now))
    if now.same_reason >= EASIER_AFTER and now.form == Form.AS_WRITTEN:
        return Advice(NextStep.EASIER, "Try an easier version first.")
    return Advice(NextStep.AGAIN, "Repeat from the same note.", ask(now))
