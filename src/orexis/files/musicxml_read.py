"""Tunes from MusicXML and compressed MXL, read by ourselves within bounds: no entities, no network, no bombs.

Of every part the first voice is taken, the upper note of a chord, ties joined, grace notes left out; repeats are written out.
What was left out or changed is told with the part. Written pitch becomes concert pitch by the part's own <transpose>. Times are read in quarter notes and become beats
of the meter at the end; a first bar that is shorter than the others is a pick-up.
"""

import io
import zipfile
import zlib
from dataclasses import dataclass, field, replace
from pathlib import PurePosixPath

from lxml import etree

from orexis.core.exercises import DYNAMICS, MOST_PARTS, Articulation, Melody, MelodyNote, Meter, TunePart, meter_of
from orexis.core.messages import tell
from orexis.core.theory import Pitch, transposed_fifths
from orexis.errors import ExerciseError, PitchError
from orexis.files import left_out
from orexis.files.musicxml import ARTICULATION_SIGNS
from orexis.files.play_order import play_order

MAX_XML_BYTES = 8_000_000  # unpacked: a long part has one or two million
MAX_FILE_BYTES = 2_000_000  # as it arrives
MAX_ELEMENTS = 200_000  # bounds the work of one file
MAX_TUNE_NOTES = 512  # the most that an exercise may hold
_MOST_FILES = 64  # a packed score holds three or four
_DIVISIONS = (1, 100_000)
_TEMPO_APART = 0.02  # a share; what differs by less is rounding
_GRID = 24  # parts of a quarter that a start or length is rounded to


@dataclass(slots=True)
class _Reading:
    """What has been read so far of the part."""

    divisions: int = 1
    beats: float = 0.0  # quarters, until the part is read
    meter: Meter | None = None
    first_bar: float | None = None
    fifths: int | None = None
    chromatic: int = 0
    tempo: float = 88.0
    voice: str | None = None
    slurs: int = 0
    notes: list[MelodyNote] = field(default_factory=list)
    tied: bool = False
    fresh_line: bool = True
    dynamic: str | None = None  # to stand under the next note
    says: dict[str, None] = field(default_factory=dict)  # what was left out or changed, in its order


def tune_from_mxl(data: bytes) -> tuple[TunePart, ...]:
    """A compressed score: the file its container names, unpacked no further than the limit."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            if len(archive.infolist()) > _MOST_FILES:
                raise ExerciseError(
                    tell(
                        "The score holds {count} files: at most {most_files}.",
                        count=len(archive.infolist()),
                        most_files=_MOST_FILES,
                    )
                )
            return tune_from_musicxml(_unpacked(archive, _root_name(archive)))
    except (
        zipfile.BadZipFile,
        KeyError,
        OSError,
        NotImplementedError,
        RuntimeError,
        EOFError,
        ValueError,
        zlib.error,
    ) as error:
        raise ExerciseError(
            "This compressed score cannot be unpacked: export it again, or as plain MusicXML."
        ) from error


def _root_name(archive: zipfile.ZipFile) -> str:
    container = _parsed(_unpacked(archive, "META-INF/container.xml", most=100_000))
    named = next((item.get("full-path") for item in container.iter("{*}rootfile") if item.get("full-path")), None)
    if not named or PurePosixPath(named).is_absolute() or ".." in PurePosixPath(named).parts:
        raise ExerciseError("This compressed score does not say which of its files is the music.")
    return named


def _unpacked(archive: zipfile.ZipFile, name: str, *, most: int = MAX_XML_BYTES) -> bytes:
    """Read at most `most` bytes, whatever size the archive declares."""
    with archive.open(name) as file:
        data = file.read(most + 1)
    if len(data) > most:
        raise ExerciseError(tell("The score unpacks to more than {most:g} MB: a tune is far smaller.", most=most / 1e6))
    return data


def _parsed(data: bytes) -> etree._Element:
    if len(data) > MAX_XML_BYTES:
        raise ExerciseError(
            tell(
                "The score has {count:.1f} MB: at most {max_xml_bytes:g}.",
                count=len(data) / 1e6,
                max_xml_bytes=MAX_XML_BYTES / 1e6,
            )
        )
    parser = etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False)
    try:
        root = etree.fromstring(data, parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise ExerciseError("This is no complete MusicXML: it breaks off or is malformed.") from error
    if root is None:
        raise ExerciseError("This MusicXML is empty.")
    return root


def tune_from_musicxml(data: bytes) -> tuple[TunePart, ...]:
    """The parts of a plain score that have notes; ExerciseError says what cannot be used."""
    root = _parsed(data)
    if etree.QName(root).localname != "score-partwise":
        raise ExerciseError("This score is not in the part-wise form: export it as MusicXML partwise.")
    if sum(1 for _, _ in zip(root.iter(), range(MAX_ELEMENTS + 1), strict=False)) > MAX_ELEMENTS:
        raise ExerciseError(
            tell(
                "The score has more than {max_elements} parts of notes: cut it down to the tune.",
                max_elements=MAX_ELEMENTS,
            )
        )
    title = (root.findtext("work/work-title") or root.findtext("movement-title") or "Tune").strip()[:60] or "Tune"
    names = {
        item.get("id"): (item.findtext("part-name") or "").strip() for item in root.findall("part-list/score-part")
    }
    parts: list[TunePart] = []
    refused: ExerciseError | None = None
    for number, part in enumerate(root.findall("part")[:MOST_PARTS], start=1):
        try:
            melody, says = _read_part(part, title)
        except ExerciseError as error:
            refused = refused or error
            continue
        if melody is not None:
            name = names.get(part.get("id") or "") or tell("part {number}", number=number)
            parts.append(TunePart(own_name(name, [item.name for item in parts]), melody, says))
    if not parts:
        raise refused or ExerciseError("The score has no part with notes: there is no music in it.")
    return tuple(parts)


def own_name(name: str, taken: list[str]) -> str:
    """A part's name, numbered where another has it."""
    short = " ".join(name.split())[:40]
    return short if short not in taken else f"{short} {sum(item.startswith(short) for item in taken) + 1}"


def _read_part(part: etree._Element, title: str) -> tuple[Melody | None, tuple[str, ...]]:
    """One part as a melody, None where it has no notes, and what was left out or changed."""
    reading = _Reading()
    bars = part.findall("measure")
    order = play_order(bars)
    divisions: dict[int, int] = {}  # as each bar began when it was first read
    for place, at in enumerate(order.bars):
        if place and at <= order.bars[place - 1]:
            reading.says.setdefault(left_out.JUMPS if order.jumped else left_out.REPEATS)
        reading.divisions = divisions.setdefault(at, reading.divisions)
        _bar(bars[at], reading)
    if not reading.notes:
        return None, ()
    meter = reading.meter or Meter()
    length = meter.beats_per_bar * meter.beat_quarters
    first = reading.first_bar or 0.0
    pickup = first if 0.0 < first < length - 1e-6 else 0.0
    melody = Melody(title, tuple(reading.notes), meter, reading.fifths or 0, reading.tempo, pickup)
    return melody_in_beats(melody), tuple(reading.says)


def melody_in_beats(read: Melody) -> Melody:
    """A melody whose times were read in quarters, on the grid and in beats of its meter; no note is shorter than one part of the
    grid.
    """
    beat = read.meter.beat_quarters
    notes = tuple(
        replace(
            note,
            start_beat=round(_grid(note.start_beat) / beat, 6),
            beats=round(max(1 / _GRID, _grid(note.beats)) / beat, 6),
        )
        for note in read.notes
    )
    tempo = min(300.0, max(20.0, read.tempo_bpm / beat))
    return replace(read, notes=notes, tempo_bpm=tempo, pickup=round(_grid(read.pickup) / beat, 6))


def _grid(beats: float) -> float:
    return round(round(beats * _GRID) / _GRID, 6)


def _bar(bar: etree._Element, reading: _Reading) -> None:
    if any(item.get("new-system") == "yes" or item.get("new-page") == "yes" for item in bar.findall("print")):
        reading.fresh_line = True
    start = furthest = reading.beats
    for item in bar:
        match etree.QName(item).localname if isinstance(item.tag, str) else "":
            case "attributes":
                _attributes(item, reading)
            case "direction" | "sound":
                _tempo(item, reading)
                _dynamic(item, reading)
            case "note":
                _note(item, reading)
            case "backup":
                reading.beats = max(start, reading.beats - _duration(item, reading))
            case "forward":
                reading.beats += _duration(item, reading)
        furthest = max(furthest, reading.beats)
    reading.beats = furthest
    if reading.first_bar is None:
        reading.first_bar = furthest - start


def _attributes(item: etree._Element, reading: _Reading) -> None:
    reading.divisions = _whole(item, "divisions", *_DIVISIONS) or reading.divisions
    fifths = _whole(item, "key/fifths", -7, 7)
    transpose = item.find("transpose")
    if transpose is not None:
        octaves = _whole(transpose, "octave-change", -4, 4) or 0
        reading.chromatic = (_whole(transpose, "chromatic", -36, 36) or 0) + 12 * octaves
    if fifths is not None:
        key = transposed_fifths(fifths, reading.chromatic)
        if reading.fifths is None:
            reading.fifths = key
        elif key != reading.fifths:
            reading.says[left_out.KEY] = None
    beats, kind = _whole(item, "time/beats", 1, 64), _whole(item, "time/beat-type", 1, 64)
    if beats is not None and kind is not None:
        if reading.meter is None:
            reading.meter = meter_of(beats, kind)
        elif reading.meter != meter_of(beats, kind):
            reading.says[left_out.METER] = None


def _tempo(item: etree._Element, reading: _Reading) -> None:
    sound = item if item.tag == "sound" else item.find("sound")
    text = sound.get("tempo") if sound is not None else None
    try:
        value = min(300.0, max(20.0, float(text))) if text else None
    except ValueError:
        return
    if value is None:
        return
    if not reading.notes:
        reading.tempo = value
    elif abs(value - reading.tempo) > _TEMPO_APART * reading.tempo:
        reading.says[left_out.TEMPO] = None


def _dynamic(item: etree._Element, reading: _Reading) -> None:
    """A loudness that is written below the staff; accents such as sf say nothing of the notes after them."""
    for mark in item.iterfind("direction-type/dynamics/*"):
        name = etree.QName(mark).localname if isinstance(mark.tag, str) else ""
        reading.dynamic = {"ppp": "pp", "fff": "ff"}.get(name, name if name in DYNAMICS else reading.dynamic)


def _whole(item: etree._Element, path: str, low: int, high: int) -> int | None:
    """A whole number within bounds; None where there is none; ExerciseError where it makes no sense."""
    text = item.findtext(path)
    if text is None:
        return None
    try:
        value = int(text.strip())
    except ValueError:
        value = low - 1
    if not low <= value <= high:
        raise ExerciseError(
            tell(
                "The score's {path} is “{text}”: it must be {low} to {high}.",
                path=path,
                text=text.strip()[:20],
                low=low,
                high=high,
            )
        )
    return value


def _duration(item: etree._Element, reading: _Reading) -> float:
    return (_whole(item, "duration", 0, 10_000_000) or 0) / reading.divisions


def _note(item: etree._Element, reading: _Reading) -> None:
    if item.find("grace") is not None or item.find("cue") is not None:
        if item.find("grace") is not None:
            reading.says[left_out.GRACE] = None
        return
    length = _duration(item, reading)
    if item.find("chord") is not None:
        _upper_of_chord(item, reading)
        return
    start, reading.beats = reading.beats, reading.beats + length
    voice = item.findtext("voice") or "1"
    if item.find("pitch") is None or length <= 0:
        return
    reading.voice = reading.voice or voice
    if voice != reading.voice:
        reading.says[left_out.VOICES] = None
        return
    midi = _midi(item, reading)
    ties = {tie.get("type") for tie in item.findall("tie")}
    if "stop" in ties and reading.tied and reading.notes and reading.notes[-1].midi == midi:
        last = reading.notes[-1]
        reading.notes[-1] = replace(last, beats=last.beats + length)
    else:
        if len(reading.notes) >= MAX_TUNE_NOTES:
            raise ExerciseError(
                tell(
                    "The score has more than {max_tune_notes} notes: cut it down to the tune.",
                    max_tune_notes=MAX_TUNE_NOTES,
                )
            )
        slurred = reading.slurs > 0 and bool(reading.notes)
        reading.notes.append(
            MelodyNote(
                midi,
                start,
                length,
                slurred,
                new_line=reading.fresh_line,
                dynamic=reading.dynamic,
                articulation=_articulation(item),
            )
        )
        reading.fresh_line, reading.dynamic = False, None
    reading.tied = "start" in ties
    for slur in item.findall("notations/slur"):
        reading.slurs = max(0, reading.slurs + {"start": 1, "stop": -1}.get(slur.get("type") or "", 0))


def _articulation(item: etree._Element) -> Articulation | None:
    """A dot, a line, or both of them."""
    signs = {sign.tag for sign in item.iterfind("notations/articulations/*")}
    if {"staccato", "tenuto"} <= signs:
        return Articulation.PORTATO
    return next((kind for kind, sign in ARTICULATION_SIGNS.items() if sign in signs), None)


def _upper_of_chord(item: etree._Element, reading: _Reading) -> None:
    if item.find("pitch") is None or not reading.notes:
        return
    reading.says[left_out.CHORDS] = None
    midi = _midi(item, reading)
    if midi > reading.notes[-1].midi:
        reading.notes[-1] = replace(reading.notes[-1], midi=midi)


def _midi(item: etree._Element, reading: _Reading) -> int:
    step = (item.findtext("pitch/step") or "").strip()
    octave = _whole(item, "pitch/octave", 0, 9)
    alter = _whole(item, "pitch/alter", -2, 2) or 0
    try:
        return Pitch(step, alter, octave if octave is not None else -9).midi + reading.chromatic
    except PitchError as error:
        raise ExerciseError(tell("The score has a note that is no pitch: {error}", error=error)) from error
