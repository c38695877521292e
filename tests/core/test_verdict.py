"""Verdicts: each flaw is named first, by everyone who has it; limits are those of the standard."""

import itertools

import pytest

from orexis.core.coach import REASONS, STANDARDS, cue_for, limits_of
from orexis.errors import InputError
from tests.conftest import INSTRUMENTS, exercise_of, heard

LONG, SLUR = "long-low-tones", "two-partial-slur"
CASES = [
    (LONG, (), "clean", None),
    (LONG, ("centre=-20c",), "close", "pitch"),
    (LONG, ("centre=27c",), "not_yet", "pitch"),
    (LONG, ("sag=-30c",), "not_yet", "pitch-drift"),
    (LONG, ("hold=2.5s",), "not_yet", "hold"),
    (LONG, ("entry=-90c/350ms",), "not_yet", "attack"),
    (LONG, ("silent=1",), "not_heard", "silence"),
    (LONG, ("level=-64db", "noise=-56db"), "not_heard", "too-quiet"),
    (SLUR, (), "clean", None),
    (SLUR, ("gap=130ms@n2",), "not_yet", "gap"),
    (SLUR, ("late=300ms@n2",), "not_yet", "timing"),
    (SLUR, ("centre=40c@n1", "gap=130ms@n2"), "not_yet", "gap"),
]


@pytest.mark.parametrize("instrument", INSTRUMENTS)
@pytest.mark.parametrize(("exercise_type", "flaws", "outcome", "reason"), CASES)
def test_the_first_thing_to_work_on(
    instrument: str, exercise_type: str, flaws: tuple[str, ...], outcome: str, reason: str | None
) -> None:
    verdict = heard(exercise_of(instrument, exercise_type), *flaws, seed=3)[0].verdict
    assert verdict is not None
    assert (verdict.outcome, verdict.reason) == (outcome, reason)
    assert (verdict.cue is None) == (outcome == "clean")


def test_a_wrong_partial_is_never_nearly() -> None:
    verdict = heard(exercise_of("tuba-eb", SLUR), "miss=4@n3")[0].verdict
    assert verdict is not None
    assert (verdict.outcome, verdict.reason, verdict.note) == ("not_yet", "wrong-partial", "n3")


def test_the_stage_decides() -> None:
    outcomes = {}
    for standard in STANDARDS:
        verdict = heard(exercise_of("tuba-eb", LONG), "centre=-12c", standard=standard)[0].verdict
        assert verdict is not None
        outcomes[standard] = verdict.outcome
    assert outcomes == {"beginner": "clean", "developing": "clean", "advanced": "close", "professional": "not_yet"}


def test_direction_chooses_the_cue() -> None:
    high = heard(exercise_of("tuba-eb", LONG), "centre=27c")[0].verdict
    low = heard(exercise_of("tuba-eb", LONG), "centre=-27c")[0].verdict
    assert high is not None
    assert low is not None
    assert high.cause != low.cause


def test_another_cue_after_two_misses() -> None:
    for reason in REASONS.values():
        for side in reason.cues:
            assert cue_for(reason.id, side, 0) == cue_for(reason.id, side, 1) != cue_for(reason.id, side, 2)


def test_limits_tighten_from_stage_to_stage() -> None:
    rows = [limits_of(standard) for standard in STANDARDS]
    for before, after in itertools.pairwise(rows):
        rising = {"tone_match", "tone_to_noise_db", "dynamic_step_db", "length_share"}
        names = set(before) - rising
        assert all(after[name] < before[name] for name in names)
        assert all(after[name] > before[name] for name in rising)
    with pytest.raises(InputError, match="developing"):
        limits_of("wizard")
