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

import numpy as np

from orexis.core.room.suppression import Ring, RingParameters, add_up, turned_down
from orexis.core.room.values import RoomAcoustics
from orexis.core.signals import frames_of, spectra
from orexis.core.sound import Sound, finite

_WINDOW_S, _OVERLAP = 0.0464, 4
_STEP = 64  # the window is so many samples, or a multiple: quick to transform at any rate
_LATE_STEPS = 3  # the ring begins three steps after its sound
_OVER = 3.0  # times the estimate: what is left over is heard, holes are not (fitted)
_MOST_OF_IT = 0.7  # of a held note's power that may be taken away
_FALLEN_DB = 4.0  # until then the note itself may still sound
_BLOCK = 128  # frames at a time: what they need stays in the processor’s own memory


def dereverberate(sound: Sound, room: RoomAcoustics) -> Sound:
    """The sound with the room's tail turned down; the same length and rate."""
    size = _STEP * max(1, round(_WINDOW_S * sound.rate / _STEP))
    hop, bands = size // _OVERLAP, size // 2 + 1
    weight = np.hanning(size + 1)[:-1].astype(np.float32)
    samples = finite(sound.samples)
    padded = np.concatenate((np.zeros(size, np.float32), samples, np.zeros(2 * size, np.float32)))
    frames = np.lib.stride_tricks.sliding_window_view(padded, size)[::hop]
    out = np.zeros(len(padded), np.float32)
    terms, back = _terms(room, hop / sound.rate)
    ring = Ring(np.zeros(bands), np.zeros((_LATE_STEPS, bands)), np.zeros((back, bands)))
    for first in range(0, len(frames), _BLOCK):
        found = spectra(frames[first : first + _BLOCK] * weight, size)
        turned_down(found, ring, terms, first)
        add_up(frames_of(found, size), hop, out, first * hop)
    # Hann windows a quarter apart add up to two.
    return Sound(np.asarray(out[size : size + len(samples)] / np.float32(0.5 * _OVERLAP)), sound.rate)


def _terms(room: RoomAcoustics, hop_s: float) -> tuple[RingParameters, int]:
    """The terms, and how many frames back it is asked how far a band has fallen."""
    share = 10.0 ** (room.late_db / 10.0)
    keeps = 10.0 ** (-room.decay_db_s * hop_s / 10.0)
    feeds = share / (1.0 - share) * keeps**_LATE_STEPS * (1.0 - keeps)
    steady = feeds / (1.0 - keeps + feeds)  # of a note that goes on for ever
    back = max(1, round(_FALLEN_DB / (room.decay_db_s * hop_s)))
    return RingParameters(keeps, feeds, min(_OVER, _MOST_OF_IT / steady), keeps**back), back
