"""A week of playing in numbers, as Progress shows it and recordings for a teacher carry it."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class WeekOfPlaying:
    """A week: minutes of tone, load, days, takes and those held; minutes of playing to the first "tiring" in its middle session.

    `high_share`: of its load; `rest_share`: of the time of its sessions; None where there is none.
    """

    start: str
    days: int
    playing_min: float
    load: float
    takes: int
    clean: int
    minutes_to_tiring: float | None
    spent: int
    reports: int
    high_share: float | None = None
    rest_share: float | None = None
