"""Silence inside a slur: the time in which nothing is fed into the sound.

In a dry room the level falls away at once and the hole is read off the level. Where the room rings, a hole is the time in
which the sound only *decays as it does in this room when a note ends*: the fall after the take's own last release is
learned, and the level between the two notes is held against it. Where the room falls too slowly even for that, the silence
is not measured. A dip that falls more slowly than the room would is a note pushed anew, not a hole.
"""

import numpy as np

from orexis.core.notes import runs
from orexis.core.sound import Floats
from orexis.core.trace import HOP_S, Trace

HOLE_DB = 12.0  # without tone in a dry room: so far under the softer neighbour
# How much a Hann window of 25 ms shortens a hole seen at -12 dB, both sides together.
_WIDENING_S = 0.010
# A release that falls less than 12 dB in 60 ms: what is seen of a hole is then the room.
DRY_DB_S = 200.0
_FALL_FOR_S = 0.3
_HIDES_S, _HIDES_DB = 0.06, 3.0  # a room that falls less in the length that matters hides it
_BEFORE_S, _AFTER_S, _USUAL_S = 0.35, 0.12, 0.3
_LEAST_DIP_DB = 4.0
_DROP_DB, _RISE_DB = 2.5, 1.5  # where the fall begins, and where the level turns
_LEAST_S = 0.02
_DIRECT_S, _HALL_DB_S = 0.06, 60.0  # a room that falls by less in a second hides what is not plain
_LEARNED_S = 0.45  # a note that lasted less has not filled the room: its level is not known
_DEPTH_SHARE = 0.6  # of the room's own mean fall in that time: sounds that beat dip less deep


def fall_after_release(trace: Trace) -> Floats | None:
    """Level against the last tone's own, every 5 ms from where it leaves it: how a note dies away here.

    None when the last tone does not end within the sound.
    """
    voiced = np.flatnonzero(trace.voiced)
    if not len(voiced):
        return None
    usual = float(np.median(trace.level_db[voiced]))
    loud = np.flatnonzero(trace.level_db > usual - 6.0)
    if not len(loud):
        return None
    end = int(loud[-1])
    low = max(0, end - round(_USUAL_S / HOP_S))
    own = float(np.percentile(trace.level_db[low : end + 1], 75))
    start = end - int(np.argmax(trace.level_db[low : end + 1][::-1] >= own - _DROP_DB))
    fall = trace.level_db[start : start + round(_FALL_FOR_S / HOP_S)] - own
    return fall if len(fall) * HOP_S >= 0.1 else None


def release_db_s(fall: Floats | None) -> float | None:
    """How fast the last tone dies away over its first 20 dB or 120 ms, dB per second."""
    if fall is None:
        return None
    tail = fall[: round(0.12 / HOP_S)]
    reached = np.flatnonzero(tail < tail[0] - 20.0)
    frames = int(reached[0]) if len(reached) else len(tail) - 1
    return float((tail[0] - tail[frames]) / (max(frames, 1) * HOP_S))


def dry_hole(trace: Trace, first: int, last: int, softer_db: float) -> tuple[float, float | None]:
    """Length in ms of the longest stretch 12 dB and more under the softer note, and its start."""
    holes = runs(trace.level_db[first : last + 1] < softer_db - HOLE_DB)
    if not holes:
        return 0.0, None
    a, b = max(holes, key=lambda run: run[1] - run[0])
    start = float(trace.time_s[first + a]) - _WIDENING_S / 2
    return 1000.0 * ((b - a + 1) * HOP_S + _WIDENING_S), round(start, 4)


def hole_in_a_room(trace: Trace, onset_s: float, fall: Floats) -> tuple[float, float | None]:
    """Length in ms of the time before `onset_s` in which the sound only decays as this room does, and its start."""
    low, middle, high = np.searchsorted(trace.time_s, (onset_s - _BEFORE_S, onset_s, onset_s + _AFTER_S))
    level = trace.level_db[low:high]
    if len(level) < 8:
        return 0.0, None
    before = trace.level_db[max(0, middle - 2 * (middle - low)) : middle]
    old = float(np.percentile(before, 75))
    bottom = int(np.argmin(level))
    if old - level[bottom] < _LEAST_DIP_DB or level[bottom:].max() < level[bottom] + _LEAST_DIP_DB:
        return 0.0, None
    stands = np.flatnonzero(level[: bottom + 1] >= old - _DROP_DB)
    drop = int(stands[-1]) if len(stands) else 0
    turned = np.flatnonzero(level[bottom:] > level[bottom] + _RISE_DB)
    rise = bottom + int(turned[0])
    count = rise - drop
    room = old + np.concatenate((fall, np.full(max(0, count - len(fall)), fall[-1])))[:count]
    if count * HOP_S < _LEAST_S:
        return 0.0, None
    # The room's echoes rise and fall by many dB from pitch to pitch: what compares is the mean.
    if old - float(level[drop:rise].mean()) < _DEPTH_SHARE * (old - float(room.mean())):
        return 0.0, None
    return 1000.0 * count * HOP_S, round(float(trace.time_s[low + drop]), 4)


def _late_db_s(fall: Floats) -> float:
    """How fast the room itself dies away, after the direct sound has gone, dB per second."""
    late = fall[round(_DIRECT_S / HOP_S) :]
    return float((late[0] - late[-1]) / (len(late) * HOP_S)) if len(late) > 1 else DRY_DB_S


def silence_in_slur(
    trace: Trace, bounds: tuple[int, int], onset_s: float, lasted_s: float, softer_db: float, fall: Floats | None
) -> tuple[float | None, float | None, str | None]:
    """Length in ms and start of the silence between two slurred notes, or why it cannot be told.

    `lasted_s`: how long the note before it lasted; `softer_db`: the level of the softer of the two.
    """
    rate = release_db_s(fall)
    if fall is None or rate is None or rate >= DRY_DB_S:
        return *dry_hole(trace, *bounds, softer_db), None
    if -fall[min(len(fall) - 1, round(_HIDES_S / HOP_S))] < _HIDES_DB:
        return None, None, f"the room rings too long ({rate:.0f} dB a second) to hear a short silence in it"
    if lasted_s < _LEARNED_S:
        return None, None, "the room rings, and the notes are too short to hear a short silence between them"
    found, start = hole_in_a_room(trace, onset_s, fall)
    if not found and _late_db_s(fall) < _HALL_DB_S:
        return None, None, f"the room rings too long ({rate:.0f} dB a second) to hear every short silence in it"
    return found, start, None
