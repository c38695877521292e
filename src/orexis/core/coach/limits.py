"""What "good" means, by the player's stage. The only table of limits in Orexis.

Cents, milliseconds, decibels and seconds as named. Columns: starting, growing, secure, concert. The numbers follow
what teachers ask of players at each stage; every one of them can be set per player.
"""

from dataclasses import dataclass

from orexis.errors import InputError


@dataclass(frozen=True, slots=True)
class Limits:
    """Largest values that still pass."""

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


STAGES: dict[str, Limits] = {
    #                    centre spread sag  entry     gap   caught timing fall bump wander
    "starting": Limits(25.0, 15.0, 25.0, 60.0, 250.0, 120.0, 80.0, 80.0, 30.0, 10.0, 4.0),
    "growing": Limits(15.0, 10.0, 15.0, 40.0, 180.0, 60.0, 45.0, 50.0, 20.0, 7.0, 3.0),
    "secure": Limits(10.0, 7.0, 10.0, 25.0, 120.0, 30.0, 25.0, 30.0, 12.0, 5.0, 2.0),
    "concert": Limits(6.0, 4.0, 6.0, 15.0, 80.0, 15.0, 15.0, 20.0, 8.0, 3.0, 1.5),
}


def limits_of(stage: str) -> Limits:
    """The limits of a stage; InputError names the stages there are."""
    try:
        return STAGES[stage]
    except KeyError:
        raise InputError(f"There is no stage “{stage[:30]}”: choose {', '.join(STAGES)}.") from None
