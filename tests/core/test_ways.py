"""Which tube: rules over all ways to play a note, ways of the player's own, and figures that follow them."""

import pytest

from orexis.core.figures import family_named
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
        assert (note.partial, note.horn_cents) == (way.partial, round(way.cents, 3))
    with pytest.raises(FigureError, match="Which way"):
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
