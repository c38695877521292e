"""What is practised: exercise types, series, exercises."""

from orexis.core.exercises.accompaniment import accompanied
from orexis.core.exercises.bending import LIP_BEND
from orexis.core.exercises.breath import breathes_in_two_steps
from orexis.core.exercises.build import middle_note, open_note
from orexis.core.exercises.buzzing import BREATH, BUZZ_ANSWER, BUZZ_INTERVALS, SIREN
from orexis.core.exercises.checks import check_numbers, checked_exercise
from orexis.core.exercises.exercise import (
    DYNAMICS,
    FREE_PRACTICE,
    MAX_NOTES,
    MAX_TEXT,
    Accompaniment,
    AccompanyingNote,
    Exercise,
    ExerciseNote,
    PassRequirement,
    Series,
)
from orexis.core.exercises.exercise_type import PLACES, SERVES, Begin, ExerciseType
from orexis.core.exercises.exercise_types import (
    EXERCISE_TYPES,
    IN_SETS,
    RECOVERY,
    exercise_type_in_role,
    exercise_type_named,
    exercise_type_towards,
    exercise_types_for,
)
from orexis.core.exercises.forms import at_tempo, in_form, shortened, slower
from orexis.core.exercises.free import free_series
from orexis.core.exercises.growth import SetPlayed, SetsToday, sets_today
from orexis.core.exercises.kinds import (
    Accompanied,
    Advance,
    Articulation,
    DayPlace,
    Form,
    GoalKind,
    Load,
    Loudness,
    Medium,
    Role,
)
from orexis.core.exercises.ladders import STEP_LADDER, TO_THE_LIMIT
from orexis.core.exercises.levels import PathStep
from orexis.core.exercises.melody import Melody, MelodyNote, TunePart, melody_exercise, octaves_into_range
from orexis.core.exercises.meter import Meter, meter_of
from orexis.core.exercises.own_line import MAX_LINE, melody_of_line
from orexis.core.exercises.params import Param
from orexis.core.exercises.pedals import LOOSE_PEDALS, SETS_OF_A_FURTHER_PITCH, pedal_starts
from orexis.core.exercises.scales import ONE_OCTAVE_SCALE
from orexis.core.exercises.scores import (
    AS_WRITTEN,
    MOST_PARTS,
    OCTAVES,
    checked_score,
    score_params,
    score_says,
    score_series,
)
from orexis.core.exercises.slurring import PARTIAL_CHAIN, TWO_PARTIAL_SLUR
from orexis.core.exercises.stairs import INTERVAL_STAIRS
from orexis.core.exercises.tones import CHECK_NOTE, FIND_THE_MIDDLE, LONG_LOW_TONES, SHAPED_TONES
from orexis.core.exercises.tunes import TUNE, TUNES, in_range, tune

__all__ = [
    "AS_WRITTEN",
    "BREATH",
    "BUZZ_ANSWER",
    "BUZZ_INTERVALS",
    "CHECK_NOTE",
    "DYNAMICS",
    "EXERCISE_TYPES",
    "FIND_THE_MIDDLE",
    "FREE_PRACTICE",
    "INTERVAL_STAIRS",
    "IN_SETS",
    "LIP_BEND",
    "LONG_LOW_TONES",
    "LOOSE_PEDALS",
    "MAX_LINE",
    "MAX_NOTES",
    "MAX_TEXT",
    "MOST_PARTS",
    "OCTAVES",
    "ONE_OCTAVE_SCALE",
    "PARTIAL_CHAIN",
    "PLACES",
    "RECOVERY",
    "SERVES",
    "SETS_OF_A_FURTHER_PITCH",
    "SHAPED_TONES",
    "SIREN",
    "STEP_LADDER",
    "TO_THE_LIMIT",
    "TUNE",
    "TUNES",
    "TWO_PARTIAL_SLUR",
    "Accompanied",
    "Accompaniment",
    "AccompanyingNote",
    "Advance",
    "Articulation",
    "Begin",
    "DayPlace",
    "Exercise",
    "ExerciseNote",
    "ExerciseType",
    "Form",
    "GoalKind",
    "Load",
    "Loudness",
    "Medium",
    "Melody",
    "MelodyNote",
    "Meter",
    "Param",
    "PassRequirement",
    "PathStep",
    "Role",
    "Series",
    "SetPlayed",
    "SetsToday",
    "TunePart",
    "accompanied",
    "at_tempo",
    "breathes_in_two_steps",
    "check_numbers",
    "checked_exercise",
    "checked_score",
    "exercise_type_in_role",
    "exercise_type_named",
    "exercise_type_towards",
    "exercise_types_for",
    "free_series",
    "in_form",
    "in_range",
    "melody_exercise",
    "melody_of_line",
    "meter_of",
    "middle_note",
    "octaves_into_range",
    "open_note",
    "pedal_starts",
    "score_params",
    "score_says",
    "score_series",
    "sets_today",
    "shortened",
    "slower",
    "tune",
]
