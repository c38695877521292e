"""Easier forms and other tempi of an exercise. What a pass asks for is a share of what is written, so it comes along.

*Slower*: three quarters of the tempo; a breath need not last longer for it. *Shorter*: slower, and the first half of the
exercise's gestures (a gesture is what slurs join), as many as it takes to keep one of each kind that the exercise has; a
exercise of so few gestures that none can be spared keeps all its notes at half their length.
"""

import math
from dataclasses import replace

from orexis.core.exercises.accompaniment import shortened_to
from orexis.core.exercises.exercise import TEMPO_RANGE, Exercise, ExerciseNote
from orexis.core.exercises.kinds import Form

SLOWER = 0.75  # a quarter slower is heard as slower, and breath still lasts
_LONGEST_S = 560.0  # a form that would not end within a take stays faster
_FEWEST = 4  # gestures, or notes of one gesture, before any are left out
_HALF = 0.5  # notes at half their length

Gesture = tuple[ExerciseNote, ...]


def slower(exercise: Exercise) -> Exercise:
    """The exercise at three quarters of its tempo; what it asks of the breath stays, in seconds."""
    made = replace(exercise, id=f"{exercise.id}-slower", tempo_bpm=_tempo(exercise, SLOWER))
    if made.hold_share is None:
        return made
    return replace(made, hold_share=made.hold_share * made.tempo_bpm / exercise.tempo_bpm)


def at_tempo(exercise: Exercise, percent: int) -> Exercise:
    """The exercise at so many hundredths of its tempo; breath and unmeasured exercises stay as they are."""
    if percent == 100 or not exercise.click:
        return exercise
    return replace(exercise, tempo_bpm=_tempo(exercise, percent / 100.0))


def _tempo(exercise: Exercise, share: float) -> float:
    """So much of the tempo, within bounds."""
    least = exercise.tempo_bpm * exercise.duration_s / _LONGEST_S
    return min(TEMPO_RANGE[1], max(TEMPO_RANGE[0], math.ceil(least), round(exercise.tempo_bpm * share)))


def in_form(exercise: Exercise, form: Form) -> Exercise:
    """The exercise as written, slower, or shorter (and slower)."""
    match form:
        case Form.SLOWER:
            return slower(exercise)
        case Form.SHORTER:
            return shortened(slower(exercise))
    return exercise


def shortened(exercise: Exercise) -> Exercise:
    """About half of an exercise, for a tired head, with something of all that it asks for."""
    gestures = _gestures(exercise)
    if len(gestures) >= _FEWEST:
        kept = [note for gesture in gestures[: _kept(gestures)] for note in gesture]
    elif len(gestures) == 1 and len(gestures[0]) >= _FEWEST and not any(map(_inseparable, gestures[0])):
        kept = _first_half(gestures[0])
    else:
        halved = tuple(_halved(note) for note in exercise.notes)
        sounds = shortened_to(exercise.accompaniment, _HALF * exercise.beats, _HALF)
        return replace(
            exercise, id=f"{exercise.id}-short", notes=halved, pickup=_HALF * exercise.pickup, accompaniment=sounds
        )
    # A set that ends before its notes begin to grow is not asked to.
    needs = tuple(need for need in exercise.needs if need.measure != "rise")
    sounds = shortened_to(exercise.accompaniment, kept[-1].start_beat + kept[-1].beats)
    return replace(exercise, id=f"{exercise.id}-short", notes=tuple(kept), needs=needs, accompaniment=sounds)


def _gestures(exercise: Exercise) -> list[Gesture]:
    """Runs of notes that slurs join."""
    runs: list[list[ExerciseNote]] = []
    for note in exercise.notes:
        if note.slurred and runs:
            runs[-1].append(note)
        else:
            runs.append([note])
    return [tuple(run) for run in runs]


def _kept(gestures: list[Gesture]) -> int:
    """How many gestures from the start: half of them, and one of each kind that there is."""
    kinds = [_kind(gesture) for gesture in gestures]
    return max(math.ceil(_HALF * len(gestures)), *(kinds.index(kind) + 1 for kind in kinds))


def _kind(gesture: Gesture) -> tuple[bool, bool, bool]:
    return len(gesture) > 1, any(map(_inseparable, gesture)), bool(gesture[-1].shape)


def _inseparable(note: ExerciseNote) -> bool:
    """A glide or a bend without its end asks for nothing."""
    return note.glide_beats > 0.0


def _first_half(notes: Gesture) -> list[ExerciseNote]:
    """Of a single line: what begins before its middle, two notes at least."""
    half = notes[0].start_beat + _HALF * (notes[-1].start_beat - notes[0].start_beat)
    kept = [note for note in notes if note.start_beat < half - 1e-6]
    return kept if len(kept) > 1 else list(notes[:2])


def _halved(note: ExerciseNote) -> ExerciseNote:
    return replace(
        note, start_beat=_HALF * note.start_beat, beats=_HALF * note.beats, glide_beats=_HALF * note.glide_beats
    )
