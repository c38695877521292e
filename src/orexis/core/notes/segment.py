"""From a trace to heard notes.

A note is a stretch of steady pitch: within 20 ms on either side it moves less than 60 cents. Stretches closer than
75 cents with no silence between them are one note (a wobble, a sag, a late correction); a stretch shorter than 60 ms
is a touch on the way, not a note. Where a region begins or ends with a short stretch that slides into its neighbour, it
is that note's entry or end. Two notes joined by a slur meet where the pitch crosses the middle between them. Silence of
30 ms, or a level 24 dB under the note's own, ends a note; a quick dip and return of the level starts it anew.
"""

from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from orexis.core.notes.values import HeardNote
from orexis.core.signals import median, running_maximum, running_mean, running_median, running_minimum
from orexis.core.sound import Floats
from orexis.core.theory import cents_between, ratio_of
from orexis.core.trace import HOP_S, Trace

_CALM_S = 0.02  # how long pitch must stand still
_STEADY_CENTS = 60.0  # wide enough for vibrato, narrower than a semitone
_SAME_NOTE_CENTS = 75.0  # closer stretches are one note that moved
_SHORTEST_S = 0.06  # the shortest note that anybody writes here
_PASSING_S = 0.095  # shorter than this between two joined notes is a touch on the way
_SILENCE_S = 0.03  # a shorter hole is a tongue or a pulse
_DROP_DB = 24.0  # what is softer is the room's tail
_ONSET_DB = 20.0  # where a note begins to be heard beside itself
# A Hann window of 25 ms that looks at an abrupt start shows it 20 dB down so long before it happens.
_WINDOW_LEAD_S = 0.007
_UNSEEN_S, _LATEST_S = 0.02, 0.1
# An attack or ending is no longer, no further off, and slides no faster; the second is shorter than any note.
_EDGES = ((0.16, 150.0, 3000.0), (_PASSING_S, 250.0, 9000.0))  # s, cents, cents per second
# A dip of the level so deep, that returns nearly so quickly, within so long, begins a note anew: the wave is another
# one then and repeats less well across the dip. Two sounds that beat dip as deep, but the wave goes on.
_DIP_DB, _BACK_DB, _DIP_RISE_S, _DIP_AROUND_S, _DIP_EDGE_S = 6.0, 6.0, 0.07, 0.15, 0.05
_ANEW, _NEAR, _DEEP_DB, _DYING_DB, _LOUD_DIP_DB = 0.04, 8, 14.0, 12.0, 2.5
# A vibrato about a dip: frames on either side, how clear, how far from end to end, and from frame to frame in cents.
_SWING, _SWING_CLEAR, _SWING_CENTS, _SWING_STEP_CENTS = 24, 0.85, 25.0, 25.0
_TAIL_DB, _TAIL_S = 12.0, 0.5  # so much softer, so soon after its like: a room's tail
_KNOCK_S, _KNOCK_DB = 0.2, 8.0
_MIXED_S, _MIXED_DB = 0.1, 12.0
_STAY_CENTS, _AWAY_CENTS, _STAY_CLEAR = 12.0, 90.0, 0.9  # from frame to frame; from both notes
# Where one note takes over from another that still sounds, the wave repeats less well from the first moment on.
_BLEND, _BLEND_CENTS, _BLEND_S, _GLIDE_S, _GLIDE_MOST_S = 0.025, 250.0, 0.06, 0.015, 0.045

Flags = np.ndarray[tuple[int, ...], np.dtype[np.bool_]]


@dataclass(frozen=True, slots=True)
class _Stretch:
    """Frames of steady pitch; `start` and `stop` bound all that belongs to the note; `again` when it was begun anew."""

    first: int
    last: int  # inclusive
    cents: float
    start: int = -1
    stop: int = -1
    joined: bool = False
    again: bool = False


def segment_notes(trace: Trace) -> tuple[HeardNote, ...]:
    """All notes of a trace in order of time."""
    stretches: list[_Stretch] = []
    clean = harmonic_level(trace)
    for first, last in _regions(trace):
        notes = _bounded(trace, clean, _without_entries(trace, _merged(_steady(trace, first, last))), first, last)
        for stretch in notes:
            stretch = _reaching_back(trace, clean, stretches, stretch)
            tail = bool(stretches) and _is_tail(trace, clean, stretches[-1], stretch)
            if not tail and not _is_knock(clean, stretch):
                stretches += _split_at_breaks(trace, clean, stretch)
    return tuple(_note(trace, clean, stretch, i, _next(stretches, i)) for i, stretch in enumerate(stretches))


def runs(flags: Flags) -> list[tuple[int, int]]:
    """First and last index of every run of True."""
    edges = np.flatnonzero(np.diff(np.concatenate(([False], flags, [False])).astype(np.int8)))
    return [(int(a), int(b) - 1) for a, b in zip(edges[::2], edges[1::2], strict=True)]


def harmonic_level(trace: Trace) -> Floats:
    """Level of the harmonics alone, dB: the share of the power that repeats; silence where there is no pitch."""
    share = np.maximum(np.clip(trace.confidence, 1e-6, 1.0), 1e-6)
    return np.where(trace.voiced, trace.level_db + 10.0 * np.log10(share), -120.0)


def cents_track(trace: Trace, first: int, last: int) -> Floats:
    """Cents above 1 Hz with short holes bridged."""
    f0 = trace.f0_hz[first : last + 1]
    index = np.arange(len(f0))
    there = np.isfinite(f0)
    return cents_between(1.0, np.interp(index, index[there], f0[there]))


def _next(stretches: list[_Stretch], index: int) -> _Stretch | None:
    return stretches[index + 1] if index + 1 < len(stretches) else None


def _regions(trace: Trace) -> list[tuple[int, int]]:
    """Return the stretches of tone between silences, as first and last frame."""
    tone = trace.voiced.copy()
    for first, last in runs(tone):
        usual = median(trace.level_db[first : last + 1])
        tone[first : last + 1] &= trace.level_db[first : last + 1] > usual - _DROP_DB
    most = round(_SILENCE_S / HOP_S)
    for first, last in runs(~tone):
        if first > 0 and last + 1 < len(tone) and last - first + 1 < most:
            tone[first : last + 1] = True  # a click or a crack of a few frames is no silence
    return [(a, b) for a, b in runs(tone) if (b - a + 1) * HOP_S >= _SHORTEST_S]


def _steady(trace: Trace, first: int, last: int) -> list[_Stretch]:
    if not np.isfinite(trace.f0_hz[first : last + 1]).any():
        return []
    cents = running_median(cents_track(trace, first, last), 3)
    width = 2 * round(_CALM_S / HOP_S) + 1
    calm = running_maximum(cents, width) - running_minimum(cents, width) < _STEADY_CENTS
    stretches = []
    for a, b in runs(calm):
        stretch = _widened(cents, a, b)
        if (stretch.last - stretch.first + 1) * HOP_S >= _SHORTEST_S:
            stretches.append(_Stretch(first + a, first + b, stretch.cents))
    return stretches


def _widened(cents: Floats, a: int, b: int) -> _Stretch:
    """The stretch with the neighbours that still lie near its pitch: the filter's width was lost on both sides."""
    middle = median(cents[a : b + 1])
    near = np.abs(cents - middle) < _STEADY_CENTS
    while a > 0 and near[a - 1]:
        a -= 1
    while b + 1 < len(cents) and near[b + 1]:
        b += 1
    return _Stretch(a, b, middle)


def _merged(stretches: list[_Stretch]) -> list[_Stretch]:
    out: list[_Stretch] = []
    for stretch in stretches:
        if out and abs(out[-1].cents - stretch.cents) < _SAME_NOTE_CENTS:
            before = out.pop()
            longer = max(before, stretch, key=lambda s: s.last - s.first)
            out.append(_Stretch(before.first, stretch.last, longer.cents))
        else:
            out.append(stretch)
    return out


def _without_entries(trace: Trace, stretches: list[_Stretch]) -> list[_Stretch]:
    """A short first stretch that slides into the next is its entry, a short last one the end of the one before."""
    out = list(stretches)
    if len(out) > 1 and _is_edge(trace, out[0], out[1]):
        out[:2] = [out[1]]
    if len(out) > 1 and _is_edge(trace, out[-1], out[-2]):
        out[-2:] = [out[-2]]
    return out


def _is_edge(trace: Trace, edge: _Stretch, note: _Stretch) -> bool:
    away, length_s = abs(edge.cents - note.cents), (edge.last - edge.first + 1) * HOP_S
    a, b = sorted((edge, note), key=lambda s: s.first)
    if np.isfinite(trace.f0_hz[a.last : b.first + 1]).any():
        track = cents_track(trace, a.last, b.first)
        speed = float(np.abs(np.diff(track)).max(initial=0.0)) / HOP_S
    else:  # the change lies in a hole of a few frames
        speed = away / (max(1, b.first - a.last) * HOP_S)
    return any(length_s <= most_s and away <= most and speed < fastest for most_s, most, fastest in _EDGES)


def _bounded(trace: Trace, clean: Floats, stretches: list[_Stretch], first: int, last: int) -> list[_Stretch]:
    """Where each note of a region begins and ends: joined ones meet where the pitch crosses the middle."""
    out = []
    starts = [first, *(_crossing(trace, clean, a, b) for a, b in pairwise(stretches))]
    for i, stretch in enumerate(stretches):
        stop = starts[i + 1] - 1 if i + 1 < len(stretches) else last
        out.append(_Stretch(stretch.first, stretch.last, stretch.cents, starts[i], stop, i > 0))
    passing = round(_PASSING_S / HOP_S)
    return [s for i, s in enumerate(out) if not (0 < i < len(out) - 1 and s.stop - s.start + 1 < passing)]


def _crossing(trace: Trace, clean: Floats, before: _Stretch, after: _Stretch) -> int:
    """The first frame of the new note: past the middle of a glide, or where the wave first repeats less well."""
    track = cents_track(trace, before.first, after.first)
    nearer_old = np.abs(track - before.cents) < np.abs(track - after.cents)
    if not nearer_old.any():
        return after.first
    crossing = before.first + int(np.flatnonzero(nearer_old)[-1]) + 1
    stay = _last_stay(track, trace.confidence[before.first : after.first + 1], before.cents, after.cents)
    if stay is not None:
        return max(crossing, before.first + stay + 2)  # another pitch was touched on the way: the note comes after it
    held = np.flatnonzero(np.abs(track[: crossing - before.first] - before.cents) < 0.5 * _STEADY_CENTS)
    glide = crossing - (before.first + int(held[-1]) if len(held) else before.first)
    low = max(before.first + 2, crossing - round(_BLEND_S / HOP_S))
    bottom = low + int(np.argmin(clean[low : crossing + 4]))
    if median(clean[after.first : after.last + 1]) - clean[bottom] > _DYING_DB:
        return bottom + 1  # the old note was dying away: the new one begins where the level turns
    usual = median(trace.confidence[max(before.first, low - 20) : low])
    at = crossing
    while at > low and trace.confidence[at - 1] < usual - _BLEND:
        at -= 1
    if _GLIDE_S <= glide * HOP_S <= _GLIDE_MOST_S and abs(after.cents - before.cents) > _BLEND_CENTS:
        return (at + crossing + 1) // 2  # a glide of the lips and a quick change of valves look alike here
    return at


def _last_stay(track: Floats, confidence: Floats, old: float, new: float) -> int | None:
    """The last frame of the last stay of 15 ms away from both notes; None where the way was direct."""
    still = np.abs(np.gradient(track)) < _STAY_CENTS if len(track) > 2 else np.zeros(len(track), bool)
    away = (np.abs(track - old) > _AWAY_CENTS) & (np.abs(track - new) > _AWAY_CENTS)
    still &= confidence > _STAY_CLEAR  # two notes that overlap mix to a third pitch, but not clearly
    ends = [b for a, b in runs(still & away) if b - a + 1 >= 3]
    return ends[-1] if ends else None


def _split_at_breaks(trace: Trace, clean: Floats, stretch: _Stretch) -> list[_Stretch]:
    """The notes that a stretch of one pitch holds: each quick dip and return of the level begins another."""
    f0 = ratio_of(stretch.cents)
    smooth = max(1, round(2.0 / f0 / HOP_S))
    level = running_mean(clean[stretch.start : stretch.stop + 1], smooth)
    edge, around, rise = (round(x / HOP_S) for x in (_DIP_EDGE_S, _DIP_AROUND_S, _DIP_RISE_S))
    loud = running_mean(trace.level_db[stretch.start : stretch.stop + 1], smooth)
    usual = median(trace.confidence[stretch.first : stretch.last + 1])
    cuts: list[int] = []
    lowest = np.flatnonzero(level <= running_minimum(level, 2 * around + 1))
    for i in lowest[(lowest >= edge) & (lowest < len(level) - edge)]:
        if cuts and i - cuts[-1] < 2 * edge:
            continue
        sides = min(level[max(0, i - around) : i].max(), level[i + 1 : i + around].max())
        back = level[i + 1 : i + 1 + rise + smooth].max() > sides - _BACK_DB
        if not back or sides - level[i] < _DIP_DB or not _dips(loud, i, around):
            continue
        near = slice(stretch.start + max(0, i - _NEAR), stretch.start + i + _NEAR + smooth)
        if sides - level[i] > _DEEP_DB or (
            np.min(np.where(trace.voiced[near], trace.confidence[near], 0.0)) < usual - _ANEW
            and not _is_vibrato(trace, stretch.start + i)
        ):
            cuts.append(_bottom(clean[stretch.start : stretch.stop + 1], i, smooth))
    edges = [stretch.start, *(stretch.start + c for c in cuts), stretch.stop + 1]
    parts = []
    for k, (a, b) in enumerate(pairwise(edges)):
        first, last = max(stretch.first, a), min(stretch.last, b - 1)
        if np.isfinite(trace.f0_hz[first : last + 1]).sum() >= 3:
            parts.append(_Stretch(first, last, stretch.cents, a, b - 1, stretch.joined if k == 0 else False, k > 0))
    return parts


def _is_vibrato(trace: Trace, at: int) -> bool:
    """Whether the pitch swings on through a dip without a jump or a hole: level and pitch move together in a vibrato."""
    about = slice(max(0, at - _SWING), at + _SWING + 1)
    if not trace.voiced[about].all() or trace.confidence[about].min() < _SWING_CLEAR:
        return False
    cents = 1200.0 * np.log2(trace.f0_hz[about])
    return bool(np.ptp(cents) > _SWING_CENTS and np.abs(np.diff(cents)).max() < _SWING_STEP_CENTS)


def _dips(level: Floats, at: int, around: int) -> bool:
    """Whether the whole sound dips there, not only what of it repeats: breath in the tone is no new start."""
    sides = min(level[max(0, at - around) : at].max(), level[at + 1 : at + around].max())
    return bool(sides - level[max(0, at - _NEAR) : at + _NEAR].min() >= _LOUD_DIP_DB)


def _bottom(level: Floats, near: int, smooth: int) -> int:
    """The last of the lowest frames about a dip."""
    first = max(0, near - smooth)
    part = level[first : near + smooth + 7]
    return first + int(np.flatnonzero(part <= part.min() + 1.0)[-1])


def _is_tail(trace: Trace, clean: Floats, before: _Stretch, stretch: _Stretch) -> bool:
    """The same pitch, far softer, soon after: the room, heard again behind a click."""
    same = abs(before.cents - stretch.cents) < _STEADY_CENTS
    soon = float(trace.time_s[stretch.start] - trace.time_s[before.stop]) < _TAIL_S
    usual = (median(clean[s.first : s.last + 1]) for s in (before, stretch))
    return bool(same and soon and next(usual) - next(usual) > _TAIL_DB)


def _reaching_back(trace: Trace, clean: Floats, before: list[_Stretch], stretch: _Stretch) -> _Stretch:
    """A note whose first moments were too mixed with the last one to show a pitch begins where that one's pitch ends."""
    if stretch.joined or not before:
        return stretch
    stop = before[-1].stop
    hole = trace.level_db[stop + 1 : stretch.start]
    usual = median(clean[stretch.first : stretch.last + 1])
    if not 0 < len(hole) * HOP_S <= _MIXED_S or hole.min() < usual - _MIXED_DB:
        return stretch
    return replace(stretch, start=stop + 1, again=True)


def _is_knock(clean: Floats, stretch: _Stretch) -> bool:
    """Short, and dying away from its first moment: struck, not blown."""
    level = clean[stretch.start : stretch.stop + 1]
    short = len(level) * HOP_S < _KNOCK_S
    return bool(short and level[len(level) // 2] < level[: 1 + len(level) // 4].max() - _KNOCK_DB)


def _note(trace: Trace, clean: Floats, stretch: _Stretch, index: int, after: _Stretch | None) -> HeardNote:
    usual = median(clean[stretch.first : stretch.last + 1])
    if stretch.joined:
        onset = float(trace.time_s[stretch.start])
    elif stretch.again:
        onset = float(trace.time_s[min(stretch.start + 1, stretch.last)])
    else:
        onset = _onset(trace, clean, usual, stretch)
    left_joined = after is not None and after.joined
    cut = left_joined or (after is not None and after.again)
    release = float(trace.time_s[stretch.stop]) if cut else _release(trace, usual, stretch.stop)
    f0 = trace.f0_hz[stretch.first : stretch.last + 1]
    release = max(release, onset + HOP_S)
    return HeardNote(
        id=f"h{index + 1}",
        f0_hz=median(f0[np.isfinite(f0)]),
        start_s=float(trace.time_s[stretch.first]),
        stop_s=float(trace.time_s[stretch.last]),
        onset_s=onset,
        release_s=release,
        joined=stretch.joined,
        left_joined=left_joined,
    )


def _onset(trace: Trace, clean: Floats, usual: float, stretch: _Stretch) -> float:
    """Where the harmonics' level first reaches 20 dB under the note's own, about the first frame with tone.

    The tone's first moments are not yet seen to repeat: there the whole level counts, less the noise before it.
    """
    # Breath alone may be as loud as that: it counts for a moment before the first pitch and no longer.
    lead = max(_UNSEEN_S, 1.2 * ratio_of(-stretch.cents))
    low = max(0, stretch.start - round(lead / HOP_S))
    noise = trace.level_db[max(0, low - round(0.2 / HOP_S)) : low]
    floor = median(noise) if len(noise) >= 4 else -120.0
    # The longer windows see the tone coming: the level may still be the breath's at the first frame with a pitch.
    high = min(stretch.last, stretch.first + round(_LATEST_S / HOP_S))
    power = 10.0 ** (trace.level_db[low : high + 1] / 10.0) - 1.6 * 10.0 ** (floor / 10.0)
    level = np.maximum(10.0 * np.log10(np.maximum(power, 1e-12)), clean[low : high + 1])
    quiet = np.flatnonzero(level < usual - _ONSET_DB)
    at = low + (int(quiet[-1]) + 1 if len(quiet) else 0)
    return float(trace.time_s[min(at, high)]) + _WINDOW_LEAD_S


def _release(trace: Trace, usual: float, last: int) -> float:
    """Where the level last is 20 dB under the note's own."""
    high = min(len(trace), last + 1 + round(0.1 / HOP_S))
    start = max(0, last - round(0.1 / HOP_S))
    quiet = np.flatnonzero(trace.level_db[start:high] < usual - _ONSET_DB)
    at = start + int(quiet[0]) - 1 if len(quiet) else high - 1
    return float(trace.time_s[max(0, at)])
