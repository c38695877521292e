"""What sounds with an exercise, as the page's loudspeaker sends it."""

from collections.abc import Sequence

import numpy as np

from orexis.core.room import FALL_S, PARTIALS, RISE_S, TAIL_S, sent_level, steady
from orexis.core.sound import Floats
from orexis.core.theory import KnownTone


def sounded(tones: Sequence[KnownTone], rate: int, size: int) -> Floats:
    """The tones, shape (size,): each with harmonics that fall, a soft start and a soft end. One alone peaks near 1."""
    out = np.zeros(size)
    for tone in tones:
        first, last = max(0, round(tone.start_s * rate)), min(size, round((tone.end_s + TAIL_S) * rate))
        t = np.arange(first, last) / rate - tone.start_s
        shape = (1.0 - np.exp(-t / RISE_S)) * np.exp(-np.maximum(0.0, t - (tone.end_s - tone.start_s)) / FALL_S)
        partials = [partial for partial in range(1, PARTIALS + 1) if partial * tone.hz < 0.5 * rate]
        levels = np.array([sent_level(tone.hz, partial) for partial in partials])
        made = steady(tone.hz * np.array(partials), -1j * levels, first / rate - tone.start_s, len(t), rate)
        out[first:last] += 0.5 * shape * made
    return out
