"""How a note begins: how far off, for how long, and how much of the note that spoils."""

from dataclasses import dataclass

import numpy as np

from orexis.core.notes import Flags, HeardNote
from orexis.core.signals import median
from orexis.core.sound import Floats
from orexis.core.theory import cents_between
from orexis.core.trace import HOP_S, Trace

_FIRST_S = 0.03  # the shortest stretch in which an ear hears a pitch
_PERIODS = 3.0  # a pitch needs three periods
_CLEAR = 0.9  # of the first moments' frames only those that repeat so well speak for the attack;
_FAIRLY, _STEPS_CENTS, _LEAST_FRAMES = 0.6, 45.0, 4  # where there are none, those that go on from one another
_COMING_S = 0.3  # where a note is heading, before vibrato starts
_LOOK_S = 0.6  # an entry that takes longer is a glide
_DIP_S, _DIP_DB = (0.1, 0.04), 12.0
_MOST_CENTS = 400.0  # further off it is another note, or its octave in what rings
_UNREST_CENTS = 5.0  # so little is no entry, it is how a note lives


@dataclass(frozen=True, slots=True)
class Attack:
    """`cents`: deviation from the note's own early centre in its first 30 ms, negative below. `ms`: until it settles.

    `area`: what lies between the pitch and its early centre until it first reaches it, in cent-seconds: a fast deep scoop
    and a slow shallow one spoil as much.
    """

    cents: float
    ms: float
    area: float


def entry_of(trace: Trace, heard: HeardNote, settled_s: float, calm: Floats) -> Attack | None:
    """None where no clear pitch is heard in the first moments. `calm`: cents of the settled part against the note's median."""
    window = max(_FIRST_S, _PERIODS / heard.f0_hz)
    first = trace.part(heard.onset_s, heard.onset_s + window)
    clear = _clear(first)
    f0 = first.f0_hz[clear]
    if not len(f0):
        return None
    # Against the centre where it settles, so that a long even sag is no entry.
    early = median(calm[: round(_COMING_S / HOP_S)])
    start = cents_between(heard.f0_hz, median(f0)) - early
    if abs(start) > _MOST_CENTS:
        return None
    return Attack(
        start,
        1000.0 * max(0.0, settled_s - heard.onset_s),
        _area(trace, heard, start, early, clearly=bool((first.confidence[clear] >= _CLEAR).all())),
    )


def _clear(first: Trace) -> Flags:
    """Which of the first frames speak for the pitch at which a note began."""
    clear = first.voiced & (first.confidence >= _CLEAR)
    fairly = first.voiced & (first.confidence >= _FAIRLY)
    if clear.any() or fairly.sum() < _LEAST_FRAMES:
        return clear
    steps = np.abs(1200.0 * np.diff(np.log2(first.f0_hz[fairly])))
    return fairly if steps.max() < _STEPS_CENTS else clear


def _area(trace: Trace, heard: HeardNote, start: float, early: float, *, clearly: bool) -> float:
    part = trace.part(heard.onset_s, min(heard.release_s, heard.onset_s + _LOOK_S))
    clear = part.voiced & (part.confidence >= (_CLEAR if clearly else _FAIRLY))
    if not clear.any():
        return 0.0
    at = np.arange(len(part))
    cents = np.interp(at, at[clear], cents_between(heard.f0_hz, part.f0_hz[clear])) - early
    off = np.sign(start) * cents - _UNREST_CENTS
    there = np.flatnonzero(off <= 0.0)
    until = int(there[0]) if len(there) else len(off)
    return float(np.sum(off[:until])) * HOP_S


def has_restarted(direct: Trace, heard: HeardNote) -> bool:
    """Whether nothing was fed in for a moment before a note: the level without the room's tail dips there."""
    usual = direct.part(heard.onset_s + _DIP_S[1], min(heard.release_s, heard.onset_s + _COMING_S)).level_db
    about = direct.part(heard.onset_s - _DIP_S[0], heard.onset_s + _DIP_S[1]).level_db
    return bool(len(usual) and len(about)) and float(about.min()) < median(usual) - _DIP_DB
