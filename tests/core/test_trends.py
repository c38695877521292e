"""Claims over weeks: true where something changed, silent where nothing did."""

from dataclasses import replace

import numpy as np
import pytest

from orexis.core.coach import REASONS
from orexis.core.exercises import EXERCISE_TYPES
from orexis.core.instruments import Register, instrument_named, register_of
from orexis.core.player import parse_flaws
from orexis.core.rehearsal import measured
from orexis.core.trends import TREND_MEASURES, DayPoint, Direction, compared, trend_of, values_of
from orexis.core.trends.spent import SessionTold, in_common
from tests.conftest import exercise_of

INSTRUMENT = instrument_named("tuba-eb")


def days(start: float, change: float, seed: int, *, weeks: int = 8, noise: float = 2.0) -> list[DayPoint]:
    """Five days a week, changing evenly, each off by so much."""
    rng = np.random.default_rng((seed, 9))
    found = [day for day in range(7 * weeks) if day % 7 < 5]
    out = []
    for day in found:
        middle = start + change * day / (7 * weeks) + float(rng.normal(0.0, noise))
        out.append(DayPoint(100 + day, middle - 2.0, middle, middle + 2.0, 12))
    return out


def said(change: float, count: int = 200) -> list[Direction | None]:
    claims = [trend_of("pitch", None, days(9.0, change, seed)).claim for seed in range(count)]
    return [claim.direction if claim else None for claim in claims]


def test_claims_are_true_and_a_change_that_matters_is_found() -> None:
    nothing, better, worse = said(0.0), said(-4.5), said(4.5)
    # From third to third an even change over eight weeks shows two thirds of itself: 4.5 cents show 3.
    assert sum(found in (Direction.BETTER, Direction.WORSE) for found in nothing) <= 0.05 * len(nothing)
    assert sum(found == Direction.BETTER for found in better) >= 0.8 * len(better)
    assert sum(found == Direction.WORSE for found in worse) >= 0.8 * len(worse)
    assert Direction.WORSE not in better
    assert Direction.STILL in nothing


def test_the_interval_holds_the_truth_in_nine_of_ten() -> None:
    held = 0
    for seed in range(200):
        first, last = days(9.0, 0.0, seed)[:13], days(5.0, 0.0, seed + 500)[:13]
        claim = compared("pitch", first, [replace(point, day=point.day + 60) for point in last])
        assert claim is not None
        held += claim.low <= -4.0 <= claim.high
    assert 0.8 <= held / 200 <= 0.97


def test_nothing_is_drawn_or_claimed_from_a_few_days() -> None:
    points = days(9.0, -9.0, 1)
    assert (trend_of("pitch", None, points[:4]).claim, trend_of("pitch", None, points[:4]).missing) == (None, 1)
    assert trend_of("pitch", None, points[:8]).claim is None
    assert trend_of("pitch", None, []).missing == 5
    assert compared("pitch", points[:2], points[-10:]) is None


@pytest.mark.parametrize(
    ("measure", "start", "change", "direction"),
    [
        ("hold", 8.0, 6.0, "better"),
        ("pitch_drift", 9.0, 9.0, "worse"),
        ("pitch_signed", -6.0, 9.0, "changed"),
        ("pitch_wobble", 4.0, 0.0, "still"),
    ],
)
def test_what_is_better_is_the_measures_own(measure: str, start: float, change: float, direction: str) -> None:
    claim = trend_of(measure, None, days(start, change, 3, noise=0.5)).claim
    assert claim is not None
    assert claim.direction == direction


def test_what_is_followed_is_found_in_the_log_by_a_reason_that_there_is() -> None:
    assert {item.reason for item in TREND_MEASURES.values() if item.reason} <= set(REASONS)


def test_values_of_a_take_by_register() -> None:
    exercise = EXERCISE_TYPES["one-octave-scale"].series(INSTRUMENT, {"start": "Eb2"}).exercises[0]
    low, high = exercise.notes[0].id, exercise.notes[-1].id
    flaws = parse_flaws([f"centre=-9c@{low}", f"centre=12c@{high}", f"gap=70ms@{exercise.notes[3].id}"])
    found = values_of(exercise, INSTRUMENT, measured(exercise, flaws))
    assert register_of(exercise.notes[0].pitch.midi, INSTRUMENT) == Register.LOW
    assert found["gap"] == pytest.approx(67.2)
    assert found["pitch"] == 0.0
    assert found["pitch_signed@low"] <= 0.0
    assert {"pitch_wobble@low", "pitch_drift@low", "attack", "response", "clipped_partial"} <= set(found)
    assert "trill" not in found
    long = exercise_of("tuba-eb", "long-low-tones")
    assert values_of(long, INSTRUMENT, measured(long, parse_flaws([])))["hold"] == pytest.approx(8.0)
    buzz = exercise_of("tuba-eb", "buzz-answer")
    assert "pitch@low" not in values_of(buzz, INSTRUMENT, measured(buzz, parse_flaws([])))


def test_sessions_that_ended_spent_are_laid_beside_the_others() -> None:
    spent = [SessionTold(True, 1200.0 + at, 2000.0, 300.0, 150.0) for at in range(3)]
    other = [SessionTold(False, 600.0, 1500.0, 100.0, 10.0) for _ in range(4)]
    found = {item.label: (item.spent, item.other) for item in in_common([*spent, *other])}
    assert found["Tone"] == (20.0, 10.0)
    assert found["Heavy work, of the load"] == (50.0, 10.0)
    assert found["Rest for each minute of tone"] == (0.7, 1.5)
    assert in_common([*spent[:2], *other]) == ()
    assert in_common(other) == ()
