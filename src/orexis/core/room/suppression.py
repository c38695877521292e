"""Inner loops of turning the room down, compiled by numba: what rings in each band, led from frame to frame (dry.py)."""

import math
from typing import NamedTuple

import numpy as np

from orexis.core.compiled import Loop
from orexis.core.sound import Floats

_DEEPEST_DB = -24.0  # deeper cuts make tones of the noise
_FALLING, _PLAUSIBLE = (1.25, 1.8), 0.5
_NOTHING = 1e-20  # keeps a division finite


class RingParameters(NamedTuple):
    """The room as steps of a frame: what stays of what rings, what is added, how much of it is taken away, what is left of a fall."""

    keeps: float
    feeds: float
    over: float
    fallen: float


class Ring(NamedTuple):
    """What rings in each band, led from frame to frame: itself, what was fed in of late, and what was seen; (frames, bands)."""

    ringing: Floats
    fed: Floats
    seen: Floats


@Loop
def turned_down(spectra, ring, terms, first):
    """Spectra of shape (frames, bands), each turned down to the share of its power that is fed in then; from frame `first` on."""
    low, high = _FALLING
    least = 10.0 ** (_DEEPEST_DB / 20.0)
    for i in range(spectra.shape[0]):
        late, before = (first + i) % len(ring.fed), (first + i) % len(ring.seen)
        ringing, fed, seen = ring.ringing, ring.fed[late], ring.seen[before]
        for k in range(spectra.shape[1]):
            value = spectra[i, k]
            power = float(value.real) * float(value.real) + float(value.imag) * float(value.imag)
            here = terms.keeps * ringing[k] + terms.feeds * fed[k]
            share = min(terms.over * here / max(power, _NOTHING), 1.0)
            if share > _PLAUSIBLE:
                against = power / max(terms.fallen * seen[k], _NOTHING)
                share = max(share, min(1.0, max(0.0, (high - against) / (high - low))))
            ringing[k], fed[k], seen[k] = here, max(power - here, 0.0), power
            spectra[i, k] = value * np.float32(max(math.sqrt(1.0 - share), least))


@Loop
def add_up(parts, hop, out, at):
    """Overlapping parts, each `hop` samples on, added to `out` from sample `at` on."""
    for i in range(parts.shape[0]):
        for k in range(parts.shape[1]):
            out[at + i * hop + k] += parts[i, k]
