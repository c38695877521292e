"""What leaves on paper, in a calendar, in tables, as sound: read back by other libraries."""

import csv
import io
from collections.abc import Iterator
from datetime import UTC, date, datetime, timedelta
from pathlib import Path

import mido
import numpy as np
import pytest
import soundfile
from icalendar import Calendar
from lxml import etree

from orexis.core.exercises import exercise_type_named
from orexis.core.instruments import INSTRUMENTS
from orexis.core.planning import CheckIn, GoalKind, GoalTarget, day_series
from orexis.core.player import play
from orexis.core.practice import Event, EventName
from orexis.core.theory.naming import NoteNames
from orexis.errors import ExerciseError
from orexis.files.midi import exercise_to_midi
from orexis.files.musicxml import exercise_to_musicxml
from orexis.files.sheets import PracticeSheet, SheetPart, sheet_to_pdf
from orexis.files.soundfiles import sound_as
from orexis.services.application import Application
from orexis.services.clock import now
from orexis.services.material.chart import chart
from orexis.services.paper.calendar import weeks_as_calendar
from orexis.services.paper.sheets import chart_sheet, day_sheet, in_names, report_sheet, series_sheet
from orexis.services.paper.tables import NOTES, TAKES, chart_csv, notes_csv, takes_csv
from orexis.services.queries.spans import Span


@pytest.fixture(scope="module")
def house(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Application]:
    made = Application(tmp_path_factory.mktemp("paper"))
    person = made.players.add(name="=Wenna Tull", standard="developing", instrument="tuba-eb", part="bass", a4_hz=440.0)
    session = made.sessions.open(person.id, "long-low-tones", {"steps": "2"})
    sound, _ = play(made.sessions.get(session.id).exercise, seed=1)
    take = made.takes.whole(session.id, sound, source="file", first_beat_sample=0, device={})
    made.takes.remark(take.id, '=HYPERLINK("x")')
    made.takes.happen(session.id, Event(EventName.STOP))
    yield made
    made.close()


def pages(data: bytes) -> int:
    assert data.startswith(b"%PDF-")
    assert data.rstrip().endswith(b"%%EOF")
    return data.count(b"/Type /Page\n") or data.count(b"/Type/Page/") or data.count(b"/Type /Page")


def test_sheets_are_pdf_and_the_same_sheet_gives_the_same_bytes(house: Application) -> None:
    person = house.players.all()[0]
    series = person.series("partial-chain", {})
    whole, one = series_sheet(person, series), series_sheet(person, series, only=0)
    assert len(one.parts) == 1
    assert len(whole.parts) == len(series.exercises)
    assert sheet_to_pdf(whole) == sheet_to_pdf(whole)
    assert pages(sheet_to_pdf(whole)) >= pages(sheet_to_pdf(one)) >= 1
    # A wide exercise fills the line, a short one keeps its size.
    assert all(5.0 < picture.width <= 100.0 for part in whole.parts for picture in part.pictures)


def test_what_is_written_is_never_markup() -> None:
    hostile = '#panic("x") *a* $x$ @ref <label> \\ ` [ ] "'
    part = SheetPart(hostile, hostile, (hostile,), head=(hostile,), rows=((hostile,),), columns=(1,), align=("left",))
    assert sheet_to_pdf(PracticeSheet(hostile, hostile, hostile, (part,))).startswith(b"%PDF-")
    with pytest.raises(ExerciseError, match="too much"):
        sheet_to_pdf(PracticeSheet("x", "", "", (SheetPart(),) * 500))


def test_a_day_the_chart_and_a_report_on_paper(house: Application) -> None:
    person = house.players.all()[0]
    known, plan = house.planning.day(person, 30, CheckIn())
    day = day_sheet(person, plan, day_series(known, plan), date(2026, 3, 2))
    assert day.title == "Monday, 2 March 2026"
    assert sum(" min" in part.right for part in day.parts) == len(plan.blocks)
    assert pages(sheet_to_pdf(day)) <= 2  # half an hour
    rows = chart(person.own_instrument, person.own_instrument.part(person.part), a4=440.0)
    ways = chart_sheet(person, rows)
    assert len(ways.parts[0].rows) == len(rows)
    written = {row[0] for row in in_names(ways, NoteNames.SYLLABLES).parts[0].rows}
    assert {"Si♭3", "Do4"} <= written
    assert not {name for name in written if name[0] in "ABCEG"}
    today = now().date()
    shown = house.progress.read(person.id, 12)
    sides = house.spans.compare(
        person.id, Span(today - timedelta(days=60), today - timedelta(days=30)), Span(today - timedelta(days=29), today)
    )
    report = report_sheet(person, shown, sides, house.tuning.read(person.id), today)
    for sheet in (day, chart_sheet(person, rows), report):
        assert pages(sheet_to_pdf(sheet)) >= 1


def test_the_calendar_is_read_back(house: Application) -> None:
    person = house.players.all()[0]
    performance = (now().date() + timedelta(days=9)).isoformat()
    house.players.change_settings(person.id, {"performances": [performance], "practice_at": "19:30"})
    house.goals.add(person.id, GoalTarget(GoalKind.HOLD, 18.0), now().date() + timedelta(weeks=6))
    data = weeks_as_calendar(house.players.get(person.id), house.planning.weeks(person.id), house.goals.all(person.id))
    events = list(Calendar.from_ical(data).walk("VEVENT"))
    practice = [item for item in events if str(item["summary"]).startswith("Practice")]
    assert len(practice) >= 10
    assert {str(item.decoded("dtstart").time()) for item in practice} == {"19:30:00"}
    assert all(item.decoded("dtend") > item.decoded("dtstart") for item in events)
    assert len({str(item["uid"]) for item in events}) == len(events)
    assert any(str(item["summary"]) == "Performance" for item in events)
    assert any("Goal" in str(item["summary"]) for item in events)


def test_tables_have_every_take_and_note_and_no_formula(house: Application) -> None:
    player = house.players.all()[0].id
    takes = list(csv.DictReader(io.StringIO("".join(takes_csv(house.record, player)))))
    assert tuple(takes[0]) == TAKES
    assert len(takes) == 1
    assert takes[0]["remark"].startswith("'=")
    assert datetime.fromisoformat(takes[0]["started_at"]).tzinfo == UTC
    notes = list(csv.DictReader(io.StringIO("".join(notes_csv(house.record, player)))))
    assert tuple(notes[0]) == NOTES
    assert {(row["date"], row["exercise"]) for row in notes} == {(takes[0]["started_at"][:10], takes[0]["title"])}
    assert [row["note"] for row in notes if row["note"] != "extra"] == takes[0]["written"].split()
    measures = house.takes.get(takes[0]["id"]).measures
    assert [float(row["pitch_error_cents"]) for row in notes if row["pitch_error_cents"]] == [
        note.pitch_error_cents for note in measures.notes if note.pitch_error_cents is not None
    ]
    person = house.players.get(player)
    ways = list(
        csv.DictReader(
            io.StringIO("".join(chart_csv(chart(person.own_instrument, person.own_instrument.parts[0], a4=440))))
        )
    )
    assert {"written", "way", "cents", "slide_mm"} <= set(ways[0])


@pytest.mark.parametrize(("form", "within"), [("wav", 0.002), ("mp3", 0.1)])
def test_sound_in_other_formats_is_as_long_and_sounds(
    house: Application, tmp_path: Path, form: str, within: float
) -> None:
    player = house.players.all()[0].id
    take = house.log.takes(house.log.page(player).sessions[0].id)[0]
    path = house.record.sound_path(take.id)
    out = tmp_path / f"take.{form}"
    out.write_bytes(sound_as(path, form))
    was, rate = soundfile.read(str(path))
    found, same = soundfile.read(str(out))
    assert same == rate
    assert len(found) == pytest.approx(len(was), abs=within * rate)
    assert np.std(found) == pytest.approx(np.std(was), rel=0.1)


@pytest.mark.parametrize("instrument_id", ["trumpet-bb", "trombone-tenor-f"])
def test_other_programs_are_told_the_fingers_the_key_and_the_instrument(instrument_id: str) -> None:
    instrument = INSTRUMENTS[instrument_id]
    exercise = exercise_type_named("one-octave-scale").series(instrument, {}).exercises[0]
    root = etree.fromstring(exercise_to_musicxml(exercise, instrument, instrument.parts[0]))
    fingers = [
        [finger.text for finger in note.iterfind("notations/technical/fingering")]
        for note in root.iterfind(".//note[pitch]")
    ]
    expected = [
        [note.fingering.label] if instrument.slides else [str(v) for v in note.fingering.valves] or ["0"]
        for note in exercise.notes
    ]
    assert fingers == expected
    bare = etree.fromstring(exercise_to_musicxml(exercise, instrument, instrument.parts[0], bare=True))
    assert bare.find(".//fingering") is None
    head = {
        message.type: message for message in mido.MidiFile(file=io.BytesIO(exercise_to_midi(exercise))).tracks[0][:6]
    }
    assert head["track_name"].name == exercise.title
    assert head["time_signature"].numerator == exercise.beats_per_bar
    assert head["program_change"].program == (57 if instrument.slides else 56)
    assert "key_signature" in head
