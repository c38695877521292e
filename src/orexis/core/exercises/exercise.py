"""Exercise type -> series -> exercise: what is practised, as values.

A *exercise type* is a rule. A *series* is one run of it today. A *exercise* is one take's worth of notes. Pitches are concert
pitch; times are in beats from the first beat after the count-in; tempo is beats per minute. `target_cents` is the
asked deviation from equal temperament; `instrument_cents` what the instrument does by itself there (theory). A note with
`keep_fingering` is judged less the instrument's share, because the player is asked to leave the fingering as it is.
"""

import math
from dataclasses import dataclass

from orexis.core.exercises.kinds import Accompanied, Advance, Articulation, Loudness, Medium
from orexis.core.exercises.meter import Meter
from orexis.core.instruments import Fingering
from orexis.core.theory import KnownTone, Pitch, ratio_of

MAX_NOTES = 512  # a long study; more is a file to cut, not an exercise
MAX_BEATS = 1024.0  # five minutes at 200 beats a minute
MAX_TEXT = 80  # one line at the stand
TEMPO_RANGE = (20.0, 300.0)
MAX_SECONDS = 420.0  # as written, so that a slower form still ends within the ten minutes of a take


_LEAST_COUNTED = 2.0  # beats before a pick-up
_EARLY_S = 0.15  # so much before the first note is due somebody may begin
FREE_PRACTICE = "free_practice"  # in the place of an exercise's id where none was played
SHAPES = ("steady", "swell", "fade", "swell-and-fade")
DYNAMICS = ("pp", "p", "mp", "mf", "f", "ff")


@dataclass(frozen=True, slots=True)
class ExerciseNote:
    """One written note. `slurred` joins it to the note before.

    `glide_beats`: the pitch leaves the note before so many beats before this one starts and moves evenly into it.
    `text` stands above the note; parts between bars (|) are spread evenly over its length. A `free` note is counted
    and never judged. `breath` asks for a breath before the note, `new_line` begins a phrase. An
    `accent` asks for a pulse of air.
    """

    id: str
    pitch: Pitch
    start_beat: float
    beats: float
    fingering: Fingering
    partial: int
    slurred: bool = False
    to_breath_end: bool = False
    keep_fingering: bool = False
    target_cents: float = 0.0
    instrument_cents: float = 0.0
    shape: str | None = None  # the loudness asked for: steady, swell, fade, swell-and-fade
    glide_beats: float = 0.0
    text: str | None = None
    dynamic: str | None = None  # None: as before
    breath: bool = False
    free: bool = False
    new_line: bool = False
    accent: bool = False
    articulation: Articulation | None = None

    @property
    def sounding_beats(self) -> float:
        """How long it sounds where it is played as an example."""
        shares: dict[Articulation | None, float] = {Articulation.PORTATO: 0.8, Articulation.SHORT: 0.4}
        return self.beats * shares.get(self.articulation, 1.0)


@dataclass(frozen=True, slots=True)
class AccompanyingNote:
    """One note that sounds with a line: concert pitch, cents against equal temperament, beats as the line counts them."""

    pitch: Pitch
    start_beat: float
    beats: float
    cents: float = 0.0


@dataclass(frozen=True, slots=True)
class Accompaniment:
    """What sounds with a line. A second part is engraved under it."""

    kind: Accompanied
    notes: tuple[AccompanyingNote, ...]


@dataclass(frozen=True, slots=True)
class PassRequirement:
    """What a pass asks for where the standard has no limit: `least` of a measure, or a `share` of what is written."""

    measure: str
    least: float | None = None
    share: float | None = None


@dataclass(frozen=True, slots=True)
class Exercise:
    """One take's worth: notes, pulse, and what is judged (the first named measure is the main one).

    `key` counts fifths of the concert key signature; None: no signature, signs before the notes. `medium` says what sounds: the instrument, the mouthpiece alone, or
    nothing but air. `drone` sounds (in headphones) while the exercise is played. `loudness` is what is asked going up.
    `hold_share` is how much of the written length a note to the breath's end must last; exercises of earlier releases say
    it as `hold_s`, in seconds.
    """

    id: str
    exercise_type: str
    instrument: str
    title: str
    tempo_bpm: float
    beats_per_bar: int
    notes: tuple[ExerciseNote, ...]
    judged: tuple[str, ...]
    click: bool = True
    dynamic: str = "mf"
    hold_s: float | None = None
    schema: int = 3
    medium: Medium = Medium.INSTRUMENT
    key: int | None = None
    hint: str | None = None  # one line of advice beside the exercise
    drone: Pitch | None = None
    reference: bool = False  # the first note is sounded before the count-in
    loudness: Loudness | None = None
    needs: tuple[PassRequirement, ...] = ()
    hold_share: float | None = None
    from_file: bool = False  # not made by an exercise type here: engraved where it can do no harm
    beat_quarters: float = 1.0  # length of a beat in quarter notes: 1.5 in 6/8
    pickup: float = 0.0  # beats before the first bar line
    accompaniment: Accompaniment | None = None

    def __hash__(self) -> int:
        return hash((self.id, self.tempo_bpm, len(self.notes)))  # not of every note: much is cached by it

    @property
    def asks_nothing(self) -> bool:
        """Whether it stands for practice without an exercise: what is heard has no targets and gets no verdict."""
        return self.exercise_type == FREE_PRACTICE

    @property
    def beats(self) -> float:
        """Length in beats without the count-in."""
        last = self.notes[-1]
        return last.start_beat + last.beats

    @property
    def beat_s(self) -> float:
        """The length of a beat in seconds."""
        return 60.0 / self.tempo_bpm

    @property
    def meter(self) -> Meter:
        """Return the meter: how its beats make bars."""
        return Meter(self.beats_per_bar, self.beat_quarters)

    @property
    def count_in_beats(self) -> float:
        """One bar; the breath falls on its last two beats. A pick-up comes at its own place of that bar, or of the next where
        fewer than two beats would be counted.
        """
        if self.pickup <= 0.0:
            return float(self.beats_per_bar)
        left = self.beats_per_bar - self.pickup
        return left if left >= _LEAST_COUNTED else left + self.beats_per_bar

    @property
    def clicks(self) -> int:
        """Beats from the first of the count-in to the end, each with its click."""
        return math.ceil(self.count_in_beats + self.beats - 1e-6)

    @property
    def duration_s(self) -> float:
        """Seconds from the first beat of the count-in to the end of the last written note."""
        return (self.count_in_beats + self.beats) * self.beat_s

    def start_s(self, note: ExerciseNote) -> float:
        """When a note is due, in seconds after the first beat of the count-in."""
        return (self.count_in_beats + note.start_beat) * self.beat_s

    @property
    def alone_until_s(self) -> float:
        """Until when nobody plays, in seconds after the first beat of the count-in: shortly before the first note is due."""
        return self.start_s(self.notes[0]) - _EARLY_S

    def hold_asked_s(self, note: ExerciseNote) -> float | None:
        """How long a note to the breath's end must last; None where nothing is asked."""
        if not note.to_breath_end:
            return None
        return self.hold_s if self.hold_share is None else self.hold_share * note.beats * self.beat_s

    def sounding(self, *, a4: float) -> list[KnownTone]:
        """What sounds with it; times count from the first beat of the count-in."""
        out = []
        for note in self.accompaniment.notes if self.accompaniment else ():
            start_s = (self.count_in_beats + note.start_beat) * self.beat_s
            hz = note.pitch.frequency(a4=a4) * ratio_of(note.cents)
            out.append(KnownTone(hz, start_s, start_s + note.beats * self.beat_s))
        return out

    def least(self, measure: str) -> float | None:
        """How much of a measure a pass asks for: of a trill so many there-and-backs a second, by its shortest notes."""
        need = next((item for item in self.needs if item.measure == measure), None)
        if need is None or need.share is None:
            return need.least if need else None
        shortest = min(note.beats for note in self.notes)
        return need.share / (2.0 * shortest * self.beat_s)

    def share(self, measure: str) -> float | None:
        """The share of what is written that a pass asks for; None where the standard's limit holds."""
        return next((item.share for item in self.needs if item.measure == measure), None)

    def target_hz(self, note: ExerciseNote, *, a4: float) -> float:
        """Return the frequency in Hz that a note asks for."""
        return note.pitch.frequency(a4=a4) * ratio_of(note.target_cents)


@dataclass(frozen=True, slots=True)
class Series:
    """One run of an exercise type: its exercises in order.

    `advance` says how one goes on: in order, climbing (an exercise is a note and must be held before the next), or in sets
    with `rest_s` between them, and `pause_s` before those named in `pauses`. `first` is the exercise to begin with.
    """

    exercise_type: str
    instrument: str
    title: str
    exercises: tuple[Exercise, ...]
    advance: Advance = Advance.IN_ORDER
    rest_s: float | None = None
    first: int = 0
    pauses: tuple[int, ...] = ()
    pause_s: float = 0.0
