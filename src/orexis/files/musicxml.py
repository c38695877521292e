"""Figures as MusicXML 4.0, in the player's clef and transposition, fingering or position as a line under the notes."""

from lxml import etree

from orexis.core.figures import Figure, FigureNote
from orexis.core.horn import Instrument, Part
from orexis.core.theory import Pitch

DIVISIONS = 4
_CLEFS = {"treble": ("G", "2"), "bass": ("F", "4"), "alto": ("C", "3"), "tenor": ("C", "4")}
# Quarter lengths that one note head can show, longest first: type and dots.
_LENGTHS = (
    (4.0, "whole", 0), (3.0, "half", 1), (2.0, "half", 0), (1.5, "quarter", 1), (1.0, "quarter", 0),
    (0.75, "eighth", 1), (0.5, "eighth", 0), (0.25, "16th", 0),
)  # fmt: skip
_ACCIDENTALS = {0: "natural", 1: "sharp", -1: "flat", 2: "double-sharp", -2: "flat-flat"}
_DOCTYPE = (
    '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" '
    '"http://www.musicxml.org/dtds/partwise.dtd">'
)


def figure_to_musicxml(figure: Figure, horn: Instrument, part: Part, *, bare: bool = False) -> bytes:
    """A complete score of one part; note ids are kept (tied pieces add -2, -3 ...).

    `bare` leaves out what the screen says elsewhere: the horn's name and the tempo.
    """
    root = etree.Element("score-partwise", version="4.0")
    work = etree.SubElement(root, "work")
    _text(work, "work-title", figure.title)
    score_part = etree.SubElement(etree.SubElement(root, "part-list"), "score-part", id="P1")
    _text(score_part, "part-name", "" if bare else horn.name)
    body = etree.SubElement(root, "part", id="P1")
    _Writer(figure, part, body, bare=bare).write()
    return bytes(
        etree.tostring(
            root, xml_declaration=True, encoding="UTF-8", doctype=_DOCTYPE, pretty_print=True, standalone=False
        )
    )


def _text(parent: etree._Element, tag: str, text: str, **attributes: str) -> etree._Element:
    child = etree.SubElement(parent, tag, attributes)
    child.text = text
    return child


class _Writer:
    """Lays notes and rests into bars and ties what crosses a bar line."""

    def __init__(self, figure: Figure, part: Part, body: etree._Element, *, bare: bool) -> None:
        self._bare = bare
        self._figure, self._part, self._body = figure, part, body
        self._bar_beats = float(figure.beats_per_bar)
        self._beat = 0.0
        self._bar: etree._Element | None = None
        self._bars = 0
        self._accidentals: dict[tuple[str, int], int] = {}

    def write(self) -> None:
        notes = self._figure.notes
        for index, note in enumerate(notes):
            if note.start_beat > self._beat + 1e-6:
                self._fill(None, note.start_beat - self._beat, index)
            self._fill(note, note.beats, index)
        rest = -self._beat % self._bar_beats
        if rest > 1e-6:
            self._fill(None, rest, len(notes))
        if self._bar is not None:
            style = etree.SubElement(self._bar, "barline", location="right")
            _text(style, "bar-style", "light-heavy")

    def _fill(self, note: FigureNote | None, beats: float, index: int) -> None:
        """One note or rest, cut at bar lines and into lengths that a note head can show."""
        pieces: list[tuple[float, str, int]] = []
        left, beat = beats, self._beat
        while left > 1e-6:
            room = min(left, self._bar_beats - beat % self._bar_beats)
            length = next((item for item in _LENGTHS if item[0] <= room + 1e-6), _LENGTHS[-1])
            pieces.append(length)
            left, beat = left - length[0], beat + length[0]
        for number, piece in enumerate(pieces):
            self._open_bar()
            self._note(note, piece, index, number, len(pieces))
            self._beat += piece[0]

    def _open_bar(self) -> None:
        if self._beat % self._bar_beats > 1e-6:
            return
        self._bars += 1
        self._accidentals = {}
        self._bar = etree.SubElement(self._body, "measure", number=str(self._bars))
        if self._bars == 1:
            self._attributes(self._bar)

    def _attributes(self, bar: etree._Element) -> None:
        attributes = etree.SubElement(bar, "attributes")
        _text(attributes, "divisions", str(DIVISIONS))
        _text(etree.SubElement(attributes, "key"), "fifths", "0")
        time = etree.SubElement(attributes, "time")
        _text(time, "beats", str(self._figure.beats_per_bar))
        _text(time, "beat-type", "4")
        sign, line = _CLEFS[self._part.clef]
        clef = etree.SubElement(attributes, "clef")
        _text(clef, "sign", sign)
        _text(clef, "line", line)
        self._transpose(attributes)
        if not self._bare:
            self._tempo(bar)
        loud = etree.SubElement(bar, "direction", placement="below")
        etree.SubElement(etree.SubElement(etree.SubElement(loud, "direction-type"), "dynamics"), self._figure.dynamic)

    def _tempo(self, bar: etree._Element) -> None:
        direction = etree.SubElement(bar, "direction", placement="above")
        metronome = etree.SubElement(etree.SubElement(direction, "direction-type"), "metronome")
        _text(metronome, "beat-unit", "quarter")
        _text(metronome, "per-minute", f"{self._figure.tempo_bpm:g}")
        etree.SubElement(direction, "sound", tempo=f"{self._figure.tempo_bpm:g}")

    def _transpose(self, attributes: etree._Element) -> None:
        """From written to sounding: the opposite of the part's transposition."""
        interval = self._part.transposition
        if interval.semitones == 0:
            return
        sign = -1 if interval.semitones > 0 else 1
        octaves, chromatic = divmod(abs(interval.semitones), 12)
        transpose = etree.SubElement(attributes, "transpose")
        _text(transpose, "diatonic", str(sign * (abs(interval.steps) - 7 * octaves)))
        _text(transpose, "chromatic", str(sign * chromatic))
        if octaves:
            _text(transpose, "octave-change", str(sign * octaves))

    def _note(self, note: FigureNote | None, piece: tuple[float, str, int], index: int, number: int, of: int) -> None:
        assert self._bar is not None
        beats, kind, dots = piece
        suffix = "" if number == 0 else f"-{number + 1}"
        element = etree.SubElement(self._bar, "note")
        pitch = None
        if note is None:
            etree.SubElement(element, "rest")
        else:
            element.set("id", f"{note.id}{suffix}")
            pitch = self._part.transposition.written(note.pitch)
            self._pitch(element, pitch)
        _text(element, "duration", str(round(beats * DIVISIONS)))
        ties = [kind for kind, wanted in (("stop", number > 0), ("start", number + 1 < of)) if wanted] if note else []
        for tie in ties:
            etree.SubElement(element, "tie", type=tie)
        _text(element, "voice", "1")
        _text(element, "type", kind)
        for _ in range(dots):
            etree.SubElement(element, "dot")
        if note is not None and pitch is not None:
            self._accidental(element, pitch, tied=number > 0)
            self._notations(element, note, index, ties, first=number == 0, last=number + 1 == of)
            if number == 0:
                lyric = etree.SubElement(element, "lyric", number="1")
                _text(lyric, "syllabic", "single")
                _text(lyric, "text", self._tube_text(index))

    def _tube_text(self, index: int) -> str:
        """The tube under a note; the side of a double horn only where it changes."""
        notes = self._figure.notes
        label = notes[index].tube.label
        if index and notes[index - 1].tube.side == notes[index].tube.side:
            label = label.split()[-1]
        return _compact(label)

    def _pitch(self, element: etree._Element, pitch: Pitch) -> None:
        place = etree.SubElement(element, "pitch")
        _text(place, "step", pitch.step)
        if pitch.alter:
            _text(place, "alter", str(pitch.alter))
        _text(place, "octave", str(pitch.octave))

    def _accidental(self, element: etree._Element, pitch: Pitch, *, tied: bool) -> None:
        """Written out where the bar has not said it yet."""
        key = (pitch.step, pitch.octave)
        if not tied and self._accidentals.get(key, 0) != pitch.alter:
            _text(element, "accidental", _ACCIDENTALS[pitch.alter])
        self._accidentals[key] = pitch.alter

    def _notations(
        self, element: etree._Element, note: FigureNote, index: int, ties: list[str], *, first: bool, last: bool
    ) -> None:
        notes = self._figure.notes
        joins_on = index + 1 < len(notes) and notes[index + 1].slurred
        slurs = [
            kind
            for kind, wanted in (
                ("stop", last and note.slurred and not joins_on),
                ("start", first and joins_on and not note.slurred),
            )
            if wanted
        ]
        if not (ties or slurs or (last and note.to_breath_end)):
            return
        notations = etree.SubElement(element, "notations")
        for tie in ties:
            etree.SubElement(notations, "tied", type=tie)
        for slur in slurs:
            etree.SubElement(notations, "slur", type=slur, number="1")
        if last and note.to_breath_end:
            etree.SubElement(notations, "fermata", type="upright")


def _compact(label: str) -> str:
    """1-2-3 as 123 takes less room under a note; a side stays in front."""
    return label.replace("-", "")
