"""What "good" means, by the player's stage. The only table of limits in Orexis.

Cents, milliseconds, decibels and hundredths as named. Columns: starting, growing, secure, concert. The numbers follow
what teachers ask of players at each stage; every one of them can be set per player.
"""

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace

from orexis.errors import InputError


@dataclass(frozen=True, slots=True)
class Limits:
    """Largest values that still pass; `sound_match` is the least."""

    centre_cents: float
    spread_cents: float
    sag_cents: float
    entry_cents: float
    entry_ms: float
    gap_ms: float
    caught_ms: float
    timing_spread_ms: float
    fall_off_cents: float
    bump_db: float
    level_wander_db: float
    response_ms: float = 150.0
    sound_match: float = 65.0


STAGES: dict[str, Limits] = {
    #                    centre spread sag  entry     gap   caught timing fall bump wander response match
    "starting": Limits(25.0, 15.0, 25.0, 60.0, 250.0, 120.0, 80.0, 80.0, 30.0, 10.0, 4.0, 250.0, 55.0),
    "growing": Limits(15.0, 10.0, 15.0, 40.0, 180.0, 60.0, 45.0, 50.0, 20.0, 7.0, 3.0, 150.0, 65.0),
    "secure": Limits(10.0, 7.0, 10.0, 25.0, 120.0, 30.0, 25.0, 30.0, 12.0, 5.0, 2.0, 90.0, 75.0),
    "concert": Limits(6.0, 4.0, 6.0, 15.0, 80.0, 15.0, 15.0, 20.0, 8.0, 3.0, 1.5, 50.0, 85.0),
}
_RANGE = dict.fromkeys((field.name for field in fields(Limits)), (0.5, 1000.0)) | {"sound_match": (1.0, 99.0)}


def limits_of(stage: str, own: Mapping[str, float] | None = None) -> Limits:
    """The limits of a stage, with the player's own in their place; InputError names what there is."""
    try:
        found = STAGES[stage]
    except KeyError:
        raise InputError(f"There is no stage “{stage[:30]}”: choose {', '.join(STAGES)}.") from None
    for name, value in (own or {}).items():
        if name not in _RANGE:
            raise InputError(f"There is no limit “{name[:30]}”: choose one of {', '.join(_RANGE)}.")
        low, high = _RANGE[name]
        if not low <= value <= high:
            raise InputError(f"The limit {name} is {value:g}: choose {low:g} to {high:g}.")
        found = replace(found, **{name: float(value)})
    return found
