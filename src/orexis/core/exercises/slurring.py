"""Slurs between partials of one fingering: two, many, wide, fast."""

from collections.abc import Callable
from functools import partial

from orexis.core.approaches import Ask, Choice
from orexis.core.exercises.build import ExerciseBuilder, by_height, series_of, top_checked
from orexis.core.exercises.exercise import PassRequirement, Series
from orexis.core.exercises.exercise_type import Bound, ExerciseType, by_loudness
from orexis.core.exercises.kinds import Advance, DayPlace, GoalKind, Load
from orexis.core.exercises.levels import PathStep
from orexis.core.exercises.params import Param, Values, choice, count, fingerings, going_up, tempo
from orexis.core.exercises.slur_levels import (
    FROM_BELOW,
    FROM_TOP,
    add_one_levels,
    chain_levels,
    octave_down_levels,
    trill_levels,
    two_partial_levels,
    wide_slur_levels,
)
from orexis.core.instruments import Fingering, Instrument
from orexis.core.messages import tell
from orexis.core.standards import Standard
from orexis.errors import ExerciseError

_CLEAN = ("gap", "clipped_partial", "pitch", "attack", "timing")
# So much of the written rate is asked.
_TRILL_SHARE = 0.85
_PULSE_DB = 1.2  # the least pulse of air on a beat that was asked for
_RHYTHMS = {"halves": 2.0, "eighths": 0.5, "triplets": 1.0 / 3.0, "sixteenths": 0.25}


def _on_fingerings(
    exercise_type: ExerciseType,
    instrument: Instrument,
    values: Values,
    name: str,
    title: str,
    lay: Callable[[ExerciseBuilder, Fingering], object],
) -> Series:
    """One exercise a fingering, laid by the rule, loud and soft by the height."""
    exercises = []
    for fingering in values.fingerings("fingering"):
        line = ExerciseBuilder(instrument)
        lay(line, fingering)
        label = fingering.label.replace(" ", "")
        asked = by_height(line, values)
        exercises.append(line.exercise(exercise_type, f"{name}-{label}", title, tempo=values.integer("tempo"), **asked))
    return series_of(exercise_type, instrument, exercises)


def _two_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        count("partial", "Lower partial", instrument.slur_partial, 1, instrument.top_partial - 1),
        fingerings(),
        choice("rhythm", "Rhythm", "halves", "eighths", "triplets", "sixteenths"),
        choice("direction", "Direction", FROM_TOP, FROM_BELOW, "down", "up"),
        choice("air", "Air", "steady", "pulsed"),
        going_up(),
        tempo(72, 40, 160),
    )


def _two(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    low, rhythm, pulsed = values.integer("partial"), values.choice("rhythm"), values.choice("air") == "pulsed"
    top_checked(instrument, low + 1)
    direction = values.choice("direction")
    first, other = (low + 1, low) if direction in (FROM_TOP, "down") else (low, low + 1)
    beats, one_way = _RHYTHMS[rhythm], direction in ("down", "up")

    def lay(line: ExerciseBuilder, fingering: Fingering) -> None:
        hint = "pulse each beat" if pulsed else None
        if one_way:  # three slurs, each begun with the tongue
            for turn in range(3):
                line.slot(fingering, first, beats, text=None if turn else hint)
                line.slot(fingering, other, line.left_in_bar(least=2.0) if turn == 2 else beats, slurred=True)
            return
        for turn in range(round(4.0 / beats)):
            line.slot(fingering, other if turn % 2 else first, beats, slurred=turn > 0, text=None if turn else hint)
        line.slot(fingering, first, 4.0, slurred=True)

    title = (
        tell("Lip slur {direction}, partials {low} to {low2}", direction=direction, low=first, low2=other)
        if one_way
        else tell("Lip slur, partials {low} and {low2}", low=first, low2=other)
    )
    name = f"{low}-{low + 1}"
    return _on_fingerings(
        exercise_type,
        instrument,
        values,
        name if direction == FROM_TOP else f"{name}-{direction.replace(' ', '-')}",
        title,
        lay,
    )


def _chain_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        count("partial", "Lowest partial", instrument.slur_partial + 1, 2, instrument.top_partial - 2),
        count("count", "Partials", 3, 3, 7),
        choice("direction", "Direction", FROM_BELOW, FROM_TOP),
        fingerings(),
        going_up(),
        tempo(80),
    )


def _octave_down_params(instrument: Instrument) -> tuple[Param, ...]:
    low = max(2, (instrument.slur_partial + 2) // 2)
    return (
        count("partial", "Lowest partial", low, 2, instrument.top_partial - 2),
        count("count", "Partials", 3, 3, 5),
        fingerings(),
        going_up(),
        tempo(60, 40, 120),
    )


def _chain(exercise_type: ExerciseType, instrument: Instrument, values: Values, *, beats: float = 0.5) -> Series:
    low, size = values.integer("partial"), values.integer("count")
    top_checked(instrument, low + size - 1)
    high = low + size - 1
    from_top = values.has("direction") and values.choice("direction") == FROM_TOP
    first, last, step = (high, low, -1) if from_top else (low, high, 1)

    def lay(line: ExerciseBuilder, fingering: Fingering) -> None:
        for place, number in enumerate([*range(first, last, step), *range(last, first, -step)]):
            line.slot(fingering, number, beats, slurred=place > 0)
        line.slot(fingering, first, line.left_in_bar(least=1.0), slurred=True)

    return _on_fingerings(
        exercise_type,
        instrument,
        values,
        f"{first}-{last}",
        tell("Lip slur, partials {low} to {up} and back", low=first, up=last),
        lay,
    )


def _wide_params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        count("partial", "Lower partial", instrument.slur_partial + 1, 2, instrument.top_partial - 2),
        count("over", "Partials skipped", 1, 1, 5),
        fingerings(),
        choice("first", "First", "tongue", "slur"),
        going_up(),
        tempo(72),
    )


def _wide(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    low, over = values.integer("partial"), values.integer("over")
    high = low + over + 1
    top_checked(instrument, high)

    def lay(line: ExerciseBuilder, fingering: Fingering) -> None:
        if values.choice("first") == "tongue":
            line.slot(fingering, high, 2.0, text="tongued").slot(fingering, low, 2.0)
        line.slot(fingering, high, 2.0, text="slurred").slot(fingering, low, 2.0, slurred=True)
        line.slot(fingering, low, 2.0).slot(fingering, high, 2.0, slurred=True)

    return _on_fingerings(
        exercise_type,
        instrument,
        values,
        f"{low}-{high}",
        tell("Wide slur, partials {low} and {high}", low=low, high=high),
        lay,
    )


_PALM = "resting on an open palm"


def _add_one_params(instrument: Instrument) -> tuple[Param, ...]:
    top = min(instrument.top_partial, 10)
    grips = ("held as usual", _PALM) if _open_palm(instrument) else ("held as usual",)
    return (
        count("partial", "Lowest partial", 2, 2, 6),
        count("top", "Highest partial", top, 4, instrument.top_partial),
        choice("hold", "Hold the instrument", *grips),
        going_up(),
        tempo(80),
    )


def _open_palm(instrument: Instrument) -> bool:
    """Played with no grip at all on trumpet, trombone and instrument only."""
    return instrument.kind in ("trumpet", "trombone") or instrument.id in ("horn-f-bb", "horn-f", "horn-bb")


def _add_one(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    low, top = values.integer("partial"), values.integer("top")
    if top < low + 2:
        raise ExerciseError(
            tell("From partial {low} to {top} there are no three notes: raise the highest partial.", low=low, top=top)
        )
    fingering = Fingering(position=1) if instrument.slides else Fingering(side=instrument.sides[0].name)
    exercises = []
    for highest in range(low + 2, top + 1):
        line = ExerciseBuilder(instrument)
        steps = [*range(low, highest + 1), *range(highest - 1, low, -1)]
        hint = "No grip: the instrument rests on the open palm." if values.choice("hold") != "held as usual" else None
        for place, number in enumerate(steps):
            line.slot(
                fingering,
                number,
                0.5,
                slurred=place > 0,
            )
        line.slot(fingering, low, line.left_in_bar(least=1.0), slurred=True)
        exercises.append(
            line.exercise(
                exercise_type,
                f"{low}-{highest}",
                tell("{highest} notes, up and back", highest=highest - low + 1),
                tempo=values.integer("tempo"),
                hint=hint,
                **by_height(line, values),
            )
        )
    return series_of(exercise_type, instrument, exercises)


def _trill_params(instrument: Instrument) -> tuple[Param, ...]:
    low = 2 * instrument.slur_partial
    return (
        count("partial", "Lower partial", low, 4, instrument.top_partial - 1),
        fingerings(),
        going_up(),
        choice("pulse", "Pulse of air", "none", "on each beat"),
        tempo(72, 40, 240),
    )


def _trill(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    low, pulsed = values.integer("partial"), values.choice("pulse") == "on each beat"
    needs = (
        PassRequirement("trill", share=_TRILL_SHARE),
        *((PassRequirement("pulse", least=_PULSE_DB),) if pulsed else ()),
    )
    exercises = []
    for fingering in values.fingerings("fingering"):
        line = ExerciseBuilder(instrument)
        for beats in (1.0, 0.5, 1.0 / 3.0, 0.25):
            if beats == 1.0 / 3.0:
                line.phrase()
            for turn in range(round(4.0 / beats)):
                on_beat = abs(line.beat - round(line.beat)) < 0.01
                line.slot(fingering, low + turn % 2, beats, slurred=bool(line.notes), accent=pulsed and on_beat)
        line.slot(fingering, low, 4.0, slurred=True)
        exercises.append(
            line.exercise(
                exercise_type,
                f"{low}-{low + 1}-{fingering.label.replace(' ', '')}",
                tell("Lip trill, partials {low} and {low2}", low=low, low2=low + 1),
                tempo=values.integer("tempo"),
                needs=needs,
                **by_height(line, values),
            )
        )
    return series_of(exercise_type, instrument, exercises)


_TRILL_BEATS = 0.5  # of a note in a trill's eighths


def _slurs_so_many(step: PathStep, partials: float) -> bool:
    return float(step.params["count"]) >= partials


def _trills_so_fast(step: PathStep, rate: float) -> bool:
    return float(step.params["tempo"]) / 60.0 / _TRILL_BEATS >= rate


TWO_PARTIAL_SLUR = ExerciseType(
    id="two-partial-slur",
    name="Lip slurs: two partials",
    place=DayPlace.SLURS,
    purpose="Move between neighbouring partials on the air alone.",
    asks="Make one gesture. No tongue, no push.",
    listen_for="Nothing between the two notes.",
    mistake="Pushing the upper note with the lips.",
    load=Load.EASY,
    serves=("flexibility",),
    judged=_CLEAN,
    grows="higher pairs, then tempo",
    params=_two_params,
    make=_two,
    bound=(by_loudness(),),
    levels=two_partial_levels,
    opens_at=Standard.BEGINNER,
)
PARTIAL_CHAIN = ExerciseType(
    id="partial-chain",
    name="Lip slurs: several partials",
    place=DayPlace.SLURS,
    purpose="Slur three to seven partials up and back, clean before fast.",
    asks="Start slowly. Settle on every note before you move on.",
    listen_for="The last note as good as the first.",
    mistake="Going fast before it is clean.",
    load=Load.MEDIUM,
    serves=("flexibility", "range up"),
    judged=(*_CLEAN, "tone_match_across"),
    grows="one more partial when the last set was clean",
    params=_chain_params,
    make=_chain,
    bound=(by_loudness(),),
    levels=chain_levels,
    leads_to={GoalKind.SLUR: _slurs_so_many},
)
WIDE_SLUR = ExerciseType(
    id="wide-slur",
    name="Lip slurs: skipping a partial",
    place=DayPlace.SLURS,
    purpose="Slur over a partial with nothing heard between.",
    asks="Tongue it first to hear it. Then slur down, then up.",
    listen_for="A clean jump, no note in between.",
    mistake="Moving too slowly through the partial between.",
    load=Load.MEDIUM,
    serves=("flexibility", "range up"),
    judged=("clipped_partial", "gap", "pitch"),
    grows="higher, then wider",
    params=_wide_params,
    make=_wide,
    bound=(
        by_loudness(),
        Bound(Ask.WIDE_SLURS, {Choice.TONGUE_FIRST: {"first": "tongue"}, Choice.SLUR_FIRST: {"first": "slur"}}),
    ),
    levels=wide_slur_levels,
)
ADD_ONE_ARPEGGIO = ExerciseType(
    id="add-one-arpeggio",
    name="Add-a-note arpeggio",
    place=DayPlace.SLURS,
    purpose="Keep one setting from your lowest open note to the top.",
    asks="Start from the lowest open note and add one note each time. Tongue only the first.",
    listen_for="The top sounds as easy as the bottom.",
    mistake="Changing the setting for the top note.",
    load=Load.MEDIUM,
    serves=("range up", "flexibility"),
    judged=("clipped_partial", "gap", "one_breath"),
    grows="one more partial",
    params=_add_one_params,
    make=_add_one,
    bound=(by_loudness(), Bound(Ask.PRESSURE, {Choice.OPEN_PALM: {"hold": _PALM}})),
    advance=Advance.CLIMB,
    levels=add_one_levels,
)
LIP_TRILL = ExerciseType(
    id="lip-trill",
    name="Lip trills",
    place=DayPlace.SLURS,
    purpose="Speed up two neighbouring partials, from quarter notes to a trill.",
    asks="Start slowly. Let both notes settle, however fast you go.",
    listen_for="Two clear notes, not a wave.",
    mistake="Shaking the instrument instead of the tongue and air.",
    load=Load.MEDIUM,
    serves=("flexibility",),
    judged=("trill", "lock", "pulse", "timing"),
    grows="tempo",
    params=_trill_params,
    make=_trill,
    bound=(by_loudness(),),
    levels=trill_levels,
    opens_at=Standard.ADVANCED,
    leads_to={GoalKind.TRILL: _trills_so_fast},
)
CHAIN_OCTAVE_DOWN = ExerciseType(
    id="chain-octave-down",
    name="Lip slurs: down an octave",
    place=DayPlace.SLURS,
    purpose="Play the slurs where the partials are wide apart.",
    asks="Play slowly, through every fingering.",
    listen_for="As round at the bottom as at the top.",
    mistake="Losing the sound on the low notes.",
    load=Load.EASY,
    serves=("flexibility", "range down", "sound"),
    judged=("tone_match_across", "gap", "pitch"),
    grows="longer tubing",
    params=_octave_down_params,
    make=partial(_chain, beats=1.0),
    bound=(by_loudness(),),
    levels=octave_down_levels,
)
SLURRING = (
    TWO_PARTIAL_SLUR,
    PARTIAL_CHAIN,
    WIDE_SLUR,
    ADD_ONE_ARPEGGIO,
    LIP_TRILL,
    CHAIN_OCTAVE_DOWN,
)
