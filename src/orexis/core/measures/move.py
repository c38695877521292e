"""Measures between two notes: move, gap, caught partials, bump, overshoot. Formulas: docs/measures.md."""

from dataclasses import dataclass, replace

import numpy as np

from orexis.core.instruments import Fingering, Instrument, slots_hz
from orexis.core.measures.note import smooth_level
from orexis.core.measures.silence import ECHOES, HOLE_DB, Dip, dip_in_a_room, dry_hole
from orexis.core.measures.values import ClippedPartial, MoveMeasures
from orexis.core.messages import tell
from orexis.core.notes import HeardNote, cents_track, runs
from orexis.core.signals import median
from orexis.core.sound import Floats
from orexis.core.theory import cents_between, ratio_of
from orexis.core.trace import HOP_S, Trace

_CENTRE_CENTS = 30.0  # leaving and arriving
_NEAR_CENTS = 40.0  # of a touched partial
_BEYOND_CENTS = _NEAR_CENTS + 1.0  # a slot further from all that is heard is near none of it
_SHORTEST_TOUCH_S = 0.015  # shorter is a passage, and no ear hears a note in it
_PERIODS = 3.0  # a partial needs three periods to be one
_GLIDE_FACTOR = 1.8  # a touch stays longer than a straight glide would by this factor
_ARRIVE_FOR_S = 0.04  # to touch the new note is not to arrive on it
_STAY_S = 0.025  # shorter returns are the wobble of a note about to move
_DYING_S = 0.06  # in which a note that nothing follows at once dies away
_PULSES_HZ = 50.0  # lower notes come as pulses, and every pulse has a hole before it
_SAME_S, _CLEAR, _CLEAR_BETWEEN = 0.06, 0.85, 0.68
_STEP_DB = 4.0  # smaller steps are drawn as a line between the two levels
_FILLS_MS, _LIVELY_MS = 25.0, 80.0
_HOLE_FROM_DB = 20.0  # a dip so deep is no push any more


@dataclass(frozen=True, slots=True)
class Between:
    """Two neighbouring notes and the fingerings they were played on, one or two; none where they are not known."""

    before: HeardNote
    after: HeardNote
    fingerings: tuple[Fingering, ...]
    slurred: bool
    asked_s: float | None = None  # silence that the rhythm asks for
    partials: frozenset[int] = frozenset()  # that are asked of the two


@dataclass(frozen=True, slots=True, eq=False)
class DirectSound:
    """The sound with the room's tail turned down: its trace, and the level of bands every 5 ms (core/room)."""

    trace: Trace
    bands_db: Floats
    hides_ms: float  # shorter silences cannot be told in it
    echoes_db: float  # nor dips that are no deeper
    heard_db: Floats | None = None  # the bands of the sound as it came


def move_measures(
    trace: Trace, pair: Between, indices: tuple[int, int], *, instrument: Instrument, direct: DirectSound | None = None
) -> MoveMeasures:
    """Everything about one move. `direct`, where the room rings: the sound without its tail."""
    unmeasured: dict[str, str] = {}
    first, last = _bounds(trace, pair)
    start, stop = _leave_and_arrive(trace, pair, first, last)
    caught: tuple[ClippedPartial, ...] = ()
    if pair.slurred and pair.fingerings:
        caught = _caught(trace, pair, instrument, start, stop)
        if direct is not None:
            caught = _in_a_room(caught, trace, _caught(direct.trace, pair, instrument, start, stop), pair, direct)
    elif pair.slurred:
        unmeasured["clipped_partials"] = "the fingering is not known"
    dip = Dip(None, None, None)
    if pair.slurred:
        dip = _dip(trace, pair, first, last, direct, unmeasured)
        if direct is not None:
            dip = _filled(dip, caught, unmeasured)
    gap_ms, gap_start, bump = dip.gap_ms, dip.gap_start_s, dip.bump_db
    if not pair.slurred:
        unmeasured |= dict.fromkeys(("gap_ms", "clipped_partials", "bump_db"), "the notes were not slurred")
    silence = None if pair.slurred else max(0.0, pair.after.onset_s - pair.before.release_s)
    return MoveMeasures(
        before=indices[0],
        after=indices[1],
        slurred=pair.slurred,
        start_s=round(float(trace.time_s[start]), 4),
        stop_s=round(float(trace.time_s[stop]), 4),
        move_ms=round(1000.0 * (stop - start) * HOP_S, 1),
        gap_ms=None if gap_ms is None else round(gap_ms, 1),
        gap_start_s=gap_start,
        gap_under_ms=direct.hides_ms if direct and dip.none else None,
        clipped_partials=caught,
        bump_db=None if bump is None else round(bump, 1),
        overshoot_cents=_overshoot(trace, pair, stop, last),
        silence_ms=None if silence is None else round(1000.0 * silence, 1),
        silence_over_ms=None
        if silence is None or pair.asked_s is None
        else round(1000.0 * (silence - pair.asked_s), 1),
        unmeasured=unmeasured,
    )


def _dip(
    trace: Trace, pair: Between, first: int, last: int, direct: DirectSound | None, unmeasured: dict[str, str]
) -> Dip:
    if direct is not None:
        dip = dip_in_a_room(direct.bands_db, pair.before, pair.after, direct.echoes_db, direct.heard_db)
        if dip.gap_ms is None:
            unmeasured["gap_ms"] = (
                tell(
                    "this room rings: silences under {hides_ms:.0f} ms cannot be heard in it", hides_ms=direct.hides_ms
                )
                if dip.none
                else "the room rings, and the two notes share too little"
            )
        if dip.bump_db is None:
            unmeasured["bump_db"] = ECHOES
        return dip
    gap_ms, start = dry_hole(trace, first, last, min(_usual_levels(trace, pair)))
    bump = _bump(trace, pair, first, last, gap_ms)
    if bump is None:
        unmeasured["bump_db"] = "the pulses of so low a note are dips themselves"
    return Dip(gap_ms, start, bump)


def _filled(dip: Dip, caught: tuple[ClippedPartial, ...], unmeasured: dict[str, str]) -> Dip:
    """In a room a dip is read in the bands of the two notes: a slot touched between them leaves those, and is no silence."""
    longest = max(caught, key=lambda touch: touch.ms, default=None)
    if longest is None or longest.ms < _FILLS_MS:
        return dip
    gap_ms, start = dip.gap_ms, dip.gap_start_s
    if gap_ms and start is not None:
        both = min(start + gap_ms / 1000.0, longest.start_s + longest.ms / 1000.0) - max(start, longest.start_s)
        if 1000.0 * both > 0.5 * min(gap_ms, longest.ms):
            gap_ms, start = 0.0, None
    unmeasured["bump_db"] = "another partial was touched there"
    return Dip(gap_ms, start, None, dip.none)


def _bounds(trace: Trace, pair: Between) -> tuple[int, int]:
    """Frames from the last calm moment of the old note to a calm one of the new."""
    first = max(0, int(np.searchsorted(trace.time_s, pair.before.stop_s - 0.05)))
    ends_s = pair.after.release_s - (0.0 if pair.after.left_joined else _DYING_S)
    calm_s = max(pair.after.start_s, min(pair.after.start_s + 0.12, ends_s))
    last = min(len(trace) - 1, int(np.searchsorted(trace.time_s, calm_s)))
    return first, max(last, first + 1)


def _cents_from(trace: Trace, f0_hz: float, first: int, last: int) -> Floats:
    return cents_between(f0_hz, trace.f0_hz[first : last + 1])


def _leave_and_arrive(trace: Trace, pair: Between, first: int, last: int) -> tuple[int, int]:
    """Last frame within 30 c of the old centre before the new, first frame that then stays within 30 c of the new."""
    near_old = np.abs(_cents_from(trace, pair.before.f0_hz, first, last)) <= _CENTRE_CENTS
    near_new = np.abs(_cents_from(trace, pair.after.f0_hz, first, last)) <= _CENTRE_CENTS
    settled = [
        run for run in runs(near_new) if (run[1] - run[0] + 1) * HOP_S >= _ARRIVE_FOR_S or run[1] == last - first
    ]
    arrive = first + (settled[0][0] if settled else last - first)
    # A touch beyond both notes crosses the old one again on its way: only a stay there counts as the old note.
    stays = [run for run in runs(near_old[: arrive - first]) if (run[1] - run[0] + 1) * HOP_S >= _STAY_S]
    leave = first + (stays[-1][1] if stays else 0)
    return min(leave, arrive), arrive


def _caught(trace: Trace, pair: Between, instrument: Instrument, start: int, stop: int) -> tuple[ClippedPartial, ...]:
    """Slots touched on the way: of the fingering in hand, where it changes of either. One stay is told once, by its nearest slot."""
    if stop - start < 2 or not np.isfinite(trace.f0_hz[start : stop + 1]).any():
        return ()
    track = cents_track(trace, start, stop)
    heard = trace.voiced[start : stop + 1]
    clipped = []
    low, high = float(track[heard].min()) - _BEYOND_CENTS, float(track[heard].max()) + _BEYOND_CENTS
    slots = sorted((hz, partial) for fingering in pair.fingerings for partial, hz in slots_hz(instrument, fingering))
    for hz, partial in slots:
        if not low < cents_between(1.0, hz) < high:
            continue
        if min(abs(cents_between(pair.before.f0_hz, hz)), abs(cents_between(pair.after.f0_hz, hz))) < 1.5 * _NEAR_CENTS:
            continue
        near = (np.abs(track - cents_between(1.0, hz)) <= _NEAR_CENTS) & heard
        for a, b in runs(near) if near.any() else ():
            touch = _touch(track, partial, hz, a, b, start)
            if touch is not None:
                clipped.append(touch)
    return _once(clipped)


def _in_a_room(
    caught: tuple[ClippedPartial, ...],
    trace: Trace,
    dry: tuple[ClippedPartial, ...],
    pair: Between,
    direct: DirectSound,
) -> tuple[ClippedPartial, ...]:
    """Touches that a room leaves certain. Two notes that overlap mix to a pitch that is neither, under both or beyond: there a
    touch must be clear, and heard without the room as well, and where it rings long nothing is certain. Between two notes of
    one fingering nothing mixes to a slot: what is heard there without the room is a touch.
    """
    low, high = sorted((pair.before.f0_hz, pair.after.f0_hz))
    kept = [
        replace(touch, without_echoes=True)
        for touch in dry
        if len(pair.fingerings) == 1 and low < touch.f0_hz < high and touch.partial not in pair.partials
        if _clear(direct.trace, touch) > _CLEAR_BETWEEN
    ]
    if direct.hides_ms > _LIVELY_MS:
        return tuple(kept)
    for touch in caught:
        again = any(other.partial == touch.partial and abs(other.start_s - touch.start_s) < _SAME_S for other in dry)
        if again and _clear(trace, touch) > _CLEAR:
            kept.append(touch)
    return _once(kept)


def _clear(trace: Trace, touch: ClippedPartial) -> float:
    return median(trace.part(touch.start_s, touch.start_s + touch.ms / 1000.0).confidence)


def _once(clipped: list[ClippedPartial]) -> tuple[ClippedPartial, ...]:
    """Of touches that overlap in time, which are one stay near two slots, the longest."""
    kept: list[ClippedPartial] = []
    for touch in sorted(clipped, key=lambda item: -item.ms):
        end = touch.start_s + touch.ms / 1000.0
        if all(end <= other.start_s or touch.start_s >= other.start_s + other.ms / 1000.0 for other in kept):
            kept.append(touch)
    return tuple(sorted(kept, key=lambda touch: touch.start_s))


def _touch(track: Floats, partial: int, hz: float, a: int, b: int, start: int) -> ClippedPartial | None:
    """A stay near a partial that is longer than passing through it would take, at the speed of the rest of the move."""
    length = (b - a + 1) * HOP_S
    steps = np.abs(np.diff(track))
    rest = np.concatenate((steps[:a], steps[b:]))
    speed = float(rest.sum()) / (len(rest) * HOP_S) if len(rest) else 0.0
    passing = 2.0 * _NEAR_CENTS / speed if speed > 0.0 else 0.0
    if length < max(_SHORTEST_TOUCH_S, _PERIODS / hz) or length < min(_GLIDE_FACTOR * passing, 0.25):
        return None
    f0 = ratio_of(median(track[a : b + 1]))
    return ClippedPartial(partial, round(f0, 2), round((start + a) * HOP_S, 4), round(1000.0 * length, 1))


def _usual_levels(trace: Trace, pair: Between) -> tuple[float, float]:
    """Median level of the last and first 200 ms of the two notes."""
    old = trace.part(max(pair.before.start_s, pair.before.stop_s - 0.2), pair.before.stop_s)
    new = trace.part(pair.after.start_s, min(pair.after.stop_s, pair.after.start_s + 0.2))
    levels = [median(part.level_db) if len(part) else -120.0 for part in (old, new)]
    return levels[0], levels[1]


def _bump(trace: Trace, pair: Between, first: int, last: int, gap_ms: float | None) -> float | None:
    """Dip of level under the straight line between the two notes; 0 where it is a hole, which is a gap."""
    if min(pair.before.f0_hz, pair.after.f0_hz) < _PULSES_HZ:
        return None
    old, new = _usual_levels(trace, pair)
    # From one loudness to quite another the level steps: then only what lies under both is a dip.
    line = np.linspace(old, new, last - first + 1) if abs(old - new) < _STEP_DB else min(old, new)
    level = smooth_level(trace.level_db[first : last + 1], min(pair.before.f0_hz, pair.after.f0_hz))
    dip = max(0.0, float(np.max(line - level)))
    return 0.0 if gap_ms and dip > _HOLE_FROM_DB else dip


def _overshoot(trace: Trace, pair: Between, stop: int, last: int) -> float | None:
    """Furthest beyond the new note, in the direction of the move, before it settles."""
    direction = 1.0 if pair.after.f0_hz > pair.before.f0_hz else -1.0
    first = max(0, stop - 8)
    beyond = direction * _cents_from(trace, pair.after.f0_hz, first, last)
    sounding = trace.level_db[first : last + 1] > min(_usual_levels(trace, pair)) - HOLE_DB
    beyond = beyond[np.isfinite(beyond) & sounding]
    return round(max(0.0, float(beyond.max())), 1) if len(beyond) else None
