"""Where one thing ends and the next begins: values at a limit, a hair beyond it, and at the edge of nearly."""

from collections.abc import Callable
from dataclasses import replace

import numpy as np
import pytest

from orexis.core.approaches import Choice
from orexis.core.coach import (
    LIMITS,
    Endurance,
    Freshness,
    Limits,
    NextStep,
    Outcome,
    Situation,
    Verdict,
    attempts_of,
    decide,
    endurance_of,
    judge,
    limits_of,
    load_of,
    rest_after,
)
from orexis.core.exercises import Advance, Exercise, Form, Load
from orexis.core.instruments import instrument_named
from orexis.core.listen import JudgingTerms, ListeningTask, ListenResult, listen
from orexis.core.measures import ClippedPartial, EnduranceChange, Measures
from orexis.core.rehearsal import flawless as ideal
from orexis.core.sound import Sound
from tests.conftest import exercise_of

LONG, SLUR = exercise_of("tuba-eb", "long-low-tones"), exercise_of("tuba-eb", "two-partial-slur")
GROWING = limits_of("developing")


def judging(exercise: Exercise, *names: str) -> Exercise:
    return replace(exercise, judged=names)


def with_note(measures: Measures, index: int = 0, **values: object) -> Measures:
    notes = tuple(replace(n, **values) if i == index else n for i, n in enumerate(measures.notes))  # type: ignore[arg-type]
    return replace(measures, notes=notes)


def with_move(measures: Measures, **values: object) -> Measures:
    return replace(measures, moves=(replace(measures.moves[0], **values), *measures.moves[1:]))  # type: ignore[arg-type]


def with_whole(measures: Measures, **values: object) -> Measures:
    return replace(measures, exercise=replace(measures.exercise, **values))  # type: ignore[arg-type]


def verdict(exercise: Exercise, measures: Measures, limits: Limits = GROWING) -> Verdict:
    return judge(measures, exercise, limits)


Changed = Callable[[Measures, float], Measures]
MOST: list[tuple[str, str, Exercise, str, Changed]] = [
    ("pitch", "pitch_error_cents", LONG, "pitch", lambda m, v: with_note(m, judged_error_cents=v)),
    ("pitch", "pitch_error_cents", LONG, "pitch", lambda m, v: with_note(m, judged_error_cents=-v)),
    ("pitch_wobble", "pitch_wobble_cents", LONG, "pitch-wobble", lambda m, v: with_note(m, pitch_wobble_cents=v)),
    ("pitch_drift", "pitch_drift_cents", LONG, "pitch-drift", lambda m, v: with_note(m, pitch_drift_cents=-v)),
    ("fall_off", "fall_off_cents", LONG, "fall-off", lambda m, v: with_note(m, fall_off_cents=-v)),
    ("response", "response_ms", LONG, "response", lambda m, v: with_note(m, response_ms=v)),
    ("level_wobble", "level_wobble_db", LONG, "level-wobble", lambda m, v: with_note(m, level_wobble_db=v)),
    ("gap", "gap_ms", SLUR, "gap", lambda m, v: with_move(m, gap_ms=v)),
    (
        "clipped_partial",
        "clipped_partial_ms",
        SLUR,
        "clipped-partial",
        lambda m, v: with_move(m, clipped_partials=(ClippedPartial(5, 200.0, 1.0, v),)),
    ),
    ("bump", "bump_db", SLUR, "bump", lambda m, v: with_move(m, bump_db=v)),
    ("timing", "timing_spread_ms", SLUR, "timing", lambda m, v: with_whole(m, timing_spread_ms=v)),
]


@pytest.mark.parametrize(("name", "limit", "exercise", "reason", "change"), MOST)
def test_at_the_limit_it_is_held_beyond_it_nearly_and_half_beyond_it_not_yet(
    name: str, limit: str, exercise: Exercise, reason: str, change: Changed
) -> None:
    most, asked = GROWING[limit], judging(exercise, name)
    clean = ideal(asked)
    assert verdict(asked, change(clean, most)).outcome == Outcome.CLEAN
    beyond = verdict(asked, change(clean, most + 0.01))
    assert (beyond.outcome, beyond.reason) == (Outcome.CLOSE, reason)
    assert verdict(asked, change(clean, 1.5 * most - 0.01)).outcome == Outcome.CLOSE
    assert verdict(asked, change(clean, 1.5 * most)).outcome == Outcome.NOT_YET
    # Somebody's own limit takes the standard's place, and a check note is compared with itself, not judged.
    low, high = LIMITS[limit].lowest, LIMITS[limit].highest
    own = min(high, max(low, 2.0 * most))
    assert verdict(asked, change(clean, own), limits_of("developing", {limit: own})).outcome == Outcome.CLEAN
    assert verdict(judging(exercise, "endurance"), change(clean, 10.0 * most)).outcome == Outcome.CLEAN


def test_likeness_is_nearly_down_to_ten_under() -> None:
    asked = judging(LONG, "pitch_wobble", "tone_match")
    for match, outcome in ((65.0, "clean"), (64.9, "close"), (55.1, "close"), (55.0, "not_yet")):
        assert verdict(asked, with_note(ideal(asked), tone_match=match)).outcome == outcome
    across = judging(SLUR, "gap", "tone_match_across")
    for match, outcome in ((65.0, "clean"), (60.0, "close"), (54.9, "not_yet")):
        step = with_whole(ideal(across), tone_match_across=100.0, worst_step_match=match)
        assert verdict(across, step).outcome == outcome
        # The ends of a line may lie further apart than two neighbours: by fifteen points.
        ends = with_whole(ideal(across), tone_match_across=match - 15.0, worst_step_match=100.0)
        assert verdict(across, ends).outcome == outcome


def test_an_entry_fails_by_how_much_of_the_note_it_spoils() -> None:
    # As much as a straight slide of 40 cents over 180 ms: a fast deep scoop and a slow shallow one alike.
    asked, most = judging(LONG, "pitch_wobble", "attack"), 0.5 * 40.0 * 0.180
    for cents, area, held in (
        (-90.0, most, True), (-90.0, most + 0.01, False), (90.0, most + 0.01, False), (-20.0, most + 1.0, True), (-20.5, most + 1.0, False),
    ):  # fmt: skip
        found = verdict(asked, with_note(ideal(asked), attack_error_cents=cents, attack_error_cents_s=area))
        assert (found.outcome == Outcome.CLEAN) == held, (cents, area)
    slurred = judging(SLUR, "gap", "attack")
    assert (
        verdict(slurred, with_note(ideal(slurred), 1, attack_error_cents=-90.0, attack_error_cents_s=9.0)).outcome
        == Outcome.CLEAN
    )


def test_two_things_are_never_nearly_and_the_first_in_order_is_said() -> None:
    asked = judging(SLUR, "gap", "pitch")
    both = with_note(
        with_move(ideal(asked), gap_ms=GROWING["gap_ms"] + 1.0), judged_error_cents=GROWING["pitch_error_cents"] + 1.0
    )
    found = verdict(asked, both)
    assert (found.outcome, found.reason) == (Outcome.NOT_YET, "gap")
    assert [item.reason for item in found.findings] == ["gap", "pitch"]


@pytest.mark.parametrize(
    ("asked", "slope", "held"),
    [("grow", 3.0, True), ("grow", 0.5, True), ("grow", 0.49, False), ("ease", -0.5, True), ("ease", -0.49, False),
     ("even", 3.0, True), ("even", -3.01, False)],
)  # fmt: skip
def test_loudness_with_the_height(asked: str, slope: float, held: bool) -> None:
    exercise = judging(exercise_of("tuba-eb", "one-octave-scale", loudness=asked), "loudness_by_height")
    found = verdict(exercise, with_whole(ideal(exercise), loudness_by_height_db_octave=slope))
    assert (found.outcome == Outcome.CLEAN) == held


def test_a_swell_rises_by_more_than_the_loudness_may_wander() -> None:
    exercise = judging(exercise_of("tuba-eb", "shaped-tones", index=2), "shape")
    for rise, held in ((3.0, True), (2.9, False)):
        assert (verdict(exercise, with_note(ideal(exercise), level_rise_db=rise)).outcome == Outcome.CLEAN) == held


@pytest.mark.parametrize(("noise", "reason"), [(-31.9, "too-quiet"), (-32.0, None), (-40.0, None)])
def test_twelve_decibels_over_the_noise_are_enough(noise: float, reason: str | None) -> None:
    measures = ideal(LONG)
    assert verdict(LONG, replace(measures, sound=replace(measures.sound, noise_db=noise))).reason == reason


@pytest.mark.parametrize(("share", "reason"), [(0.002, None), (0.0021, "clipped")])
def test_a_few_cut_peaks_are_let_pass(share: float, reason: str | None) -> None:
    measures = ideal(LONG)
    assert verdict(LONG, replace(measures, sound=replace(measures.sound, clipped_share=share))).reason == reason


# -- what comes next -----------------------------------------------------------------------------------------------


def climbing(outcome: Outcome, index: int, **more: object) -> NextStep:
    given = {"failures": 1, "comfort": 3, "past_tries": 0, **more}
    return decide(Situation(outcome, Advance.CLIMB, index, 0, 9, **given)).step  # type: ignore[arg-type]


def test_the_edge_is_one_range_note_beyond_comfort() -> None:
    assert climbing(Outcome.CLEAN, 2) == climbing(Outcome.CLEAN, 3) == NextStep.NEXT
    assert climbing(Outcome.CLEAN, 4) == NextStep.END_BLOCK
    assert climbing(Outcome.CLEAN, 4, comfort=None) == NextStep.NEXT
    assert climbing(Outcome.NOT_YET, 3) == NextStep.BACK
    assert climbing(Outcome.NOT_YET, 4, past_tries=1) == NextStep.AGAIN
    assert climbing(Outcome.NOT_YET, 4, past_tries=2, failures=2) == NextStep.END_BLOCK
    assert climbing(Outcome.NOT_YET, 0) == NextStep.AGAIN  # never before the start


def test_range_notes_lost_and_failed_end_the_register() -> None:
    assert climbing(Outcome.NOT_YET, 2, failures=2) == NextStep.BACK
    assert climbing(Outcome.NOT_YET, 2, failures=3) == NextStep.END_REGISTER
    assert climbing(Outcome.NOT_YET, 2, lost_in_a_row=1) == NextStep.BACK
    assert climbing(Outcome.NOT_YET, 2, lost_in_a_row=2) == NextStep.END_REGISTER
    assert climbing(Outcome.CLOSE, 2) == NextStep.AGAIN
    assert climbing(Outcome.CLOSE, 2, failures=2) == NextStep.BACK
    assert climbing(Outcome.NOT_YET, 2, lost_note=Choice.ONE_MORE_TRY) == NextStep.AGAIN
    assert climbing(Outcome.NOT_YET, 2, lost_note=Choice.ONE_MORE_TRY, failures=2) == NextStep.END_REGISTER


def in_order(outcome: Outcome, **more: object) -> NextStep:
    return decide(Situation(outcome, Advance.IN_ORDER, 0, 0, 2, **more)).step  # type: ignore[arg-type]


def test_misses_of_a_exercise_that_is_no_range_note() -> None:
    assert in_order(Outcome.NOT_YET, failures=1, same_reason=1) == NextStep.AGAIN
    assert in_order(Outcome.NOT_YET, failures=2, same_reason=2) == NextStep.EASIER
    assert in_order(Outcome.NOT_YET, failures=2, same_reason=1) == NextStep.AGAIN
    assert in_order(Outcome.NOT_YET, failures=2, same_reason=1, high=True) == NextStep.EASIER
    assert in_order(Outcome.NOT_YET, failures=3, same_reason=2, form=Form.SLOWER) == NextStep.AGAIN
    assert in_order(Outcome.NOT_YET, failures=4) == NextStep.NEXT
    assert in_order(Outcome.CLOSE, failures=2, same_reason=1) == NextStep.NEXT
    assert in_order(Outcome.NOT_HEARD, not_heard=2) == NextStep.AGAIN
    assert in_order(Outcome.NOT_HEARD, not_heard=3) == NextStep.WAIT


def test_signs_of_tiring_begin_above_their_size() -> None:
    def state(**change: float) -> Freshness | None:
        given = {
            "response_ms": 0.0,
            "tone_to_noise_db": 0.0,
            "pitch_wobble_cents": 0.0,
            "pitch_error_cents": 0.0,
            **change,
        }
        return endurance_of(EnduranceChange(**given)).state

    assert (
        state(response_ms=40.0, tone_to_noise_db=-3.0, pitch_wobble_cents=4.0, pitch_error_cents=-10.0)
        == Freshness.FRESH
    )
    assert state(response_ms=40.1) == state(pitch_error_cents=-10.1) == Freshness.TIRING
    assert state(response_ms=80.0, pitch_wobble_cents=8.1) == Freshness.TIRING
    assert state(response_ms=80.1, pitch_wobble_cents=8.1) == Freshness.SPENT
    assert state(response_ms=-99.0, tone_to_noise_db=9.0, pitch_wobble_cents=-9.0) == Freshness.FRESH
    assert endurance_of(None) == Endurance(Freshness.FRESH)


def test_rest_is_within_a_quarter_of_a_minute_and_a_quarter_of_an_hour() -> None:
    assert [rest_after(s, Load.EASY) for s in (0.0, 15.0, 16.0, 900.0, 2000.0)] == [15.0, 15.0, 16.0, 900.0, 900.0]
    assert rest_after(100.0, Load.HIGH) == rest_after(100.0, Load.EASY, extra=True) == 150.0
    assert rest_after(100.0, Load.HIGH, extra=True) == 150.0


def test_a_failed_high_attempt_weighs_three_seconds_more() -> None:
    measures = ideal(LONG)
    hz = measures.notes[0].f0_hz or 0.0
    loads = [load_of(measures, middle_hz=hz, top_hz=top, failed=True) for top in (0.99 * hz, 1.01 * hz)]
    plain = load_of(measures, middle_hz=hz, top_hz=0.99 * hz)
    assert loads[0] == pytest.approx(plain + 3.0, abs=0.01)
    assert loads[1] == pytest.approx(plain, abs=0.01)  # under two thirds of the way up


# -- measured at the edges of their windows ------------------------------------------------------------------------


def sung(contour_hz: np.ndarray, rate: int = 22_050) -> Sound:
    """A plain harmonic tone along a contour of pitch, half a second of near silence about it."""
    phase = 2.0 * np.pi * np.cumsum(contour_hz) / rate
    tone = sum(np.sin(n * phase) / n**1.2 for n in range(1, 10))
    ramp = np.minimum(1.0, np.arange(len(phase)) / (0.02 * rate))
    tone *= 0.1 * ramp * ramp[::-1]
    quiet = np.random.default_rng(1).normal(0.0, 1e-4, rate // 2)
    return Sound(np.concatenate((quiet, tone, quiet)).astype(np.float32), rate)


def free(sound: Sound) -> ListenResult:
    """Heard without an exercise."""
    return listen(sound, ListeningTask(instrument_named("tuba-eb"), None), JudgingTerms(GROWING))


def contour(*parts: tuple[float, float], hz: float = 155.56, rate: int = 22_050) -> np.ndarray:
    """Parts of (seconds, cents), joined by moves of 20 ms."""
    cents = np.concatenate([np.full(round(s * rate), c) for s, c in parts])
    soft = np.convolve(
        np.pad(cents, rate // 100, mode="edge"), np.ones(rate // 50 + 1) / (rate // 50 + 1), mode="valid"
    )
    return np.asarray(hz * 2.0 ** (soft[: len(cents)] / 1200.0))


def test_the_end_is_the_last_hundred_and_fifty_milliseconds() -> None:
    late = free(sung(contour((2.0, 0.0), (0.16, -30.0)))).measures.notes[0]
    assert late.fall_off_cents == pytest.approx(-30.0, abs=6.0)
    early = free(sung(contour((1.0, -30.0), (1.5, 0.0)))).measures.notes[-1]
    assert early.fall_off_cents == pytest.approx(0.0, abs=3.0)
    brief = free(sung(contour((2.0, 0.0), (0.05, -30.0)))).measures.notes[0]
    assert abs(brief.fall_off_cents or 0.0) < 15.0  # a third of the window: its median stays


@pytest.mark.parametrize(("step", "beyond", "over"), [(500.0, 60.0, 60.0), (-500.0, -60.0, 60.0), (500.0, -60.0, 0.0)])
def test_overshoot_is_beyond_the_new_note_in_the_direction_of_the_move(step: float, beyond: float, over: float) -> None:
    moved = free(sung(contour((1.2, 0.0), (0.05, step + beyond), (1.2, step)))).measures.moves
    assert len(moved) == 1
    assert moved[0].overshoot_cents == pytest.approx(over, abs=20.0)


def test_a_siren_may_fall_short_by_a_semitone_and_no_more() -> None:
    siren = exercise_of("trumpet-bb", "siren")
    midis = [note.pitch.midi for note in siren.notes]
    asked = 100.0 * (max(midis) - min(midis))
    low = 200.0
    for short, outcome in ((99.0, "clean"), (101.0, "close"), (299.0, "close"), (301.0, "not_yet")):
        high = low * 2.0 ** ((asked - short) / 1200.0)
        said = verdict(siren, with_whole(ideal(siren), siren_low_hz=low, siren_high_hz=high))
        assert said.outcome == outcome, short


def test_a_pitch_is_proved_by_half_of_its_notes_and_only_in_their_own_slot() -> None:
    exercise = exercise_of("tuba-eb", "pedal-sets", notes="4", sets="1")

    def proved(wrong: int) -> bool:
        measures = ideal(exercise)
        for index in range(wrong):
            measures = with_note(measures, index, right=False)
        said = verdict(exercise, measures)
        tries = attempts_of(exercise, measures, said, day=1)
        assert len(tries) == 1
        return tries[0].clean

    assert [proved(wrong) for wrong in range(5)] == [True, True, True, False, False]


def test_of_two_notes_with_one_fault_the_worse_is_named() -> None:
    measures = with_note(with_note(ideal(SLUR), 0, judged_error_cents=20.0), 1, judged_error_cents=31.0)
    said = verdict(judging(SLUR, "pitch"), measures)
    assert (said.note, said.value) == ("n2", 31.0)
    other = with_note(with_note(ideal(SLUR), 0, judged_error_cents=-31.0), 1, judged_error_cents=20.0)
    assert verdict(judging(SLUR, "pitch"), other).note == "n1"
