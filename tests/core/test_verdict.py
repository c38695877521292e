"""Verdicts: each flaw is named first, by everyone who has it; limits are those of the stage."""

import itertools

import pytest

from orexis.core.coach import REASONS, STAGES, cue_for, limits_of
from orexis.errors import InputError
from tests.conftest import HORNS, figure_of, heard

LONG, SLUR = "long-low-tones", "two-partial-slur"
CASES = [
    (LONG, (), "held", None),
    (LONG, ("centre=-20c",), "nearly", "centre"),
    (LONG, ("centre=27c",), "not yet", "centre"),
    (LONG, ("sag=-30c",), "not yet", "sag"),
    (LONG, ("hold=2.5s",), "not yet", "hold"),
    (LONG, ("entry=-90c/350ms",), "not yet", "entry"),
    (LONG, ("silent=1",), "not heard", "silence"),
    (LONG, ("level=-64db", "noise=-56db"), "not heard", "too-quiet"),
    (SLUR, (), "held", None),
    (SLUR, ("gap=130ms@n2",), "not yet", "gap"),
    (SLUR, ("late=300ms@n2",), "not yet", "timing"),
    (SLUR, ("centre=40c@n1", "gap=130ms@n2"), "not yet", "gap"),
]


@pytest.mark.parametrize("horn", HORNS)
@pytest.mark.parametrize(("family", "flaws", "outcome", "reason"), CASES)
def test_the_first_thing_to_work_on(
    horn: str, family: str, flaws: tuple[str, ...], outcome: str, reason: str | None
) -> None:
    verdict = heard(figure_of(horn, family), *flaws, seed=3)[0].verdict
    assert verdict is not None
    assert (verdict.outcome, verdict.reason) == (outcome, reason)
    assert (verdict.cue is None) == (outcome == "held")


def test_a_wrong_partial_is_never_nearly() -> None:
    verdict = heard(figure_of("tuba-eb", SLUR), "miss=4@n3")[0].verdict
    assert verdict is not None
    assert (verdict.outcome, verdict.reason, verdict.note) == ("not yet", "wrong-partial", "n3")


def test_the_stage_decides() -> None:
    outcomes = {}
    for stage in STAGES:
        verdict = heard(figure_of("tuba-eb", LONG), "centre=-12c", stage=stage)[0].verdict
        assert verdict is not None
        outcomes[stage] = verdict.outcome
    assert outcomes == {"starting": "held", "growing": "held", "secure": "nearly", "concert": "not yet"}


def test_direction_chooses_the_cue() -> None:
    high = heard(figure_of("tuba-eb", LONG), "centre=27c")[0].verdict
    low = heard(figure_of("tuba-eb", LONG), "centre=-27c")[0].verdict
    assert high is not None
    assert low is not None
    assert high.cause != low.cause


def test_another_cue_after_two_misses() -> None:
    for reason in REASONS.values():
        for side in reason.cues:
            assert cue_for(reason.id, side, 0) == cue_for(reason.id, side, 1) != cue_for(reason.id, side, 2)


def test_limits_tighten_from_stage_to_stage() -> None:
    rows = [limits_of(stage) for stage in STAGES]
    for before, after in itertools.pairwise(rows):
        rising = {"sound_match", "tone_db", "dynamic_step_db"}
        names = set(before) - rising
        assert all(after[name] < before[name] for name in names)
        assert all(after[name] > before[name] for name in rising)
    with pytest.raises(InputError, match="growing"):
        limits_of("wizard")
