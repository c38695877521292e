"""Goals: what is to be reached by a date, measured in steps that the record shows, never ticked.

| goal | position | reached at | a step |
|---|---|---|---|
| own a note, alone or joined | the edge of what is in range on that side | the note | a semitone |
| hold so many seconds | step on the path of long low tones, and days held on it | the first step that asks as much | a step |
| slur so many partials clean | step on the path of the chain | the first step with as many | a step |
| trill so often a second | step on the path of lip trills | the first as fast | a step |
| so many pedal sets a day | sets that may be played, by the sets really played | so many | a set |
| centre within so many cents | middle of the last days' furthest notes, less is better | so many | a cent |
| so many minutes before tiring | playing until the first "tiring", middle of the last sessions | so many | two minutes |
"""

from collections.abc import Iterable
from dataclasses import dataclass

from orexis.core.coach import Standard
from orexis.core.exercises import CHECK_NOTE, GoalKind, Role, exercise_type_in_role, exercise_type_towards
from orexis.core.instruments import Instrument, lowest_pedal
from orexis.core.messages import tell
from orexis.core.planning.context import GoalRequest, PlanningContext
from orexis.core.planning.frame import LEAST_FOR_SETS
from orexis.core.progress import MoveReason, Path, path_of
from orexis.core.progress.standing import needed
from orexis.core.theory import parse_pitch, pitch_of_midi
from orexis.errors import InputError


@dataclass(frozen=True, slots=True)
class GoalTarget:
    """What a goal asks: a keyboard number, seconds, partials, trills a second, sets, cents, or minutes."""

    kind: GoalKind
    value: float
    joined: bool = False


@dataclass(frozen=True, slots=True)
class GoalPosition:
    """Where somebody stands on the way to a goal, in steps; both rise. `now` and `asked` say it as the player reads it."""

    position: float
    goal: float
    now: str
    asked: str

    @property
    def reached(self) -> bool:
        """Return whether the position is at the goal or beyond it."""
        return self.position >= self.goal

    @property
    def steps_left(self) -> int:
        """Steps still to go, a begun one counted whole."""
        return max(0, -int(-(self.goal - self.position) // 1))

    def share_since(self, first: float) -> float:
        """How much of the way from a first position is done, 0 to 1."""
        if self.reached:
            return 1.0
        return round(max(0.0, self.position - first) / (self.goal - first), 3) if self.goal > first else 0.0


@dataclass(frozen=True, slots=True)
class GoalEvidence:
    """What the record shows beside ranges and paths: centre of the last days, minutes to tiring; None: not known."""

    pitch_error_cents: float | None = None
    minutes_to_tiring: float | None = None


BOUNDS: dict[GoalKind, tuple[float, float, str]] = {
    GoalKind.HOLD: (4, 20, "seconds"),
    GoalKind.SLUR: (3, 7, "partials"),
    GoalKind.TRILL: (2, 6, "trills a second"),
    GoalKind.PEDALS: (2, 5, "sets"),
    GoalKind.CENTRE: (3, 40, "cents"),
    GoalKind.MINUTES: (5, 90, "minutes"),
}
# Days of practice a step takes, where the player's own record says nothing yet; how an exercise type's own steps lead to the goal.
PRIOR_DAYS: dict[GoalKind, float] = {
    GoalKind.OWN: 12.0,
    GoalKind.HOLD: 7.0,
    GoalKind.SLUR: 9.0,
    GoalKind.TRILL: 7.0,
    GoalKind.PEDALS: 30.0,  # four weeks at two sets come first, and not every week counts
    GoalKind.CENTRE: 8.0,
    GoalKind.MINUTES: 8.0,
}
_MINUTES_A_STEP = 2.0  # two minutes more can be told from a good day
_BEFORE_SETS = 1.0  # a step before the two sets that everybody begins with
_SINGLE, _IN_LINE = exercise_type_in_role(Role.SINGLE_NOTES).id, exercise_type_in_role(Role.NOTES_IN_LINE).id


def parse_target(text: str, instrument: Instrument) -> GoalTarget:
    """From "own=A5", "own=A5/joined" (concert), "hold=16", "slur=5", "trill=4", "pedals=4", "centre=8", "minutes=25"."""
    kind, _, value = text.partition("=")
    if kind not in tuple(GoalKind) or not value:
        raise InputError(
            tell(
                "The goal is “{text}”: write one of {goalkind}, then = and a value, as own=A5.",
                text=text[:30],
                goalkind=", ".join(GoalKind),
            )
        )
    chosen = GoalKind(kind)
    if chosen == GoalKind.OWN:
        name, _, way = value.partition("/")
        if way not in ("", "alone", "joined"):
            raise InputError(tell("A note is in your range alone or joined, not “{way}”.", way=way[:20]))
        return checked(GoalTarget(chosen, float(parse_pitch(name).midi), joined=way == "joined"), instrument)
    try:
        return checked(GoalTarget(chosen, float(value)), instrument)
    except ValueError:
        raise InputError(tell("The goal's value is “{value}”: write a number.", value=value[:20])) from None


def checked(target: GoalTarget, instrument: Instrument) -> GoalTarget:
    """The goal itself; InputError for one that cannot be on this instrument."""
    if target.kind == GoalKind.OWN:
        low, high = lowest_pedal(instrument), instrument.highest
        if not low.midi <= target.value <= high.midi:
            raise InputError(
                tell(
                    "{pitch_of_midi} (concert) is not on the {instrument}: choose between {low} and {high}.",
                    pitch_of_midi=pitch_of_midi(round(target.value)).name,
                    instrument=instrument.name,
                    low=low.name,
                    high=high.name,
                )
            )
        if target.value < instrument.lowest.midi:
            raise InputError(
                tell(
                    "Below {lowest} (concert) lie pedal tones, which are worked at in sets: choose pedal sets as the goal.",
                    lowest=instrument.lowest.name,
                )
            )
        return target
    low_value, high_value, unit = BOUNDS[target.kind]
    if not low_value <= target.value <= high_value:
        raise InputError(
            tell(
                "{target:g} {unit} is out of reach: choose {low_value:g} to {high_value:g}.",
                target=target.value,
                unit=unit,
                low_value=low_value,
                high_value=high_value,
            )
        )
    if _is_by_path(target.kind) and _goal_step(target, instrument) is None:
        raise InputError(
            tell(
                "The {instrument} has no exercise for {target:g} {unit}: choose less.",
                instrument=instrument.name,
                target=target.value,
                unit=unit,
            )
        )
    return target


def why_never_worked_at(target: GoalTarget, standard: Standard, minutes: Iterable[int]) -> str | None:
    """Why no day would ever hold work towards a goal; None where some days do. `minutes`: those given, by weekday."""
    if days_for(target.kind, minutes) == 0.0:
        if target.kind == GoalKind.PEDALS:
            return tell(
                "Pedal sets need a day of {least_for_sets} minutes or more. Give a day more minutes first.",
                least_for_sets=LEAST_FOR_SETS,
            )
        return "No day has minutes for practice. Give a day some first."
    opened = exercise_type_towards(target.kind) if target.kind != GoalKind.OWN else None
    if standard == Standard.BEGINNER and opened is not None and opened.opens_at != Standard.BEGINNER:
        return tell("“{opened}” opens at the level Developing. Choose another goal for now.", opened=opened.name)
    return None


def place_of(target: GoalTarget, known: PlanningContext, shown: GoalEvidence) -> GoalPosition:
    """Return where the player stands on the way to a goal."""
    if _is_by_path(target.kind):
        return _on_path(target, known)
    if target.kind == GoalKind.OWN:
        return _owning(target, known)
    if target.kind == GoalKind.PEDALS:
        return _in_sets(target, known)
    if target.kind == GoalKind.CENTRE:
        now = shown.pitch_error_cents if shown.pitch_error_cents is not None else 2.0 * target.value
        said = tell("{now:.0f} cents", now=now) if shown.pitch_error_cents is not None else "not known yet"
        return GoalPosition(-now, -target.value, said, tell("within {target:g} cents", target=target.value))
    minutes = shown.minutes_to_tiring
    at = minutes if minutes is not None else 0.0
    said = tell("{at:.0f} minutes", at=at) if minutes is not None else "not known yet"
    return GoalPosition(
        at / _MINUTES_A_STEP,
        target.value / _MINUTES_A_STEP,
        said,
        tell("{target:g} minutes before tiring", target=target.value),
    )


def wish_of(target: GoalTarget, known: PlanningContext) -> GoalRequest:
    """What the goal asks of the day."""
    if target.kind != GoalKind.OWN:
        return GoalRequest(
            exercise_type_towards(target.kind).id,
            tell("your goal: {goal_in_words}", goal_in_words=goal_in_words(target)),
        )
    name = pitch_of_midi(round(target.value)).name
    why = tell("your goal: {name} (concert)", name=name)
    if target.joined:
        why = tell("your goal: {name} (concert) in a slur or scale", name=name)
    if _downwards(target, known.instrument):
        start = known.start_down if known.start_down is not None else known.instrument.easy.midi
        start = max(start, known.instrument.lowest.midi)
        return GoalRequest(_SINGLE, why, {"direction": "down", "start": pitch_of_midi(start).name, "steps": "6"})
    return GoalRequest(_IN_LINE if target.joined else _SINGLE, why)


def goal_in_words(target: GoalTarget) -> str:
    """Return a goal in words, as the player reads it."""
    match target.kind:
        case GoalKind.OWN:
            way = "in a slur or scale" if target.joined else "alone"
            return tell(
                "play {pitch_of_midi} (concert) reliably {way}",
                pitch_of_midi=pitch_of_midi(round(target.value)).name,
                way=way,
            )
        case GoalKind.HOLD:
            return tell("hold a low tone for {target:g} seconds", target=target.value)
        case GoalKind.SLUR:
            return tell("slur {target:g} partials cleanly, up and back", target=target.value)
        case GoalKind.TRILL:
            return tell("trill {target:g} times a second", target=target.value)
        case GoalKind.PEDALS:
            return tell("{target:g} pedal sets a day", target=target.value)
        case GoalKind.CENTRE:
            return tell("play in tune within {target:g} cents", target=target.value)
        case GoalKind.MINUTES:
            return tell("play {target:g} minutes before tiring", target=target.value)


def days_for(kind: GoalKind, minutes: Iterable[int]) -> float:
    """Days a week on which the goal can be worked at, of those that are given: none for pedal sets where no day has room for them."""
    given = list(minutes)
    if kind == GoalKind.PEDALS and max(given, default=0) < LEAST_FOR_SETS:
        return 0.0
    return float(sum(day > 0 for day in given))


def exercise_type_of(target: GoalTarget, instrument: Instrument) -> str:
    """The exercise type that leads to the goal."""
    if target.kind != GoalKind.OWN:
        return exercise_type_towards(target.kind).id
    return _IN_LINE if target.joined and not _downwards(target, instrument) else _SINGLE


def _downwards(target: GoalTarget, instrument: Instrument) -> bool:
    return target.value < CHECK_NOTE.series(instrument).exercises[0].notes[0].pitch.midi


def _owning(target: GoalTarget, known: PlanningContext) -> GoalPosition:
    own = known.in_range.joined if target.joined else known.in_range.alone
    name = pitch_of_midi(round(target.value)).name
    if _downwards(target, known.instrument):
        # Where nothing is in the range yet, nothing is reached: the work begins a step before the goal at the nearest.
        low = own.low if own.low is not None else max(known.instrument.easy.midi, round(target.value) + 1)
        return GoalPosition(
            -float(low),
            -target.value,
            tell("down to {pitch_of_midi}", pitch_of_midi=pitch_of_midi(low).name),
            tell("down to {name}", name=name),
        )
    start = known.start_up if known.start_up is not None else known.instrument.easy.midi
    high = own.high if own.high is not None else min(start, round(target.value) - 1)
    return GoalPosition(
        float(high),
        target.value,
        tell("up to {pitch_of_midi}", pitch_of_midi=pitch_of_midi(high).name),
        tell("up to {name}", name=name),
    )


def _in_sets(target: GoalTarget, known: PlanningContext) -> GoalPosition:
    """Sets that may be played count once some were; before that even the first stage is still to come."""
    asked = tell("{target:g} sets a day", target=target.value)
    if known.sets is None or not known.sets.any_played:
        return GoalPosition(_BEFORE_SETS, target.value, "none played yet", asked)
    return GoalPosition(float(known.sets.sets), target.value, tell("{sets} sets a day", sets=known.sets.sets), asked)


def _is_by_path(kind: GoalKind) -> bool:
    """Whether levels of the exercise that leads there say how far one is."""
    return kind != GoalKind.OWN and exercise_type_towards(kind).leads_to[kind] is not None


def _goal_step(target: GoalTarget, instrument: Instrument) -> int | None:
    exercise_type = exercise_type_towards(target.kind)
    path, asks = path_of(exercise_type.id, instrument), exercise_type.leads_to[target.kind]
    if path is None or asks is None:
        return None
    return next((number for number, step in enumerate(path.steps) if asks(step, target.value)), None)


def _on_path(target: GoalTarget, known: PlanningContext) -> GoalPosition:
    path, goal = path_of(exercise_type_towards(target.kind).id, known.instrument), _goal_step(target, known.instrument)
    if path is None or goal is None:
        raise InputError(
            tell(
                "The {instrument} has no exercise that leads to “{goal_in_words}”.",
                instrument=known.instrument.name,
                goal_in_words=goal_in_words(target),
            )
        )
    standing = known.standing(path)
    begun = min(1.0, standing.clean_days / needed(path))
    # A level that a player only began at, by the standard, is nothing that was shown yet.
    shown = standing.clean_days > 0 or (standing.change is not None and standing.change.why == MoveReason.ON)
    position = standing.step + begun if shown else min(float(standing.step), float(goal))
    return GoalPosition(position, goal + 1.0, _says(path, standing.step), _says(path, goal))


def _says(path: Path, step: int) -> str:
    return tell("level {step} of {count}: {say}", step=step + 1, count=len(path.steps), say=path.steps[step].say)
