"""The book of families. A new family is one rule in a module of its group and its name in that group's tuple.

Everything that is particular to a family stands in its own declaration: how one goes on in it, which
parameters a school decides, which parameter the record places, and how it grows with the weeks.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from orexis.core.figures.figure import Series, checked_figure
from orexis.core.figures.kinds import Advance, Load, Medium, Place
from orexis.core.figures.params import Param, Values
from orexis.core.figures.taking import taken, way_params
from orexis.core.horn import Instrument
from orexis.core.schools import Ask, Choice, Schools
from orexis.errors import FigureError

PLACES = tuple(Place)
# What a family is good for.
SERVES = ("range up", "range down", "flexibility", "intonation", "sound", "endurance", "breath", "music")


def on_every_horn(_horn: Instrument) -> bool:
    """Suits whatever is played."""
    return True


def on_slides(horn: Instrument) -> bool:
    """Suits horns with a hand slide only."""
    return horn.slides


@dataclass(frozen=True, slots=True)
class Bound:
    """Parameters that a school decides: by choice, what is set. A choice that is not named leaves the defaults."""

    ask: Ask
    sets: Mapping[Choice, Mapping[str, str]]


@dataclass(frozen=True, slots=True)
class StandsIn:
    """In the place of another family (by id) in the day, for those who chose so."""

    ask: Ask
    choice: Choice
    instead_of: str


@dataclass(frozen=True, slots=True)
class Family:
    """A rule for figures: what it is for, how it loads, what may be changed, and how it is made."""

    id: str
    name: str
    place: Place
    purpose: str
    asks: str
    load: Load
    serves: tuple[str, ...]
    judged: tuple[str, ...]  # names of measures, the main one first; none: ticked or counted, never judged
    grows: str
    params: Callable[[Instrument], tuple[Param, ...]]
    make: Callable[["Family", Instrument, Values], Series]
    click: bool = True
    suits: Callable[[Instrument], bool] = on_every_horn
    medium: Medium = Medium.HORN
    advance: Advance = Advance.IN_ORDER
    bound: tuple[Bound, ...] = ()
    stands_in: StandsIn | None = None
    placed: str | None = None  # the parameter that the record's ladder sets in a routine
    recovers: bool = False  # for the blood in the lips: follows a climb to the limit at once, without a rest before it
    ways: bool = False  # its notes may be taken in more than one way: a parameter `way` says which
    counted_in_sets: bool = False  # its parameters `sets` and `notes` follow from the sets really played (growth.py)

    def series(self, horn: Instrument, given: Mapping[str, str] | None = None) -> Series:
        """Today's run on this horn; FigureError or HornError when that cannot be."""
        if not self.suits(horn):
            raise FigureError(f"{self.name} needs a hand slide: the {horn.name} has none.")
        values = Values(horn, self.specs(horn), given or {})
        made = self.make(self, horn, values)
        if self.ways:
            made = taken(made, horn, values)
        for figure in made.figures:
            checked_figure(figure)
        return made

    def specs(self, horn: Instrument) -> tuple[Param, ...]:
        """All parameters on this horn."""
        return (*self.params(horn), *way_params(horn)) if self.ways else self.params(horn)

    def school_params(self, schools: Schools, horn: Instrument) -> dict[str, str]:
        """What the player's schools set, as far as this horn has it."""
        found: dict[str, str] = {}
        for bound in self.bound:
            found |= bound.sets.get(schools[bound.ask], {})
        if not found:
            return found
        offered = {param.key: param.choices for param in self.specs(horn)}
        return {key: value for key, value in found.items() if not offered.get(key) or value in offered[key]}


def by_loudness() -> Bound:
    """The parameter `loudness` follows the school."""
    names = {choice: {"loudness": choice.value} for choice in (Choice.GROW, Choice.EVEN, Choice.EASE)}
    return Bound(Ask.LOUDNESS_UPWARDS, names)
