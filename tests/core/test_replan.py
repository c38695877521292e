"""A day that gives way: what is left is chosen anew, within the minutes and the load, and never what may not be played."""

from dataclasses import replace

import pytest

from orexis.core.approaches import DEFAULTS
from orexis.core.coach import Care, Freshness, Lips, Outcome, Standard
from orexis.core.exercises import EXERCISE_TYPES, Load, Series
from orexis.core.instruments import instrument_named
from orexis.core.planning import (
    DayKind,
    KeptBlock,
    PlanningContext,
    RecentPractice,
    ReplannedSession,
    compose,
    day_series,
    planned_blocks,
    replan_rest,
)
from orexis.core.practice import (
    TIRED_LIPS,
    Event,
    EventName,
    Phase,
    Routine,
    SessionState,
    TakeResult,
    left_by,
    routine_of,
    state_for,
    step,
)

TODAY = 739_945
LOAD = 4.0  # of a take


def known(**more: object) -> PlanningContext:
    plain = PlanningContext(
        instrument_named("tuba-eb"),
        Standard.DEVELOPING,
        DEFAULTS,
        Care(),
        TODAY,
        kind=DayKind.MEDIUM,
        target=900.0,
        week_left=4500.0,
    )
    return replace(plain, **more)  # type: ignore[arg-type]


def begun(who: PlanningContext, minutes: int = 30, kept: tuple[KeptBlock, ...] = ()) -> tuple[SessionState, Routine]:
    plan = compose(who, minutes, kept=kept)
    series = day_series(who, plan)
    routine = routine_of(who.instrument, who.approaches, zip(series, planned_blocks(who, plan, series), strict=True))
    return state_for(routine, checks=False, approaches=who.approaches, care=who.care), routine


def played(state: SessionState, outcome: Outcome, *, seconds: float = 6.0, load: float = LOAD) -> SessionState:
    result = TakeResult(outcome, None, seconds, seconds, load)
    state = step(state, Event(EventName.BEGIN, f"take-{len(state.takes)}")).state
    state = step(state, Event(EventName.ENDED)).state
    return step(state, Event(EventName.JUDGED, state.take_key, result)).state


def skipped_to(state: SessionState, exercise_type: str) -> SessionState:
    while state.current.exercise_type != exercise_type:
        state = step(state, Event(EventName.SKIP)).state
        if state.phase == Phase.REST:
            state = step(state, Event(EventName.REST_OVER)).state
    return state


def names(state: SessionState, first: int = 0) -> list[str]:
    return [block.exercise_type for block in state.plan[first:] if not block.spare]


def run_dry(state: SessionState) -> tuple[SessionState, SessionState]:
    """The present block until it runs out of good notes; the step to the next block."""
    here = state.block
    for _ in range(30):
        before = played(state, Outcome.NOT_YET)
        after = step(before, Event(EventName.GO_ON)).state
        if after.block != here:
            return before, after
        state = after
    raise AssertionError("the block did not end")


def chosen(who: PlanningContext, before: SessionState, after: SessionState, **more: object) -> ReplannedSession:
    made = replan_rest(who, before, after, **more)  # type: ignore[arg-type]
    assert made is not None
    return made


def test_a_block_that_runs_dry_makes_room_for_something_else_within_minutes_and_load() -> None:
    who = known()
    state, _ = begun(who)
    state = skipped_to(state, next(block.exercise_type for block in state.plan if block.place == "slurs"))
    was = names(state)
    before, after = run_dry(state)
    now = known(played_load=after.load)
    made = chosen(now, before, after)
    later = made.state.plan[made.first :]
    assert made.first == after.block
    new = set(names(made.state, made.first)) - set(was)
    assert new  # something that was not in the day, and is not heavy
    assert all(EXERCISE_TYPES[exercise_type].load != Load.HIGH for exercise_type in new)
    assert not set(names(made.state, made.first)) & {block.exercise_type for block in after.plan[: after.block]}
    left = 30.0 - made.state.used_s / 60.0
    assert sum(block.minutes or 0.0 for block in later if not block.spare) == pytest.approx(left, abs=0.51)
    assert after.most_load is not None
    assert sum(block.most_load or 0.0 for block in later if not block.spare) <= after.most_load - after.load + 1.0
    assert "Added" in made.state.changed
    assert len(made.series) == len(later)
    assert all(isinstance(series, Series) for series in made.series)
    # The same record gives the same rest of the day.
    assert chosen(now, before, after) == made


def test_time_that_low_work_leaves_goes_to_low_work() -> None:
    who = known()
    state, _ = begun(who)
    low = next(block.exercise_type for block in state.plan if block.place == "low")
    before, after = run_dry(skipped_to(state, low))
    made = chosen(known(played_load=after.load), before, after)
    coming = [block.exercise_type for block in made.state.plan[made.first :] if block.place == "low"]
    assert coming
    assert low not in coming


@pytest.mark.parametrize("load", [90.0, 180.0, 360.0])
def test_where_little_load_is_left_there_are_fewer_blocks_and_no_more_minutes(load: float) -> None:
    who = known(target=load)
    state, _ = begun(who, 45)
    before = played(
        skipped_to(state, next(b.exercise_type for b in state.plan if b.place == "buzz")), Outcome.CLEAN, load=1.0
    )
    after = step(before, Event(EventName.SKIP)).state
    made = chosen(known(target=load, played_load=1.0), before, after)
    later = [block for block in made.state.plan[made.first :] if not block.spare]
    left = 45.0 - made.state.used_s / 60.0
    assert sum(block.minutes or 0.0 for block in later) == pytest.approx(left, abs=0.51)
    assert sum(block.most_load or 0.0 for block in later) <= load


def test_what_was_lost_today_counts_in_what_is_chosen() -> None:
    who = known()
    state, _ = begun(who)
    before, after = run_dry(skipped_to(state, next(b.exercise_type for b in state.plan if b.place == "slurs")))
    plain = chosen(known(played_load=after.load), before, after)
    extra = next(
        exercise_type for exercise_type in names(plain.state, plain.first) if exercise_type not in names(before)
    )
    # Had that one been played without a miss yesterday, it would wait, and another comes in.
    lately = {extra: RecentPractice(extra, takes=20, clean=20, last_day=TODAY - 1)}
    other = chosen(known(played_load=after.load, lately=lately), before, after)
    assert extra not in names(other.state, other.first)
    without = chosen(known(played_load=after.load), before, after, without=(extra,))
    assert extra not in names(without.state, without.first)


def test_when_the_register_is_over_nothing_heavy_follows_and_it_is_said() -> None:
    who = known(kind=DayKind.HEAVY, standard=Standard.ADVANCED)
    state, _ = begun(who, 90)
    heavy = [block.exercise_type for block in state.plan if block.load == Load.HIGH]
    assert heavy
    state = replace(state, register_over="two notes in a row")
    before = played(skipped_to(state, state.plan[1].exercise_type), Outcome.CLEAN)
    after = step(before, Event(EventName.SKIP)).state
    made = chosen(who, before, after)
    assert all(block.load != Load.HIGH for block in made.state.plan[made.first :])
    assert all(EXERCISE_TYPES[exercise_type].name in made.state.changed for exercise_type in heavy)


def test_tired_lips_change_what_follows_at_once_and_leave_the_present_block() -> None:
    who = known(kind=DayKind.HEAVY, standard=Standard.ADVANCED)
    state, _ = begun(who, 60)
    state = skipped_to(state, state.plan[2].exercise_type)
    before = played(state, Outcome.CLEAN)
    after = step(before, Event(EventName.REPORT, word="tired")).state
    assert (after.register_over, after.block) == (TIRED_LIPS, before.block)
    made = chosen(who, before, after)
    assert made.first == after.block + 1
    assert made.state.current == after.current
    assert all(block.load != Load.HIGH for block in made.state.plan[made.first :])
    assert made.plan.target is not None
    assert after.most_load is not None
    assert made.plan.target <= 0.5 * 900.0  # half the load, as tired lips have at the check-in
    assert left_by(made.state, step(made.state, Event(EventName.REST_OVER)).state) is None


def test_what_the_player_holds_on_to_stays_as_it_is() -> None:
    who = known()
    state, routine = begun(who, 45, kept=(KeptBlock("tune", 6.0),))
    number = names(state).index("tune")
    before, after = run_dry(skipped_to(state, next(b.exercise_type for b in state.plan if b.place == "slurs")))
    made = chosen(known(played_load=after.load), before, after)
    at = made.series.index(number)
    assert made.state.plan[made.first + at] == after.plan[number]
    assert routine.blocks[number].exercise_type == "tune"
    assert names(made.state).count("tune") == 1


def test_time_that_is_hardly_worth_it_changes_nothing() -> None:
    state, _ = begun(known())
    before = played(state, Outcome.CLEAN, seconds=60.0 * (state.current.minutes or 0.0) - 60.0)
    after = step(before, Event(EventName.SKIP)).state
    assert after.block == before.block + 1
    assert left_by(before, after) is None


def test_a_session_without_minutes_never_gives_way() -> None:
    state, _ = begun(known())
    before = replace(played(state, Outcome.CLEAN), minutes=None)
    assert left_by(before, step(before, Event(EventName.SKIP)).state) is None


def test_sore_lips_stay_with_what_is_easy() -> None:
    who = known(lips=Lips.SORE)
    state, _ = begun(who)
    longest = max(state.plan[:-1], key=lambda block: block.minutes or 0.0)
    before = played(skipped_to(state, longest.exercise_type), Outcome.NOT_YET, load=1.0)
    made = chosen(who, before, step(before, Event(EventName.SKIP)).state)
    assert {block.load for block in made.state.plan[made.first :]} == {Load.EASY}


def test_free_pedal_tones_come_next_when_the_check_note_says_tiring() -> None:
    who = known()
    state, _ = begun(who)
    state = skipped_to(state, next(block.exercise_type for block in state.plan if block.place == "slurs"))
    state = played(replace(state, checks_on=True), Outcome.CLEAN)
    loose = next(at for at, block in enumerate(state.plan) if block.exercise_type == "loose-pedals")
    assert loose > state.block + 1  # otherwise there is nothing to move
    for endurance, moves in ((Freshness.FRESH, False), (Freshness.TIRING, True)):
        before = replace(step(state, Event(EventName.GO_ON)).state, checking=True)
        before = step(step(before, Event(EventName.BEGIN, "check")).state, Event(EventName.ENDED)).state
        result = TakeResult(Outcome.CLEAN, None, 4.0, 4.0, 4.0, None, endurance)
        before = step(before, Event(EventName.JUDGED, "check", result)).state
        after = step(before, Event(EventName.GO_ON)).state
        made = replan_rest(who, before, after)
        assert (made is not None) is moves
        if made is not None:
            assert made.state.plan[after.block + 1].exercise_type == "loose-pedals"
            assert sorted(names(made.state)) == sorted(names(after))
            assert made.first == after.block + 1
            assert [after.plan[number] for number in made.series if isinstance(number, int)] == list(
                made.state.plan[made.first :]
            )
            assert made.state.phase == "rest"
