"""Intervals on the instrument: from one note up, or down, by each interval in turn, and home."""

from collections.abc import Iterable

from orexis.core.exercises.build import ExerciseBuilder, in_range, middle_note, series_of
from orexis.core.exercises.exercise import Exercise, Series
from orexis.core.exercises.exercise_type import ExerciseType
from orexis.core.exercises.kinds import DayPlace, Load
from orexis.core.exercises.levels import PathStep, level, with_article
from orexis.core.exercises.params import Param, Values, choice, count, note, tempo
from orexis.core.instruments import Instrument
from orexis.core.messages import tell
from orexis.core.standards import Standard
from orexis.core.theory import interval_name, pitch_of_midi
from orexis.errors import ExerciseError

# Beats of the note left and of the note entered, within half a bar.
_RHYTHMS = {"even": (1.0, 1.0), "long, then short": (1.5, 0.5), "short, then long": (0.5, 1.5)}
_DIRECTIONS = {"up": (1,), "down": (-1,), "up, then down": (1, -1)}


def _params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "From", middle_note(instrument)),
        count("narrowest", "First interval in semitones", 1, 1, 12),
        count("widest", "Last interval in semitones", 7, 1, 12),
        choice("direction", "Direction", *_DIRECTIONS),
        choice("join", "Joined by", "slur", "tongue"),
        choice("rhythm", "Rhythm", *_RHYTHMS),
        tempo(66),
    )


def _intervals(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    start = in_range(instrument, values.pitch("start"), what="The note to start from")
    narrowest, widest = values.integer("narrowest"), values.integer("widest")
    if widest < narrowest:
        raise ExerciseError(
            tell(
                "From {narrowest} to {widest} semitones there is no interval: raise the last one.",
                narrowest=narrowest,
                widest=widest,
            )
        )
    exercises = []
    for semitones in range(narrowest, widest + 1):
        for sign in _DIRECTIONS[values.choice("direction")]:
            if instrument.lowest.midi <= start.midi + sign * semitones <= instrument.highest.midi:
                exercises.append(_one(exercise_type, instrument, values, sign * semitones))
    return series_of(exercise_type, instrument, exercises)


def _one(exercise_type: ExerciseType, instrument: Instrument, values: Values, semitones: int) -> Exercise:
    """There and back twice, the last note held: it is finished as it was begun."""
    start, slurred = values.pitch("start"), values.choice("join") == "slur"
    leave, enter = _RHYTHMS[values.choice("rhythm")]
    other = pitch_of_midi(start.midi + semitones)
    line = ExerciseBuilder(instrument)
    for _ in range(2):
        line.note(start, leave, slurred=slurred and bool(line.notes)).note(other, enter, slurred=slurred)
    line.note(start, 4.0, slurred=slurred)
    where = "up" if semitones > 0 else "down"
    title = f"{interval_name(abs(semitones)).capitalize()} {where}, {'slurred' if slurred else 'tongued'}"
    return line.exercise(exercise_type, f"{semitones}-{start.name}", title, tempo=values.integer("tempo"))


def _interval_levels(instrument: Instrument) -> Iterable[PathStep]:
    start = middle_note(instrument).midi - 5
    for wide in (3, 5, 7, 9, 12):
        yield level(
            tell("to {with_article}", with_article=with_article(interval_name(wide))),
            start=pitch_of_midi(start).name,
            widest=wide,
        )
    for speed in (76, 88, 100):
        yield level(
            tell("to an octave at {speed}", speed=speed), start=pitch_of_midi(start).name, widest=12, tempo=speed
        )
    yield level("to an octave, tongued", start=pitch_of_midi(start).name, widest=12, join="tongue")


INTERVALS = ExerciseType(
    id="intervals",
    name="Intervals",
    place=DayPlace.CENTRE,
    purpose="Go straight from one note to another, a little further each time.",
    asks="Hear the note first. Arrive in its centre and finish the last note well.",
    listen_for="No slide and no overshoot.",
    mistake="Reaching past the note.",
    load=Load.EASY,
    serves=("intonation", "flexibility"),
    judged=("overshoot", "attack", "gap", "pitch"),
    grows="wider, then quicker, then from higher notes",
    params=_params,
    make=_intervals,
    alternates=True,
    levels=_interval_levels,
    opens_at=Standard.BEGINNER,
)
