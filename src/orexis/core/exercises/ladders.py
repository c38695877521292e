"""Ladders: one semitone at a time, the next note only when this one sounds as good as the last."""

from collections.abc import Iterable

from orexis.core.approaches import Ask, Choice
from orexis.core.exercises.build import ExerciseBuilder, in_range, middle_note, open_note, series_of
from orexis.core.exercises.exercise import Exercise, Series
from orexis.core.exercises.exercise_type import Begin, Bound, ExerciseType, StandsIn, on_slides
from orexis.core.exercises.kinds import Advance, DayPlace, Load, Role
from orexis.core.exercises.levels import PathStep, level, with_article
from orexis.core.exercises.params import Param, Values, choice, count, note, tempo
from orexis.core.instruments import Fingering, Instrument, glide_ladder, slot_of
from orexis.core.messages import tell
from orexis.core.standards import Standard
from orexis.core.theory import Pitch, interval_name, pitch_of_midi
from orexis.errors import ExerciseError

BY_THE_GATE, TO_THE_LIMIT = "by the gate", "to today's limit"
_OUT_OF_TUNE = (7, 11)  # no note of the scale lies on these partials
_BOTH = "up and down"
_NO_CAP = 48  # semitones: further than any instrument
_HOME_JUDGED = ("response", "pitch", "pitch_wobble", "attack", "tone_clarity")


def _step_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First note", middle_note(instrument)),
        choice("direction", "Direction", "up", "down"),
        count("steps", "Steps", 8, 1, 36),
        choice("forms", "Play each note", "a plain note", "plain, soft, loud, short, swelling, fading"),
        tempo(60),
    )


def _pitches_of_steps(instrument: Instrument, start: Pitch, count_: int, step: int) -> list[Pitch]:
    """Semitones from the start as far as the instrument goes."""
    in_range(instrument, start, what="The first note")
    midis = [start.midi + step * range_note for range_note in range(count_)]
    return [pitch_of_midi(midi) for midi in midis if instrument.lowest.midi <= midi <= instrument.highest.midi]


def _step_ladder(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    step = 1 if values.choice("direction") == "up" else -1
    pitches = _pitches_of_steps(instrument, values.pitch("start"), values.integer("steps"), step)
    plain = values.choice("forms") == "a plain note"
    exercises = [
        _range_note(exercise_type, instrument, pitch, values.integer("tempo"), plain=plain) for pitch in pitches
    ]
    return series_of(exercise_type, instrument, exercises)


def _range_note(
    exercise_type: ExerciseType, instrument: Instrument, pitch: Pitch, bpm: int, *, plain: bool
) -> Exercise:
    line = ExerciseBuilder(instrument)
    if plain:
        line.note(pitch, 4.0)
    else:
        for text, dynamic, shape in (
            ("plain", "mf", "steady"), ("soft", "p", "steady"), ("loud", "f", "steady"),
            ("swelling", "p", "swell"), ("fading", "f", "fade"),
        ):  # fmt: skip
            line.note(pitch, 4.0, text=text, dynamic=dynamic, shape=shape).rest(4.0)
        for place in range(4):
            line.note(pitch, 0.5, text="short" if place == 0 else None, dynamic="mf" if place == 0 else None).rest(0.5)
    return line.exercise(
        exercise_type, pitch.name, "Single note", tempo=bpm
    )  # which one stands beside it, as its reader writes it


def _pair_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First note", middle_note(instrument)),
        choice("direction", "Direction", "up", "down", _BOTH),
        count("widest", "Widest pair in semitones", 7, 1, 24),
        count("starts", "First notes, by semitones", 2, 1, 12),
        tempo(60),
    )


def _pair_ladder(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    """Wider and wider; both ways, each width goes up and then down before the next."""
    direction = values.choice("direction")
    steps = {"up": (1,), "down": (-1,), _BOTH: (1, -1)}[direction]
    first = in_range(instrument, values.pitch("start"), what="The first note")
    pairs = [
        (first.midi + step * moved, step * width)
        for moved in range(values.integer("starts"))
        for width in range(1, values.integer("widest") + 1)
        for step in steps
        if instrument.lowest.midi <= first.midi + step * (moved + width) <= instrument.highest.midi
    ]
    bpm = values.integer("tempo")
    return series_of(exercise_type, instrument, [_pair(exercise_type, instrument, *pair, bpm) for pair in pairs])


def _pair(exercise_type: ExerciseType, instrument: Instrument, midi: int, by: int, bpm: int) -> Exercise:
    """Return the exercise of a pair: joined, then each note by itself. `by`: semitones to the other note."""
    start, other = pitch_of_midi(midi), pitch_of_midi(midi + by)
    line = ExerciseBuilder(instrument).note(start, 2.0, text="joined").note(other, 2.0, slurred=True).rest(4.0)
    line.note(start, 2.0, text="apart").note(other, 2.0)
    return line.exercise(
        exercise_type,
        f"{abs(by)}-{'' if by > 0 else 'down-'}{start.name}",
        tell("Pair, {interval_name} {up}", interval_name=interval_name(abs(by)), up="up" if by > 0 else "down"),
        tempo=bpm,
    )


def _pair_levels(_instrument: Instrument) -> Iterable[PathStep]:
    """From the same note up, down, both ways; then wider."""
    for direction, widest in (("up", 7), ("down", 7), (_BOTH, 7), (_BOTH, 12)):
        wide = tell(
            "{direction}, to {with_article}", direction=direction, with_article=with_article(interval_name(widest))
        )
        yield level(wide, direction=direction, widest=widest, starts=1 if direction == _BOTH else 2)


def _glide_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First note", open_note(instrument, instrument.middle_partial)),
        count("steps", "Steps", 6, 1, 24),
        count("beats", "Beats for the glissando", 6, 3, 16),
        choice("after", "On the new note", "long tones", "nothing more"),
        tempo(60),
    )


def _glide(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    """Each note: hold, glide in to the next semitone on one partial, hold; then the new note soft, medium, loud."""
    bpm, beats = values.integer("tempo"), values.integer("beats")
    steps = glide_ladder(instrument, values.pitch("start"), values.integer("steps"))
    if not steps:
        raise ExerciseError("No position from which sliding in gives the next semitone: choose another first note.")
    exercises = []
    for step in steps:
        line = ExerciseBuilder(instrument).slot(step.start, step.partial, 4.0 + beats, text="hold, then in")
        line.slot(step.end, step.partial, 4.0, slurred=True, glide_beats=float(beats))
        name = f"{step.pitch.name}-{step.partial}"
        title = tell(
            "Glissando on partial {partial}, {start} to {end}",
            partial=step.partial,
            start=step.start.label,
            end=step.end.label,
        )
        exercises.append(
            line.exercise(exercise_type, name, title, tempo=bpm, judged=("level_wobble", "gap", "tone_match_across"))
        )
        if values.choice("after") == "long tones":
            line = ExerciseBuilder(instrument)
            for dynamic in ("p", "mf", "f"):
                line.note(pitch_of_midi(step.pitch.midi + 1), 6.0, dynamic=dynamic).rest(2.0)
            title = "The new note, soft, medium, loud"
            exercises.append(line.exercise(exercise_type, f"{name}-tones", title, tempo=bpm))
    return series_of(exercise_type, instrument, exercises)


def _fan_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        count("partial", "Partial", instrument.middle_partial, 2, instrument.top_partial),
        count("from", "From position", 6, 3, 7),
        tempo(60),
    )


def _fan(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    """Each glide and its way back is an exercise of its own, on one breath."""
    partial, outer = values.integer("partial"), values.integer("from")
    exercises = []
    for inward in range(1, outer):
        line = ExerciseBuilder(instrument).slot(
            Fingering(position=outer), partial, 2.0, text=tell("in {inward} and back", inward=inward)
        )
        line.slot(Fingering(position=outer - inward), partial, 2.0, slurred=True, glide_beats=1.0)
        line.slot(Fingering(position=outer), partial, 3.0, slurred=True, glide_beats=1.0)
        name = f"{partial}-{outer}-{outer - inward}"
        title = tell(
            "Partial {partial}, {outer} to {outer2} and back", partial=partial, outer=outer, outer2=outer - inward
        )
        exercises.append(line.exercise(exercise_type, name, title, tempo=values.integer("tempo")))
    return series_of(exercise_type, instrument, exercises)


def _triad_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First root", open_note(instrument, instrument.slur_partial + 1)),
        note("reset", "Low note between", instrument.easy),
        count("steps", "Roots", 8, 1, 24),
        choice("climb", "How far", BY_THE_GATE, TO_THE_LIMIT),
        tempo(66),
    )


def _triads(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    """By the gate, a triad and its low note are one note. To the limit nobody caps them, and they take turns: the low note is
    judged by itself before the next triad.
    """
    reset, bpm = in_range(instrument, values.pitch("reset"), what="The low note between"), values.integer("tempo")
    limit = values.choice("climb") == TO_THE_LIMIT
    roots = _pitches_of_steps(instrument, values.pitch("start"), _NO_CAP if limit else values.integer("steps"), 1)
    exercises = []
    for root in roots:
        if root.midi + 7 > instrument.highest.midi:
            break
        line = ExerciseBuilder(instrument).note(root, 2.0, dynamic="mf")
        line.note(pitch_of_midi(root.midi + 4), 2.0, slurred=True)
        line.note(pitch_of_midi(root.midi + 7), 4.0, slurred=True, shape="swell")
        if limit:
            exercises.append(line.exercise(exercise_type, root.name, "Triad, growing", tempo=bpm))
            exercises.append(_home(exercise_type, instrument, reset, root, bpm))
            continue
        line.rest(4.0).note(reset, 4.0).rest(4.0)
        line.note(reset, 4.0, text="again")
        hint = "The low note starts on the breath; again, until it is centred."
        exercises.append(line.exercise(exercise_type, root.name, "Triad, then the low note", tempo=bpm, hint=hint))
    return series_of(exercise_type, instrument, exercises, advance=Advance.LIMIT if limit else Advance.CLIMB)


def _home(exercise_type: ExerciseType, instrument: Instrument, reset: Pitch, root: Pitch, bpm: int) -> Exercise:
    """The low note after a triad."""
    return (
        ExerciseBuilder(instrument)
        .note(reset, 4.0)
        .exercise(
            exercise_type,
            f"{root.name}-home",
            "Low note, home again",
            tempo=bpm,
            judged=_HOME_JUDGED,
            hint="On the breath; it is played again until it is centred and clean.",
        )
    )


def _cold_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        note(
            "highest",
            "Highest note",
            min(open_note(instrument, 2 * instrument.middle_partial), instrument.highest, key=_height),
        ),
        count("notes", "Notes", 3, 1, 8),
        tempo(60),
    )


def _height(pitch: Pitch) -> int:
    return pitch.midi


def _cold(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    """The top notes one by one out of a long silence, the lowest of them first."""
    top = in_range(instrument, values.pitch("highest"), what="The highest note")
    exercises = []
    for below in reversed(range(values.integer("notes"))):
        pitch = pitch_of_midi(top.midi - 2 * below)
        line = ExerciseBuilder(instrument).rest(4.0).note(pitch, 2.0).to_bar()
        exercises.append(line.exercise(exercise_type, pitch.name, "From silence", tempo=values.integer("tempo")))
    return series_of(exercise_type, instrument, exercises)


def _begin_climb(begin: Begin) -> dict[str, str]:
    if begin.next_up is None:
        return {}
    start = begin.name(min(begin.next_up, begin.instrument.highest.midi - 1))
    return {"start": start, "steps": "4" if begin.standard == Standard.BEGINNER else "6"}


def _begin_pairs(begin: Begin) -> dict[str, str]:
    return {} if begin.top_alone is None else {"start": begin.name(begin.top_alone - 7)}


def _begin_glides(begin: Begin) -> dict[str, str]:
    """A third inside what is had alone, on a note from which a semitone can be slid in to."""
    if begin.top_alone is None:
        return {}
    top = begin.instrument.highest.midi - 1
    for midi in range(min(begin.top_alone - 4, top), begin.instrument.lowest.midi, -1):
        if glide_ladder(begin.instrument, pitch_of_midi(midi), 1):
            return {"start": begin.name(midi)}
    return {}


def _begin_fan(begin: Begin) -> dict[str, str]:
    """The highest partial that is had in a line with the slide in, so that all of the fan lies inside the range."""
    if begin.top_in_line is None:
        return {}
    partials = [partial for partial in range(2, begin.instrument.top_partial + 1) if partial not in _OUT_OF_TUNE]
    had = [
        partial
        for partial in partials
        if slot_of(begin.instrument, Fingering(position=1), partial).pitch.midi <= begin.top_in_line
    ]
    return {"partial": str(max(had))} if had else {}


def _begin_triads(begin: Begin) -> dict[str, str]:
    """Two triads inside what is had in a line."""
    return {} if begin.top_in_line is None else {"start": begin.name(begin.top_in_line - 7 - 2)}


def _begin_top(begin: Begin) -> dict[str, str]:
    return {} if begin.top_alone is None else {"highest": begin.name(begin.top_alone)}


STEP_LADDER = ExerciseType(
    id="step-ladder",
    name="Semitone ladder",
    place=DayPlace.REGISTER,
    purpose="Grow your range a semitone at a time.",
    asks="Continue only while each note sounds as good as the last.",
    listen_for="As full and easy as the note before.",
    mistake="Chasing the next note when this one isn't good yet.",
    load=Load.HIGH,
    serves=("range up", "range down"),
    judged=("tone_match", "pitch", "pitch_wobble"),
    grows="the next note",
    params=_step_params,
    make=_step_ladder,
    alternates=True,
    placed="start",
    advance=Advance.CLIMB,
    role=Role.SINGLE_NOTES,
    begins=_begin_climb,
)
PAIR_LADDER = ExerciseType(
    id="pair-ladder",
    name="Pairs",
    place=DayPlace.REGISTER,
    purpose="Join a new note to a safe one, then play both on their own.",
    asks="Slur the two notes, then play each alone.",
    listen_for="The same sound on both notes.",
    mistake="A thinner sound on the new note.",
    load=Load.HIGH,
    serves=("range up", "range down"),
    judged=("tone_match_across", "gap", "pitch"),
    grows="down, both ways, wider; the start follows your range",
    params=_pair_params,
    make=_pair_ladder,
    alternates=True,
    advance=Advance.PAIRS,
    levels=_pair_levels,
    begins=_begin_pairs,
)
GLIDE_LADDER = ExerciseType(
    id="glide-ladder",
    name="Glissando ladder",
    place=DayPlace.REGISTER,
    purpose="Let the slide find a higher note while the lips do nothing.",
    asks="Hold, move the slide very slowly, hold. Take all the time you need.",
    listen_for="Breath and lips stay the same.",
    mistake="Squeezing as the slide comes in.",
    load=Load.MEDIUM,
    serves=("range up", "sound"),
    judged=("level_wobble", "tone_match", "pitch"),
    grows="the next note",
    params=_glide_params,
    make=_glide,
    advance=Advance.CLIMB,
    begins=_begin_glides,
    click=False,
    suits=on_slides,
)
GLIDE_FAN = ExerciseType(
    id="glide-fan",
    name="Glissando fan",
    place=DayPlace.REGISTER,
    purpose="Slide from an outer position in by one, by two, by three and back.",
    asks="Take a breath for each glissando. Keep the sound even.",
    listen_for="One sound from end to end.",
    mistake="Rushing the last bit.",
    load=Load.MEDIUM,
    serves=("sound", "flexibility"),
    judged=("level_wobble", "gap", "tone_match_across"),
    grows="the starting note",
    params=_fan_params,
    make=_fan,
    advance=Advance.FAN,
    begins=_begin_fan,
    click=False,
    suits=on_slides,
    opens_at=Standard.ADVANCED,
)
TRIAD_WITH_RESET = ExerciseType(
    id="triad-with-reset",
    name="Triads",
    place=DayPlace.REGISTER,
    purpose="Grow to the top of a triad, then come back to an easy low note.",
    asks="Half note, half note, whole note, getting louder. Start the low note with the breath.",
    listen_for="The low note stays clean.",
    mistake="Going on when the low note gets rough.",
    load=Load.HIGH,
    serves=("range up", "endurance"),
    judged=("pitch", "gap"),
    grows="the root",
    params=_triad_params,
    make=_triads,
    alternates=True,
    bound=(Bound(Ask.CLIMBING, {Choice.TO_TODAYS_LIMIT: {"climb": TO_THE_LIMIT}}),),
    stands_in=StandsIn(Ask.CLIMBING, Choice.TO_TODAYS_LIMIT, STEP_LADDER.id),
    advance=Advance.CLIMB,
    opens_at=Standard.ADVANCED,
    begins=_begin_triads,
)
TOP_NOTE_COLD = ExerciseType(
    id="top-note-cold",
    name="Cold top notes",
    place=DayPlace.REGISTER,
    purpose="Start a high note from silence, as in music.",
    asks="Hear the note first. Start once, on pitch.",
    listen_for="A clean start on the right note.",
    mistake="Hunting for the note from below.",
    load=Load.HIGH,
    serves=("range up",),
    judged=("splits", "attack", "pitch"),
    grows="higher",
    params=_cold_params,
    make=_cold,
    alternates=True,
    opens_at=Standard.PROFESSIONAL,
    begins=_begin_top,
)
LADDERS = (
    STEP_LADDER,
    PAIR_LADDER,
    GLIDE_LADDER,
    GLIDE_FAN,
    TRIAD_WITH_RESET,
    TOP_NOTE_COLD,
)
