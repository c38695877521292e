"""Families on every horn: right notes, right tubes, stable ids, clear refusals."""

import pytest

from orexis.core.figures import TUNES, families_for, family_named, shortened, tune
from orexis.core.horn import HORNS, horn_named
from orexis.core.theory import parse_pitch, pitch_of_midi
from orexis.errors import FigureError, HornError, PitchError
from tests.conftest import figure_of


@pytest.mark.parametrize("horn_id", sorted(HORNS))
def test_every_family_on_every_suiting_horn(horn_id: str) -> None:
    horn = horn_named(horn_id)
    suiting = families_for(horn)
    assert len(suiting) == (36 if horn.slides else 34)
    for family in suiting:
        series = family.series(horn)
        assert series == family.series(horn), family.id
        assert len({figure.id for figure in series.figures}) == len(series.figures), family.id
        for figure in series.figures:
            assert figure.duration_s > figure.count_in_beats * figure.beat_s
            assert [note.id for note in figure.notes] == [f"n{i + 1}" for i in range(len(figure.notes))]


def test_long_tones_go_down_by_semitones_and_up_again() -> None:
    series = family_named("long-low-tones").series(horn_named("tuba-eb"), {"start": "Eb2", "steps": "3"})
    assert [figure.notes[0].pitch.name for figure in series.figures] == ["Eb2", "D2", "Db2", "C2", "Db2", "D2", "Eb2"]
    assert all(figure.notes[0].to_breath_end for figure in series.figures)


def test_slurs_stay_on_one_tube_and_step_down() -> None:
    series = family_named("two-partial-slur").series(horn_named("trumpet-bb"))
    assert [figure.notes[0].tube.label for figure in series.figures] == ["0", "2", "1", "1-2", "2-3", "1-3", "1-2-3"]
    for figure in series.figures:
        assert [note.partial for note in figure.notes] == [3, 2, 3]
        assert [note.slurred for note in figure.notes] == [False, True, True]
    assert series.figures[6].notes[0].pitch.name == "B3"  # sharp, and B all the same
    assert series.figures[6].notes[0].instrument_cents == pytest.approx(53.6 + 2.0, abs=0.1)


def test_a_single_tube_can_be_chosen() -> None:
    assert len(family_named("two-partial-slur").series(horn_named("trombone-tenor"), {"tube": "4"}).figures) == 1


@pytest.mark.parametrize(
    ("params", "error", "says"),
    [
        ({"stepps": "3"}, FigureError, "stepps"),
        ({"steps": "many"}, FigureError, "whole number"),
        ({"steps": "99"}, FigureError, "0 to 12"),
        ({"start": "H2"}, PitchError, "H2"),
        ({"start": "C1"}, HornError, "no partial"),
        ({"dynamic": "loud"}, FigureError, "mf"),
    ],
)
def test_bad_parameters_are_refused(params: dict[str, str], error: type[Exception], says: str) -> None:
    with pytest.raises(error, match=says):
        family_named("long-low-tones").series(horn_named("trumpet-bb"), params)


def test_unknown_family() -> None:
    with pytest.raises(FigureError, match="long-low-tones"):
        family_named("scales-of-doom")


def test_hold_is_asked_of_long_tones_only() -> None:
    long, slur = figure_of("tuba-eb", "long-low-tones"), figure_of("tuba-eb", "two-partial-slur")
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


def test_slide_families_ask_for_a_slide() -> None:
    with pytest.raises(FigureError, match="hand slide"):
        family_named("glide-ladder").series(horn_named("trumpet-bb"))


def test_a_ladder_ends_where_the_horn_does() -> None:
    series = family_named("step-ladder").series(horn_named("trumpet-bb"), {"start": "D6", "rungs": "30"})
    assert [figure.notes[0].pitch.name for figure in series.figures] == ["D6", "Eb6", "E6", "F6"]
    assert series.advance == "climb"


def test_glide_ladder_starts_where_sliding_in_leads_on() -> None:
    series = family_named("glide-ladder").series(
        horn_named("trombone-tenor"), {"start": "Bb3", "after": "nothing more"}
    )
    first = series.figures[0].notes
    assert [note.tube.label for note in first] == ["5", "4"]
    assert first[0].partial == first[1].partial == 5
    assert first[1].glide_beats > 0


def test_a_third_over_a_drone_is_asked_low() -> None:
    series = family_named("against-a-drone").series(horn_named("tuba-eb"), {"root": "Eb2"})
    assert [round(figure.notes[0].target_cents, 1) for figure in series.figures] == [0.0, 2.0, -13.7]
    assert all(figure.drone is not None and figure.drone.name == "Eb2" for figure in series.figures)


def test_stairs_that_leave_the_horn_are_refused_in_words() -> None:
    with pytest.raises(FigureError, match="start higher"):
        family_named("interval-stairs").series(horn_named("trumpet-bb"), {"interval": "12", "notes": "5"})


def said_of(family_id: str, horn_id: str, pitch: str) -> str:
    """What is said of a family from that note: nothing where it can be made."""
    horn, family = horn_named(horn_id), family_named(family_id)
    keys = [param.key for param in family.specs(horn) if param.kind == "pitch"]
    try:
        family.series(horn, dict.fromkeys(keys, pitch))
    except (FigureError, HornError, PitchError) as error:
        return str(error)
    return ""


@pytest.mark.parametrize("horn_id", ["trumpet-bb", "trombone-bass", "tuba-f-5"])
def test_any_starting_note_gives_a_figure_or_a_sentence(horn_id: str) -> None:
    for family in families_for(horn_named(horn_id)):
        for midi in (24, 40, 52, 64, 76, 95):
            said = said_of(family.id, horn_id, pitch_of_midi(midi).name)
            assert not said or said.endswith("."), family.id


def test_a_figure_can_be_shortened() -> None:
    figure = figure_of("tuba-eb", "two-octave-scale", form="up and down")
    short = shortened(figure)
    assert 1 <= len(short.notes) <= len(figure.notes) // 2 + 1
    assert short.notes == figure.notes[: len(short.notes)]


def test_three_octaves_begin_where_they_lie_on_the_horn_or_say_why_not() -> None:
    family = family_named("two-octave-scale")
    made = 0
    for horn in HORNS.values():
        if horn.highest.midi - horn.lowest.midi < 36:
            with pytest.raises(FigureError, match="another form"):
                family.series(horn, {"form": "three octaves"})
            continue
        figure = family.series(horn, {"form": "three octaves"}).figures[0]
        midis = [note.pitch.midi for note in figure.notes]
        assert max(midis) - min(midis) == 36
        assert horn.lowest.midi <= min(midis) <= max(midis) <= horn.highest.midi
        made += 1
    assert made >= 18
    with pytest.raises(FigureError, match="start at F4 or lower"):
        family.series(HORNS["trumpet-bb"], {"start": "F5"})
