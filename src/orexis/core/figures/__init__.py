"""What is practised: families, series, figures."""

from orexis.core.figures.build import at_tempo, in_form, shortened, slower
from orexis.core.figures.families import FAMILIES, families_for, family_named
from orexis.core.figures.family import PLACES, SERVES, Family
from orexis.core.figures.figure import Figure, FigureNote, Need, Series, checked_figure
from orexis.core.figures.melody import Melody, MelodyNote, melody_figure, octaves_into_range
from orexis.core.figures.params import Param
from orexis.core.figures.tunes import TUNES, tune

__all__ = [
    "FAMILIES",
    "PLACES",
    "SERVES",
    "TUNES",
    "Family",
    "Figure",
    "FigureNote",
    "Melody",
    "MelodyNote",
    "Need",
    "Param",
    "Series",
    "at_tempo",
    "checked_figure",
    "families_for",
    "family_named",
    "in_form",
    "melody_figure",
    "octaves_into_range",
    "shortened",
    "slower",
    "tune",
]
