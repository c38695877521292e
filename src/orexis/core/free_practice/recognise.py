"""Exercises that turn up in free playing: the same notes in the same rhythm, at whatever tempo."""

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise
from statistics import median

from orexis.core.exercises import Exercise
from orexis.core.measures import Measures
from orexis.core.theory import nearest_pitch

_FEWEST = 4  # notes; fewer are anybody's
_RHYTHM = 0.35  # a gap between two beginnings may be so much longer or shorter than written
_SHORTEST_S = 0.08  # shorter notes are ornaments or mistakes, and would break the match
_AROUND_S = 0.6  # keeps the breath before and the ring after


@dataclass(frozen=True, slots=True)
class RecognisedExercise:
    """An exercise that was played: which one of those looked for, and where in the sound, with some room around it."""

    exercise: int
    start_s: float
    stop_s: float


def recognised(measures: Measures, exercises: Iterable[Exercise], *, a4: float) -> tuple[RecognisedExercise, ...]:
    """The exercises found in a part, one after another, the longest first where several fit the same notes."""
    heard = [
        (nearest_pitch(note.f0_hz, a4=a4).midi, note.onset_s, note.release_s)
        for note in measures.notes
        if note.f0_hz is not None and note.onset_s is not None and note.release_s is not None
        if note.release_s - note.onset_s >= _SHORTEST_S
    ]
    wanted = sorted(
        ((index, exercise) for index, exercise in enumerate(exercises) if _can_be_told(exercise)),
        key=lambda item: -len(item[1].notes),
    )
    matches: list[RecognisedExercise] = []
    taken: set[int] = set()
    for index, exercise in wanted:
        size = len(exercise.notes)
        for at in range(len(heard) - size + 1):
            span = heard[at : at + size]
            if taken & set(range(at, at + size)) or not _fits(span, exercise):
                continue
            taken |= set(range(at, at + size))
            matches.append(
                RecognisedExercise(index, round(max(0.0, span[0][1] - _AROUND_S), 3), round(span[-1][2] + _AROUND_S, 3))
            )
    return tuple(sorted(matches, key=lambda item: item.start_s))


def _can_be_told(exercise: Exercise) -> bool:
    """Whether its notes alone say which exercise it is: enough of them, not all the same, none gliding or free."""
    plain = all(note.glide_beats <= 0.0 and not note.free for note in exercise.notes)
    return plain and len(exercise.notes) >= _FEWEST and len({note.pitch.midi for note in exercise.notes}) > 1


def _fits(span: list[tuple[int, float, float]], exercise: Exercise) -> bool:
    if any(midi != note.pitch.midi for (midi, _, _), note in zip(span, exercise.notes, strict=True)):
        return False
    played = [later[1] - one[1] for one, later in pairwise(span)]
    written = [later.start_beat - one.start_beat for one, later in pairwise(exercise.notes)]
    beat_s = median(gap / beats for gap, beats in zip(played, written, strict=True))
    return all(abs(gap / (beats * beat_s) - 1.0) <= _RHYTHM for gap, beats in zip(played, written, strict=True))
