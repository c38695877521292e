"""Sound lost on its way: told from pauses, from the opening of the microphone, from a gate, and never blamed on anyone."""

import numpy as np
import pytest

from orexis.core.coach import limits_of
from orexis.core.instruments import instrument_named
from orexis.core.listen import JudgingTerms, ListeningTask, ListenResult, listen
from orexis.core.measures.lost import lost_ms
from orexis.core.player import parse_flaws, play
from orexis.core.sound import Samples, Sound
from tests.conftest import exercise_of

EXERCISE = exercise_of("tuba-eb", "long-low-tones")


def heard(samples: Samples, rate: int, *, live: bool = True) -> ListenResult:
    return listen(
        Sound(samples, rate),
        ListeningTask(instrument_named("tuba-eb"), EXERCISE, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
        live=live,
    )


@pytest.fixture(scope="module")
def clean() -> Sound:
    sound, _ = play(EXERCISE, flaws=parse_flaws(["noise=-66db"]), seed=4)
    return sound


def with_hole(sound: Sound, at_s: float, packets: int) -> Samples:
    """Zeros for what came too late, and all that follows later by as much."""
    at, size = round(at_s * sound.rate), packets * 441
    return np.concatenate((sound.samples[:at], np.zeros(size, np.float32), sound.samples[at:]))


@pytest.mark.parametrize("packets", [1, 3, 12])
def test_a_hole_is_not_blamed_on_the_player(clean: Sound, packets: int) -> None:
    middle = EXERCISE.start_s(EXERCISE.notes[0]) + 1.5
    result = heard(with_hole(clean, middle, packets), clean.rate)
    assert result.measures.sound.lost_ms == pytest.approx(packets * 10.0)
    assert result.verdict is not None
    assert result.verdict.outcome == "clean" or result.verdict.reason == "lost"
    assert (packets < 12) or result.verdict.reason == "lost"


def test_what_a_hole_cannot_bring_about_is_judged() -> None:
    sound, _ = play(EXERCISE, flaws=parse_flaws(["noise=-66db", "centre=-30c"]), seed=4)
    middle = EXERCISE.start_s(EXERCISE.notes[0]) + 1.5
    small = heard(with_hole(sound, middle, 1), sound.rate).verdict
    assert small is not None
    assert (small.outcome, small.reason) == ("not_yet", "pitch")
    large = heard(with_hole(sound, middle, 12), sound.rate).verdict
    assert large is not None
    assert large.reason == "lost"


def test_a_whole_take_and_a_file_are_judged(clean: Sound) -> None:
    whole = heard(clean.samples, clean.rate)
    assert whole.measures.sound.lost_ms == 0.0
    assert whole.verdict is not None
    assert whole.verdict.outcome == "clean"
    middle = EXERCISE.start_s(EXERCISE.notes[0]) + 1.5
    # A file may hold digital silence for good reasons; it was not lost on the way here.
    assert heard(with_hole(clean, middle, 12), clean.rate, live=False).verdict.reason != "lost"  # type: ignore[union-attr]


def test_the_opening_of_the_microphone_the_count_in_and_a_gate_are_no_loss(clean: Sound) -> None:
    opening = np.concatenate((np.zeros(1323, np.float32), clean.samples))
    assert heard(opening, clean.rate).measures.sound.lost_ms == 0.0
    assert heard(with_hole(clean, 0.8, 3), clean.rate).measures.sound.lost_ms == 0.0
    gated = clean.samples.copy()
    gated[: round((EXERCISE.start_s(EXERCISE.notes[0]) - 0.1) * clean.rate)] = 0.0
    gated[:100] = 1e-5
    assert lost_ms(gated, clean.rate, 0.0, 8.0) == 0.0


def test_zeros_at_either_end_are_the_microphone_opening_and_the_take_ending() -> None:
    noise = np.random.default_rng(1).normal(0.0, 0.01, 48_000).astype(np.float32)
    for part in (slice(0, 3000), slice(45_000, 48_000)):
        silent = noise.copy()
        silent[part] = 0.0
        assert lost_ms(silent, 48_000, 0.0, 1.0) == 0.0
    inside = noise.copy()
    inside[20_000:22_400] = 0.0
    assert lost_ms(inside, 48_000, 0.0, 1.0) == pytest.approx(50.0, abs=0.1)
