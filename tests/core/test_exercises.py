"""Exercise types on every instrument: right notes, right fingerings, stable ids, clear refusals."""

import pytest

from orexis.core.exercises import TUNES, exercise_type_named, exercise_types_for, shortened, tune
from orexis.core.instruments import INSTRUMENTS, instrument_named
from orexis.core.theory import parse_pitch, pitch_of_midi
from orexis.errors import ExerciseError, InstrumentError, PitchError
from tests.conftest import exercise_of


@pytest.mark.parametrize("instrument_id", sorted(INSTRUMENTS))
def test_every_exercise_type_on_every_suiting_instrument(instrument_id: str) -> None:
    instrument = instrument_named(instrument_id)
    suiting = exercise_types_for(instrument)
    assert len(suiting) == (36 if instrument.slides else 34)
    for exercise_type in suiting:
        series = exercise_type.series(instrument)
        assert series == exercise_type.series(instrument), exercise_type.id
        assert len({exercise.id for exercise in series.exercises}) == len(series.exercises), exercise_type.id
        for exercise in series.exercises:
            assert exercise.duration_s > exercise.count_in_beats * exercise.beat_s
            assert [note.id for note in exercise.notes] == [f"n{i + 1}" for i in range(len(exercise.notes))]


def test_long_tones_go_down_by_semitones_and_up_again() -> None:
    series = exercise_type_named("long-low-tones").series(instrument_named("tuba-eb"), {"start": "Eb2", "steps": "3"})
    assert [exercise.notes[0].pitch.name for exercise in series.exercises] == [
        "Eb2",
        "D2",
        "Db2",
        "C2",
        "Db2",
        "D2",
        "Eb2",
    ]
    assert all(exercise.notes[0].to_breath_end for exercise in series.exercises)


def test_slurs_stay_on_one_fingering_and_step_down() -> None:
    series = exercise_type_named("two-partial-slur").series(instrument_named("trumpet-bb"))
    assert [exercise.notes[0].fingering.label for exercise in series.exercises] == [
        "0",
        "2",
        "1",
        "1-2",
        "2-3",
        "1-3",
        "1-2-3",
    ]
    for exercise in series.exercises:
        assert [note.partial for note in exercise.notes] == [3, 2, 3]
        assert [note.slurred for note in exercise.notes] == [False, True, True]
    assert series.exercises[6].notes[0].pitch.name == "B3"  # sharp, and B all the same
    assert series.exercises[6].notes[0].instrument_cents == pytest.approx(53.6 + 2.0, abs=0.1)


def test_a_single_fingering_can_be_chosen() -> None:
    assert (
        len(
            exercise_type_named("two-partial-slur")
            .series(instrument_named("trombone-tenor"), {"fingering": "4"})
            .exercises
        )
        == 1
    )


@pytest.mark.parametrize(
    ("params", "error", "says"),
    [
        ({"stepps": "3"}, ExerciseError, "stepps"),
        ({"steps": "many"}, ExerciseError, "whole number"),
        ({"steps": "99"}, ExerciseError, "0 to 12"),
        ({"start": "H2"}, PitchError, "H2"),
        ({"start": "C1"}, InstrumentError, "no partial"),
        ({"dynamic": "loud"}, ExerciseError, "mf"),
    ],
)
def test_bad_parameters_are_refused(params: dict[str, str], error: type[Exception], says: str) -> None:
    with pytest.raises(error, match=says):
        exercise_type_named("long-low-tones").series(instrument_named("trumpet-bb"), params)


def test_unknown_exercise_type() -> None:
    with pytest.raises(ExerciseError, match="long-low-tones"):
        exercise_type_named("scales-of-doom")


def test_hold_is_asked_of_long_tones_only() -> None:
    long, slur = exercise_of("tuba-eb", "long-low-tones"), exercise_of("tuba-eb", "two-partial-slur")
    assert long.hold_asked_s(long.notes[0]) == pytest.approx(6.0)
    assert slur.hold_asked_s(slur.notes[0]) is None


@pytest.mark.parametrize("title", TUNES)
def test_tunes_fill_their_bars_and_rise_in_range(title: str) -> None:
    melody = tune(title, parse_pitch("C4"))
    assert melody.notes[-1].start_beat + melody.notes[-1].beats == pytest.approx(
        melody.meter.beats_per_bar * round((melody.notes[-1].start_beat + 1e-9) // melody.meter.beats_per_bar + 1)
    )
    for note in melody.notes:
        if note.new_line:
            assert note.start_beat % melody.meter.beats_per_bar == 0


def test_the_book_of_tunes_widens() -> None:
    spans = [tune(title, parse_pitch("C4")).range_midi for title in TUNES]
    widths = [high - low for low, high in spans]
    assert len(widths) >= 12
    assert widths == sorted(widths)
    assert widths[0] == 7
    assert widths[-1] >= 24


def test_slide_exercise_types_ask_for_a_slide() -> None:
    with pytest.raises(ExerciseError, match="hand slide"):
        exercise_type_named("glide-ladder").series(instrument_named("trumpet-bb"))


def test_a_ladder_ends_where_the_instrument_does() -> None:
    series = exercise_type_named("step-ladder").series(instrument_named("trumpet-bb"), {"start": "D6", "steps": "30"})
    assert [exercise.notes[0].pitch.name for exercise in series.exercises] == ["D6", "Eb6", "E6", "F6"]
    assert series.advance == "climb"


def test_glide_ladder_starts_where_sliding_in_leads_on() -> None:
    series = exercise_type_named("glide-ladder").series(
        instrument_named("trombone-tenor"), {"start": "Bb3", "after": "nothing more"}
    )
    first = series.exercises[0].notes
    assert [note.fingering.label for note in first] == ["5", "4"]
    assert first[0].partial == first[1].partial == 5
    assert first[1].glide_beats > 0


def test_a_third_over_a_drone_is_asked_low() -> None:
    series = exercise_type_named("against-a-drone").series(instrument_named("tuba-eb"), {"root": "Eb2"})
    assert [round(exercise.notes[0].target_cents, 1) for exercise in series.exercises] == [0.0, 2.0, -13.7]
    assert all(exercise.drone is not None and exercise.drone.name == "Eb2" for exercise in series.exercises)


def test_stairs_that_leave_the_instrument_are_refused_in_words() -> None:
    with pytest.raises(ExerciseError, match="start higher"):
        exercise_type_named("interval-stairs").series(instrument_named("trumpet-bb"), {"interval": "12", "notes": "5"})


def goal_in_words(exercise_type_id: str, instrument_id: str, pitch: str) -> str:
    """What is said of an exercise type from that note: nothing where it can be made."""
    instrument, exercise_type = instrument_named(instrument_id), exercise_type_named(exercise_type_id)
    keys = [param.key for param in exercise_type.specs(instrument) if param.kind == "pitch"]
    try:
        exercise_type.series(instrument, dict.fromkeys(keys, pitch))
    except (ExerciseError, InstrumentError, PitchError) as error:
        return str(error)
    return ""


@pytest.mark.parametrize("instrument_id", ["trumpet-bb", "trombone-bass", "tuba-f-5"])
def test_any_starting_note_gives_a_exercise_or_a_sentence(instrument_id: str) -> None:
    for exercise_type in exercise_types_for(instrument_named(instrument_id)):
        for midi in (24, 40, 52, 64, 76, 95):
            said = goal_in_words(exercise_type.id, instrument_id, pitch_of_midi(midi).name)
            assert not said or said.endswith("."), exercise_type.id


def test_a_exercise_can_be_shortened() -> None:
    exercise = exercise_of("tuba-eb", "two-octave-scale", form="up and down")
    short = shortened(exercise)
    assert 1 <= len(short.notes) <= len(exercise.notes) // 2 + 1
    assert short.notes == exercise.notes[: len(short.notes)]


def test_three_octaves_begin_where_they_lie_on_the_instrument_or_say_why_not() -> None:
    exercise_type = exercise_type_named("two-octave-scale")
    made = 0
    for instrument in INSTRUMENTS.values():
        if instrument.highest.midi - instrument.lowest.midi < 36:
            with pytest.raises(ExerciseError, match="another form"):
                exercise_type.series(instrument, {"form": "three octaves"})
            continue
        exercise = exercise_type.series(instrument, {"form": "three octaves"}).exercises[0]
        midis = [note.pitch.midi for note in exercise.notes]
        assert max(midis) - min(midis) == 36
        assert instrument.lowest.midi <= min(midis) <= max(midis) <= instrument.highest.midi
        made += 1
    assert made >= 18
    with pytest.raises(ExerciseError, match="start at F4 or lower"):
        exercise_type.series(INSTRUMENTS["trumpet-bb"], {"start": "F5"})
