"""What is read from practice without an exercise: no targets and no verdict, only what was there.

Pitch is against the nearest note of the scale at the player's A. A place in the sound is named by its part (the take) and its time.
"""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from statistics import median

from orexis.core.instruments import Instrument, Register, register_of
from orexis.core.measures import Measures, MoveMeasures, NoteMeasures
from orexis.core.theory import nearest_pitch

GAP_MS = 40.0  # shorter silences in a slur are left alone
TOUCH_MS = 30.0  # shorter touches are doubtful when nothing is written to compare with
_SETTLED_S = 0.3  # a note this long has a pitch of its own
_HELD_S = 1.0  # a note this long says how steady it is
_REACHED_S = 0.2  # a note this long counts for the range that was touched
_OTHER_NOTE = 45.0  # cents off: between two notes, it belongs to none
_MOST_PLACES = 40  # as many as a list on a page can be read
_REST_MS = 250.0  # between two lines
_FEWEST_SLURRED, _PARTED_SHARE = 3, 0.2  # of a line that is one slur
_PASSED_S, _PASSED_SHARE = 0.15, 0.4  # of a touch that is heard as a note; against its neighbours


@dataclass(frozen=True, slots=True)
class Place:
    """A moment that can be listened to."""

    take_id: str
    at_s: float
    ms: float


@dataclass(frozen=True, slots=True)
class NoteTuning:
    """A note: how often it was held, its middle in cents (sharp positive), and how far from that it usually was."""

    midi: int
    count: int
    cents: float
    spread: float


@dataclass(frozen=True, slots=True)
class RegisterTuning:
    """A register: how often a note in it was held, and how far out it usually was, in cents without sign."""

    register: Register
    count: int
    off_cents: float


@dataclass(frozen=True, slots=True)
class Slurs:
    """What happened in moves without a new attack: how many there were, silences in them, partials touched on the way."""

    count: int
    gaps: tuple[Place, ...]
    touched: tuple[Place, ...]


@dataclass(frozen=True, slots=True)
class FreeReading:
    """All of it. What could not be measured is None.

    `attack_cents`: how far off notes usually begin, `attack_ms` how long they usually take to settle; `breaks`: notes that began on another
    partial or broke to one. `wobble_cents`, `drift_cents`: of notes of a second and more. `soft_db`, `loud_db`: a tenth of the
    notes is softer, a tenth louder, dBFS.
    """

    parts: int
    notes: int
    playing_s: float
    longest_s: float
    low: int | None
    high: int | None
    off_cents: float | None
    tuning: tuple[NoteTuning, ...]
    registers: tuple[RegisterTuning, ...]
    attacks: int
    attack_cents: float | None
    attack_ms: float | None
    breaks: int
    wobble_cents: float | None
    drift_cents: float | None
    slurs: Slurs
    soft_db: float | None
    loud_db: float | None


def read_freely(parts: Sequence[tuple[str, Measures]], instrument: Instrument, *, a4: float) -> FreeReading:
    """The reading of all parts (take id and measures) of a session."""
    notes = [note for _, measures in parts for note in measures.notes if note.f0_hz is not None]
    placed = [(_midi(note, a4), note) for note in notes]
    settled = [(midi, note) for midi, note in placed if _settles(note)]
    reached = [midi for midi, note in placed if (note.hold_s or 0.0) >= _REACHED_S]
    attacked = [note for note in notes if not note.slurred]
    held = [note for note in notes if (note.hold_s or 0.0) >= _HELD_S]
    soft_db, loud_db = _loudness([note.level_db for note in notes if note.level_db is not None])
    return FreeReading(
        parts=len(parts),
        notes=len(notes),
        playing_s=round(sum(measures.exercise.playing_s for _, measures in parts), 1),
        longest_s=round(max((note.hold_s or 0.0 for note in notes), default=0.0), 1),
        low=min(reached, default=None),
        high=max(reached, default=None),
        off_cents=_middle(abs(note.pitch_error_cents or 0.0) for _, note in settled),
        tuning=_tuning(settled),
        registers=_registers(settled, instrument),
        attacks=len(attacked),
        attack_cents=_middle(abs(note.attack_error_cents) for note in attacked if note.attack_error_cents is not None),
        attack_ms=_middle(note.attack_settle_ms for note in attacked if note.attack_settle_ms is not None),
        breaks=sum(note.splits + note.cracks for note in notes),
        wobble_cents=_middle(note.pitch_wobble_cents for note in held if note.pitch_wobble_cents is not None),
        drift_cents=_middle(note.pitch_drift_cents for note in held if note.pitch_drift_cents is not None),
        slurs=_slurs(parts),
        soft_db=soft_db,
        loud_db=loud_db,
    )


def _midi(note: NoteMeasures, a4: float) -> int:
    assert note.f0_hz is not None
    return nearest_pitch(note.f0_hz, a4=a4).midi


def _settles(note: NoteMeasures) -> bool:
    error = note.pitch_error_cents
    return error is not None and abs(error) <= _OTHER_NOTE and (note.hold_s or 0.0) >= _SETTLED_S


def _tuning(settled: list[tuple[int, NoteMeasures]]) -> tuple[NoteTuning, ...]:
    by_note: dict[int, list[float]] = {}
    for midi, note in settled:
        by_note.setdefault(midi, []).append(note.pitch_error_cents or 0.0)
    out = []
    for midi, cents in sorted(by_note.items()):
        middle = median(cents)
        spread = median(abs(value - middle) for value in cents)
        out.append(NoteTuning(midi, len(cents), round(middle, 1), round(spread, 1)))
    return tuple(out)


def _registers(settled: list[tuple[int, NoteMeasures]], instrument: Instrument) -> tuple[RegisterTuning, ...]:
    by_register: dict[Register, list[float]] = {}
    for midi, note in settled:
        by_register.setdefault(register_of(midi, instrument), []).append(abs(note.pitch_error_cents or 0.0))
    return tuple(
        RegisterTuning(register, len(by_register[register]), round(median(by_register[register]), 1))
        for register in Register
        if register in by_register
    )


def _slurs(parts: Sequence[tuple[str, Measures]]) -> Slurs:
    count, gaps, touched = 0, list[Place](), list[Place]()
    for take_id, measures in parts:
        count += sum(move.slurred for move in measures.moves)
        for line in _lines(measures.moves):
            gaps += [Place(take_id, *gap) for move in line if (gap := _gap(move, slurred=_is_slurred(line)))]
        touched += [Place(take_id, at_s, ms) for at_s, ms in sorted([*_touched(measures.moves), *_passed(measures)])]
    return Slurs(count, tuple(gaps[:_MOST_PLACES]), tuple(touched[:_MOST_PLACES]))


def _lines(moves: Iterable[MoveMeasures]) -> list[list[MoveMeasures]]:
    """Moves that follow one another without a rest."""
    lines: list[list[MoveMeasures]] = [[]]
    for move in moves:
        if not move.slurred and (move.silence_ms or 0.0) >= _REST_MS:
            lines.append([])
        else:
            lines[-1].append(move)
    return lines


def _is_slurred(line: list[MoveMeasures]) -> bool:
    """Whether the line was meant as one slur: nearly all of its moves are slurred, so that a silence in it is none that was tongued."""
    parted = sum(not move.slurred for move in line)
    return len(line) - parted >= _FEWEST_SLURRED and parted <= max(1.0, _PARTED_SHARE * len(line))


def _gap(move: MoveMeasures, *, slurred: bool) -> tuple[float, float] | None:
    """When a silence in a slur begins and how long it is, ms."""
    if move.slurred:
        long = move.gap_ms is not None and move.gap_start_s is not None and move.gap_ms >= GAP_MS
        return (move.gap_start_s or 0.0, move.gap_ms or 0.0) if long else None
    long = slurred and move.silence_ms is not None and move.silence_ms >= GAP_MS
    return (move.start_s, move.silence_ms or 0.0) if long else None


def _touched(moves: Iterable[MoveMeasures]) -> Iterator[tuple[float, float]]:
    """When a partial on the way of a slur was touched, and for how long, ms."""
    for move in moves:
        if move.slurred:
            yield from ((at.start_s, at.ms) for at in move.clipped_partials if at.ms >= TOUCH_MS)


def _passed(measures: Measures) -> Iterator[tuple[float, float]]:
    """Touches that stayed so long that they are heard as notes: short, joined on both sides, between two much longer ones."""
    joined = {move.after for move in measures.moves if move.slurred}
    for before, note, after in zip(measures.notes, measures.notes[1:], measures.notes[2:], strict=False):
        if not {note.index, after.index} <= joined or note.onset_s is None:
            continue
        pitches = (before.f0_hz or 0.0, note.f0_hz or 0.0, after.f0_hz or 0.0)
        between = min(pitches[0], pitches[2]) < pitches[1] < max(pitches[0], pitches[2])
        short = (note.hold_s or 0.0) <= min(_PASSED_S, _PASSED_SHARE * min(before.hold_s or 0.0, after.hold_s or 0.0))
        if between and short:
            yield note.onset_s, round(1000.0 * (note.hold_s or 0.0), 0)


def _middle(values: Iterable[float]) -> float | None:
    known = list(values)
    return round(median(known), 1) if known else None


def _loudness(levels: list[float]) -> tuple[float, float] | tuple[None, None]:
    if not levels:
        return None, None
    ordered = sorted(levels)
    tenth = len(ordered) // 10
    return round(ordered[tenth], 1), round(ordered[-1 - tenth], 1)
