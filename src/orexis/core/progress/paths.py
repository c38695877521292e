"""The levels of an exercise on an instrument, from its declaration (`ExerciseType.levels`)."""

from dataclasses import dataclass
from functools import lru_cache

from orexis.core.exercises import EXERCISE_TYPES, Load, PathStep
from orexis.core.instruments import Instrument
from orexis.core.messages import in_use


@dataclass(frozen=True, slots=True)
class Path:
    """An exercise type's steps on an instrument. `easy`: two days held open the next; `heavy`: pauses cost more."""

    exercise_type: str
    steps: tuple[PathStep, ...]
    easy: bool
    heavy: bool

    def step_with(self, params: dict[str, str]) -> int | None:
        """The hardest step that these parameters meet in everything it sets; None when they meet none."""
        step = (
            number
            for number in reversed(range(len(self.steps)))
            if all(params.get(key) == value for key, value in self.steps[number].params.items())
        )
        return next(step, None)


def path_of(exercise_type_id: str, instrument: Instrument) -> Path | None:
    """The exercise type's path on this instrument; None where its start follows the range, or nothing has to grow."""
    return _path_of(exercise_type_id, instrument, in_use())


@lru_cache(maxsize=4096)
def _path_of(exercise_type_id: str, instrument: Instrument, _language: object) -> Path | None:
    """Its steps say in a language what they are."""
    exercise_type = EXERCISE_TYPES.get(exercise_type_id)
    if exercise_type is None or exercise_type.levels is None or not exercise_type.suits(instrument):
        return None
    steps = tuple(exercise_type.levels(instrument))
    heavy = exercise_type.load == Load.HIGH or exercise_type.heavy_levels
    return Path(exercise_type_id, steps, exercise_type.easy_levels, heavy) if steps else None
