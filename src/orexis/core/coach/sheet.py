"""What is written down while a take is judged: findings, and what could not be looked at."""

from dataclasses import dataclass, field

from orexis.core.coach.limits import Limits
from orexis.core.figures import Figure, FigureNote
from orexis.core.measures import Measures, NoteMeasures


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing beyond its limit. `note` is the figure's note id, `at_s` where it is in the sound."""

    reason: str
    cue_key: str
    note: str | None
    at_s: float | None
    value: float | None
    limit: float | None
    unit: str
    least: bool = False  # the limit is the least that passes, not the most
    near: float | None = None  # how far beyond still counts as nearly; None: half the limit

    @property
    def beyond(self) -> float:
        """How far beyond the limit, in its unit; infinite for what has none."""
        if self.value is None or self.limit is None:
            return float("inf")
        return self.limit - self.value if self.least else abs(self.value) - self.limit

    @property
    def share_beyond(self) -> float:
        """The same as a share of the limit."""
        return self.beyond / self.limit if self.limit else float("inf")

    @property
    def is_near(self) -> bool:
        """Whether a take that misses by this alone is nearly held."""
        if self.limit is None:
            return False
        return self.beyond < (self.near if self.near is not None else 0.5 * self.limit)


@dataclass(slots=True)
class Sheet:
    """Everything a check needs, and what it leaves behind."""

    measures: Measures
    figure: Figure
    limits: Limits
    found: list[Finding] = field(default_factory=list)
    skipped: set[str] = field(default_factory=set)

    def judges(self, name: str) -> bool:
        """Whether the figure judges this."""
        return name in self.figure.judged

    def written(self, note: NoteMeasures) -> FigureNote | None:
        """The figure's note that a row answers."""
        return next((item for item in self.figure.notes if item.id == note.target), None)

    def most(self, name: str, note: NoteMeasures, value: float | None, limit: float, key: str, unit: str = "c") -> None:
        """A measure of a note that must not exceed a limit."""
        if not self.judges(name):
            return
        if value is None:
            self.skipped.add(name)
        elif abs(value) > limit:
            self.found.append(Finding(name.replace("_", "-"), key, note.target, note.onset_s, value, limit, unit))

    def need(self, name: str) -> float | None:
        """What the figure itself asks at least."""
        return next((item.least for item in self.figure.needs if item.measure == name), None)
