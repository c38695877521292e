"""The frame of a day: which places of the day are filled at so many minutes, and how the minutes are shared out.

The order is that of the day: breath, mouthpiece, long tones, slurs, centre, register, low, music, loose. A place may be
filled more than once in a long day. Minutes include the rests.
"""

from dataclasses import dataclass, replace

from orexis.core.coach import Standard
from orexis.core.exercises import DayPlace
from orexis.core.messages import tell
from orexis.errors import InputError

FEWEST_MINUTES, MOST_MINUTES = 10, 120
LEAST_FOR_SETS = 40  # minutes of a day that has room for pedal sets with their rests
_GRAIN = 0.5  # minutes


@dataclass(frozen=True, slots=True)
class PlanSlot:
    """A block still without an exercise type: filled from so many minutes on, with this weight, up to so many minutes."""

    place: DayPlace
    opens: int
    weight: float
    most: float
    minutes: float = 0.0


_SLOTS: tuple[PlanSlot, ...] = (
    PlanSlot(DayPlace.BREATH, 20, 1.0, 3.0),
    PlanSlot(DayPlace.BUZZ, 10, 2.5, 6.0),
    PlanSlot(DayPlace.BUZZ, 50, 2.0, 6.0),
    PlanSlot(DayPlace.TONES, 10, 4.0, 10.0),
    PlanSlot(DayPlace.TONES, 60, 3.0, 10.0),
    PlanSlot(DayPlace.SLURS, 10, 4.0, 10.0),
    PlanSlot(DayPlace.SLURS, 35, 3.0, 10.0),
    PlanSlot(DayPlace.CENTRE, 30, 2.5, 7.0),
    PlanSlot(DayPlace.CENTRE, 70, 3.0, 8.0),
    PlanSlot(DayPlace.REGISTER, 25, 5.0, 12.0),
    PlanSlot(DayPlace.REGISTER, 75, 4.0, 12.0),
    PlanSlot(DayPlace.LOW, 20, 5.0, 14.0),  # together a fifth of the day
    PlanSlot(DayPlace.LOW, 40, 3.0, 10.0),
    PlanSlot(DayPlace.LOW, 55, 2.0, 10.0),
    PlanSlot(DayPlace.LOW, 90, 4.0, 14.0),
    PlanSlot(DayPlace.MUSIC, 35, 3.0, 12.0),
    PlanSlot(DayPlace.MUSIC, 90, 3.0, 12.0),
    PlanSlot(DayPlace.CHECK, 15, 1.5, 4.0),
)
_STARTING_BUZZ = 2.0  # a beginner's mouthpiece work weighs so much more


def frame(minutes: int, standard: Standard) -> tuple[PlanSlot, ...]:
    """Slots in the order of the day with their minutes, which add up; InputError for minutes that fit nothing."""
    if not FEWEST_MINUTES <= minutes <= MOST_MINUTES:
        raise InputError(
            tell(
                "{minutes} minutes fit no day: choose {fewest_minutes} to {most_minutes}.",
                minutes=minutes,
                fewest_minutes=FEWEST_MINUTES,
                most_minutes=MOST_MINUTES,
            )
        )
    return shared(tuple(_for(slot, standard) for slot in _SLOTS if slot.opens <= minutes), float(minutes))


def slot_at(place: DayPlace, standard: Standard) -> PlanSlot:
    """The slot of a place as a short day has it, without its minutes."""
    return _for(next(slot for slot in _SLOTS if slot.place == place), standard)


def _for(slot: PlanSlot, standard: Standard) -> PlanSlot:
    buzz = standard == Standard.BEGINNER and slot.place == DayPlace.BUZZ
    return replace(slot, weight=slot.weight * _STARTING_BUZZ) if buzz else slot


def shared(slots: tuple[PlanSlot, ...], minutes: float) -> tuple[PlanSlot, ...]:
    """So many minutes over the slots by weight, none above its most while another has room; in halves of a minute."""
    given = dict.fromkeys(range(len(slots)), 0.0)
    room = {at: slot.most for at, slot in enumerate(slots)}
    left = minutes
    while left > 1e-9 and any(room.values()):
        open_ = [at for at in given if room[at] > 1e-9]
        weight = sum(slots[at].weight for at in open_)
        if not open_ or weight <= 0.0:
            break
        portions = {at: min(room[at], left * slots[at].weight / weight) for at in open_}
        for at, portion in portions.items():
            given[at] += portion
            room[at] -= portion
        left = minutes - sum(given.values())
    return tuple(replace(slot, minutes=at) for slot, at in zip(slots, in_grains(list(given.values())), strict=True))


def in_grains(minutes: list[float]) -> list[float]:
    """Rounded to half minutes so that the sum stays."""
    total = round(sum(minutes) / _GRAIN)
    down = [int(value / _GRAIN + 1e-9) for value in minutes]
    rest = sorted(range(len(minutes)), key=lambda at: (down[at] - minutes[at] / _GRAIN, at))
    for at in rest[: max(0, total - sum(down))]:
        down[at] += 1
    return [_GRAIN * value for value in down]
