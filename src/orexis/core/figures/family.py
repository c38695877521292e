"""The book of families. A new family is one module that fills in a `Family` and one line in `families.py`."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from orexis.core.figures.figure import Series, checked_figure
from orexis.core.figures.params import Param, Values
from orexis.core.horn import Instrument


@dataclass(frozen=True, slots=True)
class Family:
    """A rule for figures: what it is for, how it loads, what may be changed, and how it is made."""

    id: str
    name: str
    purpose: str
    asks: str
    load: str  # "easy" | "medium" | "high"
    params: Callable[[Instrument], tuple[Param, ...]]
    make: Callable[[Instrument, Values], Series]

    def series(self, horn: Instrument, given: Mapping[str, str] | None = None) -> Series:
        """Today's run on this horn; FigureError or HornError when that cannot be."""
        made = self.make(horn, Values(horn, self.params(horn), given or {}))
        for figure in made.figures:
            checked_figure(figure)
        return made
