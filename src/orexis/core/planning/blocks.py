"""What a day is made of, as values, and how its blocks become a session's."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import lru_cache

from orexis.core.exercises import DayPlace, Load, Series, exercise_type_named
from orexis.core.instruments import Instrument
from orexis.core.messages import in_use
from orexis.core.planning.context import PlanningContext
from orexis.core.planning.week import DayKind
from orexis.core.practice import BlockPlan, planned
from orexis.errors import OrexisError


@dataclass(frozen=True, slots=True)
class DayBlock:
    """One block of a day. `load` is expected, `most_load` its bound; `step` of `of` on the exercise type's path."""

    exercise_type: str
    place: DayPlace
    load_class: Load
    minutes: float
    why: str
    params: dict[str, str] = field(default_factory=dict)
    step: int | None = None
    of: int | None = None
    says: str = ""  # the step in words
    load: float = 0.0
    most_load: float | None = None
    must: bool = False
    locked: bool = False
    easier: bool = False  # begins in the easier form: it comes back
    own: bool = False  # parameters are the player's own: refused, not mended, where they cannot be


@dataclass(frozen=True, slots=True)
class DayPlan:
    """A day: its minutes, kind, the load that it may bring and the load expected, and what is to be said first."""

    minutes: int
    kind: DayKind
    target: float | None
    load: float
    blocks: tuple[DayBlock, ...]
    says: tuple[str, ...] = ()
    spare: tuple[DayBlock, ...] = ()  # easy or medium ones, for time and load that are left at the end


@dataclass(frozen=True, slots=True)
class KeptBlock:
    """A block that the player holds on to: composed again, it stays."""

    exercise_type: str
    minutes: float | None = None
    params: Mapping[str, str] = field(default_factory=dict)


def day_series(known: PlanningContext, plan: DayPlan) -> tuple[Series, ...]:
    """The exercises of each block on the instrument."""
    return tuple(_series_for(known, block) for block in (*plan.blocks, *plan.spare))


def planned_blocks(known: PlanningContext, plan: DayPlan, series: Iterable[Series]) -> tuple[BlockPlan, ...]:
    """The blocks as the session sees them, the spare ones last."""
    blocks = [*((block, False) for block in plan.blocks), *((block, True) for block in plan.spare)]
    return tuple(
        planned(
            made,
            minutes=None if spare else block.minutes,
            why=block.why,
            in_range=known.in_range,
            most_load=block.most_load,
            step=block.step,
            easier=block.easier,
            spare=spare,
            kept=block.locked,
        )
        for (block, spare), made in zip(blocks, series, strict=True)
    )


def _series_for(known: PlanningContext, block: DayBlock) -> Series:
    """Where the step does not fit the player's own instrument, the exercise type as it is."""
    try:
        return _series(block.exercise_type, known.instrument, block.params)
    except OrexisError:
        if block.own:
            raise
        exercise_type = exercise_type_named(block.exercise_type)
        params = exercise_type.approach_params(known.approaches, known.instrument)
        return _series(block.exercise_type, known.instrument, params)


def _series(exercise_type: str, instrument: Instrument, params: Mapping[str, str]) -> Series:
    return _series_with(exercise_type, instrument, tuple(sorted(params.items())), in_use())


@lru_cache(maxsize=512)
def _series_with(
    exercise_type: str, instrument: Instrument, params: tuple[tuple[str, str], ...], _language: object
) -> Series:
    """Plans are made again and again from the same levels. Its exercises say in a language what they are."""
    return exercise_type_named(exercise_type).series(instrument, dict(params))
