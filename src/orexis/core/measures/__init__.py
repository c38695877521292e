"""Notes -> measures. Measures know no limits: what is good enough is the coach's."""

from orexis.core.measures.endurance import EnduranceChange, day_drift, endurance_change
from orexis.core.measures.envelope import SAME_DB, Reference, TimbreProfile, match
from orexis.core.measures.exercise import matched_with, timbre_of
from orexis.core.measures.glide import glides_in
from orexis.core.measures.move import DirectSound
from orexis.core.measures.take import Ringing, check_sound, measure
from orexis.core.measures.talk import played_notes
from orexis.core.measures.task import UNKNOWN_CLICK, ClickTrack, ListeningTask
from orexis.core.measures.values import (
    NO_TOP,
    ClippedPartial,
    ExerciseMeasures,
    Measures,
    MoveMeasures,
    NoteMeasures,
    SoundCheck,
)

__all__ = [
    "NO_TOP",
    "SAME_DB",
    "UNKNOWN_CLICK",
    "ClickTrack",
    "ClippedPartial",
    "DirectSound",
    "EnduranceChange",
    "ExerciseMeasures",
    "ListeningTask",
    "Measures",
    "MoveMeasures",
    "NoteMeasures",
    "Reference",
    "Ringing",
    "SoundCheck",
    "TimbreProfile",
    "check_sound",
    "day_drift",
    "endurance_change",
    "glides_in",
    "match",
    "matched_with",
    "measure",
    "played_notes",
    "timbre_of",
]
