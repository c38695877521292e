"""The fixed routine of thirty minutes that composed days are compared with: the same blocks every day, whatever is played."""

from collections.abc import Mapping
from dataclasses import dataclass

from orexis.core.approaches import Approaches
from orexis.core.coach import LIPS, Care, Lips
from orexis.core.exercises import (
    BREATH,
    BUZZ_ANSWER,
    FIND_THE_MIDDLE,
    LONG_LOW_TONES,
    LOOSE_PEDALS,
    PARTIAL_CHAIN,
    STEP_LADDER,
    TUNE,
    TWO_PARTIAL_SLUR,
    ExerciseType,
)
from orexis.core.instruments import Instrument
from orexis.core.practice import NOTHING, PlayerRange, Routine, check_series, planned
from orexis.core.theory import pitch_of_midi


@dataclass(frozen=True, slots=True)
class Item:
    """One block before it is made for an instrument."""

    exercise_type: ExerciseType
    minutes: float
    params: Mapping[str, str]


def _item(exercise_type: ExerciseType, minutes: float, **params: str) -> Item:
    return Item(exercise_type, minutes, params)


HALF_AN_HOUR: tuple[Item, ...] = (
    _item(BREATH, 1.0, rounds="2"),
    _item(BUZZ_ANSWER, 2.0),
    _item(LONG_LOW_TONES, 4.0, steps="3", beats="8"),
    _item(TWO_PARTIAL_SLUR, 5.0),
    _item(FIND_THE_MIDDLE, 2.0),
    _item(PARTIAL_CHAIN, 4.0),
    _item(STEP_LADDER, 6.0, steps="6"),
    _item(TUNE, 3.0),
    _item(LOOSE_PEDALS, 1.5, steps="5"),
)


def fixed_routine(
    instrument: Instrument, *, approaches: Approaches, care: Care, in_range: PlayerRange = NOTHING, start_midi: int | None = None,
    lips: Lips = Lips.FRESH,
) -> Routine:  # fmt: skip
    """It on this instrument; tired lips get no heavy block."""
    items = [
        item for item in HALF_AN_HOUR if item.exercise_type.load in LIPS[lips] and care.allows(item.exercise_type.load)
    ]
    blocks = []
    for item in items:
        start = (
            {item.exercise_type.placed: _start(instrument, start_midi)}
            if item.exercise_type.placed and start_midi is not None
            else {}
        )
        params = dict(item.params) | item.exercise_type.approach_params(approaches, instrument) | start
        blocks.append(item.exercise_type.series(instrument, params))
    plan = tuple(
        planned(series, minutes=item.minutes, why="as every day", in_range=in_range)
        for series, item in zip(blocks, items, strict=True)
    )
    return Routine(tuple(blocks), plan, check_series(instrument))


def _start(instrument: Instrument, midi: int) -> str:
    return pitch_of_midi(min(max(midi, instrument.lowest.midi), instrument.highest.midi - 1)).name
