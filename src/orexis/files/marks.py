"""What stands above and below the notes: words, dynamics, hairpins, octave lines. Made once for an exercise, given by piece."""

from dataclasses import dataclass, field
from itertools import pairwise

from lxml import etree

from orexis.core.exercises import DYNAMICS, Exercise, ExerciseNote, Medium
from orexis.core.instruments import Part
from orexis.files.layout import Piece, tick_of

# Diatonic steps above C0 of the lowest and highest line of each clef.
_STAFF = {"treble": (30, 38), "bass": (18, 26), "alto": (24, 32), "tenor": (22, 30)}
_MOST_LEDGER_LINES = 4  # more than four are counted, not read
_LEAST_HAIRPIN = 1.0  # beats; a shorter one has no room between its dynamics


@dataclass(slots=True)
class Marks:
    """Directions by tick: those before the piece that starts there, and those once a note is over."""

    before: dict[int, list[etree._Element]] = field(default_factory=dict)
    ends: dict[int, list[etree._Element]] = field(default_factory=dict)

    def at(self, piece: Piece) -> list[etree._Element]:
        """Directions at the piece's start; what would fall inside it comes with an offset."""
        elements = []
        for tick in sorted(t for t in self.before if piece.start <= t < piece.end):
            for direction in self.before.pop(tick):
                if tick > piece.start:
                    offset = etree.Element("offset")
                    offset.text = str(tick - piece.start)
                    direction.append(offset)
                elements.append(direction)
        return elements

    def after(self, piece: Piece) -> list[etree._Element]:
        """Directions that end with the piece."""
        return self.ends.pop(piece.end, [])

    def add(self, tick: int, direction: etree._Element) -> None:
        """Before what starts at the tick."""
        self.before.setdefault(tick, []).append(direction)

    def end(self, tick: int, direction: etree._Element) -> None:
        """After what ends at the tick."""
        self.ends.setdefault(tick, []).append(direction)


def marks_of(exercise: Exercise, part: Part) -> Marks:
    """Return the marks of an exercise by tick: octave lines, words, dynamics, hairpins."""
    marks = Marks()
    _octaves(exercise, part, marks)
    _words(exercise, marks)
    _dynamics(exercise, marks)
    _hairpins(exercise, marks)
    return marks


def _direction(place: str, kind: str, text: str | None = None, **attributes: str) -> etree._Element:
    direction = etree.Element("direction", placement=place)
    child = etree.SubElement(etree.SubElement(direction, "direction-type"), kind, attributes)
    child.text = text
    return direction


def _words(exercise: Exercise, marks: Marks) -> None:
    """A note's words; parts between bars are spread evenly over its length."""
    for note in exercise.notes:
        parts = note.text.split("|") if note.text else []
        for place, words in enumerate(parts):
            tick = tick_of(exercise, note.start_beat + note.beats * place / len(parts))
            marks.add(tick, _direction("above", "words", words.strip(), **{"font-style": "italic", "font-size": "9"}))


def _dynamics(exercise: Exercise, marks: Marks) -> None:
    if exercise.medium == Medium.AIR:
        return
    last = None
    for place, note in enumerate(exercise.notes):
        wanted = note.dynamic or (exercise.dynamic if place == 0 else None)
        if wanted and wanted != last:
            direction = etree.Element("direction", placement="below")
            etree.SubElement(etree.SubElement(etree.SubElement(direction, "direction-type"), "dynamics"), wanted)
            marks.add(tick_of(exercise, note.start_beat), direction)
            last = wanted


def _hairpins(exercise: Exercise, marks: Marks) -> None:
    """Under a shaped note, and between two dynamics of a line that grows or eases."""
    for note in exercise.notes:
        start, end = tick_of(exercise, note.start_beat), tick_of(exercise, note.start_beat + note.beats)
        if note.shape == "swell-and-fade":
            _wedge(marks, "crescendo", start, (start + end) // 2)
            _wedge(marks, "diminuendo", (start + end) // 2, end)
        elif note.shape in ("swell", "fade"):
            _wedge(marks, "crescendo" if note.shape == "swell" else "diminuendo", start, end)
    if exercise.loudness in ("grow", "ease"):
        for first, second in pairwise(note for note in exercise.notes if note.dynamic):
            _hairpin_between(exercise, first, second, marks)


def _hairpin_between(exercise: Exercise, first: ExerciseNote, second: ExerciseNote, marks: Marks) -> None:
    after = first.start_beat + first.beats
    if second.start_beat - after >= _LEAST_HAIRPIN:
        grows = DYNAMICS.index(second.dynamic or "mf") > DYNAMICS.index(first.dynamic or "mf")
        kind = "crescendo" if grows else "diminuendo"
        _wedge(marks, kind, tick_of(exercise, after), tick_of(exercise, second.start_beat))


def _wedge(marks: Marks, kind: str, start: int, end: int) -> None:
    if end > start:
        marks.add(start, _direction("below", "wedge", type=kind, number="1"))
        marks.end(end, _direction("below", "wedge", type="stop", number="1"))


def _octaves(exercise: Exercise, part: Part, marks: Marks) -> None:
    """Runs of notes far outside the staff are written an octave nearer, under or over a dashed line."""
    low, high = _STAFF[part.clef]
    shifts = []
    for note in exercise.notes:
        place = part.transposition.written(note.pitch).staff_place
        below, above = (low - place) // 2, (place - high) // 2
        shifts.append("up" if below > _MOST_LEDGER_LINES else "down" if above > _MOST_LEDGER_LINES else None)
    for place, note in enumerate(exercise.notes):
        kind = shifts[place]
        if kind is None:
            continue
        if place == 0 or shifts[place - 1] != kind:
            marks.add(tick_of(exercise, note.start_beat), _shift(kind))
        if place + 1 == len(shifts) or shifts[place + 1] != kind:
            marks.end(tick_of(exercise, note.start_beat + note.beats), _shift("stop"))


def _shift(kind: str) -> etree._Element:
    return _direction("below" if kind == "up" else "above", "octave-shift", type=kind, size="8")
