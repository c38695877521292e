"""A piece of test sound with everything that is true about it.

Frames stand every 5 ms from time 0. `f0_hz` is NaN where no tone sounds; `rest` marks frames at least 60 ms away from
any tone (room tails included), where nothing may be called tone; `steady` marks the middles of notes of half a second
and more. Times in seconds, touches and gaps with their start and length.
"""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from orexis.core.sound import Sound

Floats = NDArray[np.float64]
Flags = NDArray[np.bool_]
HOP_S = 0.005


@dataclass(frozen=True, eq=False)
class TrueNote:
    onset_s: float
    release_s: float
    hz: float
    slurred: bool = False
    attack_error_cents: float | None = None  # deviation over the first 30 ms, None where the note is slurred into


@dataclass(frozen=True, eq=False)
class Event:
    """A touched partial (`hz` set) or a gap inside a slur."""

    start_s: float
    length_s: float
    hz: float | None = None


@dataclass(frozen=True, eq=False)
class Case:
    name: str
    instrument: str
    sound: Sound
    f0_hz: Floats
    steady: Flags
    rest: Flags
    notes: tuple[TrueNote, ...]
    touches: tuple[Event, ...] = ()
    gaps: tuple[Event, ...] = ()
    tags: frozenset[str] = field(default_factory=frozenset)
    drone_hz: float | None = None  # what the program knows that it plays
    clicks_s: tuple[float, ...] = ()
    click_db: float | None = None

    @property
    def time_s(self) -> Floats:
        return np.arange(len(self.f0_hz)) * HOP_S


def steady_frames(notes: tuple[TrueNote, ...], count: int) -> Flags:
    """The middle of every note of half a second and more."""
    time, out = np.arange(count) * HOP_S, np.zeros(count, bool)
    for note in notes:
        if note.release_s - note.onset_s >= 0.5:
            out |= (time > note.onset_s + 0.15) & (time < note.release_s - 0.1)
    return out


def rest_frames(f0_hz: Floats, *, margin_s: float) -> Flags:
    """Frames with no tone nearer than the margin."""
    sounding = np.isfinite(f0_hz).astype(float)
    width = 2 * round(margin_s / HOP_S) + 1
    return np.convolve(sounding, np.ones(width), "same") < 0.5
