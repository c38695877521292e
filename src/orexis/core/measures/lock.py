"""Whether both notes of a trill lock: each note, however short, stays in its slot for a moment, at every speed."""

from statistics import median

import numpy as np

from orexis.core.exercises import Exercise
from orexis.core.measures.values import NoteMeasures
from orexis.core.notes import runs
from orexis.core.theory import cents_between
from orexis.core.trace import HOP_S, Trace

LOCKED_CENTS, LOCKED_PERIODS = 40.0, 3.0
_FEWEST = 4  # notes of one length


def unlocked(trace: Trace, notes: tuple[NoteMeasures, ...], exercise: Exercise) -> tuple[float, str | None] | None:
    """Of the notes of the length at which it is worst: the share (0 to 1) that never stays within 40 c of where the player's
    longest notes of that pitch lie, for three periods; and the first of them. None where too few notes were heard.
    """
    written = {note.id: note for note in exercise.notes}
    heard = [
        (written[n.target], n) for n in notes if n.target in written and n.right and n.f0_hz and n.onset_s is not None
    ]
    by_length: dict[float, list[tuple[bool, str]]] = {}
    for asked, note in heard:
        alike = [(other.beats, of.f0_hz) for other, of in heard if other.pitch.midi == asked.pitch.midi and of.f0_hz]
        longest = max(beats for beats, _ in alike)
        hz = median(hz for beats, hz in alike if beats > longest - 1e-6)
        by_length.setdefault(round(asked.beats, 4), []).append((_locks(trace, note, hz), asked.id))
    worst: tuple[float, str | None] | None = None
    for trials in by_length.values():
        if len(trials) < _FEWEST:
            continue
        loose = [note for locks, note in trials if not locks]
        share = len(loose) / len(trials)
        if worst is None or share > worst[0]:
            worst = share, loose[0] if loose else None
    return worst


def _locks(trace: Trace, note: NoteMeasures, hz: float) -> bool:
    assert note.onset_s is not None
    part = trace.part(note.onset_s, note.release_s if note.release_s is not None else note.onset_s)
    with np.errstate(invalid="ignore"):
        there = np.abs(cents_between(hz, part.f0_hz)) <= LOCKED_CENTS
    need = max(2, round(LOCKED_PERIODS / hz / HOP_S))
    return any(b - a + 1 >= need for a, b in runs(there))
