"""Rungs: which semitones are owned, reached for, or only touched; high and low, alone and connected.

owned: held with sound match on three different days within 21. reaching: held at least once. touched: sounded half a
second, not held. Owned is lost by failing on two different days with no hold between. Every note of a line is a try of
its own (evidence.py), so a climb refreshes what it went through. Days are ordinal dates, so that nothing here knows a clock.
"""

from collections import deque
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

OWNED_DAYS, OWNED_WITHIN, LOST_DAYS = 3, 21, 2
TOUCHED_S = 0.5
INSIDE = 3  # tomorrow starts so many rungs inside the working range
KEPT_DAYS = 60  # days on which a rung was held are remembered one by one for so long
LOPSIDED = 5  # more than a fourth


class RungState(StrEnum):
    """How much of a rung is the player's own."""

    OWNED = "owned"
    REACHING = "reaching"
    TOUCHED = "touched"
    NONE = "none"


@dataclass(frozen=True, slots=True)
class Attempt:
    """A try at a rung. `connected`: reached along a line, not by itself."""

    midi: int
    day: int
    clean: bool
    sounded_s: float = 0.0
    connected: bool = False
    take_id: str | None = None
    match: float | None = None


@dataclass(slots=True)
class RungHistory:
    """How much of a rung is owned in one way, alone or along a line: a note that speaks alone is not yet one that can be joined."""

    state: RungState = RungState.NONE
    days_held: int = 0
    clean_days: list[int] = field(default_factory=list)
    failed_days: list[int] = field(default_factory=list)
    owned_since: int | None = None


@dataclass(slots=True)
class Rung:
    """One semitone, in whatever way it was tried, and both ways apart. `joined`: it was held along a line, too."""

    midi: int
    state: RungState = RungState.NONE
    joined: bool = False
    days_held: int = 0
    clean_days: list[int] = field(default_factory=list)  # the latest of them
    failed_days: list[int] = field(default_factory=list)
    owned_since: int | None = None
    best_match: float | None = None
    best_take: str | None = None
    latest_take: str | None = None
    alone: RungHistory = field(default_factory=RungHistory)
    in_line: RungHistory = field(default_factory=RungHistory)


@dataclass(frozen=True, slots=True)
class Range:
    """Owned rungs: lowest and highest, None where there are none."""

    low: int | None
    high: int | None


@dataclass(frozen=True, slots=True)
class Reach:
    """How far it goes: in whatever way, by notes alone, and along lines."""

    own: Range
    alone: Range
    joined: Range


def rungs(attempts: Iterable[Attempt]) -> dict[int, Rung]:
    """All rungs that were ever tried, by keyboard number."""
    found: dict[int, Rung] = {}
    for attempt in sorted(attempts, key=lambda item: item.day):
        add(found, attempt)
    return found


def ranges_over(attempts: Iterable[Attempt], days: Sequence[int]) -> tuple[Reach, ...]:
    """How far it went at the end of each of these ordinal days, which rise."""
    found: dict[int, Rung] = {}
    waiting = deque(sorted(attempts, key=lambda item: item.day))
    out = []
    for day in days:
        while waiting and waiting[0].day <= day:
            add(found, waiting.popleft())
        out.append(reach_of(found))
    return tuple(out)


def add(found: dict[int, Rung], attempt: Attempt) -> None:
    """One more try, later than those before it: the rungs as they are after it."""
    _note(found.setdefault(attempt.midi, Rung(attempt.midi)), attempt)


def _note(rung: Rung, attempt: Attempt) -> None:
    rung.latest_take = attempt.take_id or rung.latest_take
    _try(rung.in_line if attempt.connected else rung.alone, attempt)
    if attempt.clean:
        if attempt.match is not None and (rung.best_match is None or attempt.match > rung.best_match):
            rung.best_match, rung.best_take = attempt.match, attempt.take_id
        rung.best_take = rung.best_take or attempt.take_id
        rung.joined = rung.joined or attempt.connected
    _try(rung, attempt)


def _try(rung: Rung | RungHistory, attempt: Attempt) -> None:
    if attempt.clean:
        _refresh(rung, attempt.day)
        if rung.state != RungState.OWNED:
            recent = {day for day in rung.clean_days if attempt.day - day < OWNED_WITHIN}
            rung.state = RungState.OWNED if len(recent) >= OWNED_DAYS else RungState.REACHING
            rung.owned_since = attempt.day if rung.state == RungState.OWNED else None
        return
    if rung.state == RungState.NONE and attempt.sounded_s >= TOUCHED_S:
        rung.state = RungState.TOUCHED
    if attempt.day not in rung.failed_days and attempt.day not in rung.clean_days:
        rung.failed_days = [*rung.failed_days[-LOST_DAYS:], attempt.day]
    if rung.state == RungState.OWNED and len(rung.failed_days) >= LOST_DAYS:
        # What was held before does not count towards owning it again.
        rung.state, rung.owned_since, rung.clean_days = RungState.REACHING, None, []


def _refresh(rung: Rung | RungHistory, day: int) -> None:
    if day not in rung.clean_days:
        rung.clean_days = [*(known for known in rung.clean_days if day - known < KEPT_DAYS), day]
        rung.days_held += 1
    rung.failed_days = []


def working_range(found: dict[int, Rung]) -> Range:
    """From the lowest owned rung to the highest."""
    owned = [rung.midi for rung in found.values() if rung.state == RungState.OWNED]
    return Range(min(owned, default=None), max(owned, default=None))


def reach_of(found: dict[int, Rung]) -> Reach:
    """Return the range in any way, by notes alone, and in lines."""
    return Reach(working_range(found), range_of(found, joined=False), range_of(found, joined=True))


def range_of(found: dict[int, Rung], *, joined: bool) -> Range:
    """From the lowest rung owned in this way to the highest."""
    owned = [rung.midi for rung in found.values() if (rung.in_line if joined else rung.alone).state == RungState.OWNED]
    return Range(min(owned, default=None), max(owned, default=None))


def start_tomorrow(found: dict[int, Rung], *, up: bool, otherwise: int) -> int:
    """A few rungs inside the working range, on the side that is climbed."""
    own = working_range(found)
    edge = own.high if up else own.low
    if edge is None:
        return otherwise
    start = edge - INSIDE if up else edge + INSIDE
    return max(start, otherwise) if up else min(start, otherwise)


def lopsided(found: dict[int, Rung], middle: int) -> str | None:
    """Which side has outgrown the other by more than a fourth: "high", "low" or None."""
    own = working_range(found)
    if own.low is None or own.high is None:
        return None
    above, below = own.high - middle, middle - own.low
    if above - below > LOPSIDED:
        return "high"
    return "low" if below - above > LOPSIDED else None
