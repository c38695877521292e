"""Which tube: rules over all ways to play a note, ways of the player's own, and exercises that follow them."""

import pytest

from orexis.core.exercises import EXERCISE_TYPES, exercise_type_named
from orexis.core.exercises.fingering import has_choice
from orexis.core.instruments import (
    INSTRUMENTS,
    USUAL,
    Preferred,
    Setup,
    checked_preferences,
    instrument_named,
    tube_length_m,
    way_by,
    way_rules,
    ways_to_play,
)
from orexis.core.theory import parse_pitch
from orexis.errors import ExerciseError, InstrumentError

TROMBONE = instrument_named("trombone-tenor-f")
F3, B3, D4 = (parse_pitch(name) for name in ("F3", "B3", "D4"))


def test_the_longest_and_the_shortest_tube_that_have_the_note() -> None:
    for name in ("trumpet-bb", "horn-f-bb", "trombone-bass", "euphonium-bb"):
        instrument = instrument_named(name)
        long, short = way_by("longest tube", instrument, D4), way_by("shortest tube", instrument, D4)
        lengths = [
            tube_length_m(instrument, way.tube)
            for way in ways_to_play(instrument, D4)
            if way.partial > 1 and (way.reachable or abs(way.cents) <= 25.0)
        ]
        assert tube_length_m(instrument, long.tube) == pytest.approx(max(lengths), abs=0.006)
        assert tube_length_m(instrument, short.tube) == pytest.approx(min(lengths), abs=0.006)
        assert long.partial >= short.partial


def test_the_same_partial_the_valve_and_a_side() -> None:
    assert way_by("same partial", TROMBONE, D4, 6).partial == 6
    assert way_by("same partial", TROMBONE, D4, 2) == ways_to_play(TROMBONE, D4)[0]  # there is none: as usual
    assert way_by("with the valve", TROMBONE, F3).tube.label == "V1"
    assert not way_by("without the valve", TROMBONE, F3).tube.valves
    double = instrument_named("horn-f-bb")
    assert {way_by(f"on the {side} side", double, D4).tube.side for side in ("F", "Bb")} == {"F", "Bb"}
    with pytest.raises(InstrumentError, match="no way for the"):
        way_by("with the valve", instrument_named("trumpet-bb"), D4)


def test_a_exercise_follows_and_its_targets_with_it() -> None:
    plain = exercise_type_named("one-octave-scale").series(TROMBONE, {}).exercises[0]
    long = exercise_type_named("one-octave-scale").series(TROMBONE, {"way": "longest tube"}).exercises[0]
    assert [note.pitch for note in long.notes] == [note.pitch for note in plain.notes]
    assert [note.tube for note in long.notes] != [note.tube for note in plain.notes]
    for note in long.notes:
        way = next(way for way in ways_to_play(TROMBONE, note.pitch) if way.tube == note.tube)
        assert (note.partial, note.instrument_cents) == (way.partial, round(way.cents, 3))
    with pytest.raises(ExerciseError, match="choose as usual"):
        exercise_type_named("one-octave-scale").series(instrument_named("trumpet-bb"), {"way": "with the valve"})


def test_one_s_own_way_comes_first_everywhere() -> None:
    instrument = TROMBONE.with_setup(Setup(preferred=(Preferred(D4.midi, "4", 6),)))
    first = ways_to_play(instrument, D4)[0]
    assert (first.tube.label, first.partial, first.rank) == ("4", 6, 1)
    assert ways_to_play(instrument, F3)[0] == ways_to_play(TROMBONE, F3)[0]
    exercise = exercise_type_named("step-ladder").series(instrument, {"start": "D4"}).exercises[0]
    assert exercise.notes[0].tube.label == "4"
    with pytest.raises(InstrumentError, match="no partial 7 of 4"):
        checked_preferences(TROMBONE.with_setup(Setup(preferred=(Preferred(D4.midi, "4", 7),))))
    with pytest.raises(InstrumentError, match="One way"):
        TROMBONE.with_setup(Setup(preferred=(Preferred(62, "4", 6), Preferred(62, "1", 5))))


@pytest.mark.parametrize("name", sorted(INSTRUMENTS))
def test_every_rule_gives_a_way_for_every_note(name: str) -> None:
    instrument = INSTRUMENTS[name]
    exercise_type = exercise_type_named("two-octave-scale")
    for rule in way_rules(instrument):
        for exercise in exercise_type.series(instrument, {"way": rule}).exercises[:2]:
            assert all((note.partial >= 1) for note in exercise.notes), rule
    assert way_rules(instrument)[0] == USUAL


def test_by_hand_note_by_note_the_narrowest_saying_holds() -> None:
    exercise_type, plain, first, same = next(
        (exercise_type, series, note, same)
        for exercise_type in EXERCISE_TYPES.values()
        if exercise_type.ways and len((series := exercise_type.series(TROMBONE, {})).exercises) == 1
        for note in series.exercises[0].notes
        if has_choice(note, TROMBONE) and len(ways_to_play(TROMBONE, note.pitch)) > 1
        if len(same := [one.id for one in series.exercises[0].notes if one.pitch == note.pitch]) > 1
    )
    usual, way = ways_to_play(TROMBONE, first.pitch)[:2]
    other = way.tube.label
    given = {"way": "by hand", "tubes": f"{first.pitch.name}={other}; {same[1]}={usual.tube.label}"}
    notes = {note.id: note for note in exercise_type.series(TROMBONE, given).exercises[0].notes}
    assert (notes[same[0]].tube.label, notes[same[1]].tube.label) == (other, usual.tube.label)
    assert (notes[same[0]].partial, notes[same[0]].instrument_cents) == (way.partial, round(way.cents, 3))
    others = [note for note in plain.exercises[0].notes if note.id not in same]
    assert all(notes[note.id] == note for note in others)
    assert exercise_type.series(TROMBONE, {"way": "by hand"}) == plain


def test_by_hand_one_exercise_of_a_series_alone() -> None:
    exercise_type = next(f for f in EXERCISE_TYPES.values() if f.ways and len(f.series(TROMBONE, {}).exercises) > 1)
    plain = exercise_type.series(TROMBONE, {})
    number, note = next(
        (number, note)
        for number, exercise in enumerate(plain.exercises[1:], start=2)
        for note in exercise.notes
        if has_choice(note, TROMBONE) and len(ways_to_play(TROMBONE, note.pitch)) > 1
    )
    tube = next(way.tube.label for way in ways_to_play(TROMBONE, note.pitch) if way.tube != note.tube)
    made = exercise_type.series(TROMBONE, {"way": "by hand", "tubes": f"{number}/{note.id}={tube}"})
    changed = [
        (at, one.id)
        for at, (before, after) in enumerate(zip(plain.exercises, made.exercises, strict=True), start=1)
        for one, other in zip(before.notes, after.notes, strict=True)
        if one != other
    ]
    assert changed == [(number, note.id)]


@pytest.mark.parametrize(
    ("tubes", "says"),
    [
        ("C4", "form C4=1-2"),
        ("=1-2", "form C4=1-2"),
        ("C1=1-2", "no alternate fingering here"),
        ("n99=0", "no alternate fingering here"),
        ("n1=9", "choose"),
        (";".join(f"n{i}=0" for i in range(301)), "at most 300"),
    ],
)
def test_by_hand_what_cannot_be_is_said(tubes: str, says: str) -> None:
    with pytest.raises((ExerciseError, InstrumentError), match=says):
        exercise_type_named("one-octave-scale").series(
            instrument_named("trumpet-bb"), {"way": "by hand", "tubes": tubes}
        )
