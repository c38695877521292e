"""How a judged thing is declared: everything about it in one place.

A declaration names the measure as families do, what it means, its limits by stage, the reasons by which a take can fail
on it (in their order), and for each reason its words, how near still counts as nearly, its causes and cues by school, and
the rule that finds it. Tables of limits, the order of reasons, the note table's columns, the tables in docs and the page's
words are all made from these (`table.py`, `make api`).

A sentence holds `{note}`, `{at}` (" at D3", or nothing; so are `{before}`, `{most}`, `{least}`, `{slowest}`), `{value}`, `{limit}`. After a colon stands how a number is
written: `:side` ("9 low"), `:1` (one decimal), `:signed`, `:semitones` (from cents); `{value?fell|rose}` picks by sign.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from orexis.core.coach.judging.sheet import Sheet
from orexis.core.figures import FigureNote
from orexis.core.measures import MoveMeasures, NoteMeasures
from orexis.core.schools import Ask, Choice

NoteRule = Callable[[Sheet, NoteMeasures, FigureNote | None], None]
MoveRule = Callable[[Sheet, MoveMeasures], None]
WholeRule = Callable[[Sheet], None]
Claim = Callable[[Sheet], set[str | None]]


@dataclass(frozen=True, slots=True)
class Cue:
    """A likely cause and what to try. `body`: it speaks of the body. `when`: the school it belongs to."""

    cause: str
    cue: str
    body: bool = False
    when: tuple[Ask, Choice] | None = None


@dataclass(frozen=True, slots=True)
class Limit:
    """A limit by stage: starting, growing, secure, concert; and between what a player may set it."""

    name: str
    label: str
    by_stage: tuple[float, float, float, float]
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


@dataclass(frozen=True, slots=True)
class Reason:
    """One way to fail. `cues` are by side ("" where there is one only); after two misses the next is offered.

    `survives_loss`: a hole of a few packets in the sound cannot bring it about. `echoes_do_it`: where a room rings it is believed
    only when it is heard without the echoes, too (`doubt.py`).
    """

    id: str
    label: str
    says: str
    cues: Mapping[str, tuple[Cue, ...]]
    near: Nearness = HALF_THE_LIMIT
    survives_loss: bool = False
    echoes_do_it: bool = False
    allowed_by: tuple[Ask, Choice] | None = None  # the school that does not hold it against anyone


@dataclass(frozen=True, slots=True)
class Judged:
    """One thing that is judged. An empty `measure` is looked at in every figure.

    `claims` runs first and names the notes that no other rule looks at; what stands `alone` is the only thing looked at.
    """

    measure: str
    means: str
    reasons: tuple[Reason, ...]
    limits: tuple[Limit, ...] = ()
    column: Column | None = None
    of_note: NoteRule | None = None
    of_move: MoveRule | None = None
    of_whole: WholeRule | None = None
    claims: Claim | None = None
    alone: bool = False
    main: str | None = None  # the note's field: where this is mainly judged and null everywhere, nothing was heard


def most(
    measure: str, reason: str, field: str, limit: str, unit: str = "c", sides: tuple[str, str] | None = None
) -> NoteRule:
    """A note's value must not exceed a limit. `sides` are the cues' sides, below 0 first."""

    def rule(sheet: Sheet, note: NoteMeasures, written: FigureNote | None) -> None:
        value: float | None = getattr(note, field)
        if value is None:
            sheet.skipped.add(measure)
        elif abs(value) > sheet.limits[limit]:
            side = "" if sides is None else sides[value > 0]
            sheet.find(reason, note.target, note.onset_s, value, sheet.limits[limit], unit, side=side)

    return rule
