"""Held notes: long, shaped, centred, against a drone, on two fingerings, and the check note."""

from orexis.core.exercises.build import ExerciseBuilder, in_range, middle_note, series_of
from orexis.core.exercises.exercise import Exercise, Series
from orexis.core.exercises.exercise_type import Begin, ExerciseType
from orexis.core.exercises.kinds import DayPlace, GoalKind, Load, Role
from orexis.core.exercises.levels import PathStep
from orexis.core.exercises.params import Param, Values, choice, count, note, tempo
from orexis.core.exercises.tone_levels import (
    drone_levels,
    long_low_tone_levels,
    middle_levels,
    shaped_tone_levels,
    two_fingerings_levels,
)
from orexis.core.instruments import Instrument, fingering_options
from orexis.core.messages import tell
from orexis.core.standards import Standard
from orexis.core.theory import Pitch, interval_name, just_cents, pitch_of_midi
from orexis.errors import ExerciseError


def _long_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First note", instrument.easy),
        count("steps", "Semitones down", 4, 0, 12),
        count("beats", "Beats to hold", 8, 4, 32),
        tempo(60, 40, 120),
        choice("dynamic", "Loudness", "mf", "pp", "p", "mp", "f"),
    )


def _long_low_tones(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    start, steps = values.pitch("start"), values.integer("steps")
    down = [pitch_of_midi(start.midi - step) for step in range(1, steps + 1)]
    pitches = [start, *down, *reversed(down[:-1]), *([start] if steps else [])]
    return series_of(
        exercise_type, instrument, [_long_tone(exercise_type, instrument, values, pitch) for pitch in pitches]
    )


def _long_tone(exercise_type: ExerciseType, instrument: Instrument, values: Values, pitch: Pitch) -> Exercise:
    beats, bpm = values.integer("beats"), values.integer("tempo")
    line = ExerciseBuilder(instrument).note(pitch, float(beats), to_breath_end=True)
    # Asked: three quarters of the written length, so that a breath which ends a beat early still passes.
    return line.exercise(
        exercise_type,
        pitch.name,
        "Long tone",
        tempo=bpm,
        dynamic=values.choice("dynamic"),
        hold_share=0.75,
    )


# The shape asked for, in words, the loudness it begins with, and how it is named.
_SHAPED = (
    ("steady", "pp", "Soft"),
    ("steady", "f", "Loud"),
    ("swell", "p", "Swelling"),
    ("fade", "f", "Fading"),
    ("swell-and-fade", "p", "Swelling and fading"),
)


def _shaped_params(instrument: Instrument) -> tuple[Param, ...]:
    return (note("start", "Note", instrument.easy), count("beats", "Beats to hold", 8, 4, 32), tempo(60))


def _shaped(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    pitch, bpm = values.pitch("start"), values.integer("tempo")
    exercises = []
    for shape, dynamic, name in _SHAPED:
        line = ExerciseBuilder(instrument).note(pitch, float(values.integer("beats")), shape=shape)
        exercises.append(
            line.exercise(
                exercise_type,
                f"{name.split()[0].lower()}-{shape}",
                tell("{name} tone", name=name),
                tempo=bpm,
                dynamic=dynamic,
            )
        )
    return series_of(exercise_type, instrument, exercises)


def _check_params(instrument: Instrument) -> tuple[Param, ...]:
    return (note("start", "Note", instrument.easy),)


def _check_note(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    pitch = in_range(instrument, values.pitch("start"), what="The check note")
    line = ExerciseBuilder(instrument).note(pitch, 4.0)
    return series_of(
        exercise_type,
        instrument,
        [line.exercise(exercise_type, pitch.name, "Check note", tempo=60, dynamic="mp", hint="Start on the breath.")],
    )


def _middle_params(instrument: Instrument) -> tuple[Param, ...]:
    return (note("start", "Note", middle_note(instrument)), count("beats", "Beats for each part", 4, 2, 8), tempo(60))


def _find_the_middle(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    pitch, beats = values.pitch("start"), values.integer("beats")
    line = ExerciseBuilder(instrument).note(pitch, 4.0 * beats, text="straight|up|down|settle")
    return series_of(
        exercise_type,
        instrument,
        [line.exercise(exercise_type, pitch.name, "Centre the note", tempo=values.integer("tempo"))],
    )


def _drone_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("root", "Drone note", instrument.easy),
        choice(
            "intervals", "Intervals", "unison, fifth, third", "unison", "fifth", "major third", "minor third", "fourth"
        ),
        count("beats", "Beats to hold", 8, 4, 24),
        tempo(60),
    )


_DRONE_SETS = {"unison": (0,), "fifth": (7,), "major third": (4,), "minor third": (3,), "fourth": (5,)}


def _against_a_drone(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    root, chosen = values.pitch("root"), values.choice("intervals")
    exercises = []
    for semitones in _DRONE_SETS.get(chosen, (0, 7, 4)):
        pitch = pitch_of_midi(root.midi + semitones)
        line = ExerciseBuilder(instrument).note(
            pitch, float(values.integer("beats")), target_cents=round(just_cents(semitones), 3)
        )
        title = tell("{interval_name} over the drone", interval_name=interval_name(semitones).capitalize())
        exercises.append(
            line.exercise(exercise_type, f"{semitones}-{pitch.name}", title, tempo=values.integer("tempo"), drone=root)
        )
    return series_of(exercise_type, instrument, exercises)


def _two_fingerings_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "Note", _with_two_fingerings(instrument)),
        count("turns", "Times each", 2, 1, 4),
        choice("place", "Slide or hand", "may mend it", "stays home"),
        tempo(60),
    )


def _with_two_fingerings(instrument: Instrument) -> Pitch:
    """From the comfortable middle upwards, the first note with two ways that are nearly in tune."""
    for midi in range(middle_note(instrument).midi, instrument.highest.midi):
        options = fingering_options(instrument, pitch_of_midi(midi))
        if len([option for option in options if abs(option.cents) < 20.0]) > 1:
            return pitch_of_midi(midi)
    return middle_note(instrument)


def _two_fingerings(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    pitch = values.pitch("start")
    options = fingering_options(instrument, pitch)
    if len(options) < 2:
        raise ExerciseError(
            tell(
                "The {instrument} has only one fingering for {pitch} (concert): choose another note.",
                instrument=instrument.name,
                pitch=pitch.name,
            )
        )
    home = values.choice("place") == "stays home"
    line = ExerciseBuilder(instrument)
    for _ in range(values.integer("turns")):
        for option in options[:2]:
            line.laid(pitch, 3.0, option, keep_fingering=home).rest(1.0)
    title = tell(
        "One note with {fingering} and {fingering2}",
        fingering=options[0].fingering.label,
        fingering2=options[1].fingering.label,
    )
    return series_of(
        exercise_type, instrument, [line.exercise(exercise_type, pitch.name, title, tempo=values.integer("tempo"))]
    )


_TONES_DOWN, _HOLD_SHARE = 4, 0.75  # semitones, where no level says how far; of the written length, to be held


def _begin_low(begin: Begin) -> dict[str, str]:
    """Down to the note that the player calls comfortable, not below it."""
    if begin.comfortable_low is None:
        return {}
    return {"start": begin.name(begin.comfortable_low + int(begin.level.get("steps", _TONES_DOWN)))}


def _holds_for(step: PathStep, seconds: float) -> bool:
    return "dynamic" not in step.params and _HOLD_SHARE * float(step.params["beats"]) >= seconds - 0.26


LONG_LOW_TONES = ExerciseType(
    id="long-low-tones",
    name="Long tones",
    place=DayPlace.TONES,
    purpose="Find one even, steady sound low down before anything harder.",
    asks="Hold each note as long as the breath lasts. Keep the sound and pitch the same.",
    listen_for="A steady pitch to the very end.",
    mistake="Letting the pitch drop as the air runs out.",
    load=Load.EASY,
    serves=("sound", "range down", "breath"),
    judged=("pitch", "pitch_wobble", "pitch_drift", "attack", "hold", "fall_off"),
    grows="longer, then softer",
    params=_long_params,
    make=_long_low_tones,
    alternates=True,
    levels=long_low_tone_levels,
    opens_at=Standard.BEGINNER,
    quiet={"dynamic": "pp"},
    role=Role.LOW_NOTES,
    begins=_begin_low,
    leads_to={GoalKind.HOLD: _holds_for, GoalKind.MINUTES: None},
)
SHAPED_TONES = ExerciseType(
    id="shaped-tones",
    name="Dynamics on a long tone",
    place=DayPlace.TONES,
    purpose="Change the volume and nothing else.",
    asks="Get louder and softer on one note. Keep the pitch where it is.",
    listen_for="The pitch stays while the volume moves.",
    mistake="Going sharp when soft and flat when loud.",
    load=Load.EASY,
    serves=("sound", "intonation"),
    judged=("pitch_drift", "shape"),
    grows="softer and louder ends",
    params=_shaped_params,
    make=_shaped,
    alternates=True,
    levels=shaped_tone_levels,
)
TONES = (
    LONG_LOW_TONES,
    SHAPED_TONES,
)

FIND_THE_MIDDLE = ExerciseType(
    id="find-the-middle",
    name="Centre the note",
    place=DayPlace.CENTRE,
    purpose="Hear where a note rings, and learn to go there at once.",
    asks="Push it a little sharp, let it go flat, then settle where it rings.",
    listen_for="The fullest, easiest sound.",
    mistake="Settling above or below the place where it rings.",
    load=Load.EASY,
    serves=("intonation", "sound"),
    judged=("ring",),
    grows="quicker, until the note starts in its centre",
    params=_middle_params,
    make=_find_the_middle,
    click=False,
    levels=middle_levels,
    easy_levels=True,
    opens_at=Standard.BEGINNER,
    leads_to={GoalKind.CENTRE: None},
)
AGAINST_A_DRONE = ExerciseType(
    id="against-a-drone",
    name="Tuning to a drone",
    place=DayPlace.CENTRE,
    purpose="Hear when two sounds stop beating, and hold it there.",
    asks="Use headphones. Move the pitch until the beats stop, then leave it alone.",
    listen_for="The beats slow down and stop.",
    mistake="Pushing the pitch around without listening.",
    load=Load.EASY,
    serves=("intonation",),
    judged=("pitch", "pitch_wobble"),
    grows="harder intervals",
    params=_drone_params,
    make=_against_a_drone,
    alternates=True,
    click=False,
    levels=drone_levels,
)
ONE_NOTE_TWO_WAYS = ExerciseType(
    id="one-note-two-ways",
    name="Alternate fingerings",
    place=DayPlace.CENTRE,
    purpose="Hear how two fingerings of one note differ.",
    asks="Play the note with each fingering in turn. Move the slide until they agree.",
    listen_for="The same pitch and the same sound.",
    mistake="Bending the note with the lips instead of moving the slide.",
    load=Load.EASY,
    serves=("intonation",),
    judged=("two_ways", "pitch_wobble"),
    grows="higher notes, more fingerings",
    params=_two_fingerings_params,
    make=_two_fingerings,
    levels=two_fingerings_levels,
)
CENTRING = (
    FIND_THE_MIDDLE,
    AGAINST_A_DRONE,
    ONE_NOTE_TWO_WAYS,
)

CHECK_NOTE = ExerciseType(
    id="check-note",
    name="Check note",
    place=DayPlace.CHECK,
    purpose="Show how fresh your lips are.",
    asks="Play the same easy note for four seconds, starting with the breath.",
    listen_for="The same ease every time.",
    mistake="Trying harder when it gets rough.",
    load=Load.EASY,
    serves=("endurance",),
    judged=("endurance",),
    grows="nothing: it stays the same",
    params=_check_params,
    make=_check_note,
    click=False,
)
CHECK = (CHECK_NOTE,)
