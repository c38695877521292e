"""A long tune in phrases that can be read and played on one breath or two.

A phrase ends where the tune says so (a new line, a rest, a long note before a bar line), never inside a note, and has eight
bars or forty notes at the most. Each begins on its own place in the bar.
"""

from dataclasses import replace

from orexis.core.exercises.melody import Melody, MelodyNote

MOST_BARS, MOST_NOTES = 8, 40
_FEWEST_BARS = 2  # a phrase of one bar is a motif, and no place to breathe
_REST = 0.5  # beats of silence that part two phrases
_LONG = 1.5  # of the tune's usual note: the end of something


def is_long(melody: Melody) -> bool:
    """Whether it is more than one phrase."""
    return len(melody.notes) > MOST_NOTES or _bars(melody, melody.notes) > MOST_BARS


def phrases_of(melody: Melody) -> tuple[Melody, ...]:
    """The phrases in order, each a tune of its own; the tune itself where it is one phrase."""
    if not is_long(melody):
        return (melody,)
    notes = list(melody.notes)
    phrases: list[Melody] = []
    dynamic: str | None = None
    while notes:
        end = _end_of_first(melody, notes)
        notes[0] = replace(notes[0], dynamic=notes[0].dynamic or dynamic)
        phrases.append(_alone(melody, tuple(notes[:end])))
        dynamic = next((note.dynamic for note in reversed(notes[:end]) if note.dynamic), None)
        notes = notes[end:]
    return tuple(phrases)


def _end_of_first(melody: Melody, notes: list[MelodyNote]) -> int:
    """How many notes the first phrase has."""
    most = next((at for at in range(1, len(notes)) if _bars(melody, notes[: at + 1]) > MOST_BARS), len(notes))
    most = min(most, MOST_NOTES)
    if most >= len(notes):
        return len(notes)
    open_ = [at for at in range(1, most + 1) if not notes[at].slurred and _bars(melody, notes[:at]) >= _FEWEST_BARS]
    # What remains should be no crumb either.
    roomy = [at for at in open_ if len(notes) - at >= 3] or open_
    return max(roomy, key=lambda at: (_parts(melody, notes[at - 1], notes[at]), at), default=most)


def _parts(melody: Melody, last: MelodyNote, following: MelodyNote) -> int:
    """How much an ending is one: 3 where the tune begins a line, 2 at a rest or long note, 1 before a bar line."""
    at_bar = abs((following.start_beat - melody.pickup) % melody.meter.beats_per_bar) < 1e-6
    usual = sorted(note.beats for note in melody.notes)[len(melody.notes) // 2]
    rest = following.start_beat - last.start_beat - last.beats >= _REST
    if following.new_line:
        return 3
    if rest or (last.beats >= _LONG * usual and last.beats > 1.0):
        return 2
    return int(at_bar)


def _bars(melody: Melody, notes: tuple[MelodyNote, ...] | list[MelodyNote]) -> float:
    return (notes[-1].start_beat + notes[-1].beats - notes[0].start_beat) / melody.meter.beats_per_bar


def _alone(melody: Melody, notes: tuple[MelodyNote, ...]) -> Melody:
    """Notes as a tune that begins at its own place in the bar."""
    first = notes[0].start_beat
    into_bar = (first - melody.pickup) % melody.meter.beats_per_bar
    pickup = 0.0 if into_bar < 1e-6 else melody.meter.beats_per_bar - into_bar
    moved = [replace(note, start_beat=round(note.start_beat - first, 6)) for note in notes]
    moved[0] = replace(moved[0], slurred=False, new_line=True)
    return replace(melody, notes=tuple(moved), pickup=round(pickup, 6))
