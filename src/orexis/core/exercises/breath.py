"""The breath before the first note."""

from orexis.core.exercises.exercise import Exercise
from orexis.core.exercises.kinds import Medium
from orexis.core.instruments import Instrument, Register, register_of


def breathes_in_two_steps(exercise: Exercise, instrument: Instrument) -> bool:
    """Whether it climbs high: then the breath goes low first, and is topped up high."""
    top = max(note.pitch.midi for note in exercise.notes)
    return exercise.medium == Medium.INSTRUMENT and register_of(top, instrument) == Register.HIGH
