"""Bars of a MusicXML part in the order in which they are played: repeats, endings, da capo, dal segno and coda written out."""

import re
from collections.abc import Sequence
from dataclasses import dataclass

from lxml import etree

from orexis.core.messages import tell
from orexis.errors import ExerciseError

MOST_BARS = 1024  # bounds repeats inside repeats
_MOST_TIMES = 8  # nobody plays a repeat more often
# Jumps as words, where a program that wrote the file gave no <sound> to them.
_WORDS = {
    "dacapo": re.compile(r"\s*(D\.? ?C\.?|da capo)\b", re.IGNORECASE),
    "dalsegno": re.compile(r"\s*(D\.? ?S\.?|dal segno)\b", re.IGNORECASE),
    "tocoda": re.compile(r"\s*to coda\b", re.IGNORECASE),
    "fine": re.compile(r"\s*fine\s*\.?\s*$", re.IGNORECASE),
}
_SIGNS = {"segno": "segno", "coda": "coda"}


@dataclass(frozen=True, slots=True)
class PlayOrder:
    """Indices of bars in the order in which they are played; `jumped` says that a da capo or dal segno was followed."""

    bars: tuple[int, ...]
    jumped: bool


def play_order(bars: Sequence[etree._Element]) -> PlayOrder:
    """The order of the bars; after a jump repeats are not taken again and the last ending is played, as is usual.

    ExerciseError where repeats make a piece of more than 1,024 bars.
    """
    endings, marks = _endings(bars), [_marks(bar) for bar in bars]
    back_to = _jump(marks)
    order: list[int] = []
    first, time, at = 0, 1, 0  # where the repeated part begins, which time it is played, the bar
    jumped = False
    while at < len(bars):
        if jumped:
            if endings[at] and at + 1 < len(bars) and _later_ending(endings, at):
                at += 1
                continue
        else:
            if _repeat(bars[at], "forward") is not None and at != first:
                first, time = at, 1
            if endings[at] and time not in endings[at]:
                at += 1
                continue
        order.append(at)
        if len(order) > MOST_BARS:
            raise ExerciseError(
                tell(
                    "With its repeats the score has more than {most_bars} bars: cut it down to the tune.",
                    most_bars=MOST_BARS,
                )
            )
        if jumped:
            if "fine" in marks[at]:
                break
            coda = next((other for other in range(at + 1, len(bars)) if "coda" in marks[other]), None)
            at = coda if "tocoda" in marks[at] and coda is not None else at + 1
            continue
        back = _repeat(bars[at], "backward")
        if back is not None and _once_more(endings, at, time, back):
            at, time = first, time + 1
            continue
        if back_to is not None and at == back_to[0]:
            at, jumped = back_to[1], True
            continue
        if back is not None or (endings[at] and (at + 1 == len(bars) or not endings[at + 1])):
            first, time = at + 1, 1
        at += 1
    return PlayOrder(tuple(order), jumped)


def _jump(marks: Sequence[frozenset[str]]) -> tuple[int, int] | None:
    """From which bar to which the piece goes back; None where it does not, or its sign is not there."""
    for at, here in enumerate(marks):
        if "dacapo" in here:
            return at, 0
        if "dalsegno" in here:
            to = next((other for other in range(at, -1, -1) if "segno" in marks[other]), None)
            return None if to is None else (at, to)
    return None


def _marks(bar: etree._Element) -> frozenset[str]:
    """Which of dacapo, dalsegno, segno, tocoda, coda and fine are written in a bar."""
    named = {
        name for sound in bar.iter("sound") for name in (*_WORDS, *_SIGNS) if sound.get(name) not in (None, "", "no")
    }
    if named:
        return frozenset(named)
    texts = [item.text or "" for item in bar.iterfind("direction/direction-type/words")]
    named = {name for name, pattern in _WORDS.items() if any(pattern.match(text) for text in texts)}
    signs = {name for name in _SIGNS if bar.find(f"direction/direction-type/{name}") is not None}
    # A sign beside "To Coda" or "D.S." belongs to those words, and is no place to go to.
    return frozenset(named | {name for name in signs if not named & {"tocoda", "dalsegno", "dacapo"}})


def _later_ending(endings: Sequence[frozenset[int]], at: int) -> bool:
    """Whether an ending for a later time follows this one without a bar between."""
    here = endings[at]
    while at < len(endings) and endings[at]:
        if min(endings[at]) > max(here):
            return True
        at += 1
    return False


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
