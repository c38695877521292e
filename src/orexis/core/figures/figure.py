"""Family -> series -> figure: what is practised, as values.

A *family* is a rule. A *series* is one run of it today. A *figure* is one take's worth of notes. Pitches are concert
pitch; times are in beats from the first beat after the count-in; tempo is beats per minute. `target_cents` is the
asked deviation from equal temperament; `horn_cents` what the horn does by itself there (theory). A note with
`keep_tube` is judged less the horn's share, because the player is asked to leave the tube as it is.
"""

from dataclasses import dataclass

from orexis.core.horn import Tube
from orexis.core.theory import Pitch
from orexis.errors import FigureError

MAX_NOTES = 512
MAX_BEATS = 1024.0
TEMPO_RANGE = (20.0, 300.0)


@dataclass(frozen=True, slots=True)
class FigureNote:
    """One written note. `slurred` joins it to the note before."""

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
    horn_cents: float = 0.0


@dataclass(frozen=True, slots=True)
class Figure:
    """One take's worth: notes, pulse, and what is judged (the first named measure is the main one)."""

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
    schema: int = 1

    @property
    def beats(self) -> float:
        """Length in beats without the count-in."""
        last = self.notes[-1]
        return last.start_beat + last.beats

    @property
    def beat_s(self) -> float:
        """Seconds per beat."""
        return 60.0 / self.tempo_bpm

    @property
    def count_in_beats(self) -> int:
        """One bar; the breath falls on its last two beats."""
        return self.beats_per_bar

    @property
    def duration_s(self) -> float:
        """Seconds from the first beat of the count-in to the end of the last written note."""
        return (self.count_in_beats + self.beats) * self.beat_s

    def start_s(self, note: FigureNote) -> float:
        """When a note is due, in seconds after the first beat of the count-in."""
        return (self.count_in_beats + note.start_beat) * self.beat_s

    def target_hz(self, note: FigureNote, *, a4: float) -> float:
        """The frequency asked for."""
        return note.pitch.frequency(a4=a4) * 2.0 ** (note.target_cents / 1200.0)


@dataclass(frozen=True, slots=True)
class Series:
    """One run of a family: its figures in order."""

    family: str
    horn: str
    title: str
    figures: tuple[Figure, ...]


def checked_figure(figure: Figure) -> Figure:
    """The figure itself when it is within bounds; FigureError says what is not."""
    if not 1 <= len(figure.notes) <= MAX_NOTES:
        raise FigureError(f"The figure has {len(figure.notes)} notes: it needs 1 to {MAX_NOTES}.")
    low, high = TEMPO_RANGE
    if not low <= figure.tempo_bpm <= high:
        raise FigureError(f"The tempo is {figure.tempo_bpm:g} beats a minute: choose {low:g} to {high:g}.")
    if not 1 <= figure.beats_per_bar <= 16:
        raise FigureError(f"The bar has {figure.beats_per_bar} beats: choose 1 to 16.")
    ids = [note.id for note in figure.notes]
    if len(set(ids)) != len(ids):
        raise FigureError("Two notes of the figure share one id: give each its own.")
    _check_order(figure)
    return figure


def _check_order(figure: Figure) -> None:
    beat = 0.0
    for note in figure.notes:
        if not (note.start_beat >= beat - 1e-6 and 0.0 < note.beats <= MAX_BEATS):
            raise FigureError(
                f"Note {note.id} overlaps the note before it or has no length: check start_beat and beats."
            )
        beat = note.start_beat + note.beats
    if beat > MAX_BEATS:
        raise FigureError(f"The figure lasts {beat:g} beats: at most {MAX_BEATS:g}.")
