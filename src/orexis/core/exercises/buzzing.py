"""Breath and mouthpiece: what comes before the instrument. Nothing here has slots; only pitches are asked."""

from collections.abc import Iterable

from orexis.core.exercises.build import ExerciseBuilder, series_of
from orexis.core.exercises.exercise import Series
from orexis.core.exercises.exercise_type import ExerciseType
from orexis.core.exercises.kinds import DayPlace, Load, Medium
from orexis.core.exercises.levels import PathStep, level, with_article
from orexis.core.exercises.params import Param, Values, choice, count, note, tempo
from orexis.core.instruments import Instrument
from orexis.core.messages import tell
from orexis.core.standards import Standard
from orexis.core.theory import Pitch, interval_name, pitch_of_midi


def _breath_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        count("in", "Beats in", 4, 2, 12),
        count("out", "Beats out", 8, 2, 40),
        count("rounds", "Breaths", 4, 1, 12),
        count("growing", "Beats longer each time", 2, 0, 8),
        tempo(60, 40, 100),
    )


def _breath(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    inward, outward, growing = values.integer("in"), values.integer("out"), values.integer("growing")
    line = ExerciseBuilder(instrument, medium=exercise_type.medium)
    for turn in range(values.integer("rounds")):
        if turn % 2 == 0:
            line.phrase()
        line.note(instrument.easy, inward - 1, text="in", free=True)
        line.note(instrument.easy, 1, text="top up", free=True)
        line.note(instrument.easy, outward + turn * growing, text="out", free=True).to_bar()
    title = tell("Breathe {inward} in, {outward} out", inward=inward, outward=outward)
    return series_of(
        exercise_type,
        instrument,
        [
            line.exercise(
                exercise_type,
                f"{inward}-{outward}",
                title,
                tempo=values.integer("tempo"),
                dynamic="p",
                hint="In low and quiet, a little more on top, then long and even out.",
            )
        ],
    )


def _buzz_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("low", "Low note", instrument.easy),
        count("interval", "Semitones to the high note", 7, 1, 24),
        count("turns", "Times each", 2, 1, 6),
        choice(
            "counts",
            "Counts each, then off",
            "4 and 4, 2 and 2, 4 and 0",
            "4 and 4",
            "4 and 2",
            "2 and 2",
            "4 and 0",
            "2 and 0",
        ),
        choice("first", "First", "low", "high"),
        tempo(72),
    )


def _pair(values: Values) -> tuple[Pitch, Pitch]:
    low = values.pitch("low")
    return low, pitch_of_midi(low.midi + values.integer("interval"))


_COUNTED = {4: "four", 2: "two", 0: "no"}


def _buzz_answer(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    low, high = _pair(values)
    pair = (low, high) if values.choice("first") == "low" else (high, low)
    exercises = []
    for form in values.choice("counts").split(", "):
        beats, rest = (int(word) for word in form.split(" and "))
        line = ExerciseBuilder(instrument, medium=exercise_type.medium)
        for _ in range(values.integer("turns")):
            line.phrase()
            for pitch in pair:
                line.note(pitch, beats).rest(rest)
        title = (
            tell("{counted} counts on, {counted2} off", counted=_COUNTED[beats], counted2=_COUNTED[rest])
            if rest
            else "no rest between"
        )
        name = f"{_COUNTED[beats] if rest == beats else f'{beats}-{rest}'}-{pair[0].name}"
        order = "Low and high" if pair[0] is low else "High and low"
        exercises.append(
            line.exercise(
                exercise_type,
                name,
                tell("{order} buzz, {title}", order=order, title=title),
                tempo=values.integer("tempo"),
            )
        )
    return series_of(exercise_type, instrument, exercises)


def _siren_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("low", "Lowest note", instrument.easy),
        count("interval", "First range in semitones", 7, 7, 24),
        count("widest", "Widest range in semitones", 12, 7, 24),
        count("beats", "Beats each way", 4, 2, 12),
        tempo(60),
    )


def _siren(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    low, beats = values.pitch("low"), values.integer("beats")
    widest = max(values.integer("interval"), values.integer("widest"))
    exercises = []
    for semitones in (*range(values.integer("interval"), widest, 5), widest):
        high = pitch_of_midi(low.midi + semitones)
        line = ExerciseBuilder(instrument, medium=exercise_type.medium)
        line.note(low, beats)
        line.note(high, beats, slurred=True, glide_beats=beats - 1)
        line.note(low, 2, slurred=True, glide_beats=beats - 1)
        title = tell("Siren over {article}", article=with_article(interval_name(semitones)))
        exercises.append(line.exercise(exercise_type, f"{semitones}-{low.name}", title, tempo=values.integer("tempo")))
    return series_of(exercise_type, instrument, exercises)


def _buzz_interval_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("low", "Lower note", instrument.easy),
        count("from", "Narrowest interval in semitones", 1, 1, 12),
        count("to", "Widest interval in semitones", 12, 1, 12),
        choice("direction", "Direction", "up", "down"),
        tempo(66),
    )


def _buzz_intervals(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    low, up = values.pitch("low"), values.choice("direction") == "up"
    first, last = sorted((values.integer("from"), values.integer("to")))
    exercises = []
    for semitones in range(first, last + 1):
        high = pitch_of_midi(low.midi + semitones)
        one, two = (low, high) if up else (high, low)
        line = ExerciseBuilder(instrument, medium=exercise_type.medium).note(one, 3).rest(1).note(two, 3).rest(1)
        title = tell("Buzzed {interval_name}", interval_name=interval_name(semitones))
        exercises.append(
            line.exercise(
                exercise_type, f"{semitones}-{one.name}", title, tempo=values.integer("tempo"), reference=True
            )
        )
    return series_of(exercise_type, instrument, exercises)


def _breath_levels(instrument: Instrument) -> Iterable[PathStep]:
    for out in (6, 8, 10, 12, 16, 20):
        yield level(tell("{out} beats out", out=out), out=out, growing=0 if out < 8 else 2, rounds=2)


def _buzz_answer_levels(instrument: Instrument) -> Iterable[PathStep]:
    for counts, say in (
        ("4 and 4", "rests of four"),
        ("4 and 2", "rests of two"),
        ("4 and 0", "no rest"),
    ):
        yield level(tell("a third apart, {say}", say=say), interval=4, counts=counts)
    for wide in (7, 9, 12):
        yield level(
            tell("{with_article} apart, no rest", with_article=with_article(interval_name(wide))),
            interval=wide,
            counts="4 and 0",
        )
    yield level("an octave apart, two counts each", interval=12, counts="2 and 0")
    yield level("an octave apart, the high one first", interval=12, counts="2 and 0", first="high")


def _siren_levels(instrument: Instrument) -> Iterable[PathStep]:
    for beats, say in ((4, ""), (8, ", slowly")):
        for wide in (7, 12, 19, 24):
            yield level(
                tell("over {with_article}{say}", with_article=with_article(interval_name(wide)), say=say),
                interval=7,
                widest=wide,
                beats=beats,
            )


def _buzz_interval_levels(instrument: Instrument) -> Iterable[PathStep]:
    for direction in ("up", "down"):
        for wide in (4, 7, 9, 12):
            yield level(
                tell(
                    "{direction}, to {with_article}",
                    direction=direction,
                    with_article=with_article(interval_name(wide)),
                ),
                to=wide,
                direction=direction,
            )


BREATH = ExerciseType(
    id="breath",
    name="Breathing",
    place=DayPlace.BREATH,
    purpose="Open up before the first note with full, quiet breaths.",
    asks="Sit down. Breathe in low, top up high, breathe out long. Stop when you feel dizzy.",
    listen_for="A breath you can hardly hear.",
    mistake="Lifting the shoulders instead of filling low.",
    load=Load.EASY,
    serves=("breath",),
    judged=(),
    grows="longer breaths out",
    params=_breath_params,
    make=_breath,
    medium=Medium.AIR,
    levels=_breath_levels,
    easy_levels=True,
    opens_at=Standard.BEGINNER,
)
BUZZ_ANSWER = ExerciseType(
    id="buzz-answer",
    name="Mouthpiece buzzing: two notes",
    place=DayPlace.BUZZ,
    purpose="Make the low and the high buzz speak equally well.",
    asks="Buzz the low note, then answer with the high one, just as easily.",
    listen_for="Both notes start at once and sound the same.",
    mistake="Squeezing for the high note.",
    load=Load.EASY,
    serves=("range up", "range down", "sound"),
    judged=("response", "pitch_wobble", "pitch"),
    grows="shorter rests, then a wider pair",
    params=_buzz_params,
    make=_buzz_answer,
    medium=Medium.MOUTHPIECE,
    levels=_buzz_answer_levels,
    easy_levels=True,
    opens_at=Standard.BEGINNER,
)
SIREN = ExerciseType(
    id="siren",
    name="Mouthpiece buzzing: sirens",
    place=DayPlace.BUZZ,
    purpose="One unbroken buzz from low to high and back.",
    asks="Slide slowly and evenly. Keep the air moving all the time.",
    listen_for="Every pitch on the way, without a step or a gap.",
    mistake="Resetting the lips half way up.",
    load=Load.EASY,
    serves=("flexibility", "range up"),
    judged=("siren",),
    grows="a wider range",
    params=_siren_params,
    make=_siren,
    medium=Medium.MOUTHPIECE,
    click=False,
    levels=_siren_levels,
    easy_levels=True,
    opens_at=Standard.BEGINNER,
)
BUZZ_INTERVALS = ExerciseType(
    id="buzz-intervals",
    name="Mouthpiece buzzing: intervals",
    place=DayPlace.BUZZ,
    purpose="Train the lips to go straight to a pitch.",
    asks="Listen to the reference, then buzz it. Start in the middle of the note.",
    listen_for="The right pitch from the first moment.",
    mistake="Sliding up into the note.",
    load=Load.EASY,
    serves=("intonation",),
    judged=("attack", "pitch"),
    grows="wider intervals, fewer references",
    params=_buzz_interval_params,
    make=_buzz_intervals,
    medium=Medium.MOUTHPIECE,
    levels=_buzz_interval_levels,
    easy_levels=True,
)
BUZZING = (
    BREATH,
    BUZZ_ANSWER,
    SIREN,
    BUZZ_INTERVALS,
)
