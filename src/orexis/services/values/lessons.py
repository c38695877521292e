"""What goes from a teacher to a player and back.

lesson     exercises with words, a day as a routine, goals with dates, limits, recordings to match
review_request    chosen takes with their sound and measures, how the last weeks went, the player's words
answer     words at moments of those takes: goes back as a review request without sound
"""

from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum

from orexis.core.coach import Outcome
from orexis.core.exercises import Exercise, TunePart
from orexis.core.messages import tell
from orexis.core.planning import GoalTarget
from orexis.errors import InputError
from orexis.services.values.planning import OwnBlock
from orexis.services.values.playing import WeekOfPlaying

MOST_TAKES = 60  # an hour of listening for a teacher
MOST_ITEMS = 40  # more than a week of exercises
MOST_BYTES = 1 << 30  # the sound of that many takes
_LONGEST_WORDS, _LONGEST_NAME = 2000, 80


class ExchangeKind(StrEnum):
    """Whether a file is a lesson for a player or a review request to a teacher."""

    LESSON = "lesson"
    REVIEW_REQUEST = "review_request"


class ExchangeDirection(StrEnum):
    """Whether it was sent from here or received."""

    SENT = "sent"
    RECEIVED = "received"


@dataclass(frozen=True, slots=True)
class LessonExercise:
    """An exercise type with parameters, or an exercise that came from a file, and how it is to be played."""

    name: str
    words: str
    instrument: str
    exercise_type: str
    params: dict[str, str]
    exercise: Exercise | None
    tune: tuple[TunePart, ...] = ()  # of a score, by its parts: goes on any instrument


@dataclass(frozen=True, slots=True)
class LessonRoutine:
    """A routine that a lesson brings along."""

    name: str
    words: str
    blocks: tuple[OwnBlock, ...]


@dataclass(frozen=True, slots=True)
class LessonGoal:
    """A goal with its date; `says`: in words."""

    target: GoalTarget
    by: str
    says: str
    words: str


@dataclass(frozen=True, slots=True)
class Recording:
    """A take to match: heard, laid over one's own takes of the same exercise."""

    take_id: str
    title: str
    words: str
    exercise: Exercise


@dataclass(frozen=True, slots=True)
class Lesson:
    """From a teacher to a player. `limits`: what takes are held against, in place of the standard's."""

    to: str
    title: str
    words: str
    exercises: tuple[LessonExercise, ...] = ()
    routines: tuple[LessonRoutine, ...] = ()
    goals: tuple[LessonGoal, ...] = ()
    limits: dict[str, float] = field(default_factory=dict)
    recordings: tuple[Recording, ...] = ()

    @property
    def empty(self) -> bool:
        """Whether there is nothing in it but words."""
        return not self.parts

    @property
    def parts(self) -> tuple[str, ...]:
        """What can be taken over, by kind and place: `exercise 0`, `limits`."""
        kinds = {
            "exercise": self.exercises,
            "routine": self.routines,
            "goal": self.goals,
            "recording": self.recordings,
        }
        return (
            *(f"{kind} {i}" for kind, of in kinds.items() for i in range(len(of))),
            *(("limits",) if self.limits else ()),
        )


@dataclass(frozen=True, slots=True)
class HeardTake:
    """A take of a review request as a line, so that the list stays when the take is gone."""

    id: str
    title: str
    written: str
    outcome: Outcome
    started_at: datetime


@dataclass(frozen=True, slots=True)
class ReviewRequest:
    """From a player to a teacher. `says`: what the record claims of the last weeks; `weeks`: how much was played."""

    to: str
    title: str
    words: str
    takes: tuple[HeardTake, ...]
    says: tuple[str, ...] = ()
    weeks: tuple[WeekOfPlaying, ...] = ()


@dataclass(frozen=True, slots=True)
class Answer:
    """What a teacher said of a review request as a whole."""

    words: str
    by: str
    at: datetime


@dataclass(frozen=True, slots=True)
class Exchange:
    """A lesson or a review request as it lies in the record. `taken`: what was taken over of a lesson, by part and place."""

    id: str
    player_id: str
    player_name: str
    kind: ExchangeKind
    way: ExchangeDirection
    sender: str
    made_at: datetime
    lesson: Lesson | None
    review_request: ReviewRequest | None
    taken: tuple[str, ...]
    answer: Answer | None


@dataclass(frozen=True, slots=True)
class Head:
    """What a file says of itself: `exchange.json`. `player_id`: who made it, and whose takes are in it."""

    id: str
    kind: ExchangeKind
    sender: str
    player_id: str
    made_at: datetime
    lesson: Lesson | None = None
    review_request: ReviewRequest | None = None
    answer: Answer | None = None


@dataclass(frozen=True, slots=True)
class OpeningReport:
    """What came of opening a file. `checksum`: the checksum of all of it; `skipped`: sentences on what could not be used."""

    exchange: Exchange
    checksum: str
    marks: int
    skipped: tuple[str, ...] = ()


def checked_words(text: str, what: str = "words") -> str:
    """Return words without blanks around them; InputError where there are too many."""
    if len(text) > _LONGEST_WORDS:
        raise InputError(
            tell(
                "The {what} have {count} letters: write up to {longest_words}.",
                what=what,
                count=len(text),
                longest_words=_LONGEST_WORDS,
            )
        )
    return text.strip()


def checked_name(text: str, what: str) -> str:
    """A line that must be there."""
    cleaned = " ".join(text.split())
    if not 1 <= len(cleaned) <= _LONGEST_NAME:
        raise InputError(
            tell(
                "The {what} has {count} letters: write 1 to {longest_name}.",
                what=what,
                count=len(cleaned),
                longest_name=_LONGEST_NAME,
            )
        )
    return cleaned
