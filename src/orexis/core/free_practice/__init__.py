"""Practice without an exercise: where a recording of it is cut, and what is read from it."""

from orexis.core.free_practice.parts import PartBoundary, PartCutter
from orexis.core.free_practice.played_line import line_of_notes
from orexis.core.free_practice.reading import (
    FreeReading,
    NoteTuning,
    Place,
    RegisterTuning,
    Slurs,
    read_freely,
)
from orexis.core.free_practice.recognise import RecognisedExercise, recognised
from orexis.core.free_practice.shown import exercise_as_heard

__all__ = [
    "FreeReading",
    "NoteTuning",
    "PartBoundary",
    "PartCutter",
    "Place",
    "RecognisedExercise",
    "RegisterTuning",
    "Slurs",
    "exercise_as_heard",
    "line_of_notes",
    "read_freely",
    "recognised",
]
