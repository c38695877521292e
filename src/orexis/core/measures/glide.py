"""A glide from one note into the next: does it leave, move evenly on one partial, arrive, and settle?

It is measured on the trace between the two, whether the ear took them for one note or for two. Cents are against the
target of the note it goes to, positive beyond it in the direction of the glide.
"""

from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from orexis.core.exercises import Exercise, ExerciseNote
from orexis.core.notes import HeardNote, Row, runs
from orexis.core.signals import median
from orexis.core.sound import Floats
from orexis.core.theory import cents_between, ratio_of
from orexis.core.trace import HOP_S, Trace

_EARLY_S, _LATE_S = 0.3, 0.25  # before the glide is due to leave, and after the note is due to end
_ARRIVED_CENTS, _ARRIVED_SHARE = 45.0, 0.4  # so near to the target: not more than this share of the glide itself
_STILL_CENTS, _STILL_S = 20.0, 0.1
_JUMP_FRAMES = 4  # 20 ms: a jump is over in it, and a glide hardly moves
_LEAVE_CENTS = 20.0  # a player who has left by this much means to go
_HOLE_DB = 15.0  # a glide may swell by half of this


@dataclass(frozen=True, slots=True)
class Glide:
    """`off_cents`: where it came to rest. `over_cents`: furthest beyond before that. `arrived_s`: how long it then stayed near
    the target, 0 where it never did. `jump_cents`: the largest step in 20 ms. `hole_ms`: longest time without tone.
    """

    off_cents: float
    over_cents: float
    arrived_s: float
    jump_cents: float
    hole_ms: float


@dataclass(frozen=True, slots=True, eq=False)
class _Track:
    """The trace about one glide: cents against its goal, positive beyond; where it rests; how near counts as there."""

    part: Trace
    first: int
    last: int
    cents: Floats
    rest: slice
    span: float
    near: float

    @property
    def off(self) -> float:
        """Return how far from its aim a glide came to rest, in cents."""
        return median(self.cents[self.rest])

    @property
    def arrived(self) -> bool:
        """Whether that is at its goal."""
        return abs(self.off) <= self.near

    def time_s(self, index: int) -> float:
        """When a frame of `cents` is."""
        return float(self.part.time_s[self.first + min(index, len(self.cents) - 1)])


def glides_in(exercise: Exercise) -> bool:
    """Whether the exercise asks for glides that are judged by where they arrive; bends and sweeps are judged otherwise."""
    asked = any(note.glide_beats > 0.0 and not note.free for note in exercise.notes)
    return asked and "bend" not in exercise.judged and "siren" not in exercise.judged


def glide_of(
    trace: Trace, exercise: Exercise, before: ExerciseNote, note: ExerciseNote, *, a4: float, first_beat_s: float
) -> Glide | None:
    """None where there was no tone to follow."""
    track = _track(trace, exercise, before, note, a4, first_beat_s)
    if track is None:
        return None
    cents, rest = track.cents, track.rest
    stays = max((b - a + 1 for a, b in runs(np.abs(cents[rest.start :]) <= track.near)), default=0) * HOP_S
    moved = np.abs(cents[_JUMP_FRAMES:] - cents[:-_JUMP_FRAMES])
    return Glide(
        off_cents=round(track.off, 1),
        over_cents=round(max(0.0, float(cents[: rest.stop].max())), 1),
        arrived_s=round(stays if track.arrived else 0.0, 3),
        jump_cents=round(float(moved.max()) if len(moved) else 0.0, 1),
        hole_ms=round(1000.0 * _longest_hole(track.part, track.first, track.last), 1),
    )


def split_at_glides(
    trace: Trace, rows: tuple[Row, ...], exercise: Exercise, *, a4: float, first_beat_s: float | None
) -> tuple[Row, ...]:
    """Rows in which a note ends where its glide leaves it, and the next one begins where the glide comes to rest."""
    out = list(rows)
    zero = zero_of(rows, exercise, first_beat_s)
    for i, (held, reached) in enumerate(pairwise(rows)):
        before, note, heard = held.written, reached.written, out[i].heard
        if before is None or note is None or heard is None or note.glide_beats <= 0.0 or note.free:
            continue
        track = _track(trace, exercise, before, note, a4, zero)
        if track is None or not track.arrived:
            continue
        leave = track.time_s(_leaves(track))
        comes, stops = track.time_s(track.rest.start), track.time_s(track.rest.stop - 1)
        if not heard.onset_s < leave < comes:
            continue
        own = trace.part(heard.onset_s, leave)
        f0 = median(own.f0_hz[own.voiced]) if own.voiced.any() else heard.f0_hz
        last = reached.heard or heard
        out[i] = replace(
            out[i], heard=replace(heard, f0_hz=f0, stop_s=leave, release_s=leave, left_joined=True), right=True
        )
        end = max(last.release_s, stops)
        goal = _asked_hz(exercise, note, a4) * ratio_of(float(np.sign(track.span)) * track.off)
        arrived = HeardNote(f"{heard.id}g", float(goal), comes, stops, comes, end, True, last.left_joined)
        out[i + 1] = Row(note, arrived, True)
    return tuple(out)


def zero_of(rows: tuple[Row, ...], exercise: Exercise, first_beat_s: float | None) -> float:
    """When the count-in's first beat was; by the first note that was heard where nobody knows."""
    if first_beat_s is not None:
        return first_beat_s
    first = next(((r.heard, r.written) for r in rows if r.heard is not None and r.written is not None), None)
    return first[0].onset_s - exercise.start_s(first[1]) if first else 0.0


def _leaves(track: _Track) -> int:
    """The last frame before the rest that lies nearer to the start than a small part of the way."""
    level = median(track.cents[: max(4, round(_EARLY_S / HOP_S))])
    near = np.flatnonzero(np.abs(track.cents[: track.rest.start] - level) <= min(_LEAVE_CENTS, 0.25 * abs(track.span)))
    return int(near[-1]) if len(near) else 0


def _track(
    trace: Trace, exercise: Exercise, before: ExerciseNote, note: ExerciseNote, a4: float, first_beat_s: float
) -> _Track | None:
    asked = _asked_hz(exercise, note, a4)
    span = cents_between(_asked_hz(exercise, before, a4), asked)
    if abs(span) < 1.0:
        return None
    due = first_beat_s + exercise.start_s(note)
    start = due - note.glide_beats * exercise.beat_s - _EARLY_S
    place = exercise.notes.index(note)
    leaves_again = place + 1 < len(exercise.notes) and exercise.notes[place + 1].glide_beats > 0.0
    gone = exercise.notes[place + 1].glide_beats * exercise.beat_s if leaves_again else -_LATE_S
    stop = due + note.beats * exercise.beat_s - gone
    part = trace.part(start, max(stop, due + _STILL_S))
    voiced = np.flatnonzero(part.voiced)
    if len(voiced) * HOP_S < _STILL_S:
        return None
    first, last = int(voiced[0]), int(voiced[-1])
    at = np.arange(first, last + 1)
    cents = np.sign(span) * cents_between(asked, np.interp(at, voiced, part.f0_hz[voiced]))
    near = min(_ARRIVED_CENTS, _ARRIVED_SHARE * abs(span))
    return _Track(part, first, last, cents, _where_it_rests(cents, first, part, due), span, near)


def _asked_hz(exercise: Exercise, note: ExerciseNote, a4: float) -> float:
    """The slot on a kept fingering, the target elsewhere."""
    share = note.instrument_cents if note.keep_fingering else 0.0
    return exercise.target_hz(note, a4=a4) * ratio_of(share)


def _where_it_rests(cents: Floats, first: int, part: Trace, due_s: float) -> slice:
    """The last stretch that stands still; the last quarter of a second where nothing does."""
    width = round(_STILL_S / HOP_S)
    low = max(0, int(np.searchsorted(part.time_s, due_s - 0.1)) - first)
    still = np.zeros(len(cents), bool)
    if len(cents) >= width:
        views = np.lib.stride_tricks.sliding_window_view(cents, width)
        for k in np.flatnonzero(np.ptp(views, axis=1) <= _STILL_CENTS):
            if k >= low:
                still[k : k + width] = True
    rests = runs(still)
    if not rests:
        return slice(max(0, len(cents) - round(0.25 / HOP_S)), len(cents))
    a, b = max(rests, key=lambda run: run[1] - run[0])
    return slice(a, b + 1)


def _longest_hole(part: Trace, first: int, last: int) -> float:
    level = part.level_db[first : last + 1]
    quiet = ~part.voiced[first : last + 1] | (level < median(level) - _HOLE_DB)
    inside = [(a, b) for a, b in runs(quiet) if a > 0 and b < last - first]
    return max((b - a + 1 for a, b in inside), default=0) * HOP_S
