"""The device check against recordings made here, whose delay, drift and noise are known."""

import numpy as np
import pytest
from scipy.signal import fftconvolve

from orexis.core.device import check_device
from orexis.core.sound import Sound
from orexis.errors import SoundError

RATE = 44_100
DUE = tuple(1.2 + 0.45 * i for i in range(8))


def click(t: np.ndarray) -> np.ndarray:
    fall = np.where(t < 0.002, 1.0, (0.0005 / 0.35) ** (np.clip(t - 0.002, 0, None) / 0.048))
    return 0.35 * np.clip(t / 0.002, 0, 1) * fall * np.sin(2 * np.pi * 1320.0 * t) * ((t >= 0) & (t < 0.05))


def recording(
    delay_s: float,
    *,
    drift_ppm: float = 0.0,
    noise_db: float = -60.0,
    gain: float = 0.3,
    echo: float = 0.0,
    lost: tuple[int, ...] = (),
) -> Sound:
    rng = np.random.default_rng(5)
    out = rng.normal(0.0, 10 ** (noise_db / 20), 6 * RATE)
    for i, due in enumerate(DUE):
        if i in lost:
            continue
        for strength, later in ((1.0, 0.0), (echo, 0.021)):
            at = due + delay_s + 1e-6 * drift_ppm * due + later
            first = int(at * RATE)
            out[first : first + 3000] += gain * strength * click(np.arange(first, first + 3000) / RATE - at)
    return Sound(np.clip(out, -1, 1).astype(np.float32), RATE)


@pytest.mark.parametrize("delay", [0.004, 0.045, 0.19, 0.35])
def test_delay_is_found_to_half_a_millisecond(delay: float) -> None:
    found = check_device(recording(delay), DUE)
    assert found.delay_s == pytest.approx(delay, abs=0.0005)
    assert found.spread_s is not None
    assert found.spread_s < 0.0005
    assert found.noise_db == pytest.approx(-60.0, abs=0.5)
    assert (found.heard, found.played) == (8, 8)


def test_drift_noise_echo_and_lost_clicks() -> None:
    assert check_device(recording(0.05, drift_ppm=120.0), DUE).drift_ppm == pytest.approx(120.0, abs=20.0)
    assert check_device(recording(0.05, noise_db=-40.0, gain=0.1), DUE).delay_s == pytest.approx(0.05, abs=0.002)
    assert check_device(recording(0.05, echo=1.3), DUE).delay_s == pytest.approx(0.05, abs=0.001)
    some = check_device(recording(0.05, lost=(1, 4)), DUE)
    assert (some.heard, some.delay_s) == (6, pytest.approx(0.05, abs=0.001))


def test_unheard_and_clipped_are_said() -> None:
    silent = check_device(recording(0.05, gain=0.0), DUE)
    assert silent.delay_s is None
    assert silent.reason is not None
    assert "not heard" in silent.reason
    assert check_device(recording(0.05, gain=6.0), DUE).clipped_share > 0.001


@pytest.mark.parametrize("clicks", [(1.0, 2.0), (0.01, 1.0, 2.0, 3.0), (1.0, 3.0, 2.0, 4.0), (1.0, 2.0, 3.0, 9.0)])
def test_clicks_that_cannot_be(clicks: tuple[float, ...]) -> None:
    with pytest.raises(SoundError):
        check_device(recording(0.05), clicks)


def test_a_room_that_rings_is_said_and_a_dry_one_as_well() -> None:
    dry = recording(0.045, noise_db=-80.0)
    assert "dry" in (check_device(dry, DUE).room or "")
    rng = np.random.default_rng(1)
    t = np.arange(RATE) / RATE
    tail = rng.normal(0.0, 1.0, len(t)) * 10.0 ** (-3.0 * t / 0.6)
    tail *= 0.4 / np.sqrt(np.sum(tail**2))
    wet = fftconvolve(dry.samples, tail)
    said = check_device(Sound((dry.samples + wet[: len(dry.samples)]).astype(np.float32), RATE), DUE).room
    assert said is not None
    assert "rings for 0." in said
