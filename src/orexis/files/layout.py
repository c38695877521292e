"""Notes laid into bars: cut at bar lines and into lengths that a note head can show, beamed, with written rests.

Times are in ticks of 1/24 of a quarter, so that thirty-seconds and triplets both are whole numbers. Pure: exercise in, bars out.
"""

from dataclasses import dataclass, field

from orexis.core.exercises import Exercise

TICKS = 24  # a quarter in ticks: halves to 32nds and triplets come out whole
# Ticks that one note head can show, longest first: note type, dots, part of a triplet.
_LENGTHS: tuple[tuple[int, str, int, bool], ...] = (
    (96, "whole", 0, False), (72, "half", 1, False), (48, "half", 0, False), (36, "quarter", 1, False),
    (24, "quarter", 0, False), (18, "eighth", 1, False), (16, "quarter", 0, True), (12, "eighth", 0, False),
    (9, "16th", 1, False), (8, "eighth", 0, True), (6, "16th", 0, False), (4, "16th", 0, True), (3, "32nd", 0, False),
    (2, "32nd", 0, True), (1, "64th", 0, True),
)  # fmt: skip
_BEAMS = {"eighth": 1, "16th": 2, "32nd": 3, "64th": 4}


@dataclass(slots=True)
class Piece:
    """One note head or rest. `index` counts the exercise's notes, None for a rest; `part` counts pieces of one note."""

    index: int | None
    start: int  # ticks from the start of the exercise
    ticks: int
    kind: str
    dots: int
    triplet: bool
    part: int
    last: bool
    whole_bar: bool = False
    beams: list[str] = field(default_factory=list)
    tuplet: str | None = None  # start or stop

    @property
    def end(self) -> int:
        """Tick at which it is over."""
        return self.start + self.ticks


@dataclass(slots=True)
class Bar:
    """One bar of pieces; `new_line` where a phrase begins with it."""

    start: int
    pieces: list[Piece] = field(default_factory=list)
    new_line: bool = False


@dataclass(frozen=True, slots=True)
class _Grid:
    """An exercise's meter in ticks; `lead`: how much of the first bar is left out before a pick-up."""

    bar: int
    beat: int
    compound: bool
    lead: int


def _grid_of(exercise: Exercise) -> _Grid:
    bar = round(exercise.beats_per_bar * exercise.beat_quarters * TICKS)
    pickup = round(exercise.pickup * exercise.beat_quarters * TICKS)
    return _Grid(bar, round(exercise.beat_quarters * TICKS), exercise.meter.compound, bar - pickup if pickup else 0)


def tick_of(exercise: Exercise, beat: float) -> int:
    """Ticks from the start of the first bar, which a pick-up fills only at its end."""
    return _grid_of(exercise).lead + round(beat * exercise.beat_quarters * TICKS)


def bars_of(exercise: Exercise) -> list[Bar]:
    """The exercise's bars, the last one filled up with rest; before a pick-up nothing stands."""
    grid = _grid_of(exercise)
    pieces: list[Piece] = []
    now = grid.lead
    for index, note in enumerate(exercise.notes):
        start, end = tick_of(exercise, note.start_beat), tick_of(exercise, note.start_beat + note.beats)
        pieces += _cut(None, now, start, grid)
        pieces += _cut(index, max(now, start), max(end, max(now, start) + 1), grid)
        now = pieces[-1].end
    pieces += _cut(None, now, -(-now // grid.bar) * grid.bar, grid)
    bars = _in_bars(pieces, grid.bar)
    _mark_lines(bars, exercise, grid)
    for bar in bars:
        _beam(bar, grid)
        _group_triplets(bar)
    return bars


def _room(now: int, end: int, grid: _Grid) -> int:
    """To the end of the bar at the most; in a compound meter what crosses a beat begins on one and is whole beats."""
    room = min(end - now, grid.bar - now % grid.bar)
    into = now % grid.beat
    if not grid.compound or room <= grid.beat - into:
        return room
    return grid.beat - into if into else room - room % grid.beat


def _cut(index: int | None, start: int, end: int, grid: _Grid) -> list[Piece]:
    """One note or rest from tick to tick."""
    pieces: list[Piece] = []
    now, bar = start, grid.bar
    while now < end:
        room = _room(now, end, grid)
        if index is None and room < end - now + 1 and room == bar and now % bar == 0:
            ticks, kind, dots, triplet = bar, "whole", 0, False
            pieces.append(Piece(None, now, ticks, kind, dots, triplet, len(pieces), False, whole_bar=True))
        else:
            ticks, kind, dots, triplet = _longest(now, room)
            pieces.append(Piece(index, now, ticks, kind, dots, triplet, len(pieces), False))
        now += ticks
    if pieces:
        pieces[-1].last = True
    return pieces


def _longest(now: int, room: int) -> tuple[int, str, int, bool]:
    """The longest head that fits; a triplet's where the place or what is left is one of a triplet."""
    off = now % TICKS
    triplet = off % 3 != 0 or (room % 3 != 0 and room < TICKS)
    left = min(room, TICKS - off) if triplet else room
    fitting = [item for item in _LENGTHS if item[0] <= left and item[3] == triplet]
    return fitting[0] if fitting else next(item for item in _LENGTHS if item[0] <= room)


def _in_bars(pieces: list[Piece], length: int) -> list[Bar]:
    count = max(piece.end for piece in pieces) // length
    bars = [Bar(number * length) for number in range(count)]
    for piece in pieces:
        bars[piece.start // length].pieces.append(piece)
    return bars


def _mark_lines(bars: list[Bar], exercise: Exercise, grid: _Grid) -> None:
    """A phrase begins a line with the first bar line at or after its start, within half a bar before it."""
    for note in exercise.notes:
        if note.new_line:
            number = round(tick_of(exercise, note.start_beat) / grid.bar)
            if 0 < number < len(bars):
                bars[number].new_line = True


def _beam(bar: Bar, grid: _Grid) -> None:
    """Join what is shorter than a quarter: by the beat; plain eighths by two beats where the bar has four; in 3/8 and the like
    by threes.
    """
    groups: dict[int, list[Piece]] = {}
    for piece in bar.pieces:
        groups.setdefault((piece.start - bar.start) // _group_ticks(bar, piece, grid), []).append(piece)
    for group in groups.values():
        run: list[Piece] = []
        for item in (*group, None):
            if item is not None and item.index is not None and item.kind in _BEAMS:
                run.append(item)
                continue
            _join(run)
            run = []


def _group_ticks(bar: Bar, piece: Piece, grid: _Grid) -> int:
    half = 2 * TICKS
    if grid.compound:
        return grid.beat
    if grid.beat < TICKS:
        return 3 * grid.beat
    if grid.bar != 4 * TICKS:
        return TICKS
    here = (piece.start - bar.start) // half
    inside = [other for other in bar.pieces if (other.start - bar.start) // half == here]
    return half if all(other.kind == "eighth" and not other.dots and not other.triplet for other in inside) else TICKS


def _join(run: list[Piece]) -> None:
    if len(run) < 2:
        return
    for place, piece in enumerate(run):
        for level in range(1, _BEAMS[piece.kind] + 1):
            before = place > 0 and _BEAMS[run[place - 1].kind] >= level
            after = place + 1 < len(run) and _BEAMS[run[place + 1].kind] >= level
            if before and after:
                piece.beams.append("continue")
            elif before:
                piece.beams.append("end")
            elif after:
                piece.beams.append("begin")
            else:
                piece.beams.append("backward hook" if place else "forward hook")


def _group_triplets(bar: Bar) -> None:
    """Each beat's run of triplet pieces is bracketed as one."""
    beats: dict[int, list[Piece]] = {}
    for piece in bar.pieces:
        if piece.triplet:
            beats.setdefault(piece.start // TICKS, []).append(piece)
    for run in beats.values():
        if len(run) > 1:
            run[0].tuplet, run[-1].tuplet = "start", "stop"
