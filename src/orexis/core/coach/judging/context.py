"""What is written down while a take is judged: findings, and what could not be looked at."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from orexis.core.exercises import Exercise, ExerciseNote
from orexis.core.measures import Measures, MoveMeasures, NoteMeasures

Limits = Mapping[str, float]

_ECHOES_DB = 5.0  # of one note in a room that rings: its echoes add up or cancel


@dataclass(frozen=True, slots=True)
class Fault:
    """One thing beyond its limit. `note` is the exercise's note id, `at_s` where it is in the sound, `side` the cue's."""

    reason: str
    note: str | None
    at_s: float | None
    value: float | None
    limit: float | None
    unit: str
    least: bool = False  # the limit is the least that passes, not the most
    side: str = ""

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


@dataclass(slots=True)
class JudgingContext:
    """Everything a rule needs, and what it leaves behind."""

    measures: Measures
    exercise: Exercise
    limits: Limits
    found: list[Fault] = field(default_factory=list)
    skipped: set[str] = field(default_factory=set)

    def judges(self, name: str) -> bool:
        """Return whether the exercise, or what is judged everywhere, names this measure."""
        return name in self.exercise.judged

    @property
    def echoes_db(self) -> float:
        """How far the room alone may lift or lower a single note."""
        return _ECHOES_DB if self.measures.sound.room_db_s is not None else 0.0

    def place_of(self, target: str | None) -> tuple[str | None, float | None]:
        """A note of the exercise and when it was heard, or was due: the place of a finding."""
        row = next((note for note in self.measures.notes if note.target == target is not None), None)
        return (None, None) if row is None else (row.target, row.due_s if row.onset_s is None else row.onset_s)

    def place_at(self, at_s: float | None) -> tuple[str | None, float | None]:
        """The note that comes next after a moment, and the moment."""
        later = [note for note in self.measures.notes if note.target and note.onset_s and at_s and note.onset_s >= at_s]
        return (later[0].target if later else None), at_s

    def written(self, note: NoteMeasures) -> ExerciseNote | None:
        """The exercise's note that a row answers."""
        return next((item for item in self.exercise.notes if item.id == note.target), None)

    def written_after(self, move: MoveMeasures) -> ExerciseNote | None:
        """The exercise's note that a move leads into."""
        return self.written(self.measures.notes[move.after])

    def find(
        self,
        reason: str,
        note: str | None = None,
        at_s: float | None = None,
        value: float | None = None,
        limit: float | None = None,
        unit: str = "",
        *,
        least: bool = False,
        side: str = "",
    ) -> None:
        """Add a fault to those that were found."""
        self.found.append(Fault(reason, note, at_s, value, limit, unit, least, side))

    def drop(self, *reasons: str) -> None:
        """Take back what was found for these reasons: another finding, still to be added, says it for the whole."""
        self.found = [item for item in self.found if item.reason not in reasons]
