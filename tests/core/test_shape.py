"""What one note does, on tracks and takes whose truth is known."""

from collections.abc import Callable

import numpy as np
import pytest

from orexis.core.measures import NoteMeasures
from orexis.core.measures.shape import RingingPlace, bend, modulation, ringing_place, shape_off_db
from tests.conftest import Heard, exercise_of

Hear = Callable[..., Heard]


def track(seconds: float = 3.0) -> np.ndarray:
    return np.arange(round(seconds / 0.005)) * 0.005


@pytest.mark.parametrize("rate", [4.8, 5.5, 7.0])
def test_vibrato_is_told_with_its_rate_and_size(rate: float) -> None:
    t = track()
    noise = np.random.default_rng(1).normal(0, 1.0, len(t))
    found = modulation(20.0 * np.sin(2 * np.pi * rate * t) + 5.0 * t + noise)
    assert found.vibrato_hz == pytest.approx(rate, abs=0.2)
    assert found.vibrato_cents == pytest.approx(20.0, rel=0.1)
    assert found.pitch_wobble_depth_cents is None
    assert np.std(found.calm - np.polyval(np.polyfit(t, found.calm, 1), t)) < 2.5


def test_slow_or_irregular_movement_is_wobble() -> None:
    t = track()
    slow = modulation(12.0 * np.sin(2 * np.pi * 2.5 * t))
    assert (slow.vibrato_hz, slow.pitch_wobble_rate_hz) == (None, pytest.approx(2.5, abs=0.3))
    rng = np.random.default_rng(2)
    uneven = modulation(np.convolve(rng.normal(0, 60.0, len(t)), np.ones(12) / 12, "same"))
    assert uneven.vibrato_hz is None
    assert uneven.pitch_wobble_depth_cents is not None


def test_a_still_note_and_a_short_one() -> None:
    assert modulation(np.zeros(400)).pitch_wobble_depth_cents is None
    assert not modulation(np.zeros(40)).measured


@pytest.mark.parametrize(
    ("shape", "level"),
    [("swell", np.linspace(-30, -20, 300)), ("fade", np.linspace(-20, -30, 300)), ("steady", np.full(300, -22.0))],
)
def test_the_shape_that_was_played_fits_best(shape: str, level: np.ndarray) -> None:
    level = level + np.random.default_rng(0).normal(0, 0.2, 300)
    off = {name: shape_off_db(level, name) for name in ("steady", "swell", "fade", "swell-and-fade")}
    assert off[shape] < 0.4
    opposite = {"swell": "fade", "fade": "swell", "steady": "steady"}[shape]
    assert shape == "steady" or off[opposite] > 2.0


def test_a_bend_and_its_way_back() -> None:
    t = track(4.0)
    cents = -95.0 * np.clip(np.minimum(t - 1.0, 3.0 - t) / 0.4, 0, 1) + 6.0 * (t > 3.2)
    found = bend(cents)
    assert found is not None
    assert found.down_cents == pytest.approx(95.0, abs=2.0)
    assert found.back_cents == pytest.approx(6.0, abs=1.0)
    assert bend(np.zeros(600)) is None


@pytest.mark.parametrize("middle", [-15.0, 4.0])
def test_the_ring_is_found_where_the_note_is_strongest(middle: float) -> None:
    cents = 30.0 * np.sin(np.linspace(0, 6 * np.pi, 1200))
    level = -20.0 - 3.0 * ((cents - middle) / 40.0) ** 2 + np.random.default_rng(3).normal(0, 0.2, 1200)
    assert ringing_place(cents, level, level + 40.0).cents == pytest.approx(middle, abs=3.0)
    assert ringing_place(np.zeros(1200), level, level) == RingingPlace(None)


def note_of(
    hear: Hear, *flaws: str, instrument: str = "tuba-eb", exercise_type: str = "long-low-tones", index: int = 0
) -> NoteMeasures:
    result, _, _ = hear(exercise_of(instrument, exercise_type), *flaws)
    return result.measures.notes[index]


@pytest.mark.parametrize("instrument", ["trumpet-bb", "tuba-eb"])
@pytest.mark.parametrize("ms", [60, 120, 250])
def test_response_is_the_breath_heard_before_the_tone(hear: Hear, instrument: str, ms: int) -> None:
    assert note_of(hear, f"response={ms}ms", instrument=instrument).response_ms == pytest.approx(ms, abs=12)


def test_a_loud_room_hides_the_breath(hear: Hear) -> None:
    note = note_of(hear, "response=120ms", "noise=-45db")
    assert note.response_ms is None
    assert note.unmeasured["response_ms"] == "the room is louder than the breath"


def test_the_breath_before_a_note(hear: Hear) -> None:
    note = note_of(hear, "inhale=-40db/700ms")
    assert note.inhalation_ms == pytest.approx(700, abs=40)
    assert note.inhalation_db == pytest.approx(-40.0, abs=2.0)


@pytest.mark.parametrize(("flaw", "rise", "fall"), [("swell=9db", 9.0, 0.0), ("fade=9db", 0.0, 9.0)])
def test_loudness_along_a_note(hear: Hear, flaw: str, rise: float, fall: float) -> None:
    note = note_of(hear, flaw)
    assert note.level_rise_db == pytest.approx(rise, abs=0.6)
    assert note.level_fall_db == pytest.approx(fall, abs=0.6)


def test_level_wander(hear: Hear) -> None:
    assert note_of(hear, "wander=2.5db").level_wobble_db == pytest.approx(2.5, abs=0.4)
    steady = note_of(hear).level_wobble_db
    assert steady is not None
    assert steady < 0.5


def test_vibrato_is_no_entry_and_no_spread(hear: Hear) -> None:
    note = note_of(hear, "vibrato=40c/6hz", instrument="trumpet-bb")
    assert note.vibrato_cents == pytest.approx(40.0, rel=0.15)
    assert note.pitch_wobble_cents is not None
    assert note.pitch_wobble_cents < 4.0
    assert note.attack_error_cents == pytest.approx(0.0, abs=10.0)


def test_splits_and_cracks_are_counted(hear: Hear) -> None:
    assert note_of(hear, "split=4/60ms").splits == 1
    assert note_of(hear, "split=4/120ms").splits == 1
    broken = note_of(hear, "crack=4/60ms")
    assert (broken.splits, broken.cracks) == (0, 1)
    clean = note_of(hear)
    assert (clean.splits, clean.cracks) == (0, 0)


def test_bend_and_ring_of_a_take(hear: Hear) -> None:
    note = note_of(hear, "bend=-100c")
    assert note.bend_down_cents == pytest.approx(100.0, abs=5.0)
    assert note.bend_back_cents == pytest.approx(0.0, abs=4.0)
    led = note_of(hear, "bend=-40c", "ring=-12c", "centre=0c")
    assert led.ring_cents == pytest.approx(-12.0, abs=4.0)
