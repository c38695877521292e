"""Levels followed over days of practice: each day by the terms under which it was played, and what the player set in between."""

from collections.abc import Callable, Iterable

from orexis.core.coach import Standard
from orexis.core.planning.memory import ExerciseTypeDay
from orexis.core.progress import Path, PathPosition, entered, moved, placed_by_hand, stands

ByHand = tuple[tuple[int, int], ...]  # (ordinal date, step) in order
PathOn = Callable[[int], tuple[Path, Standard] | None]  # on an ordinal date


def follow_days(
    known: PathPosition | None, path_on: PathOn, days: Iterable[ExerciseTypeDay], by_hand: ByHand
) -> PathPosition | None:
    """The standing after these days, oldest first; None where there is still none.

    What was set by hand counts from the first day of practice that follows it on; a day that `known` has taken in counts once.
    """
    now = known
    waiting = _not_seen(known, by_hand)
    for day in sorted(days, key=lambda item: item.day):
        path_and_standard = path_on(day.day)
        if path_and_standard is None or not day.takes or day.day <= _last_day(now):
            continue
        path, standard = path_and_standard
        while waiting and waiting[0][0] <= day.day:
            set_on, step = waiting.pop(0)
            now = placed_by_hand(now or entered(path, standard), path, step, set_on)
        before = entered(path, standard) if now is None else stands(now, path, day.day)
        told = day.on_path()
        after = moved(before, path, told) if told is not None else before
        now = PathPosition(after.step, after.days, day.day, after.change)
    return now


def with_set_by_hand(
    known: PathPosition | None, path: Path, standard: Standard, by_hand: ByHand
) -> PathPosition | None:
    """The standing with what the player set since the last day that it has taken in."""
    now = known
    for set_on, step in _not_seen(known, by_hand):
        now = placed_by_hand(now or entered(path, standard), path, step, set_on)
    return now


def _last_day(now: PathPosition | None) -> int:
    return now.last_day if now is not None and now.last_day is not None else 0


def _not_seen(now: PathPosition | None, by_hand: ByHand) -> list[tuple[int, int]]:
    if now is None:
        return list(by_hand)
    seen = now.change.day if now.change is not None else 0
    return [item for item in by_hand if item[0] > max(_last_day(now), seen)]
