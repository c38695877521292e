"""Moving along a path: on, back, after a pause, by hand. Pure rules over days of practice.

| what happened | what follows |
|---|---|
| the step was held on 3 different days (2 where the exercise type is easy) among the last 5 on which it was practised | one step on |
| it was not held on 3 practised days in a row | one step back |
| 14 days away / 42 / 120 | pedals and high work: one step back / two / to the start; others half of that, rounded down |
| the player sets the step | there, until the rules move on from it |

Never more than one step on in a day: a day is looked at once, when it is over. Days are ordinal dates.
"""

from dataclasses import dataclass, replace
from enum import StrEnum

from orexis.core.coach import Standard
from orexis.core.messages import counted, tell
from orexis.core.progress.paths import Path

HELD_DAYS, HELD_DAYS_EASY, AMONG, MISSED_DAYS = 3, 2, 5, 3
# Days away -> steps back for heavy work; the last goes to the start.
PAUSES: tuple[tuple[int, int | None], ...] = ((120, None), (42, 2), (14, 1))
# Where a player of a standard comes onto a path, as a share of its length.
ENTERS: dict[Standard, float] = {
    Standard.BEGINNER: 0.0,
    Standard.DEVELOPING: 0.12,
    Standard.ADVANCED: 0.35,
    Standard.PROFESSIONAL: 0.55,
}


class MoveReason(StrEnum):
    """Why a player moved to another level."""

    ON = "on"
    BACK = "back"
    PAUSE = "pause"
    BY_HAND = "by hand"


@dataclass(frozen=True, slots=True)
class DayOnPath:
    """A day on which an exercise type was practised: at which step, and whether that was held."""

    day: int
    step: int
    clean: bool


@dataclass(frozen=True, slots=True)
class Change:
    """The last move: why, on which day, from which step."""

    why: MoveReason
    day: int
    before: int


@dataclass(frozen=True, slots=True)
class PathPosition:
    """One player on one path. `days`: those on this step that are looked at, the oldest first."""

    step: int = 0
    days: tuple[tuple[int, bool], ...] = ()
    last_day: int | None = None
    change: Change | None = None

    @property
    def clean_days(self) -> int:
        """Days held among those that are looked at."""
        return sum(held for _, held in self.days)


NEW = PathPosition()


def entered(path: Path, standard: Standard) -> PathPosition:
    """Where somebody of this standard comes onto the path."""
    return PathPosition(step=round(ENTERS[standard] * (len(path.steps) - 1)))


def moved(standing: PathPosition, path: Path, played: DayOnPath) -> PathPosition:
    """After one more day, which is over. A day at an easier step is practice, and proves nothing about this one."""
    now = after_a_pause(standing, path, played.day)
    if played.step < now.step:
        return replace(now, last_day=played.day)
    days = (*now.days, (played.day, played.clean))[-AMONG:]
    now = replace(now, days=days, last_day=played.day)
    if now.clean_days >= needed(path) and now.step + 1 < len(path.steps):
        return _at(now, now.step + 1, MoveReason.ON, played.day)
    latest = days[-MISSED_DAYS:]
    if len(latest) == MISSED_DAYS and not any(held for _, held in latest) and now.step > 0:
        return _at(now, now.step - 1, MoveReason.BACK, played.day)
    return now


def stands(standing: PathPosition, path: Path, today: int) -> PathPosition:
    """Where the player stands today, a pause taken into account and the path's length kept to."""
    now = after_a_pause(standing, path, today)
    return now if now.step < len(path.steps) else replace(now, step=len(path.steps) - 1, days=())


def after_a_pause(standing: PathPosition, path: Path, day: int) -> PathPosition:
    """Back for days away, counted from the last day of practice."""
    if standing.last_day is None or standing.step == 0:
        return standing
    away = day - standing.last_day
    change = standing.change
    if change is not None and change.why in (MoveReason.BY_HAND, MoveReason.PAUSE):
        away = min(away, day - change.day)  # counted once
    for least, steps in PAUSES:
        if away >= least:
            back = standing.step if steps is None else steps
            step = max(0, standing.step - (back if path.heavy else back // 2))
            return standing if step == standing.step else _at(standing, step, MoveReason.PAUSE, day)
    return standing


def placed_by_hand(standing: PathPosition, path: Path, step: int, day: int) -> PathPosition:
    """Where the player says. Kept until the rules move on from it."""
    return _at(standing, min(max(0, step), len(path.steps) - 1), MoveReason.BY_HAND, day)


def needed(path: Path) -> int:
    """Days on which a step must be held."""
    return HELD_DAYS_EASY if path.easy else HELD_DAYS


def opens(standing: PathPosition, path: Path) -> str:
    """How far the present step is, and what opens the next."""
    held = standing.clean_days
    days = counted(held, "clean on {count} day", "clean on {count} days")
    if standing.step + 1 >= len(path.steps):
        return tell("the highest level, {days}", days=days)
    left = max(1, needed(path) - held)
    return counted(
        left, "{days}; {count} more opens the next level", "{days}; {count} more open the next level", days=days
    )


def _at(standing: PathPosition, step: int, why: MoveReason, day: int) -> PathPosition:
    return replace(standing, step=step, days=(), change=Change(why, day, standing.step))
