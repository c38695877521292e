"""An exercise's notes taken in another way: the fingerings change, and with them what the instrument does by itself.

By hand it is said note by note: "C4=1-3; n5=1-2" takes every C4 (concert) on 1-3 and the fifth note of each exercise on 1-2;
"2/n5" means that of the second exercise alone. Where a note is named in more than one of these ways the narrowest holds.
"""

from collections.abc import Mapping
from dataclasses import replace

from orexis.core.exercises.exercise import Exercise, ExerciseNote, Series
from orexis.core.exercises.kinds import Medium
from orexis.core.exercises.params import Param, Values, choice
from orexis.core.instruments import (
    BY_HAND,
    USUAL,
    Instrument,
    fingering_rules,
    has_slot,
    option_by_rule,
    option_with,
    slot_of,
)
from orexis.core.messages import tell
from orexis.errors import ExerciseError

_MOST_NAMED = 300  # more than an instrument has notes times fingerings


def fingering_params(instrument: Instrument) -> tuple[Param, ...]:
    """Which way the notes are taken, and by hand which note on which fingering."""
    return choice("way", "Fingering", *fingering_rules(instrument)), Param("fingerings", "By hand", "ways", "")


def taken(series: Series, instrument: Instrument, values: Values) -> Series:
    """The series as its parameters of `fingering_params` have it; ExerciseError for a note that is not there, InstrumentError for a fingering it is not on."""
    rule = values.choice("way")
    if rule == USUAL:
        return series
    if rule != BY_HAND:
        return replace(
            series, exercises=tuple(apply_fingering_rule(exercise, instrument, rule) for exercise in series.exercises)
        )
    named = _named(values.text("fingerings"))
    met: set[str] = set()
    exercises = tuple(
        _by_hand(exercise, instrument, number, named, met) for number, exercise in enumerate(series.exercises, start=1)
    )
    strange = next((key for key in named if key not in met), None)
    if strange is not None:
        raise ExerciseError(tell("By hand: “{strange}” has no alternate fingering here.", strange=strange[:12]))
    return replace(series, exercises=exercises)


def apply_fingering_rule(exercise: Exercise, instrument: Instrument, rule: str) -> Exercise:
    """The exercise with every note that has a choice taken as the rule says (`fingering_rules`)."""
    if exercise.medium != Medium.INSTRUMENT:
        return exercise
    notes: list[ExerciseNote] = []
    before: int | None = None
    for note in exercise.notes:
        if has_choice(note, instrument):
            option = option_by_rule(rule, instrument, note.pitch, before)
            note = replace(
                note, fingering=option.fingering, partial=option.partial, instrument_cents=round(option.cents, 3)
            )
        before = note.partial
        notes.append(note)
    return replace(exercise, notes=tuple(notes))


def has_choice(note: ExerciseNote, instrument: Instrument) -> bool:
    """Not where the fingering is the exercise itself, nor where the lip leads the note off its slot."""
    if note.keep_fingering or note.glide_beats > 0.0 or not note.partial or not has_slot(instrument, note.pitch):
        return False
    return slot_of(instrument, note.fingering, note.partial).pitch.midi == note.pitch.midi


def _named(text: str) -> dict[str, str]:
    """Fingerings by what names the note; ExerciseError for what is no such list."""
    items = [item.strip() for item in text.split(";") if item.strip()]
    pairs = [tuple(part.strip() for part in item.split("=")) for item in items]
    wrong = next((item for item, pair in zip(items, pairs, strict=True) if len(pair) != 2 or not all(pair)), None)
    if wrong is not None:
        raise ExerciseError(tell("By hand: “{wrong}” is not of the form C4=1-2 or n5=1-2.", wrong=wrong[:20]))
    if len(pairs) > _MOST_NAMED:
        raise ExerciseError(tell("By hand: at most {most_named} notes can be named.", most_named=_MOST_NAMED))
    return {pair[0]: pair[1] for pair in pairs}


def _by_hand(
    exercise: Exercise, instrument: Instrument, number: int, named: Mapping[str, str], met: set[str]
) -> Exercise:
    if exercise.medium != Medium.INSTRUMENT:
        return exercise
    notes = []
    for note in exercise.notes:
        if has_choice(note, instrument):
            keys = [key for key in (f"{number}/{note.id}", note.id, note.pitch.name) if key in named]
            met.update(keys)
            if keys:
                option = option_with(instrument, note.pitch, named[keys[0]])
                note = replace(
                    note, fingering=option.fingering, partial=option.partial, instrument_cents=round(option.cents, 3)
                )
        notes.append(note)
    return replace(exercise, notes=tuple(notes))
