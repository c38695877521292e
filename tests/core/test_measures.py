"""Measures against the truth of the simulated player. Sizes are those of the command line's flaws."""

import numpy as np
import pytest

from orexis.core.coach import limits_of
from orexis.core.instruments import instrument_named
from orexis.core.listen import JudgingTerms, ListeningTask, listen
from orexis.core.measures.slope import theil_sen
from orexis.core.player import parse_flaws, play
from orexis.core.sound import Sound
from tests.conftest import INSTRUMENTS, exercise_of, heard, some

LONG, SLUR = "long-low-tones", "two-partial-slur"


@pytest.mark.parametrize("instrument", some(INSTRUMENTS, 2))
@pytest.mark.parametrize("size", [-22.0, -6.0, 14.0])
def test_centre(instrument: str, size: float) -> None:
    result, truth, _ = heard(exercise_of(instrument, LONG), f"centre={size}c")
    assert result.measures.notes[0].judged_error_cents == pytest.approx(truth.notes[0].pitch_error_cents, abs=0.7)


@pytest.mark.parametrize("instrument", some(INSTRUMENTS, 2))
@pytest.mark.parametrize("size", [-30.0, -8.0, 18.0])
def test_sag(instrument: str, size: float) -> None:
    note = heard(exercise_of(instrument, LONG), f"sag={size}c")[0].measures.notes[0]
    assert note.pitch_drift_cents == pytest.approx(size, abs=1.5)
    assert abs(note.attack_error_cents or 0.0) < 6.0  # a long even sag is no entry
    assert note.pitch_wobble_cents < 3.0


@pytest.mark.parametrize("instrument", some(INSTRUMENTS, 2))
@pytest.mark.parametrize(("size", "ms"), [(-60.0, 200), (45.0, 150), (-25.0, 120)])
def test_entry(instrument: str, size: float, ms: int) -> None:
    note = heard(exercise_of(instrument, LONG), f"entry={size}c/{ms}ms")[0].measures.notes[0]
    assert note.attack_error_cents == pytest.approx(size, abs=max(8.0, 0.2 * abs(size)))
    assert 0 < note.attack_settle_ms < ms + 40
    assert abs(note.judged_error_cents) < 3.0


@pytest.mark.parametrize("instrument", some(INSTRUMENTS, 2))
def test_clean_notes_have_no_entry(instrument: str) -> None:
    for seed in range(4):
        note = heard(exercise_of(instrument, LONG), seed=seed)[0].measures.notes[0]
        assert abs(note.attack_error_cents) < 10.0


@pytest.mark.parametrize("instrument", some(INSTRUMENTS, 2))
def test_fall_off_and_hold(instrument: str) -> None:
    note = heard(exercise_of(instrument, LONG), "fall-off=-40c", "hold=4s")[0].measures.notes[0]
    assert note.fall_off_cents == pytest.approx(-40.0, abs=6.0)
    assert note.hold_s == pytest.approx(4.0, abs=0.05)


def test_spread_is_that_of_a_wobble() -> None:
    # 1.4826 * MAD of a sine of amplitude A is 1.0484 A.
    note = heard(exercise_of("trombone-tenor", LONG), "wobble=12c/3hz")[0].measures.notes[0]
    assert note.pitch_wobble_cents == pytest.approx(12.0 * 1.0484, abs=1.2)


@pytest.mark.parametrize("instrument", some(INSTRUMENTS, 2))
@pytest.mark.parametrize("size", [20, 60, 150])
def test_gap(instrument: str, size: int) -> None:
    for move in heard(exercise_of(instrument, SLUR), f"gap={size}ms")[0].measures.moves:
        assert move.gap_ms == pytest.approx(size, abs=8.0)


@pytest.mark.parametrize("instrument", some(INSTRUMENTS, 2))
def test_clean_slurs_have_neither_gap_nor_touch(instrument: str) -> None:
    for index in range(7):
        measures = heard(exercise_of(instrument, SLUR, index), seed=index)[0].measures
        assert [(move.gap_ms, move.clipped_partials) for move in measures.moves] == [(0.0, ()), (0.0, ())]
        assert [note.right for note in measures.notes] == [True] * 3


@pytest.mark.parametrize("instrument", some(INSTRUMENTS, 2))
@pytest.mark.parametrize("ms", [40, 80, 140])
def test_caught_partial(instrument: str, ms: int) -> None:
    exercise = exercise_of(instrument, SLUR)
    beyond = max(note.partial for note in exercise.notes) + 1
    moves = heard(exercise, f"caught={beyond}/{ms}ms@n2")[0].measures.moves
    assert [touch.partial for touch in moves[0].clipped_partials] == [beyond]
    assert moves[0].clipped_partials[0].ms == pytest.approx(ms, abs=15.0)
    assert moves[1].clipped_partials == ()


def test_a_kept_fingering_is_judged_less_the_instruments_share() -> None:
    note = heard(exercise_of("trumpet-bb", SLUR, 6))[0].measures.notes[0]
    assert note.pitch_error_cents == pytest.approx(55.0, abs=4.0)
    assert abs(note.judged_error_cents) < 4.0


def test_timing_spread_against_the_click() -> None:
    exercise = exercise_of("tuba-eb", SLUR)
    late = heard(exercise, "late=200ms@n2")[0].measures.exercise
    assert heard(exercise)[0].measures.exercise.timing_spread_ms < 20.0
    assert late.timing_spread_ms == pytest.approx(np.std([0, 200, 0], ddof=1), abs=25.0)
    assert late.timing_mean_ms is None
    assert "delay" in late.unmeasured["timing_mean_ms"]


def test_without_the_click_timing_says_why_not() -> None:
    exercise = heard(exercise_of("tuba-eb", SLUR), first_beat_s=None)[0].measures.exercise
    assert exercise.timing_spread_ms is None
    assert "click" in exercise.unmeasured["timing_spread_ms"]


def test_a_hall_hides_gaps_and_says_so() -> None:
    move = heard(exercise_of("tuba-eb", SLUR), "room=hall", "gap=15ms")[0].measures.moves[0]
    assert move.gap_ms is None
    assert "room" in move.unmeasured["gap_ms"]


def test_another_partial_is_a_row_of_its_own() -> None:
    rows = heard(exercise_of("trombone-tenor", SLUR), "miss=4@n3")[0].measures.notes
    assert [(row.target, row.right) for row in rows] == [("n1", True), ("n2", True), ("n3", False)]
    assert rows[2].partial == 4


def test_free_play_has_rows_without_targets() -> None:
    exercise = exercise_of("trombone-tenor", SLUR)
    sound, _ = play(exercise, seed=1)
    result = listen(
        sound, ListeningTask(instrument_named(exercise.instrument), None), JudgingTerms(limits_of("developing"))
    )
    assert result.verdict is None
    assert [(note.target, note.sounded) for note in result.measures.notes] == [
        (None, "h1"),
        (None, "h2"),
        (None, "h3"),
    ]


def test_silence_gives_missed_rows_with_reasons() -> None:
    rows = heard(exercise_of("horn-f-bb", SLUR), "silent=1")[0].measures.notes
    assert [row.sounded for row in rows] == [None] * 3
    assert rows[0].unmeasured["pitch_error_cents"] == "the note was not heard"


def test_clipping_is_seen() -> None:
    exercise = exercise_of("trumpet-bb", LONG)
    sound, _ = play(exercise, flaws=parse_flaws(["level=-3db"]), seed=1)
    loud = Sound(np.clip(sound.samples * 4.0, -1.0, 1.0), sound.rate)
    result = listen(
        loud,
        ListeningTask(instrument_named(exercise.instrument), exercise, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
    )
    assert result.measures.sound.clipped_share > 0.01
    assert result.verdict is not None
    assert (result.verdict.outcome, result.verdict.reason) == ("not_heard", "clipped")


def test_a_line_through_points_is_that_of_the_library() -> None:
    from scipy.stats import theilslopes

    rng = np.random.default_rng(4)
    for size in (2, 5, 40):
        places = np.round(rng.uniform(0.0, 9.0, size), 1)
        values = 3.0 * places + rng.standard_t(2, size)
        known = theilslopes(values, places)
        assert theil_sen(values, places) == pytest.approx((known.slope, known.intercept))
