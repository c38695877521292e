"""Breath heard: before the tone (response), taken in before a note, and taken inside an exercise.

Breath is sound without pitch that stands 6 dB above the room. What the room drowns is not measured.
"""

from dataclasses import dataclass

import numpy as np

from orexis.core.notes import HeardNote, runs
from orexis.core.sound import Floats
from orexis.core.trace import HOP_S, Trace

_OVER_DB = 6.0  # twice the pressure of the room: heard as breath, not as hiss
_BREATH_MOST_DB = 14.0  # breath is never nearer to the tone that follows it
_RESPONSE_MOST_S = 0.8  # longer air before a note is a breath, not a late answer
_DEEP_DB = 38.0  # breath before a tone lies 15 to 35 dB under it: a room above that hides it
_INHALE_S = (0.15, 3.0)
_LOOK_BACK_S = 4.0  # the longest breath anybody takes
_PAUSE_S = 0.1  # between the breath in and the note lies a moment of rest
_SMOOTH = 3  # frames: 15 ms, shorter than any breath
# The window shows the start of noise half its length early, smoothing adds a frame, an onset is told 7 ms late.
_WINDOW_S = 0.025


@dataclass(frozen=True, slots=True)
class Inhalation:
    """A breath taken in: when, how long, and its loudest level in dBFS."""

    start_s: float
    ms: float
    level_db: float


def room_db(trace: Trace) -> float | None:
    """Level of the room: the quietest tenth of the frames without tone; None with less than a quarter second of them."""
    quiet = trace.level_db[~trace.voiced]
    return float(np.percentile(quiet, 10)) if len(quiet) * HOP_S >= 0.25 else None


def response_ms(trace: Trace, heard: HeardNote, note_db: float, room: float | None) -> tuple[float | None, str]:
    """From the first breath noise to the tone, and why it cannot be told."""
    if heard.joined:
        return None, "the note was slurred into"
    if room is None:
        return None, "there was no silence to know the room by"
    if room + _OVER_DB > note_db - _DEEP_DB + 12.0:
        return None, "the room is louder than the breath"
    onset = int(np.searchsorted(trace.time_s, heard.onset_s))
    low = max(0, onset - round(_RESPONSE_MOST_S / HOP_S))
    before = _smooth(trace.level_db[low : onset + 1])
    heard_noise = (before > room + _OVER_DB) & ~_loud_tone(trace, low, onset + 1, note_db)
    first = len(heard_noise)
    misses = 0
    for i in range(len(heard_noise) - 2, -1, -1):
        misses = 0 if heard_noise[i] else misses + 1
        if misses > 2:
            break
        first = i if heard_noise[i] else first
    length = (len(heard_noise) - 1 - first) * HOP_S if first < len(heard_noise) else 0.0
    if first <= 1 and low > 0:
        return None, "the sound before it does not end"
    return 1000.0 * max(0.0, length - _WINDOW_S), ""


def _loud_tone(trace: Trace, low: int, high: int, note_db: float) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
    """Frames of tone as loud as a note's: a long window finds the coming pitch in the breath before it."""
    return _tone(trace, low, high) & (trace.level_db[low:high] > note_db - _BREATH_MOST_DB)


def inhalations(trace: Trace, start_s: float, stop_s: float, room: float | None) -> list[Inhalation]:
    """Breaths between two moments: noise that rises above the room and is over before the next tone."""
    if room is None:
        return []
    low, high = np.searchsorted(trace.time_s, (start_s, stop_s))
    noise = (_smooth(trace.level_db[low:high]) > room + _OVER_DB) & ~_tone(trace, int(low), int(high))
    breaths = []
    for a, b in runs(noise):
        length = (b - a + 1) * HOP_S
        ends_early = (high - low - b) * HOP_S > _PAUSE_S
        starts_late = a * HOP_S > 0.05  # not the room answering the last note
        if _INHALE_S[0] <= length <= _INHALE_S[1] and ends_early and starts_late:
            level = float(trace.level_db[low + a : low + b + 1].max())
            breaths.append(Inhalation(float(trace.time_s[low + a]), 1000.0 * length, level))
    return breaths


def inhalation_before(trace: Trace, heard: HeardNote, since_s: float, room: float | None) -> Inhalation | None:
    """The last breath before a note, after the moment the note before it ended."""
    start = max(since_s, heard.onset_s - _LOOK_BACK_S)
    breaths = inhalations(trace, start, heard.onset_s, room)
    return breaths[-1] if breaths else None


def _tone(trace: Trace, low: int, high: int) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
    """Frames with a pitch that lasts: single frames of noise can look like one."""
    voiced = trace.voiced[low:high].copy()
    for a, b in runs(voiced):
        if b - a + 1 < 4:
            voiced[a : b + 1] = False
    return voiced


def _smooth(level_db: Floats) -> Floats:
    """Return the mean of a power curve over 15 ms, frame by frame."""
    if len(level_db) < _SMOOTH:
        return level_db
    power = np.convolve(10.0 ** (level_db / 10.0), np.ones(_SMOOTH) / _SMOOTH, "same")
    return np.asarray(10.0 * np.log10(np.maximum(power, 1e-12)))
