"""The simulated player's sound against what was asked of it: harmonics, loudness, brightness, room, silence."""

import numpy as np
import pytest

from orexis.core.player.gestures import CONTROL_RATE
from orexis.core.player.harmonics import GRID, summed
from orexis.core.player.performance import Performance
from orexis.core.player.synthesis import Timbre, render, timbre_of
from orexis.core.sound import Floats, Sound

RATE = 44_100


def steady(
    hz: float, level_db: float, seconds: float = 2.0, *, breath_db: float = -120.0, pinched_db: float = 0.0
) -> Performance:
    size = round(seconds * CONTROL_RATE)
    tracks = (np.full(size, value) for value in (hz, level_db, breath_db, pinched_db))
    return Performance(*tracks, ())


def sounded(played: Performance, *, room: str = "dry", timbre: Timbre | None = None) -> Sound:
    rng = np.random.default_rng(4)
    return render(played, timbre or timbre_of(58.27), rate=RATE, room=room, noise_db=-120.0, rng=rng)


def harmonic_db(sound: Sound, hz: float, count: int) -> Floats:
    """Levels of the harmonics of a steady sound whose middle second is looked at."""
    middle = sound.samples[RATE // 2 : RATE // 2 + RATE].astype(np.float64)
    size = np.abs(np.fft.rfft(middle * np.hanning(len(middle)))) / (len(middle) / 4)
    at = [round(n * hz * len(middle) / RATE) for n in range(1, count + 1)]
    return np.array([20 * np.log10(size[i - 2 : i + 3].max() + 1e-12) for i in at])


def test_the_loop_sums_sines() -> None:
    phase = np.cumsum(np.linspace(0.02, 0.05, 1000))
    rng = np.random.default_rng(1)
    amplitude = rng.uniform(0.1, 1.0, (-(-1000 // GRID), 7)).astype(np.float32)
    held = np.repeat(amplitude, GRID, axis=0)[:1000]
    n = np.arange(1, 8)
    expected = np.sum(held * np.sin(n * phase[:, None] + 0.37 * n**2), axis=1)
    assert summed(phase, amplitude) == pytest.approx(expected, abs=1e-6)


@pytest.mark.parametrize("hz", [58.27, 116.54, 233.08, 466.16])
@pytest.mark.parametrize("level_db", [-40.0, -25.0, -12.0])
def test_it_is_as_loud_as_asked(hz: float, level_db: float) -> None:
    middle = sounded(steady(hz, level_db)).samples[RATE // 2 : RATE]
    assert 10 * np.log10(np.mean(middle.astype(np.float64) ** 2)) == pytest.approx(level_db, abs=0.3)


def test_loud_brass_is_bright_and_a_small_bell_holds_the_fundamental_back() -> None:
    soft, loud = (harmonic_db(sounded(steady(233.08, level)), 233.08, 8) for level in (-40.0, -10.0))
    assert (loud[7] - loud[0]) - (soft[7] - soft[0]) > 12.0
    large, small = (harmonic_db(sounded(steady(116.54, -20.0), timbre=timbre_of(f)), 116.54, 2) for f in (29.1, 116.5))
    assert large[0] - large[1] > small[0] - small[1]


def test_pinched_takes_from_the_bottom() -> None:
    open_, pinched = (
        harmonic_db(sounded(steady(233.08, -20.0, pinched_db=db), timbre=Timbre(220.0, 1.5)), 233.08, 12)
        for db in (0.0, 6.0)
    )
    tilt = (pinched[8] - pinched[0]) - (open_[8] - open_[0])
    assert tilt == pytest.approx(6.0 * np.log2(9.0), abs=0.5)


def test_silence_is_silent_and_breath_is_no_tone() -> None:
    nothing = steady(np.nan, -120.0)
    assert np.max(np.abs(sounded(nothing).samples)) < 1e-4
    breath = steady(np.nan, -120.0, breath_db=-40.0)
    samples = sounded(breath).samples.astype(np.float64)
    assert 10 * np.log10(np.mean(samples**2)) == pytest.approx(-40.0, abs=1.0)
    spectrum = np.abs(np.fft.rfft(samples[: RATE // 2])) ** 2
    flatness = np.exp(np.mean(np.log(spectrum[400:2500]))) / np.mean(spectrum[400:2500])
    assert flatness > 0.4  # noise; a tone would be near 0


def test_a_hall_rings_on() -> None:
    note, rest = steady(233.08, -15.0, 1.0), np.full(CONTROL_RATE, np.nan)
    low = np.full(CONTROL_RATE, -120.0)
    played = Performance(
        np.concatenate((note.f0_hz, rest)),
        np.concatenate((note.level_db, low)),
        np.concatenate((note.breath_db, low)),
        np.zeros(2 * CONTROL_RATE),
        (),
    )

    def tail_db(room: str) -> float:
        after = sounded(played, room=room).samples[round(1.2 * RATE) : round(1.3 * RATE)].astype(np.float64)
        return float(10 * np.log10(np.mean(after**2) + 1e-15))

    assert tail_db("dry") < -90.0
    assert tail_db("small") > -75.0
    assert tail_db("hall") > tail_db("small") + 10.0
