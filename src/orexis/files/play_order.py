"""Bars of a MusicXML part in the order in which they are played: repeats and endings written out."""

from collections.abc import Sequence

from lxml import etree

from orexis.errors import ExerciseError

MOST_BARS = 1024  # bounds repeats inside repeats
_MOST_TIMES = 8  # nobody plays a repeat more often


def played_bars(bars: Sequence[etree._Element]) -> list[int]:
    """Indices into `bars`; ExerciseError where repeats make a piece of more than 1,024 bars."""
    endings = _endings(bars)
    order: list[int] = []
    first, time, at = 0, 1, 0  # where the repeated part begins, which time it is played, the bar
    while at < len(bars):
        if _repeat(bars[at], "forward") is not None and at != first:
            first, time = at, 1
        if endings[at] and time not in endings[at]:
            at += 1
            continue
        order.append(at)
        if len(order) > MOST_BARS:
            raise ExerciseError(f"With its repeats the score has more than {MOST_BARS} bars: cut it down to the tune.")
        back = _repeat(bars[at], "backward")
        if back is not None and _once_more(endings, at, time, back):
            at, time = first, time + 1
            continue
        if back is not None or (endings[at] and (at + 1 == len(bars) or not endings[at + 1])):
            first, time = at + 1, 1
        at += 1
    return order


def has_jumps(part: etree._Element) -> bool:
    """Whether da capo, dal segno or a coda is written, which are not followed."""
    return any(sound.get(name) is not None for sound in part.iter("sound") for name in ("dacapo", "dalsegno", "tocoda"))


def _once_more(endings: list[frozenset[int]], at: int, time: int, back: etree._Element) -> bool:
    if endings[at]:
        following = endings[at + 1] if at + 1 < len(endings) else frozenset()
        return time < _MOST_TIMES and time + 1 in endings[at] | following
    times = back.get("times") or "2"
    return time < min(_MOST_TIMES, int(times) if times.isdecimal() else 2)


def _repeat(bar: etree._Element, direction: str) -> etree._Element | None:
    return next((item for item in bar.iterfind("barline/repeat") if item.get("direction") == direction), None)


def _endings(bars: Sequence[etree._Element]) -> list[frozenset[int]]:
    """For each bar the times at which it is played; none: every time."""
    endings: list[frozenset[int]] = []
    now: frozenset[int] = frozenset()
    for bar in bars:
        kinds = {item.get("type"): item.get("number") or "" for item in bar.iterfind("barline/ending")}
        if "start" in kinds:
            numbers = kinds["start"].replace(",", " ").split()
            now = frozenset(int(number) for number in numbers if number.isdecimal() and len(number) < 3)
        endings.append(now)
        if "stop" in kinds or "discontinue" in kinds:
            now = frozenset()
    return endings
