"""Device check: clicks go out, clicks come back.

The page plays clicks at known samples of the recording and sends what the microphone heard. From it: the way out and
back in seconds, how steadily it repeats, how far the two clocks drift apart, the noise of room and microphone before the
first click, and whether the clicks were cut off at their peaks. A click is found by its correlation with what was
played (a tone of 1320 Hz that rises in 2 ms and dies away in 50), whose modulus peaks where the click begins.
"""

from dataclasses import dataclass

import numpy as np

from orexis.core.messages import tell
from orexis.core.room import RoomAcoustics, decay_after
from orexis.core.signals import convolved
from orexis.core.sound import Floats, Sound, finite
from orexis.errors import SoundError

CLICK_HZ = 1320.0  # the metronome's own pitch: far above mains hum, and small speakers play it
_RISE_S, _LENGTH_S, _PEAK_S = 0.002, 0.05, 0.012
_FIRST_S, _LATEST_S = -0.005, 0.6  # where an echo of a click is looked for
_OVER_NOISE = 5.0  # the correlation must stand so far over what it does in silence
_EARLY_SHARE = 0.5  # the first peak so high counts: a wall's echo may be louder
_CLIPPED_AT = 0.985  # of full scale: converters flatten a little before it
_LEAST_CLICKS, _MOST_CLICKS = 4, 64
_LOUD_DB = -50.0  # of noise: a tail would not be heard in it
_MOST_SPREAD_S, _STRAY_S = 0.012, 0.05


@dataclass(frozen=True, slots=True)
class DeviceCheck:
    """What the check found. `delay_s` is None, with the reason, when the clicks were not heard well enough."""

    delay_s: float | None
    spread_s: float | None
    drift_ppm: float | None
    heard: int
    played: int
    noise_db: float | None
    peak_db: float
    clipped_share: float
    reason: str | None
    room: str | None = None  # what the room hides, in words


def check_device(sound: Sound, clicks_s: tuple[float, ...]) -> DeviceCheck:
    """Read a check's recording; `clicks_s` are the moments in it at which the clicks were due, in order.

    SoundError when the recording does not hold them.
    """
    if not _LEAST_CLICKS <= len(clicks_s) <= _MOST_CLICKS:
        raise SoundError(
            tell(
                "A device check has {count} clicks: it needs {least_clicks} to {most_clicks}.",
                count=len(clicks_s),
                least_clicks=_LEAST_CLICKS,
                most_clicks=_MOST_CLICKS,
            )
        )
    if list(clicks_s) != sorted(clicks_s) or clicks_s[0] < 0.2 or clicks_s[-1] > sound.duration_s:
        raise SoundError("The clicks of a device check must lie in its recording, in order, after 0.2 s of silence.")
    samples = finite(sound.samples).astype(np.float64)
    likeness = _likeness(samples, sound.rate)
    before = round((clicks_s[0] - 0.02) * sound.rate)
    delays = _delays(likeness, sound.rate, clicks_s, float(np.percentile(likeness[:before], 95)))
    quiet = samples[round(0.05 * sound.rate) : before]
    size = np.abs(samples)
    delay, spread, drift, reason = _judged(delays, clicks_s)
    noise_db = (
        round(float(10.0 * np.log10(max(np.mean((quiet - quiet.mean()) ** 2), 1e-12))), 1) if len(quiet) else None
    )
    return DeviceCheck(
        delay_s=delay,
        spread_s=spread,
        drift_ppm=drift,
        heard=int(np.isfinite(delays).sum()),
        played=len(clicks_s),
        noise_db=noise_db,
        peak_db=round(float(20.0 * np.log10(max(size.max(initial=0.0), 1e-6))), 1),
        clipped_share=round(float(np.mean(size >= _CLIPPED_AT)), 6),
        reason=reason,
        room=_room_in_words(sound, delay, clicks_s, noise_db),
    )


def _room_in_words(
    sound: Sound, delay_s: float | None, clicks_s: tuple[float, ...], noise_db: float | None
) -> str | None:
    """None where the clicks were not heard, or where noise would drown what rings."""
    if delay_s is None or (noise_db is not None and noise_db > _LOUD_DB):
        return None
    decay = decay_after(sound, tuple(at + delay_s + 2.0 * _PEAK_S for at in clicks_s))
    if decay is None:
        return "This room is dry: short silences can be heard in it."
    room = RoomAcoustics(decay, -6.0)
    return tell(
        "This room rings for {decay_s:.1f} s: silences in a slur under {hides_ms:.0f} ms cannot be heard in it, nor small pushes. A carpet, a curtain, or the microphone nearer to the bell helps.",
        decay_s=room.decay_s,
        hides_ms=room.hides_ms,
    )


def _likeness(samples: Floats, rate: int) -> Floats:
    """How much the sound from each sample on is like a click; shape (n,)."""
    t = np.arange(round(_LENGTH_S * rate)) / rate
    shape = np.minimum(t / _RISE_S, 1.0) * np.exp(-t / (_LENGTH_S / 6.5))
    click = shape * np.exp(-2j * np.pi * CLICK_HZ * t)
    return np.abs(convolved(samples, click[::-1]))[len(click) - 1 :]


def _delays(likeness: Floats, rate: int, clicks_s: tuple[float, ...], floor: float) -> Floats:
    """Seconds from each click to its echo; NaN where none was heard."""
    out = np.full(len(clicks_s), np.nan)
    for i, click in enumerate(clicks_s):
        last = min(click + _LATEST_S, clicks_s[i + 1] - _LENGTH_S if i + 1 < len(clicks_s) else np.inf)
        first, stop = round((click + _FIRST_S) * rate), round(last * rate)
        part = likeness[max(0, first) : stop]
        if not len(part) or part.max() < _OVER_NOISE * max(floor, 1e-9):
            continue
        at = int(np.flatnonzero(part > _EARLY_SHARE * part.max())[0])
        reach = part[at : at + round(_PEAK_S * rate)]
        out[i] = (max(0, first) + at + int(np.argmax(reach))) / rate - click
    return out


def _judged(delays: Floats, clicks_s: tuple[float, ...]) -> tuple[float | None, float | None, float | None, str | None]:
    known = np.isfinite(delays)
    known &= np.abs(delays - (np.median(delays[known]) if known.any() else 0.0)) < _STRAY_S
    if known.sum() < max(_LEAST_CLICKS, 0.6 * len(delays)):
        return (
            None,
            None,
            None,
            "the clicks were not heard: turn the loudspeaker up, or take off the headphones for the check",
        )
    delay, at = delays[known], np.array(clicks_s)[known]
    slope, _ = np.polyfit(at, delay, 1)
    level = delay - slope * (at - at.mean())
    spread = float(1.4826 * np.median(np.abs(level - np.median(level))))
    if spread > _MOST_SPREAD_S:
        return (
            None,
            round(spread, 5),
            None,
            "the delay changes from click to click: close other programs that use sound, or use a wired device",
        )
    return round(float(np.median(delay)), 5), round(spread, 5), round(1e6 * float(slope), 1), None
