"""The book of exercise types. A new exercise type is one rule in a module of its group and its name in that group's tuple.

Everything that is particular to an exercise type stands in its own declaration: how one goes on in it, which
parameters an approach decides, which parameter the record places, and how it grows with the weeks.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from orexis.core.approaches import Approaches, Ask, Choice
from orexis.core.exercises.checks import checked_exercise
from orexis.core.exercises.exercise import Series
from orexis.core.exercises.fingering_choice import fingering_params, taken
from orexis.core.exercises.kinds import Advance, DayPlace, GoalKind, Load, Medium, Role
from orexis.core.exercises.levels import Levels, PathStep
from orexis.core.exercises.params import Param, Values
from orexis.core.instruments import Instrument
from orexis.core.messages import tell
from orexis.core.standards import Standard
from orexis.core.theory import pitch_of_midi
from orexis.errors import ExerciseError

PLACES = tuple(DayPlace)
# What an exercise type is good for.
SERVES = ("range up", "range down", "flexibility", "intonation", "sound", "endurance", "breath", "music")


def on_every_instrument(_instrument: Instrument) -> bool:
    """Return True: for exercises that suit every instrument."""
    return True


def on_slides(instrument: Instrument) -> bool:
    """Suits instruments with a hand slide only."""
    return instrument.slides


@dataclass(frozen=True, slots=True)
class Bound:
    """Parameters that an approach decides: by choice, what is set. A choice that is not named leaves the defaults."""

    ask: Ask
    sets: Mapping[Choice, Mapping[str, str]]


@dataclass(frozen=True, slots=True)
class StandsIn:
    """In the place of another exercise type (by id) in the day, for those who chose so."""

    ask: Ask
    choice: Choice
    instead_of: str


@dataclass(frozen=True, slots=True)
class Begin:
    """What the record says of where work may begin, as keyboard numbers; None where it is not known.

    `level`: the parameters of the level on which the player stands.
    """

    instrument: Instrument
    standard: Standard
    next_up: int | None
    top_alone: int | None
    top_in_line: int | None
    comfortable_low: int | None
    level: Mapping[str, str]

    def name(self, midi: int) -> str:
        """The note's name, within the instrument."""
        return pitch_of_midi(min(max(midi, self.instrument.lowest.midi), self.instrument.highest.midi)).name


Begins = Callable[[Begin], dict[str, str]]
Asks = Callable[[PathStep, float], bool]


@dataclass(frozen=True, slots=True)
class ExerciseType:
    """A rule for exercises: what it is for, how it loads, what may be changed, and how it is made."""

    id: str
    name: str
    place: DayPlace
    purpose: str
    asks: str
    load: Load
    serves: tuple[str, ...]
    judged: tuple[str, ...]  # names of measures, the main one first; none: ticked or counted, never judged
    grows: str
    params: Callable[[Instrument], tuple[Param, ...]]
    make: Callable[["ExerciseType", Instrument, Values], Series]
    listen_for: str = ""
    mistake: str = ""  # the usual one
    click: bool = True
    suits: Callable[[Instrument], bool] = on_every_instrument
    medium: Medium = Medium.INSTRUMENT
    advance: Advance = Advance.IN_ORDER
    bound: tuple[Bound, ...] = ()
    stands_in: StandsIn | None = None
    placed: str | None = None  # the parameter that the record's ladder sets in a routine
    recovers: bool = False  # for the blood in the lips: follows a climb to the limit at once, without a rest before it
    alternates: bool = False  # its notes may be taken in more than one way: a parameter `way` says which
    opens_at: Standard = Standard.DEVELOPING  # offered from this standard on
    levels: Levels | None = None  # None: its start follows the range, or nothing has to grow
    easy_levels: bool = False  # two days held open the next
    heavy_levels: bool = False  # pauses cost more, whatever it loads
    begins: Begins | None = None  # the parameters that the record sets
    quiet: Mapping[str, str] | None = None  # how it is played after the quiet hour, where it may be
    role: Role | None = None
    leads_to: Mapping[GoalKind, Asks | None] = field(
        default_factory=dict
    )  # goals, and which level is enough for a value
    counted_in_sets: bool = False  # its parameters `sets` and `notes` follow from the sets really played (growth.py)

    def series(self, instrument: Instrument, given: Mapping[str, str] | None = None) -> Series:
        """Today's run on this instrument; ExerciseError or InstrumentError when that cannot be."""
        if not self.suits(instrument):
            raise ExerciseError(
                tell(
                    "{value} needs a hand slide: the {instrument} has none.",
                    value=self.name,
                    instrument=instrument.name,
                )
            )
        values = Values(instrument, self.specs(instrument), given or {})
        made = self.make(self, instrument, values)
        if self.alternates:
            made = taken(made, instrument, values)
        for exercise in made.exercises:
            checked_exercise(exercise)
        return made

    def specs(self, instrument: Instrument) -> tuple[Param, ...]:
        """Return all parameters that it has on an instrument, those for fingerings last."""
        return (*self.params(instrument), *fingering_params(instrument)) if self.alternates else self.params(instrument)

    def approach_params(self, approaches: Approaches, instrument: Instrument) -> dict[str, str]:
        """What the player's approaches set, as far as this instrument has it."""
        params: dict[str, str] = {}
        for bound in self.bound:
            params |= bound.sets.get(approaches[bound.ask], {})
        if not params:
            return params
        offered = {param.key: param.choices for param in self.specs(instrument)}
        return {key: value for key, value in params.items() if not offered.get(key) or value in offered[key]}


def by_loudness() -> Bound:
    """The parameter `loudness` follows the approach."""
    names = {choice: {"loudness": choice.value} for choice in (Choice.GROW, Choice.EVEN, Choice.EASE)}
    return Bound(Ask.LOUDNESS_UPWARDS, names)
