"""What every exercise type builds with: a line that notes are laid on beat by beat, and exercises and series made of it."""

from dataclasses import replace
from typing import Any

from orexis.core.exercises.exercise import Exercise, ExerciseNote, Series
from orexis.core.exercises.exercise_type import ExerciseType
from orexis.core.exercises.kinds import Articulation, Loudness, Medium
from orexis.core.exercises.params import Values
from orexis.core.instruments import (
    Fingering,
    FingeringOption,
    Instrument,
    fingering_options,
    has_slot,
    seven_fingerings,
    slot_of,
)
from orexis.core.messages import tell
from orexis.core.theory import Key, Pitch, pitch_of_midi
from orexis.errors import ExerciseError

SLURRED, FULL = "slurred", "tongued and full"
# How the notes of a line are joined, and what that asks of each.
JOINS = {
    SLURRED: None,
    FULL: Articulation.FULL,
    "portato": Articulation.PORTATO,
    "short": Articulation.SHORT,
}


class ExerciseBuilder:
    """Notes one after another. Every method gives the line back; beats count from the first beat after the count-in."""

    def __init__(self, instrument: Instrument, *, key: int | None = None, medium: Medium = Medium.INSTRUMENT) -> None:
        self.instrument, self.medium = instrument, medium
        self.key = key
        self.notes: list[ExerciseNote] = []
        self.beat = 0.0
        self._phrase = False

    def note(self, pitch: Pitch, beats: float, **more: Any) -> "ExerciseBuilder":
        """A note on its best fingering, which the player is to bring to pitch; on the mouthpiece there is no fingering."""
        if self.medium != Medium.INSTRUMENT:
            return self._add(pitch, beats, Fingering(), 0, **more)
        if more.get("free") and not has_slot(self.instrument, pitch):
            return self._add(pitch, beats, seven_fingerings(self.instrument)[-1], 1, **more)
        return self.laid(pitch, beats, fingering_options(self.instrument, pitch)[0], **more)

    def slot(self, fingering: Fingering, partial: int, beats: float, **more: Any) -> "ExerciseBuilder":
        """A partial of a fingering that the player is to leave as it is."""
        slot = slot_of(self.instrument, fingering, partial)
        given = {"keep_fingering": True, "instrument_cents": round(slot.cents, 3), **more}
        return self._add(slot.pitch, beats, fingering, partial, **given)

    def laid(self, pitch: Pitch, beats: float, option: FingeringOption, **more: Any) -> "ExerciseBuilder":
        """A note played in a way that is named."""
        return self._add(
            pitch, beats, option.fingering, option.partial, **{"instrument_cents": round(option.cents, 3), **more}
        )

    def bent(self, fingering: Fingering, partial: int, semitones: int, beats: float, **more: Any) -> "ExerciseBuilder":
        """The same slot pulled off its place by the lip: its pitch is asked, not the slot's."""
        slot = slot_of(self.instrument, fingering, partial)
        return self._add(pitch_of_midi(slot.pitch.midi + semitones), beats, fingering, partial, slurred=True, **more)

    def rest(self, beats: float) -> "ExerciseBuilder":
        """Append a rest of so many beats."""
        self.beat += beats
        return self

    def to_bar(self, beats_per_bar: int = 4) -> "ExerciseBuilder":
        """Silence to the end of the bar."""
        return self.rest(-self.beat % beats_per_bar)

    def left_in_bar(self, *, least: float, beats_per_bar: int = 4) -> float:
        """Beats to the end of the bar, or of the next one where fewer than `least` are left."""
        left = beats_per_bar - self.beat % beats_per_bar
        return round(left if left >= least else left + beats_per_bar, 6)

    def phrase(self) -> "ExerciseBuilder":
        """The next note begins a line of the page."""
        self._phrase = bool(self.notes)
        return self

    def _add(
        self, pitch: Pitch, beats: float, fingering: Fingering, partial: int, *, as_spelled: bool = False, **more: Any
    ) -> "ExerciseBuilder":
        spelled = (
            pitch if as_spelled or self.key is None else Key(self.key).spelled(pitch.midi, rising=self._rises(pitch))
        )
        made = ExerciseNote(
            id=f"n{len(self.notes) + 1}",
            pitch=spelled,
            start_beat=round(self.beat, 6),
            beats=beats,
            fingering=fingering,
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

    def exercise(self, exercise_type: ExerciseType, name: str, title: str, *, tempo: float, **more: Any) -> Exercise:
        """The exercise made of the line."""
        given = {"beats_per_bar": 4, "judged": exercise_type.judged, "click": exercise_type.click, **more}
        return Exercise(
            id=f"{exercise_type.id}-{name}".replace(" ", "").replace("#", "s"),
            exercise_type=exercise_type.id,
            instrument=self.instrument.id,
            title=title,
            tempo_bpm=float(tempo),
            notes=tuple(self.notes),
            medium=self.medium,
            key=self.key,
            **given,
        )


_LOUDER = {Loudness.GROW: ("mf", "f"), Loudness.EVEN: ("mf", "mf"), Loudness.EASE: ("f", "p")}

_FROM_SOFT = {Loudness.GROW: ("pp", "f"), Loudness.EVEN: ("pp", "pp"), Loudness.EASE: ("mf", "pp")}


def by_height(line: ExerciseBuilder, values: Values) -> dict[str, Any]:
    """Dynamics under the lowest and the highest note of a line, where each comes first, and under the last note where it comes
    back to one of them; and what the exercise says of them.
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


def top_checked(instrument: Instrument, partial: int) -> None:
    """ExerciseError for a partial above the instrument's top."""
    if partial > instrument.top_partial:
        raise ExerciseError(
            tell(
                "Partial {partial} is above the {instrument}'s top, {top_partial}.",
                partial=partial,
                instrument=instrument.name,
                top_partial=instrument.top_partial,
            )
        )


def series_of(exercise_type: ExerciseType, instrument: Instrument, exercises: list[Exercise], **more: Any) -> Series:
    """A series; ExerciseError when nothing of it lies on the instrument. Ids are made unique by their place."""
    if not exercises:
        raise ExerciseError(
            tell(
                "Nothing of “{exercise_type}” lies within the {instrument}'s range from there.",
                exercise_type=exercise_type.name,
                instrument=instrument.name,
            )
        )
    seen: set[str] = set()
    named = []
    for place, exercise in enumerate(exercises):
        fresh = exercise.id if exercise.id not in seen else f"{exercise.id}-{place + 1}"
        seen.add(fresh)
        named.append(replace(exercise, id=fresh))
    return Series(
        exercise_type.id, instrument.id, exercise_type.name, tuple(named), **{"advance": exercise_type.advance, **more}
    )


def open_note(instrument: Instrument, partial: int) -> Pitch:
    """The note of the open tube's partial, on the side that is usual there."""
    return slot_of(
        instrument, Fingering(position=1) if instrument.slides else Fingering(side=instrument.sides[0].name), partial
    ).pitch


def middle_note(instrument: Instrument) -> Pitch:
    """The comfortable middle of the range."""
    return open_note(instrument, instrument.middle_partial)


def in_range(instrument: Instrument, pitch: Pitch, *, what: str) -> Pitch:
    """The pitch itself; ExerciseError when it lies outside the instrument's usual range."""
    if not instrument.lowest.midi <= pitch.midi <= instrument.highest.midi:
        raise ExerciseError(
            tell(
                "{what} would be {pitch} (concert): the {instrument} goes from {lowest} to {highest}.",
                what=what,
                pitch=pitch.name,
                instrument=instrument.name,
                lowest=instrument.lowest.name,
                highest=instrument.highest.name,
            )
        )
    return pitch
