"""Exercises as MusicXML 4.0, in the player's clef and transposition.

Fingering or position stands as a line under the notes, and (but where it is only for our own page) at each note for other programs.
"""

from dataclasses import replace

from lxml import etree

from orexis.core.exercises import Accompanied, Articulation, Exercise, ExerciseNote, Medium
from orexis.core.instruments import Fingering, Instrument, Part
from orexis.core.theory import Key, Pitch, transposed_fifths
from orexis.files.layout import TICKS, Bar, Piece, bars_of
from orexis.files.marks import Marks, marks_of

_CLEFS = {"treble": ("G", "2"), "bass": ("F", "4"), "alto": ("C", "3"), "tenor": ("C", "4")}
_ACCIDENTALS = {0: "natural", 1: "sharp", -1: "flat", 2: "double-sharp", -2: "flat-flat"}
# The note that a beat is, by its length in quarters, and whether it is dotted.
_UNITS: dict[float, tuple[str, bool]] = {
    4.0: ("whole", False), 3.0: ("half", True), 2.0: ("half", False), 1.5: ("quarter", True), 1.0: ("quarter", False),
    0.75: ("eighth", True), 0.5: ("eighth", False), 0.25: ("16th", False),
}  # fmt: skip
ARTICULATION_SIGNS = {
    Articulation.FULL: "tenuto",
    Articulation.PORTATO: "detached-legato",
    Articulation.SHORT: "staccato",
}
_DOCTYPE = (
    '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" '
    '"http://www.musicxml.org/dtds/partwise.dtd">'
)


def exercise_to_musicxml(exercise: Exercise, instrument: Instrument, part: Part, *, bare: bool = False) -> bytes:
    """A complete score of one part; note ids are kept (tied pieces add -2, -3 ...).

    `bare` leaves out what the screen says elsewhere: the instrument's name and the tempo.
    """
    root = etree.Element("score-partwise", version="4.0")
    work = etree.SubElement(root, "work")
    _text(work, "work-title", exercise.title)
    parts = etree.SubElement(root, "part-list")
    second = _second_part(exercise)
    for number, line in enumerate((exercise, second), start=1):
        if line is None:
            continue
        score_part = etree.SubElement(parts, "score-part", id=f"P{number}")
        _text(score_part, "part-name", "" if bare else instrument.name)
        body = etree.SubElement(root, "part", id=f"P{number}")
        _Writer(line, part, body, bare=bare, fingered=number == 1).write()
    return bytes(
        etree.tostring(
            root, xml_declaration=True, encoding="UTF-8", doctype=_DOCTYPE, pretty_print=True, standalone=False
        )
    )


def _second_part(exercise: Exercise) -> Exercise | None:
    """What sounds under the line, as a line of its own."""
    sounds = exercise.accompaniment
    if sounds is None or sounds.kind != Accompanied.SECOND_PART:
        return None
    lines = {note.start_beat for note in exercise.notes if note.new_line}
    notes = tuple(
        ExerciseNote(
            f"s{number}", note.pitch, note.start_beat, note.beats, Fingering(), 0, new_line=note.start_beat in lines
        )
        for number, note in enumerate(sounds.notes, start=1)
        if note.start_beat >= exercise.notes[0].start_beat  # not what sounds while it is counted in
    )
    return replace(exercise, notes=notes, accompaniment=None, loudness=None, dynamic="")


def _text(parent: etree._Element, tag: str, text: str, **attributes: str) -> etree._Element:
    child = etree.SubElement(parent, tag, attributes)
    child.text = text
    return child


class _Writer:
    """Writes bars of pieces; directions before the piece they stand at."""

    def __init__(
        self, exercise: Exercise, part: Part, body: etree._Element, *, bare: bool, fingered: bool = True
    ) -> None:
        self._fingered = fingered
        self._exercise, self._part, self._body, self._bare = exercise, part, body, bare
        self._fifths = 0 if exercise.key is None else transposed_fifths(exercise.key, part.transposition.semitones)
        self._marks: Marks = marks_of(exercise, part)
        self._accidentals: dict[tuple[str, int], int] = {}

    def write(self) -> None:
        bars = bars_of(self._exercise)
        first = 0 if self._exercise.pickup else 1
        for number, bar in enumerate(bars, start=first):
            element = etree.SubElement(self._body, "measure", number=str(number))
            if number == 0:
                element.set("implicit", "yes")
            if bar.new_line:
                etree.SubElement(element, "print", {"new-system": "yes"})
            if bar is bars[0]:
                self._attributes(element)
            self._bar(element, bar)
            if bar is bars[-1]:
                _text(etree.SubElement(element, "barline", location="right"), "bar-style", "light-heavy")

    def _bar(self, element: etree._Element, bar: Bar) -> None:
        self._accidentals = {}
        for piece in bar.pieces:
            for direction in self._marks.at(piece):
                element.append(direction)
            self._note(element, piece)
            for direction in self._marks.after(piece):
                element.append(direction)

    def _attributes(self, bar: etree._Element) -> None:
        attributes = etree.SubElement(bar, "attributes")
        _text(attributes, "divisions", str(TICKS))
        _text(etree.SubElement(attributes, "key"), "fifths", str(self._fifths))
        time = etree.SubElement(attributes, "time")
        beats, kind = self._exercise.meter.signature
        _text(time, "beats", str(beats))
        _text(time, "beat-type", str(kind))
        sign, line = _CLEFS[self._part.clef]
        clef = etree.SubElement(attributes, "clef")
        _text(clef, "sign", sign)
        _text(clef, "line", line)
        self._transpose(attributes)
        if not self._bare:
            self._tempo(bar)

    def _tempo(self, bar: etree._Element) -> None:
        direction = etree.SubElement(bar, "direction", placement="above")
        metronome = etree.SubElement(etree.SubElement(direction, "direction-type"), "metronome")
        unit, dotted = _UNITS[self._exercise.beat_quarters]
        _text(metronome, "beat-unit", unit)
        if dotted:
            etree.SubElement(metronome, "beat-unit-dot")
        _text(metronome, "per-minute", f"{self._exercise.tempo_bpm:g}")
        etree.SubElement(direction, "sound", tempo=f"{self._exercise.tempo_bpm * self._exercise.beat_quarters:g}")

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

    def _note(self, bar: etree._Element, piece: Piece) -> None:
        note = None if piece.index is None else self._exercise.notes[piece.index]
        element = etree.SubElement(bar, "note")
        if note is None:
            etree.SubElement(element, "rest", {"measure": "yes"} if piece.whole_bar else {})
        else:
            element.set("id", note.id if piece.part == 0 else f"{note.id}-{piece.part + 1}")
            written = self._written(note.pitch)
            self._pitch(element, written)
        _text(element, "duration", str(piece.ticks))
        ties = _ties(piece) if note is not None else []
        for tie in ties:
            etree.SubElement(element, "tie", type=tie)
        _text(element, "voice", "1")
        if not piece.whole_bar:
            _text(element, "type", piece.kind)
            for _ in range(piece.dots):
                etree.SubElement(element, "dot")
        if note is not None:
            self._accidental(element, written, tied=piece.part > 0)
        if piece.triplet:
            ratio = etree.SubElement(element, "time-modification")
            _text(ratio, "actual-notes", "3")
            _text(ratio, "normal-notes", "2")
        if note is not None:
            if self._exercise.medium != Medium.INSTRUMENT:
                _text(element, "notehead", "x")
            for level, beam in enumerate(piece.beams, start=1):
                _text(element, "beam", beam, number=str(level))
            self._notations(element, note, piece, ties)
            fingering = self._fingering_text(piece) if piece.part == 0 else None
            if fingering:
                lyric = etree.SubElement(element, "lyric", number="1")
                _text(lyric, "syllabic", "single")
                _text(lyric, "text", fingering)

    def _written(self, pitch: Pitch) -> Pitch:
        """The part's pitch, spelled in the part's key."""
        plain = self._part.transposition.written(pitch)
        spelled = Key(self._fifths).spelled(plain.midi)
        return (
            spelled
            if self._exercise.key is not None and abs(spelled.alter) <= 1 and _inside(spelled, self._fifths)
            else plain
        )

    def _fingering_text(self, piece: Piece) -> str | None:
        """The fingering under a note: where it changes and at the start of a line; a side only where it changes."""
        if self._exercise.medium != Medium.INSTRUMENT or piece.index is None or not self._fingered:
            return None
        notes = self._exercise.notes
        note, before = notes[piece.index], notes[piece.index - 1] if piece.index else None
        if before is not None and before.fingering == note.fingering and not note.new_line:
            return None
        label = note.fingering.label
        if before is not None and before.fingering.side == note.fingering.side and not note.new_line:
            label = label.split()[-1]
        return label

    def _pitch(self, element: etree._Element, pitch: Pitch) -> None:
        place = etree.SubElement(element, "pitch")
        _text(place, "step", pitch.step)
        if pitch.alter:
            _text(place, "alter", str(pitch.alter))
        _text(place, "octave", str(pitch.octave))

    def _accidental(self, element: etree._Element, pitch: Pitch, *, tied: bool) -> None:
        """Written out where neither the key nor the bar has said it yet."""
        place = (pitch.step, pitch.octave)
        said = self._accidentals.get(place, Key(self._fifths).alter_of(pitch.step))
        if not tied and said != pitch.alter:
            _text(element, "accidental", _ACCIDENTALS[pitch.alter])
        if not tied:
            self._accidentals[place] = pitch.alter

    def _notations(self, element: etree._Element, note: ExerciseNote, piece: Piece, ties: list[str]) -> None:
        notations = etree.Element("notations")
        for tie in ties:
            etree.SubElement(notations, "tied", type=tie)
        if piece.tuplet:
            etree.SubElement(notations, "tuplet", type=piece.tuplet, number="1", bracket="no")
        for kind in self._slurs(piece):
            etree.SubElement(notations, "slur", type=kind, number="1")
        for kind in self._glides(piece):
            etree.SubElement(notations, "glissando", {"type": kind, "number": "1", "line-type": "solid"})
        if piece.part == 0 and self._exercise.medium == Medium.INSTRUMENT and self._fingered and not self._bare:
            technical = etree.SubElement(notations, "technical")
            for finger in _fingers(note):
                _text(technical, "fingering", finger)
        if piece.last and note.to_breath_end:
            etree.SubElement(notations, "fermata", type="upright")
        signs = ["accent"] if piece.part == 0 and note.accent else []
        if piece.part == 0 and note.articulation is not None:
            signs.append(ARTICULATION_SIGNS[note.articulation])
        breathes = self._breath_after(piece)
        if signs or breathes:
            articulations = etree.SubElement(notations, "articulations")
            for sign in signs:
                etree.SubElement(articulations, sign)
            if breathes:
                etree.SubElement(articulations, "breath-mark").text = "comma"
        if len(notations):
            element.append(notations)

    def _next(self, piece: Piece) -> ExerciseNote | None:
        notes = self._exercise.notes
        return notes[piece.index + 1] if piece.index is not None and piece.index + 1 < len(notes) else None

    def _slurs(self, piece: Piece) -> list[str]:
        note, following = self._exercise.notes[piece.index or 0], self._next(piece)
        joins_on = following is not None and following.slurred
        stops = piece.last and note.slurred and not joins_on
        starts = piece.part == 0 and joins_on and not note.slurred
        return [kind for kind, wanted in (("stop", stops), ("start", starts)) if wanted]

    def _glides(self, piece: Piece) -> list[str]:
        note, following = self._exercise.notes[piece.index or 0], self._next(piece)
        into = piece.part == 0 and note.glide_beats > 0
        away = piece.last and following is not None and following.glide_beats > 0
        return [kind for kind, wanted in (("stop", into), ("start", away)) if wanted]

    def _breath_after(self, piece: Piece) -> bool:
        """A breath mark stands behind the note before the one that asks for it, unless a rest lies between."""
        note, following = self._exercise.notes[piece.index or 0], self._next(piece)
        if following is None or not piece.last or not following.breath:
            return False
        return following.start_beat - note.start_beat - note.beats < 0.05


def _fingers(note: ExerciseNote) -> list[str]:
    """Valves one by one, 0 for none; a slide's position as one, its valves before it."""
    fingering = note.fingering
    if fingering.position is not None:
        return [fingering.label]
    return [str(valve) for valve in fingering.valves] or ["0"]


def _ties(piece: Piece) -> list[str]:
    return [kind for kind, wanted in (("stop", piece.part > 0), ("start", not piece.last)) if wanted]


def _inside(pitch: Pitch, fifths: int) -> bool:
    return Key(fifths).alter_of(pitch.step) == pitch.alter
