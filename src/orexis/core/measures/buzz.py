"""On the mouthpiece there are no slots: everything is measured from where the player's own first buzz lies.

A first buzz that is steady and low is a buzz; whether the next is the same again, higher by a third, lower, is what is asked. How far the
first lies from the written pitch is told apart.
"""

from dataclasses import replace

from orexis.core.exercises import Exercise, Medium
from orexis.core.notes import HeardNote
from orexis.core.theory import cents_between

MOST_CENTS = 700.0  # further off, the first sound was not the first note
_LEAST_S = 0.3  # shorter buzzes are lip noise


def own_buzz(
    exercise: Exercise | None, heard: tuple[HeardNote, ...], *, a4: float
) -> tuple[Exercise | None, float | None]:
    """The exercise moved to the player's own first buzz, and how many cents that lies off (low is negative).

    The exercise itself and None on the instrument, for a sweep, or where no first buzz was heard.
    """
    if exercise is None or exercise.medium != Medium.MOUTHPIECE or "siren" in exercise.judged:
        return exercise, None
    first = next((note for note in heard if note.release_s - note.onset_s >= _LEAST_S), None)
    if first is None:
        return exercise, None
    off = cents_between(exercise.target_hz(exercise.notes[0], a4=a4), first.f0_hz)
    if abs(off) > MOST_CENTS:
        return exercise, None
    notes = tuple(replace(note, target_cents=note.target_cents + off) for note in exercise.notes)
    return replace(exercise, notes=notes), round(off, 1)
