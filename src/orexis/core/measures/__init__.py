"""Notes -> measures. Measures know no limits: what is good enough is the coach's."""

from orexis.core.measures.take import check_sound, measure
from orexis.core.measures.values import Caught, FigureMeasures, Measures, MoveMeasures, NoteMeasures, SoundCheck

__all__ = [
    "Caught",
    "FigureMeasures",
    "Measures",
    "MoveMeasures",
    "NoteMeasures",
    "SoundCheck",
    "check_sound",
    "measure",
]
