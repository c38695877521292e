"""How one note of the simulated player goes: pitch in cents and level in dB along it, every flaw of an exact size.

Control rate 1 kHz. `t` is seconds since the note's onset; `length` its written sounding length, after which it decays.
"""

import numpy as np

from orexis.core.player.flaws import Flaws
from orexis.core.sound import Floats

CONTROL_RATE = 1000  # Hz: 1 ms, finer than any gesture
RISE_S = 0.025  # a clean tongued attack
RELEASE_S = 0.06  # a note that is let go, not cut
FALL_S = 0.15  # the stretch over which a fall-off is heard


def pitch_shape(
    note_id: str, flaws: Flaws, rng: np.random.Generator, t: Floats, length: float, *, first: bool, last: bool
) -> Floats:
    """Deviation in cents: entry, sag, vibrato and wobble, bend, fall-off, and the unrest of a living lip."""
    shape = unrest(len(t), rng)
    entry, sag, fall, bend, over = (
        flaws.find(name, note_id) for name in ("entry", "sag", "fall-off", "bend", "overshoot")
    )
    if entry and first:
        until = entry.extra / 1000.0
        glide = np.clip((t - 0.03) / max(until - 0.03, 1e-3), 0.0, 1.0)
        shape += entry.size * 0.5 * (1.0 + np.cos(np.pi * glide))
    if over and not first:
        shape += over.size * np.clip(1.0 - t / 0.06, 0.0, 1.0) ** 2
    if sag:
        shape += sag.size * (np.clip(t / length, 0.0, 1.0) - 0.5)
    for name in ("wobble", "vibrato"):
        flaw = flaws.find(name, note_id)
        if flaw:
            grow = np.clip(t / 0.25, 0.0, 1.0) if name == "vibrato" else 1.0
            shape += flaw.size * grow * np.sin(2 * np.pi * flaw.extra * t + rng.uniform(0, 2 * np.pi))
    if bend:
        shape += bend.size * _plateau(t / length)
    if fall and last:
        shape += fall.size * np.clip((t - (length - FALL_S)) / (0.3 * FALL_S), 0.0, 1.0)
    return shape


def _plateau(share: Floats) -> Floats:
    """Leaves at a quarter of the note, stays through its middle, is back at three quarters."""
    into = np.clip((share - 0.25) / 0.15, 0.0, 1.0)
    away = np.clip((share - 0.6) / 0.15, 0.0, 1.0)
    return np.asarray(0.5 * (1 - np.cos(np.pi * into)) * 0.5 * (1 + np.cos(np.pi * away)))


def unrest(size: int, rng: np.random.Generator) -> Floats:
    """Slow noise of about 1 cent: no living tone is a ruler."""
    points = rng.normal(0.0, 1.0, size // 80 + 3)
    return np.interp(np.arange(size) / 80.0, np.arange(len(points)), points)


def level_shape(
    note_id: str, flaws: Flaws, rng: np.random.Generator, t: Floats, length: float, *, rises: bool, falls: bool
) -> Floats:
    """DB against the note's level: a quick rise, what was asked or went wrong on the way, and a decay after the end."""
    shape = np.zeros_like(t)
    share = np.clip(t / max(length, 1e-3), 0.0, 1.0)
    shape += flaws.size("swell", 0.0, note_id) * (share - 0.5)
    shape -= flaws.size("fade", 0.0, note_id) * (share - 0.5)
    wander = flaws.size("wander", 0.0, note_id)
    if wander:
        steps = rng.normal(0.0, 1.0, int(t[-1] / 0.25) + 3)
        curve = np.interp(t / 0.25, np.arange(len(steps)), steps)
        curve -= np.median(curve)
        shape += wander * curve / max(1e-6, 1.4826 * float(np.median(np.abs(curve))))
    if rises:
        shape += 20.0 * np.log10(np.clip(t / RISE_S, 1e-2, 1.0))
    if falls:
        shape -= 60.0 * np.clip((t - length) / RELEASE_S, 0.0, 1.0)
    return shape


def slot_db(cents: Floats) -> Floats:
    """A note rings in the middle of its slot and loses strength to either side: about 3 dB at 40 cents."""
    return -3.0 * np.minimum(1.0, np.square(np.asarray(cents) / 40.0))
