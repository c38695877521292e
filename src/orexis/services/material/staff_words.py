"""Words on the staff in the language in use."""

from dataclasses import replace

from orexis.core.exercises import Exercise
from orexis.core.messages import ENGLISH, in_use


def with_staff_words(exercise: Exercise) -> Exercise:
    """The exercise with what stands over its notes as the reader says it; an exercise from a file keeps its own words."""
    language = in_use()
    if language is ENGLISH or exercise.from_file:
        return exercise
    notes = tuple(replace(note, text=language.value(note.text)) if note.text else note for note in exercise.notes)
    return replace(exercise, notes=notes)
