"""Which tube: rules over all ways to play a note, ways of the player's own, and figures that follow them."""

import pytest

from orexis.core.figures import FAMILIES, family_named
from orexis.core.figures.fingering import has_choice
from orexis.core.horn import (
    HORNS,
    USUAL,
    Preferred,
    Setup,
    checked_preferences,
    horn_named,
    tube_length_m,
    way_by,
    way_rules,
    ways_to_play,
)
from orexis.core.theory import parse_pitch
from orexis.errors import FigureError, HornError

TROMBONE = horn_named("trombone-tenor-f")
F3, B3, D4 = (parse_pitch(name) for name in ("F3", "B3", "D4"))


def test_the_longest_and_the_shortest_tube_that_have_the_note() -> None:
    for name in ("trumpet-bb", "horn-f-bb", "trombone-bass", "euphonium-bb"):
        horn = horn_named(name)
        long, short = way_by("longest tube", horn, D4), way_by("shortest tube", horn, D4)
        lengths = [
            tube_length_m(horn, way.tube)
            for way in ways_to_play(horn, D4)
            if way.partial > 1 and (way.reachable or abs(way.cents) <= 25.0)
        ]
        assert tube_length_m(horn, long.tube) == pytest.approx(max(lengths), abs=0.006)
        assert tube_length_m(horn, short.tube) == pytest.approx(min(lengths), abs=0.006)
        assert long.partial >= short.partial


def test_the_same_partial_the_valve_and_a_side() -> None:
    assert way_by("same partial", TROMBONE, D4, 6).partial == 6
    assert way_by("same partial", TROMBONE, D4, 2) == ways_to_play(TROMBONE, D4)[0]  # there is none: as usual
    assert way_by("with the valve", TROMBONE, F3).tube.label == "V1"
    assert not way_by("without the valve", TROMBONE, F3).tube.valves
    double = horn_named("horn-f-bb")
    assert {way_by(f"on the {side} side", double, D4).tube.side for side in ("F", "Bb")} == {"F", "Bb"}
    with pytest.raises(HornError, match="no way for the"):
        way_by("with the valve", horn_named("trumpet-bb"), D4)


def test_a_figure_follows_and_its_targets_with_it() -> None:
    plain = family_named("one-octave-scale").series(TROMBONE, {}).figures[0]
    long = family_named("one-octave-scale").series(TROMBONE, {"way": "longest tube"}).figures[0]
    assert [note.pitch for note in long.notes] == [note.pitch for note in plain.notes]
    assert [note.tube for note in long.notes] != [note.tube for note in plain.notes]
    for note in long.notes:
        way = next(way for way in ways_to_play(TROMBONE, note.pitch) if way.tube == note.tube)
        assert (note.partial, note.instrument_cents) == (way.partial, round(way.cents, 3))
    with pytest.raises(FigureError, match="choose as usual"):
        family_named("one-octave-scale").series(horn_named("trumpet-bb"), {"way": "with the valve"})


def test_one_s_own_way_comes_first_everywhere() -> None:
    horn = TROMBONE.with_setup(Setup(preferred=(Preferred(D4.midi, "4", 6),)))
    first = ways_to_play(horn, D4)[0]
    assert (first.tube.label, first.partial, first.rank) == ("4", 6, 1)
    assert ways_to_play(horn, F3)[0] == ways_to_play(TROMBONE, F3)[0]
    figure = family_named("step-ladder").series(horn, {"start": "D4"}).figures[0]
    assert figure.notes[0].tube.label == "4"
    with pytest.raises(HornError, match="no partial 7 of 4"):
        checked_preferences(TROMBONE.with_setup(Setup(preferred=(Preferred(D4.midi, "4", 7),))))
    with pytest.raises(HornError, match="One way"):
        TROMBONE.with_setup(Setup(preferred=(Preferred(62, "4", 6), Preferred(62, "1", 5))))


@pytest.mark.parametrize("name", sorted(HORNS))
def test_every_rule_gives_a_way_for_every_note(name: str) -> None:
    horn = HORNS[name]
    family = family_named("two-octave-scale")
    for rule in way_rules(horn):
        for figure in family.series(horn, {"way": rule}).figures[:2]:
            assert all((note.partial >= 1) for note in figure.notes), rule
    assert way_rules(horn)[0] == USUAL


def test_by_hand_note_by_note_the_narrowest_saying_holds() -> None:
    family, plain, first, same = next(
        (family, series, note, same)
        for family in FAMILIES.values()
        if family.ways and len((series := family.series(TROMBONE, {})).figures) == 1
        for note in series.figures[0].notes
        if has_choice(note, TROMBONE) and len(ways_to_play(TROMBONE, note.pitch)) > 1
        if len(same := [one.id for one in series.figures[0].notes if one.pitch == note.pitch]) > 1
    )
    usual, way = ways_to_play(TROMBONE, first.pitch)[:2]
    other = way.tube.label
    given = {"way": "by hand", "tubes": f"{first.pitch.name}={other}; {same[1]}={usual.tube.label}"}
    notes = {note.id: note for note in family.series(TROMBONE, given).figures[0].notes}
    assert (notes[same[0]].tube.label, notes[same[1]].tube.label) == (other, usual.tube.label)
    assert (notes[same[0]].partial, notes[same[0]].instrument_cents) == (way.partial, round(way.cents, 3))
    others = [note for note in plain.figures[0].notes if note.id not in same]
    assert all(notes[note.id] == note for note in others)
    assert family.series(TROMBONE, {"way": "by hand"}) == plain


def test_by_hand_one_figure_of_a_series_alone() -> None:
    family = next(f for f in FAMILIES.values() if f.ways and len(f.series(TROMBONE, {}).figures) > 1)
    plain = family.series(TROMBONE, {})
    number, note = next(
        (number, note)
        for number, figure in enumerate(plain.figures[1:], start=2)
        for note in figure.notes
        if has_choice(note, TROMBONE) and len(ways_to_play(TROMBONE, note.pitch)) > 1
    )
    tube = next(way.tube.label for way in ways_to_play(TROMBONE, note.pitch) if way.tube != note.tube)
    made = family.series(TROMBONE, {"way": "by hand", "tubes": f"{number}/{note.id}={tube}"})
    changed = [
        (at, one.id)
        for at, (before, after) in enumerate(zip(plain.figures, made.figures, strict=True), start=1)
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
    with pytest.raises((FigureError, HornError), match=says):
        family_named("one-octave-scale").series(horn_named("trumpet-bb"), {"way": "by hand", "tubes": tubes})
