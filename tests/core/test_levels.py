"""Levels of exercises: few, each wider than the one before, and the numbers of earlier releases brought up to them."""

import pytest

from orexis.core.exercises import EXERCISE_TYPES, exercise_type_named
from orexis.core.instruments import INSTRUMENTS, Instrument, instrument_named
from orexis.core.progress import path_of, renumbered_level

ALL = pytest.mark.parametrize("instrument", INSTRUMENTS.values(), ids=list(INSTRUMENTS))
MOST = 25


def span(exercise_type: str, instrument: Instrument, level: int) -> int:
    """Semitones from the lowest to the highest note of the first exercise of a level."""
    path = path_of(exercise_type, instrument)
    assert path is not None
    notes = exercise_type_named(exercise_type).series(instrument, path.steps[level].params).exercises[0].notes
    midis = [note.pitch.midi for note in notes]
    return max(midis) - min(midis)


@ALL
def test_no_exercise_has_more_levels_than_a_player_can_see_the_end_of(instrument: Instrument) -> None:
    for exercise_type in EXERCISE_TYPES.values():
        path = path_of(exercise_type.id, instrument)
        if path is None:
            continue
        assert len(path.steps) <= MOST, exercise_type.id
        assert len({step.say for step in path.steps}) == len(path.steps), exercise_type.id
        for step in path.steps:
            assert exercise_type.series(instrument, step.params).exercises


def test_interval_patterns_widen() -> None:
    trombone = instrument_named("trombone-tenor")
    path = path_of("interval-stairs", trombone)
    assert path is not None
    assert [step.params["interval"] for step in path.steps[:7]] == ["1", "1", "2", "2", "3", "4", "5"]
    assert span("interval-stairs", trombone, 5) == 12
    assert {step.params["join"] for step in path.steps[-7:]} == {"tongued and full"}


def test_slurs_go_each_way_on_their_own_and_begin_at_either_end() -> None:
    tuba = instrument_named("tuba-eb")
    slur = exercise_type_named("two-partial-slur")
    up = slur.series(tuba, {"direction": "up"}).exercises[0].notes
    assert [note.slurred for note in up] == [False, True] * 3
    assert all(after.pitch.midi > before.pitch.midi for before, after in zip(up[::2], up[1::2], strict=True))
    down = slur.series(tuba, {"direction": "down"}).exercises[0].notes
    assert all(after.pitch.midi < before.pitch.midi for before, after in zip(down[::2], down[1::2], strict=True))
    chain = exercise_type_named("partial-chain")
    below = [note.partial for note in chain.series(tuba, {"direction": "up and down"}).exercises[0].notes]
    above = [note.partial for note in chain.series(tuba, {"direction": "down and up"}).exercises[0].notes]
    assert below[0] == below[-1] == min(below)
    assert above[0] == above[-1] == max(above)


def test_a_scale_holds_its_top_and_pairs_go_both_ways() -> None:
    cornet = instrument_named("cornet-bb")
    held = exercise_type_named("one-octave-scale").series(cornet, {"form": "up, top held"}).exercises[0].notes
    assert held[-1].pitch.midi == held[0].pitch.midi + 12
    assert held[-1].beats >= 4.0
    pairs = exercise_type_named("pair-ladder").series(cornet, {"direction": "up and down", "starts": "1"}).exercises
    moves = [pair.notes[1].pitch.midi - pair.notes[0].pitch.midi for pair in pairs]
    assert moves == [1, -1, 2, -2, 3, -3, 4, -4, 5, -5, 6, -6, 7, -7]
    assert len({pair.id for pair in pairs}) == len(pairs)


def test_a_rolling_pattern_is_a_take_for_each_key() -> None:
    trumpet = instrument_named("trumpet-bb")
    keys = exercise_type_named("roll-and-breathe").series(trumpet, {"keys": "3", "above": "2"}).exercises
    first = [key.notes[0].pitch.midi for key in keys]
    assert [midi - first[0] for midi in first] == [0, -1, -2, -1, 0, 1, 2]
    assert len({key.id for key in keys}) == len(keys)
    assert max(key.duration_s for key in keys) < 10.0


@ALL
def test_levels_of_earlier_releases_keep_their_share_of_the_way(instrument: Instrument) -> None:
    for exercise_type, before in (("lip-trill", 93), ("interval-stairs", 96), ("two-partial-slur", 25)):
        path = path_of(exercise_type, instrument)
        if path is None:
            continue
        now = [renumbered_level(exercise_type, instrument, level) for level in range(before)]
        assert now == sorted(now)
        assert (now[0], now[-1]) == (0, len(path.steps) - 1)
    assert renumbered_level("partial-chain", instrument, 7) == 7
