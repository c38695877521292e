"""Small helpers that every family shares: notes with their best way, stable ids."""

from orexis.core.figures.figure import FigureNote
from orexis.core.horn import Instrument, Tube, deviation_cents, partial_frequency_hz, tube_semitones, ways_to_play
from orexis.core.theory import Pitch, flat_spelling, nearest_pitch


def free_note(
    horn: Instrument, index: int, pitch: Pitch, *, start_beat: float, beats: float, to_breath_end: bool = False
) -> FigureNote:
    """A note on its best tube, which the player is to bring to pitch."""
    way = ways_to_play(horn, pitch)[0]
    return FigureNote(
        id=f"n{index + 1}",
        pitch=pitch,
        start_beat=start_beat,
        beats=beats,
        tube=way.tube,
        partial=way.partial,
        to_breath_end=to_breath_end,
        horn_cents=round(way.cents, 3),
    )


def slot_note(
    horn: Instrument, index: int, tube: Tube, partial: int, *, start_beat: float, beats: float, slurred: bool
) -> FigureNote:
    """A partial of a tube that the player is to leave as it is."""
    # The note meant is that of the open tube, lowered by whole semitones; a sharp 1-2-3 does not make it another note.
    open_pitch = nearest_pitch(partial_frequency_hz(horn, Tube(side=tube.side), partial))
    pitch = flat_spelling(open_pitch.midi - tube_semitones(horn, tube))
    return FigureNote(
        id=f"n{index + 1}",
        pitch=pitch,
        start_beat=start_beat,
        beats=beats,
        tube=tube,
        partial=partial,
        slurred=slurred,
        keep_tube=True,
        horn_cents=round(deviation_cents(horn, tube, partial, pitch), 3),
    )
