"""Tunes from MusicXML and compressed MXL, read by ourselves within bounds: no entities, no network, no bombs.

The first part's first voice is taken, the upper note of a chord, ties joined, grace notes left out; repeats are played as
written once. Written pitch becomes concert pitch by the part's own <transpose>. Times are in quarter notes.
"""

import io
import zipfile
from dataclasses import dataclass, field, replace
from pathlib import PurePosixPath

from lxml import etree

from orexis.core.figures import Melody, MelodyNote
from orexis.core.theory import Pitch, transposed_fifths
from orexis.errors import FigureError, PitchError

MAX_XML_BYTES = 8_000_000
MAX_FILE_BYTES = 2_000_000
MAX_ELEMENTS = 200_000
MAX_TUNE_NOTES = 512
_MOST_FILES = 64
_DIVISIONS = (1, 100_000)
_GRID = 24  # parts of a quarter that a start or length is rounded to


@dataclass(slots=True)
class _Reading:
    """What has been read so far of the part."""

    divisions: int = 1
    beats: float = 0.0
    per_bar: int | None = None
    fifths: int | None = None
    chromatic: int = 0
    tempo: float = 88.0
    voice: str | None = None
    slurs: int = 0
    notes: list[MelodyNote] = field(default_factory=list)
    tied: bool = False
    fresh_line: bool = True


def melody_from_mxl(data: bytes) -> Melody:
    """A compressed score: the file its container names, unpacked no further than the limit."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            if len(archive.infolist()) > _MOST_FILES:
                raise FigureError(f"The score holds {len(archive.infolist())} files: at most {_MOST_FILES}.")
            return melody_from_musicxml(_unpacked(archive, _root_name(archive)))
    except (zipfile.BadZipFile, KeyError, OSError, NotImplementedError, RuntimeError, EOFError, ValueError) as error:
        raise FigureError("This compressed score cannot be unpacked: export it anew, or as plain MusicXML.") from error


def _root_name(archive: zipfile.ZipFile) -> str:
    container = _parsed(_unpacked(archive, "META-INF/container.xml", most=100_000))
    named = next((item.get("full-path") for item in container.iter("{*}rootfile") if item.get("full-path")), None)
    if not named or PurePosixPath(named).is_absolute() or ".." in PurePosixPath(named).parts:
        raise FigureError("This compressed score does not say which of its files is the music.")
    return named


def _unpacked(archive: zipfile.ZipFile, name: str, *, most: int = MAX_XML_BYTES) -> bytes:
    """Read at most `most` bytes, whatever size the archive declares."""
    with archive.open(name) as file:
        data = file.read(most + 1)
    if len(data) > most:
        raise FigureError(f"The score unpacks to more than {most / 1e6:g} MB: a tune is far smaller.")
    return data


def _parsed(data: bytes) -> etree._Element:
    if len(data) > MAX_XML_BYTES:
        raise FigureError(f"The score has {len(data) / 1e6:.1f} MB: at most {MAX_XML_BYTES / 1e6:g}.")
    parser = etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False)
    try:
        root = etree.fromstring(data, parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise FigureError("This is no complete MusicXML: it breaks off or is malformed.") from error
    if root is None:
        raise FigureError("This MusicXML is empty.")
    return root


def melody_from_musicxml(data: bytes) -> Melody:
    """A tune from a plain score; FigureError says what cannot be used."""
    root = _parsed(data)
    if etree.QName(root).localname != "score-partwise":
        raise FigureError("This score is not in the part-wise form: export it as MusicXML partwise.")
    if sum(1 for _, _ in zip(root.iter(), range(MAX_ELEMENTS + 1), strict=False)) > MAX_ELEMENTS:
        raise FigureError(f"The score has more than {MAX_ELEMENTS} parts of notes: cut it down to the tune.")
    part = root.find("part")
    if part is None:
        raise FigureError("The score has no part: there is no music in it.")
    reading = _Reading()
    for bar in part.findall("measure"):
        _bar(bar, reading)
    if not reading.notes:
        raise FigureError("The score's first part has no notes: put the tune there.")
    title = (root.findtext("work/work-title") or root.findtext("movement-title") or "Tune").strip()[:60] or "Tune"
    notes = _on_grid(reading.notes)
    return Melody(title, notes, reading.per_bar or 4, reading.fifths or 0, reading.tempo)


def _on_grid(notes: list[MelodyNote]) -> tuple[MelodyNote, ...]:
    """Starts and lengths on the grid; no note is shorter than one part of it."""
    return tuple(
        replace(note, start_beat=_grid(note.start_beat), beats=max(1 / _GRID, _grid(note.beats))) for note in notes
    )


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
            case "note":
                _note(item, reading)
            case "backup":
                reading.beats = max(start, reading.beats - _duration(item, reading))
            case "forward":
                reading.beats += _duration(item, reading)
        furthest = max(furthest, reading.beats)
    reading.beats = furthest


def _attributes(item: etree._Element, reading: _Reading) -> None:
    reading.divisions = _whole(item, "divisions", *_DIVISIONS) or reading.divisions
    fifths = _whole(item, "key/fifths", -7, 7)
    transpose = item.find("transpose")
    if transpose is not None:
        octaves = _whole(transpose, "octave-change", -4, 4) or 0
        reading.chromatic = (_whole(transpose, "chromatic", -36, 36) or 0) + 12 * octaves
    if fifths is not None and reading.fifths is None:
        reading.fifths = transposed_fifths(fifths, reading.chromatic)
    beats, kind = _whole(item, "time/beats", 1, 64), _whole(item, "time/beat-type", 1, 64)
    if beats is not None and kind is not None and reading.per_bar is None:
        quarters = beats * 4.0 / kind
        if quarters != round(quarters) or not 1 <= quarters <= 16:
            raise FigureError(f"A bar of {beats}/{kind} is not a whole number of quarters: write it in another meter.")
        reading.per_bar = round(quarters)


def _tempo(item: etree._Element, reading: _Reading) -> None:
    sound = item if item.tag == "sound" else item.find("sound")
    value = sound.get("tempo") if sound is not None else None
    if value and not reading.notes:
        try:
            reading.tempo = min(300.0, max(20.0, float(value)))
        except ValueError:
            return


def _whole(item: etree._Element, path: str, low: int, high: int) -> int | None:
    """A whole number within bounds; None where there is none; FigureError where it makes no sense."""
    text = item.findtext(path)
    if text is None:
        return None
    try:
        value = int(text.strip())
    except ValueError:
        value = low - 1
    if not low <= value <= high:
        raise FigureError(f"The score's {path} is “{text.strip()[:20]}”: it must be {low} to {high}.")
    return value


def _duration(item: etree._Element, reading: _Reading) -> float:
    return (_whole(item, "duration", 0, 10_000_000) or 0) / reading.divisions


def _note(item: etree._Element, reading: _Reading) -> None:
    if item.find("grace") is not None or item.find("cue") is not None:
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
        return
    midi = _midi(item, reading)
    ties = {tie.get("type") for tie in item.findall("tie")}
    if "stop" in ties and reading.tied and reading.notes and reading.notes[-1].midi == midi:
        last = reading.notes[-1]
        reading.notes[-1] = replace(last, beats=last.beats + length)
    else:
        if len(reading.notes) >= MAX_TUNE_NOTES:
            raise FigureError(f"The score has more than {MAX_TUNE_NOTES} notes: cut it down to the tune.")
        slurred = reading.slurs > 0 and bool(reading.notes)
        reading.notes.append(MelodyNote(midi, start, length, slurred, new_line=reading.fresh_line))
        reading.fresh_line = False
    reading.tied = "start" in ties
    for slur in item.findall("notations/slur"):
        reading.slurs = max(0, reading.slurs + {"start": 1, "stop": -1}.get(slur.get("type") or "", 0))


def _upper_of_chord(item: etree._Element, reading: _Reading) -> None:
    if item.find("pitch") is None or not reading.notes:
        return
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
        raise FigureError(f"The score has a note that is no pitch: {error}") from error
