"""Family -> series -> figure: what is practised, as values.

A *family* is a rule. A *series* is one run of it today. A *figure* is one take's worth of notes. Pitches are concert
pitch; times are in beats from the first beat after the count-in; tempo is beats per minute. `target_cents` is the
asked deviation from equal temperament; `instrument_cents` what the horn does by itself there (theory). A note with
`keep_tube` is judged less the horn's share, because the player is asked to leave the tube as it is.
"""

import math
from dataclasses import dataclass

from orexis.core.figures.kinds import Advance, Loudness, Medium
from orexis.core.figures.meter import BEAT_LENGTHS, MOST_BEATS, Meter
from orexis.core.horn import Tube
from orexis.core.theory import Pitch, ratio_of
from orexis.errors import FigureError

MAX_NOTES = 512
MAX_BEATS = 1024.0
MAX_TEXT = 80
TEMPO_RANGE = (20.0, 300.0)
MAX_SECONDS = 420.0  # as written, so that a slower form still ends within the ten minutes of a take


_LEAST_COUNTED = 2.0  # beats before a pick-up
FREE_PRACTICE = "free_practice"  # in the place of an exercise's id where none was played
SHAPES = ("steady", "swell", "fade", "swell-and-fade")
DYNAMICS = ("pp", "p", "mp", "mf", "f", "ff")


@dataclass(frozen=True, slots=True)
class FigureNote:
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
    tube: Tube
    partial: int
    slurred: bool = False
    to_breath_end: bool = False
    keep_tube: bool = False
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


@dataclass(frozen=True, slots=True)
class Need:
    """What a pass asks for where the standard has no limit: `least` of a measure, or a `share` of what is written."""

    measure: str
    least: float | None = None
    share: float | None = None


@dataclass(frozen=True, slots=True)
class Figure:
    """One take's worth: notes, pulse, and what is judged (the first named measure is the main one).

    `key` counts fifths of the concert key signature; None: no signature, signs before the notes. `medium` says what sounds: the horn, the mouthpiece alone, or
    nothing but air. `drone` sounds (in headphones) while the figure is played. `loudness` is what is asked going up.
    `hold_share` is how much of the written length a note to the breath's end must last; figures of earlier releases say
    it as `hold_s`, in seconds.
    """

    id: str
    family: str
    horn: str
    title: str
    tempo_bpm: float
    beats_per_bar: int
    notes: tuple[FigureNote, ...]
    judged: tuple[str, ...]
    click: bool = True
    dynamic: str = "mf"
    hold_s: float | None = None
    schema: int = 2
    medium: Medium = Medium.HORN
    key: int | None = None
    hint: str | None = None  # one line of advice beside the figure
    drone: Pitch | None = None
    reference: bool = False  # the first note is sounded before the count-in
    loudness: Loudness | None = None
    needs: tuple[Need, ...] = ()
    hold_share: float | None = None
    from_file: bool = False  # not made by a family here: engraved where it can do no harm
    beat_quarters: float = 1.0  # length of a beat in quarter notes: 1.5 in 6/8
    pickup: float = 0.0  # beats before the first bar line

    @property
    def asks_nothing(self) -> bool:
        """Whether it stands for practice without an exercise: what is heard has no targets and gets no verdict."""
        return self.family == FREE_PRACTICE

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
        """How its beats make bars."""
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

    def start_s(self, note: FigureNote) -> float:
        """When a note is due, in seconds after the first beat of the count-in."""
        return (self.count_in_beats + note.start_beat) * self.beat_s

    def hold_asked_s(self, note: FigureNote) -> float | None:
        """How long a note to the breath's end must last; None where nothing is asked."""
        if not note.to_breath_end:
            return None
        return self.hold_s if self.hold_share is None else self.hold_share * note.beats * self.beat_s

    def least(self, measure: str) -> float | None:
        """How much of a measure a pass asks for: of a trill so many there-and-backs a second, by its shortest notes."""
        need = next((item for item in self.needs if item.measure == measure), None)
        if need is None or need.share is None:
            return need.least if need else None
        shortest = min(note.beats for note in self.notes)
        return need.share / (2.0 * shortest * self.beat_s)

    def target_hz(self, note: FigureNote, *, a4: float) -> float:
        """Return the frequency in Hz that a note asks for."""
        return note.pitch.frequency(a4=a4) * ratio_of(note.target_cents)


@dataclass(frozen=True, slots=True)
class Series:
    """One run of a family: its figures in order.

    `advance` says how one goes on: in order, climbing (a figure is a rung and must be held before the next), or in sets
    with `rest_s` between them, and `pause_s` before those named in `pauses`. `first` is the figure to begin with.
    """

    family: str
    horn: str
    title: str
    figures: tuple[Figure, ...]
    advance: Advance = Advance.IN_ORDER
    rest_s: float | None = None
    first: int = 0
    pauses: tuple[int, ...] = ()
    pause_s: float = 0.0


def checked_figure(figure: Figure) -> Figure:
    """The figure itself when it is within bounds; FigureError says what is not."""
    if not 1 <= len(figure.notes) <= MAX_NOTES:
        raise FigureError(f"The exercise has {len(figure.notes)} notes: it needs 1 to {MAX_NOTES}.")
    low, high = TEMPO_RANGE
    if not low <= figure.tempo_bpm <= high:
        raise FigureError(f"The tempo is {figure.tempo_bpm:g} beats a minute: choose {low:g} to {high:g}.")
    if not 1 <= figure.beats_per_bar <= MOST_BEATS:
        raise FigureError(f"The bar has {figure.beats_per_bar} beats: choose 1 to {MOST_BEATS}.")
    if figure.beat_quarters not in BEAT_LENGTHS:
        raise FigureError(f"A beat of {figure.beat_quarters:g} quarters is not counted here: choose {BEAT_LENGTHS}.")
    if not 0.0 <= figure.pickup < figure.beats_per_bar:
        raise FigureError(f"The pick-up has {figure.pickup:g} beats: it is shorter than a bar.")
    _check_words(figure)
    ids = [note.id for note in figure.notes]
    if len(set(ids)) != len(ids):
        raise FigureError("Two notes of the exercise share one id: give each its own.")
    _check_order(figure)
    _check_requests(figure)
    return figure


def _check_words(figure: Figure) -> None:
    """Words from a file must be among those there are."""
    asked: list[tuple[str, str | None, tuple[str, ...]]] = [
        ("medium", figure.medium, tuple(Medium)),
        ("dynamic", figure.dynamic, DYNAMICS),
        ("loudness", figure.loudness, tuple(Loudness)),
        *(("shape", note.shape, SHAPES) for note in figure.notes),
        *(("dynamic", note.dynamic, DYNAMICS) for note in figure.notes),
    ]
    for name, value, allowed in asked:
        if value is not None and value not in allowed:
            raise FigureError(f"The {name} is “{value[:20]}”: choose {', '.join(allowed)}.")
    if figure.key is not None and not -7 <= figure.key <= 7:
        raise FigureError(f"The key has {abs(figure.key)} signs: at most 7.")
    texts = [figure.hint or "", *(note.text or "" for note in figure.notes), *(note.id for note in figure.notes)]
    if any(len(text) > MAX_TEXT for text in texts):
        raise FigureError(f"A note's text has more than {MAX_TEXT} letters: shorten it.")


def _check_order(figure: Figure) -> None:
    beat = 0.0
    for note in figure.notes:
        if not (note.start_beat >= beat - 1e-6 and 0.0 < note.beats <= MAX_BEATS):
            raise FigureError(
                f"Note {note.id} overlaps the note before it or has no length: check start_beat and beats."
            )
        beat = note.start_beat + note.beats
    if beat > MAX_BEATS:
        raise FigureError(f"The exercise lasts {beat:g} beats: at most {MAX_BEATS:g}.")
    if figure.duration_s > MAX_SECONDS:
        raise FigureError(
            f"The exercise lasts {figure.duration_s:.0f} s: at most {MAX_SECONDS:.0f} s are played in one take. "
            "Take fewer or shorter notes, or a faster tempo."
        )


def _check_requests(figure: Figure) -> None:
    """What a pass asks for must be possible."""
    if figure.hold_share is not None and not 0.0 < figure.hold_share <= 1.0:
        raise FigureError(f"The share to hold is {figure.hold_share:g}: choose more than 0, at most 1.")
    for need in figure.needs:
        if need.least is None and need.share is None:
            raise FigureError(f"What is needed of {need.measure[:20]} has neither least nor share: give one.")
