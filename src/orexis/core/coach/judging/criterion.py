"""How a judged thing is declared: everything about it in one place.

A declaration names the measure as exercise types do, what it means, its limits by standard, the reasons by which a take can fail
on it (in their order), and for each reason its words, how near still counts as nearly, its causes and cues by approach, and
the rule that finds it. Tables of limits, the order of reasons, the note table's columns, the tables in docs and the page's
words are all made from these (`table.py`, `make api`).

A sentence holds `{note}`, `{at}` (" at D3", or nothing; so are `{before}`, `{most}`, `{least}`, `{slowest}`), `{value}`, `{limit}`. After a colon stands how a number is
written: `:side` ("9 low"), `:1` (one decimal), `:signed`, `:semitones` (from cents); `{value?fell|rose}` picks by sign.
"""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from enum import StrEnum

from orexis.core.approaches import Ask, Choice
from orexis.core.coach.judging.context import Fault, JudgingContext
from orexis.core.coach.judging.echoes import Confirm
from orexis.core.exercises import Exercise, ExerciseNote
from orexis.core.measures import Measures, MoveMeasures, NoteMeasures

NoteRule = Callable[[JudgingContext, NoteMeasures, ExerciseNote | None], None]
MoveRule = Callable[[JudgingContext, MoveMeasures], None]
WholeRule = Callable[[JudgingContext], None]
Follows = Callable[[Fault, Iterable[Fault]], bool]
Claim = Callable[[JudgingContext], set[str | None]]


@dataclass(frozen=True, slots=True)
class Cue:
    """A likely cause and what to try. `body`: it speaks of the body. `when`: the approach it belongs to."""

    cause: str
    cue: str
    body: bool = False
    when: tuple[Ask, Choice] | None = None


OwnCue = Callable[[Fault, Exercise], Cue | None]


@dataclass(frozen=True, slots=True)
class Limit:
    """A limit by standard: starting, growing, secure, concert; and between what a player may set it."""

    name: str
    label: str
    by_standard: tuple[float, float, float, float]
    lowest: float = 0.5
    highest: float = 1000.0


@dataclass(frozen=True, slots=True)
class Column:
    """A column of the note table: its place from the left, the fields it shows, and how."""

    place: int
    label: str
    fields: tuple[str, ...]
    form: str  # hz, cents, whole, one, ms, s, db, entry, movement


@dataclass(frozen=True, slots=True)
class Nearness:
    """How far beyond still counts as nearly: a share of the limit, or so much."""

    share: float | None = None
    by: float | None = None

    def holds(self, beyond: float, limit: float | None) -> bool:
        """Whether a take that misses by so much is nearly held."""
        if self.by is not None:
            return beyond < self.by
        return self.share is not None and limit is not None and beyond < self.share * limit


HALF_THE_LIMIT = Nearness(share=0.5)
NEVER = Nearness()


class About(StrEnum):
    """What a finding speaks of, and so what it takes from the evidence of a take."""

    NOTE = "note"  # the note that it names was not good: it does not count for the range
    BESIDE = "beside"  # the way into it, its length, its loudness, a movement in it: the note itself may count
    WHOLE = "whole"  # the take as a whole; its place is only where it shows most


class FaultKind(StrEnum):
    """What other findings may explain: a breath inside loses notes and makes silences."""

    BREATH = "breath"
    ABSENT = "absent"  # a note that is missing
    SILENCE = "silence"


@dataclass(frozen=True, slots=True)
class FaultType:
    """One way to fail. `cues` are by side ("" where there is one only); after two misses the next is offered.

    `survives_loss`: a hole of a few packets in the sound cannot bring it about. `about`: whether its note still counts; unless said, it
    does not. `echoes`: where a room can bring it about, how it is confirmed without the echoes. `told_again`: said of a note that was
    missed with the echoes and is there without them. `follows`: findings on the same note that bring this one about. `own_cue`: one with a number in it, where
    the exercise gives one.
    """

    id: str
    label: str
    says: str
    cues: Mapping[str, tuple[Cue, ...]]
    near: Nearness = HALF_THE_LIMIT
    survives_loss: bool = False
    about: About = About.NOTE
    echoes: Confirm | None = None
    told_again: bool = False
    follows: Follows | None = None
    own_cue: OwnCue | None = None
    kind: FaultKind | None = None
    allowed_by: tuple[Ask, Choice] | None = None  # the approach that does not hold it against anyone


OfNote = Callable[[NoteMeasures], float | None]
OfTake = Callable[[Exercise, Measures], float | None]


@dataclass(frozen=True, slots=True)
class TrendMeasure:
    """A measure that is followed over weeks, as pages know it.

    `more_is_better`: None where neither way is. `least` and `most`: what the picture's scale reaches at least.
    """

    id: str
    place: int  # on the page, from the top
    label: str
    unit: str
    more_is_better: bool | None
    by_register: bool = False
    least: float = 0.0
    most: float = 1.0
    reason: str | None = None  # by which takes fail on it


@dataclass(frozen=True, slots=True)
class TrendSource:
    """How it is taken: from each right note, of which a take has the middle, or from the whole take; neither where it is done apart."""

    measure: TrendMeasure
    of_note: OfNote | None = None
    of_take: OfTake | None = None


@dataclass(frozen=True, slots=True)
class Criterion:
    """One thing that is judged. An empty `measure` is looked at in every exercise.

    `claims` runs first and names the notes that no other rule looks at; what stands `alone` is the only thing looked at.
    """

    measure: str
    means: str
    reasons: tuple[FaultType, ...]
    limits: tuple[Limit, ...] = ()
    column: Column | None = None
    of_note: NoteRule | None = None
    of_move: MoveRule | None = None
    of_whole: WholeRule | None = None
    claims: Claim | None = None
    alone: bool = False
    proves_nothing: bool = False  # where this is judged, notes are led about or not judged at all: no evidence
    trend: TrendSource | None = None  # how it is followed over weeks
    main: str | None = None  # the note's field: where this is mainly judged and null everywhere, nothing was heard


def upper_limit_rule(
    measure: str, reason: str, field: str, limit: str, unit: str = "c", sides: tuple[str, str] | None = None
) -> NoteRule:
    """A note's value must not exceed a limit. `sides` are the cues' sides, below 0 first."""

    def rule(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
        value: float | None = getattr(note, field)
        if value is None:
            sheet.skipped.add(measure)
        elif abs(value) > sheet.limits[limit]:
            side = "" if sides is None else sides[value > 0]
            sheet.find(reason, note.target, note.onset_s, value, sheet.limits[limit], unit, side=side)

    return rule


def size_of(field: str) -> OfNote:
    """A note's value without its sign."""

    def size(note: NoteMeasures) -> float | None:
        value: float | None = getattr(note, field)
        return None if value is None else abs(value)

    return size
