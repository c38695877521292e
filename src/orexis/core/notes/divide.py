"""Two written notes heard as one: a small step that the ear alone takes for one note that moved.

Where the exercise asks for two notes not more than a whole tone apart and one of them is missing, the heard note beside it
may hold both: a leading note that lies 35 cents high is 65 from its neighbour. Its pitch is then two levels with a quick
step between them, in the direction that is written and near the moment at which the second is due. A note that is
written again on the same pitch begins where the level dips and comes back. Nothing is invented: without such a step or dip
the note stays one.
"""

from dataclasses import replace
from itertools import pairwise

import numpy as np

from orexis.core.exercises import Exercise, ExerciseNote
from orexis.core.notes.values import HeardNote, Row
from orexis.core.signals import median, running_maximum, running_mean
from orexis.core.sound import Floats
from orexis.core.theory import cents_between, ratio_of
from orexis.core.trace import HOP_S, Trace

_STEP_CENTS = (28.0, 240.0)  # between the two levels
_MOST_WRITTEN_CENTS = 210.0  # two semitones: wider steps are heard as notes of their own
_LEAST_S = 0.07  # of either note
_TWO_LEVELS = 0.4  # of the unrest about one level may be left about two
_QUICK_S, _QUICK_SHARE = 0.09, 0.35  # from near one level to near the other
_NEAR_SHARE = 0.6  # of the written length about the moment at which the second is due
_SETTLING_S = 0.12  # an entry's own movement is over
_LONG_ENOUGH = 0.7  # of both written lengths: what is shorter holds one of them
_HOLDS_MORE = 1.15  # times both written lengths
_DIP_DB, _DIP_SIDE_S, _DIP_QUICK_S = 3.0, 0.15, 0.05  # so deep, and back so far within the shorter of the times
_ALONE_DB = 2.0  # deeper than any other dip of the same note
_EVEN_PERIODS = 2.0  # of a low note, whose level comes in pulses
_NEAR = 6  # frames


def split_undersegmented(
    trace: Trace, rows: tuple[Row, ...], exercise: Exercise, *, a4: float
) -> tuple[HeardNote, ...] | None:
    """The heard notes with one of them divided, or None where there is nothing to divide."""
    for before, after in pairwise(rows):
        for held, lost, lost_is_second in ((before, after, True), (after, before, False)):
            if lost.heard is not None or lost.written is None or held.heard is None or held.written is None:
                continue
            first, second = (held.written, lost.written) if lost_is_second else (lost.written, held.written)
            parts = _two_in(trace, held.heard, first, second, exercise, a4)
            if parts is not None:
                heard = [row.heard for row in rows if row.heard is not None]
                at = heard.index(held.heard)
                return tuple(heard[:at] + list(parts) + heard[at + 1 :])
    return None


def _two_in(
    trace: Trace, heard: HeardNote, first: ExerciseNote, second: ExerciseNote, exercise: Exercise, a4: float
) -> tuple[HeardNote, HeardNote] | None:
    written = cents_between(exercise.target_hz(first, a4=a4), exercise.target_hz(second, a4=a4))
    if abs(written) > _MOST_WRITTEN_CENTS:
        return None
    part = trace.part(heard.onset_s, heard.release_s)
    clear = part.voiced
    asked_s = (first.beats + second.beats) * exercise.beat_s
    if clear.sum() * HOP_S < 2.0 * _LEAST_S or heard.release_s - heard.onset_s < _LONG_ENOUGH * asked_s:
        return None
    at = np.arange(len(part))
    cents = np.interp(at, at[clear], cents_between(heard.f0_hz, part.f0_hz[clear]))
    again = first.pitch == second.pitch
    step, seen = None, len(cents)
    for seen, beats in _stretches(len(cents), first, second, exercise):
        where = _window(seen, beats, first, second, exercise)
        step = _dip(part.level_db[:seen], where, heard.f0_hz) if again else _step(cents[:seen], np.sign(written), where)
        if step is not None:
            break
    if step is None:
        return None
    boundary = float(part.time_s[step])
    low, high = median(cents[:step]), median(cents[step:seen])
    left = replace(
        heard,
        id=f"{heard.id}a",
        f0_hz=heard.f0_hz * ratio_of(low),
        stop_s=max(heard.start_s, min(heard.stop_s, boundary - HOP_S)),
        release_s=boundary,
        left_joined=not again,
    )
    right = replace(
        heard,
        id=f"{heard.id}b",
        f0_hz=heard.f0_hz * ratio_of(high),
        start_s=min(heard.stop_s, max(heard.start_s, boundary + HOP_S)),
        onset_s=boundary,
        joined=not again,
    )
    return left, right


def _stretches(count: int, first: ExerciseNote, second: ExerciseNote, exercise: Exercise) -> list[tuple[int, float]]:
    """How many frames to look at, and the beats written for them: all; of a note that holds still more, the first two."""
    beats = first.beats + second.beats
    if second.glide_beats > 0.0 or count * HOP_S <= _HOLDS_MORE * beats * exercise.beat_s:
        return [(count, beats)]
    even = first.beats + min(first.beats, second.beats)
    return [(count, beats), (min(count, round(even * exercise.beat_s / HOP_S)), even)]


def _window(count: int, beats: float, first: ExerciseNote, second: ExerciseNote, exercise: Exercise) -> slice:
    """Where the second note may begin: about its share of the written beats."""
    due = round(count * first.beats / beats)
    reach = round(_NEAR_SHARE * min(first.beats, second.beats) * exercise.beat_s / HOP_S)
    least = round(_LEAST_S / HOP_S)
    return slice(max(least, due - reach), min(count - least, due + reach))


def _dip(level_db: Floats, where: slice, f0_hz: float) -> int | None:
    """Where the level dips once and comes back quickly: a note begun anew on its own pitch, in a room that fills the silence."""
    if where.stop <= where.start:
        return None
    level = running_mean(level_db, max(1, round(_EVEN_PERIODS / f0_hz / HOP_S)))
    depth, quick = _depths(level, _DIP_SIDE_S), _depths(level, _DIP_QUICK_S)
    at = where.start + int(np.argmax(depth[where]))
    if depth[at] < _DIP_DB or quick[max(0, at - _NEAR) : at + _NEAR].max() < _DIP_DB:
        return None
    elsewhere = depth.copy()
    side = round(_DIP_SIDE_S / HOP_S)
    elsewhere[max(0, at - side) : at + side] = 0.0
    elsewhere[: round(_SETTLING_S / HOP_S)] = elsewhere[-side:] = 0.0
    return at if depth[at] >= elsewhere.max() + _ALONE_DB else None  # one of many is a wave


def _depths(level: Floats, within_s: float) -> Floats:
    """How far each frame lies under the softer of the loudest moments so shortly before and after it, dB."""
    size = round(within_s / HOP_S)
    away = size // 2 + 1
    most = running_maximum(level, size)
    depth = np.minimum(np.roll(most, away), np.roll(most, -away)) - level
    depth[:away] = depth[-away:] = 0.0
    return np.asarray(depth)


def _step(cents: Floats, sign: float, where: slice) -> int | None:
    """The frame at which the second level begins; None where the pitch is not two levels with a quick step between."""
    if where.stop <= where.start:
        return None
    # The first moments may slide in: they say nothing about a level.
    skip = min(round(_SETTLING_S / HOP_S), where.start // 2)
    body = cents[skip:]
    total, squares = np.cumsum(body), np.cumsum(body**2)
    cuts = np.arange(where.start, where.stop) - skip
    left, right = cuts, len(body) - cuts
    sum_left, sum_right = total[cuts - 1], total[-1] - total[cuts - 1]
    unrest = squares[-1] - sum_left**2 / left - sum_right**2 / right
    best = int(np.argmin(unrest))
    whole = squares[-1] - total[-1] ** 2 / len(body)
    if whole <= 0.0 or unrest[best] > _TWO_LEVELS * whole:
        return None
    cut = int(cuts[best])
    low, high = median(body[:cut]), median(body[cut:])
    size = sign * (high - low)
    if not _STEP_CENTS[0] <= size <= _STEP_CENTS[1]:
        return None
    share = (body - low) * sign / size
    near = round(_QUICK_S / HOP_S)
    around = share[max(0, cut - near) : cut + near]
    leaving, arriving = np.flatnonzero(around < _QUICK_SHARE), np.flatnonzero(around > 1.0 - _QUICK_SHARE)
    if not len(leaving) or not len(arriving) or arriving[-1] < leaving[0]:
        return None
    last_low = int(leaving[-1])
    after = arriving[arriving > last_low]
    if not len(after) or (int(after[0]) - last_low) * HOP_S > _QUICK_S:
        return None
    return skip + cut
