"""Pedals: down to the first partial, held there, and below it for recovery."""

from collections.abc import Iterable

from orexis.core.figures.build import FigureBuilder, series_of
from orexis.core.figures.family import Bound, Family
from orexis.core.figures.figure import Figure, Need, Series
from orexis.core.figures.kinds import Advance, AimKind, DayPlace, Load, Loudness
from orexis.core.figures.levels import PathStep, level
from orexis.core.figures.params import Param, Values, choice, count, note, tempo, tubes
from orexis.core.horn import Instrument, has_slot, lowest_pedal, pedal_slots, pedal_way, seven_tubes, slot_of
from orexis.core.schools import Ask, Choice
from orexis.core.standards import Standard
from orexis.core.theory import Pitch, pitch_of_midi
from orexis.errors import FigureError

_SET_NOTES = 20
MOST_PITCHES, SETS_OF_A_FURTHER_PITCH = 3, 2
_RISE_DB = 3.0  # from the first half of a set to its end


def _to_pedal_params(horn: Instrument) -> tuple[Param, ...]:
    return (
        count("partial", "From partial", 4, 2, 8),
        tubes(),
        count("beats", "Beats on the pedal tone", 6, 2, 16),
        tempo(60),
    )


def _to_the_pedal(family: Family, horn: Instrument, values: Values) -> Series:
    top, beats = values.integer("partial"), values.integer("beats")
    figures = []
    for tube in values.tubes("tube"):
        line = FigureBuilder(horn)
        for place, partial in enumerate(range(top, 1, -1)):
            line.slot(tube, partial, 1.0, slurred=place > 0)
        line.slot(tube, 1, float(beats), slurred=True, to_breath_end=True, dynamic="f", text="same lips")
        name = f"{top}-{tube.label.replace(' ', '')}"
        figures.append(
            line.figure(
                family, name, "Down to the pedal tone", tempo=values.integer("tempo"), dynamic="mp", hold_share=0.75
            )
        )
    return series_of(family, horn, figures)


def _sets_params(horn: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "Pedal", _first_pedal(horn)),
        count("sets", "Sets", 2, 1, 5),
        count("notes", "Notes in a set", _SET_NOTES, 4, 40),
        count("beats", "Beats to hold, at least", 6, 2, 20),
        count("rest", "Minutes between sets", 4, 3, 5),
        count("pitches", "Pitches, a semitone down each", 1, 1, MOST_PITCHES),
        count("pause", "Minutes between pitches", 12, 10, 15),
        tempo(60),
    )


def _first_pedal(horn: Instrument) -> Pitch:
    """A pedal in the middle of what the horn has: the longest tubes come later."""
    slots = pedal_slots(horn)
    return slots[min(3, len(slots) - 1)].pitch


def pedal_starts(horn: Instrument) -> tuple[Pitch, ...]:
    """Pitches of pedal sets in the order in which they are worked on: from the first one down to the deepest pedal of the longest
    tubing, all valves included, or to where the player shifts. Notes that no tubing has are left out.
    """
    first = _first_pedal(horn)
    pitches = [pitch_of_midi(midi) for midi in range(first.midi, lowest_pedal(horn).midi - 1, -1)]
    return tuple(p for p in pitches if has_slot(horn, p) and not _is_below_the_shift(horn, p)) or (first,)


def _pedal_sets(family: Family, horn: Instrument, values: Values) -> Series:
    """All sets of the first pitch, then two of each further one a semitone lower, with a long pause before it."""
    first = values.pitch("start")
    if not has_slot(horn, first) or first.midi > slot_of(horn, seven_tubes(horn)[0], 1).pitch.midi + 12:
        raise FigureError(
            f"{first.name} (concert) is no pedal tone of the {horn.name}: it goes down to {lowest_pedal(horn).name}."
        )
    if _is_below_the_shift(horn, first):
        assert horn.setup.shifts_at is not None
        raise FigureError(
            f"You said that {horn.setup.shifts_at.name} (concert) needs a shift of the lips: no sets below it until it "
            "does not. Take that back under Instrument."
        )
    figures: list[Figure] = []
    pauses: list[int] = []
    for down in range(values.integer("pitches")):
        pitch = pitch_of_midi(first.midi - down)
        if down and (not has_slot(horn, pitch) or _is_below_the_shift(horn, pitch)):
            break
        pauses += [len(figures)] if down else []
        sets = range(values.integer("sets") if down == 0 else min(values.integer("sets"), SETS_OF_A_FURTHER_PITCH))
        figures += [_set(family, horn, pitch, number, values) for number in sets]
    return series_of(
        family,
        horn,
        figures,
        rest_s=60.0 * values.integer("rest"),
        pauses=tuple(pauses),
        pause_s=60.0 * values.integer("pause"),
    )


def _set(family: Family, horn: Instrument, pitch: Pitch, number_of_set: int, values: Values) -> Figure:
    """Twenty long notes, the second half each a little louder; by valves rather than with a long arm."""
    number, beats = values.integer("notes"), values.integer("beats")
    line, way = FigureBuilder(horn), pedal_way(horn, pitch)
    for place in range(number):
        if place and place % 5 == 0:
            line.phrase()
        text = "louder each" if place == number // 2 else None
        dynamic = {number // 2: "mf", number - 1: "f"}.get(place)
        line.laid(pitch, float(beats), way, to_breath_end=True, text=text, dynamic=dynamic).rest(2.0)
    return line.figure(
        family,
        f"{pitch.name}-{number_of_set + 1}",
        f"Pedal set {number_of_set + 1}, {number} notes",
        tempo=values.integer("tempo"),
        hold_share=0.6,
        loudness=Loudness.GROW,
        needs=(Need("rise", least=_RISE_DB),),
        hint="Every note starts on the breath and lasts as long as it can.",
    )


def _is_below_the_shift(horn: Instrument, pitch: Pitch) -> bool:
    return horn.setup.shifts_at is not None and pitch.midi < horn.setup.shifts_at.midi


def _loose_params(horn: Instrument) -> tuple[Param, ...]:
    return (
        note("start", "First note", pedal_slots(horn)[0].pitch),
        count("steps", "Semitones down", 8, 1, 17),
        choice("join", "Down by", "steps", "a glide"),
        tempo(60),
    )


def _loose(family: Family, horn: Instrument, values: Values) -> Series:
    start, glide = values.pitch("start"), values.choice("join") == "a glide"
    line = FigureBuilder(horn)
    for step in range(values.integer("steps") + 1):
        pitch = pitch_of_midi(start.midi - step)
        if glide:
            line.note(pitch, 1.0, free=True, slurred=step > 0, glide_beats=0.8 if step else 0.0)
        else:
            line.note(pitch, 2.0, free=True)
    line.to_bar()
    figure = line.figure(
        family,
        start.name,
        "Free pedal tones",
        tempo=values.integer("tempo"),
        dynamic="p",
        hint="Lips free; whatever comes is right.",
    )
    return series_of(family, horn, [figure])


def _to_the_pedal_levels(horn: Instrument) -> Iterable[PathStep]:
    for tube, say in (("few", "three fingerings"), ("all", "all fingerings")):
        for beats in (4, 6, 8, 12, 16):
            yield level(f"{beats} beats on the pedal, {say}", beats=beats, tube=tube)


def _pedal_set_levels(horn: Instrument) -> Iterable[PathStep]:
    for pitch in pedal_starts(horn):
        yield level(f"on {pitch.name} (concert)", start=pitch.name)


TO_THE_PEDAL = Family(
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
PEDAL_SETS = Family(
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
    leads_to={AimKind.PEDALS: None},
)
LOOSE_PEDALS = Family(
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
