"""Practice without an exercise: where a recording of it is cut, and what is read from it."""

from orexis.core.free_practice.parts import Cut, PartCutter
from orexis.core.free_practice.reading import (
    FreeReading,
    NoteTuning,
    Place,
    RegisterTuning,
    Slurs,
    read_freely,
)
from orexis.core.free_practice.recognise import Recognised, recognised
from orexis.core.free_practice.shown import heard_exercise

__all__ = [
    "Cut",
    "FreeReading",
    "NoteTuning",
    "PartCutter",
    "Place",
    "Recognised",
    "RegisterTuning",
    "Slurs",
    "heard_exercise",
    "read_freely",
    "recognised",
]
