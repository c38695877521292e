"""Which heard note answers which written one.

A shortest path over the two lists (Needleman & Wunsch 1970): a pair costs by how far the pitch is off and by how far
the moment is off, a written note without answer and a heard note without question cost a fixed price each. A listener
forgives a wrong partial at the right moment more easily than a missing note.
"""

import math

import numpy as np

from orexis.core.exercises import Exercise, ExerciseNote
from orexis.core.notes.values import HeardNote, Row
from orexis.core.theory import cents_between

RIGHT_CENTS = 90.0  # further off it is another note; deviations up to a quarter tone and more stay the same note
_MISSED = 6.0  # a missing note costs as much as one a fifth off and late
_EXTRA = 3.0  # an extra note is likelier than a missing one
_EXTRA_FULL_S = 0.3  # a shorter extra costs in proportion
_PER_SEMITONE = 0.7  # so that a wrong partial is still the note that was asked
_PITCH_MOST = 5.0  # less than a missing and an extra note together
_WRONG = 1.2  # more than only by how far: a row of wrong notes is less likely than one that is missing
_SCRAP, _SCRAP_SHARE = 3.0, 0.25  # another pitch for so small a share of the written length is hardly the note's answer
_PER_BEAT = 0.8  # so that a note is matched within a few beats of its place
_TIME_MOST = 4.0  # so that a late start does not lose the whole line


def align_notes(
    heard: tuple[HeardNote, ...], exercise: Exercise, *, a4: float, first_beat_s: float | None
) -> tuple[Row, ...]:
    """Rows in order of time. `first_beat_s` is the moment of the count-in's first beat, None when not known."""
    zero = _zero(heard, exercise, first_beat_s)
    written = exercise.notes
    cost = np.full((len(written) + 1, len(heard) + 1), math.inf)
    step = np.zeros(cost.shape, np.int8)  # 1 pair, 2 missed, 3 extra
    cost[0, 0] = 0.0
    for i in range(len(written) + 1):
        for j in range(len(heard) + 1):
            options = [
                (cost[i - 1, j - 1] + _pair(written[i - 1], heard[j - 1], exercise, a4, zero), 1)
                if i and j
                else (math.inf, 1),
                (cost[i - 1, j] + _MISSED, 2) if i else (math.inf, 2),
                (cost[i, j - 1] + _extra(heard[j - 1]), 3) if j else (math.inf, 3),
            ]
            if i or j:
                cost[i, j], step[i, j] = min(options)
    return tuple(_walk(written, heard, step, exercise, a4))


def off_cents(note: ExerciseNote, heard: HeardNote, exercise: Exercise, *, a4: float) -> float:
    """How far the heard note lies from where it is expected: the target, or the instrument's slot on a kept fingering."""
    deviation = cents_between(exercise.target_hz(note, a4=a4), heard.f0_hz)
    return deviation - (note.instrument_cents if note.keep_fingering else 0.0)


def _zero(heard: tuple[HeardNote, ...], exercise: Exercise, first_beat_s: float | None) -> float:
    if first_beat_s is not None or not heard:
        return first_beat_s or 0.0
    return heard[0].onset_s - exercise.start_s(exercise.notes[0])


def _pair(note: ExerciseNote, heard: HeardNote, exercise: Exercise, a4: float, zero: float) -> float:
    off = abs(off_cents(note, heard, exercise, a4=a4))
    short = heard.release_s - heard.onset_s < _SCRAP_SHARE * note.beats * exercise.beat_s
    wrong = 0.0 if off <= RIGHT_CENTS else _WRONG + (_SCRAP if short else 0.0)
    beats = abs(heard.onset_s - zero - exercise.start_s(note)) / exercise.beat_s
    return min(_PER_SEMITONE * off / 100.0, _PITCH_MOST) + wrong + min(_PER_BEAT * beats, _TIME_MOST)


def _extra(heard: HeardNote) -> float:
    return _EXTRA * min(1.0, (heard.release_s - heard.onset_s) / _EXTRA_FULL_S)


def _walk(
    written: tuple[ExerciseNote, ...],
    heard: tuple[HeardNote, ...],
    step: np.ndarray[tuple[int, ...], np.dtype[np.int8]],
    exercise: Exercise,
    a4: float,
) -> list[Row]:
    i, j = len(written), len(heard)
    rows: list[Row] = []
    while i or j:
        kind = int(step[i, j])
        if kind == 1:
            note, sound = written[i - 1], heard[j - 1]
            rows.append(Row(note, sound, abs(off_cents(note, sound, exercise, a4=a4)) <= RIGHT_CENTS))
            i, j = i - 1, j - 1
        elif kind == 2:
            rows.append(Row(written[i - 1], None, False))
            i -= 1
        else:
            rows.append(Row(None, heard[j - 1], False))
            j -= 1
    return rows[::-1]
