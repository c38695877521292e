"""What is practised: families, series, figures."""

from orexis.core.figures.bending import LIP_BEND
from orexis.core.figures.build import middle_note, open_note
from orexis.core.figures.buzzing import BREATH, BUZZ_ANSWER, BUZZ_INTERVALS, SIREN
from orexis.core.figures.families import (
    FAMILIES,
    IN_SETS,
    RECOVERY,
    families_for,
    family_in_role,
    family_named,
    family_towards,
)
from orexis.core.figures.family import PLACES, SERVES, Begin, Family
from orexis.core.figures.figure import (
    DYNAMICS,
    FREE_PRACTICE,
    MAX_TEXT,
    Figure,
    FigureNote,
    Need,
    Series,
    checked_figure,
)
from orexis.core.figures.forms import at_tempo, in_form, shortened, slower
from orexis.core.figures.free import free_series
from orexis.core.figures.growth import SetPlayed, SetsToday, sets_today
from orexis.core.figures.kinds import Advance, AimKind, DayPlace, Form, Load, Loudness, Medium, Role
from orexis.core.figures.ladders import STEP_LADDER, TO_THE_LIMIT
from orexis.core.figures.levels import PathStep
from orexis.core.figures.melody import Melody, MelodyNote, TunePart, melody_figure, octaves_into_range
from orexis.core.figures.meter import Meter, meter_of
from orexis.core.figures.own_line import MAX_LINE, melody_of_line
from orexis.core.figures.params import Param
from orexis.core.figures.pedals import LOOSE_PEDALS, SETS_OF_A_FURTHER_PITCH, pedal_starts
from orexis.core.figures.scales import ONE_OCTAVE_SCALE
from orexis.core.figures.scores import (
    AS_WRITTEN,
    MOST_PARTS,
    OCTAVES,
    checked_score,
    score_params,
    score_says,
    score_series,
)
from orexis.core.figures.slurring import PARTIAL_CHAIN, TWO_PARTIAL_SLUR
from orexis.core.figures.stairs import INTERVAL_STAIRS
from orexis.core.figures.tones import CHECK_NOTE, FIND_THE_MIDDLE, LONG_LOW_TONES, SHAPED_TONES
from orexis.core.figures.tunes import TUNE, TUNES, in_range, tune

__all__ = [
    "AS_WRITTEN",
    "BREATH",
    "BUZZ_ANSWER",
    "BUZZ_INTERVALS",
    "CHECK_NOTE",
    "DYNAMICS",
    "FAMILIES",
    "FIND_THE_MIDDLE",
    "FREE_PRACTICE",
    "INTERVAL_STAIRS",
    "IN_SETS",
    "LIP_BEND",
    "LONG_LOW_TONES",
    "LOOSE_PEDALS",
    "MAX_LINE",
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
    "Advance",
    "AimKind",
    "Begin",
    "DayPlace",
    "Family",
    "Figure",
    "FigureNote",
    "Form",
    "Load",
    "Loudness",
    "Medium",
    "Melody",
    "MelodyNote",
    "Meter",
    "Need",
    "Param",
    "PathStep",
    "Role",
    "Series",
    "SetPlayed",
    "SetsToday",
    "TunePart",
    "at_tempo",
    "checked_figure",
    "checked_score",
    "families_for",
    "family_in_role",
    "family_named",
    "family_towards",
    "free_series",
    "in_form",
    "in_range",
    "melody_figure",
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
