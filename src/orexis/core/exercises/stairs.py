"""Equal intervals on one breath: falling stairs for the low register, broken ones going up."""

from collections.abc import Iterable

from orexis.core.exercises.build import (
    FULL,
    JOINS,
    SLURRED,
    ExerciseBuilder,
    in_range,
    middle_note,
    open_note,
    series_of,
)
from orexis.core.exercises.exercise import Series
from orexis.core.exercises.exercise_type import ExerciseType
from orexis.core.exercises.kinds import Advance, DayPlace, Load
from orexis.core.exercises.levels import PathStep, higher_by, level, lower_by
from orexis.core.exercises.params import Param, Values, choice, count, note, tempo
from orexis.core.instruments import Instrument
from orexis.core.messages import tell
from orexis.core.theory import interval_name, pitch_of_midi
from orexis.errors import ExerciseError


def _params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First note", middle_note(instrument)),
        count("interval", "Semitones between notes", 1, 1, 12),
        count("notes", "Notes on one breath", 5, 3, 12),
        count("series", "Starting notes", 4, 1, 13),
        choice("join", "Notes are", *JOINS),
        tempo(66),
    )


def _falling(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    """Down by equal steps; the next exercise starts a semitone lower. Exercises that leave the instrument are left out."""
    size, number = values.integer("interval"), values.integer("notes")
    start = in_range(instrument, values.pitch("start"), what="The first note")
    joined = values.choice("join")
    exercises = []
    for lower in range(values.integer("series")):
        midis = [start.midi - lower - size * step for step in range(number)]
        if midis[-1] < instrument.lowest.midi:
            break
        pitches = [pitch_of_midi(midi) for midi in midis]
        line = ExerciseBuilder(instrument)
        for place, pitch in enumerate(pitches):
            last = place == number - 1
            beats = line.left_in_bar(least=2.0) if last else 1.0
            line.note(pitch, beats, slurred=place > 0 and joined == SLURRED, articulation=JOINS[joined])
        exercises.append(
            line.exercise(
                exercise_type,
                f"{size}-{number}-{pitches[0].name}",
                tell("Falling pattern, {interval_name} by {interval_name}", interval_name=interval_name(size)),
                tempo=values.integer("tempo"),
            )
        )
    if not exercises:
        raise ExerciseError(
            tell(
                "{number} notes by {interval_name} from {start} (concert) go below the {instrument}'s {lowest}: start higher, or take fewer notes or a smaller step.",
                number=number,
                interval_name=interval_name(size),
                start=start.name,
                instrument=instrument.name,
                lowest=instrument.lowest.name,
            )
        )
    return series_of(exercise_type, instrument, exercises)


def _broken_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First note", open_note(instrument, instrument.slur_partial + 1)),
        count("interval", "Semitones up each time", 4, 2, 12),
        count("turns", "Times up", 4, 2, 8),
        count("series", "Starting notes", 4, 1, 13),
        tempo(72),
    )


def _broken(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    """Up by the interval, back by a semitone less, and so on; the next exercise starts a semitone higher."""
    size, turns = values.integer("interval"), values.integer("turns")
    start = in_range(instrument, values.pitch("start"), what="The first note")
    exercises = []
    for higher in range(values.integer("series")):
        low = start.midi + higher
        midis = [low + turn + up * size for turn in range(turns) for up in (0, 1)]
        if max(midis) > instrument.highest.midi:
            break
        line = ExerciseBuilder(instrument)
        for place, midi in enumerate(midis):
            beats = line.left_in_bar(least=1.0) if place == len(midis) - 1 else 0.5
            line.note(pitch_of_midi(midi), beats, slurred=place > 0)
        name = f"{size}-{pitch_of_midi(low).name}"
        title = tell("Rising pattern, {interval_name} up, one semitone less back", interval_name=interval_name(size))
        exercises.append(line.exercise(exercise_type, name, title, tempo=values.integer("tempo")))
    return series_of(exercise_type, instrument, exercises)


def _broken_levels(instrument: Instrument) -> Iterable[PathStep]:
    start = open_note(instrument, instrument.slur_partial + 1).midi
    for size in (2, 4, 5, 7):
        for higher in (0, 2, 4):
            if start + higher + 4 + size <= instrument.highest.midi:
                say = tell(
                    "by {interval_name}, from {higher_by}",
                    interval_name=interval_name(size),
                    higher_by=higher_by(higher),
                )
                yield level(say, start=pitch_of_midi(start + higher).name, interval=size)


# Semitones between the notes, and how many notes: longer, then wider.
_SHAPES = ((1, 5), (1, 8), (2, 5), (2, 6), (3, 5), (4, 4), (5, 4))


def _stair_levels(instrument: Instrument) -> Iterable[PathStep]:
    """Wider, then the same from lower, then tongued."""
    start = middle_note(instrument).midi
    for join, lower in ((SLURRED, 0), (SLURRED, 3), (FULL, 3)):
        for size, notes in _SHAPES:
            if start - lower - size * (notes - 1) >= instrument.lowest.midi:
                say = tell(
                    "{notes} notes by {interval_name}, from {lower_by}, {join}",
                    notes=notes,
                    interval_name=interval_name(size),
                    lower_by=lower_by(lower),
                    join=join,
                )
                first = pitch_of_midi(start - lower).name
                yield level(say, start=first, interval=size, notes=notes, join=join)


INTERVAL_STAIRS = ExerciseType(
    id="interval-stairs",
    name="Interval patterns",
    place=DayPlace.LOW,
    purpose="Go down in equal steps on one breath.",
    asks="Take no extra breath and make no shift.",
    listen_for="The lowest note sounds like the first.",
    mistake="Resetting the lips for the low notes.",
    load=Load.MEDIUM,
    serves=("range down", "sound"),
    judged=("one_breath", "tone_match_across", "pitch"),
    grows="more notes, then wider steps; then lower; then tongued",
    params=_params,
    make=_falling,
    alternates=True,
    advance=Advance.FALLING,
    levels=_stair_levels,
)
BROKEN_STAIRS = ExerciseType(
    id="broken-stairs",
    name="Rising interval patterns",
    place=DayPlace.REGISTER,
    purpose="Climb in equal leaps with a step back between them.",
    asks="Play each leap as easily as the first.",
    listen_for="Even, easy leaps.",
    mistake="Pushing harder for each leap.",
    load=Load.MEDIUM,
    serves=("range up", "flexibility"),
    judged=("tone_match_across", "gap", "pitch"),
    grows="higher",
    params=_broken_params,
    make=_broken,
    alternates=True,
    advance=Advance.CLIMB,
    levels=_broken_levels,
)
STAIRS = (
    INTERVAL_STAIRS,
    BROKEN_STAIRS,
)
