"""A tune or a figure from a file of any kind that we read, told by its first bytes."""

from dataclasses import replace

from orexis.core.figures import Figure, Melody, family_named, melody_figure, octaves_into_range
from orexis.core.horn import Instrument
from orexis.errors import FigureError
from orexis.files.figure_json import figure_from_json
from orexis.files.midi_read import melody_from_midi
from orexis.files.musicxml_read import MAX_FILE_BYTES, MAX_XML_BYTES, melody_from_musicxml, melody_from_mxl


def read_tune(data: bytes) -> Melody | Figure:
    """What the file holds; FigureError when it is none of MusicXML, MXL, MIDI or our own JSON."""
    head = data[:64].lstrip(b"\xef\xbb\xbf \t\r\n")
    if data[:4] == b"MThd":
        return melody_from_midi(data)
    if data[:4] == b"PK\x03\x04":
        if len(data) > MAX_FILE_BYTES:
            raise FigureError(f"The compressed score has {len(data) / 1e6:.1f} MB: at most {MAX_FILE_BYTES / 1e6:g}.")
        return melody_from_mxl(data)
    if head[:1] == b"{":
        return figure_from_json(data)
    if head[:1] == b"<" or data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        if len(data) > MAX_XML_BYTES:
            raise FigureError(f"The score has {len(data) / 1e6:.1f} MB: at most {MAX_XML_BYTES / 1e6:g}.")
        return melody_from_musicxml(data)
    raise FigureError("This file is none of those that are read: MusicXML, MXL, MIDI, or a figure of Orexis (JSON).")


def placed_figure(read: Melody | Figure, horn: Instrument, *, octave: int | None = None, semitones: int = 0) -> Figure:
    """The tune on a horn: in the octave that fits best (or the one asked for, counted from there) and so much higher."""
    if isinstance(read, Figure):
        if read.horn != horn.id:
            raise FigureError(f"The figure was made for another horn ({read.horn}): choose that horn to use it.")
        return read
    moved = read.moved(semitones)
    shift = octaves_into_range(moved, horn) + (octave or 0)
    placed = moved.moved(12 * shift)
    key = read.title.lower().replace(" ", "-")[:40]
    return replace(melody_figure(placed, family_named("tune"), horn, name=key), title=read.title)
