"""What of the voiced sound is playing: speech is turned away.

A played note stands still: part of it lies within 20 cents for 80 ms, and its level holds. In talk the timbre glides and
the level rises and falls with every syllable; a few syllables may stand still by chance, but never most of the time.
"""

import numpy as np

from orexis.core.notes import Flags, HeardNote, runs
from orexis.core.sound import Floats
from orexis.core.theory import cents_between
from orexis.core.trace import HOP_S, Trace

_STILL_CENTS, _STILL_S = 20.0, 0.08
_LEAST_TALK_S = 0.6  # less voiced sound than this is not called talk
_PLAYED_SHARE = 0.78  # of the voiced time that stands still, in playing at least
_PHRASE_S, _ONE_BREATH_S, _MOST_OF_IT = 0.4, 1.5, 0.6


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
