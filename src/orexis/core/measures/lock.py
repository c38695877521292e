"""Whether both notes of a trill lock: each note, however short, stays in its slot for a moment, at every speed.

A pitch that sweeps from note to note never stays: it may be heard as fewer notes than were played, so that it is told by the time that it
spends in the slots, whatever notes were found.
"""

from dataclasses import dataclass
from statistics import median

import numpy as np

from orexis.core.exercises import Exercise
from orexis.core.measures.values import NoteMeasures
from orexis.core.notes import runs
from orexis.core.sound import Floats
from orexis.core.theory import cents_between
from orexis.core.trace import HOP_S, Trace

LOCKED_CENTS, LOCKED_PERIODS = 40.0, 3.0
_FEWEST = 4  # notes of one length
_CLEARLY = 0.4  # of the way from the middle to a slot: less is no turn


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


@dataclass(frozen=True, slots=True)
class TrillMotion:
    """How the pitch of a trill moves between its two slots, whatever notes were found in it.

    `share`: how much longer it stays within 40 c of either slot than an even sweep between them would, of the notes of the length at which
    it is least (0: it sweeps, 1: it is always in a slot); `note`: the first of those; `lost_turns`: of all that are written; `rate_hz`: there-and-backs
    a second where it is quickest.
    """

    share: float
    note: str
    lost_turns: int
    rate_hz: float | None


def motion_of(trace: Trace, notes: tuple[NoteMeasures, ...], exercise: Exercise) -> TrillMotion | None:
    """Return how a trill between two notes moves, None where nothing was heard of it, or it is written between more notes."""
    written = {note.pitch.midi: note.pitch.frequency() for note in exercise.notes}
    heard = [n for n in notes if n.right and n.onset_s is not None and n.pitch_error_cents is not None]
    if len(written) != 2 or not heard:
        return None
    off = median(n.pitch_error_cents for n in heard if n.pitch_error_cents is not None)
    slots = [hz * 2.0 ** (off / 1200.0) for hz in written.values()]
    places = {note.id: note.start_beat * exercise.beat_s for note in exercise.notes}
    first = heard[0].onset_s - places.get(heard[0].target or "", 0.0) if heard[0].onset_s is not None else 0.0
    least: tuple[float, str] | None = None
    lost, rates = 0, dict[float, float]()
    for beats in {round(note.beats, 4) for note in exercise.notes}:
        alike = [note for note in exercise.notes if abs(note.beats - beats) < 1e-3]
        if len(alike) < _FEWEST:
            continue
        part = trace.part(first + places[alike[0].id], first + places[alike[-1].id] + beats * exercise.beat_s)
        f0_hz = part.f0_hz[part.voiced]
        turns = _turns(part.time_s[part.voiced], f0_hz, slots)
        lost += max(0, len(alike) - 1 - len(turns))
        if len(turns) > 1:
            rates[beats] = 0.5 / float(np.median(np.diff(turns)))
        if len(f0_hz):
            share = _stay(f0_hz, slots)
            least = min(least or (share, alike[0].id), (share, alike[0].id))
    return None if least is None else TrillMotion(*least, lost, rates[min(rates)] if rates else None)


def _stay(f0_hz: Floats, slots: list[float]) -> float:
    sweep = 2.0 * LOCKED_CENTS / abs(float(cents_between(slots[0], slots[1])))
    stays = np.any([np.abs(cents_between(hz, f0_hz)) <= LOCKED_CENTS for hz in slots], axis=0)
    return (float(np.mean(stays)) - sweep) / (1.0 - sweep)


def _turns(time_s: Floats, f0_hz: Floats, slots: list[float]) -> Floats:
    """When the pitch goes from one side of the middle to the other, clearly."""
    low, high = sorted(slots)
    half = 0.5 * float(cents_between(low, high))
    from_middle = cents_between(low, f0_hz) - half
    clear = np.abs(from_middle) > _CLEARLY * half
    return time_s[clear][1:][np.diff(np.sign(from_middle[clear])) != 0.0]
