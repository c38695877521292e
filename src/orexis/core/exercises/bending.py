"""Bends with the lip alone: off the slot and back, and before a leap."""

from collections.abc import Iterable

from orexis.core.exercises.build import ExerciseBuilder, series_of, top_checked
from orexis.core.exercises.exercise import PassRequirement, Series
from orexis.core.exercises.exercise_type import ExerciseType
from orexis.core.exercises.kinds import DayPlace, Load
from orexis.core.exercises.levels import PathStep, level
from orexis.core.exercises.params import Param, Values, choice, count, fingerings, tempo
from orexis.core.instruments import Fingering, Instrument, seven_fingerings
from orexis.core.messages import counted, tell
from orexis.core.standards import Standard
from orexis.errors import ExerciseError


def _bend_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        count("partial", "Partial", instrument.middle_partial, 2, instrument.top_partial),
        count("depth", "Semitones down", 1, 1, 2),
        count("hold", "Beats at the bottom", 2, 1, 8),
        fingerings(),
        tempo(60),
    )


def _bend(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    partial, depth, hold = values.integer("partial"), values.integer("depth"), values.integer("hold")
    exercises = []
    for fingering in values.fingerings("fingering"):
        line = ExerciseBuilder(instrument).slot(fingering, partial, 2.0)
        line.bent(fingering, partial, -depth, float(hold), text="with the lip", glide_beats=1.0)
        line.slot(fingering, partial, 4.0, slurred=True, glide_beats=1.0).to_bar()
        title = "Lip bend, a half step down and back" if depth == 1 else "Lip bend, a whole step down and back"
        name = f"{partial}-{depth}-{fingering.label.replace(' ', '')}"
        need = PassRequirement("bend", least=100.0 * depth)
        exercises.append(line.exercise(exercise_type, name, title, tempo=values.integer("tempo"), needs=(need,)))
    return series_of(exercise_type, instrument, exercises)


_LANDS = ("the same fingering", "the fingering a whole step longer")
_WHOLE_STEP = 2  # places in the row of seven fingerings


def _leap_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        count("partial", "From partial", instrument.middle_partial, 2, instrument.top_partial - 1),
        count("over", "Partials to leap", 1, 1, 4),
        count("depth", "Semitones down", 1, 1, 2),
        choice("join", "The leap is", "slurred", "tongued"),
        choice("lands", "The leap lands on", *_LANDS),
        count("still", "Beats to hold first", 4, 0, 8),
        fingerings(),
        tempo(66),
    )


def _bend_then_leap(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    partial, depth = values.integer("partial"), values.integer("depth")
    target = partial + values.integer("over")
    top_checked(instrument, target)
    exercises = []
    for fingering in values.fingerings("fingering"):
        landing = fingering if values.choice("lands") == _LANDS[0] else _longer(instrument, fingering)
        if landing is None:
            continue
        line = ExerciseBuilder(instrument)
        if values.integer("still"):
            line.slot(fingering, partial, float(values.integer("still")), text="only fingers move").rest(1.0).to_bar()
        line.slot(fingering, partial, 2.0)
        line.bent(fingering, partial, -depth, 1.0, glide_beats=0.5).slot(
            fingering, partial, 1.0, slurred=True, glide_beats=0.5
        )
        line.slot(landing, target, 4.0, slurred=values.choice("join") == "slurred")
        name = f"{partial}-{target}-{fingering.label.replace(' ', '')}-{landing.label.replace(' ', '')}"
        need = PassRequirement("bend", least=100.0 * depth)
        title = tell("Bend, then leap from partial {partial} to {target}", partial=partial, target=target)
        hint = "As you hold, finger the next note on the outside of the tubing."
        exercises.append(
            line.exercise(exercise_type, name, title, tempo=values.integer("tempo"), needs=(need,), hint=hint)
        )
    if not exercises:
        raise ExerciseError("No fingering is a whole step longer than these: choose more fingerings.")
    return series_of(exercise_type, instrument, exercises)


def _longer(instrument: Instrument, fingering: Fingering) -> Fingering | None:
    """The fingering a whole step longer, None after the longest: from open to the first valve, from first position to third."""
    row = seven_fingerings(instrument)
    at = row.index(fingering) + _WHOLE_STEP if fingering in row else len(row)
    return row[at] if at < len(row) else None


def _bend_levels(instrument: Instrument) -> Iterable[PathStep]:
    for fingering, say in (("few", "three fingerings"), ("all", "every fingering")):
        for depth, name in ((1, "half step"), (2, "whole step")):
            for hold in (1, 2, 4):
                yield level(
                    tell("a {name} held {hold}, {say}", name=name, hold=hold, say=say),
                    depth=depth,
                    hold=hold,
                    fingering=fingering,
                )


def _leap_levels(instrument: Instrument) -> Iterable[PathStep]:
    for join in ("slurred", "tongued"):
        for over in (1, 2, 3, 4):
            if instrument.middle_partial + over <= instrument.top_partial:
                depth = 1 if over < 3 else 2
                yield level(
                    counted(over, "over {count} partial, {join}", "over {count} partials, {join}", join=join),
                    over=over,
                    depth=depth,
                    join=join,
                )
    for join in ("slurred", "tongued"):
        for over in (2, 3):
            if instrument.middle_partial + over <= instrument.top_partial:
                say = tell("over {over} partials to a longer fingering, {join}", over=over, join=join)
                yield level(say, over=over, depth=1, join=join, lands=_LANDS[1])


LIP_BEND = ExerciseType(
    id="lip-bend",
    name="Lip bends",
    place=DayPlace.CENTRE,
    purpose="Build strength in the middle of the lips without pressure.",
    asks="Pull the note down and let it come back. Keep the sound focused.",
    listen_for="A clear tone all the way down.",
    mistake="Letting the tone go airy at the bottom.",
    load=Load.MEDIUM,
    serves=("flexibility", "intonation"),
    judged=("bend", "bend_back"),
    grows="a whole step, then longer at the bottom",
    params=_bend_params,
    make=_bend,
    levels=_bend_levels,
)
BEND_THEN_LEAP = ExerciseType(
    id="bend-then-leap",
    name="Bend, then leap",
    place=DayPlace.CENTRE,
    purpose="Feel the centre with a bend. Then leap with little effort.",
    asks="Hold still while the fingers move. Then bend, come back and leap.",
    listen_for="An easy leap that starts on pitch.",
    mistake="Dropping the note before the bend.",
    load=Load.MEDIUM,
    serves=("flexibility", "range up"),
    judged=("bend", "dip", "gap", "attack"),
    grows="wider leaps, then tongued ones",
    params=_leap_params,
    make=_bend_then_leap,
    levels=_leap_levels,
    opens_at=Standard.ADVANCED,
)
BENDING = (
    LIP_BEND,
    BEND_THEN_LEAP,
)
