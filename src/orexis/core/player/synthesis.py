"""From a performance to sound: harmonics that brighten with level, breath, room and device noise.

Each harmonic n has the amplitude n^-p with p falling as the level rises (loud brass is bright), times the bell's
high-pass (low notes lose their fundamental), times a soft roll-off above 5 kHz. (Benade & Fletcher & Rossing, brass
radiation; the numbers are chosen by ear and by the spectra of sampled instruments.)
"""

from dataclasses import dataclass

import numpy as np

from orexis.core.compiled import good_size
from orexis.core.player.gestures import CONTROL_RATE
from orexis.core.player.harmonics import GRID, summed
from orexis.core.player.performance import Performance
from orexis.core.signals import convolved
from orexis.core.sound import Floats, Samples, Sound

_MAX_HARMONICS = 48  # above it nothing of a low note is heard
_BLOCK_S = 2.0  # bounds memory
_BREATH_HZ = 400.0, 6000.0
_DIES_AWAY_S = 0.05  # what the band pass still gives after its sound
# Reverberation time in seconds and level of the room against the direct sound.
_ROOMS = {"small": (0.35, -14.0), "hall": (1.6, -10.0)}


@dataclass(frozen=True, slots=True)
class Timbre:
    """Bell cut-off in Hz (below it the instrument radiates weakly) and evenness of the spectrum."""

    bell_hz: float
    slope: float


# By the pitch of the open tube's fundamental: large instruments radiate lower and are darker.
def timbre_of(fundamental_hz: float) -> Timbre:
    """Timbre of an instrument with that open fundamental."""
    return Timbre(bell_hz=2.2 * fundamental_hz + 90.0, slope=1.5)


def render(
    played: Performance, timbre: Timbre, *, rate: int, room: str, noise_db: float, rng: np.random.Generator
) -> Sound:
    """Sound of a performance, float32 mono at `rate` Hz."""
    size = round(len(played.f0_hz) / CONTROL_RATE * rate)
    tone = _tone(played, timbre, size, rate)
    dry = tone + _breath(played, size, rate, rng)
    wet = _in_room(dry, room, rate, rng)
    device = rng.normal(0.0, 10.0 ** (noise_db / 20.0), size)
    out: Samples = np.clip(wet + device, -1.0, 1.0).astype(np.float32)
    return Sound(out, rate)


def _at_samples(track: Floats, size: int, rate: int) -> Floats:
    return np.interp(np.arange(size) / rate * CONTROL_RATE, np.arange(len(track)), track)


def _tone(played: Performance, timbre: Timbre, size: int, rate: int) -> Floats:
    sounding = np.isfinite(played.f0_hz)
    if not sounding.any():
        return np.zeros(size)
    index = np.arange(len(played.f0_hz))
    filled = np.interp(index, index[sounding], played.f0_hz[sounding])
    f0 = _at_samples(filled, size, rate)
    # Silence is given to the level track, so that pitch never jumps from nothing.
    level = _at_samples(np.where(sounding, played.level_db, -120.0), size, rate)
    pinched = _at_samples(played.pinched_db, size, rate) if np.any(played.pinched_db) else None
    phase = 2.0 * np.pi * np.cumsum(f0) / rate
    out = np.zeros(size)
    block = round(_BLOCK_S * rate)
    for start in range(0, size, block):
        part = slice(start, min(size, start + block))
        tilt = None if pinched is None else pinched[part]
        out[part] = _harmonics(f0[part], level[part], phase[part], timbre, rate, tilt)
    return out


def _harmonics(
    f0: Floats, level_db: Floats, phase: Floats, timbre: Timbre, rate: int, pinched_db: Floats | None
) -> Floats:
    """The sum of harmonics; their amplitudes are worked out every GRID samples.

    `pinched_db`: dB per octave taken from what lies below 1 kHz and given above.
    """
    coarse = f0[::GRID].astype(np.float32)
    loud = np.clip((level_db[::GRID].astype(np.float32) + 40.0) / 30.0, 0.0, 1.0)  # 0 at pp, 1 at ff
    slope = timbre.slope + 1.2 * (1.0 - loud)
    n = np.arange(1, max(1, min(_MAX_HARMONICS, int(0.42 * rate / float(f0.max())))) + 1, dtype=np.float32)[:, None]
    x = n * coarse / np.float32(timbre.bell_hz)
    amplitude = np.exp(-np.log(n) * slope) * x / np.sqrt(1.0 + x * x) / (1.0 + (n * coarse / 5000.0) ** 2)
    if pinched_db is not None:
        tilt = (pinched_db[::GRID] * np.log(10.0) / 20.0).astype(np.float32)
        amplitude *= np.exp(np.log2(n * coarse / 1000.0) * tilt)
    power = 0.5 * np.sum(amplitude**2, axis=0)
    gain = np.where(level_db > -110.0, 10.0 ** (level_db / 20.0), 0.0)
    total = summed(phase, amplitude.T.astype(np.float32))
    return gain * total / np.sqrt(np.maximum(np.repeat(power, GRID)[: len(f0)], 1e-12))


def _noise_between(low_hz: float, high_hz: float, white: Floats, rate: int) -> Floats:
    """White noise as a Butterworth band pass of the second order leaves it, 3 dB down at both ends."""
    size = good_size(len(white) + round(_DIES_AWAY_S * rate))  # another length takes ten times as long
    low, high, hz = (np.tan(np.pi * at / rate) for at in (low_hz, high_hz, np.fft.rfftfreq(size, 1.0 / rate)[1:]))
    away = (hz**2 - low * high) / (hz * (high - low))  # 0 in the middle, -1 and 1 at both ends
    spectrum = np.fft.rfft(white, size)
    spectrum[0] = 0.0
    spectrum[1:] /= np.sqrt(1.0 + away**4)
    return np.asarray(np.fft.irfft(spectrum, size)[: len(white)])


def _breath(played: Performance, size: int, rate: int, rng: np.random.Generator) -> Floats:
    shaped = _noise_between(_BREATH_HZ[0], min(_BREATH_HZ[1], 0.45 * rate), rng.normal(0.0, 1.0, size), rate)
    shaped = shaped / max(1e-9, float(np.std(shaped)))
    level = _at_samples(played.breath_db, size, rate)
    return np.asarray(np.where(level > -110.0, 10.0 ** (level / 20.0), 0.0) * shaped)


def _in_room(dry: Floats, room: str, rate: int, rng: np.random.Generator) -> Floats:
    if room == "dry":
        return dry
    seconds, wet_db = _ROOMS[room]
    t = np.arange(round(seconds * rate)) / rate
    impulse = rng.normal(0.0, 1.0, len(t)) * 10.0 ** (-3.0 * t / seconds)
    impulse[: round(0.004 * rate)] = 0.0
    impulse *= 10.0 ** (wet_db / 20.0) / np.sqrt(np.sum(impulse**2))
    return np.asarray(dry + convolved(dry, impulse)[: len(dry)])
