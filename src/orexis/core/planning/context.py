"""What a day is planned from, as one value: the player, the instrument, and what the record says of them."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from orexis.core.approaches import Approaches
from orexis.core.coach import Care, Lips, Standard
from orexis.core.exercises import SetsToday
from orexis.core.instruments import Instrument
from orexis.core.planning.memory import RecentPractice
from orexis.core.planning.week import LOAD_PER_MINUTE, DayKind
from orexis.core.practice import NOTHING, PlayerRange
from orexis.core.progress import Path, PathPosition, entered, stands

MET_AGAIN = 10  # days after which what is in range is played again
_PRIOR_MINUTES = 20.0  # the usual rate weighs as much as so many minutes of the player's own


@dataclass(frozen=True, slots=True)
class GoalRequest:
    """What a goal asks of the day: an exercise type, with these parameters where they are not the path's own, and why."""

    exercise_type: str
    why: str
    params: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class PlanningContext:
    """All of it. Days are ordinal dates, notes keyboard numbers, loads seconds of middle, usual playing."""

    instrument: Instrument
    standard: Standard
    approaches: Approaches
    care: Care
    today: int
    kind: DayKind = DayKind.MEDIUM
    kind_why: str = ""
    target: float | None = None  # the load that the week leaves to today; None: not bounded yet
    week_left: float | None = None  # what the week has left at all, days not planned for included
    high_left: float | None = None  # of heavy work, what the week has left; None: not bounded yet
    lips: Lips = Lips.FRESH
    quiet: bool = False
    no_heavy: str | None = None  # why no heavy work comes today, in one sentence
    played_load: float = 0.0  # today already
    in_range: PlayerRange = NOTHING
    start_up: int | None = None  # where the ladder lets climbs begin
    start_down: int | None = None
    stale: tuple[int, ...] = ()  # notes in range that were not met for ten days
    lately: Mapping[str, RecentPractice] = field(default_factory=dict)
    standings: Mapping[str, PathPosition] = field(default_factory=dict)
    practising_since: int | None = None  # the first day of practice that is looked back on
    heavy_yesterday: frozenset[str] = frozenset()  # exercise types of high load played the day before
    wishes: tuple[GoalRequest, ...] = ()
    sets: SetsToday | None = None
    pedal_days: int = 0  # of this week, so far
    pedals_yesterday: bool = False

    def standing(self, path: Path) -> PathPosition:
        """Where the player stands on a path today; one never played is entered by the standard."""
        known = self.standings.get(path.exercise_type)
        return entered(path, self.standard) if known is None else stands(known, path, self.today)

    @property
    def days_away(self) -> int | None:
        """Days since anything was practised, today's takes left out; None where nothing ever was, or lately."""
        last = max((known.last_day for known in self.standings.values() if known.last_day is not None), default=None)
        return None if self.lately or last is None else self.today - last

    def top(self, *, joined: bool) -> int | None:
        """The highest note that is in range alone or joined; where none is yet, the one that the player calls comfortable."""
        own, said = (
            (self.in_range.joined if joined else self.in_range.alone).high,
            self.instrument.setup.comfortable_high,
        )
        return own if own is not None or said is None else said.midi

    def said_low(self) -> int | None:
        """The low note that the player calls comfortable, as long as nothing is in range."""
        said = self.instrument.setup.comfortable_low
        return said.midi if said is not None and self.in_range.alone.low is None else None

    def rate(self, exercise_type: str, share: float) -> float:
        """Load a minute of this exercise type, rests included: the player's own, leaning on what is usual where little is known.

        `share`: how the exercise type's class compares with a mixed day.
        """
        usual = LOAD_PER_MINUTE[self.standard] * share
        own = self.lately.get(exercise_type)
        if own is None or own.spent_s <= 0.0:
            return usual
        minutes = own.spent_s / 60.0
        return (own.load + usual * _PRIOR_MINUTES) / (minutes + _PRIOR_MINUTES)
