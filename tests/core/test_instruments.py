"""Instruments against theory: combination tones of valves, slide positions, partials, and the charts players know."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orexis.core.exercises import exercise_type_named
from orexis.core.instruments import (
    INSTRUMENTS,
    Correction,
    Fingering,
    MovingSlide,
    Setup,
    all_fingerings,
    checked_range,
    deviation_cents,
    false_tones,
    fingering_options,
    fingering_semitones,
    glide_step,
    instrument_named,
    length_factor,
    option_after,
    parse_fingering,
    partial_near,
    partials_between,
    position_extension_m,
    pull_mm,
    seven_fingerings,
    trill_neighbours,
)
from orexis.core.theory import parse_pitch, pitch_of_midi
from orexis.errors import ExerciseError, InstrumentError

TRUMPET, TROMBONE, TUBA, INSTRUMENT = (
    instrument_named(name) for name in ("trumpet-bb", "trombone-tenor", "tuba-eb", "horn-f-bb")
)


@pytest.mark.parametrize(
    ("valves", "sharp"), [((1, 2), 10.6), ((2, 3), 15.5), ((1, 3), 30.3), ((1, 2, 3), 53.6), ((1,), 0.0)]
)
def test_valves_together_come_out_sharp(valves: tuple[int, ...], sharp: float) -> None:
    fingering = Fingering(valves=valves)
    short = -1200.0 * math.log2(length_factor(TRUMPET, fingering)) + 100.0 * fingering_semitones(TRUMPET, fingering)
    assert short == pytest.approx(sharp, abs=0.1)


def test_fourth_valve_combination() -> None:
    fingering = Fingering(valves=(2, 4))
    sharp = -1200.0 * math.log2(length_factor(TUBA, fingering)) + 100.0 * fingering_semitones(TUBA, fingering)
    assert sharp == pytest.approx(24.5, abs=0.1)


@pytest.mark.parametrize(("partial", "cents"), [(2, 0.0), (3, 1.955), (5, -13.686), (7, -31.174), (9, 3.910)])
def test_partials_lean_from_equal_temperament(partial: int, cents: float) -> None:
    hz = partial * TRUMPET.sides[0].fundamental.frequency()
    nearest = 12.0 * math.log2(hz / 440.0)
    assert 100.0 * (nearest - round(nearest)) == pytest.approx(cents, abs=0.01)


@pytest.mark.parametrize(("valves", "millimetres"), [((1, 3), 17.0), ((1, 2, 3), 32.0)])
def test_third_slide_pull(valves: tuple[int, ...], millimetres: float) -> None:
    fingering = Fingering(valves=valves)
    sharp = -1200.0 * math.log2(length_factor(TRUMPET, fingering)) + 100.0 * fingering_semitones(TRUMPET, fingering)
    assert pull_mm(TRUMPET, fingering, sharp) == pytest.approx(millimetres, abs=0.6)


def test_trombone_positions_in_centimetres() -> None:
    found = [round(100.0 * position_extension_m(TROMBONE, p), 1) for p in range(2, 8)]
    assert found == pytest.approx([8.8, 18.1, 28.0, 38.5, 49.6, 61.3], abs=0.1)


def test_seventh_partial_in_second_position_comes_in_28_mm() -> None:
    option = next(w for w in fingering_options(TROMBONE, parse_pitch("G4")) if w.partial == 7)
    assert option.fingering.position == 2
    assert option.slide_mm == pytest.approx(-27.8, abs=0.3)
    assert option.reachable


def test_a_flat_note_in_first_position_cannot_be_mended() -> None:
    option = next(w for w in fingering_options(TROMBONE, parse_pitch("Ab4")) if w.fingering.position == 1)
    assert option.cents == pytest.approx(-31.2, abs=0.1)
    assert not option.reachable


@pytest.mark.parametrize(
    ("written", "fingering"),
    [("C4", "0"), ("E4", "1-2"), ("G4", "0"), ("D4", "1-3"), ("C#4", "1-2-3"), ("E5", "0"), ("A5", "1-2"), ("C6", "0")],
)
def test_usual_trumpet_fingerings_come_first(written: str, fingering: str) -> None:
    concert = TRUMPET.parts[0].transposition.concert(parse_pitch(written))
    assert fingering_options(TRUMPET, concert)[0].fingering.label == fingering


@pytest.mark.parametrize(
    ("note", "position"), [("Bb2", 1), ("F3", 1), ("E2", 7), ("D4", 1), ("Eb4", 3), ("G4", 2), ("C4", 3), ("B2", 7)]
)
def test_usual_positions_come_first(note: str, position: int) -> None:
    assert fingering_options(TROMBONE, parse_pitch(note))[0].fingering.position == position


@pytest.mark.parametrize(
    ("written", "fingering"), [("F4", "F 1"), ("G4", "F 0"), ("A4", "Bb 1-2"), ("C5", "Bb 0"), ("F5", "Bb 0")]
)
def test_double_instrument_changes_side(written: str, fingering: str) -> None:
    instrument = INSTRUMENT
    concert = instrument.parts[0].transposition.concert(parse_pitch(written))
    best = fingering_options(instrument, concert)[0].fingering.label
    assert best == fingering


@given(st.sampled_from(sorted(INSTRUMENTS)), st.integers(min_value=30, max_value=84))
def test_every_option_gives_the_note(instrument_id: str, midi: int) -> None:
    instrument = instrument_named(instrument_id)
    try:
        options = fingering_options(instrument, pitch_of_midi(midi))
    except InstrumentError:
        return
    assert [option.rank for option in options] == list(range(1, len(options) + 1))
    for option in options:
        assert abs(option.cents) <= 60.0
        assert deviation_cents(instrument, option.fingering, option.partial, pitch_of_midi(midi)) == pytest.approx(
            option.cents
        )


@pytest.mark.parametrize("instrument_id", sorted(INSTRUMENTS))
def test_every_note_of_the_usual_range_has_a_option(instrument_id: str) -> None:
    instrument = instrument_named(instrument_id)
    for midi in range(instrument.lowest.midi, instrument.highest.midi + 1):
        assert fingering_options(instrument, pitch_of_midi(midi))


def test_another_a4_moves_the_target_not_the_fingering() -> None:
    option = fingering_options(TRUMPET, parse_pitch("Bb3"), a4=442.0)[0]
    assert option.cents == pytest.approx(-1200.0 * math.log2(442.0 / 440.0), abs=0.01)


def test_seven_fingerings_are_a_semitone_apart() -> None:
    assert [fingering_semitones(TUBA, fingering) for fingering in seven_fingerings(TUBA)] == list(range(7))
    assert [fingering.label for fingering in seven_fingerings(TUBA)][-2:] == ["4", "2-4"]


def test_what_lies_between_and_near() -> None:
    assert partials_between(6, 3) == (4, 5)
    assert partial_near(TRUMPET, Fingering(), 4.0 * 116.54 * 1.01)[0] == 4


def test_errors_name_the_remedy() -> None:
    with pytest.raises(InstrumentError, match="tuba-eb"):
        instrument_named("kazoo")
    with pytest.raises(InstrumentError, match="E3 to F6"):
        fingering_options(TRUMPET, parse_pitch("C2"))
    with pytest.raises(InstrumentError, match="1-3"):
        parse_fingering(TRUMPET, "1-5")


@pytest.mark.parametrize(
    ("instrument_id", "valves", "sharp"),
    [
        ("baritone-bb", (1, 3), 30.3),
        ("baritone-bb-comp", (1, 3), 0.0),
        ("baritone-bb-comp", (1, 2, 3), 10.6),
        ("euphonium-bb-comp", (2, 4), 0.0),
        ("euphonium-bb-comp", (1, 4), 0.0),
        ("euphonium-bb-comp", (1, 2, 4), 10.6),
        ("euphonium-bb", (2, 4), 24.5),
    ],
)
def test_compensation(instrument_id: str, valves: tuple[int, ...], sharp: float) -> None:
    instrument = instrument_named(instrument_id)
    fingering = Fingering(valves=valves)
    found = -1200.0 * math.log2(length_factor(instrument, fingering)) + 100.0 * fingering_semitones(
        instrument, fingering
    )
    assert found == pytest.approx(sharp, abs=0.1)


@pytest.mark.parametrize(
    ("instrument_id", "valves", "cents", "positions"),
    [
        ("trombone-tenor-f", (1,), 0.0, 6),
        ("trombone-bass", (2,), 0.0, 6),
        ("trombone-bass", (1, 2), -8.0, 5),
        ("trombone-bass-g", (1, 2), -29.0, 5),
        ("trombone-bass-dependent-g", (1, 2), -29.0, 5),
    ],
)
def test_valves_behind_a_slide(instrument_id: str, valves: tuple[int, ...], cents: float, positions: int) -> None:
    instrument = instrument_named(instrument_id)
    fingering = Fingering(valves, 1)
    found = -1200.0 * math.log2(length_factor(instrument, fingering)) + 100.0 * fingering_semitones(
        instrument, fingering
    )
    assert found == pytest.approx(cents, abs=0.6)
    assert sum(item.valves == valves for item in all_fingerings(instrument)) == positions


def test_a_dependent_valve_does_nothing_alone() -> None:
    assert not any(
        fingering.valves == (2,) for fingering in all_fingerings(instrument_named("trombone-bass-dependent"))
    )


def test_false_tones_of_the_trumpet_are_those_between_pedal_and_second_partial() -> None:
    written = [TRUMPET.parts[0].transposition.written(pitch).name for pitch in false_tones(TRUMPET)]
    assert written == ["C#3", "D3", "Eb3", "E3", "F3"]


@pytest.mark.parametrize(("note", "start"), [("Bb3", "5"), ("F4", "6"), ("Bb4", "3")])
def test_glide_partners(note: str, start: str) -> None:
    step = glide_step(TROMBONE, parse_pitch(note))
    assert step is not None
    assert step.start.label == start
    assert step.end.position == int(start) - 1
    assert glide_step(TRUMPET, parse_pitch(note)) is None


def test_trills_are_a_tone_to_a_third_apart() -> None:
    pairs = trill_neighbours(TRUMPET, parse_pitch("Bb5"))
    assert pairs
    for low, high in pairs:
        assert 2 <= high.pitch.midi - low.pitch.midi <= 4
        assert low.fingering == high.fingering


def test_the_least_change_is_preferred_after_another_note() -> None:
    assert option_after(TROMBONE, parse_pitch("F4"), Fingering(position=4)).fingering.position != 1
    assert option_after(TROMBONE, parse_pitch("F4"), None).fingering.position == 1


def test_a_warm_room_and_a_instruments_own_partials_move_the_notes() -> None:
    own = TRUMPET.with_setup(Setup(room_c=33.0, corrections=(Correction(4, -7.0),)))
    plain, moved = (fingering_options(h, parse_pitch("Bb4"))[0].cents for h in (TRUMPET, own))
    assert moved - plain == pytest.approx(2.9 * 0.5 * 10.0 - 7.0, abs=0.01)


def test_a_shorter_slide_cannot_be_reached() -> None:
    short = TRUMPET.with_setup(Setup(moving=(MovingSlide("third", 3, 20.0),)))
    assert fingering_options(TRUMPET, parse_pitch("B3"))[0].reachable
    assert not fingering_options(short, parse_pitch("B3"))[0].reachable
    with pytest.raises(InstrumentError, match="degrees"):
        TRUMPET.with_setup(Setup(room_c=80.0))


def test_a_player_sets_their_own_bottom_and_top() -> None:
    bass = instrument_named("trombone-bass")
    stairs = {"start": "F2", "interval": "2", "notes": "5", "series": "1"}
    with pytest.raises(ExerciseError, match="below"):
        exercise_type_named("interval-stairs").series(bass, stairs)
    deeper = checked_range(bass.with_setup(Setup(lowest=parse_pitch("Bb1"))))
    assert (
        exercise_type_named("interval-stairs")
        .series(deeper, {**stairs, "notes": "4"})
        .exercises[0]
        .notes[-1]
        .pitch.name
        == "B1"
    )
    trumpet = instrument_named("trumpet-bb")
    higher = checked_range(trumpet.with_setup(Setup(highest=parse_pitch("G6"))))
    assert higher.top_partial > trumpet.top_partial
    range_notes = exercise_type_named("step-ladder").series(higher, {"start": "D6", "steps": "12"}).exercises
    assert [exercise.notes[0].pitch.name for exercise in range_notes][-1] == "G6"
    assert trumpet.with_setup(Setup()).top_partial == trumpet.top_partial
    for setup, says in (
        (Setup(lowest=parse_pitch("C5")), "either side"),
        (Setup(highest=parse_pitch("E3")), "either side"),
        (Setup(lowest=parse_pitch("C2")), "no fingering"),
        (Setup(comfortable_low=parse_pitch("C2")), "comfortable low note"),
        (Setup(comfortable_low=parse_pitch("C5"), comfortable_high=parse_pitch("Bb4")), "lower note comes first"),
    ):
        with pytest.raises(InstrumentError, match=says):
            checked_range(trumpet.with_setup(setup))


# The low register of four compensating valves, as fingering charts have it, from the fourth valve's open note down.
LOW_CHART = ("4", "2-4", "1-4", "1-2-4", "2-3-4", "1-3-4", "1-2-3-4")


@pytest.mark.parametrize(("name", "top"), [("euphonium-bb-comp", "F2"), ("tuba-eb-comp", "Bb1"), ("tuba-f-comp", "C2")])
def test_compensating_valves_go_down_as_charts_have_it(name: str, top: str) -> None:
    instrument, start = instrument_named(name), parse_pitch(top).midi
    assert (
        tuple(fingering_options(instrument, pitch_of_midi(start - n))[0].fingering.label for n in range(7)) == LOW_CHART
    )


def test_instruments_that_are_written_otherwise() -> None:
    for name, sounding, written in (
        ("cornet-eb", "Eb4", "C4"),
        ("trumpet-eb", "Eb4", "C4"),
        ("trumpet-piccolo-bb", "Bb4", "C4"),
        ("trumpet-piccolo-a", "A4", "C4"),
        ("horn-f", "F3", "C4"),
        ("horn-bb", "F3", "C4"),
        ("trombone-contrabass-f", "F2", "F2"),
    ):
        instrument = instrument_named(name)
        assert instrument.part(None).transposition.written(parse_pitch(sounding)).name == written
        assert fingering_options(instrument, parse_pitch(sounding))[0].fingering.label in ("0", "1"), name
