"""The book of families. A new family is one rule in a module of its group and its name in that group's tuple."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from orexis.core.figures.figure import Series, checked_figure
from orexis.core.figures.params import Param, Values
from orexis.core.horn import Instrument
from orexis.errors import FigureError

# Where in the day a family stands, in order.
PLACES = ("breath", "buzz", "tones", "slurs", "centre", "register", "low", "music", "check")
# What a family is good for.
SERVES = ("range up", "range down", "flexibility", "intonation", "sound", "endurance", "breath", "music")


def on_every_horn(_horn: Instrument) -> bool:
    """Suits whatever is played."""
    return True


def on_slides(horn: Instrument) -> bool:
    """Suits horns with a hand slide only."""
    return horn.slides


@dataclass(frozen=True, slots=True)
class Family:
    """A rule for figures: what it is for, how it loads, what may be changed, and how it is made."""

    id: str
    name: str
    place: str
    purpose: str
    asks: str
    load: str  # "easy" | "medium" | "high"
    serves: tuple[str, ...]
    judged: tuple[str, ...]  # names of measures, the main one first; none: ticked or counted, never judged
    grows: str
    usual: tuple[str, ...]  # the reasons that a failure usually has; causes and cues are the coach's
    params: Callable[[Instrument], tuple[Param, ...]]
    make: Callable[["Family", Instrument, Values], Series]
    click: bool = True
    suits: Callable[[Instrument], bool] = on_every_horn

    def series(self, horn: Instrument, given: Mapping[str, str] | None = None) -> Series:
        """Today's run on this horn; FigureError or HornError when that cannot be."""
        if not self.suits(horn):
            raise FigureError(f"{self.name} needs a hand slide: the {horn.name} has none.")
        made = self.make(self, horn, Values(horn, self.params(horn), given or {}))
        for figure in made.figures:
            checked_figure(figure)
        return made
