"""What of the voiced sound is playing: speech is turned away, and breaks to another partial are counted.

A played note stands still: part of it lies within 20 cents for 80 ms, and its level holds. In talk the voice glides and
the level rises and falls with every syllable; a few syllables may stand still by chance, but never most of the time.
"""

import numpy as np

from orexis.core.notes import HeardNote, runs
from orexis.core.sound import Floats
from orexis.core.theory import cents_between
from orexis.core.trace import HOP_S, Trace

Flags = np.ndarray[tuple[int, ...], np.dtype[np.bool_]]

_STILL_CENTS, _STILL_S = 20.0, 0.08
_LEAST_TALK_S = 0.6  # less voiced sound than this is not called talk
_PLAYED_SHARE = 0.78  # of the voiced time that stands still, in playing at least
_PHRASE_S, _ONE_BREATH_S, _MOST_OF_IT = 0.4, 1.5, 0.6
_CRACK_CENTS, _CRACK_S, _CRACK_LONGEST_S, _SPLIT_WITHIN_S = 120.0, 0.015, 0.3, 0.15
_HARDLY = 0.8
_CLEAR, _AS_CLEAR, _LEAST_PERIODS = 0.7, 0.12, 3.0
_OLD_NOTE_S = 0.12  # so long after a slur the note before may still be heard
_BACK_FRAMES, _BACK_CENTS = 5, 60.0
# In a room: near a slot for so long, back at the note soon after, while the sound as it came is troubled.
_ON_SLOT_CENTS, _ON_SLOT_S, _ON_SLOT_CLEAR, _BACK_S, _TROUBLE_S, _AROUND_S = 70.0, 0.03, 0.65, 0.09, 0.025, 0.03


def played_notes(trace: Trace, heard: tuple[HeardNote, ...]) -> tuple[tuple[HeardNote, ...], bool]:
    """The notes that are playing, and whether all there was instead was talk.

    Judged phrase by phrase: sounds with less than 0.4 s between them belong to one.
    """
    cents = np.where(trace.voiced, cents_between(1.0, np.where(trace.voiced, trace.f0_hz, 1.0)), np.nan)
    still = _still(cents)
    kept: list[list[HeardNote]] = []
    talked_s = 0.0
    for phrase in _phrases(heard):
        low, high = np.searchsorted(trace.time_s, (phrase[0].onset_s - 0.05, phrase[-1].release_s))
        if _is_talk(trace.voiced[low:high], still[low:high]):
            talked_s += float(trace.voiced[low:high].sum()) * HOP_S
        else:
            kept.append(phrase)
    # Among talk, scraps too short to judge are talk as well.
    if talked_s > 2.0 * sum(_length_s(phrase) for phrase in kept):
        kept = [phrase for phrase in kept if _length_s(phrase) >= _LEAST_TALK_S]
    return tuple(note for phrase in kept for note in phrase), talked_s > 0.0 and not kept


def _length_s(phrase: list[HeardNote]) -> float:
    return sum(note.release_s - note.onset_s for note in phrase)


def _phrases(heard: tuple[HeardNote, ...]) -> list[list[HeardNote]]:
    out: list[list[HeardNote]] = []
    for note in heard:
        if out and note.onset_s - out[-1][-1].release_s < _PHRASE_S:
            out[-1].append(note)
        else:
            out.append([note])
    return out


def _is_talk(voiced: Flags, still: Flags) -> bool:
    """Long enough to tell, mostly moving, and without one long breath of tone as a siren has."""
    voiced_s = float(voiced.sum()) * HOP_S
    if voiced_s < _LEAST_TALK_S or float(still.sum()) * HOP_S >= _PLAYED_SHARE * voiced_s:
        return False
    holes = [(a, b) for a, b in runs(~voiced) if (b - a + 1) * HOP_S < 0.02]
    whole = voiced.copy()
    for a, b in holes:
        whole[a : b + 1] = True
    longest = max(b - a + 1 for a, b in runs(whole)) * HOP_S
    return longest < max(_ONE_BREATH_S, _MOST_OF_IT * voiced_s)


def _still(cents: Floats) -> Flags:
    """Frames that belong to a stretch of 80 ms within 20 cents of its middle."""
    width = round(_STILL_S / HOP_S)
    out = np.zeros(len(cents), bool)
    if len(cents) < width:
        return out
    views = np.lib.stride_tricks.sliding_window_view(cents, width)
    with np.errstate(invalid="ignore"):
        calm = views.max(axis=1) - views.min(axis=1) <= 2.0 * _STILL_CENTS
    for k in np.flatnonzero(calm):
        out[k : k + width] = True
    return out


def _comes_back_at_once(after: Floats, note_hz: float) -> bool:
    """A break jumps back to the note; a scoop slides up to it."""
    there = after[np.isfinite(after)]
    return bool(len(there)) and float(np.min(np.abs(cents_between(note_hz, there)))) < _BACK_CENTS


def slot_breaks(
    trace: Trace, direct: Trace, heard: HeardNote, slots_hz: Floats, ringing_hz: tuple[float, ...]
) -> tuple[int, int]:
    """(splits, cracks) where the room rings: stays on another slot of the tube in hand, heard without the room's tail.

    `direct` is the trace without the tail. Echoes blur how a break begins and ends, but they lead to no slot, unless to that of
    a note before: `ringing_hz`. The sound as it came must be troubled at the same time.
    """
    low, high = np.searchsorted(direct.time_s, (heard.onset_s - 0.02, heard.release_s - 0.05))
    f0, time_s = direct.f0_hz[low:high], direct.time_s[low:high]
    known = (heard.f0_hz, *ringing_hz)
    others = slots_hz[np.min([np.abs(cents_between(hz, slots_hz)) for hz in known], axis=0) > _CRACK_CENTS]
    if not len(others) or high <= low:
        return 0, 0
    with np.errstate(invalid="ignore"):
        nearest = np.min([np.abs(cents_between(float(slot), f0)) for slot in others], axis=0)
        on_slot = (nearest < _ON_SLOT_CENTS) & (direct.confidence[low:high] > _ON_SLOT_CLEAR)
        there = np.abs(cents_between(heard.f0_hz, f0)) < _BACK_CENTS
    split = crack = 0
    need = max(_ON_SLOT_S, _LEAST_PERIODS / heard.f0_hz)
    for a, b in runs(on_slot):
        begins, lasts = float(time_s[a]) - heard.onset_s, (b - a + 1) * HOP_S
        steady = float(np.ptp(cents_between(1.0, np.percentile(f0[a : b + 1], (20, 80))))) < 2.0 * _ON_SLOT_CENTS
        back = there[b + 1 : b + 1 + round(_BACK_S / HOP_S)].any()
        if not need <= lasts <= _CRACK_LONGEST_S or not steady or not back:
            continue
        if _troubled_s(trace, heard, float(time_s[a]) - _AROUND_S, float(time_s[b]) + _AROUND_S) < _TROUBLE_S:
            continue
        at_start = begins < _SPLIT_WITHIN_S and not heard.joined
        split += at_start
        crack += not at_start and begins > _OLD_NOTE_S
    return split, crack


def _troubled_s(trace: Trace, heard: HeardNote, start_s: float, stop_s: float) -> float:
    part = trace.part(start_s, stop_s)
    with np.errstate(invalid="ignore"):
        there = np.abs(cents_between(heard.f0_hz, part.f0_hz)) < _BACK_CENTS
    return float((~there | (part.confidence < _HARDLY)).sum()) * HOP_S


def unsettled_s(trace: Trace, heard: HeardNote) -> float:
    """How long within a note its pitch is away or hardly one, its first moments left out."""
    return _troubled_s(trace, heard, heard.onset_s + _OLD_NOTE_S, heard.release_s - 0.05)


def cracks(trace: Trace, heard: HeardNote, ringing_hz: tuple[float, ...] = ()) -> tuple[int, int]:
    """(splits, cracks): breaks to a clear pitch far from the note's own, at its start and later, that come back.

    What lies at the pitch of a note before that may still ring (`ringing_hz`) is that note.
    """
    low, high = np.searchsorted(trace.time_s, (heard.onset_s - 0.02, heard.release_s - 0.05))
    f0 = trace.f0_hz[low:high]
    with np.errstate(invalid="ignore"):
        away = np.abs(cents_between(heard.f0_hz, f0)) > _CRACK_CENTS
        for rings in ringing_hz:
            away &= ~(np.abs(cents_between(rings, f0)) < _BACK_CENTS)
    # A break is as clear as the note itself: breath in the tone makes single frames stray.
    usual = float(np.median(trace.confidence[low:high])) if high > low else 0.0
    away &= np.isfinite(f0) & (trace.confidence[low:high] > max(_CLEAR, usual - _AS_CLEAR))
    split = crack = 0
    for a, b in runs(away):
        length = (b - a + 1) * HOP_S
        # On its way to the break and back the windows see both pitches: its middle is what stands still.
        edge = 2 if b - a + 1 >= 8 else 0
        steady = float(np.ptp(cents_between(1.0, f0[a + edge : b + 1 - edge]))) < 80.0
        need = max(_CRACK_S, _LEAST_PERIODS / min(heard.f0_hz, float(np.median(f0[a : b + 1]))))
        if not need <= length <= _CRACK_LONGEST_S or not steady:
            continue
        at_start = a * HOP_S < _SPLIT_WITHIN_S and not heard.joined
        returns = b + 2 < len(f0) and _comes_back_at_once(f0[b + 1 : b + 1 + _BACK_FRAMES], heard.f0_hz)
        split += at_start and returns
        crack += returns and not at_start and a * HOP_S > (_OLD_NOTE_S if heard.joined else 0.05)
    return int(split), int(crack)
