"""The session as a state machine: takes, advice carried out, rests, check notes, stopping, overruling."""

from collections import Counter
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from orexis.core.approaches import DEFAULTS, Ask
from orexis.core.approaches import Choice as Approach
from orexis.core.coach import Freshness, Outcome
from orexis.core.exercises import Advance, Load, at_tempo, exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.core.player import play
from orexis.core.practice import (
    TIRED_LIPS,
    BlockPlan,
    CheckMark,
    Ending,
    Event,
    Phase,
    SessionState,
    TakeMark,
    TakeResult,
    advising,
    opening,
    step,
    warmth_takes,
)
from orexis.core.sound import Sound
from orexis.core.trace import Tracker, track
from orexis.errors import ConflictError
from tests.conftest import exercise_of

KEY = "a" * 32
INSTRUMENT = instrument_named("trumpet-bb")


def plan(advance: str = "in-order", exercises: int = 3, load: str = "easy", **more: object) -> BlockPlan:
    return BlockPlan("long-low-tones", "Long low tones", "tones", load, Advance(advance), exercises, **more)  # type: ignore[arg-type]


def one(advance: str = "in-order", exercises: int = 3, **more: object) -> SessionState:
    return SessionState((plan(advance, exercises, **more),))


def take(state: SessionState, outcome: str, reason: str | None = None, **more: object) -> SessionState:
    """One take judged so."""
    for name in ("begin", "counted-in", "ended"):
        state = step(state, Event(name, KEY)).state
    reason = reason or (None if outcome == "clean" else "pitch-drift")
    heard = TakeResult(Outcome(outcome), reason, **{"playing_s": 8.0, "take_s": 14.0} | more)  # type: ignore[arg-type]
    return step(state, Event("judged", KEY, heard)).state


def after(state: SessionState, *outcomes: str) -> SessionState:
    """Takes one after another, each advice carried out but the last."""
    for place, outcome in enumerate(outcomes):
        state = take(state, outcome)
        if place + 1 < len(outcomes):
            state = step(state, Event("go-on")).state
    return state


def advised(state: SessionState) -> str:
    assert state.advice is not None
    return state.advice.step


def test_a_take_from_begin_to_verdict() -> None:
    state = take(one(), "clean")
    assert (state.phase, advised(state), state.takes[0].outcome) == ("verdict", "next", "clean")
    assert step(state, Event("go-on")).state.exercise_index == 1


def test_a_descent_that_was_lost_goes_through_its_good_ones_once_more() -> None:
    lost = after(one("falling", 6, minutes=20.0), "clean", "clean", "not_yet", "not_yet", "clean", "not_yet")
    assert advised(lost) == "from-the-top"
    again = step(lost, Event("go-on")).state
    assert (again.exercise_index, again.current.exercises) == (0, 2)
    # What was lost does not come again, and where there is no time left the block ends.
    assert advised(after(again, "clean", "not_yet", "not_yet", "not_yet")) != "from-the-top"
    short = after(one("falling", 6, minutes=2.7), "clean", "clean", "not_yet", "not_yet", "clean", "not_yet")
    assert advised(short) == "end-block"
    nothing_good = after(one("falling", 6, minutes=20.0), "not_yet", "not_yet", "not_yet")
    assert advised(nothing_good) == "end-block"


def test_two_misses_for_one_reason_give_an_easier_form_and_held_leads_back() -> None:
    state = after(one(), "not_yet", "not_yet")
    assert advised(state) == "easier"
    state = step(state, Event("go-on")).state
    assert state.form == "slower"
    state = take(state, "clean")
    assert advised(state) == "as-written"
    assert step(state, Event("go-on")).state.form == "as written"


def test_four_misses_leave_it_for_tomorrow() -> None:
    state = after(one(), "not_yet", "not_yet", "not_yet", "not_yet")
    assert advised(state) == "next"
    assert "tomorrow" in (state.advice.say if state.advice else "")


def test_not_heard_is_no_miss_and_three_times_waits() -> None:
    state = after(one(), "not_heard", "not_heard")
    assert (advised(state), state.failures) == ("again", 0)
    state = after(step(state, Event("go-on")).state, "not_heard")
    assert advised(state) == "wait"
    assert step(state, Event("go-on")).state.paused


def test_a_ladder_climbs_steps_back_and_stops_after_three_failures() -> None:
    state = after(one("climb", 6, load="high"), "clean", "clean", "not_yet")
    assert (state.exercise_index, advised(state)) == (2, "back")
    state = after(step(state, Event("go-on")).state, "clean", "not_yet", "clean", "not_yet")
    assert state.exercise_index == 2
    assert advised(state) == "end-register"
    assert state.register_over is not None
    assert "Stop here" in state.register_over


def test_two_range_notes_lost_in_a_row_end_the_register() -> None:
    state = after(one("climb", 6, load="high"), "clean", "clean", "not_yet", "not_yet")
    assert advised(state) == "end-register"
    assert "row" in (state.register_over or "")


def test_one_step_past_comfort_has_a_try_and_a_retry() -> None:
    climbing = one("climb", 6, load="high", comfort=1)
    state = after(climbing, "clean", "clean", "not_yet")
    assert (state.exercise_index, advised(state)) == (2, "again")
    state = after(step(state, Event("go-on")).state, "not_yet")
    assert advised(state) == "end-block"
    assert advised(after(climbing, "clean", "clean", "clean")) == "end-block"


@pytest.mark.parametrize(
    ("approach", "steps"),
    [("stop-here", ["end-register"]), ("one-more-try", ["again", "end-register"])],
)
def test_the_approach_decides_after_a_lost_range_note(approach: str, steps: list[str]) -> None:
    state = after(replace(one("climb", 6), lost_note=approach), "clean", "not_yet")
    found = [advised(state)]
    while len(found) < len(steps):
        state = after(step(state, Event("go-on")).state, "not_yet")
        found.append(advised(state))
    assert found == steps


def rested_after(*takes: tuple[float, float], load: str = "easy", **more: object) -> float:
    """Seconds of rest after a block of takes: (playing, sound) in seconds."""
    state = SessionState((plan(exercises=len(takes), load=load), plan()), **more)  # type: ignore[arg-type]
    for playing_s, take_s in takes:
        state = step(take(state, "clean", playing_s=playing_s, take_s=take_s), Event("go-on")).state
    assert (state.phase, state.block) == ("rest", 1)
    assert state.rest is not None
    return state.rest.seconds


def test_a_rest_makes_up_for_what_was_not_rested_between_takes() -> None:
    # Each take leaves its count-in of 4 s and 8 s before the next one: together 24 s of 120 s played.
    assert rested_after((60.0, 64.0), (60.0, 64.0)) == pytest.approx(96.0)
    assert rested_after((8.0, 12.0), (8.0, 12.0)) == pytest.approx(15.0)  # to put the instrument down
    assert rested_after((60.0, 64.0), (60.0, 64.0), load="high") == pytest.approx(156.0)
    assert rested_after((60.0, 64.0), (60.0, 64.0), extra_rest=True) == pytest.approx(156.0)
    # After heavy work half of it in any case.
    assert rested_after((40.0, 140.0), load="high") == pytest.approx(20.0)


def test_a_rest_that_is_played_through_lasts_longer() -> None:
    state = step(after(SessionState((plan(exercises=2), plan())), "clean", "clean"), Event("go-on")).state
    longer = step(state, Event("played", seconds=7.0)).state
    assert longer.rest is not None
    assert (longer.rest.seconds, longer.rest.heard_s) == (22.0, 7.0)
    assert step(longer, Event("rest-over")).state.phase == "preview"


def test_sets_rest_by_the_clock() -> None:
    state = step(after(one("sets", 2, rest_s=240.0), "clean"), Event("go-on")).state
    assert state.rest is not None
    assert (state.phase, state.rest.seconds, state.exercise_index) == ("rest", 240.0, 1)


def test_the_check_note_comes_first_every_ten_minutes_and_last() -> None:
    state = SessionState((plan(exercises=2),), checks_on=True, checking=True)
    state = step(take(state, "clean", endurance="fresh"), Event("go-on")).state
    assert (state.checking, state.exercise_index, len(state.checks)) == (False, 0, 1)
    state = replace(state, since_check_s=600.0)
    state = step(take(state, "clean"), Event("go-on")).state
    assert (state.checking, state.exercise_index) == (True, 1)
    state = step(take(state, "clean", endurance="fresh"), Event("go-on")).state
    assert (state.checking, state.exercise_index) == (False, 1)
    state = replace(state, since_check_s=60.0)
    state = step(take(state, "clean"), Event("go-on")).state
    assert (state.phase, state.checking) == ("preview", True)
    assert step(take(state, "clean", endurance="fresh"), Event("go-on")).state.phase == "done"


def test_tiring_rests_and_spent_leaves_out_what_is_heavy() -> None:
    begun = SessionState((plan("climb", 3, "high"), plan("climb", 3, "high"), plan()), checks_on=True, checking=True)
    tiring = step(
        take(begun, "clean", endurance=Freshness.TIRING, signs=("45 ms later in speaking",)), Event("go-on")
    ).state
    assert tiring.rest is not None
    assert (tiring.phase, tiring.rest.seconds, tiring.block) == ("rest", 300.0, 0)
    spent = take(begun, "clean", endurance="spent")
    assert "good place to stop" in (spent.advice.say if spent.advice else "")
    there = step(spent, Event("go-on")).state
    assert (there.block, there.current.load) == (2, "easy")


@pytest.mark.parametrize("word", ["lips hurt", "numb", "swollen or cut", "tooth or jaw", "dizzy"])
def test_what_hurts_stops_everything(word: str) -> None:
    playing = step(one(), Event("begin", KEY)).state
    stopped = step(playing, Event("report", word=word))
    assert (stopped.state.phase, stopped.state.stopped) == ("done", word)
    assert [effect.name for effect in stopped.effects] == ["drop-take"]
    assert stopped.state.caution


def test_tired_lips_get_five_minutes_and_nothing_heavy() -> None:
    state = step(SessionState((plan("climb", 3, "high"), plan())), Event("report", word="tired")).state
    assert state.rest is not None
    assert (state.phase, state.block, state.rest.seconds) == ("rest", 1, 300.0)


def test_overruling_is_recorded_and_a_pause_holds() -> None:
    state = step(take(one(), "not_yet"), Event("next")).state
    assert state.exercise_index == 1
    assert [(item.advised, item.chosen) for item in state.overruled] == [("again", "next")]
    paused = step(state, Event("pause")).state
    assert paused.paused
    assert not step(paused, Event("resume")).state.paused


def test_effects_name_the_take_and_a_dropped_take_leaves_no_shape() -> None:
    begun = step(one(), Event("begin", KEY))
    assert [(e.name, e.take_key) for e in begun.effects] == [("open-take", KEY)]
    assert [e.name for e in step(begun.state, Event("drop")).effects] == ["drop-take"]
    erased = step(take(one(), "not_yet"), Event("drop"))
    assert [e.name for e in erased.effects] == ["erase-take"]
    assert erased.state.takes == ()


@pytest.mark.parametrize(("names", "event"), [((), "ended"), (("begin",), "next"), (("begin", "ended"), "begin")])
def test_what_makes_no_sense_is_refused(names: tuple[str, ...], event: str) -> None:
    state = one()
    for name in names:
        state = step(state, Event(name, KEY)).state
    with pytest.raises(ConflictError, match="possible during"):
        step(state, Event(event, KEY))


EVENTS = (
    "begin", "counted-in", "ended", "judged", "drop", "go-on", "again", "next", "back", "easier", "harder", "skip",
    "pause", "resume", "rest-over", "played", "report", "stop",
)  # fmt: skip
OUTCOMES = ("clean", "close", "not_yet", "not_heard")


@given(st.lists(st.tuples(st.sampled_from(EVENTS), st.sampled_from(OUTCOMES)), max_size=60))
def test_no_sequence_of_events_leaves_the_house(happened: list[tuple[str, str]]) -> None:
    state = SessionState(
        (plan("climb", 3, "high", comfort=1), plan("sets", 2, rest_s=180.0), plan()), checks_on=True, checking=True
    )
    for name, outcome in happened:
        heard = TakeResult(
            Outcome(outcome), "pitch-drift", 200.0, 210.0, 50.0, "tiring" if outcome == "close" else "fresh"
        )
        try:
            state = step(state, Event(name, KEY, heard, seconds=3.0, word="tired")).state
        except ConflictError:
            continue
        assert state.phase in tuple(Phase)
        assert 0 <= state.exercise_index < state.current.exercises
        assert (state.phase in ("count-in", "listening", "judging")) <= (state.take_key is not None)
        assert (state.phase == "rest") == (state.rest is not None)


@given(st.lists(st.sampled_from(OUTCOMES), min_size=1, max_size=12), st.sampled_from(("fresh", "tiring", "spent")))
def test_whoever_plays_comes_to_the_end_rested(outcomes: list[str], lips: str) -> None:
    """A routine led without objection: it ends or waits for the microphone; rests as long as was played; no high work once over."""
    blocks = (plan(minutes=3.0), plan("climb", 4, "high", minutes=5.0), plan("in-order", 2, "medium", minutes=2.0))
    state = SessionState(blocks, checks_on=True, checking=True)
    for number in range(200):
        if state.phase == "done" or state.paused:
            break
        if state.phase == "rest":
            assert state.rest is not None
            assert state.rest.seconds >= 15.0
            state = step(state, Event("rest-over")).state
            continue
        assert not (state.register_over and state.current.load == "high" and not state.checking)
        played = state.block_playing_s + 8.0
        state = take(state, "clean" if state.checking else outcomes[number % len(outcomes)], endurance=lips)
        assert state.checking or state.block_playing_s == pytest.approx(played)
        before = state
        state = step(state, Event("go-on")).state
        if state.phase == "rest" and state.rest and state.rest.why == "as long as was played":
            assert state.rest.seconds >= before.block_playing_s
    assert state.phase == "done" or state.paused
    # Nobody tries one note more than three times.
    tries = Counter(mark.exercise_index for mark in state.takes if mark.block == 1 and mark.outcome == "not_yet")
    assert max(tries.values(), default=0) <= 3


def test_a_approach_decides_where_a_single_exercise_is_chosen() -> None:
    wide, scale = exercise_type_named("wide-slur"), exercise_type_named("one-octave-scale")
    assert wide.approach_params(DEFAULTS, INSTRUMENT)["first"] == "tongue"
    assert wide.approach_params(DEFAULTS | {"wide-slurs": "slur-first"}, INSTRUMENT)["first"] == "slur"
    assert scale.approach_params(DEFAULTS | {"loudness-upwards": "ease"}, INSTRUMENT)["loudness"] == "ease"
    assert exercise_type_named("two-partial-slur").approach_params(DEFAULTS, INSTRUMENT) == {"loudness": "grow"}
    assert exercise_type_named("long-low-tones").approach_params(DEFAULTS, INSTRUMENT) == {}


def test_a_block_that_is_through_early_goes_round_again_and_one_that_is_late_ends() -> None:
    early = replace(one(exercises=2, minutes=2.4), checks_on=False)
    state = after(early, "clean", "clean")
    assert advised(state) == "from-the-top"
    assert "start" in (state.advice.say if state.advice else "")
    state = step(state, Event("go-on")).state
    assert (state.phase, state.exercise_index) == ("preview", 0)
    # Four takes of 14 s with 8 s after each, and the shortest rest: 103 of 144 s. The sixth makes 147.
    state = after(state, "clean", "clean")
    assert advised(state) == "from-the-top"
    state = after(step(state, Event("go-on")).state, "not_yet", "not_yet")
    assert advised(state) == "end-block"
    assert "Time" in (state.advice.say if state.advice else "")
    assert advised(after(one(exercises=2, minutes=1.0), "clean", "clean")) == "end-block"
    # Heavy work is not repeated for the clock's sake, and a missed last exercise is no reason to go round.
    assert advised(after(one(exercises=1, minutes=9.0, load="high"), "clean")) == "end-block"
    assert advised(after(one(exercises=1, minutes=9.0), "not_yet", "not_yet")) == "easier"
    rounds = one(exercises=1, minutes=60.0)
    for expected in (*7 * ("from-the-top",), "end-block"):
        rounds = take(rounds, "clean")
        assert advised(rounds) == expected
        rounds = step(rounds, Event("go-on")).state


def test_a_block_ends_with_its_share_of_the_load_and_its_minutes_go_on() -> None:
    def in_day(most: float) -> SessionState:
        state = replace(one(exercises=9, minutes=6.0), checks_on=False)
        block = replace(state.plan[0], most_load=most)
        return replace(state, plan=(block, replace(block, title="after")))

    state = take(in_day(25.0), "clean", load=10.0)
    assert advised(state) == "next"
    # Half of one more take would go beyond it.
    state = take(step(state, Event("go-on")).state, "clean", load=10.0)
    assert advised(state) == "end-block"
    assert "enough of this" in (state.advice.say if state.advice else "")
    resting = step(state, Event("go-on")).state
    assert resting.rest is not None
    assert resting.rest.seconds == 15.0  # nobody waits for the block's minutes to pass
    assert resting.current.minutes == pytest.approx(12.0 - (state.block_used_s + 15.0) / 60.0, abs=0.01)
    assert resting.block_load == 0.0
    # It does not go round again either.
    last = take(replace(in_day(12.0), exercise_index=8), "clean", load=10.0)
    assert advised(last) == "end-block"


def test_a_block_without_good_notes_ends_and_its_time_goes_to_what_follows() -> None:
    state = replace(one(exercises=9, minutes=20.0), checks_on=False)
    state = replace(state, plan=(state.plan[0], replace(state.plan[0], minutes=5.0)))
    for index in (0, 0, 1, 1):
        state = take(state.at(0, index), "not_yet")
    assert advised(state) != "end-block"
    state = take(state.at(0, 2), "not_yet")
    assert advised(state) == "end-block"
    assert "good ones" in (state.advice.say if state.advice else "")
    after_it = step(state, Event("go-on")).state
    assert after_it.plan[1].minutes == pytest.approx(2.5 * 5.0)  # and never more than so much longer


def test_what_comes_back_begins_in_the_easier_form() -> None:
    state = one(exercises=2, minutes=5.0)
    easier = opening(replace(state, plan=(replace(state.plan[0], easier=True),), checks_on=False))
    assert easier.form == "slower"
    assert opening(replace(state, checks_on=False)).form == "as written"


def test_the_tempo_steps_with_success() -> None:
    state = replace(one(exercises=8), tempo_steps=True)
    state = after(state, "clean", "clean", "clean")
    assert state.tempo_percent == 108
    state = after(step(state, Event("go-on")).state, "not_yet", "not_yet")
    assert state.tempo_percent == 104
    assert after(one(exercises=8), "clean", "clean").tempo_percent == 100
    assert at_tempo(exercise_of("tuba-eb", "two-partial-slur"), 104).tempo_bpm == 75.0


def test_the_end_of_a_take_is_heard() -> None:
    exercise = exercise_of("tuba-eb", "two-partial-slur")
    sound, truth = play(exercise, seed=1)
    longer = Sound(np.concatenate((sound.samples, np.zeros(sound.rate, np.float32))), sound.rate)
    ending, trace = Ending(exercise, 0.0), track(longer)
    end = truth.notes[-1].release_s
    assert not ending.hear(trace.part(0.0, end + 0.8))
    assert ending.hear(trace.part(end + 0.8, end + 1.6))


def test_a_written_rest_is_no_end() -> None:
    exercise = exercise_of("trumpet-bb", "pair-ladder")
    sound, truth = play(exercise, seed=1)
    longer = Sound(np.concatenate((sound.samples, np.zeros(2 * sound.rate, np.float32))), sound.rate)
    ending, trace = Ending(exercise, 0.0), track(longer)
    assert not ending.hear(trace.part(0.0, truth.notes[2].onset_s))
    assert ending.hear(trace.part(truth.notes[2].onset_s, longer.duration_s))


def test_nothing_played_ends_too_and_breath_by_the_clock() -> None:
    exercise = exercise_of("tuba-eb", "long-low-tones")
    silence = Tracker(8_000).push(np.zeros(8_000 * 40, np.float32))
    assert Ending(exercise, 0.0).hear(silence)
    assert not Ending(exercise, 0.0).hear(silence.part(0.0, 10.0))
    breath = exercise_of("tuba-eb", "breath", rounds="1")
    assert not Ending(breath, 0.0).hear(silence.part(0.0, breath.duration_s))
    assert Ending(breath, 0.0).hear(silence.part(0.0, breath.duration_s + 1.0))


def day_with_spare(**more: object) -> SessionState:
    blocks = (plan(minutes=4.0, most_load=60.0), plan(spare=True))
    state = SessionState(tuple(replace(block, title=str(at)) for at, block in enumerate(blocks)))
    return replace(state, minutes=10.0, most_load=100.0, **more)  # type: ignore[arg-type]


def ended(state: SessionState) -> SessionState:
    state = take(replace(state, exercise_index=2), "not_yet", load=20.0)
    for _ in range(3):
        state = take(state.at(0, 2), "not_yet", load=5.0)
    return step(state, Event("go-on")).state


def test_a_spare_block_comes_for_the_minutes_and_the_load_that_are_left() -> None:
    after_it = ended(day_with_spare())
    assert after_it.block == 1
    assert after_it.phase == "rest"
    used = 4 * (14.0 + 8.0) + (after_it.rest.seconds if after_it.rest else 0.0)
    assert after_it.current.minutes == pytest.approx((600.0 - used) / 60.0, abs=0.02)
    assert after_it.current.most_load == pytest.approx(100.0 - 35.0)


def test_no_spare_block_for_lips_that_are_spent_nor_without_load_or_time() -> None:
    spent = (CheckMark("c", "spent", (), 60.0),)  # type: ignore[arg-type]
    assert ended(day_with_spare(checks=spent)).phase == "done"
    assert ended(day_with_spare(caution="tired lips")).phase == "done"
    assert ended(replace(day_with_spare(), minutes=3.0)).phase == "done"
    assert ended(replace(day_with_spare(), most_load=36.0)).phase == "done"


def test_where_the_load_is_used_up_breath_follows_which_asks_nothing_of_the_lips() -> None:
    state = day_with_spare()
    breath = replace(plan(spare=True), place="breath")
    used_up = replace(state, plan=(*state.plan, breath), most_load=36.0)
    after_it = ended(used_up)
    assert (after_it.block, after_it.current.most_load) == (2, None)
    assert after_it.current.minutes is not None
    assert after_it.current.minutes <= 5.0
    assert ended(replace(used_up, most_load=100.0)).block == 1
    spent = (CheckMark("c", "spent", (), 60.0),)  # type: ignore[arg-type]
    assert ended(replace(used_up, checks=spent)).phase == "done"
    assert ended(replace(used_up, minutes=3.0)).phase == "done"


def test_the_check_note_in_the_last_block_does_not_end_it() -> None:
    state = replace(one(exercises=1, minutes=30.0), checks_on=True, since_check_s=700.0, minutes=30.0)
    state = take(state, "clean")
    checking = step(state, Event("go-on")).state
    assert checking.checking
    assert not checking.ending
    after_it = step(take(checking, "clean", endurance="fresh"), Event("go-on")).state
    assert (after_it.phase, after_it.checking) == ("preview", False)


def test_the_open_palm_is_for_instruments_that_can_rest_on_it() -> None:
    one_more, palm = exercise_type_named("add-one-arpeggio"), DEFAULTS | {Ask.PRESSURE: Approach.OPEN_PALM}
    assert one_more.approach_params(palm, instrument_named("horn-f"))["hold"] == "resting on an open palm"
    assert "hold" not in one_more.approach_params(palm, instrument_named("tuba-eb"))
    assert "hold" not in one_more.approach_params(DEFAULTS, INSTRUMENT)
    hint = one_more.series(INSTRUMENT, one_more.approach_params(palm, INSTRUMENT)).exercises[0].hint
    assert hint is not None
    assert "open palm" in hint


def test_sirens_and_buzzing_say_nothing_of_the_instruments_warmth() -> None:
    """A siren's glides lie hundreds of cents from any note: taken for warmth, they made every later check note "tiring"."""

    def took(*exercise_types: str) -> SessionState:
        plan = tuple(
            BlockPlan(exercise_type, exercise_type, "tones", Load.EASY, Advance.IN_ORDER, 9)
            for exercise_type in (*exercise_types, "long-low-tones")
        )
        takes = [TakeMark("check", 0, 0, Outcome.CLEAN, None, check=True)]
        for at in range(len(plan)):
            takes += [TakeMark(f"{at}-{number}", at, number, Outcome.CLEAN, None) for number in range(8)]
        return SessionState(plan, takes=tuple(takes))

    for moving in ("siren", "buzz-answer", "find-the-middle", "breath"):
        before, after = warmth_takes(took(moving), "check")
        assert before
        assert {key[0] for key in (*before, *after)} == {"1"}
    before, after = warmth_takes(took("two-partial-slur"), "check")
    assert {key[0] for key in before} == {"0"}


@pytest.mark.parametrize(("outcome", "edge"), [(Outcome.CLEAN, 1), (Outcome.NOT_YET, 0)])
def test_the_tempo_rises_and_falls_within_its_bounds(outcome: Outcome, edge: int) -> None:
    low, high = advising._TEMPO_RANGE
    takes = tuple(TakeMark(str(number), 0, number, outcome, None) for number in range(2))
    at_edge = SessionState((plan(),), tempo_steps=True, tempo_percent=(low, high)[edge], takes=takes)
    assert advising._tempo(at_edge) == (low, high)[edge]
    between = replace(at_edge, tempo_percent=100)
    assert (advising._tempo(between) > 100) == bool(edge)
    assert 60 <= low < 100 < high <= 160


def test_what_a_block_took_too_long_for_comes_off_what_follows() -> None:
    blocks = (plan(exercises=1, minutes=1.0), plan(minutes=4.0), plan("sets", 2, rest_s=240.0, minutes=9.0))
    state = take(SessionState(blocks), "clean", playing_s=60.0, take_s=120.0)
    over = step(state, Event("go-on")).state
    late = (state.block_used_s + 15.0) / 60.0 - 1.0
    assert over.current.minutes == pytest.approx(4.0 - late, abs=0.01)
    assert over.plan[2].minutes == 9.0  # sets need what they need


def test_lips_that_tire_while_only_easy_work_is_left_finish_it() -> None:
    for following, advice in ((plan(), "next"), (plan("climb", 3, "high"), "rest")):
        state = replace(SessionState((plan(exercises=2), following), checks_on=True, checking=True))
        assert advised(take(state, "clean", endurance="tiring")) == advice


def test_the_end_of_the_register_bars_no_pedal_sets_and_worn_lips_do() -> None:
    sets = plan("sets", 2, "high", rest_s=240.0)
    state = replace(SessionState((plan("climb", 3, "high"), sets)), register_over="two notes in a row failed")
    assert not state.is_barred(sets)
    assert state.is_barred(state.current)
    assert replace(state, register_over=TIRED_LIPS).is_barred(sets)
    assert replace(state, checks=(CheckMark("c", Freshness.SPENT, (), 0.0),)).is_barred(sets)
    assert replace(state, plan=(plan("limit", 3, "high"), sets)).is_barred(sets)
