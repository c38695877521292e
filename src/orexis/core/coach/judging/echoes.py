"""How a finding that echoes can bring about is confirmed in the sound without them: named by each reason's declaration.

Each takes the finding, the measures it was found in, the exercise, and what was found without the echoes.
"""

from collections.abc import Callable, Sequence

from orexis.core.coach.judging.context import Fault
from orexis.core.exercises import Exercise
from orexis.core.measures import Measures
from orexis.core.notes import SAME_PITCH_CENTS
from orexis.core.theory import cents_between

Confirm = Callable[[Fault, Measures, Exercise, Sequence[Fault]], bool]
_SAME_TIME_S = 0.3  # two faults this close are one event told twice
_SOUNDS = 0.25  # share of a missing note's time in which another may sound
_LONG_S = 0.25  # shorter notes are run into each other by echoes


def on_the_same_note(finding: Fault, measures: Measures, exercise: Exercise, beside: Sequence[Fault]) -> bool:
    """The same reason is found at the same note."""
    return any(other.reason == finding.reason and other.note == finding.note for other in beside)


def anywhere(finding: Fault, measures: Measures, exercise: Exercise, beside: Sequence[Fault]) -> bool:
    """The same reason is found: its place is only where it shows most."""
    return any(other.reason == finding.reason for other in beside)


def told_as(*reasons: str) -> Confirm:
    """One of these reasons is found at the same note: the same fault, told from another side."""

    def confirm(finding: Fault, measures: Measures, exercise: Exercise, beside: Sequence[Fault]) -> bool:
        return any(other.reason in reasons and other.note == finding.note for other in beside)

    return confirm


def near_by(*reasons: str) -> Confirm:
    """One of these reasons is found at this note or at one beside it, from which it was parted elsewhere."""

    def confirm(finding: Fault, measures: Measures, exercise: Exercise, beside: Sequence[Fault]) -> bool:
        near = _neighbours(finding.note, measures)
        return any(other.reason in reasons and other.note in near for other in beside)

    return confirm


def at_the_same_time(finding: Fault, measures: Measures, exercise: Exercise, beside: Sequence[Fault]) -> bool:
    """The same reason is found at the same moment."""
    return any(other.reason == finding.reason and _at_once(finding, other) for other in beside)


def as_silence_or(confirm: Confirm) -> Confirm:
    """Nothing sounds in most of the note's time: echoes make no silence. Or as `confirm` says."""

    def silent_or(finding: Fault, measures: Measures, exercise: Exercise, beside: Sequence[Fault]) -> bool:
        return _nothing_sounds(finding, measures, exercise) or confirm(finding, measures, exercise, beside)

    return silent_or


def as_wave_or(confirm: Confirm) -> Confirm:
    """The note repeats one that is held through, and without the echoes that one falls into more parts than are written: a wave in it,
    and no second attack. Or as `confirm` says.
    """

    def wave_or(finding: Fault, measures: Measures, exercise: Exercise, beside: Sequence[Fault]) -> bool:
        order = [note.id for note in exercise.notes]
        place = order.index(finding.note) if finding.note in order else 0
        near = [note for note in exercise.notes[max(0, place - 1) : place + 2] if note.id != finding.note]
        again = {note.id for note in near if note.pitch == exercise.notes[place].pitch}
        held = [(row.onset_s, row.release_s, row.f0_hz) for row in measures.notes if row.target in again]
        return confirm(finding, measures, exercise, beside) or any(
            part.reason == "extra" and _lies_in(part, onset_s, release_s, hz)
            for part in beside
            for onset_s, release_s, hz in held
        )

    return wave_or


def as_touch_or(confirm: Confirm) -> Confirm:
    """The touch was found in the sound without the room in the first place. Or as `confirm` says."""

    def touched_or(finding: Fault, measures: Measures, exercise: Exercise, beside: Sequence[Fault]) -> bool:
        touched = any(
            touch.without_echoes and touch.start_s == finding.at_s
            for move in measures.moves
            for touch in move.clipped_partials
        )
        return touched or confirm(finding, measures, exercise, beside)

    return touched_or


def _lies_in(extra: Fault, onset_s: float | None, release_s: float | None, hz: float | None) -> bool:
    """Whether a note that nobody asked for is a part of a note that was heard."""
    if onset_s is None or release_s is None or hz is None or extra.at_s is None or not extra.value:
        return False
    return onset_s < extra.at_s < release_s and abs(cents_between(extra.value, hz)) < SAME_PITCH_CENTS


def _nothing_sounds(missing: Fault, measures: Measures, exercise: Exercise) -> bool:
    written = next((note for note in exercise.notes if note.id == missing.note), None)
    if written is None or missing.at_s is None:
        return False
    begin, end = missing.at_s, missing.at_s + written.beats * exercise.beat_s
    spans = [(note.onset_s, note.release_s) for note in measures.notes]
    sounds = sum(max(0.0, min(b, end) - max(a, begin)) for a, b in spans if a is not None and b is not None)
    return end - begin >= _LONG_S and sounds < _SOUNDS * (end - begin)


def _neighbours(note: str | None, measures: Measures) -> set[str | None]:
    """The note itself and those on either side of it."""
    order = [row.target for row in measures.notes if row.target is not None]
    if note not in order:
        return {note}
    place = order.index(note)
    return set(order[max(0, place - 1) : place + 2])


def _at_once(one: Fault, other: Fault) -> bool:
    return one.at_s is not None and other.at_s is not None and abs(one.at_s - other.at_s) < _SAME_TIME_S
