"""Ladders, endurance, load, decisions, approaches: rules over values, each with the day it should happen on."""

import re

import pytest

from orexis.core.approaches import DEFAULTS, QUESTIONS, Ask, Choice, checked_approaches
from orexis.core.coach import (
    JUDGED,
    REASONS,
    Attempt,
    RangeNote,
    cue_for,
    endurance_of,
    limits_of,
    lopsided,
    range_notes,
    ranges_over,
    rest_after,
    start_tomorrow,
    working_range,
)
from orexis.core.coach.load import weight
from orexis.core.exercises import EXERCISE_TYPES, SetPlayed, sets_today
from orexis.core.measures import EnduranceChange, day_drift
from orexis.errors import InputError


def held(midi: int, *days: int, **more: object) -> list[Attempt]:
    return [Attempt(midi, day, True, 4.0, **more) for day in days]  # type: ignore[arg-type]


def failed(midi: int, *days: int, sounded: float = 1.0) -> list[Attempt]:
    return [Attempt(midi, day, False, sounded) for day in days]


def state(*attempts: list[Attempt], midi: int = 60) -> RangeNote:
    return range_notes([item for group in attempts for item in group])[midi]


@pytest.mark.parametrize(
    ("attempts", "expected"),
    [
        ([held(60, 1)], "reaching"),
        ([held(60, 1, 2)], "reaching"),
        ([held(60, 1, 1, 1)], "reaching"),  # three times on one day is one day
        ([held(60, 1, 2, 3)], "in_range"),
        ([held(60, 1, 11, 21)], "in_range"),
        ([held(60, 1, 12, 22)], "reaching"),  # not within 21 days
        ([failed(60, 1)], "touched"),
        ([failed(60, 1, sounded=0.3)], "none"),
        ([held(60, 1, 2, 3), failed(60, 4)], "in_range"),
        ([held(60, 1, 2, 3), failed(60, 4, 5)], "reaching"),
        ([held(60, 1, 2, 3), failed(60, 4, 4, 4)], "in_range"),
        ([held(60, 1, 2, 3), failed(60, 4), held(60, 5), failed(60, 6)], "in_range"),
        ([held(60, 1, 2, 3), failed(60, 4, 5), held(60, 6, 7)], "reaching"),
        ([held(60, 1, 2, 3), failed(60, 4, 5), held(60, 6, 7, 8)], "in_range"),
    ],
)
def test_a_range_note_is_in_range_reached_or_touched(attempts: list[list[Attempt]], expected: str) -> None:
    assert state(*attempts).state == expected


def test_the_third_day_makes_it_ones_own_and_the_second_failing_day_takes_it() -> None:
    tries = held(60, 10, 12, 15)
    assert [state(tries[:count]).state for count in (1, 2, 3)] == ["reaching", "reaching", "in_range"]
    assert state(tries).in_range_since == 15
    assert state(tries, failed(60, 17, 18)).in_range_since is None


def test_a_line_refreshes_the_notes_it_went_through() -> None:
    line = [*held(62, 5, connected=True), *held(65, 5, connected=True)]
    found = range_notes(held(62, 1, 2, 3) + failed(62, 4) + line + failed(62, 6))
    assert found[62].state == "in_range"
    assert found[62].joined
    # By itself it failed on two days with no hold of its own between: along a line keeps nothing there.
    assert (found[62].alone.state, found[62].in_line.state) == ("reaching", "reaching")


def test_the_range_over_weeks_is_what_it_was_then() -> None:
    tries = held(60, 1, 2, 3) + held(62, 10, 11, 12) + failed(62, 20, 21)
    found = ranges_over(tries, [2, 3, 11, 12, 20, 21])
    assert [(reach.own.low, reach.own.high) for reach in found] == [
        (None, None), (60, 60), (60, 60), (60, 62), (60, 62), (60, 60),
    ]  # fmt: skip
    assert found[-1].own == working_range(range_notes(tries))
    line = ranges_over(tries + held(64, 13, 14, 15, connected=True), [12, 15])
    assert [(reach.alone.high, reach.joined.high) for reach in line] == [(62, None), (62, 64)]


def test_what_all_easy_notes_did_is_the_instruments_warmth() -> None:
    assert day_drift([1.0, 0.0, 2.0, 40.0], [9.0, 8.0, 10.0]) == pytest.approx(7.5)
    assert day_drift([1.0, 0.0], [9.0, 8.0, 10.0]) == 0.0


def test_working_range_start_and_lopsidedness() -> None:
    found = range_notes([item for midi in range(58, 68) for item in held(midi, 1, 2, 3)])
    own = working_range(found)
    assert (own.low, own.high) == (58, 67)
    assert start_tomorrow(found, up=True, otherwise=60) == 64
    assert start_tomorrow(found, up=False, otherwise=60) == 60
    assert lopsided(found, 60) is None
    assert lopsided(range_notes([i for m in range(58, 70) for i in held(m, 1, 2, 3)]), 60) == "high"
    assert start_tomorrow({}, up=True, otherwise=60) == 60


def change(response: float = 0, tone: float = 0, spread: float = 0, centre: float = 0) -> EnduranceChange:
    return EnduranceChange(response, tone, spread, centre)


@pytest.mark.parametrize(
    ("found", "expected"),
    [
        (change(), "fresh"),
        (change(response=39), "fresh"),
        (change(response=41), "tiring"),
        (change(tone=-3.5), "tiring"),
        (change(tone=+9), "fresh"),  # more tone is no tiring
        (change(spread=4.5), "tiring"),
        (change(centre=-11), "tiring"),
        (change(response=81), "tiring"),  # one sign, however large
        (change(response=81, spread=5), "tiring"),
        (change(response=81, spread=8.5), "spent"),
        (EnduranceChange(None, None, None, None), None),
        (EnduranceChange(None, None, 9.0, 21.0), "spent"),
    ],
)
def test_endurance(found: EnduranceChange, expected: str | None) -> None:
    assert endurance_of(found).state == expected


def test_the_first_check_is_fresh() -> None:
    assert endurance_of(None).state == "fresh"


@pytest.mark.parametrize(
    ("hz", "level", "expected"), [(440, -23, 1.0), (880, -23, 2.0), (220, -23, 0.5), (440, -11, 2.0), (3520, -23, 4.0)]
)
def test_load_is_height_times_loudness(hz: float, level: float, expected: float) -> None:
    assert weight(hz, 440.0, level) == pytest.approx(expected)


def pedal_weeks(weeks: int, days: int = 3, there: int = 20) -> list[SetPlayed]:
    """So many weeks with sets on so many days each, the first on the Monday of ordinal day 7001."""
    return [SetPlayed(7001 + 7 * week + day, there, 20) for week in range(weeks) for day in range(days)]


@pytest.mark.parametrize(("weeks", "sets"), [(0, 2), (3, 2), (4, 2), (5, 2), (6, 3), (8, 4), (10, 5), (30, 5)])
def test_pedal_sets_grow_with_weeks_that_were_played(weeks: int, sets: int) -> None:
    assert sets_today(pedal_weeks(weeks), 7001 + 7 * weeks).sets == sets


def test_pedal_sets_do_not_grow_by_waiting_or_failing() -> None:
    # One failed set ten weeks ago; two days a week for ten weeks; sets in which too few notes were there.
    assert sets_today([SetPlayed(7001, 4, 20)], 7001 + 70).sets == 2
    assert sets_today(pedal_weeks(10, days=2), 7001 + 70).sets == 2
    assert sets_today(pedal_weeks(10, there=14), 7001 + 70).sets == 2
    assert sets_today(pedal_weeks(10, there=15), 7001 + 70).sets == 5


def test_a_week_without_pedals_takes_a_set_off_and_three_start_again() -> None:
    played = pedal_weeks(10)
    for pause, sets in ((0, 5), (1, 4), (2, 3), (3, 2)):
        assert sets_today(played, 7001 + 7 * (10 + pause)).sets == sets
    again = [*played, *(SetPlayed(item.day + 91, 20, 20) for item in pedal_weeks(5))]
    assert sets_today(again, 7001 + 91 + 35).sets == 2


def test_braces_and_return_hold_pedal_sets_down() -> None:
    played = pedal_weeks(20)
    braces = sets_today(played, 7141, braces=True)
    assert (braces.sets, braces.notes) == (2, 12)
    back = sets_today(played, 7141, braces=True, returning=True)
    assert (back.sets, back.notes) == (1, 8)


def test_rest_lengths() -> None:
    assert rest_after(120.0, "medium") == 120.0
    assert rest_after(120.0, "high") == 180.0
    assert rest_after(120.0, "easy", extra=True) == 180.0


def test_approaches_have_a_reason_and_choose_cues() -> None:
    assert checked_approaches({}) == DEFAULTS
    for question in QUESTIONS:
        assert len(question.choices) >= 2
        assert question.why
        assert question.others
    jaw = cue_for("gap", "", 0, DEFAULTS | {Ask.SLURS_LED_BY: Choice.JAW_AND_LIP})
    assert "jaw" in jaw.cue
    assert "jaw" not in cue_for("gap", "", 0).cue
    silent = DEFAULTS | {Ask.BODY: Choice.SOUND_ONLY}
    for reason in REASONS.values():
        for side in reason.cues:
            for misses in (0, 2, 4):
                assert not cue_for(reason.id, side, misses, silent).body, reason.id
    with pytest.raises(InputError, match="no choice"):
        checked_approaches({"pressure": "lots"})
    with pytest.raises(InputError, match="no approach"):
        checked_approaches({"weather": "grow"})


def test_every_approach_changes_something() -> None:
    """Each question is answered in a cue, an exercise type's parameters, a step, a routine or a judgement."""
    pairs = [pair for reason in REASONS.values() for pairs in reason.cues.values() for pair in pairs]
    asked = {pair.when[0] for pair in pairs if pair.when}
    asked |= {bound.ask for exercise_type in EXERCISE_TYPES.values() for bound in exercise_type.bound}
    asked |= {exercise_type.stands_in.ask for exercise_type in EXERCISE_TYPES.values() if exercise_type.stands_in}
    asked |= {reason.allowed_by[0] for reason in REASONS.values() if reason.allowed_by}
    assert asked | {Ask.AFTER_A_LOST_NOTE, Ask.BODY, Ask.DAY_BEGINS} == {question.id for question in QUESTIONS}
    for pair in pairs:
        if pair.when:
            question = next(q for q in QUESTIONS if q.id == pair.when[0])
            assert pair.when[1] in [option.id for option in question.choices]


def test_what_exercise_types_judge_is_declared() -> None:
    declared = {judged.measure for judged in JUDGED}
    for exercise_type in EXERCISE_TYPES.values():
        assert set(exercise_type.judged) <= declared, exercise_type.id


def test_sentences_hold_only_what_is_filled_in() -> None:
    place = re.compile(
        r"\{(note|at|before|most|least|slowest|value|limit)(:(side|s|1|signed|semitones)|\?[^|}]+\|[^}]+)?\}"
    )
    for reason in REASONS.values():
        assert not re.search(r"[{}]", place.sub("", reason.says)), reason.id
        assert reason.label
        for pairs in reason.cues.values():
            assert len({pair.cue for pair in pairs if pair.when is None}) >= 2, reason.id


def test_own_limits_take_the_stages_place() -> None:
    assert limits_of("developing", {"pitch_error_cents": 8.0})["pitch_error_cents"] == 8.0
    with pytest.raises(InputError, match="no limit"):
        limits_of("developing", {"center": 8.0})
    with pytest.raises(InputError, match="choose"):
        limits_of("developing", {"gap_ms": -1.0})
