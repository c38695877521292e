"""Ladders: one semitone at a time, the next rung only when this one sounds as good as the last."""

from orexis.core.figures.build import FigureBuilder, in_range, middle_note, open_note, series_of
from orexis.core.figures.family import Begin, Bound, Family, StandsIn, on_slides
from orexis.core.figures.figure import Figure, Series
from orexis.core.figures.kinds import Advance, DayPlace, Load, Role
from orexis.core.figures.params import Param, Values, choice, count, note, tempo
from orexis.core.horn import Instrument, Tube, glide_ladder
from orexis.core.schools import Ask, Choice
from orexis.core.standards import Standard
from orexis.core.theory import Pitch, interval_name, pitch_of_midi
from orexis.errors import FigureError

BY_THE_GATE, TO_THE_LIMIT = "by the gate", "to today's limit"
_NO_CAP = 48  # semitones: further than any horn
_HOME_JUDGED = ("response", "pitch", "pitch_wobble", "attack", "tone_clarity")


def _step_params(horn: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First note", middle_note(horn)),
        choice("direction", "Direction", "up", "down"),
        count("rungs", "Rungs", 8, 1, 36),
        choice("forms", "Play each note", "a plain note", "plain, soft, loud, short, swelling, fading"),
        tempo(60),
    )


def _rungs(horn: Instrument, start: Pitch, count_: int, step: int) -> list[Pitch]:
    """Semitones from the start as far as the horn goes."""
    in_range(horn, start, what="The first note")
    midis = [start.midi + step * rung for rung in range(count_)]
    return [pitch_of_midi(midi) for midi in midis if horn.lowest.midi <= midi <= horn.highest.midi]


def _step_ladder(family: Family, horn: Instrument, values: Values) -> Series:
    step = 1 if values.choice("direction") == "up" else -1
    pitches = _rungs(horn, values.pitch("start"), values.integer("rungs"), step)
    plain = values.choice("forms") == "a plain note"
    figures = [_rung(family, horn, pitch, values.integer("tempo"), plain=plain) for pitch in pitches]
    return series_of(family, horn, figures)


def _rung(family: Family, horn: Instrument, pitch: Pitch, bpm: int, *, plain: bool) -> Figure:
    line = FigureBuilder(horn)
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
    return line.figure(family, pitch.name, "Rung", tempo=bpm)  # which one stands beside it, as its reader writes it


def _pair_params(horn: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First note", middle_note(horn)),
        choice("direction", "Direction", "up", "down"),
        count("widest", "Widest pair in semitones", 7, 1, 24),
        count("starts", "First notes, by semitones", 2, 1, 12),
        tempo(60),
    )


def _pair_ladder(family: Family, horn: Instrument, values: Values) -> Series:
    step = 1 if values.choice("direction") == "up" else -1
    start = in_range(horn, values.pitch("start"), what="The first note")
    widths = range(1, values.integer("widest") + 1)
    pairs = [
        (pitch_of_midi(start.midi + step * moved), pitch_of_midi(start.midi + step * (moved + width)), width)
        for moved in range(values.integer("starts"))
        for width in widths
        if horn.lowest.midi <= start.midi + step * (moved + width) <= horn.highest.midi
    ]
    up = "up" if step > 0 else "down"
    return series_of(family, horn, [_pair(family, horn, pair, up, values.integer("tempo")) for pair in pairs])


def _pair(family: Family, horn: Instrument, pair: tuple[Pitch, Pitch, int], up: str, bpm: int) -> Figure:
    """Return the exercise of a pair: joined, then each note by itself."""
    start, other, width = pair
    line = FigureBuilder(horn).note(start, 2.0, text="joined").note(other, 2.0, slurred=True).rest(4.0)
    line.note(start, 2.0, text="apart").note(other, 2.0)
    return line.figure(family, f"{width}-{start.name}", f"Pair, {interval_name(width)} {up}", tempo=bpm)


def _glide_params(horn: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First note", open_note(horn, horn.middle_partial)),
        count("rungs", "Rungs", 6, 1, 24),
        count("beats", "Beats for the glissando", 6, 3, 16),
        choice("after", "On the new note", "long tones", "nothing more"),
        tempo(60),
    )


def _glide(family: Family, horn: Instrument, values: Values) -> Series:
    """Each rung: hold, glide in to the next semitone on one partial, hold; then the new note soft, medium, loud."""
    bpm, beats = values.integer("tempo"), values.integer("beats")
    steps = glide_ladder(horn, values.pitch("start"), values.integer("rungs"))
    if not steps:
        raise FigureError("No position from which sliding in gives the next semitone: choose another first note.")
    figures = []
    for step in steps:
        line = FigureBuilder(horn).slot(step.start, step.partial, 4.0 + beats, text="hold, then in")
        line.slot(step.end, step.partial, 4.0, slurred=True, glide_beats=float(beats))
        name = f"{step.pitch.name}-{step.partial}"
        title = f"Glissando on partial {step.partial}, {step.start.label} to {step.end.label}"
        figures.append(line.figure(family, name, title, tempo=bpm, judged=("level_wobble", "gap", "tone_match_across")))
        if values.choice("after") == "long tones":
            line = FigureBuilder(horn)
            for dynamic in ("p", "mf", "f"):
                line.note(pitch_of_midi(step.pitch.midi + 1), 6.0, dynamic=dynamic).rest(2.0)
            title = "The new note, soft, medium, loud"
            figures.append(line.figure(family, f"{name}-tones", title, tempo=bpm))
    return series_of(family, horn, figures)


def _fan_params(horn: Instrument) -> tuple[Param, ...]:
    return (
        count("partial", "Partial", horn.middle_partial, 2, horn.top_partial),
        count("from", "From position", 6, 3, 7),
        tempo(60),
    )


def _fan(family: Family, horn: Instrument, values: Values) -> Series:
    """Each glide and its way back is a figure of its own, on one breath."""
    partial, outer = values.integer("partial"), values.integer("from")
    figures = []
    for inward in range(1, outer):
        line = FigureBuilder(horn).slot(Tube(position=outer), partial, 2.0, text=f"in {inward} and back")
        line.slot(Tube(position=outer - inward), partial, 2.0, slurred=True, glide_beats=1.0)
        line.slot(Tube(position=outer), partial, 3.0, slurred=True, glide_beats=1.0)
        name = f"{partial}-{outer}-{outer - inward}"
        title = f"Partial {partial}, {outer} to {outer - inward} and back"
        figures.append(line.figure(family, name, title, tempo=values.integer("tempo")))
    return series_of(family, horn, figures)


def _triad_params(horn: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First root", open_note(horn, horn.slur_partial + 1)),
        note("reset", "Low note between", horn.easy),
        count("rungs", "Roots", 8, 1, 24),
        choice("climb", "How far", BY_THE_GATE, TO_THE_LIMIT),
        tempo(66),
    )


def _triads(family: Family, horn: Instrument, values: Values) -> Series:
    """By the gate, a triad and its low note are one rung. To the limit nobody caps them, and they take turns: the low note is
    judged by itself before the next triad.
    """
    reset, bpm = in_range(horn, values.pitch("reset"), what="The low note between"), values.integer("tempo")
    limit = values.choice("climb") == TO_THE_LIMIT
    rungs = _rungs(horn, values.pitch("start"), _NO_CAP if limit else values.integer("rungs"), 1)
    figures = []
    for root in rungs:
        if root.midi + 7 > horn.highest.midi:
            break
        line = FigureBuilder(horn).note(root, 2.0, dynamic="mf")
        line.note(pitch_of_midi(root.midi + 4), 2.0, slurred=True)
        line.note(pitch_of_midi(root.midi + 7), 4.0, slurred=True, shape="swell")
        if limit:
            figures.append(line.figure(family, root.name, "Triad, growing", tempo=bpm))
            figures.append(_home(family, horn, reset, root, bpm))
            continue
        line.rest(4.0).note(reset, 4.0).rest(4.0)
        line.note(reset, 4.0, text="again")
        hint = "The low note starts on the breath; again, until it is centred."
        figures.append(line.figure(family, root.name, "Triad, then the low note", tempo=bpm, hint=hint))
    return series_of(family, horn, figures, advance=Advance.LIMIT if limit else Advance.CLIMB)


def _home(family: Family, horn: Instrument, reset: Pitch, root: Pitch, bpm: int) -> Figure:
    """The low note after a triad."""
    return (
        FigureBuilder(horn)
        .note(reset, 4.0)
        .figure(
            family,
            f"{root.name}-home",
            "Low note, home again",
            tempo=bpm,
            judged=_HOME_JUDGED,
            hint="On the breath; it is played again until it is centred and clean.",
        )
    )


def _cold_params(horn: Instrument) -> tuple[Param, ...]:
    return (
        note("highest", "Highest note", min(open_note(horn, 2 * horn.middle_partial), horn.highest, key=_height)),
        count("notes", "Notes", 3, 1, 8),
        tempo(60),
    )


def _height(pitch: Pitch) -> int:
    return pitch.midi


def _cold(family: Family, horn: Instrument, values: Values) -> Series:
    """The top notes one by one out of a long silence, the lowest of them first."""
    top = in_range(horn, values.pitch("highest"), what="The highest note")
    figures = []
    for below in reversed(range(values.integer("notes"))):
        pitch = pitch_of_midi(top.midi - 2 * below)
        line = FigureBuilder(horn).rest(4.0).note(pitch, 2.0).to_bar()
        figures.append(line.figure(family, pitch.name, "From silence", tempo=values.integer("tempo")))
    return series_of(family, horn, figures)


def _begin_climb(begin: Begin) -> dict[str, str]:
    if begin.next_up is None:
        return {}
    start = begin.name(min(begin.next_up, begin.horn.highest.midi - 1))
    return {"start": start, "rungs": "4" if begin.standard == Standard.BEGINNER else "6"}


def _begin_pairs(begin: Begin) -> dict[str, str]:
    return {} if begin.top_alone is None else {"start": begin.name(begin.top_alone - 7)}


def _begin_triads(begin: Begin) -> dict[str, str]:
    """Two triads inside what is had in a line."""
    return {} if begin.top_in_line is None else {"start": begin.name(begin.top_in_line - 7 - 2)}


def _begin_top(begin: Begin) -> dict[str, str]:
    return {} if begin.top_alone is None else {"highest": begin.name(begin.top_alone)}


STEP_LADDER = Family(
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
    ways=True,
    placed="start",
    advance=Advance.CLIMB,
    role=Role.SINGLE_NOTES,
    begins=_begin_climb,
)
PAIR_LADDER = Family(
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
    grows="a wider pair, then a new start",
    params=_pair_params,
    make=_pair_ladder,
    ways=True,
    advance=Advance.PAIRS,
    begins=_begin_pairs,
)
GLIDE_LADDER = Family(
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
    click=False,
    suits=on_slides,
)
GLIDE_FAN = Family(
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
    click=False,
    suits=on_slides,
    opens_at=Standard.ADVANCED,
)
TRIAD_WITH_RESET = Family(
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
    ways=True,
    bound=(Bound(Ask.CLIMBING, {Choice.TO_TODAYS_LIMIT: {"climb": TO_THE_LIMIT}}),),
    stands_in=StandsIn(Ask.CLIMBING, Choice.TO_TODAYS_LIMIT, STEP_LADDER.id),
    advance=Advance.CLIMB,
    opens_at=Standard.ADVANCED,
    begins=_begin_triads,
)
TOP_NOTE_COLD = Family(
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
    ways=True,
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
