"""A figure's notes taken in another way: the tubes change, and with them what the horn does by itself."""

from dataclasses import replace

from orexis.core.figures.figure import Figure, FigureNote
from orexis.core.figures.kinds import Medium
from orexis.core.horn import Instrument, has_slot, slot_of, way_by


def taken_by(figure: Figure, horn: Instrument, rule: str) -> Figure:
    """The figure with every note that has a choice taken as the rule says (`way_rules`)."""
    if figure.medium != Medium.HORN:
        return figure
    notes: list[FigureNote] = []
    before: int | None = None
    for note in figure.notes:
        if _has_choice(note, horn):
            way = way_by(rule, horn, note.pitch, before)
            note = replace(note, tube=way.tube, partial=way.partial, horn_cents=round(way.cents, 3))
        before = note.partial
        notes.append(note)
    return replace(figure, notes=tuple(notes))


def _has_choice(note: FigureNote, horn: Instrument) -> bool:
    """Not where the tube is the exercise itself, nor where the lip leads the note off its slot."""
    if note.keep_tube or note.glide_beats > 0.0 or not note.partial or not has_slot(horn, note.pitch):
        return False
    return slot_of(horn, note.tube, note.partial).pitch.midi == note.pitch.midi
