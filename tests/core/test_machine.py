"""The session as a state machine."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from orexis.core.player import play
from orexis.core.practice import PHASES, Ending, Event, SessionState, step
from orexis.core.sound import Sound
from orexis.core.trace import Tracker, track
from orexis.errors import ConflictError
from tests.conftest import figure_of

KEY = "a" * 32


def run(state: SessionState, *names: str) -> SessionState:
    for name in names:
        outcome = {"judged": "not yet", "judged-held": "held"}.get(name)
        event = Event(name.split("-held")[0], KEY, outcome, "sag" if outcome == "not yet" else None)
        state = step(state, event).state
    return state


def test_a_take_from_begin_to_verdict() -> None:
    state = run(SessionState(3), "begin", "counted-in", "ended", "judged-held")
    assert (state.phase, state.advice, state.takes[0].outcome) == ("verdict", "next", "held")
    assert run(state, "next").figure_index == 1


def test_a_miss_advises_once_more_and_is_counted() -> None:
    state = run(SessionState(3), "begin", "ended", "judged", "again", "begin", "ended", "judged")
    assert state.advice == "again"
    assert state.misses == {"sag": 2}
    assert run(state, "next").misses == {}


def test_the_last_figure_ends_the_session() -> None:
    assert run(SessionState(1), "begin", "ended", "judged-held", "next").phase == "done"


def test_effects_name_the_take() -> None:
    begun = step(SessionState(2), Event("begin", KEY))
    assert [(e.name, e.take_key) for e in begun.effects] == [("open-take", KEY)]
    assert [e.name for e in step(begun.state, Event("drop")).effects] == ["drop-take"]
    judged = run(begun.state, "ended", "judged")
    erased = step(judged, Event("drop"))
    assert [e.name for e in erased.effects] == ["erase-take"]
    assert erased.state.takes == ()


@pytest.mark.parametrize(("names", "event"), [((), "ended"), (("begin",), "next"), (("begin", "ended"), "begin")])
def test_what_makes_no_sense_is_refused(names: tuple[str, ...], event: str) -> None:
    with pytest.raises(ConflictError, match="not possible"):
        run(SessionState(2), *names, event)


EVENTS = ("begin", "counted-in", "ended", "judged", "drop", "again", "next", "back", "stop")


@given(st.lists(st.sampled_from(EVENTS), max_size=30))
def test_no_sequence_of_events_leaves_the_house(names: list[str]) -> None:
    state = SessionState(3)
    for name in names:
        try:
            state = step(state, Event(name, KEY, "held")).state
        except ConflictError:
            continue
        assert state.phase in PHASES
        assert 0 <= state.figure_index < 3
        assert (state.phase in ("count-in", "listening", "judging")) <= (state.take_key is not None)


def test_the_end_of_a_take_is_heard() -> None:
    figure = figure_of("tuba-eb", "two-partial-slur")
    sound, truth = play(figure, seed=1)
    longer = Sound(np.concatenate((sound.samples, np.zeros(sound.rate, np.float32))), sound.rate)
    ending, trace = Ending(figure, 0.0), track(longer)
    end = truth.notes[-1].release_s
    assert not ending.hear(trace.part(0.0, end + 0.8))
    assert ending.hear(trace.part(end + 0.8, end + 1.6))


def test_nothing_played_ends_too() -> None:
    figure = figure_of("tuba-eb", "long-low-tones")
    silence = Tracker(8_000).push(np.zeros(8_000 * 20, np.float32))
    assert Ending(figure, 0.0).hear(silence)
    assert not Ending(figure, 0.0).hear(silence.part(0.0, 10.0))
