"""The shape of one note: vibrato and wobble, loudness, bends, and where in its slot it rings. Formulas: docs/measures.md.

Cents are against the note's own median; frames stand every 5 ms.
"""

from dataclasses import dataclass

import numpy as np

from orexis.core.signals import median, running_mean
from orexis.core.sound import Floats
from orexis.core.trace import HOP_S

_LOW_HZ, _HIGH_HZ = 1.0, 10.0  # slower is drift, faster is roughness
_VIBRATO_HZ = (4.5, 7.5)
_REGULAR = 0.6  # share of the power from 1 to 10 Hz that stands within _WIDTH_HZ of its peak
_WIDTH_HZ = 0.9  # how far a played vibrato wanders about its rate
_LEAST_VIBRATO_CENTS, _LEAST_WOBBLE_CENTS = 4.0, 6.0
_LEAST_S = 0.6  # two turns of the slowest vibrato
_SMOOTH_S, _RISE_S = 0.06, 0.08
_BEND_LEAST_CENTS = 25.0  # smaller bends are not meant
_RISES_DB, _RISES_ALL_THE_WAY = 1.0, 0.8  # of level towards one end, and how straight
_RING_RANGE_CENTS, _RING_BIN_CENTS, _RING_FRAMES, _RING_LEAST_FIT = 12.0, 3.0, 4, 0.4


@dataclass(frozen=True, slots=True, eq=False)
class Modulation:
    """How pitch moves about its line: rates in Hz, sizes as peak deviation in cents; None where there is none.

    `calm` is the pitch with the vibrato taken out. `measured` is False when the note is too short to tell.
    """

    vibrato_hz: float | None
    vibrato_cents: float | None
    pitch_wobble_rate_hz: float | None
    pitch_wobble_depth_cents: float | None
    calm: Floats
    measured: bool


def modulation(cents: Floats) -> Modulation:
    """Regular modulation of 4.5 to 7.5 Hz is vibrato; what else moves from 1 to 10 Hz by more than 6 c is wobble."""
    count = len(cents)
    if count * HOP_S < _LEAST_S:
        return Modulation(None, None, None, None, cents, False)
    line = _line(cents)
    flat = cents - line
    spectrum = np.fft.rfft(flat)
    hz = np.fft.rfftfreq(count, HOP_S)
    band = (hz >= _LOW_HZ) & (hz <= _HIGH_HZ)
    power = np.where(band, np.abs(spectrum) ** 2, 0.0)
    if power.sum() <= 1e-9:
        return Modulation(None, None, None, None, cents, True)
    peak = float(hz[int(np.argmax(power))])
    near = band & (np.abs(hz - peak) <= max(_WIDTH_HZ, 1.6 / (count * HOP_S)))
    size = _peak_cents(power[near].sum(), count)
    regular = power[near].sum() > _REGULAR * power.sum()
    vibrato = regular and _VIBRATO_HZ[0] <= peak <= _VIBRATO_HZ[1] and size >= _LEAST_VIBRATO_CENTS
    calm = cents
    if vibrato:
        calm = cents - _band(flat, peak)
        power = np.where(near, 0.0, power)
    rest = _peak_cents(power.sum(), count)
    wobbles = rest >= _LEAST_WOBBLE_CENTS
    return Modulation(
        peak if vibrato else None,
        size if vibrato else None,
        float(hz[int(np.argmax(power))]) if wobbles else None,
        rest if wobbles else None,
        calm,
        True,
    )


def _band(flat: Floats, centre_hz: float) -> Floats:
    """What moves within 1.2 Hz of a rate; mirrored beyond its ends, where a transform would leak."""
    count = len(flat)
    edge = min(count - 1, round(1.0 / HOP_S))
    long = np.pad(flat, edge, mode="reflect", reflect_type="odd")
    hz = np.fft.rfftfreq(len(long), HOP_S)
    kept = np.where(np.abs(hz - centre_hz) <= 1.2, np.fft.rfft(long), 0.0)
    return np.asarray(np.fft.irfft(kept, len(long))[edge : edge + count])


def _line(values: Floats) -> Floats:
    """The straight line through them: a transform would take a slope for slow movement."""
    at = np.arange(len(values))
    return np.asarray(np.polyval(np.polyfit(at, values, 1), at))


def _peak_cents(power: float, count: int) -> float:
    """Peak deviation of a sine of this power (sum of |FFT|^2 over one side)."""
    return float(2.0 * np.sqrt(power) / count)


@dataclass(frozen=True, slots=True)
class LoudnessCourse:
    """How the level goes: rise from the start to its top and fall from there to the end, dB; where the top is, 0..1."""

    rise_db: float
    fall_db: float
    top_at: float


def sounding_part(count: int) -> slice:
    """Without the first 80 ms, in which every note rises."""
    return slice(round(_RISE_S / HOP_S), count)


def loudness(level_db: Floats) -> LoudnessCourse | None:
    """Over the settled part less its rise, smoothed over 60 ms; None for less than 0.3 s."""
    level_db = level_db[sounding_part(len(level_db))]
    if len(level_db) * HOP_S < 0.3:
        return None
    smooth = running_mean(level_db, max(1, round(_SMOOTH_S / HOP_S)))
    top = int(np.argmax(smooth))
    return LoudnessCourse(
        float(smooth[top] - smooth[0]), float(smooth[top] - smooth[-1]), top / max(1, len(smooth) - 1)
    )


SHAPES = ("steady", "swell", "fade", "swell-and-fade")


def shape_off_db(level_db: Floats, shape: str) -> float:
    """RMS distance in dB of the level from the nearest shape of that kind: straight lines in dB, joined at the top."""
    level_db = level_db[sounding_part(len(level_db))]
    smooth = running_mean(level_db, max(1, round(_SMOOTH_S / HOP_S)))
    at = np.linspace(0.0, 1.0, len(smooth))
    if shape == "steady":
        fits = [np.ones((1, len(at)))]
    elif shape in ("swell", "fade"):
        fits = [np.vstack((np.ones_like(at), at))]
    else:
        tops = np.linspace(0.25, 0.75, 11)
        fits = [np.vstack((np.ones_like(at), np.minimum(at - top, 0.0), np.maximum(at - top, 0.0))) for top in tops]
    return min(_residual(np.asarray(fit), smooth, shape) for fit in fits)


def _residual(basis: Floats, level_db: Floats, shape: str) -> float:
    weights, *_ = np.linalg.lstsq(basis.T, level_db, rcond=None)
    # A swell that falls is no swell: what goes the wrong way counts as flat.
    wanted = {"swell": (1,), "fade": (-1,), "swell-and-fade": (1, -1)}.get(shape, ())
    weights = weights.copy()
    for k, sign in enumerate(wanted, start=1):
        weights[k] = sign * max(0.0, sign * weights[k])
    off = level_db - basis.T @ weights
    return float(np.sqrt(np.mean((off - off.mean()) ** 2)))


@dataclass(frozen=True, slots=True)
class Bend:
    """How far a held note was bent, cents (both positive), and how well it came back (signed, end against start)."""

    down_cents: float
    up_cents: float
    back_cents: float


def bend(cents: Floats) -> Bend | None:
    """Of a note that leaves its pitch by 25 cents and more; None where it does not."""
    edge = max(3, round(0.15 / HOP_S))
    if len(cents) < 4 * edge:
        return None
    start, end = median(cents[:edge]), median(cents[-edge:])
    smooth = running_mean(cents, round(_SMOOTH_S / HOP_S))
    down, up = start - float(smooth.min()), float(smooth.max()) - start
    if max(down, up) < _BEND_LEAST_CENTS:
        return None
    return Bend(max(0.0, down), max(0.0, up), end - start)


def was_led(cents: Floats) -> bool:
    """Whether the pitch covers 12 cents and more, so that a ring can be looked for."""
    part = cents[sounding_part(len(cents))]
    return len(part) > 0 and float(np.ptp(np.percentile(part, (3, 97)))) >= _RING_RANGE_CENTS


@dataclass(frozen=True, slots=True)
class RingingPlace:
    """Where a note rings. `cents`: None where that lies outside of where the pitch was led; `beyond`: then, the end it lies beyond."""

    cents: float | None
    beyond: float | None = None


def ringing_place(cents: Floats, level_db: Floats, tone_to_noise_db: Floats) -> RingingPlace:
    """The deviation at which level and tone-to-noise stand highest, where the pitch was led through its slot.

    Each is averaged in bins of 3 cents and fitted by a parabola over the bins; the two tops are averaged by how well
    their parabola fits. Nothing when the pitch covers less than 12 cents. Where neither has a top inside its range, and the
    level rises all the way towards one end, it rings beyond that end.
    """
    part = sounding_part(len(cents))
    cents, level_db, tone_to_noise_db = cents[part], level_db[part], tone_to_noise_db[part]
    if not len(cents):
        return RingingPlace(None)
    low, high = (float(end) for end in np.percentile(cents, (3, 97)))
    if high - low < _RING_RANGE_CENTS:
        return RingingPlace(None)
    place = np.floor((cents - low) / _RING_BIN_CENTS).astype(int)
    bins = [k for k in range(int((high - low) / _RING_BIN_CENTS) + 1) if np.sum(place == k) >= _RING_FRAMES]
    if len(bins) < 5:
        return RingingPlace(None)
    middles = low + _RING_BIN_CENTS * (np.array(bins) + 0.5)
    tops = [
        _top(middles, np.array([float(np.mean(v[place == k])) for k in bins])) for v in (level_db, tone_to_noise_db)
    ]
    known = [(top, trust) for top, trust in tops if top is not None and low <= top <= high]
    total = sum(trust for _, trust in known)
    if total > _RING_LEAST_FIT:
        return RingingPlace(sum(top * trust for top, trust in known) / total)
    louder = np.array([float(np.mean(level_db[place == k])) for k in bins])
    towards = float(np.corrcoef(middles, louder)[0, 1]) if np.ptp(louder) >= _RISES_DB else 0.0
    return RingingPlace(None, None if abs(towards) < _RISES_ALL_THE_WAY else high if towards > 0 else low)


def _top(at: Floats, values: Floats) -> tuple[float | None, float]:
    """Where a parabola through the values is highest, and the share of their variance that it explains, squared."""
    bend_of, slope, _ = np.polyfit(at, values, 2)
    if bend_of >= 0.0 or np.ptp(values) < 0.3:
        return None, 0.0
    rest = values - np.polyval(np.polyfit(at, values, 2), at)
    explained = max(0.0, 1.0 - float(np.var(rest)) / float(np.var(values)))
    return float(-slope / (2.0 * bend_of)), explained**2
