"""What is remembered of the notes of a day, so that instrument and player can be told apart without reading a take again.

One value a day for each note by the way it was played: how often, and sums of what was measured. Only notes that were there, on
the instrument, neither free nor bent nor moving. `cents` is the centre against what was asked; `kept` the part of theory's lean that stood
in notes whose fingering is to be left as it is, `free` that in all others, where the player may mend it. Theory is that of the instrument as
built, so that what a player corrects in between moves nothing here.
"""

import contextlib
from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, fields, replace
from statistics import median

from orexis.core.exercises import Exercise, ExerciseNote, Medium
from orexis.core.instruments import Instrument, deviation_cents, fingering_options
from orexis.core.measures import Measures, NoteMeasures
from orexis.core.theory import nearest_pitch, ratio_of
from orexis.errors import InstrumentError

WARM_AFTER_MIN = 10.0  # ten minutes of breath bring the air inside to its temperature
_FURTHEST_CENTS = 80.0  # beyond that it was another note
_FEWEST = 3  # notes that say where a player has one
_CLEARLY_CENTS, _HELD_S = 40.0, 0.5  # of a note that nobody asked for


@dataclass(frozen=True, slots=True)
class NoteDay:
    """A note by one way on one day. Sums over `count` notes; `entries` of them had an entry measured, `levels` a level."""

    day: int
    midi: int
    fingering: str
    partial: int
    count: int = 0
    cents: float = 0.0
    kept: float = 0.0
    free: float = 0.0
    warm: float = 0.0  # 1 at the first note of a session, 0 from ten minutes on
    tired: float = 0.0  # half hours of playing before it
    level: float = 0.0  # dBFS
    levels: int = 0
    entry: float = 0.0
    entries: int = 0

    @property
    def key(self) -> tuple[int, str, int]:
        """The note and how it was played."""
        return self.midi, self.fingering, self.partial


_SUMS = tuple(item.name for item in fields(NoteDay))[4:]


def joined(one: NoteDay | None, other: NoteDay) -> NoteDay:
    """Return two summaries of one note as one."""
    if one is None:
        return other
    return replace(one, **{name: round(getattr(one, name) + getattr(other, name), 3) for name in _SUMS})


def usual_cents(days: Iterable[NoteDay]) -> dict[int, float]:
    """Where a player has each note (by keyboard number), in cents: the median of its days. Notes heard too seldom are left out."""
    cents: dict[int, list[float]] = {}
    counts: Counter[int] = Counter()
    for note in days:
        cents.setdefault(note.midi, []).append(note.cents / note.count)
        counts[note.midi] += note.count
    return {midi: round(median(own), 1) for midi, own in cents.items() if counts[midi] >= _FEWEST}


def side_of(fingering: str) -> str:
    """The side of a double horn by a fingering's label; empty elsewhere."""
    return fingering.split()[0] if " " in fingering else ""


def notes_heard(
    exercise: Exercise, built: Instrument, measures: Measures, *, day: int, minutes: float, playing_min: float
) -> tuple[NoteDay, ...]:
    """The notes of a take. `built`: the instrument of the catalogue; minutes since its session began, and of playing in it so far."""
    if exercise.medium != Medium.INSTRUMENT:
        return ()
    warm, tired = max(0.0, 1.0 - minutes / WARM_AFTER_MIN), playing_min / 30.0
    days: dict[tuple[int, str, int], NoteDay] = {}
    for note, row in _unasked(built, measures) if exercise.asks_nothing else _asked(exercise, measures):
        if row.pitch_error_cents is None:
            continue
        theory = deviation_cents(built, note.fingering, note.partial, note.pitch)
        one = NoteDay(
            day=day,
            midi=note.pitch.midi,
            fingering=note.fingering.label,
            partial=note.partial,
            count=1,
            cents=row.pitch_error_cents,
            kept=theory if note.keep_fingering else 0.0,
            free=0.0 if note.keep_fingering else theory,
            warm=warm,
            tired=tired,
            level=row.level_db or 0.0,
            levels=int(row.level_db is not None),
            entry=row.attack_error_cents or 0.0,
            entries=int(row.attack_error_cents is not None),
        )
        days[one.key] = joined(days.get(one.key), one)
    return tuple(days.values())


def _asked(exercise: Exercise, measures: Measures) -> Iterator[tuple[ExerciseNote, NoteMeasures]]:
    """Written notes that were right, with what was measured of them."""
    written = {note.id: note for note in exercise.notes}
    for row in measures.notes:
        note = written.get(row.target or "")
        if note is None or not row.right or not _settles(note) or row.pitch_error_cents is None:
            continue
        if abs(row.pitch_error_cents) <= _FURTHEST_CENTS:
            yield note, row


def _unasked(built: Instrument, measures: Measures) -> Iterator[tuple[ExerciseNote, NoteMeasures]]:
    """Notes of free playing that were held and clearly one note of the scale, as if written in their usual fingering."""
    for row in measures.notes:
        if row.f0_hz is None or row.pitch_error_cents is None or abs(row.pitch_error_cents) > _CLEARLY_CENTS:
            continue
        if (row.hold_s or 0.0) < _HELD_S:
            continue
        # The nearest note, whatever A the cents are counted from.
        pitch = nearest_pitch(row.f0_hz / ratio_of(row.pitch_error_cents))
        with contextlib.suppress(InstrumentError):
            option = fingering_options(built, pitch)[0]
            yield ExerciseNote(row.sounded or "", pitch, 0.0, 1.0, option.fingering, option.partial), row


def _settles(note: ExerciseNote) -> bool:
    return not note.free and note.glide_beats <= 0.0 and note.target_cents == 0.0
