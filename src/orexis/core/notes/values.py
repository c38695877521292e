"""Notes as heard, and how they answer the written ones.

Times in seconds from the start of the sound. A heard note has an id of its own (h1, h2 ...); the exercise's note ids
stay with the exercise. In a row either side may be missing: a missed note has no `heard`, an extra one no `written`.
"""

from dataclasses import dataclass

from orexis.core.exercises import ExerciseNote

SAME_PITCH_CENTS = 60.0  # two notes nearer than this are on one pitch


@dataclass(frozen=True, slots=True)
class HeardNote:
    """One sounded note. `start_s`/`stop_s` bound its steady pitch, `onset_s`/`release_s` its sound.

    `joined` says that it follows the note before without silence, `left_joined` that the next one follows it so.
    """

    id: str
    f0_hz: float
    start_s: float
    stop_s: float
    onset_s: float
    release_s: float
    joined: bool
    left_joined: bool = False


@dataclass(frozen=True, slots=True)
class Row:
    """A written note and the heard one that answers it; `right` when it is the note asked for."""

    written: ExerciseNote | None
    heard: HeardNote | None
    right: bool

    @property
    def slurred(self) -> bool:
        """Whether the written note is joined to the one before."""
        return bool(self.written and self.written.slurred)
