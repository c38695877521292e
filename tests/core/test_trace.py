"""The tracker against sound whose truth is analytic or simulated."""

import numpy as np
import pytest
from numba import njit

from orexis.core.player import parse_flaws, play
from orexis.core.sound import Sound
from orexis.core.trace import Tracker, joined, track
from orexis.errors import SoundError
from tests.conftest import INSTRUMENTS, exercise_of


def tone(
    hz: float, *, rate: int = 44_100, seconds: float = 1.0, weights: tuple[float, ...] = (1, 0.6, 0.4, 0.2)
) -> Sound:
    t = np.arange(round(seconds * rate)) / rate
    usable = [(n, w) for n, w in enumerate(weights, 1) if n * hz < 0.45 * rate]
    wave = sum(w * np.sin(2 * np.pi * n * hz * t + n) for n, w in usable)
    return Sound((0.1 * wave).astype(np.float32), rate)


def middle_cents(sound: Sound, hz: float) -> np.ndarray:
    trace = track(sound).part(0.2, sound.duration_s - 0.2)
    return 1200.0 * np.log2(trace.f0_hz / hz)


@pytest.mark.parametrize("hz", [24.5, 38.89, 58.27, 87.31, 146.8, 233.1, 466.2, 932.3, 1396.9])
def test_steady_tones_within_half_a_cent(hz: float) -> None:
    cents = middle_cents(tone(hz), hz)
    assert np.all(np.isfinite(cents))
    assert np.max(np.abs(cents)) < 0.5


@pytest.mark.parametrize("rate", [8_000, 11_025, 22_050, 48_000, 96_000, 192_000])
def test_any_rate(rate: int) -> None:
    assert np.max(np.abs(middle_cents(tone(233.08, rate=rate), 233.08))) < 1.0


def test_a_pedal_without_its_fundamental() -> None:
    sound = tone(38.89, weights=(0, 0, 0.5, 1, 1, 0.8, 0.6, 0.5, 0.4, 0.3))
    assert np.max(np.abs(middle_cents(sound, 38.89))) < 2.0


def test_noise_and_silence_are_no_tone() -> None:
    rng = np.random.default_rng(3)
    noise = Sound((0.05 * rng.normal(size=88_200)).astype(np.float32), 44_100)
    silence = Sound(np.zeros(44_100, np.float32), 44_100)
    assert track(noise).voiced.mean() < 0.01
    assert not track(silence).voiced.any()


@pytest.mark.parametrize("instrument", INSTRUMENTS)
@pytest.mark.parametrize("exercise_type", ["long-low-tones", "two-partial-slur"])
def test_simulated_takes_are_followed(instrument: str, exercise_type: str) -> None:
    sound, truth = play(
        exercise_of(instrument, exercise_type), flaws=parse_flaws(["breath=-25db", "noise=-55db"]), seed=5
    )
    true = np.array([np.nan if f is None else f for f in truth.f0_hz])
    found = track(sound).f0_hz[: len(true)]
    both = np.isfinite(true) & np.isfinite(found)
    off = np.abs(1200.0 * np.log2(found[both] / true[both]))
    assert both.sum() / np.isfinite(true).sum() > 0.99
    assert np.mean(off < 10.0) > 0.975
    assert np.mean(off > 100.0) < 0.005
    assert np.median(off) < 0.5


def test_live_and_file_give_the_same_numbers() -> None:
    sound, _ = play(exercise_of("trombone-tenor", "two-partial-slur"), seed=2)
    rng, tracker, parts, at = np.random.default_rng(0), Tracker(sound.rate), [], 0
    while at < len(sound.samples):
        size = int(rng.integers(1, 3000))
        parts.append(tracker.push(sound.samples[at : at + size]))
        tracker.provisional()
        at += size
    live, whole = joined([*parts, tracker.finish()]), track(sound)
    for a, b in zip(live.columns, whole.columns, strict=True):
        assert np.array_equal(a, b, equal_nan=True)


def test_frames_come_in_time() -> None:
    sound = tone(116.5, seconds=3.0)
    tracker, block = Tracker(sound.rate), 882
    final = guessed = 0.0
    for at in range(0, 2 * sound.rate, block):
        frames = tracker.push(sound.samples[at : at + block])
        pushed = (at + block) / sound.rate
        final = float(frames.time_s[-1]) if len(frames) else final
        guesses = tracker.provisional()
        guessed = float(guesses.time_s[-1]) if len(guesses) else guessed
    assert pushed - final < 0.120
    assert pushed - guessed < 0.060


def test_memory_stays_bounded() -> None:
    tracker = Tracker(8_000)
    block = tone(110.0, rate=8_000, seconds=10.0).samples
    for _ in range(6):
        tracker.push(block)
    held = sum(len(line._state.buffer) for line in tracker._lines)
    assert held < 8_000
    assert len(tracker._reached.entered) < 50


def test_bad_samples_do_no_harm() -> None:
    sound = tone(220.0)
    samples = sound.samples.copy()
    samples[10_000:10_050] = np.nan
    samples += 0.3  # a direct current
    cents = 1200.0 * np.log2(track(Sound(samples, sound.rate)).part(0.5, 0.8).f0_hz / 220.0)
    assert np.max(np.abs(cents)) < 1.0


def test_very_short_and_empty_sound() -> None:
    assert len(track(Sound(np.zeros(0, np.float32), 44_100))) <= 1
    assert len(track(tone(220.0, seconds=0.1))) in (20, 21)


def test_rate_out_of_bounds() -> None:
    with pytest.raises(SoundError, match="8000 to 192000"):
        Tracker(4_000)


def test_the_compiled_transform_is_numpys() -> None:
    frames = np.random.default_rng(3).normal(size=(5, 540)).astype(np.float32)

    @njit
    def there_and_back(rows):  # type: ignore[no-untyped-def]
        return np.fft.irfft(np.fft.rfft(rows), 1080)

    assert np.allclose(there_and_back(frames), np.fft.irfft(np.fft.rfft(frames, axis=1), 1080, axis=1), atol=1e-6)
