"""Which fingering: rules over all ways to play a note, ways of the player's own, and exercises that follow them."""

import pytest

from orexis.core.exercises import EXERCISE_TYPES, exercise_type_named
from orexis.core.exercises.fingering_choice import has_choice
from orexis.core.instruments import (
    INSTRUMENTS,
    USUAL,
    Preferred,
    Setup,
    checked_preferences,
    fingering_options,
    fingering_rules,
    instrument_named,
    option_by_rule,
    tube_length_m,
)
from orexis.core.theory import parse_pitch
from orexis.errors import ExerciseError, InstrumentError

TROMBONE = instrument_named("trombone-tenor-f")
F3, B3, D4 = (parse_pitch(name) for name in ("F3", "B3", "D4"))


def test_the_longest_and_the_shortest_fingering_that_have_the_note() -> None:
    for name in ("trumpet-bb", "horn-f-bb", "trombone-bass", "euphonium-bb"):
        instrument = instrument_named(name)
        long, short = option_by_rule("longest tube", instrument, D4), option_by_rule("shortest tube", instrument, D4)
        lengths = [
            tube_length_m(instrument, option.fingering)
            for option in fingering_options(instrument, D4)
            if option.partial > 1 and (option.reachable or abs(option.cents) <= 25.0)
        ]
        assert tube_length_m(instrument, long.fingering) == pytest.approx(max(lengths), abs=0.006)
        assert tube_length_m(instrument, short.fingering) == pytest.approx(min(lengths), abs=0.006)
        assert long.partial >= short.partial


def test_the_same_partial_the_valve_and_a_side() -> None:
    assert option_by_rule("same partial", TROMBONE, D4, 6).partial == 6
    assert (
        option_by_rule("same partial", TROMBONE, D4, 2) == fingering_options(TROMBONE, D4)[0]
    )  # there is none: as usual
    assert option_by_rule("with the valve", TROMBONE, F3).fingering.label == "V1"
    assert not option_by_rule("without the valve", TROMBONE, F3).fingering.valves
    double = instrument_named("horn-f-bb")
    assert {option_by_rule(f"on the {side} side", double, D4).fingering.side for side in ("F", "Bb")} == {"F", "Bb"}
    with pytest.raises(InstrumentError, match="no way for the"):
        option_by_rule("with the valve", instrument_named("trumpet-bb"), D4)


def test_a_exercise_follows_and_its_targets_with_it() -> None:
    plain = exercise_type_named("one-octave-scale").series(TROMBONE, {}).exercises[0]
    long = exercise_type_named("one-octave-scale").series(TROMBONE, {"way": "longest tube"}).exercises[0]
    assert [note.pitch for note in long.notes] == [note.pitch for note in plain.notes]
    assert [note.fingering for note in long.notes] != [note.fingering for note in plain.notes]
    for note in long.notes:
        option = next(
            option for option in fingering_options(TROMBONE, note.pitch) if option.fingering == note.fingering
        )
        assert (note.partial, note.instrument_cents) == (option.partial, round(option.cents, 3))
    with pytest.raises(ExerciseError, match="choose as usual"):
        exercise_type_named("one-octave-scale").series(instrument_named("trumpet-bb"), {"way": "with the valve"})


def test_one_s_own_option_comes_first_everywhere() -> None:
    instrument = TROMBONE.with_setup(Setup(preferred=(Preferred(D4.midi, "4", 6),)))
    first = fingering_options(instrument, D4)[0]
    assert (first.fingering.label, first.partial, first.rank) == ("4", 6, 1)
    assert fingering_options(instrument, F3)[0] == fingering_options(TROMBONE, F3)[0]
    exercise = exercise_type_named("step-ladder").series(instrument, {"start": "D4"}).exercises[0]
    assert exercise.notes[0].fingering.label == "4"
    with pytest.raises(InstrumentError, match="no partial 7 of 4"):
        checked_preferences(TROMBONE.with_setup(Setup(preferred=(Preferred(D4.midi, "4", 7),))))
    with pytest.raises(InstrumentError, match="One way"):
        TROMBONE.with_setup(Setup(preferred=(Preferred(62, "4", 6), Preferred(62, "1", 5))))


@pytest.mark.parametrize("name", sorted(INSTRUMENTS))
def test_every_rule_gives_a_option_for_every_note(name: str) -> None:
    instrument = INSTRUMENTS[name]
    exercise_type = exercise_type_named("two-octave-scale")
    for rule in fingering_rules(instrument):
        for exercise in exercise_type.series(instrument, {"way": rule}).exercises[:2]:
            assert all((note.partial >= 1) for note in exercise.notes), rule
    assert fingering_rules(instrument)[0] == USUAL


def test_by_hand_note_by_note_the_narrowest_saying_holds() -> None:
    exercise_type, plain, first, same = next(
        (exercise_type, series, note, same)
        for exercise_type in EXERCISE_TYPES.values()
        if exercise_type.alternates and len((series := exercise_type.series(TROMBONE, {})).exercises) == 1
        for note in series.exercises[0].notes
        if has_choice(note, TROMBONE) and len(fingering_options(TROMBONE, note.pitch)) > 1
        if len(same := [one.id for one in series.exercises[0].notes if one.pitch == note.pitch]) > 1
    )
    usual, option = fingering_options(TROMBONE, first.pitch)[:2]
    other = option.fingering.label
    given = {"way": "by hand", "fingerings": f"{first.pitch.name}={other}; {same[1]}={usual.fingering.label}"}
    notes = {note.id: note for note in exercise_type.series(TROMBONE, given).exercises[0].notes}
    assert (notes[same[0]].fingering.label, notes[same[1]].fingering.label) == (other, usual.fingering.label)
    assert (notes[same[0]].partial, notes[same[0]].instrument_cents) == (option.partial, round(option.cents, 3))
    others = [note for note in plain.exercises[0].notes if note.id not in same]
    assert all(notes[note.id] == note for note in others)
    assert exercise_type.series(TROMBONE, {"way": "by hand"}) == plain


def test_by_hand_one_exercise_of_a_series_alone() -> None:
    exercise_type = next(
        f for f in EXERCISE_TYPES.values() if f.alternates and len(f.series(TROMBONE, {}).exercises) > 1
    )
    plain = exercise_type.series(TROMBONE, {})
    number, note = next(
        (number, note)
        for number, exercise in enumerate(plain.exercises[1:], start=2)
        for note in exercise.notes
        if has_choice(note, TROMBONE) and len(fingering_options(TROMBONE, note.pitch)) > 1
    )
    fingering = next(
        option.fingering.label
        for option in fingering_options(TROMBONE, note.pitch)
        if option.fingering != note.fingering
    )
    made = exercise_type.series(TROMBONE, {"way": "by hand", "fingerings": f"{number}/{note.id}={fingering}"})
    changed = [
        (at, one.id)
        for at, (before, after) in enumerate(zip(plain.exercises, made.exercises, strict=True), start=1)
        for one, other in zip(before.notes, after.notes, strict=True)
        if one != other
    ]
    assert changed == [(number, note.id)]


@pytest.mark.parametrize(
    ("fingerings", "says"),
    [
        ("C4", "form C4=1-2"),
        ("=1-2", "form C4=1-2"),
        ("C1=1-2", "no alternate fingering here"),
        ("n99=0", "no alternate fingering here"),
        ("n1=9", "choose"),
        (";".join(f"n{i}=0" for i in range(301)), "at most 300"),
    ],
)
def test_by_hand_what_cannot_be_is_said(fingerings: str, says: str) -> None:
    with pytest.raises((ExerciseError, InstrumentError), match=says):
        exercise_type_named("one-octave-scale").series(
            instrument_named("trumpet-bb"), {"way": "by hand", "fingerings": fingerings}
        )
