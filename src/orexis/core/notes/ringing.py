"""In a room that rings, the note just left sounds on under the new one.

For a while a pitch is then read that nobody plays: the common subharmonic of the two, or the old note long after it was
left. Such moments are explained by *the old note dying away plus the new one* before any third pitch is believed: each of
two neighbouring notes has harmonics that the other lacks, and their strength says which of the two is being fed. A third
pitch is real only when harmonics of its own, that neither neighbour has, stand out.
"""

from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from orexis.core.notes.segment import runs
from orexis.core.notes.values import SAME_PITCH_CENTS, HeardNote
from orexis.core.room import coarse
from orexis.core.signals import median, spectra
from orexis.core.sound import Floats, Sound
from orexis.core.theory import cents_between, ratio_of
from orexis.core.trace import HOP_S, Trace

_WINDOW_PERIODS, _WINDOW_S = 4.0, (0.05, 0.11)
_TOP_HZ, _HARMONICS = 4500.0, 24
_OWN_CENTS = 60.0  # a harmonic so far from the other note's is the note's own
_USUAL_S = 0.25  # the stretch of a note that tells how strong its harmonics are while it is played
_LET_GO_DB, _THERE_DB = -4.0, -8.0  # the old note is not fed any more; the new one is there
_HOLD_FRAMES = 4  # 20 ms without a break
_AHEAD_S, _BEHIND_S = 0.12, 0.45
_HOLE_DB = 6.0  # a fall of half the pressure is a gap
_REAL_DB = -16.0  # own harmonics of a third pitch, against all that sounds
_LONGEST_S, _NEAR_S, _SHARED_CENTS = 0.5, 0.15, 35.0


@dataclass(frozen=True, slots=True, eq=False)
class _Power:
    """Power spectra every 5 ms about frame `first` of the trace."""

    first: int
    power: Floats  # (frames, bins)
    bin_hz: float
    resolution_hz: float

    def at(self, hz: Floats) -> Floats:
        """Power near each of these frequencies, summed, for every frame."""
        total = np.zeros(len(self.power))
        reach = max(1, round(0.5 * self.resolution_hz / self.bin_hz))
        for one in hz:
            k = round(one / self.bin_hz)
            total += self.power[:, max(0, k - reach) : k + reach + 1].max(axis=1)
        return total


def remove_phantom_f0(sound: Sound, trace: Trace, heard: tuple[HeardNote, ...]) -> Trace:
    """The trace with such moments given to the note that is being fed; itself where there are none. Notes that are no ghosts stay."""
    f0, sound = trace.f0_hz.copy(), coarse(sound)
    lasting = _remove_echo_notes(sound, heard)
    for before, after in pairwise(lasting):
        if not after.joined or abs(cents_between(before.f0_hz, after.f0_hz)) < SAME_PITCH_CENTS:
            continue
        _explain(sound, trace, before, after, f0)
    return trace if np.array_equal(f0, trace.f0_hz, equal_nan=True) else replace(trace, f0_hz=f0)


def may_hold_echo_notes(heard: tuple[HeardNote, ...]) -> bool:
    """Whether a short note stands where two neighbours would be heard as one, so that it is worth a look even where no
    room was learned.
    """
    threes = zip(heard, heard[1:], heard[2:], strict=False)
    return any(_is_echo_note(before, note, after) for before, note, after in threes)


def _is_echo_note(before: HeardNote, note: HeardNote, after: HeardNote) -> bool:
    """A short note that follows at once on one, and whose pitch lies under that and the next."""
    short = note.release_s - note.onset_s < _LONGEST_S and note.onset_s - before.release_s < _NEAR_S
    return short and _is_shared(note.f0_hz, (before.f0_hz, after.f0_hz))


def _remove_echo_notes(sound: Sound, heard: tuple[HeardNote, ...]) -> list[HeardNote]:
    """Notes, less those short ones that are the common subharmonic of their neighbours and have no harmonics of their own."""
    kept: list[HeardNote] = []
    for i, note in enumerate(heard):
        after = heard[i + 1] if i + 1 < len(heard) else None
        before = kept[-1] if kept else None
        if before and after and _is_echo_note(before, note, after):
            others = (before.f0_hz, after.f0_hz)
            if not _own_sound(sound, note.onset_s, note.release_s, note.f0_hz, others):
                continue
        kept.append(note)
    return kept


def _is_shared(hz: float, others: tuple[float, ...]) -> bool:
    """Whether a pitch lies under all others, each of which is one of its harmonics."""
    times = [other / hz for other in others]
    return all(round(n) >= 2 and abs(cents_between(round(n), n)) < _SHARED_CENTS for n in times)


def _explain(sound: Sound, trace: Trace, before: HeardNote, after: HeardNote, f0: Floats) -> None:
    low, high = np.searchsorted(trace.time_s, (before.stop_s - _USUAL_S, after.start_s + _BEHIND_S))
    low = max(int(low), int(np.searchsorted(trace.time_s, before.onset_s)))
    high = min(int(high), int(np.searchsorted(trace.time_s, after.release_s)))
    if high - low < 2 * _HOLD_FRAMES:
        return
    spectra = _spectra(sound, low, high, min(before.f0_hz, after.f0_hz))
    old = _own_harmonics(before.f0_hz, (after.f0_hz,), spectra.resolution_hz)
    new = _own_harmonics(after.f0_hz, (before.f0_hz,), spectra.resolution_hz)
    level = trace.level_db[low:high]
    start = int(np.searchsorted(trace.time_s, after.start_s)) - low
    stop = int(np.searchsorted(trace.time_s, before.stop_s)) - low
    softer = min(median(level[: max(1, stop)]), median(level[min(start, len(level) - 1) :]))
    late = slice(min(len(level) - 1, start + round(0.1 / HOP_S)), None)
    early = slice(0, max(_HOLD_FRAMES, stop - round(_AHEAD_S / HOP_S)))
    let_go = _told(old, spectra, early) <= _LET_GO_DB
    there = _told(new, spectra, late) >= _THERE_DB
    # Harmonics that lie too close to be told apart show one note while only the other sounds: they tell nothing.
    tells = [len(old) > 0 and not let_go[early].mean() > 0.5, len(new) > 0 and not there[early].mean() > 0.5]
    if not any(tells):
        return
    let_go, there = let_go if tells[0] else there, there if tells[1] else let_go
    sounds = (level > softer - _HOLE_DB) & let_go & there
    first = _first_hold(sounds, max(0, stop - round(_AHEAD_S / HOP_S)), start)
    here = f0[low:high]
    with np.errstate(invalid="ignore"):
        off_old = np.abs(cents_between(before.f0_hz, here)) > SAME_PITCH_CENTS
        off_new = np.abs(cents_between(after.f0_hz, here)) > SAME_PITCH_CENTS
    strange = off_old & off_new & np.isfinite(here)
    for a, b in runs(strange[: start + 1]):
        middle = median(here[a : b + 1])
        others = (before.f0_hz, after.f0_hz)
        at_s = (float(trace.time_s[low + a]), float(trace.time_s[low + b]))
        # A third pitch is real when harmonics of its own stand out; a glide has none that stand still.
        if (b - a + 1) * HOP_S < 0.02 or not _is_shared(middle, others):
            continue
        if not _own_sound(sound, *at_s, middle, others):
            # Both sound there, or the long window of so low a pitch sees both: the new one is there from when it is heard.
            begins = a + int(np.argmax(there[a : b + 1])) if there[a : b + 1].any() else b + 1
            here[a:begins], here[begins : b + 1] = before.f0_hz, after.f0_hz
    if first is not None:
        again = np.arange(len(here))
        taken = (again >= first) & (again < start) & np.isfinite(here) & ~off_old
        here[taken] = after.f0_hz


def _first_hold(sounds: np.ndarray[tuple[int, ...], np.dtype[np.bool_]], low: int, high: int) -> int | None:
    for i in range(low, high):
        if sounds[i : i + _HOLD_FRAMES].all():
            return i
    return None


def _told(harmonics: Floats, spectra: _Power, usual: slice) -> Floats:
    """How strong these harmonics are in each frame, in dB against the median over a stretch."""
    return _against(spectra.at(harmonics), usual) if len(harmonics) else np.zeros(len(spectra.power))


def _against(power: Floats, usual: slice) -> Floats:
    """DB against the median over a stretch."""
    base = median(power[usual]) if len(power[usual]) else median(power)
    return np.asarray(10.0 * np.log10(np.maximum(power, 1e-20) / max(base, 1e-20)))


def _own_harmonics(hz: float, others: tuple[float, ...], resolution_hz: float) -> Floats:
    """Frequencies of the harmonics that no other note has nearby."""
    mine = hz * np.arange(1, _HARMONICS + 1)
    mine = mine[mine < _TOP_HZ]
    own = np.ones(len(mine), bool)
    for other in others:
        nearest = np.maximum(1.0, np.round(mine / other)) * other
        own &= np.abs(mine - nearest) > np.maximum(resolution_hz, mine * (ratio_of(_OWN_CENTS) - 1.0))
    return np.asarray(mine[own])


def _own_sound(sound: Sound, start_s: float, stop_s: float, hz: float, others: tuple[float, ...]) -> bool:
    """Whether a pitch has harmonics of its own that stand out; True where it could have none to be told by."""
    share_db = own_share_db(sound, start_s, stop_s, hz, others)
    return share_db is None or share_db > _REAL_DB


def own_share_db(sound: Sound, start_s: float, stop_s: float, hz: float, others: tuple[float, ...]) -> float | None:
    """How much of what sounds is in harmonics that a pitch shares with no other, dB; None where it has none of its own."""
    first, last = round(start_s / HOP_S), max(round(start_s / HOP_S) + 1, round(stop_s / HOP_S))
    spectra = _spectra(sound, first, last, hz)
    own = _own_harmonics(hz, others, spectra.resolution_hz)
    if not len(own):
        return None
    every = np.concatenate([other * np.arange(1, _HARMONICS + 1) for other in others])
    all_power = spectra.at(every[every < _TOP_HZ]) + spectra.at(own)
    share = spectra.at(own) / np.maximum(all_power, 1e-20)
    return float(10.0 * np.log10(max(median(share), 1e-9)))


def _spectra(sound: Sound, first: int, last: int, lowest_hz: float) -> _Power:
    """Power spectra of the frames first .. last - 1."""
    length_s = min(max(_WINDOW_PERIODS / lowest_hz, _WINDOW_S[0]), _WINDOW_S[1])
    width = round(length_s * sound.rate)
    size = 1 << (width - 1).bit_length()
    starts = np.rint(np.arange(first, last) * HOP_S * sound.rate).astype(int) - width // 2
    low, high = int(starts[0]), int(starts[-1]) + width
    near = sound.samples[max(0, low) : max(0, high)].astype(np.float32)
    padded = np.concatenate((np.zeros(max(0, -low), np.float32), near))
    padded = np.concatenate((padded, np.zeros(max(0, high - low - len(padded)), np.float32)))
    views = np.lib.stride_tricks.sliding_window_view(padded, width)[starts - low]
    found = spectra(views * np.hanning(width).astype(np.float32), size)
    out = found.real**2 + found.imag**2
    return _Power(first, out, sound.rate / size, 2.0 / length_s)
