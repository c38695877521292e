"""What an exercise asks of loudness, as the simulated player takes it: dB under full scale for every note, and its shape."""

import numpy as np

from orexis.core.exercises import Exercise, ExerciseNote, Loudness
from orexis.core.sound import Floats

LEVEL_OF = {"pp": -36.0, "p": -31.0, "mp": -27.0, "mf": -23.0, "f": -18.0, "ff": -14.0}
LEAN_CENTS = 35.0  # to either side of the middle
_SHAPE_DB = 9.0  # how far a swell goes
_ACCENT_DB, _ACCENT_BEATS = 4.5, 0.35


def levels_asked(exercise: Exercise) -> dict[str, float]:
    """The level of each note by its id: the last dynamic written counts on; a line that grows or eases does so with the
    height, and on one pitch with time.
    """
    marked = {note.pitch.midi: LEVEL_OF[note.dynamic] for note in exercise.notes if note.dynamic}
    if exercise.loudness in (Loudness.GROW, Loudness.EASE) and len(marked) > 1:
        heights = sorted(marked)
        return {
            note.id: float(np.interp(note.pitch.midi, heights, [marked[h] for h in heights])) for note in exercise.notes
        }
    marks = [(i, note.dynamic) for i, note in enumerate(exercise.notes) if note.dynamic]
    known = {0: LEVEL_OF[exercise.dynamic]} | {i: LEVEL_OF[mark] for i, mark in marks}
    places = sorted(known)
    index = np.arange(len(exercise.notes))
    if exercise.loudness in (Loudness.GROW, Loudness.EASE) and len(places) > 1:
        levels = np.interp(index, places, [known[place] for place in places])
    else:
        levels = np.array([known[max(place for place in places if place <= i)] for i in index])
    return {note.id: float(level) for note, level in zip(exercise.notes, levels, strict=True)}


def leaning_cents(note: ExerciseNote, share: Floats) -> Floats | None:
    """A note that is to be leaned up, let down and settled: how far off it goes; None where nothing of it is asked."""
    if not note.text or "|" not in note.text:
        return None
    up = np.clip((share - 0.25) / 0.1, 0.0, 1.0) * np.clip((0.5 - share) / 0.08, 0.0, 1.0)
    down = np.clip((share - 0.5) / 0.08, 0.0, 1.0) * np.clip((0.75 - share) / 0.08, 0.0, 1.0)
    return np.asarray(LEAN_CENTS * (up - down))


def pulse_of_air_db(note: ExerciseNote, beats: Floats) -> Floats:
    """DB over the note's level, so many beats after it began."""
    return _ACCENT_DB * np.exp(-np.maximum(beats, 0.0) / _ACCENT_BEATS) if note.accent else np.zeros_like(beats)


def asked_shape_db(shape: str | None, share: Floats) -> Floats:
    """DB against the note's level along its length (0 to 1)."""
    match shape:
        case "swell":
            return _SHAPE_DB * (share - 0.5)
        case "fade":
            return -_SHAPE_DB * (share - 0.5)
        case "swell-and-fade":
            return np.asarray(_SHAPE_DB * (0.5 - np.abs(2.0 * share - 1.0)))
    return np.zeros_like(share)
