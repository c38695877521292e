"""The day and the weeks: composed by must, need, keep and load, within bounds whatever is asked."""

from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orexis.core.approaches import DEFAULTS, Ask
from orexis.core.approaches import Choice as Approach
from orexis.core.coach import Care, Lips, Outcome, Range, RangeNote, RangeState, Standard
from orexis.core.coach.range_notes import NoteHistory as RangeNoteKept
from orexis.core.exercises import (
    EXERCISE_TYPES,
    Advance,
    Begin,
    DayPlace,
    Load,
    SetPlayed,
    exercise_type_named,
    sets_today,
)
from orexis.core.instruments import INSTRUMENTS, Setup, instrument_named
from orexis.core.planning import (
    LOAD_PER_MINUTE,
    CheckIn,
    DayKind,
    DayPlan,
    Days,
    Effort,
    Elsewhere,
    ExerciseTypeDay,
    GoalRequest,
    KeptBlock,
    PlanningContext,
    PlayingHistory,
    PracticeHistory,
    RecentPractice,
    TakeFact,
    Week,
    as_arranged,
    bound_of,
    compose,
    day_series,
    high_bound_of,
    instead,
    loads_elsewhere,
    monday,
    plan_week,
    planned_blocks,
    planning_context_of,
    with_take,
)
from orexis.core.planning.frame import frame
from orexis.core.practice import PlayerRange
from orexis.core.progress import PathPosition
from orexis.core.theory import parse_pitch
from orexis.errors import ExerciseError, InputError

TODAY = 739_945
PLACES = list(DayPlace)


def known(**more: object) -> PlanningContext:
    plain = PlanningContext(instrument_named("trumpet-bb"), Standard.DEVELOPING, DEFAULTS, Care(), TODAY)
    return replace(plain, **more)


def exercise_types(day: DayPlan) -> list[str]:
    return [block.exercise_type for block in day.blocks]


@given(
    st.sampled_from(sorted(INSTRUMENTS)),
    st.sampled_from(list(Standard)),
    st.integers(10, 120),
    st.sampled_from(list(DayKind)),
    st.sampled_from(list(Lips)),
    st.booleans(),
    st.one_of(st.none(), st.floats(20.0, 3000.0)),
)
def test_any_day_fills_its_minutes_in_the_order_of_the_day_and_keeps_its_load(
    instrument: str, standard: Standard, minutes: int, kind: DayKind, lips: Lips, quiet: bool, target: float | None
) -> None:
    asked = known(
        instrument=instrument_named(instrument),
        standard=standard,
        kind=kind,
        lips=lips,
        quiet=quiet,
        target=target,
        week_left=target,
    )
    day = compose(asked, minutes)
    assert sum(block.minutes for block in day.blocks) == pytest.approx(minutes, abs=0.51)
    order = [PLACES.index(block.place) for block in day.blocks]
    assert order == sorted(order)
    assert len(set(exercise_types(day))) == len(day.blocks)
    heavy = [block for block in day.blocks if block.load_class == Load.HIGH]
    if (
        kind in (DayKind.LIGHT, DayKind.OFF)
        or lips in (Lips.TIRED, Lips.SORE)
        or quiet
        or standard == Standard.BEGINNER
    ):
        assert not heavy
    assert len(heavy) <= (2 if kind == DayKind.HEAVY else 1)
    if lips == Lips.SORE:
        assert {block.load_class for block in day.blocks} == {Load.EASY}
    if day.target is not None:
        assert sum(block.most_load or 0.0 for block in day.blocks) <= day.target + 0.1 * len(day.blocks)
    assert all(block.why for block in day.blocks)
    assert compose(asked, minutes) == day


@pytest.mark.parametrize("minutes", [9, 121, 0, -5])
def test_minutes_that_fit_nothing_are_said(minutes: int) -> None:
    with pytest.raises(InputError, match="choose 10 to 120"):
        compose(known(), minutes)


def test_what_failed_four_times_comes_back_first_in_the_easier_form() -> None:
    told: ExerciseTypeDay | None = None
    for _ in range(4):
        told = with_take(told, TakeFact("wide-slur", TODAY - 1, "wide-slur-3-5-0", Outcome.NOT_YET, reason="gap"))
    assert told is not None
    assert told.comes_back == ("wide-slur-3-5-0",)
    lately = {"wide-slur": RecentPractice("wide-slur", 4, 0, TODAY - 1, comes_back=told.comes_back)}
    day = compose(known(lately=lately), 30)
    block = next(block for block in day.blocks if block.exercise_type == "wide-slur")
    assert block.must
    assert block.easier
    plan = planned_blocks(known(), day, day_series(known(lately=lately), day))
    assert next(item for item in plan if item.exercise_type == "wide-slur").easier
    # Held as written, it does not.
    held = with_take(told, TakeFact("wide-slur", TODAY - 1, "wide-slur-3-5-0", Outcome.CLEAN))
    assert held.comes_back == ()


def test_need_goes_by_waiting_and_by_how_often_it_was_missed_and_says_so_with_its_number() -> None:
    slurs = [exercise_type.id for exercise_type in EXERCISE_TYPES.values() if exercise_type.place == DayPlace.SLURS]
    lately = {name: RecentPractice(name, 10, 9, TODAY - 2) for name in slurs}
    lately["partial-chain"] = RecentPractice("partial-chain", 9, 3, TODAY - 2, reason=("caught", 6))
    day = compose(known(lately=lately), 15)
    block = next(block for block in day.blocks if block.place == DayPlace.SLURS)
    assert block.exercise_type == "partial-chain"
    assert "6 of 9" in block.why
    lately["lip-bend"] = RecentPractice("lip-bend", 0, 0, TODAY - 30)
    assert "30 days" in next(b for b in compose(known(lately=lately), 30).blocks if b.exercise_type == "lip-bend").why


def test_a_goal_asks_first_and_the_same_heavy_work_never_two_days_running() -> None:
    wish = GoalRequest("step-ladder", "your aim: A5", {"start": "D5"})
    day = compose(known(wishes=(wish,)), 30)
    block = next(block for block in day.blocks if block.exercise_type == "step-ladder")
    assert (block.must, block.params["start"], block.why) == (True, "D5", "your aim: A5")
    again = compose(known(wishes=(wish,), heavy_yesterday=frozenset({"step-ladder"})), 30)
    assert "step-ladder" not in exercise_types(again)
    light = compose(known(wishes=(wish,), kind=DayKind.LIGHT), 30)
    assert "step-ladder" not in exercise_types(light)


def test_stage_shapes_the_material() -> None:
    starting, concert = (
        compose(known(standard=standard), 60) for standard in (Standard.BEGINNER, Standard.PROFESSIONAL)
    )
    buzz = [sum(b.minutes for b in day.blocks if b.place == DayPlace.BUZZ) for day in (starting, concert)]
    assert buzz[0] > 1.5 * buzz[1]
    slur = next(block for block in starting.blocks if block.exercise_type == "two-partial-slur")
    assert (slur.params["fingering"], slur.step) == ("few", 0)
    tone = next(block for block in starting.blocks if block.exercise_type == "long-low-tones")
    assert int(tone.params["beats"]) == 4
    assert not {"pedal-sets", "lip-trill", "step-ladder"} & set(exercise_types(starting))


@pytest.mark.parametrize("minutes", [20, 30, 40, 60])
def test_low_work_has_its_place_from_twenty_minutes_on(minutes: int) -> None:
    for standard in (Standard.BEGINNER, Standard.DEVELOPING, Standard.PROFESSIONAL):
        low = sum(slot.minutes for slot in frame(minutes, standard) if slot.place == DayPlace.LOW)
        assert 0.14 <= low / minutes <= 0.3, (standard, low)


def test_what_was_never_played_has_waited_since_practice_began() -> None:
    """Three weeks in, an exercise that never came goes before one that was all clean and played a week ago."""
    slurs = ("two-partial-slur", "partial-chain", "wide-slur", "add-one-arpeggio")
    lately = {name: RecentPractice(name, 10, 10, TODAY - 7) for name in slurs if name != "wide-slur"}
    started = known(lately=lately, practising_since=TODAY - 21)
    assert "wide-slur" in exercise_types(compose(started, 20))


def test_what_comes_back_day_after_day_starves_nothing_beside_it() -> None:
    told = {"falling-scale": RecentPractice("falling-scale", 10, 10, TODAY - 13)}
    told["interval-stairs"] = RecentPractice("interval-stairs", 6, 0, TODAY - 1, comes_back=("n",))
    told["to-the-pedal"] = RecentPractice("to-the-pedal", 6, 6, TODAY - 2)
    assert "interval-stairs" in exercise_types(
        compose(known(lately=told | {"falling-scale": RecentPractice("falling-scale", 1, 1, TODAY - 3)}), 30)
    )
    assert "falling-scale" in exercise_types(compose(known(lately=told), 30))


def test_what_is_out_of_reach_at_the_first_level_comes_only_now_and_then() -> None:
    failed = RecentPractice("to-the-pedal", 20, 0, TODAY - 2, comes_back=("n",))
    told = {"to-the-pedal": failed} | {
        name: RecentPractice(name, 20, 18, TODAY - 2) for name in ("falling-scale", "interval-stairs")
    }
    first = {"to-the-pedal": PathPosition(0)}
    assert "to-the-pedal" in exercise_types(compose(known(lately=told), 30))
    assert "to-the-pedal" not in exercise_types(compose(known(lately=told, standings=first), 30))
    waited = told | {"to-the-pedal": replace(failed, last_day=TODAY - 14)}
    block = next(b for b in compose(known(lately=waited, standings=first), 30).blocks if b.place == DayPlace.LOW)
    assert (block.exercise_type, block.why) == ("to-the-pedal", "out of reach so far, so only now and then")
    # Where all of a place is out of reach, nothing is kept back.
    names = ("to-the-pedal", "falling-scale", "interval-stairs")
    all_failed = {name: replace(failed, exercise_type=name) for name in names}
    lowest = known(lately=all_failed, standings={name: PathPosition(0) for name in names})
    assert "out of reach" not in next(b for b in compose(lowest, 30).blocks if b.place == DayPlace.LOW).why


def test_in_range_notes_that_were_not_met_are_taken_up() -> None:
    easy = instrument_named("trumpet-bb").easy.midi
    low = compose(known(stale=(easy - 3, easy - 1)), 30)
    block = next(block for block in low.blocks if block.exercise_type == "long-low-tones")
    assert "2 notes in your range" in block.why
    assert (block.params["steps"], block.step) == ("2", None)
    high = compose(known(stale=(easy + 17,)), 30)
    assert "one note in your range" in next(block for block in high.blocks if block.exercise_type == "step-ladder").why


def said_by(low: str | None, high: str | None, range_notes: dict[int, RangeNote] | None = None) -> PlanningContext:
    low_note, high_note = (None if name is None else parse_pitch(name) for name in (low, high))
    instrument = instrument_named("trumpet-bb").with_setup(Setup(comfortable_low=low_note, comfortable_high=high_note))
    remembered = PracticeHistory(range_notes=range_notes or {})
    return planning_context_of(
        remembered,
        CheckIn(),
        instrument=instrument,
        standard=Standard.DEVELOPING,
        approaches=DEFAULTS,
        care=Care(),
        today=TODAY,
        week=None,
    )


def test_what_is_called_comfortable_says_where_work_begins_until_something_is_in_range() -> None:
    usual, said = said_by(None, None), said_by("Bb3", "D4")
    low, high = parse_pitch("Bb3").midi, parse_pitch("D4").midi
    assert said.start_up == low < (usual.start_up or 0)
    assert (said.start_down, said.top(joined=True)) == (low, high)
    tones = next(block for block in compose(said, 30).blocks if block.exercise_type == "long-low-tones")
    assert parse_pitch(tones.params["start"]).midi - int(tones.params.get("steps", "4")) == low
    lowest = instrument_named("trumpet-bb").lowest.name
    compose(said_by(lowest, "D4"), 30)
    wide = said_by("Bb3", "C5")
    assert wide.start_up == parse_pitch("C5").midi - 5
    in_range = {
        midi: RangeNote(midi, RangeState.IN_RANGE, alone=RangeNoteKept(RangeState.IN_RANGE)) for midi in range(58, 70)
    }
    known_better = said_by("Bb3", "D4", in_range)
    assert known_better.said_low() is None
    assert known_better.top(joined=False) == 69 > high
    assert known_better.start_up == said_by(None, None, in_range).start_up


def test_a_player_keeps_leaves_out_and_arranges() -> None:
    day = compose(known(), 30, kept=[KeptBlock("siren", 8.0)], without=["tune", "step-ladder"])
    block = next(block for block in day.blocks if block.exercise_type == "siren")
    assert (block.minutes, block.locked) == (8.0, True)
    assert not {"tune", "step-ladder"} & set(exercise_types(day))
    assert sum(block.minutes for block in day.blocks) == pytest.approx(30)
    own = as_arranged(known(), [KeptBlock("tune", 6.0), KeptBlock("buzz-answer", 5.0)])
    assert exercise_types(own) == ["tune", "buzz-answer"]
    assert own.minutes == 11
    for held in (
        as_arranged(known(lips=Lips.TIRED), [KeptBlock("step-ladder", 5.0)]),
        compose(known(lips=Lips.SORE), 30, kept=[KeptBlock("step-ladder")]),
    ):
        assert "Too heavy for today: Semitone ladder" in " ".join(held.says)
    with pytest.raises(InputError, match="blocks"):
        as_arranged(known(), [])
    with pytest.raises(ExerciseError, match="Times"):
        day_series(known(), as_arranged(known(), [KeptBlock("buzz-answer", 5.0, {"turns": "99"})]))
    others = instead(known(), "siren", 30, without=["buzz-a-tune"])
    assert "buzz-answer" in others
    assert not {"siren", "buzz-a-tune"} & set(others)


def test_care_holds_the_load_down_and_heavy_work_out() -> None:
    careful = known(care=Care(returning=True), target=400.0)
    day = compose(careful, 30)
    assert day.target == 200.0
    assert all(block.load_class != Load.HIGH for block in day.blocks)
    assert sum(block.minutes for block in day.blocks) == pytest.approx(30)


def test_pedal_sets_have_their_minutes_three_days_a_week_and_never_two_in_a_row() -> None:
    sets = sets_today([], TODAY)
    asked = known(
        standard=Standard.ADVANCED, sets=sets, wishes=(GoalRequest("pedal-sets", "your aim"),), kind=DayKind.HEAVY
    )
    block = next(block for block in compose(asked, 60).blocks if block.exercise_type == "pedal-sets")
    assert block.params["sets"] == "2"
    assert block.minutes >= 9.0
    for refused in ({"pedal_days": 3}, {"pedals_yesterday": True}):
        assert "pedal-sets" not in exercise_types(compose(replace(asked, **refused), 60))
    returning = sets_today([SetPlayed(TODAY - 70, 2, 20)], TODAY, braces=True)
    held_down = compose(replace(asked, sets=returning), 60)
    params = next(block for block in held_down.blocks if block.exercise_type == "pedal-sets").params
    assert (params["sets"], params["notes"]) == ("2", "12")


# -- weeks -------------------------------------------------------------------------------------------------------------

START = monday(TODAY)
RATE = LOAD_PER_MINUTE[Standard.DEVELOPING]
SIX = Days((30, 30, 30, 30, 30, 30, 0))


def week(loads: dict[int, float], today: int = START, **more: object) -> Week:
    return plan_week(today, monday(today), PlayingHistory(loads), replace(SIX, **more), standard=Standard.DEVELOPING)


def weeks_of(*totals: float) -> dict[int, float]:
    """Weeks before this one, the latest last, each on three days."""
    out = {}
    for back, total in enumerate(reversed(totals), start=1):
        for day in (0, 2, 4):
            if total:
                out[START - 7 * back + day] = total / 3.0
    return out


@pytest.mark.parametrize(
    ("totals", "share"),
    [
        ((1000.0, 1000.0, 1000.0, 1000.0), 1.1),
        ((1000.0, 1000.0, 0.0), 0.5),
        ((800.0, 900.0, 1000.0, 1100.0), 1.1),
        ((900.0, 1000.0, 1100.0), 1.1),
    ],
)
def test_a_week_grows_by_a_tenth_and_rests_after_a_week_off(totals: tuple[float, ...], share: float) -> None:
    practised = [total for total in totals if total][-4:]
    bound, _ = bound_of(PlayingHistory(weeks_of(*totals)), START, base=1.0)
    assert bound == pytest.approx(share * sum(practised) / len(practised))


@pytest.mark.parametrize(
    "first_week", [{START - 7: 4.0}, {START - 1: 120.0}, {START - 7: 375.0, START - 6: 375.0}, weeks_of(2250.0)]
)
def test_whatever_the_first_week_was_every_given_day_has_a_session_and_the_load_that_its_minutes_make(
    first_week: dict[int, float],
) -> None:
    loads = dict(first_week)
    for at in range(8):
        start = START + 7 * at
        found = week(loads, start)
        assert sum(day.target > 0 for day in found.days) == 6
        assert found.target > 0.85 * RATE * 180
        loads |= {day.day: day.target for day in found.days if day.target}


def test_who_plays_less_now_than_they_give_begins_with_that() -> None:
    found = week({}, plays_now=60)
    assert found.bound == pytest.approx(RATE * 60, abs=0.1)
    later = week({START - 7 * back: RATE * 60 for back in range(1, 6)}, plays_now=60)
    assert later.bound == pytest.approx(1.1 * RATE * 60, abs=0.1)
    assert week({}, plays_now=900).bound == pytest.approx(RATE * 180, abs=0.1)  # no more than the given minutes


def test_easy_work_is_not_cut_below_what_the_player_is_used_to() -> None:
    poor = week(weeks_of(300.0, 300.0, 300.0, 300.0))
    assert poor.bound == pytest.approx(0.95 * RATE * 180, abs=0.1)
    assert "used to" in poor.why


@pytest.mark.parametrize(("off", "share"), [(1, 0.7), (2, 0.7), (3, 0.5), (20, 0.5)])
def test_after_weeks_off_the_floor_is_lower(off: int, share: float) -> None:
    found = week({START - 7 * (off + 1) + day: 50.0 for day in range(5)})
    assert found.bound == pytest.approx(0.95 * share * RATE * 180, abs=0.1)


def test_playing_elsewhere_is_left_room_for_and_makes_the_day_light() -> None:
    alone = week(weeks_of(2250.0, 2250.0, 2250.0, 2250.0))
    rehearsal = Elsewhere(START + 2, 90, Effort.MEDIUM, weekly=True)
    beside = week(weeks_of(2250.0, 2250.0, 2250.0, 2250.0), elsewhere=loads_elsewhere([rehearsal], START, START + 28))
    assert sum(d.target for d in beside.days) == pytest.approx(sum(d.target for d in alone.days) - 90 * 16, abs=2.0)
    assert (beside.days[2].kind, beside.days[2].why) == (DayKind.LIGHT, "you also play elsewhere")


def test_what_repeats_weekly_begins_on_its_day() -> None:
    entries = [Elsewhere(START + 3, 60, Effort.HEAVY, weekly=True), Elsewhere(START + 3, 30, Effort.LIGHT)]
    found = loads_elsewhere(entries, START - 14, START + 14)
    assert found == {START + 3: 60 * 26.0 + 30 * 8.0, START + 10: 60 * 26.0}


def test_heavy_work_has_a_bound_of_its_own() -> None:
    loads, high = weeks_of(2000.0, 2000.0, 2000.0, 2000.0), weeks_of(600.0, 600.0, 600.0, 600.0)
    assert high_bound_of(PlayingHistory(loads, high=high), START, 2200.0) == pytest.approx(660.0)
    assert high_bound_of(PlayingHistory(loads), START, 2200.0) == pytest.approx(440.0)  # a fifth, to begin with
    assert high_bound_of(PlayingHistory(), START, 2200.0) == pytest.approx(440.0)
    grew = PlayingHistory(weeks_of(1700.0, 1800.0, 1900.0, 2000.0), high=high)
    assert high_bound_of(grew, START, 2200.0) == pytest.approx(0.7 * 600.0)
    off = PlayingHistory(weeks_of(2000.0, 2000.0, 2000.0, 0.0), high=weeks_of(600.0, 600.0, 600.0, 0.0))
    assert high_bound_of(off, START, 1000.0) == pytest.approx(300.0)


def test_where_the_weeks_heavy_work_is_played_no_more_comes() -> None:
    some = compose(known(target=900.0, high_left=60.0), 60)
    assert 0.0 < sum(b.most_load or 0.0 for b in some.blocks if b.load_class == Load.HIGH) <= 60.1
    none = compose(known(target=900.0, high_left=3.0), 60)
    assert not any(b.load_class == Load.HIGH for b in none.blocks)


def test_weeks_before_a_long_pause_count_half() -> None:
    loads = weeks_of(1000.0, 1000.0, 0.0, 0.0, 0.0, 0.0, 500.0)
    bound, _ = bound_of(PlayingHistory(loads), START, base=1.0)
    assert bound == pytest.approx(1.1 * (500.0 + 500.0 + 500.0) / 3.0)


@given(
    st.lists(st.integers(0, 120), min_size=7, max_size=7),
    st.lists(st.floats(0.0, 2000.0), min_size=0, max_size=8),
    st.integers(0, 6),
    st.sets(st.integers(0, 13), max_size=3),
    st.sets(st.integers(-1, 6), max_size=2),
)
def test_no_week_is_planned_beyond_its_bound_and_no_two_heavy_days_in_a_row(
    minutes: list[int], totals: list[float], offset: int, shows: set[int], spent: set[int]
) -> None:
    practised = PlayingHistory(weeks_of(*totals), frozenset(START + day for day in spent))
    given_ = Days(tuple(minutes), frozenset(START + day for day in shows))
    found = plan_week(START + offset, START, practised, given_, standard=Standard.DEVELOPING)
    assert sum(day.target for day in found.days) <= found.bound + 1.0
    kinds = [day.kind for day in found.days]
    assert all(not (a == b == DayKind.HEAVY) for a, b in pairwise(kinds))
    for day in found.days:
        after_spent = day.day - 1 in practised.spent
        performs = any(day.day + ahead in given_.performances for ahead in (0, 1))
        if after_spent or performs:
            assert day.kind in (DayKind.LIGHT, DayKind.OFF)
        if day.minutes == 0:
            assert (day.kind, day.target) == (DayKind.OFF, 0.0)
    assert sum(day.minutes > 0 for day in found.days) <= 6


def test_the_rest_of_a_week_is_planned_from_what_was_played() -> None:
    before = weeks_of(2250.0, 2250.0)
    usual = week(before, START + 2)
    played = week({**before, START: 900.0, START + 1: 900.0}, START + 2)
    assert sum(day.target for day in played.days) < 0.5 * sum(day.target for day in usual.days)
    used_up = week({**before, START: 3200.0}, START + 1)
    assert {day.kind for day in used_up.days[1:6]} == {DayKind.OFF}
    assert "enough for this week" in used_up.days[2].why


def test_a_day_is_moved_and_a_week_that_begins_in_its_middle_is_counted_whole() -> None:
    moved = week({}, moved={START + 1: 0, START + 6: 45})
    assert [day.minutes for day in moved.days] == [30, 0, 30, 30, 30, 30, 45]
    half = {START - 3: 100.0, START - 2: 100.0}
    bound, _ = bound_of(PlayingHistory(half), START, base=1.0)
    assert bound == pytest.approx(1.1 * 200.0 * 7.0 / 3.0)


def test_a_standing_is_played_where_it_is() -> None:
    asked = known(standings={"siren": PathPosition(step=3, last_day=TODAY - 1)}, wishes=(GoalRequest("siren", "x"),))
    block = next(block for block in compose(asked, 30).blocks if block.exercise_type == "siren")
    assert (block.step, block.of, block.params["widest"]) == (3, 8, "24")


def test_a_week_with_little_load_is_spread_over_the_days_that_are_worth_it() -> None:
    """Days fall out one by one: one heavy Monday and nothing else is no week."""
    little = week({START - 7: 60.0}, START, minutes=(20, 20, 0, 20, 0, 20, 0), plays_now=14)
    played = [day for day in little.days if day.target]
    assert len(played) >= 3
    assert max(day.target for day in played) < 0.5 * sum(day.target for day in played) + 1.0
    assert any("enough for this week" in day.why for day in little.days)


def test_a_composed_day_brings_something_easy_for_time_that_is_left() -> None:
    plan = compose(known(), 30)
    exercise_types = {block.exercise_type for block in plan.blocks}
    assert plan.spare
    assert not exercise_types & {block.exercise_type for block in plan.spare}
    assert all(block.load_class != Load.HIGH for block in plan.spare)
    bounded = compose(known(target=60.0), 30)
    assert bounded.spare[-1].exercise_type == "breath"
    assert "breath" not in {block.exercise_type for block in compose(known(target=60.0), 30, without=["breath"]).spare}
    assert sum(block.minutes for block in plan.blocks) == pytest.approx(30.0)


def test_a_climb_to_the_limit_is_followed_by_loose_pedals_in_the_day() -> None:
    approaches = {**DEFAULTS, Ask.CLIMBING: Approach.TO_TODAYS_LIMIT}
    in_range = PlayerRange(Range(50, 74), Range(52, 74))
    asked = known(standard=Standard.ADVANCED, approaches=approaches, in_range=in_range, kind=DayKind.HEAVY)
    day = compose(asked, 60, kept=[KeptBlock("triad-with-reset")])
    at = exercise_types(day).index("triad-with-reset")
    assert exercise_types(day)[at + 1] == "loose-pedals"
    series = day_series(asked, day)[at]
    assert series.advance == Advance.LIMIT
    # Two semitones inside the joined range the first of them has its top.
    assert max(note.pitch.midi for note in series.exercises[0].notes) == 72


@pytest.mark.parametrize(
    ("away", "said"), [(13, ""), (14, "2 weeks. High work and pedal tones start one"), (60, "two"), (130, "first")]
)
def test_who_comes_back_after_weeks_is_told_where_work_begins(away: int, said: str) -> None:
    first = " ".join(compose(known(standings={"wide-slur": PathPosition(2, last_day=TODAY - away)}), 30).says[:1])
    assert said in first
    assert ("Welcome back" in first) == bool(said)
    assert not any("Welcome" in line for line in compose(known(), 30).says)


@pytest.mark.parametrize("top", [55, 60, 65, 70, 75, 77])
def test_glides_follow_the_range(top: int) -> None:
    instrument = instrument_named("trombone-tenor")
    begin = Begin(instrument, Standard.ADVANCED, top + 1, top, top - 2, None, {})
    ladder, fan = (exercise_type_named(name) for name in ("glide-ladder", "glide-fan"))
    first = ladder.series(instrument, ladder.begins(begin)).exercises[0].notes[0].pitch.midi
    assert top - 7 <= first <= top - 4
    reached = [note.pitch.midi for one in fan.series(instrument, fan.begins(begin)).exercises for note in one.notes]
    assert max(reached) <= top - 2
    assert max(reached) >= top - 9 or top < 58
    assert ladder.begins(Begin(instrument, Standard.ADVANCED, None, None, None, None, {})) == {}
