"""Melodies as they come from a book of our own or from a file, and how they are placed on an instrument.

A melody is concert pitch as keyboard numbers and beats; `placed` moves it into an instrument's range by octaves or into a key.
"""

from dataclasses import dataclass, replace

from orexis.core.exercises.build import ExerciseBuilder, middle_note
from orexis.core.exercises.exercise import MAX_NOTES, Exercise
from orexis.core.exercises.exercise_type import ExerciseType
from orexis.core.exercises.kinds import Articulation, Medium
from orexis.core.exercises.meter import FOUR_FOUR, Meter
from orexis.core.instruments import Instrument
from orexis.core.messages import tell
from orexis.core.theory import Pitch, pitch_of_midi, transposed_fifths
from orexis.errors import ExerciseError

# Semitones from the comfortable middle of the range to that of a melody that stays as written.
_LIES_WELL = (-12.0, 7.0)


@dataclass(frozen=True, slots=True)
class MelodyNote:
    """One note: keyboard number, start and length in beats.

    `dynamic` None: as before. `spelled`: the concert pitch as somebody wrote it; None: by the key.
    """

    midi: int
    start_beat: float
    beats: float
    slurred: bool = False
    new_line: bool = False
    dynamic: str | None = None
    spelled: Pitch | None = None
    articulation: Articulation | None = None


@dataclass(frozen=True, slots=True)
class Melody:
    """A line of notes with its meter, key (fifths, concert) and tempo; `pickup`: beats before the first bar line."""

    title: str
    notes: tuple[MelodyNote, ...]
    meter: Meter = FOUR_FOUR
    key: int = 0
    tempo_bpm: float = 88.0
    pickup: float = 0.0

    def moved(self, semitones: int) -> "Melody":
        """Return the same melody so many semitones higher or lower."""
        if not semitones:
            return self
        notes = tuple(replace(note, midi=note.midi + semitones, spelled=None) for note in self.notes)
        return replace(self, notes=notes, key=transposed_fifths(self.key, semitones))

    @property
    def range_midi(self) -> tuple[int, int]:
        """Return the lowest and the highest note as keyboard numbers."""
        midis = [note.midi for note in self.notes]
        return min(midis), max(midis)


@dataclass(frozen=True, slots=True)
class TunePart:
    """One part of a score from a file; `says`: what was left out or changed while it was read."""

    name: str
    melody: Melody
    says: tuple[str, ...] = ()


def octaves_into_range(melody: Melody, instrument: Instrument) -> int:
    """How many octaves to move so that the melody lies on the instrument: none where it lies well as written, else towards the middle.

    ExerciseError when it is wider than the instrument.
    """
    low, high = melody.range_midi
    middle = (instrument.lowest.midi + instrument.highest.midi) / 2.0
    fitting = [
        k for k in range(-6, 7) if low + 12 * k >= instrument.lowest.midi and high + 12 * k <= instrument.highest.midi
    ]
    if not fitting:
        raise ExerciseError(
            tell(
                "“{melody}” spans {high} semitones and does not fit the {instrument} in any octave: move it by a few semitones, or choose another.",
                melody=melody.title[:40],
                high=high - low,
                instrument=instrument.name,
            )
        )

    def away(octaves: int) -> float:
        return abs((low + high) / 2.0 + 12 * octaves - middle + 3.0)

    as_written = (low + high) / 2.0 - middle_note(instrument).midi
    if 0 in fitting and _LIES_WELL[0] <= as_written <= _LIES_WELL[1]:
        return 0
    return min(fitting, key=away)


def melody_exercise(
    melody: Melody,
    exercise_type: ExerciseType,
    instrument: Instrument,
    *,
    name: str,
    tempo: float | None = None,
    medium: Medium = Medium.INSTRUMENT,
) -> Exercise:
    """The melody as an exercise on its best fingerings."""
    if not 1 <= len(melody.notes) <= MAX_NOTES:
        raise ExerciseError(
            tell(
                "The tune has {count} notes: an exercise holds 1 to {max_notes}.",
                count=len(melody.notes),
                max_notes=MAX_NOTES,
            )
        )
    line = ExerciseBuilder(instrument, key=melody.key, medium=medium)
    following = (*melody.notes[1:], None)
    for note, after in zip(melody.notes, following, strict=True):
        line.rest(note.start_beat - line.beat)
        if note.new_line:
            line.phrase()
        breath = note.new_line and bool(line.notes)
        slurs = note.slurred or (after is not None and after.slurred)  # under a slur a dot or a line shortens nothing
        articulation = None if slurs else note.articulation
        more = {"slurred": note.slurred, "breath": breath, "dynamic": note.dynamic, "articulation": articulation}
        line.note(note.spelled or pitch_of_midi(note.midi), note.beats, as_spelled=note.spelled is not None, **more)
    return line.exercise(
        exercise_type,
        name,
        melody.title,
        tempo=tempo or melody.tempo_bpm,
        beats_per_bar=melody.meter.beats_per_bar,
        beat_quarters=melody.meter.beat_quarters,
        pickup=melody.pickup,
    )
