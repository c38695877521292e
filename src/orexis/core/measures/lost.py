"""Sound that the computer lost on its way from the microphone: exact silence cut into a room that is never silent."""

import numpy as np

from orexis.core.sound import Samples

_SHORTEST = 128  # samples: no real room gives so many exact zeros in a row, and no audio system loses less
_GATED_SHARE = 0.2  # a microphone that silences its pauses makes more of them than a busy computer loses


def lost_ms(samples: Samples, rate: int, from_s: float, until_s: float) -> float:
    """Milliseconds lost between two moments, in sound that came live through a microphone.

    samples has shape (n,). When the computer is too busy, the audio system hands on zeros for what came too late, and
    what follows is late too. Zeros at either end (the microphone opens, the take is over) and those of a gate that
    silences every pause are not counted.
    """
    edges = np.flatnonzero(np.diff(np.concatenate(([False], samples == 0.0, [False]))))
    starts, ends = edges[::2], edges[1::2]
    inside = (ends - starts >= _SHORTEST) & (starts > 0) & (ends < len(samples))
    starts, ends = starts[inside], ends[inside]
    if np.sum(ends - starts) > _GATED_SHARE * len(samples):
        return 0.0
    here = (ends > from_s * rate) & (starts < until_s * rate)
    return round(float(np.sum((ends - starts)[here])) / rate * 1000.0, 1)
