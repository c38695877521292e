"""The simulated player: flaws of exact size, truth that matches the sound, the same seed the same take."""

import numpy as np
import pytest

from orexis.core.player import PLAYER_RATE, manner_flaws, parse_flaw, parse_flaws, play
from orexis.errors import FlawError
from tests.conftest import INSTRUMENTS, exercise_of


def test_the_same_seed_plays_the_same() -> None:
    exercise = exercise_of("tuba-eb", "two-partial-slur")
    one, two, other = play(exercise, seed=5), play(exercise, seed=5), play(exercise, seed=6)
    assert np.array_equal(one[0].samples, two[0].samples)
    assert one[1] == two[1]
    assert not np.array_equal(one[0].samples[:1000], other[0].samples[:1000])


@pytest.mark.parametrize("instrument", INSTRUMENTS)
def test_truth_lies_where_the_exercise_asks(instrument: str) -> None:
    exercise = exercise_of(instrument, "two-partial-slur")
    sound, truth = play(exercise, seed=1)
    assert sound.rate == PLAYER_RATE
    assert np.max(np.abs(sound.samples)) < 1.0
    for note, real in zip(exercise.notes, truth.notes, strict=True):
        assert real.onset_s == pytest.approx(exercise.start_s(note), abs=0.04)
        middle = truth.f0_hz[round((real.onset_s + real.release_s) / 2 / truth.hop_s)]
        expected = exercise.target_hz(note, a4=440.0) * 2.0 ** (note.instrument_cents / 1200.0)
        assert middle == pytest.approx(expected, rel=0.004)


def test_the_level_is_the_level_asked() -> None:
    sound, truth = play(exercise_of("tuba-eb", "long-low-tones"), flaws=parse_flaws(["level=-20db"]), seed=1)
    start, stop = (round(t * sound.rate) for t in (truth.notes[0].onset_s + 0.5, truth.notes[0].release_s - 0.5))
    assert 20.0 * np.log10(np.std(sound.samples[start:stop])) == pytest.approx(-20.0, abs=0.3)


def test_loud_is_brighter_than_soft() -> None:
    def centre(level: str) -> float:
        sound, _ = play(exercise_of("trombone-tenor", "long-low-tones"), flaws=parse_flaws([f"level={level}"]), seed=1)
        power = np.abs(np.fft.rfft(sound.samples[5 * sound.rate : 6 * sound.rate])) ** 2
        return float(np.sum(power * np.fft.rfftfreq(sound.rate, 1 / sound.rate)) / np.sum(power))

    assert centre("-14db") > 1.3 * centre("-36db")


@pytest.mark.parametrize(
    ("text", "note"),
    [("gap=60ms@n2", "n2"), ("entry=-60c/120ms", None), ("room=hall", None), ("caught=5/40ms@n3", "n3")],
)
def test_flaws_are_read(text: str, note: str | None) -> None:
    assert parse_flaw(text).note == note


@pytest.mark.parametrize(
    "text", ["", "gap", "gap=60", "gap=60c", "gap=5000ms", "growl=3", "room=cave", "entry=1e9c/1ms"]
)
def test_bad_flaws_are_refused(text: str) -> None:
    with pytest.raises(FlawError):
        parse_flaw(text)


@pytest.mark.parametrize("manner", ["clean", "human", "sagging", "sliding", "catching", "breathless"])
@pytest.mark.parametrize("exercise_type", ["long-low-tones", "two-partial-slur"])
def test_manners_are_drawn_by_seed(manner: str, exercise_type: str) -> None:
    exercise = exercise_of("tuba-eb", exercise_type)
    assert manner_flaws(manner, exercise, 3) == manner_flaws(manner, exercise, 3)
    assert manner == "clean" or manner_flaws(manner, exercise, 3) != manner_flaws(manner, exercise, 4)
