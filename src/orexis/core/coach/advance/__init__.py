"""What comes next after a take: again, on, a step back, an easier form, or enough for today; said with its reason.

Pure rules over what happened in this session, one small module for each way of going on. The player may overrule any of it.
"""

from collections.abc import Callable

from orexis.core.coach.advance.climb import climb
from orexis.core.coach.advance.falling import falling
from orexis.core.coach.advance.fan import fan
from orexis.core.coach.advance.in_order import in_order
from orexis.core.coach.advance.limit import limit
from orexis.core.coach.advance.values import Advice, NextStep, Situation
from orexis.core.coach.verdict import Outcome
from orexis.core.exercises import Advance, Form, Load

__all__ = ["Advice", "NextStep", "Situation", "decide", "rest_after", "rest_share"]

_MOST_NOT_HEARD = 3  # three silent takes are the microphone's trouble, not the player's
_LEAST_REST_S, _MOST_REST_S = 15.0, 900.0  # to put the instrument down; a longer rest is a pause
_RULES: dict[Advance, Callable[[Situation], Advice]] = {
    Advance.IN_ORDER: in_order,
    Advance.SETS: in_order,
    Advance.CLIMB: climb,
    Advance.PAIRS: climb,
    Advance.FALLING: falling,
    Advance.FAN: fan,
    Advance.LIMIT: limit,
}


def decide(now: Situation) -> Advice:
    """What was not heard does not count; an easier form that held leads back; the rest is the rule of the exercise's kind."""
    if now.outcome == Outcome.NOT_HEARD:
        if now.not_heard >= _MOST_NOT_HEARD:
            return Advice(NextStep.WAIT, "Nothing was heard three times. Check the microphone, then continue.")
        return Advice(NextStep.AGAIN, "That one doesn’t count.")
    if now.outcome.is_good and now.form != Form.AS_WRITTEN:
        return Advice(NextStep.AS_WRITTEN, "That was the easier version. Now as written.")
    return _RULES[now.advance](now)


def rest_share(load: Load, *, extra: bool = False) -> float:
    """How long a rest is for what was played: as long; half as long again after heavy work or with `extra` care."""
    return 1.5 if load == Load.HIGH or extra else 1.0


def rest_after(played_s: float, load: Load, *, rested_s: float = 0.0, extra: bool = False) -> float:
    """Seconds of rest after a block: what its share asks for less what was rested between its takes.

    After heavy work, or with `extra` care, never less than half of what was played.
    """
    share = rest_share(load, extra=extra)
    least = max(_LEAST_REST_S, 0.5 * played_s) if share > 1.0 else _LEAST_REST_S
    return min(_MOST_REST_S, max(least, share * played_s - rested_s))
