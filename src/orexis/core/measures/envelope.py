"""How a note sounds, and how alike two notes sound.

The envelope is the strength of the harmonics read at fixed frequencies, so that notes of different pitch compare: level
in dB at 24 centres from 125 Hz to 8 kHz, a quarter octave apart, relative to the whole; empty where no harmonic lies
within reach or the harmonics do not stand above the noise. (After the spectral envelopes of J. W. Beauchamp, "Synthesis
by spectral amplitude and brightness matching of analyzed musical instrument tones", 1982.)
"""

import math
from dataclasses import dataclass

import numpy as np

from orexis.core.signals import median, spectra
from orexis.core.sound import Floats, Samples, Sound, finite

CENTRES_HZ = tuple(125.0 * 2.0 ** (k / 4.0) for k in range(25))
_LONGEST_S = 3.0  # longer says nothing more, and costs more
_LEAST_PERIODS = 8.0  # fewer do not tell harmonics from noise
_OVER_NOISE_DB = 6.0  # a harmonic counts when it stands clear of the noise
_DEEPEST_DB = -65.0  # under the strongest harmonic: never trusted
_AIR_HZ = (2000.0, 6000.0)  # where breath is heard beside the tone
_MOST_SMEARED, _LEAST_GAPS = 0.25, 3  # of the distance of two harmonics; gaps between them
_HANN_LOBE = 1.5  # power of a steady harmonic over its highest bin
_REACH = 1.3  # a centre further than this from the lowest or highest harmonic is empty

# What a listener would expect to change: louder is brighter, and so is a higher note of the same instrument.
# Tilt in dB per octave for each dB of loudness and each octave of pitch, from sampled instruments; docs/measures.md.
TILT_PER_DB, TILT_PER_OCTAVE = 0.15, 1.5
_LEAST_CENTRES, _LEAST_ELSEWHERE = 5, 8
CLEAR_DB = 30.0  # of tone against air: more is no clearer to anybody
_AIR_SAME_DB, _AIR_ELSEWHERE_DB = 3.0, 6.0  # what two takes of one tone, and two devices, differ by
_HEARD_TILT = 1.5  # dB per octave, more than is expected
_MOST_TILT = 3.0  # dB per octave
# Distance in dB: of one player's two takes of a note on one day, and one that anyone hears.
SAME_DB, OTHER_DB = 2.4, 9.0
NEIGHBOUR_DB, PER_OCTAVE_DB = 4.0, 2.0  # two good notes of one instrument
ROOM_DB = 8.7  # of two notes: each moves by 20 / ln 10 * sqrt(share / 2) dB


@dataclass(frozen=True, slots=True)
class TimbreProfile:
    """What is compared: envelope (None where empty), pitch in Hz, level in dBFS, tone-to-noise in dB, level wander in dB."""

    envelope_db: tuple[float | None, ...]
    f0_hz: float
    level_db: float
    tone_to_noise_db: float
    wander_db: float

    @property
    def clarity_db(self) -> float:
        """Tone against air, as far as anybody hears it."""
        return min(self.tone_to_noise_db, CLEAR_DB)


@dataclass(frozen=True, slots=True)
class Reference:
    """The sound to compare with. `elsewhere`: another device heard it, in whatever room that stood."""

    timbre: TimbreProfile
    elsewhere: bool = False


@dataclass(frozen=True, slots=True, eq=False)
class HarmonicSpectrum:
    """Mean power of each harmonic, and of the noise between it and the next: of one bin of `bin_hz`, Hann windows."""

    f0_hz: float
    bin_hz: float
    strength: Floats
    noise: Floats

    def envelope_db(self) -> tuple[float | None, ...]:
        """The level at each of the centres; None where it is empty."""
        return _at_centres(self.strength, self.noise, self.f0_hz)

    def tone_to_air_db(self, unsteady_cents: float) -> float | None:
        """Return the tone against the noise between its harmonics from 2 to 6 kHz, where breath is heard and tone is weak.

        `unsteady_cents`: standard deviation of the pitch. High harmonics of a pitch that moves lie between those of its middle: they are left
        out, and None is returned where fewer than three gaps remain.
        """
        moves = 2.0 ** (unsteady_cents / 1200.0) - 1.0
        number = np.arange(1, len(self.noise) + 1)
        middle_hz = (number + 0.5) * self.f0_hz
        usable = (middle_hz >= _AIR_HZ[0]) & (middle_hz <= _AIR_HZ[1]) & (number * moves <= _MOST_SMEARED)
        if usable.sum() < _LEAST_GAPS:
            return None
        air = float(np.mean(self.noise[usable])) * (_AIR_HZ[1] - _AIR_HZ[0]) / self.bin_hz
        tone = _HANN_LOBE * float(np.sum(self.strength))
        return 10.0 * math.log10(tone / air) if tone > 0.0 and air > 0.0 else None


def harmonic_spectrum(sound: Sound, start_s: float, stop_s: float, f0_hz: float) -> HarmonicSpectrum | None:
    """The spectrum of the stretch, 3 s of it at most; None when it is shorter than eight periods."""
    first, last = round(start_s * sound.rate), round(min(stop_s, start_s + _LONGEST_S) * sound.rate)
    part = finite(sound.samples[first:last])
    return _harmonics(part, sound.rate, f0_hz) if len(part) >= _LEAST_PERIODS * sound.rate / f0_hz else None


def _harmonics(part: Samples, rate: int, f0_hz: float) -> HarmonicSpectrum:
    """Over half-overlapping windows."""
    width = min(len(part), max(round(_LEAST_PERIODS * rate / f0_hz), round(0.1 * rate)))
    weight = np.hanning(width).astype(np.float32)
    frames = np.lib.stride_tricks.sliding_window_view(part, width)[:: max(1, width // 2)]
    found = spectra(frames * weight, width)
    power = np.asarray(np.mean(found.real**2 + found.imag**2, axis=0, dtype=np.float64))
    bin_hz = rate / width
    top = int(min(0.45 * rate, 1.2 * CENTRES_HZ[-1]) / f0_hz)
    strength, noise = np.zeros(top), np.zeros(top)
    for h in range(1, top + 1):
        centre = h * f0_hz / bin_hz
        reach = max(2.0, 0.25 * f0_hz / bin_hz)
        low, high = int(centre - reach), int(centre + reach) + 2
        strength[h - 1] = power[max(0, low) : high].max(initial=0.0)
        middle = round((h + 0.5) * f0_hz / bin_hz)
        noise[h - 1] = power[max(0, middle - 1) : middle + 2].mean() if middle + 2 < len(power) else 0.0
    return HarmonicSpectrum(f0_hz, bin_hz, strength, noise)


def _at_centres(strength: Floats, noise: Floats, f0_hz: float) -> tuple[float | None, ...]:
    usable = strength > np.maximum(
        noise * 10.0 ** (_OVER_NOISE_DB / 10.0), strength.max(initial=0.0) * 10.0 ** (_DEEPEST_DB / 10.0)
    )
    where = np.flatnonzero(usable)
    if not len(where):
        return (None,) * len(CENTRES_HZ)
    octave = np.log2((where + 1) * f0_hz)
    # Per harmonic, turned into power per octave band: a low note has more harmonics in each.
    level = 10.0 * np.log10(strength[where] / strength[where].sum()) + 10.0 * np.log10(where + 1)
    out: list[float | None] = []
    for centre in CENTRES_HZ:
        at = math.log2(centre)
        inside = octave[0] - math.log2(_REACH) <= at <= octave[-1] + math.log2(_REACH)
        out.append(round(float(np.interp(at, octave, level)), 2) if inside else None)
    return tuple(out)


def match(a: TimbreProfile, b: TimbreProfile, *, same_db: float = SAME_DB, elsewhere: bool = False) -> float | None:
    """How alike, 0 to 100: 90 at the distance `same_db`, 50 at 6.6 dB more, which anyone hears; None without ground.

    `elsewhere`: other devices heard the two.
    """
    distance = distance_db(a, b, elsewhere=elsewhere)
    if distance is None:
        return None
    if distance <= same_db:
        return 100.0 - 10.0 * distance / same_db
    return max(0.0, 90.0 - 40.0 * (distance - same_db) / (OTHER_DB - SAME_DB))


def natural_db(a: TimbreProfile, b: TimbreProfile, *, room_share: float = 0.0) -> float:
    """The distance that two notes of one instrument, equally well played, have as a rule.

    From sampled instruments (docs/measures.md): notes of one instrument lie further apart than two takes of one note, and more so the
    wider the interval. A room, which answers each frequency otherwise, adds to it by `room_share`, what rings of all that sounds.
    """
    own = NEIGHBOUR_DB + PER_OCTAVE_DB * abs(math.log2(a.f0_hz / b.f0_hz))
    return math.hypot(own, ROOM_DB * math.sqrt(room_share))


def main_difference(a: TimbreProfile, b: TimbreProfile) -> str | None:
    """Return what `a` has more of than `b`: “airier”, “thinner” (less of the low harmonics), “darker”; None where neither stands out."""
    airier = b.clarity_db - a.clarity_db
    if airier > _AIR_ELSEWHERE_DB:
        return "airier"
    octave, off = _unexpected(a, b)
    if len(octave) < _LEAST_CENTRES:
        return None
    tilt = float(np.polyfit(octave, off, 1)[0])
    return None if abs(tilt) < _HEARD_TILT else "thinner" if tilt > 0 else "darker"


def _unexpected(a: TimbreProfile, b: TimbreProfile) -> tuple[Floats, Floats]:
    """Octaves at which both are known, and by how many dB `a` lies above `b` there, the change that a listener expects taken out."""
    both = [
        (at, x - y)
        for at, (x, y) in enumerate(zip(a.envelope_db, b.envelope_db, strict=True))
        if x is not None and y is not None
    ]
    octave = np.array([math.log2(CENTRES_HZ[at]) for at, _ in both])
    off = np.array([value for _, value in both])
    expected = TILT_PER_DB * (a.level_db - b.level_db) + TILT_PER_OCTAVE * math.log2(a.f0_hz / b.f0_hz)
    expected = float(np.clip(expected, -_MOST_TILT, _MOST_TILT))
    return octave, off - expected * (octave - octave.mean()) if len(both) else off


def distance_db(a: TimbreProfile, b: TimbreProfile, *, elsewhere: bool = False) -> float | None:
    """Root mean square of what differs after the expected change, with tone-to-noise and level wander beside it.

    Of sounds that other devices heard, what changes evenly over the octaves (a straight line and a bow) is theirs, and so are a few
    dB of the noise: brightness is not compared. None when fewer than five centres are known of both, eight where a bow is taken out.
    """
    octave, off = _unexpected(a, b)
    if len(octave) < (_LEAST_ELSEWHERE if elsewhere else _LEAST_CENTRES):
        return None
    if elsewhere:
        off = off - np.polyval(np.polyfit(octave - octave.mean(), off, 2), octave - octave.mean())
    off = off - median(off)
    # What only one of the two has, high up, is brightness that the other lacks.
    spectral = float(np.sqrt(np.mean(np.minimum(np.abs(off), 20.0) ** 2)))
    airier = abs(a.clarity_db - b.clarity_db)
    noisy = max(0.0, airier - (_AIR_ELSEWHERE_DB if elsewhere else _AIR_SAME_DB))
    unsteady = max(0.0, abs(a.wander_db - b.wander_db) - 0.5)
    return math.sqrt(spectral**2 + (0.35 * noisy) ** 2 + (1.0 * unsteady) ** 2)
