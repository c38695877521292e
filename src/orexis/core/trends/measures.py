"""What of a take is followed over weeks: one value a measure, and one for each of its scopes: where in the range, how loud, which exercise type.

A take's value is the middle over its notes that were right (or its moves), as a size without sign unless said. What is judged and
followed is declared where it is judged (`Judged.trend`).
"""

from collections.abc import Iterable
from enum import StrEnum
from statistics import median

from orexis.core.coach.judging import JUDGED, TrendMeasure, TrendSource
from orexis.core.exercises import Exercise, ExerciseNote, Medium
from orexis.core.instruments import Instrument, Register, register_of
from orexis.core.measures import Measures, NoteMeasures


class Loud(StrEnum):
    """How loud a note is written."""

    SOFT = "soft"
    LOUD = "loud"


REGISTERS = tuple(Register)
SCOPES: tuple[str, ...] = (*Register, *Loud)
_LOUD_OF: dict[str, Loud] = {"pp": Loud.SOFT, "p": Loud.SOFT, "f": Loud.LOUD, "ff": Loud.LOUD}
_FEWEST_PEDALS = 4  # of an exercise that is about them
_OF_A_EXERCISE_TYPE = 3  # so many measures of an exercise type are followed for it alone: those that it judges first


def _pedals_there(exercise: Exercise, measures: Measures) -> float | None:
    asked = [note for note in exercise.notes if note.partial == 1 and not note.free]
    if len(asked) < _FEWEST_PEDALS or exercise.medium != Medium.INSTRUMENT:
        return None
    return round(100.0 * sum(note.partial == 1 for _, note in _right(exercise, measures)) / len(asked), 1)


# What is followed and not judged.
_NOT_JUDGED = (
    TrendSource(
        TrendMeasure("pitch_signed", 2, "Sharp or flat", "cents", None, True, -5.0, 5.0),
        of_note=lambda row: row.judged_error_cents,
    ),
    TrendSource(
        TrendMeasure("pedals", 13, "Pedal tones that spoke", "%", True, False, 0.0, 100.0), of_take=_pedals_there
    ),
    TrendSource(TrendMeasure("pace", 14, "Notes in clean slurs", "a second", True, False, 0.0, 4.0)),
)
_JUDGED_TOO = tuple(judged.trend for judged in JUDGED if judged.trend is not None)
_FOLLOWED = tuple(sorted((*_NOT_JUDGED, *_JUDGED_TOO), key=lambda item: item.measure.place))
TREND_MEASURES: dict[str, TrendMeasure] = {item.measure.id: item.measure for item in _FOLLOWED}


def key_of(measure: str, scope: str | None = None) -> str:
    """How it is named in the record: "pitch", "pitch@low", "pitch_drift@long-low-tones"."""
    return measure if scope is None else f"{measure}@{scope}"


def values_of(
    exercise: Exercise, instrument: Instrument, measures: Measures, *, clean: bool = False
) -> dict[str, float]:
    """By key; what was not measured is left out. A mouthpiece has no scopes. `clean`: whether the take was."""
    right = _right(exercise, measures)
    rows, loud = [(row, note.pitch.midi) for row, note in right], _written_loudness(exercise)
    values: dict[str, float] = {}
    for followed in _FOLLOWED:
        measure, of = followed.measure, followed.of_note
        if followed.of_take is not None:
            _put(values, measure.id, [followed.of_take(exercise, measures)])
        if of is None:
            continue
        _put(values, measure.id, [of(row) for row, _ in rows])
        if measure.by_register and exercise.medium == Medium.INSTRUMENT:
            for register in REGISTERS:
                here = [of(row) for row, midi in rows if register_of(midi, instrument) == register]
                _put(values, key_of(measure.id, register), here)
            for wanted in Loud:
                here = [of(row) for row, note in right if loud.get(note.id) == wanted]
                _put(values, key_of(measure.id, wanted), here)
    slurs = [move for move in measures.moves if move.slurred]
    if clean and slurs and exercise.medium == Medium.INSTRUMENT:
        _put(values, "pace", [_pace(exercise)])
    first = [name for name in exercise.judged if name in values][:_OF_A_EXERCISE_TYPE]
    return values | {key_of(name, exercise.exercise_type): values[name] for name in first}


def _pace(exercise: Exercise) -> float | None:
    """Notes a second where they are slurred."""
    lengths = [note.beats * exercise.beat_s for note in exercise.notes if note.slurred and note.glide_beats <= 0.0]
    return 1.0 / median(lengths) if lengths else None


def _written_loudness(exercise: Exercise) -> dict[str, Loud]:
    """Notes written soft or loud; a dynamic holds until the next."""
    loudness, now = {}, exercise.dynamic
    for note in exercise.notes:
        now = note.dynamic or now
        if now in _LOUD_OF:
            loudness[note.id] = _LOUD_OF[now]
    return loudness


def _right(exercise: Exercise, measures: Measures) -> list[tuple[NoteMeasures, ExerciseNote]]:
    notes = {note.id: note for note in exercise.notes if not note.free}
    return [(row, notes[row.target]) for row in measures.notes if row.right and row.target in notes]


def _put(by_key: dict[str, float], key: str, values: Iterable[float | None]) -> None:
    known = [value for value in values if value is not None]
    if known:
        by_key[key] = round(float(median(known)), 2)
