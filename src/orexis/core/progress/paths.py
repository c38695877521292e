"""The levels of an exercise on an instrument, from its declaration (`Family.levels`)."""

from dataclasses import dataclass
from functools import lru_cache

from orexis.core.figures import FAMILIES, Load, PathStep
from orexis.core.horn import Instrument


@dataclass(frozen=True, slots=True)
class Path:
    """A family's steps on a horn. `easy`: two days held open the next; `heavy`: pauses cost more."""

    family: str
    steps: tuple[PathStep, ...]
    easy: bool
    heavy: bool

    def step_with(self, params: dict[str, str]) -> int | None:
        """The hardest step that these parameters meet in everything it sets; None when they meet none."""
        found = (
            number
            for number in reversed(range(len(self.steps)))
            if all(params.get(key) == value for key, value in self.steps[number].params.items())
        )
        return next(found, None)


@lru_cache(maxsize=4096)
def path_of(family_id: str, horn: Instrument) -> Path | None:
    """The family's path on this horn; None where its start follows the range, or nothing has to grow."""
    family = FAMILIES.get(family_id)
    if family is None or family.levels is None or not family.suits(horn):
        return None
    steps = tuple(family.levels(horn))
    heavy = family.load == Load.HIGH or family.heavy_levels
    return Path(family_id, steps, family.easy_levels, heavy) if steps else None
