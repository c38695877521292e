"""What was played once, as a line of notes in the part: see core/exercises/own_line.py for how it is written."""

from collections.abc import Sequence

from orexis.core.exercises import MAX_NOTES
from orexis.core.notes import HeardNote
from orexis.core.theory import Transposition, nearest_pitch

_GRIDS = (0.5, 0.25)  # of a beat: eighths, and sixteenths where eighths would put two notes on one place
_LEGATO = 0.35  # of a grid step: a shorter space is a tongue, not a rest
_SHORTEST_S = 0.06  # shorter sounds are no notes


def line_of_notes(heard: Sequence[HeardNote], transposition: Transposition, *, tempo_bpm: float, a4: float) -> str:
    """The notes at a tempo, with lengths in beats on the coarsest grid that keeps them apart; empty where nothing was heard.

    The first note lies on a beat; what joins the note before without silence is slurred.
    """
    notes = [note for note in heard if note.release_s - note.onset_s >= _SHORTEST_S][:MAX_NOTES]
    if not notes:
        return ""
    beats = [(note.onset_s - notes[0].onset_s) * tempo_bpm / 60.0 for note in notes]
    grid = next((grid for grid in _GRIDS if _apart(beats, grid)), _GRIDS[-1])
    starts = _on(beats, grid)
    words: list[str] = []
    last = 1.0
    for at, note in enumerate(notes):
        sounded = (note.release_s - note.onset_s) * tempo_bpm / 60.0
        room = starts[at + 1] - starts[at] if at + 1 < len(notes) else None
        length = max(grid, grid * round(sounded / grid))
        if room is not None and (length > room or room - sounded < (1.0 + _LEGATO) * grid):
            length = room
        if note.joined and words:
            words.append("-")
        name = transposition.written(nearest_pitch(note.f0_hz, a4=a4)).name
        words.append(name if length == last else f"{name}:{length:g}")
        last = length
        if room is not None and room > length:
            words.append(f"rest:{room - length:g}")
            last = room - length
    return " ".join(words)


def _on(beats: Sequence[float], grid: float) -> list[float]:
    """The nearest places on the grid, each later than the one before."""
    starts: list[float] = []
    for beat in beats:
        place = grid * round(beat / grid)
        starts.append(max(place, starts[-1] + grid) if starts else place)
    return starts


def _apart(beats: Sequence[float], grid: float) -> bool:
    places = [round(beat / grid) for beat in beats]
    return len(set(places)) == len(places)
