"""A melody from a line of text: `C4:2 D - E F4:4, rest:2 G`.

| written | means |
|---|---|
| `Bb3`, `F#4`, `G` | a note as written in the part; without an octave, the one nearest to the note before |
| `:2`, `:0.5` | its length in beats; without one, that of the note before (the first: 1) |
| `-` between two notes | slurred into the next |
| `,` | a breath: a new phrase begins |
| `rest:2` | silence |
| `(p)` | played softly from the next note on: pp, p, mp, mf, f, ff |
| `(short)` | tongued notes are short from the next one on; or `(full)`, `(portato)`, `(plain)` |
"""

import re
from dataclasses import dataclass, field

from orexis.core.exercises.exercise import DYNAMICS, MAX_NOTES
from orexis.core.exercises.kinds import Articulation
from orexis.core.exercises.melody import Melody, MelodyNote
from orexis.core.exercises.meter import Meter
from orexis.core.messages import tell
from orexis.core.theory import Pitch, Transposition, parse_pitch, transposed_fifths
from orexis.errors import ExerciseError, PitchError

MAX_LINE = 4000  # letters
_LENGTHS = (0.25, 16.0)  # beats
_WORDS = re.compile(r"[,-]|[^\s,-]+")
_ARTICULATIONS: dict[str, Articulation | None] = {"(plain)": None} | {f"({item})": item for item in Articulation}
_ITEM = re.compile(r"(rest|[A-Ga-g](?:#|b)?)(\d)?(?::(\d{1,2}(?:\.\d{1,2})?))?")


@dataclass(slots=True)
class _Line:
    beat: float = 0.0
    length: float = 1.0
    last: Pitch | None = None
    slurred: bool = False
    phrase: bool = False
    dynamic: str | None = None
    articulation: Articulation | None = None
    notes: list[MelodyNote] = field(default_factory=list)


def melody_of_line(
    text: str, transposition: Transposition, *, title: str, tempo_bpm: float = 72.0, meter: Meter | None = None
) -> Melody:
    """The melody in concert pitch; ExerciseError names the word that cannot be read."""
    if len(text) > MAX_LINE:
        raise ExerciseError(
            tell("The line has {count} letters: write at most {max_line}.", count=len(text), max_line=MAX_LINE)
        )
    line = _Line()
    for word in _WORDS.findall(text.replace("♭", "b").replace("♯", "#")):
        _read(word, line, transposition)
    if not line.notes:
        raise ExerciseError("Write a note, such as C4.")
    key = transposed_fifths(0, -transposition.semitones)  # no signs in the part
    return Melody(title, tuple(line.notes), meter or Meter(), key, tempo_bpm)


def _read(word: str, line: _Line, transposition: Transposition) -> None:
    if word == "-":
        line.slurred = bool(line.notes)
        return
    if word == ",":
        line.phrase = bool(line.notes)
        return
    if word.startswith("(") and word[1:-1] in DYNAMICS and word.endswith(")"):
        line.dynamic = word[1:-1]
        return
    if word in _ARTICULATIONS:
        line.articulation = _ARTICULATIONS[word]
        return
    match = _ITEM.fullmatch(word)
    if match is None:
        raise ExerciseError(
            tell("“{word}” can’t be read: write notes such as C4 or Bb3:2, rests as rest:1.", word=word[:20])
        )
    name, octave, beats = match.groups()
    line.length = float(beats) if beats else line.length
    if not _LENGTHS[0] <= line.length <= _LENGTHS[1]:
        raise ExerciseError(
            tell(
                "“{word}” lasts {length:g} beats: write {lengths:g} to {lengths2:g}.",
                word=word[:20],
                length=line.length,
                lengths=_LENGTHS[0],
                lengths2=_LENGTHS[1],
            )
        )
    if name == "rest":
        line.beat += line.length
        line.slurred = False
        return
    if len(line.notes) >= MAX_NOTES:
        raise ExerciseError(tell("An exercise holds at most {max_notes} notes.", max_notes=MAX_NOTES))
    line.last = _pitch(name[0].upper() + name[1:], octave, line.last)
    concert = transposition.concert(line.last)
    line.notes.append(
        MelodyNote(
            concert.midi,
            line.beat,
            line.length,
            line.slurred,
            new_line=line.phrase or not line.notes,
            dynamic=line.dynamic,
            spelled=concert,
            articulation=line.articulation,
        )
    )
    line.beat += line.length
    line.slurred, line.phrase, line.dynamic = False, False, None


def _pitch(name: str, octave: str | None, last: Pitch | None) -> Pitch:
    try:
        if octave is not None:
            return parse_pitch(name + octave)
        if last is None:
            raise ExerciseError(tell("Write the first note with its octave, such as {name}4.", name=name))
        near = [parse_pitch(f"{name}{last.octave + k}") for k in (-1, 0, 1) if 0 <= last.octave + k <= 9]
    except PitchError as error:
        raise ExerciseError(str(error)) from error
    return min(near, key=lambda pitch: abs(pitch.midi - last.midi))
