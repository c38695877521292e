"""What a take proves: every written note that it asked for, by itself, whatever the exercise type and whatever the outcome.

A note was *there* when it sounded in its own slot for half a second or its written length; it was *good* when it was there
and nothing was found against it. A note is held only by notes that were there and good: an exercise that passes never credits
a note that was not heard, and an exercise that fails elsewhere takes nothing from those that were good. A note that moves (a
bend, a free note, one that is led through its slot) proves nothing; the arrival of a glide does, once it has settled.
"""

from orexis.core.coach.judging import JUDGED, REASONS, About
from orexis.core.coach.range_notes import Attempt
from orexis.core.coach.verdict import Outcome, Verdict
from orexis.core.exercises import Exercise, ExerciseNote, Medium, SetPlayed
from orexis.core.measures import Measures, NoteMeasures

THERE_S = 0.5  # a teacher counts a note as there when it stands for half a second
_OF_ITS_LENGTH = 0.8  # a written length is hardly ever filled to its last moment
# Where these are judged, notes are led about, or not judged at all.
PROVES_NOTHING = frozenset(judged.measure for judged in JUDGED if judged.proves_nothing)
_APART_BEATS = 0.05  # shorter spaces come from rounding, not from a written rest


def attempts_of(
    exercise: Exercise, measures: Measures, verdict: Verdict, *, day: int, take_id: str | None = None
) -> tuple[Attempt, ...]:
    """One try for each pitch, alone and joined apart: held when most of its notes were there and good."""
    if (
        exercise.medium != Medium.INSTRUMENT
        or verdict.outcome == Outcome.NOT_HEARD
        or PROVES_NOTHING & set(exercise.judged)
    ):
        return ()
    if exercise.asks_nothing:
        return ()
    against = {finding.note for finding in verdict.findings if REASONS[finding.reason].about == About.NOTE}
    rows = {note.target: note for note in measures.notes if note.target is not None}
    tries: dict[tuple[int, bool], list[tuple[bool, NoteMeasures]]] = {}
    for place, note in enumerate(exercise.notes):
        row = rows.get(note.id)
        if row is None or note.free or _is_bent(exercise, place):
            continue
        good = _is_there(exercise, note, row) and note.id not in against
        tries.setdefault((note.pitch.midi, _is_joined(exercise, place)), []).append((good, row))
    return tuple(
        Attempt(
            midi=midi,
            day=day,
            clean=2 * sum(good for good, _ in results) >= len(results),
            sounded_s=round(max((row.hold_s or 0.0 for _, row in results if row.right), default=0.0), 2),
            connected=joined,
            take_id=take_id,
            match=min((row.tone_match for good, row in results if good and row.tone_match is not None), default=None),
        )
        for (midi, joined), results in sorted(tries.items())
    )


def set_played(verdict: Verdict, *, day: int) -> SetPlayed:
    """A counted set as its verdict tells of it: all notes there unless it counted fewer; none where nothing was heard."""
    if verdict.outcome == Outcome.NOT_HEARD:
        return SetPlayed(day, 0, 1)
    counted = next((item for item in verdict.findings if item.reason == "count"), None)
    if counted is None or counted.value is None or counted.limit is None:
        return SetPlayed(day, 1, 1)
    return SetPlayed(day, int(counted.value), int(counted.limit))


def _is_there(exercise: Exercise, note: ExerciseNote, row: NoteMeasures) -> bool:
    if note.glide_beats > 0.0 and row.glide_arrived_s is not None:
        return row.glide_arrived_s >= min(THERE_S, _OF_ITS_LENGTH * note.beats * exercise.beat_s)
    return row.right and (row.hold_s or 0.0) >= min(THERE_S, _OF_ITS_LENGTH * note.beats * exercise.beat_s)


def _is_bent(exercise: Exercise, place: int) -> bool:
    """Led down by the lip in the slot of the note before."""
    note, before = exercise.notes[place], exercise.notes[place - 1] if place else None
    if before is None or not note.slurred:
        return False
    return before.fingering == note.fingering and before.partial == note.partial and note.pitch.midi < before.pitch.midi


def _is_joined(exercise: Exercise, place: int) -> bool:
    """Reached along a line: slurred to a neighbour of another pitch, or following or leading to one without a rest."""
    notes = exercise.notes
    note = notes[place]
    for before, after in ((place - 1, place), (place, place + 1)):
        if before < 0 or after >= len(notes):
            continue
        first, second = notes[before], notes[after]
        other = first if first is not note else second
        rest = second.start_beat - first.start_beat - first.beats
        if other.pitch.midi != note.pitch.midi and rest < _APART_BEATS and not second.breath and not second.new_line:
            return True
    return False
