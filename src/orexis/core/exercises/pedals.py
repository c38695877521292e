"""Pedals: down to the first partial, held there, and below it for recovery."""

from collections.abc import Iterable
from dataclasses import replace

from orexis.core.approaches import Ask, Choice
from orexis.core.exercises.build import ExerciseBuilder, series_of
from orexis.core.exercises.exercise import Exercise, PassRequirement, Series
from orexis.core.exercises.exercise_type import Bound, ExerciseType
from orexis.core.exercises.kinds import Advance, DayPlace, GoalKind, Load, Loudness
from orexis.core.exercises.levels import PathStep, level
from orexis.core.exercises.params import Param, Values, choice, count, fingerings, note, tempo
from orexis.core.instruments import (
    FingeringOption,
    Instrument,
    has_slot,
    lowest_pedal,
    pedal_option,
    pedal_slots,
    seven_fingerings,
    slot_of,
)
from orexis.core.messages import tell
from orexis.core.standards import Standard
from orexis.core.theory import Pitch, pitch_of_midi
from orexis.errors import ExerciseError

_SET_NOTES = 20  # twenty attempts are about a minute of playing and a minute of rest
MOST_PITCHES, SETS_OF_A_FURTHER_PITCH = 3, 2
_RISE_DB = 3.0  # from the first half of a set to its end
_FALSE_TONES, _LEAST_HEARD = 2, 17  # semitones below the deepest pedal; F0: lower sounds are not followed
_BELOW_TUBING = "Below the longest tubing: pull the slides or bend the note down. Same lips."


def _to_pedal_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        count("partial", "From partial", 4, 2, 8),
        fingerings(),
        count("beats", "Beats on the pedal tone", 6, 2, 16),
        tempo(60),
    )


def _to_the_pedal(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    top, beats = values.integer("partial"), values.integer("beats")
    exercises = []
    for fingering in values.fingerings("fingering"):
        line = ExerciseBuilder(instrument)
        for place, partial in enumerate(range(top, 1, -1)):
            line.slot(fingering, partial, 1.0, slurred=place > 0)
        line.slot(fingering, 1, float(beats), slurred=True, to_breath_end=True, dynamic="f", text="same lips")
        name = f"{top}-{fingering.label.replace(' ', '')}"
        exercises.append(
            line.exercise(
                exercise_type,
                name,
                "Down to the pedal tone",
                tempo=values.integer("tempo"),
                dynamic="mp",
                hold_share=0.75,
            )
        )
    return series_of(exercise_type, instrument, exercises)


def _sets_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "Pedal", _first_pedal(instrument)),
        count("sets", "Sets", 2, 1, 5),
        count("notes", "Notes in a set", _SET_NOTES, 4, 40),
        count("beats", "Beats to hold, at least", 6, 2, 20),
        count("rest", "Minutes between sets", 4, 3, 5),
        count("pitches", "Pitches, a semitone down each", 1, 1, MOST_PITCHES),
        count("pause", "Minutes between pitches", 12, 10, 15),
        tempo(60),
    )


def _first_pedal(instrument: Instrument) -> Pitch:
    """A pedal in the middle of what the instrument has: the longest tubes come later."""
    slots = pedal_slots(instrument)
    return slots[min(3, len(slots) - 1)].pitch


def pedal_starts(instrument: Instrument) -> tuple[Pitch, ...]:
    """Pitches of pedal sets in the order in which they are worked on: from the first one down to the deepest pedal of the longest
    tubing, all valves included, then by false tones; or to where the player shifts. Notes that no tubing has are left out.
    """
    first = _first_pedal(instrument)
    pitches = [pitch_of_midi(midi) for midi in range(first.midi, _lowest(instrument).midi - 1, -1)]
    return tuple(p for p in pitches if _is_there(instrument, p) and not _is_below_the_shift(instrument, p)) or (first,)


def _lowest(instrument: Instrument) -> Pitch:
    """The last pitch of pedal sets: two false tones below the deepest pedal, where they can be heard."""
    pedal = lowest_pedal(instrument).midi
    return pitch_of_midi(min(pedal, max(pedal - _FALSE_TONES, _LEAST_HEARD)))


def _is_there(instrument: Instrument, pitch: Pitch) -> bool:
    """Whether a pitch is a slot of some tubing, or a false tone below all of them."""
    return has_slot(instrument, pitch) or _is_false(instrument, pitch)


def _is_false(instrument: Instrument, pitch: Pitch) -> bool:
    return _lowest(instrument).midi <= pitch.midi < lowest_pedal(instrument).midi


def _option(instrument: Instrument, pitch: Pitch) -> FingeringOption:
    """How a pedal is played: a false tone on the longest tubing, which lies so far above it."""
    if not _is_false(instrument, pitch):
        return pedal_option(instrument, pitch)
    lowest = lowest_pedal(instrument)
    option = pedal_option(instrument, lowest)
    return replace(option, cents=option.cents + 100.0 * (lowest.midi - pitch.midi))


def _pedal_sets(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    """All sets of the first pitch, then two of each further one a semitone lower, with a long pause before it."""
    first = values.pitch("start")
    if (
        not _is_there(instrument, first)
        or first.midi > slot_of(instrument, seven_fingerings(instrument)[0], 1).pitch.midi + 12
    ):
        raise ExerciseError(
            tell(
                "{first} (concert) is no pedal tone of the {instrument}: it goes down to {lowest_pedal}.",
                first=first.name,
                instrument=instrument.name,
                lowest_pedal=_lowest(instrument).name,
            )
        )
    if _is_below_the_shift(instrument, first):
        assert instrument.setup.shifts_at is not None
        raise ExerciseError(
            tell(
                "You said that {shifts_at} (concert) needs a shift of the lips: no sets below it until it does not. Take that back under Instrument.",
                shifts_at=instrument.setup.shifts_at.name,
            )
        )
    exercises: list[Exercise] = []
    pauses: list[int] = []
    for down in range(values.integer("pitches")):
        pitch = pitch_of_midi(first.midi - down)
        if down and (not _is_there(instrument, pitch) or _is_below_the_shift(instrument, pitch)):
            break
        pauses += [len(exercises)] if down else []
        sets = range(values.integer("sets") if down == 0 else min(values.integer("sets"), SETS_OF_A_FURTHER_PITCH))
        exercises += [_set(exercise_type, instrument, pitch, number, values) for number in sets]
    return series_of(
        exercise_type,
        instrument,
        exercises,
        rest_s=60.0 * values.integer("rest"),
        pauses=tuple(pauses),
        pause_s=60.0 * values.integer("pause"),
    )


def _set(
    exercise_type: ExerciseType, instrument: Instrument, pitch: Pitch, number_of_set: int, values: Values
) -> Exercise:
    """Twenty long notes, the second half each a little louder; by valves rather than with a long arm."""
    number, beats = values.integer("notes"), values.integer("beats")
    line, option = ExerciseBuilder(instrument), _option(instrument, pitch)
    for place in range(number):
        if place and place % 5 == 0:
            line.phrase()
        text = "louder each" if place == number // 2 else None
        dynamic = {number // 2: "mf", number - 1: "f"}.get(place)
        line.laid(pitch, float(beats), option, to_breath_end=True, text=text, dynamic=dynamic).rest(2.0)
    return line.exercise(
        exercise_type,
        f"{pitch.name}-{number_of_set + 1}",
        tell("Pedal set {number_of_set}, {number} notes", number_of_set=number_of_set + 1, number=number),
        tempo=values.integer("tempo"),
        hold_share=0.6,
        loudness=Loudness.GROW,
        needs=(PassRequirement("rise", least=_RISE_DB),),
        hint=_BELOW_TUBING
        if _is_false(instrument, pitch)
        else "Every note starts on the breath and lasts as long as it can.",
    )


def _is_below_the_shift(instrument: Instrument, pitch: Pitch) -> bool:
    return instrument.setup.shifts_at is not None and pitch.midi < instrument.setup.shifts_at.midi


def _loose_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First note", pedal_slots(instrument)[0].pitch),
        count("steps", "Semitones down", 8, 1, 17),
        choice("join", "Down by", "steps", "a glide"),
        tempo(60),
    )


def _loose(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    start, glide = values.pitch("start"), values.choice("join") == "a glide"
    line = ExerciseBuilder(instrument)
    for step in range(values.integer("steps") + 1):
        pitch = pitch_of_midi(start.midi - step)
        if glide:
            line.note(pitch, 1.0, free=True, slurred=step > 0, glide_beats=0.8 if step else 0.0)
        else:
            line.note(pitch, 2.0, free=True)
    line.to_bar()
    exercise = line.exercise(
        exercise_type,
        start.name,
        "Free pedal tones",
        tempo=values.integer("tempo"),
        dynamic="p",
        hint="Lips free; whatever comes is right.",
    )
    return series_of(exercise_type, instrument, [exercise])


def _to_the_pedal_levels(instrument: Instrument) -> Iterable[PathStep]:
    for fingering, say in (("few", "three fingerings"), ("all", "all fingerings")):
        for beats in (4, 6, 8, 12, 16):
            yield level(
                tell("{beats} beats on the pedal, {say}", beats=beats, say=say), beats=beats, fingering=fingering
            )


def _pedal_set_levels(instrument: Instrument) -> Iterable[PathStep]:
    for pitch in pedal_starts(instrument):
        say = tell("on {pitch} (concert)", pitch=pitch.name)
        if _is_false(instrument, pitch):
            say = tell("on {pitch} (concert), below the longest tubing", pitch=pitch.name)
        yield level(say, start=pitch.name)


TO_THE_PEDAL = ExerciseType(
    id="to-the-pedal",
    name="Low register: down to the pedals",
    place=DayPlace.LOW,
    purpose="Take your usual setting all the way down.",
    asks="Get a little louder on the way down. Hold the last note.",
    listen_for="Corners firm, centre free.",
    mistake="Opening up so wide that the tone blurs.",
    load=Load.MEDIUM,
    serves=("range down", "sound"),
    judged=("hold", "pitch", "splits"),
    grows="longer pedal tones, longer tubing",
    params=_to_pedal_params,
    make=_to_the_pedal,
    levels=_to_the_pedal_levels,
    heavy_levels=True,
)
PEDAL_SETS = ExerciseType(
    id="pedal-sets",
    name="Pedal tones: sets",
    place=DayPlace.LOW,
    purpose="Build strength from below with counted sets and long rests.",
    asks="Start each note with the breath and hold it as long as you can. Don't shift the lips.",
    listen_for="Every note speaks at once.",
    mistake="Shifting the lips to reach the pedal.",
    load=Load.HIGH,
    serves=("range down", "range up", "endurance"),
    judged=("response", "hold", "splits", "count"),
    grows="more sets over the weeks, then the next pitch down",
    params=_sets_params,
    make=_pedal_sets,
    counted_in_sets=True,
    advance=Advance.SETS,
    click=False,
    levels=_pedal_set_levels,
    heavy_levels=True,
    opens_at=Standard.ADVANCED,
    leads_to={GoalKind.PEDALS: None},
)
LOOSE_PEDALS = ExerciseType(
    id="loose-pedals",
    name="Pedal tones: free",
    place=DayPlace.CHECK,
    purpose="Let the blood flow back into the lips.",
    asks="Go down as far as it goes. Keep the lips loose.",
    listen_for="Relaxed lips. Missed notes don't matter.",
    mistake="Working at it.",
    load=Load.EASY,
    serves=("endurance",),
    judged=(),
    grows="nothing, on purpose",
    params=_loose_params,
    make=_loose,
    recovers=True,
    bound=(Bound(Ask.DOUBLE_PEDALS, {Choice.FREE_LIPS: {"join": "a glide", "steps": "8"}}),),
    click=False,
)
PEDALS = (
    TO_THE_PEDAL,
    PEDAL_SETS,
    LOOSE_PEDALS,
)
