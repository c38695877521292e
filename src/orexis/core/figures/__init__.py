"""What is practised: families, series, figures."""

from orexis.core.figures.families import FAMILIES, family_named
from orexis.core.figures.family import Family
from orexis.core.figures.figure import Figure, FigureNote, Series, checked_figure
from orexis.core.figures.params import Param

__all__ = ["FAMILIES", "Family", "Figure", "FigureNote", "Param", "Series", "checked_figure", "family_named"]
