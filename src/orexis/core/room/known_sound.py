"""Taking sound out that is known: what the page itself played through the loudspeaker while somebody practised.

Each known tone is steady, so that at the microphone every partial of it is one number: how loud and how late it arrives. It is read
in windows of a quarter second (the sound turned by the partial's frequency and weighted by a Hann window), of all times at which
the same tones sound together, and the median of them is kept: what the player adds there now and then does not move it. Where
tones sounded before the first beat, only that time is read. Two clocks that run apart turn every phase a little further with time: by
how much is what brings the phases of all partials nearest together. A partial that comes out much louder than its neighbours have it
is the player's as well, and is left alone.
"""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from orexis.core.room.partials import steady
from orexis.core.signals import Array, convolved
from orexis.core.sound import Floats, Sound
from orexis.core.theory import KnownTone

# As the page sounds them (frontend/src/lib/audio/tones.ts).
PARTIALS = 13
RISE_S, FALL_S, TAIL_S = 0.06, 0.05, 0.4
_WINDOW_S, _SETTLED_S = 0.25, 0.2
_BEGINNING_S = 0.8
_LATER_S = tuple(0.01 * step for step in range(-5, 31))  # where the way is not known, or not well
_NEAR_S = 0.12  # of that length is the window that tells what is near a partial
_HIGHEST_HZ = 6000.0
_SAME_HZ = 1.0  # partials of two tones so near are one
_FEWEST = 3  # windows
_THE_PLAYERS = 2.5  # times as loud as the neighbours say
_NEIGHBOURS = 7
_FASTEST = 1e-4  # by which two clocks are apart
_CLOCK_HZ = 2000.0  # partials under it tell
_HEARD = 1e-5  # of full scale: below it nothing is there to be taken out


@dataclass(frozen=True, slots=True)
class _Together:
    """Tones that sound at once from one moment to the next."""

    tones: tuple[KnownTone, ...]
    start_s: float
    end_s: float

    @property
    def kind(self) -> tuple[float, ...]:
        return tuple(sorted(tone.hz for tone in self.tones))

    @property
    def begins_at(self) -> float:
        """When its tones began: their phase counts from there."""
        return max(tone.start_s for tone in self.tones)


def sent_level(hz: float, partial: int) -> float:
    """How strongly the page sends a partial of a tone, against others."""
    return float(partial**-1.4 / np.sqrt(1.0 + (220.0 / (partial * hz)) ** 2))


def without_known(sound: Sound, tones: Sequence[KnownTone], *, alone_until_s: float, delay_s: float = 0.0) -> Sound:
    """The sound less the tones; itself where none of them is heard. `alone_until_s`: before it nobody plays.

    `delay_s`: how much later than it was sent a sound is in the recording.
    """
    samples = sound.samples.astype(np.float64)
    arriving = [tone.later(delay_s) for tone in tones]
    fast = _clock(samples, sound.rate, _by_kind(_moments(arriving)))
    moments = _moments([KnownTone(t.hz * fast, t.start_s / fast, t.end_s / fast) for t in arriving])
    by_kind = _by_kind(moments)
    found: dict[tuple[float, ...], dict[float, complex]] = {}
    gains: list[tuple[float, float]] = []  # Hz, how much of what is sent arrives
    for kind, same in sorted(by_kind.items(), key=lambda pair: min(m.start_s for m in pair[1])):
        alone = [m for m in same if m.start_s + _SETTLED_S + _WINDOW_S < alone_until_s]
        heard = _heard(samples, sound.rate, kind, alone or same, alone_until_s if alone else np.inf)
        if alone:
            gains += [(hz, abs(value) / level) for hz, level in _sent(kind).items() if (value := heard.get(hz))]
        else:
            heard = _plausible(heard, _sent(kind), gains)
        found[kind] = heard
    if max((abs(value) for heard in found.values() for value in heard.values()), default=0.0) < _HEARD:
        return sound
    later_s = _later(samples, sound.rate, moments[0], found[moments[0].kind])
    cleared = _cleared(samples, sound.rate, moments, max(0, round(alone_until_s * sound.rate)))
    for moment in moments:
        _take_out(samples, sound.rate, moment, found[moment.kind], later_s)
    samples[: len(cleared)] = cleared
    return Sound(samples.astype(np.float32), sound.rate)


def _by_kind(moments: Sequence[_Together]) -> dict[tuple[float, ...], list[_Together]]:
    out: dict[tuple[float, ...], list[_Together]] = defaultdict(list)
    for moment in moments:
        out[moment.kind].append(moment)
    return out


def _clock(samples: Floats, rate: int, by_kind: dict[tuple[float, ...], list[_Together]]) -> float:
    """How fast the loudspeaker's clock goes by the microphone's: what brings the phases of each partial nearest together."""
    last_s = len(samples) / rate
    steps = np.arange(-_FASTEST, _FASTEST, 1.0 / (6.0 * _CLOCK_HZ * last_s))
    together, counted = np.zeros(len(steps)), 0
    for kind, same in by_kind.items():
        stacked, at, began = _windows(samples, rate, same, np.inf)
        if len(stacked) < _FEWEST:
            continue
        for hz in (hz for hz in _sent(kind) if hz < _CLOCK_HZ):
            turned = _turned(stacked, rate, hz) * np.exp(-2j * np.pi * hz * began)
            phases = turned / np.maximum(np.abs(turned), 1e-12)
            together += np.abs(np.exp(-2j * np.pi * hz * np.outer(steps, at)) @ phases) ** 2 / len(at)
            counted += 1
    best = int(np.argmax(together))
    # Of phases by chance each partial gives 1, give or take 1.
    if together[best] < together[np.abs(steps).argmin()] + 4.0 * np.sqrt(counted) or not 0 < best < len(steps) - 1:
        return 1.0
    before, at_best, after = together[best - 1 : best + 2]
    between = 0.5 * (before - after) / (before - 2.0 * at_best + after)
    return 1.0 + float(steps[best] + between * (steps[1] - steps[0]))


def _moments(tones: Sequence[KnownTone]) -> list[_Together]:
    edges = sorted({edge for tone in tones for edge in (round(tone.start_s, 6), round(tone.end_s, 6))})
    out = []
    for start, end in pairwise(edges):
        sounding = tuple(tone for tone in tones if tone.start_s < end - 1e-4 and tone.end_s > start + 1e-4)
        if sounding:
            out.append(_Together(sounding, start, end))
    return out


def _sent(kind: tuple[float, ...]) -> dict[float, float]:
    """Every partial of tones that sound together, by its frequency: how strongly it is sent. Those that coincide are one."""
    out: dict[float, float] = {}
    for hz in kind:
        for partial in range(1, PARTIALS + 1):
            at = partial * hz
            if at > _HIGHEST_HZ:
                break
            near = next((known for known in out if abs(known - at) < _SAME_HZ), at)
            out[near] = out.get(near, 0.0) + sent_level(hz, partial)
    return out


def _heard(
    samples: Floats, rate: int, kind: tuple[float, ...], moments: list[_Together], until_s: float
) -> dict[float, complex]:
    """How each partial arrives: loudness and phase against the beginning of its tones."""
    stacked, _, began = _windows(samples, rate, moments, until_s)
    if len(stacked) < _FEWEST:
        return {}
    out = {}
    for hz in _sent(kind):
        turned = _turned(stacked, rate, hz) * np.exp(-2j * np.pi * hz * began)
        out[hz] = complex(np.median(turned.real), np.median(turned.imag))
    return out


def _windows(samples: Floats, rate: int, moments: list[_Together], until_s: float) -> tuple[Floats, Floats, Floats]:
    """Weighted windows of the moments, shape (n, size); when each begins, and how long after its tones."""
    size = round(_WINDOW_S * rate)
    window = np.hanning(size)
    window /= window.sum()
    parts, at_s, began = [], [], []
    for moment in moments:
        first, last = moment.start_s + _SETTLED_S, min(moment.end_s, until_s)
        at = max(0, round(first * rate))  # a recording may begin within its count-in
        while at + size <= min(round(last * rate), len(samples)):
            parts.append(samples[at : at + size] * window)
            at_s.append(at / rate)
            began.append(at / rate - moment.begins_at)
            at += size // 2
    return np.array(parts), np.array(at_s), np.array(began)


def _turned(stacked: Floats, rate: int, hz: float) -> Array:
    """What each window holds at a frequency, complex; shape (n,)."""
    return np.asarray(2.0 * (stacked @ np.exp(-2j * np.pi * hz * np.arange(stacked.shape[1]) / rate)))


def _plausible(
    heard: dict[float, complex], sent: dict[float, float], gains: list[tuple[float, float]]
) -> dict[float, complex]:
    """Less what must be the player's: far louder than partials near it arrived while nobody played."""
    if not gains:
        return heard
    known = np.array(gains)
    out = {}
    for hz, value in heard.items():
        nearest = np.argsort(np.abs(np.log(known[:, 0] / hz)))[:_NEIGHBOURS]
        expected = float(np.median(known[nearest, 1])) * sent[hz]
        if abs(value) <= _THE_PLAYERS * expected:
            out[hz] = value
    return out


def _cleared(samples: Floats, rate: int, moments: list[_Together], size: int) -> Floats:
    """So many samples, while nobody plays, without whatever there is near the partials that sound then: rise, echoes and all."""
    window = np.hanning(round(_NEAR_S * rate))
    window /= window.sum()
    samples = samples[: size + len(window)]
    out = samples.copy()
    t = np.arange(len(samples)) / rate
    for hz in {hz for moment in moments if moment.start_s < size / rate for hz in _sent(moment.kind)}:
        turn = np.exp(-2j * np.pi * hz * t)
        out -= 2.0 * (_about(samples * turn, window) * turn.conj()).real
    return out[:size]


def _about(values: Array, window: Floats) -> Array:
    """Each value as the weighted mean of those about it."""
    before = (len(window) - 1) // 2
    return convolved(values, window)[before : before + len(values)]


def _later(samples: Floats, rate: int, moment: _Together, heard: dict[float, complex]) -> float:
    """How much later than was thought the tones arrive: what leaves least of their beginning."""
    first, last = round(moment.start_s * rate), round((moment.start_s + _BEGINNING_S) * rate)
    if first < 0 or last > len(samples):
        return 0.0

    def left(later_s: float) -> float:
        part = samples[:last].copy()
        _take_out(part, rate, moment, heard, later_s)
        return float(np.square(part[first:]).sum())

    return min(_LATER_S, key=left)


def _take_out(samples: Floats, rate: int, moment: _Together, heard: dict[float, complex], later_s: float) -> None:
    """Take the partials of one moment out, with the page's own rise and fall."""
    first = max(0, round((moment.start_s + later_s) * rate))
    last = min(len(samples), round((moment.end_s + later_s + TAIL_S) * rate))
    if last <= first:
        return
    t = np.arange(first, last) / rate
    began, ended = t - moment.start_s - later_s, np.maximum(0.0, t - moment.end_s - later_s)
    rises = 1.0 - np.exp(-began / RISE_S) if abs(moment.start_s - moment.begins_at) < 1e-3 else np.ones(len(t))
    shape = rises * np.exp(-ended / FALL_S)
    values = np.array(list(heard.values()), complex)
    made = steady(np.array(list(heard)), values, first / rate - moment.begins_at, last - first, rate)
    samples[first:last] -= shape * made
