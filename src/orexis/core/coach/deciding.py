"""What comes next after a take: again, on, a step back, an easier form, or enough for today; said with its reason.

Pure rules over what happened in this session. The player may overrule any of it.
"""

from dataclasses import dataclass

from orexis.core.coach.reasons import THREE_QUESTIONS

MOST_FAILURES = 3  # of one rung, in whatever form it was tried
MOST_LOST = 2  # rungs in a row
MOST_MISSES = 4  # of one figure that is no rung, before going on
EASIER_AFTER = 2  # misses for one reason
MOST_NOT_HEARD = 3


@dataclass(frozen=True, slots=True)
class Situation:
    """What the rules look at. Indices count figures of the block; failures are those of the present rung."""

    outcome: str
    advance: str
    index: int
    first: int
    count: int
    failures: int = 0
    same_reason: int = 0  # misses in a row for the same reason, this one included
    lost_in_a_row: int = 0
    not_heard: int = 0  # in a row
    form: str = "as written"
    high: bool = False
    comfort: int | None = None  # the last rung inside the working range; None: not known
    past_tries: int = 0  # attempts beyond comfort in this session, this one included
    lost_rung: str = "a step back"


@dataclass(frozen=True, slots=True)
class Advice:
    """What comes next if nobody objects. `step`: next, again, back, easier, as-written,
    from-the-top, end-block, end-register, wait.
    """

    step: str
    say: str
    ask: str | None = None


def decide(now: Situation) -> Advice:
    """The rules in their order."""
    if now.outcome == "not heard":
        return _not_heard(now)
    if now.outcome == "held":
        return _held(now)
    if now.advance == "climb":
        return _lost(now)
    return _missed(now)


def _not_heard(now: Situation) -> Advice:
    if now.not_heard >= MOST_NOT_HEARD:
        return Advice("wait", "Nothing could be judged three times: see to the microphone, then go on.")
    return Advice("again", "That one does not count.")


def _held(now: Situation) -> Advice:
    if now.form != "as written":
        return Advice("as-written", "That was the easier form: now as it is written.")
    last = now.index + 1 >= now.count
    if now.advance == "climb":
        if now.comfort is not None and now.index > now.comfort:
            return Advice("end-block", "One step past what you own, and it held. That is enough up there for today.")
        return Advice("end-block", "The last rung held.") if last else Advice("next", "Held: a semitone on.")
    return Advice("end-block", "That was the last of these.") if last else Advice("next", "On to the next.")


def _lost(now: Situation) -> Advice:
    """A rung that was not held."""
    if now.failures >= MOST_FAILURES:
        return Advice(
            "end-register", "This rung failed three times: stopping here keeps the good notes. Enough for today."
        )
    if now.lost_in_a_row >= MOST_LOST:
        return Advice("end-register", "Two rungs in a row were lost: the lips have had enough up there for today.")
    if now.comfort is not None and now.index > now.comfort:
        if now.past_tries >= 2:
            return Advice("end-block", "One step past what you own: a try and a retry. It will be there another day.")
        return Advice("again", "One more try at the new one, no more.")
    if now.lost_rung == "stop here for today":
        return Advice("end-register", "As you chose: after a rung that failed, enough for today.")
    if now.lost_rung == "one more try, then stop":
        if now.failures >= 2:
            return Advice("end-register", "As you chose: one more try, then stop.")
        return Advice("again", "One more try.")
    if now.outcome == "nearly" and now.failures == 1:
        return Advice("again", "Close. Once more.")
    if now.index > now.first:
        return Advice("back", "A semitone back, where it is good.", _ask(now))
    if now.same_reason >= EASIER_AFTER and now.form == "as written":
        return Advice("easier", "An easier form first.")
    return Advice("again", "Once more, from the same place.", _ask(now))


def _missed(now: Situation) -> Advice:
    """A figure that is no rung."""
    if now.failures >= MOST_MISSES:
        step = "end-block" if now.index + 1 >= now.count else "next"
        return Advice(step, "Leave it for today: it comes back tomorrow.", _ask(now))
    if now.high and now.failures >= 2 and now.form == "as written":
        return Advice("easier", "Not a third time the same: an easier form.")
    if now.same_reason >= EASIER_AFTER and now.form == "as written":
        return Advice("easier", "Twice for the same reason: an easier form.", _ask(now))
    if now.outcome == "nearly" and now.failures >= 2:
        step = "end-block" if now.index + 1 >= now.count else "next"
        return Advice(step, "Close enough to go on.")
    return Advice("again", "Once more.")


def _ask(now: Situation) -> str | None:
    """Three things a player can check, when attempts keep failing and no single reason stands out."""
    return THREE_QUESTIONS if now.failures >= 2 and now.same_reason < 2 else None


def pedal_sets(weeks: float) -> int:
    """How many sets of pedals after so many weeks of them: two for four weeks, then one more every two, up to five."""
    return 2 if weeks < 4.0 else min(5, 3 + int((weeks - 4.0) // 2.0))


def rest_after(played_s: float, load: str, *, extra: bool = False) -> float:
    """Seconds of rest after a block: as long as was played, half as long again after heavy work or with `extra` care."""
    share = 1.5 if load == "high" or extra else 1.0
    return min(900.0, max(15.0, share * played_s))
