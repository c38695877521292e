"""Aims and their forecasts."""

from dataclasses import replace

import pytest

from orexis.core.approaches import DEFAULTS
from orexis.core.coach import Care, Range, Standard
from orexis.core.exercises import SetPlayed, sets_today
from orexis.core.instruments import INSTRUMENTS, instrument_named
from orexis.core.planning import (
    GoalEvidence,
    GoalHistory,
    GoalKind,
    GoalPosition,
    GoalTarget,
    PlanningContext,
    days_for,
    exercise_type_of,
    forecast,
    goal_history_over,
    goal_in_words,
    parse_target,
    place_of,
    wish_of,
    would_change,
)
from orexis.core.practice import PlayerRange
from orexis.core.progress import PathPosition
from orexis.errors import InputError

TODAY = 739_945
NOBODY = GoalEvidence()


def known(instrument: str = "trumpet-bb", **more: object) -> PlanningContext:
    plain = PlanningContext(instrument_named(instrument), Standard.DEVELOPING, DEFAULTS, Care(), TODAY)
    return replace(plain, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize("instrument_id", sorted(INSTRUMENTS))
def test_targets_of_every_kind_can_be_had_on_every_instrument(instrument_id: str) -> None:
    instrument = instrument_named(instrument_id)
    for text in (
        f"own={instrument.highest.name}",
        f"own={instrument.easy.name}/joined",
        "hold=12",
        "slur=4",
        "trill=3",
        "centre=8",
    ):
        target = parse_target(text, instrument)
        place = place_of(target, known(instrument_id), NOBODY)
        assert place.goal >= place.position or place.reached
        wish = wish_of(target, known(instrument_id))
        assert wish.exercise_type == exercise_type_of(target, instrument)
        assert goal_in_words(target)


@pytest.mark.parametrize("instrument_id", sorted(INSTRUMENTS))
def test_nothing_is_reached_by_somebody_who_never_played(instrument_id: str) -> None:
    for standard in Standard:
        nobody = known(instrument_id, standard=standard)
        for text in (*(f"trill={n}" for n in range(2, 7)), *(f"slur={n}" for n in range(3, 8)), "hold=4", "hold=12"):
            try:
                target = parse_target(text, nobody.instrument)
            except InputError:
                continue  # this instrument has no exercise for it
            assert not place_of(target, nobody, NOBODY).reached, (standard, text)
    held = known(standings={"long-low-tones": PathPosition(9, ((TODAY - 1, True),))})
    assert place_of(GoalTarget(GoalKind.HOLD, 12.0), held, NOBODY).reached


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("own=A2", "pedal sets"),
        ("own", "own=A5"),
        ("own=H4", "H4"),
        ("own=C1", "not on the Trumpet"),
        ("own=C5/sideways", "alone or joined"),
        ("hold=60", "choose 4 to 20"),
        ("hold=long", "number"),
        ("slur=nan", "out of reach"),
        ("fame=3", "own, hold"),
    ],
)
def test_an_target_that_cannot_be_is_said(text: str, says: str) -> None:
    with pytest.raises(InputError, match=says):
        parse_target(text, instrument_named("trumpet-bb"))


def test_places_are_read_from_the_record() -> None:
    own = PlayerRange(Range(58, 74), Range(58, 70))
    high = place_of(GoalTarget(GoalKind.OWN, 76.0), known(in_range=own), NOBODY)
    assert (high.position, high.steps_left, high.reached) == (74.0, 2, False)
    assert place_of(GoalTarget(GoalKind.OWN, 70.0, joined=True), known(in_range=own), NOBODY).reached
    low = place_of(GoalTarget(GoalKind.OWN, 54.0), known(in_range=own), NOBODY)
    assert low.steps_left == 4
    assert wish_of(GoalTarget(GoalKind.OWN, 54.0), known(in_range=own, start_down=61)).params["direction"] == "down"
    hold = place_of(
        GoalTarget(GoalKind.HOLD, 12.0),
        known(standings={"long-low-tones": PathPosition(3, ((TODAY - 1, True),))}),
        NOBODY,
    )
    assert hold.position == pytest.approx(3.0 + 1.0 / 3.0)
    assert (hold.goal, hold.steps_left) == (5.0, 2)
    centre = place_of(GoalTarget(GoalKind.CENTRE, 8.0), known(), GoalEvidence(pitch_error_cents=11.0))
    assert (centre.steps_left, centre.now) == (3, "11 cents")
    minutes = place_of(GoalTarget(GoalKind.MINUTES, 20.0), known(), GoalEvidence(minutes_to_tiring=13.0))
    assert minutes.steps_left == 4
    four = GoalTarget(GoalKind.PEDALS, 4.0)
    begun = sets_today([SetPlayed(TODAY - 1, 20, 20)], TODAY)
    assert place_of(four, known(sets=begun), NOBODY).steps_left == 2
    never = place_of(four, known(sets=sets_today([], TODAY)), NOBODY)
    assert (never.steps_left, never.now) == (3, "none played yet")


def told(position: float = 0.0, goal: float = 4.0, days: int = 0, gained: float = 0.0, week: float = 5.0) -> object:
    record = [gained * day / max(1, days) for day in range(days + 1)]
    return forecast(
        GoalPosition(position, goal, "", ""),
        GoalHistory(record),
        prior_days=10.0,
        today=TODAY,
        days_a_week=week,
        seed=1,
    )


def test_a_forecast_follows_the_players_own_rate_and_the_days_that_are_given() -> None:
    plain, quick, slow = told(), told(days=30, gained=6.0), told(days=30, gained=0.5)
    assert quick.median < plain.median < slow.median  # type: ignore[attr-defined]
    for found in (plain, quick, slow):
        assert TODAY < found.low < found.median < found.high  # type: ignore[attr-defined]
    spans = [found.high - found.low for found in (told(days=5, gained=0.5), told(days=60, gained=6.0))]  # type: ignore[attr-defined]
    assert spans[1] < spans[0]
    assert told(week=2.0).median > told(week=6.0).median  # type: ignore[attr-defined]
    assert told(position=4.0).median == TODAY  # type: ignore[attr-defined]
    assert told(week=0.0).median is None  # type: ignore[attr-defined]
    assert told(goal=400.0).median is None  # type: ignore[attr-defined]


def test_a_range_that_becomes_known_in_a_day_is_not_gained() -> None:
    assert GoalHistory([50.0, 50.0, 70.0, 70.0, 71.0]).steps == 2.0
    assert GoalHistory([50.0, 48.0]).steps == 0.0
    assert (GoalHistory([]).steps, GoalHistory([3.0]).days) == (0.0, 0)


def test_what_came_between_two_looks_is_shared_over_the_days_of_practice() -> None:
    gained = goal_history_over([9, 7, 5, 3, 1], {2: 10.0, 8: 13.0, 9: 14.0})
    assert list(gained.positions) == [10.0, 10.5, 11.5, 12.5, 14.0]
    assert (gained.days, gained.steps) == (4, 3.5)  # at most one a day
    assert goal_history_over([], {}).positions == ()
    assert list(goal_history_over([], {4: 2.0}).positions) == [2.0]


def test_pedal_sets_have_no_date_while_no_day_has_room_for_them() -> None:
    short, long = (10, 30, 30, 0, 35, 0, 0), (10, 30, 30, 0, 40, 0, 0)
    assert (days_for(GoalKind.PEDALS, short), days_for(GoalKind.PEDALS, long)) == (0.0, 4.0)
    assert days_for(GoalKind.HOLD, short) == 4.0
    place, gained = GoalPosition(2.0, 4.0, "2", "4"), GoalHistory((2.0, 2.0))
    assert forecast(place, gained, prior_days=12.0, today=TODAY, days_a_week=0.0).median is None
    says = would_change(place, gained, GoalKind.PEDALS, prior_days=12.0, today=TODAY, days_a_week=0.0, date=TODAY + 200)
    assert says is not None
    assert "40 minutes" in says


def test_what_would_let_the_date_be_met() -> None:
    place = GoalPosition(0.0, 4.0, "", "")

    def says(date: int, week: float = 3.0) -> str | None:
        return would_change(
            place, GoalHistory([0.0]), GoalKind.OWN, prior_days=10.0, today=TODAY, days_a_week=week, date=date
        )

    assert says(TODAY + 400) is None
    assert "days a week" in (says(TODAY + 70) or "")
    assert "semitone" in (says(TODAY + 25) or "")
    assert "later date" in (says(TODAY + 3) or "")
