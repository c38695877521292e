"""Playing elsewhere (a rehearsal, a concert, a lesson): it loads the lips and proves nothing."""

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum


class Effort(StrEnum):
    """How heavy playing elsewhere was for the lips."""

    LIGHT = "light"
    MEDIUM = "medium"
    HEAVY = "heavy"


# Seconds of easy playing that a minute of it weighs: in a rehearsal one plays about a third of the time.
LOAD_A_MINUTE: dict[Effort, float] = {Effort.LIGHT: 8.0, Effort.MEDIUM: 16.0, Effort.HEAVY: 26.0}


@dataclass(frozen=True, slots=True)
class Elsewhere:
    """Minutes on a day (an ordinal date), or every week from that day on."""

    day: int
    minutes: int
    effort: Effort = Effort.MEDIUM
    weekly: bool = False

    @property
    def load(self) -> float:
        """Return the load of one time of playing elsewhere, in seconds of easy playing."""
        return LOAD_A_MINUTE[self.effort] * self.minutes

    def is_on(self, day: int) -> bool:
        """Whether it falls on a day."""
        return day == self.day or (self.weekly and day > self.day and (day - self.day) % 7 == 0)


def loads_elsewhere(entries: Iterable[Elsewhere], first: int, end: int) -> dict[int, float]:
    """Loads by day, from the first day to before the end."""
    loads: dict[int, float] = {}
    for entry in entries:
        for day in range(max(first, entry.day), end):
            if entry.is_on(day):
                loads[day] = loads.get(day, 0.0) + entry.load
    return loads
