"""What we write is valid and sounds the same to readers that are not ours; what we read comes back as it was."""

import io
import zipfile
from functools import lru_cache
from pathlib import Path
from typing import Any

import mido
import music21
import musicxml
import pytest
import verovio
import xmlschema
from lxml import etree

from orexis.core.exercises import (
    Exercise,
    Melody,
    MelodyNote,
    TunePart,
    checked_score,
    exercise_types_for,
    meter_of,
    octaves_into_range,
    score_says,
    score_series,
)
from orexis.core.exercises.build import JOINS
from orexis.core.exercises.phrasing import is_long, phrases_of
from orexis.core.instruments import INSTRUMENTS, instrument_named
from orexis.errors import ExerciseError
from orexis.files.engraving import exercise_to_svg
from orexis.files.midi import exercise_to_midi
from orexis.files.musicxml import exercise_to_musicxml
from orexis.files.tune_files import read_tune
from tests.conftest import exercise_of, some

WIDE = ("trumpet-bb", "horn-f-bb", "trombone-bass", "tuba-bbb")


@lru_cache
def schema() -> Any:
    """The published schema, shipped inside a package; the links it imports are named but not fetched."""
    path = Path(musicxml.__file__).parent / "generate_classes" / "musicxml_4_0.xsd"
    tree = etree.parse(str(path))
    for item in tree.iter("{http://www.w3.org/2001/XMLSchema}import"):
        item.attrib.pop("schemaLocation", None)
    xlink = """<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema" targetNamespace="http://www.w3.org/1999/xlink">
      <xs:attribute name="href" type="xs:anyURI"/><xs:attribute name="type" type="xs:string"/>
      <xs:attribute name="role" type="xs:token"/><xs:attribute name="title" type="xs:token"/>
      <xs:attribute name="show" type="xs:token"/><xs:attribute name="actuate" type="xs:token"/></xs:schema>"""
    xml = """<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema"
      targetNamespace="http://www.w3.org/XML/1998/namespace"><xs:attribute name="lang" type="xs:language"/>
      <xs:attribute name="space" type="xs:token"/></xs:schema>"""
    return xmlschema.XMLSchema([xlink, xml, etree.tostring(tree).decode()], allow="none")


def exercises(instrument_id: str) -> list[Exercise]:
    return [
        exercise_type.series(instrument_named(instrument_id)).exercises[-1]
        for exercise_type in exercise_types_for(instrument_named(instrument_id))
    ]


@pytest.mark.parametrize("instrument_id", WIDE)
def test_every_exercise_type_is_valid_against_the_schema(instrument_id: str) -> None:
    instrument = instrument_named(instrument_id)
    for exercise in exercises(instrument_id):
        for part in instrument.parts:
            errors = [
                error.reason
                for error in schema().iter_errors(exercise_to_musicxml(exercise, instrument, part).decode())
            ]
            assert not errors, (exercise.id, errors[:2])


def test_the_schema_does_refuse() -> None:
    instrument = instrument_named("tuba-eb")
    xml = exercise_to_musicxml(exercise_of("tuba-eb", "two-partial-slur"), instrument, instrument.parts[0]).decode()
    assert not schema().is_valid(xml.replace("<step>", "<stop>").replace("</step>", "</stop>"))


def sounding_by_verovio(xml: bytes) -> list[int]:
    toolkit = verovio.toolkit()
    assert toolkit.loadData(xml.decode())
    import base64

    file = mido.MidiFile(file=io.BytesIO(base64.b64decode(toolkit.renderToMIDI())))
    return [m.note for track in file.tracks for m in track if m.type == "note_on" and m.velocity > 0]


def sounding_by_music21(xml: bytes) -> list[int]:
    score = music21.converter.parseData(xml, format="musicxml").toSoundingPitch().stripTies()
    return [item.pitch.midi for item in score.recurse().notes]


@pytest.mark.parametrize("instrument_id", some(WIDE, 2))
def test_two_other_readers_hear_the_same_notes(instrument_id: str) -> None:
    instrument = instrument_named(instrument_id)
    for exercise in exercises(instrument_id):
        asked = [note.pitch.midi for note in exercise.notes]
        for part in instrument.parts:
            xml = exercise_to_musicxml(exercise, instrument, part)
            assert sounding_by_music21(xml) == asked, (exercise.id, part.id)
            assert sounding_by_verovio(xml) == asked, (exercise.id, part.id)


@pytest.mark.parametrize("form", ["musicxml", "mxl", "midi"])
@pytest.mark.parametrize("instrument_id", WIDE)
def test_a_tune_comes_back_as_it_was(instrument_id: str, form: str) -> None:
    instrument = instrument_named(instrument_id)
    for title in ("Mill Pond Waltz", "Hedge Road", "Top of the Stair"):
        exercise = exercise_of(instrument_id, "tune", tune=title)
        xml = exercise_to_musicxml(exercise, instrument, instrument.parts[0])
        data = {"musicxml": xml, "mxl": packed(xml), "midi": exercise_to_midi(exercise)}[form]
        melody = only(data)
        assert [note.midi for note in melody.notes] == [note.pitch.midi for note in exercise.notes]
        lead = exercise.count_in_beats if form == "midi" else 0
        assert [n.start_beat - lead for n in melody.notes] == pytest.approx(
            [n.start_beat for n in exercise.notes], abs=0.01
        )
        assert [n.beats for n in melody.notes] == pytest.approx([n.beats for n in exercise.notes], abs=0.01)
        if form != "midi":
            assert melody.meter == exercise.meter
            assert [n.slurred for n in melody.notes] == [n.slurred for n in exercise.notes]
        assert (melody.key, melody.title) == (exercise.key, title)


@pytest.mark.parametrize("join", ["tongued and full", "portato", "short"])
def test_dots_and_lines_come_back(join: str) -> None:
    exercise = exercise_of("trumpet-bb", "one-octave-scale", join=join)
    trumpet = instrument_named("trumpet-bb")
    read = only(exercise_to_musicxml(exercise, trumpet, trumpet.parts[0]))
    assert [note.articulation for note in read.notes] == [note.articulation for note in exercise.notes]
    assert {note.articulation for note in read.notes} == {JOINS[join], None}


def only(data: bytes) -> Melody:
    """The tune of a file with one part."""
    read = read_tune(data)
    assert isinstance(read, tuple)
    assert len(read) == 1
    return read[0].melody


def packed(xml: bytes, name: str = "tune.xml", container: str | None = None) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(
            "META-INF/container.xml",
            container or f'<container><rootfiles><rootfile full-path="{name}"/></rootfiles></container>',
        )
        archive.writestr(name, xml)
    return out.getvalue()


def test_a_tune_is_placed_on_another_instrument_by_octaves() -> None:
    trumpet, tuba = instrument_named("trumpet-bb"), instrument_named("tuba-eb")
    exercise = exercise_of("trumpet-bb", "tune", tune="Two Bridges")
    melody = only(exercise_to_musicxml(exercise, trumpet, trumpet.parts[0]))
    parts = (TunePart("cornet", melody),)
    placed = score_series(tuba, parts, {"cut": "whole"} if is_long(melody) else {}).exercises[-1]
    moved = {a.pitch.midi - b.pitch.midi for a, b in zip(placed.notes, exercise.notes, strict=True)}
    assert moved == {12 * octaves_into_range(melody, tuba)}
    assert all(tuba.lowest.midi <= note.pitch.midi <= tuba.highest.midi for note in placed.notes)


SCORE = (
    '<score-partwise version="4.0"><part-list><score-part id="P1"><part-name/></score-part></part-list><part id="P1">'
    "<measure number='1'><attributes><divisions>{divisions}</divisions><time><beats>4</beats>"
    "<beat-type>{kind}</beat-type></time></attributes>{notes}</measure></part></score-partwise>"
)
NOTE = "<note><pitch><step>C</step><octave>{octave}</octave></pitch><duration>4</duration></note>"
ENTITIES = (
    '<!DOCTYPE s [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;">'
    '<!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;">]>'
)


def score(*, divisions: object = 1, kind: object = 4, notes: str = NOTE.format(octave=4)) -> bytes:
    return SCORE.format(divisions=divisions, kind=kind, notes=notes).encode()


def bomb() -> bytes:
    return packed(b"<score-partwise>" + b" " * 300_000_000 + b"</score-partwise>")


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "none of those"),
        (b"hello", "none of those"),
        (b"<score-partwise>", "breaks off"),
        (b"<score-timewise/>", "part-wise"),
        (b"<score-partwise/>", "no part"),
        (score(kind=0), "beat-type"),
        (score(kind=3), "is not read"),
        (score(divisions=0), "divisions"),
        (score(divisions="many"), "divisions"),
        (score(notes=""), "no part with notes"),
        (score(notes=NOTE.format(octave=99)), "octave"),
        (score(notes=NOTE.format(octave=4) * 600), "more than 512"),
        (ENTITIES.encode() + score(notes="<note>&c;</note>"), "no part with notes"),
        (b"<score-partwise>" + b"<part><measure/></part>" * 400_000 + b"</score-partwise>", "MB"),
        (b"<score-partwise><part>" + b"<a/>" * 210_000 + b"</part></score-partwise>", "more than 200000"),
        (b"PK\x03\x04" + b"\x00" * 60, "unpacked"),
        (
            packed(b"<score-partwise/>", container='<c><rootfile full-path="../../etc/passwd"/></c>'),
            "which of its files",
        ),
        (packed(b"<score-partwise/>", container="<c/>"), "which of its files"),
        (b"MThd" + b"\x00" * 40, "MIDI"),
        (b"MThd\x00\x00\x00\x06\x00\x01\x00\x01\x00\x00", "MIDI"),
        (b"MThd" + b"\x00" * 400_000, "MB"),
        (b"{}", "no exercise"),
    ],
)
def test_what_cannot_be_used_gets_a_sentence_at_once(data: bytes, says: str) -> None:
    import time

    start = time.perf_counter()
    with pytest.raises(ExerciseError, match=says) as caught:
        read_tune(data)
    assert time.perf_counter() - start < 1.0
    assert str(caught.value).endswith(".")


def test_a_compressed_bomb_is_read_no_further_than_the_limit() -> None:
    with pytest.raises(ExerciseError, match="unpacks to more"):
        read_tune(bomb())


def test_a_million_midi_notes_are_refused() -> None:
    events = b"\x00\x90\x3c\x40\x01\x3c\x00" * 1_000_000
    data = b"MThd\x00\x00\x00\x06\x00\x00\x00\x01\x01\xe0MTrk" + len(events).to_bytes(4, "big") + events
    with pytest.raises(ExerciseError, match="MB"):
        read_tune(data)


def test_a_tune_wider_than_the_instrument_is_refused_in_words() -> None:
    notes = NOTE.format(octave=1) + NOTE.format(octave=8)
    with pytest.raises(ExerciseError, match="does not fit"):
        score_series(instrument_named("trumpet-bb"), (TunePart("all", only(score(notes=notes))),), {})


SIGNATURES = ((6, 8), (9, 8), (12, 8), (5, 4), (2, 2), (3, 2), (3, 8), (7, 8), (4, 4), (6, 4))


@pytest.mark.parametrize(("upper", "lower"), SIGNATURES)
def test_any_meter_is_read_counted_engraved_and_written_as_it_was(upper: int, lower: int) -> None:
    meter = meter_of(upper, lower)
    assert meter.signature == (upper, lower)
    assert meter.beats_per_bar * meter.beat_quarters == pytest.approx(4.0 * upper / lower)
    instrument = instrument_named("trumpet-bb")
    part = 1 / 3 if meter.compound else 1.0
    count = round(2 * meter.beats_per_bar / part)
    notes = tuple(MelodyNote(65 + i % 5, round(i * part, 6), round(part, 6)) for i in range(count))
    for pickup in (0.0, part):
        made = Melody("In time", notes, meter, -1, 60.0, round(pickup, 6))
        exercise = score_series(instrument, (TunePart("all", made),), {"tempo": "60"}).exercises[-1]
        # A pick-up comes at its own place: the bar that follows begins on a bar's beat of the count.
        assert (exercise.count_in_beats + pickup) % meter.beats_per_bar == pytest.approx(0.0, abs=1e-5)
        assert exercise.count_in_beats >= min(2.0, meter.beats_per_bar)
        assert exercise.clicks >= exercise.count_in_beats + exercise.beats - 1e-6
        xml = exercise_to_musicxml(exercise, instrument, instrument.parts[0])
        assert schema().is_valid(xml.decode())
        assert f"<beats>{upper}</beats>".encode() in xml
        melody = only(xml)
        assert (melody.meter, melody.key) == (meter, -1)
        assert melody.pickup == pytest.approx(pickup, abs=1e-3)
        assert melody.tempo_bpm == pytest.approx(60.0, abs=0.01)
        assert [n.start_beat for n in melody.notes] == pytest.approx([n.start_beat for n in notes], abs=1e-3)
        assert sounding_by_music21(xml) == sounding_by_verovio(xml) == [note.midi for note in notes]
        back = only(exercise_to_midi(exercise))
        assert (back.meter, back.key) == (meter, -1)
        assert [n.start_beat - exercise.count_in_beats for n in back.notes] == pytest.approx(
            [n.start_beat for n in notes], abs=0.05
        )
        for note in exercise.notes:
            assert f'data-id="{note.id}"' in exercise_to_svg(exercise, instrument, instrument.parts[0])


def test_a_long_tune_is_cut_into_phrases_that_add_up() -> None:
    notes = tuple(
        MelodyNote(60 + i % 7, i + i // 16, 2.0 if i % 16 == 15 else 1.0, slurred=i % 16 in (3, 7)) for i in range(96)
    )
    tune = Melody("Long Meadow", notes, meter_of(4, 4), 0, 96.0, 0.0)
    phrases = phrases_of(tune)
    assert len(phrases) > 2
    assert [note.midi for phrase in phrases for note in phrase.notes] == [note.midi for note in notes]
    for phrase in phrases:
        assert len(phrase.notes) <= 40
        assert phrase.notes[0].start_beat == 0.0
        assert not phrase.notes[0].slurred
        assert 0.0 <= phrase.pickup < 4.0
    # Where the tune rests on a long note a phrase ends.
    assert all(phrase.notes[-1].beats == 2.0 for phrase in phrases)
    series = score_series(instrument_named("trumpet-bb"), (TunePart("solo", tune),), {})
    assert [len(exercise.notes) for exercise in series.exercises] == [*(len(p.notes) for p in phrases), 96]
    assert series.exercises[1].title == "Long Meadow, phrase 2"


def test_a_part_an_octave_and_a_height_are_chosen() -> None:
    instrument = instrument_named("trombone-tenor")
    xml = score(notes=NOTE.format(octave=4) * 4).replace(
        b"</part></score-partwise>",
        b'</part><part id="P2"><measure number="1"><attributes><divisions>1</divisions></attributes>'
        + (NOTE.format(octave=3) * 4).replace("<step>C", "<step>G").encode()
        + b"</measure></part></score-partwise>",
    )
    read = read_tune(
        xml.replace(b"</part-list>", b'<score-part id="P2"><part-name>Bass</part-name></score-part></part-list>')
    )
    assert isinstance(read, tuple)
    assert [part.name for part in read] == ["part 1", "Bass"]
    bass = score_series(instrument, read, {"part": "Bass", "octave": "an octave down", "semitones": "2"}).exercises[0]
    plain = score_series(instrument, read, {"part": "Bass", "semitones": "2"}).exercises[0]
    assert bass.notes[0].pitch.midi % 12 == 9
    assert plain.notes[0].pitch.midi - bass.notes[0].pitch.midi == 12
    with pytest.raises(ExerciseError, match="Part is"):
        score_series(instrument, read, {"part": "Flute"})
    with pytest.raises(ExerciseError, match="parts"):
        checked_score(())
    late = MelodyNote(60, 2.0, 1.0)
    with pytest.raises(ExerciseError, match="overlap"):
        checked_score((TunePart("x", Melody("x", (late, MelodyNote(60, 1.0, 1.0)))),))


@pytest.mark.parametrize("instrument_id", some([*WIDE, *sorted(set(INSTRUMENTS) - set(WIDE))], 4))
def test_no_text_is_lost_in_engraving(instrument_id: str) -> None:
    """Words above the notes and fingerings below them all reach the page."""
    instrument = instrument_named(instrument_id)
    for exercise in exercises(instrument_id)[::4]:
        svg = exercise_to_svg(exercise, instrument, instrument.parts[0])
        for note in exercise.notes:
            for words in (note.text or "").split("|"):
                assert words.strip() in svg, exercise.id


def bars(*inner: str) -> bytes:
    """A score in 2/4 of half notes, a bar for each."""
    first = "<attributes><divisions>2</divisions><time><beats>2</beats><beat-type>4</beat-type></time></attributes>"
    made = "".join(f"<measure number='{n}'>{first if n == 1 else ''}{bar}</measure>" for n, bar in enumerate(inner, 1))
    return (
        '<score-partwise version="4.0"><part-list><score-part id="P1"><part-name/></score-part></part-list>'
        f'<part id="P1">{made}</part></score-partwise>'
    ).encode()


def half(step: str) -> str:
    return f"<note><pitch><step>{step}</step><octave>4</octave></pitch><duration>4</duration></note>"


def sign(direction: str, more: str = "") -> str:
    return f'<barline><repeat direction="{direction}" {more}/></barline>'


def ending(kind: str, number: str) -> str:
    return f'<barline><ending type="{kind}" number="{number}"/></barline>'


@pytest.mark.parametrize(
    ("score", "played"),
    [
        (bars(half("C"), half("D") + sign("backward"), half("E")), "CDCDE"),
        (bars(half("C"), sign("forward") + half("D") + sign("backward", 'times="3"'), half("E")), "CDDDE"),
        (
            bars(
                half("C"),
                ending("start", "1, 2") + half("D") + ending("stop", "1, 2") + sign("backward"),
                ending("start", "3") + half("E") + ending("stop", "3"),
                sign("forward") + half("F") + sign("backward"),
            ),
            "CDCDCEFF",
        ),
        (bars(half("C") + sign("backward"), half("D") + sign("backward"), half("E")), "CCDDE"),
    ],
    ids=["from the start", "three times", "endings", "one after another"],
)
def test_repeats_are_written_out(score: bytes, played: str) -> None:
    (part,) = read_tune(score)
    assert isinstance(part, TunePart)
    assert "".join("C D EF G A B"[note.midi % 12] for note in part.melody.notes) == played
    assert [note.start_beat for note in part.melody.notes] == [2.0 * at for at in range(len(played))]
    assert part.says == ("Repeats are written out.",)


def jump(**marks: str) -> str:
    return f"<sound {' '.join(f'{name}={value!r}' for name, value in marks.items())}/>"


def said(words: str) -> str:
    return f"<direction><direction-type><words>{words}</words></direction-type></direction>"


TO_CODA = said("To Coda") + "<direction><direction-type><coda/></direction-type></direction>"
CODA = "<direction><direction-type><coda/></direction-type></direction>"
SEGNO = "<direction><direction-type><segno/></direction-type></direction>"


@pytest.mark.parametrize(
    ("score", "played"),
    [
        (bars(half("C"), half("D") + jump(fine="yes"), half("E") + jump(dacapo="yes")), "CDECD"),
        (bars(half("C"), half("D") + said("Fine"), half("E") + said("D.C. al Fine")), "CDECD"),
        (
            bars(half("C"), SEGNO + half("D"), half("E") + TO_CODA, half("F") + said("D.S. al Coda"), CODA + half("G")),
            "CDEFDEG",
        ),
        (
            bars(half("C"), half("D") + sign("backward"), half("E") + jump(fine="yes"), half("F") + jump(dacapo="yes")),
            "CDCDEFCDE",
        ),
        (
            bars(
                half("C"),
                ending("start", "1") + half("D") + ending("stop", "1") + sign("backward"),
                ending("start", "2") + half("E") + ending("stop", "2"),
                half("F") + said("D.C."),
            ),
            "CDCEFCEF",
        ),
        (bars(half("C"), half("D") + jump(dalsegno="x")), "CD"),
    ],
    ids=["fine", "words", "coda", "repeats once", "last ending", "no segno"],
)
def test_jumps_are_written_out(score: bytes, played: str) -> None:
    (part,) = read_tune(score)
    assert isinstance(part, TunePart)
    assert "".join("C D EF G A B"[note.midi % 12] for note in part.melody.notes) == played
    assert any("da capo" in line for line in part.says) == (len(played) > 2)


def test_written_loudness_is_read() -> None:
    def mark(name: str) -> str:
        return f"<direction><direction-type><dynamics><{name}/></dynamics></direction-type></direction>"

    (part,) = read_tune(bars(mark("p") + half("C"), half("D"), mark("fff") + half("E"), mark("sfz") + half("F")))
    assert isinstance(part, TunePart)
    assert [note.dynamic for note in part.melody.notes] == ["p", None, "ff", None]


def test_repeats_without_end_are_refused() -> None:
    rest = "<note><rest/><duration>4</duration></note>"
    with pytest.raises(ExerciseError, match="1024 bars"):
        read_tune(bars(*[rest] * 200, sign("backward", 'times="8"')))


def test_what_changes_on_the_way_is_said() -> None:
    changed = (
        "<attributes><key><fifths>{}</fifths></key><time><beats>{}</beats><beat-type>4</beat-type></time></attributes>"
    )
    slower = '<sound tempo="60"/>'
    written = bars(half("C"), changed.format(0, 2) + half("D"), slower + changed.format(2, 3) + half("E"))
    (part,) = read_tune(written)
    assert isinstance(part, TunePart)
    assert [line.split()[1] for line in part.says] == ["tempo", "key", "meter"]
    assert only(bars(half("C"), half("D"))).notes
    grace = "<note><grace/><pitch><step>C</step><octave>5</octave></pitch></note>"
    (quiet,) = read_tune(bars(half("C"), grace + half("D"), '<sound dacapo="yes"/>'))
    assert isinstance(quiet, TunePart)
    assert [line[:5] for line in quiet.says] == ["Grace", "Repea"]


def test_a_part_for_the_instrument_in_hand_stays_as_it_is_written() -> None:
    instrument = instrument_named("horn-f-bb")
    exercise = exercise_of("horn-f-bb", "one-octave-scale", start="C4")
    parts = (TunePart("instrument", only(exercise_to_musicxml(exercise, instrument, instrument.parts[0]))),)
    top = max(note.pitch.midi for note in exercise.notes)
    for octave in ("where it fits best", "as written"):
        placed = score_series(instrument, parts, {"octave": octave}).exercises[-1]
        assert max(note.pitch.midi for note in placed.notes) == top
        assert score_says(instrument, parts, {"octave": octave}) == ()
    tuba = instrument_named("tuba-eb")
    assert score_says(tuba, parts, {})[0] == "It’s placed an octave lower than written."
    with pytest.raises(ExerciseError):
        score_series(tuba, parts, {"octave": "as written"})
