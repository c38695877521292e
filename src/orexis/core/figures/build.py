"""What every family builds with: a line that notes are laid on beat by beat, and figures and series made of it."""

from dataclasses import replace
from typing import Any

from orexis.core.figures.family import Family
from orexis.core.figures.figure import Figure, FigureNote, Series
from orexis.core.figures.kinds import Loudness, Medium
from orexis.core.figures.params import Values
from orexis.core.horn import Instrument, Tube, Way, has_slot, seven_tubes, slot_of, ways_to_play
from orexis.core.theory import Key, Pitch, pitch_of_midi
from orexis.errors import FigureError


class FigureBuilder:
    """Notes one after another. Every method gives the line back; beats count from the first beat after the count-in."""

    def __init__(self, horn: Instrument, *, key: int | None = None, medium: Medium = Medium.HORN) -> None:
        self.horn, self.medium = horn, medium
        self.key = key
        self.notes: list[FigureNote] = []
        self.beat = 0.0
        self._phrase = False

    def note(self, pitch: Pitch, beats: float, **more: Any) -> "FigureBuilder":
        """A note on its best tube, which the player is to bring to pitch; on the mouthpiece there is no tube."""
        if self.medium != Medium.HORN:
            return self._add(pitch, beats, Tube(), 0, **more)
        if more.get("free") and not has_slot(self.horn, pitch):
            return self._add(pitch, beats, seven_tubes(self.horn)[-1], 1, **more)
        return self.laid(pitch, beats, ways_to_play(self.horn, pitch)[0], **more)

    def slot(self, tube: Tube, partial: int, beats: float, **more: Any) -> "FigureBuilder":
        """A partial of a tube that the player is to leave as it is."""
        slot = slot_of(self.horn, tube, partial)
        given = {"keep_tube": True, "instrument_cents": round(slot.cents, 3), **more}
        return self._add(slot.pitch, beats, tube, partial, **given)

    def laid(self, pitch: Pitch, beats: float, way: Way, **more: Any) -> "FigureBuilder":
        """A note played in a way that is named."""
        return self._add(pitch, beats, way.tube, way.partial, **{"instrument_cents": round(way.cents, 3), **more})

    def bent(self, tube: Tube, partial: int, semitones: int, beats: float, **more: Any) -> "FigureBuilder":
        """The same slot pulled off its place by the lip: its pitch is asked, not the slot's."""
        slot = slot_of(self.horn, tube, partial)
        return self._add(pitch_of_midi(slot.pitch.midi + semitones), beats, tube, partial, slurred=True, **more)

    def rest(self, beats: float) -> "FigureBuilder":
        """Append a rest of so many beats."""
        self.beat += beats
        return self

    def to_bar(self, beats_per_bar: int = 4) -> "FigureBuilder":
        """Silence to the end of the bar."""
        return self.rest(-self.beat % beats_per_bar)

    def left_in_bar(self, *, least: float, beats_per_bar: int = 4) -> float:
        """Beats to the end of the bar, or of the next one where fewer than `least` are left."""
        left = beats_per_bar - self.beat % beats_per_bar
        return round(left if left >= least else left + beats_per_bar, 6)

    def phrase(self) -> "FigureBuilder":
        """The next note begins a line of the page."""
        self._phrase = bool(self.notes)
        return self

    def _add(self, pitch: Pitch, beats: float, tube: Tube, partial: int, **more: Any) -> "FigureBuilder":
        spelled = pitch if self.key is None else Key(self.key).spelled(pitch.midi, rising=self._rises(pitch))
        made = FigureNote(
            id=f"n{len(self.notes) + 1}",
            pitch=spelled,
            start_beat=round(self.beat, 6),
            beats=beats,
            tube=tube,
            partial=partial,
            new_line=self._phrase,
            **more,
        )
        self._phrase = False
        self.notes.append(made)
        self.beat += beats
        return self

    def _rises(self, pitch: Pitch) -> bool:
        return not self.notes or pitch.midi >= self.notes[-1].pitch.midi

    def figure(self, family: Family, name: str, title: str, *, tempo: float, **more: Any) -> Figure:
        """The figure made of the line."""
        given = {"beats_per_bar": 4, "judged": family.judged, "click": family.click, **more}
        return Figure(
            id=f"{family.id}-{name}".replace(" ", "").replace("#", "s"),
            family=family.id,
            horn=self.horn.id,
            title=title,
            tempo_bpm=float(tempo),
            notes=tuple(self.notes),
            medium=self.medium,
            key=self.key,
            **given,
        )


_LOUDER = {Loudness.GROW: ("mf", "f"), Loudness.EVEN: ("mf", "mf"), Loudness.EASE: ("f", "p")}

_FROM_SOFT = {Loudness.GROW: ("pp", "f"), Loudness.EVEN: ("pp", "pp"), Loudness.EASE: ("mf", "pp")}


def by_height(line: FigureBuilder, values: Values) -> dict[str, Any]:
    """Dynamics under the lowest and the highest note of a line, where each comes first, and under the last note where it comes
    back to one of them; and what the figure says of them.
    """
    loudness = Loudness(values.choice("loudness"))
    low, high = _LOUDER[loudness]
    if values.has("begins") and values.choice("begins") != "medium":
        low, high = _FROM_SOFT[loudness]
    if loudness != Loudness.EVEN:
        for pick, mark in ((min, low), (max, high)):
            end = pick(line.notes, key=lambda note: note.pitch.midi)
            place = line.notes.index(end)
            line.notes[place] = replace(end, dynamic=mark)
            if line.notes[-1].pitch.midi == end.pitch.midi:
                line.notes[-1] = replace(line.notes[-1], dynamic=mark)
    return {"loudness": loudness, "dynamic": line.notes[0].dynamic or low}


def top_checked(horn: Instrument, partial: int) -> None:
    """FigureError for a partial above the horn's top."""
    if partial > horn.top_partial:
        raise FigureError(f"Partial {partial} is above the {horn.name}'s top, {horn.top_partial}.")


def series_of(family: Family, horn: Instrument, figures: list[Figure], **more: Any) -> Series:
    """A series; FigureError when nothing of it lies on the horn. Ids are made unique by their place."""
    if not figures:
        raise FigureError(f"Nothing of “{family.name}” lies within the {horn.name}'s range from there.")
    seen: set[str] = set()
    named = []
    for place, figure in enumerate(figures):
        fresh = figure.id if figure.id not in seen else f"{figure.id}-{place + 1}"
        seen.add(fresh)
        named.append(replace(figure, id=fresh))
    return Series(family.id, horn.id, family.name, tuple(named), **{"advance": family.advance, **more})


def open_note(horn: Instrument, partial: int) -> Pitch:
    """The note of the open tube's partial, on the side that is usual there."""
    return slot_of(horn, Tube(position=1) if horn.slides else Tube(side=horn.sides[0].name), partial).pitch


def middle_note(horn: Instrument) -> Pitch:
    """The comfortable middle of the range."""
    return open_note(horn, horn.middle_partial)


def in_range(horn: Instrument, pitch: Pitch, *, what: str) -> Pitch:
    """The pitch itself; FigureError when it lies outside the horn's usual range."""
    if not horn.lowest.midi <= pitch.midi <= horn.highest.midi:
        raise FigureError(
            f"{what} would be {pitch.name} (concert): the {horn.name} goes from {horn.lowest.name} to {horn.highest.name}."
        )
    return pitch
