"""Scales and turning patterns: the register carried along a line."""

from collections.abc import Iterable

from orexis.core.exercises.accompaniment import accompanied
from orexis.core.exercises.build import (
    JOINS,
    SLURRED,
    ExerciseBuilder,
    by_height,
    in_range,
    middle_note,
    open_note,
    series_of,
)
from orexis.core.exercises.exercise import Exercise, Series
from orexis.core.exercises.exercise_type import Begin, ExerciseType, by_loudness
from orexis.core.exercises.kinds import Accompanied, Advance, DayPlace, Load, Role
from orexis.core.exercises.levels import PathStep, higher_by, level, lower_by
from orexis.core.exercises.params import Param, Values, begins, choice, count, going_up, note, tempo
from orexis.core.instruments import Instrument
from orexis.core.messages import counted, tell
from orexis.core.standards import Standard
from orexis.core.theory import Pitch, key_of, pitch_of_midi, scale
from orexis.errors import ExerciseError

_HELD = "up, top held"
_SCALE_SOUNDS = (Accompanied.NOTHING, Accompanied.DRONE, Accompanied.CHORDS)


def _one_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First key note", open_note(instrument, instrument.slur_partial + 1)),
        count("keys", "Keys", 4, 1, 8),
        count("step", "Semitones to the next key", 2, 1, 3),
        choice("form", "Form", "up", _HELD, "up and down"),
        choice("join", "Notes are", *JOINS),
        going_up(),
        begins(),
        choice("sounds", "Sounds with it", *_SCALE_SOUNDS),
        tempo(80),
    )


def _run(
    line: ExerciseBuilder, pitches: list[Pitch], *, beats: float, held: bool = False, joined: str = SLURRED
) -> ExerciseBuilder:
    """A line whose last note stays to the end of its bar; `held`: for a bar at least."""
    for place, pitch in enumerate(pitches):
        last = place == len(pitches) - 1
        line.note(
            pitch,
            line.left_in_bar(least=4.0 if held else 1.0) if last else beats,
            slurred=place > 0 and joined == SLURRED,
            articulation=None if last else JOINS[joined],
        )
    return line


def _scales(
    exercise_type: ExerciseType, instrument: Instrument, values: Values, *, octaves: int, step: int, keys: int
) -> Series:
    start = in_range(instrument, values.pitch("start"), what="The first key note")
    form = values.choice("form")
    if form == "three octaves":
        start = _for_three_octaves(instrument, start)
    exercises: list[Exercise] = []
    for turn in range(keys):
        tonic = pitch_of_midi(start.midi + turn * step)
        pitches = _form(tonic, form, octaves)
        top = max(pitches, key=lambda pitch: pitch.midi)
        if top.midi > instrument.highest.midi:
            if not exercises:
                raise ExerciseError(_too_high(instrument, tonic, top))
            break
        line = _run(
            ExerciseBuilder(instrument, key=key_of(tonic).fifths),
            pitches,
            beats=0.5 if octaves == 2 else 1.0,
            held=form == _HELD,
            joined=values.choice("join"),
        )
        title = tell(
            "{word}-octave {word2}",
            word="Two" if octaves == 2 else "One",
            word2="arpeggio" if form == "arpeggio" else "scale",
        )
        exercise = line.exercise(
            exercise_type,
            f"{form.replace(' ', '-').replace(',', '')}-{tonic.name}",
            title,
            tempo=values.integer("tempo"),
            **by_height(line, values),
        )
        exercises.append(accompanied(exercise, Accompanied(values.choice("sounds")), tonic, instrument))
    return series_of(exercise_type, instrument, exercises)


def _for_three_octaves(instrument: Instrument, start: Pitch) -> Pitch:
    """The tonic asked for, or the highest below it from which three octaves lie on the instrument."""
    highest = instrument.highest.midi - 36
    if highest < instrument.lowest.midi:
        raise ExerciseError(
            tell(
                "Three octaves need more than the {instrument} has from {lowest} to {highest} (concert): choose another form.",
                instrument=instrument.name,
                lowest=instrument.lowest.name,
                highest=instrument.highest.name,
            )
        )
    return pitch_of_midi(min(start.midi, highest))


def _too_high(instrument: Instrument, tonic: Pitch, top: Pitch) -> str:
    start = pitch_of_midi(tonic.midi - (top.midi - instrument.highest.midi))
    return tell(
        "From {tonic} it would reach {top} (concert), and the {instrument} goes to {highest}: start at {start} or lower.",
        tonic=tonic.name,
        top=top.name,
        instrument=instrument.name,
        highest=instrument.highest.name,
        start=start.name,
    )


def _form(tonic: Pitch, form: str, octaves: int) -> list[Pitch]:
    up = list(scale(tonic, octaves=octaves))
    down = list(reversed(up))[1:]
    match form:
        case "up and down":
            return up + down
        case "top octave, then down":
            return up[7:] + down
        case "three octaves":
            return list(scale(tonic, octaves=3))
        case "arpeggio":
            chord = [up[i] for i in (0, 2, 4, 7, 9, 11, 14)]
            return chord + list(reversed(chord))[1:]
    return up


def _one_octave(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    return _scales(
        exercise_type, instrument, values, octaves=1, step=values.integer("step"), keys=values.integer("keys")
    )


def _two_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First key note", pitch_of_midi(min(instrument.easy.midi, instrument.highest.midi - 24))),
        count("keys", "Keys", 4, 1, 12),
        choice("form", "Form", "up", _HELD, "up and down", "top octave, then down", "three octaves", "arpeggio"),
        choice("join", "Notes are", *JOINS),
        going_up(),
        begins(),
        choice("sounds", "Sounds with it", *_SCALE_SOUNDS),
        tempo(84),
    )


def _two_octaves(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    return _scales(exercise_type, instrument, values, octaves=2, step=1, keys=values.integer("keys"))


def _falling_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First key note", middle_note(instrument)),
        count("keys", "Keys", 5, 1, 12),
        tempo(72),
    )


def _falling(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    start = in_range(instrument, values.pitch("start"), what="The first key note")
    exercises: list[Exercise] = []
    for lower in range(values.integer("keys")):
        tonic = pitch_of_midi(start.midi - lower - 12)
        if tonic.midi < instrument.lowest.midi:
            break
        line = _run(ExerciseBuilder(instrument, key=key_of(tonic).fifths), list(reversed(scale(tonic))), beats=1.0)
        exercises.append(line.exercise(exercise_type, tonic.name, "Falling scale", tempo=values.integer("tempo")))
    return series_of(exercise_type, instrument, exercises)


_TURN = (0, 2, 4, 2, 3, 1, 0)  # steps of the scale: up a third, over, and home
_TURN_BEATS = (0.5, 0.5, 0.5, 0.5, 0.5, 0.5, 1.0)


def _roll_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First key note", middle_note(instrument)),
        count("keys", "Keys falling, and as many rising", 3, 1, 6),
        count("above", "Keys above the first, afterwards", 0, 0, 12),
        count("repeats", "Times each", 1, 1, 4),
        tempo(80),
    )


def _roll(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    """Down key by key, back, and then on above where it began. Each key is a take, so that one that fails comes back alone."""
    start = in_range(instrument, values.pitch("start"), what="The first key note")
    keys, above = values.integer("keys"), values.integer("above")
    lower = [*range(keys), *range(keys - 2, -above - 1, -1)]
    exercises = []
    for place, moved in enumerate(lower):
        tonic = pitch_of_midi(start.midi - moved)
        if tonic.midi + 7 > instrument.highest.midi:
            raise ExerciseError(
                tell(
                    "A key of {tonic} (concert) goes above the {instrument}'s {highest}: take fewer keys above.",
                    tonic=tonic.name,
                    instrument=instrument.name,
                    highest=instrument.highest.name,
                )
            )
        line = _turns(ExerciseBuilder(instrument), scale(tonic), values.integer("repeats"))
        back = "back-" if place >= keys and moved >= 0 else ""
        title = "Rolling pattern, then a bar of nose breath"
        exercises.append(line.exercise(exercise_type, f"{back}{tonic.name}", title, tempo=values.integer("tempo")))
    return series_of(exercise_type, instrument, exercises)


def _turns(line: ExerciseBuilder, steps: tuple[Pitch, ...], repeats: int) -> ExerciseBuilder:
    """The turning pattern on a scale, so many times with a bar of rest between."""
    for turn in range(repeats):
        for place, (step, beats) in enumerate(zip(_TURN, _TURN_BEATS, strict=True)):
            line.note(steps[step], beats, slurred=place > 0, breath=turn > 0 and place == 0)
        if turn + 1 < repeats:
            line.rest(4.0)
    return line


_KEYS_AT_ONCE = 3


def _one_octave_levels(instrument: Instrument) -> Iterable[PathStep]:
    """Three keys, a tone apart: up, with the top held, up and down; then from a major third higher."""
    start = instrument.easy.midi
    yield level("one key", start=pitch_of_midi(start).name, keys=1, form="up")
    for higher in range(0, instrument.highest.midi - 12 - start - 1, 4):
        for form in ("up", _HELD, "up and down"):
            yield level(
                tell("{form}, from {higher_by}", form=form, higher_by=higher_by(higher)),
                start=pitch_of_midi(start + higher).name,
                keys=_KEYS_AT_ONCE,
                form=form,
            )


def _two_octave_levels(instrument: Instrument) -> Iterable[PathStep]:
    """The start follows the range: up, with the top held, both ways, as an arpeggio, over three octaves."""
    for form in ("up", _HELD, "up and down", "top octave, then down", "arpeggio"):
        yield level(form, form=form)
    if instrument.highest.midi - instrument.lowest.midi >= 36:
        yield level("three octaves", form="three octaves")


def _roll_levels(instrument: Instrument) -> Iterable[PathStep]:
    start = middle_note(instrument).midi
    lowest = min(6, start - instrument.lowest.midi + 1)
    for keys in range(1, lowest + 1):
        yield level(counted(keys, "{count} key", "{count} keys"), keys=keys)
    for above in range(1, min(8, instrument.highest.midi - 7 - start) + 1):
        yield level(tell("down to the lowest and {above} above", above=above), keys=lowest, above=above)


def _falling_levels(instrument: Instrument) -> Iterable[PathStep]:
    start = middle_note(instrument).midi
    for lower in range(0, max(1, start - 12 - instrument.lowest.midi + 1), 2):
        keys = min(3, start - lower - 12 - instrument.lowest.midi + 1)
        yield level(
            tell("from {lower_by}", lower_by=lower_by(lower)),
            start=pitch_of_midi(start - lower).name,
            keys=max(1, keys),
        )


def _begin_two_octaves(begin: Begin) -> dict[str, str]:
    return {} if begin.top_in_line is None else {"start": begin.name(begin.top_in_line - 24 - 1)}


ONE_OCTAVE_SCALE = ExerciseType(
    id="one-octave-scale",
    name="Scales",
    place=DayPlace.REGISTER,
    purpose="Play up an octave in one breath. When the top is good, take the next key.",
    asks="Raise the tongue with the line. Keep the air going.",
    listen_for="A top note as full as the first.",
    mistake="Thinning out near the top.",
    load=Load.MEDIUM,
    serves=("range up", "sound"),
    judged=("pitch", "loudness_by_height", "tone_match_across"),
    grows="the top held, both ways; then higher keys",
    params=_one_params,
    make=_one_octave,
    alternates=True,
    bound=(by_loudness(),),
    advance=Advance.CLIMB,
    levels=_one_octave_levels,
    opens_at=Standard.BEGINNER,
    role=Role.NOTES_IN_LINE,
)
TWO_OCTAVE_SCALE = ExerciseType(
    id="two-octave-scale",
    name="Two-octave scales",
    place=DayPlace.REGISTER,
    purpose="Go from low to high in one growing line.",
    asks="Start medium and end loud. Keep the sound full.",
    listen_for="No thinning on the way up.",
    mistake="Getting softer as you go up.",
    load=Load.HIGH,
    serves=("range up", "sound"),
    judged=("loudness_by_height", "tone_match_across", "pitch"),
    grows="the top held, both ways, three octaves; the start follows your range",
    params=_two_params,
    make=_two_octaves,
    alternates=True,
    bound=(by_loudness(),),
    advance=Advance.CLIMB,
    levels=_two_octave_levels,
    opens_at=Standard.ADVANCED,
    begins=_begin_two_octaves,
)
FALLING_SCALE = ExerciseType(
    id="falling-scale",
    name="Falling scales",
    place=DayPlace.LOW,
    purpose="Keep the sound even as the fingerings change on the way down.",
    asks="Slur down an octave. Then play the next key lower.",
    listen_for="The same sound through every change.",
    mistake="A bump where the fingering changes.",
    load=Load.EASY,
    serves=("range down", "sound"),
    judged=("tone_match_across", "gap", "pitch"),
    grows="lower keys",
    params=_falling_params,
    make=_falling,
    alternates=True,
    advance=Advance.FALLING,
    levels=_falling_levels,
    opens_at=Standard.BEGINNER,
)
ROLL_AND_BREATHE = ExerciseType(
    id="roll-and-breathe",
    name="Rolling patterns",
    place=DayPlace.REGISTER,
    purpose="Let the corners work while the rim rests.",
    asks="Play the turning pattern. In the bar of rest breathe through the nose and keep the corners.",
    listen_for="The same sound after each rest.",
    mistake="Resetting the lips in the rest.",
    load=Load.MEDIUM,
    serves=("endurance",),
    judged=("timing", "pitch"),
    grows="more keys",
    params=_roll_params,
    make=_roll,
    alternates=True,
    levels=_roll_levels,
)
SCALES = (
    ONE_OCTAVE_SCALE,
    TWO_OCTAVE_SCALE,
    FALLING_SCALE,
    ROLL_AND_BREATHE,
)
