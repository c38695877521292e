"""What rings is taken away, so that what sounds now can be heard.

A statistical model of the room (J.-D. Polack, 1988; K. Lebart, J. M. Boucher and P. N. Denbigh, "A new method based on
spectral subtraction for speech dereverberation", 2001; E. A. P. Habets, 2007): the late sound in each band of
frequency is what was fed in before, dying away exponentially. Its power R follows

    R(t + h) = a R(t) + b a^T (1 - a) S(t - T h),   S = P - R,   a = 10^(-d h / 10),   b = r / (1 - r),   r = 10^(late / 10)

with P the power seen, S that of the direct sound, d the room's decay in dB per second, h the step and T h the time after which an
echo counts as late. Each band is then turned down by sqrt(1 - 3 R / P): three times, because echoes of a steady tone add
up to more than their mean as often as to less. A held note loses the same share in every band and keeps its pitch. Where R is
much of what is seen and the band has only fallen for 4 dB of the room's decay, nothing is fed in: all of it is turned down.
"""

from collections import deque

import numpy as np

from orexis.core.room.values import Room
from orexis.core.sound import Floats, Sound

_WINDOW_S, _OVERLAP = 0.04, 4
_LATE_STEPS = 3
_OVER = 3.0
_MOST_OF_IT = 0.7  # of a held note's power that may be taken away
_DEEPEST_DB = -24.0
_FALLEN_DB, _FALLING, _PLAUSIBLE = 4.0, (1.25, 1.8), 0.5
_NOTHING = 1e-20
_BLOCK = 4096  # frames at a time: memory stays bounded


def dried(sound: Sound, room: Room) -> Sound:
    """The sound with the room's tail turned down; the same length and rate."""
    size = 1 << (round(_WINDOW_S * sound.rate) - 1).bit_length()
    hop = size // _OVERLAP
    weight = np.hanning(size + 1)[:-1]
    samples = np.nan_to_num(sound.samples.astype(np.float64), posinf=1.0, neginf=-1.0)
    padded = np.concatenate((np.zeros(size), samples, np.zeros(2 * size)))
    frames = np.lib.stride_tricks.sliding_window_view(padded, size)[::hop]
    out = np.zeros(len(padded))
    ring = _Ring(room, hop / sound.rate, size // 2 + 1)
    for first in range(0, len(frames), _BLOCK):
        spectra = np.fft.rfft(frames[first : first + _BLOCK] * weight, axis=1)
        spectra *= ring.gains(np.abs(spectra) ** 2)
        for k, part in enumerate(np.fft.irfft(spectra, size, axis=1)):
            at = (first + k) * hop
            out[at : at + size] += part
    # Hann windows a quarter apart add up to two.
    return Sound((out[size : size + len(samples)] / (0.5 * _OVERLAP)).astype(np.float32), sound.rate)


class _Ring:
    """The power that rings in each band, led from frame to frame."""

    def __init__(self, room: Room, hop_s: float, bands: int) -> None:
        share = 10.0 ** (room.late_db / 10.0)
        self._keeps = 10.0 ** (-room.decay_db_s * hop_s / 10.0)
        self._feeds = share / (1.0 - share) * self._keeps**_LATE_STEPS * (1.0 - self._keeps)
        steady = self._feeds / (1.0 - self._keeps + self._feeds)  # of a note that goes on for ever
        self._over = min(_OVER, _MOST_OF_IT / steady)
        self._ringing = np.zeros(bands)
        self._fed = deque([np.zeros(bands)] * _LATE_STEPS, maxlen=_LATE_STEPS)
        back = max(1, round(_FALLEN_DB / (room.decay_db_s * hop_s)))
        self._seen = deque([np.zeros(bands)] * back, maxlen=back)
        self._fallen = self._keeps**back

    def gains(self, power: Floats) -> Floats:
        """For power of shape (frames, bands): the factor for each."""
        return np.maximum(np.sqrt([self._share(seen) for seen in power]), 10.0 ** (_DEEPEST_DB / 20.0))

    def _share(self, seen: Floats) -> Floats:
        """The share of the power that is fed in now."""
        self._ringing = self._keeps * self._ringing + self._feeds * self._fed[0]
        self._fed.append(np.maximum(seen - self._ringing, 0.0))
        rings = np.minimum(self._over * self._ringing / np.maximum(seen, _NOTHING), 1.0)
        against = seen / np.maximum(self._fallen * self._seen[0], _NOTHING)
        low, high = _FALLING
        falls = np.clip((high - against) / (high - low), 0.0, 1.0) * (rings > _PLAUSIBLE)
        self._seen.append(seen)
        return np.asarray(1.0 - np.maximum(rings, falls))
