"""Notes: which semitones are in range, reached for, or only touched; high and low, alone and connected.

in range: held with sound match on three different days within 21. reaching: held at least once. touched: sounded half a
second, not held. PlayerRange is lost by failing on two different days with no hold between. Every note of a line is a try of
its own (evidence.py), so a climb refreshes what it went through. Days are ordinal dates, so that nothing here knows a clock.
"""

from collections import deque
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

IN_RANGE_DAYS, IN_RANGE_WITHIN, LOST_DAYS = 3, 21, 2
TOUCHED_S = 0.5  # half a second sounded: touched, whatever it was like
INSIDE = 3  # tomorrow starts so many notes inside the working range
KEPT_DAYS = 60  # days on which a note was held are remembered one by one for so long
LOPSIDED = 5  # more than a fourth


class RangeState(StrEnum):
    """How much of a note is the player's own."""

    IN_RANGE = "in_range"
    REACHING = "reaching"
    TOUCHED = "touched"
    NONE = "none"


@dataclass(frozen=True, slots=True)
class Attempt:
    """A try at a note. `connected`: reached along a line, not by itself."""

    midi: int
    day: int
    clean: bool
    sounded_s: float = 0.0
    connected: bool = False
    take_id: str | None = None
    match: float | None = None


@dataclass(slots=True)
class NoteHistory:
    """How much of a note is in range in one way, alone or along a line: a note that speaks alone is not yet one that can be joined."""

    state: RangeState = RangeState.NONE
    days_held: int = 0
    clean_days: list[int] = field(default_factory=list)
    failed_days: list[int] = field(default_factory=list)
    in_range_since: int | None = None


@dataclass(slots=True)
class RangeNote:
    """One semitone, in whatever way it was tried, and both ways apart. `joined`: it was held along a line, too."""

    midi: int
    state: RangeState = RangeState.NONE
    joined: bool = False
    days_held: int = 0
    clean_days: list[int] = field(default_factory=list)  # the latest of them
    failed_days: list[int] = field(default_factory=list)
    in_range_since: int | None = None
    best_match: float | None = None
    best_take: str | None = None
    latest_take: str | None = None
    alone: NoteHistory = field(default_factory=NoteHistory)
    in_line: NoteHistory = field(default_factory=NoteHistory)


@dataclass(frozen=True, slots=True)
class Range:
    """Notes in range: lowest and highest, None where there are none."""

    low: int | None
    high: int | None


@dataclass(frozen=True, slots=True)
class Reach:
    """How far it goes: in whatever way, by notes alone, and along lines."""

    own: Range
    alone: Range
    joined: Range


def range_notes(attempts: Iterable[Attempt]) -> dict[int, RangeNote]:
    """All notes that were ever tried, by keyboard number."""
    by_midi: dict[int, RangeNote] = {}
    for attempt in sorted(attempts, key=lambda item: item.day):
        add(by_midi, attempt)
    return by_midi


def ranges_over(attempts: Iterable[Attempt], days: Sequence[int]) -> tuple[Reach, ...]:
    """How far it went at the end of each of these ordinal days, which rise."""
    by_midi: dict[int, RangeNote] = {}
    waiting = deque(sorted(attempts, key=lambda item: item.day))
    out = []
    for day in days:
        while waiting and waiting[0].day <= day:
            add(by_midi, waiting.popleft())
        out.append(reach_of(by_midi))
    return tuple(out)


def add(by_midi: dict[int, RangeNote], attempt: Attempt) -> None:
    """One more try, later than those before it: the notes as they are after it."""
    _note(by_midi.setdefault(attempt.midi, RangeNote(attempt.midi)), attempt)


def _note(range_note: RangeNote, attempt: Attempt) -> None:
    range_note.latest_take = attempt.take_id or range_note.latest_take
    _try(range_note.in_line if attempt.connected else range_note.alone, attempt)
    if attempt.clean:
        if attempt.match is not None and (range_note.best_match is None or attempt.match > range_note.best_match):
            range_note.best_match, range_note.best_take = attempt.match, attempt.take_id
        range_note.best_take = range_note.best_take or attempt.take_id
        range_note.joined = range_note.joined or attempt.connected
    _try(range_note, attempt)


def _try(range_note: RangeNote | NoteHistory, attempt: Attempt) -> None:
    if attempt.clean:
        _refresh(range_note, attempt.day)
        if range_note.state != RangeState.IN_RANGE:
            recent = {day for day in range_note.clean_days if attempt.day - day < IN_RANGE_WITHIN}
            range_note.state = RangeState.IN_RANGE if len(recent) >= IN_RANGE_DAYS else RangeState.REACHING
            range_note.in_range_since = attempt.day if range_note.state == RangeState.IN_RANGE else None
        return
    if range_note.state == RangeState.NONE and attempt.sounded_s >= TOUCHED_S:
        range_note.state = RangeState.TOUCHED
    if attempt.day not in range_note.failed_days and attempt.day not in range_note.clean_days:
        range_note.failed_days = [*range_note.failed_days[-LOST_DAYS:], attempt.day]
    if range_note.state == RangeState.IN_RANGE and len(range_note.failed_days) >= LOST_DAYS:
        # What was held before does not count towards owning it again.
        range_note.state, range_note.in_range_since, range_note.clean_days = RangeState.REACHING, None, []


def _refresh(range_note: RangeNote | NoteHistory, day: int) -> None:
    if day not in range_note.clean_days:
        range_note.clean_days = [*(known for known in range_note.clean_days if day - known < KEPT_DAYS), day]
        range_note.days_held += 1
    range_note.failed_days = []


def working_range(by_midi: dict[int, RangeNote]) -> Range:
    """From the lowest note in range to the highest."""
    in_range = [range_note.midi for range_note in by_midi.values() if range_note.state == RangeState.IN_RANGE]
    return Range(min(in_range, default=None), max(in_range, default=None))


def reach_of(by_midi: dict[int, RangeNote]) -> Reach:
    """Return the range in any way, by notes alone, and in lines."""
    return Reach(working_range(by_midi), range_of(by_midi, joined=False), range_of(by_midi, joined=True))


def range_of(by_midi: dict[int, RangeNote], *, joined: bool) -> Range:
    """From the lowest note in range in this way to the highest."""
    in_range = [
        range_note.midi
        for range_note in by_midi.values()
        if (range_note.in_line if joined else range_note.alone).state == RangeState.IN_RANGE
    ]
    return Range(min(in_range, default=None), max(in_range, default=None))


def start_tomorrow(by_midi: dict[int, RangeNote], *, up: bool, otherwise: int) -> int:
    """A few notes inside the working range, on the side that is climbed."""
    own = working_range(by_midi)
    edge = own.high if up else own.low
    if edge is None:
        return otherwise
    start = edge - INSIDE if up else edge + INSIDE
    return max(start, otherwise) if up else min(start, otherwise)


def lopsided(by_midi: dict[int, RangeNote], middle: int) -> str | None:
    """Which side has outgrown the other by more than a fourth: "high", "low" or None."""
    own = working_range(by_midi)
    if own.low is None or own.high is None:
        return None
    above, below = own.high - middle, middle - own.low
    if above - below > LOPSIDED:
        return "high"
    return "low" if below - above > LOPSIDED else None
