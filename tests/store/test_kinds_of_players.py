"""Players of known kind, led through whole sessions: what is said first, when it stops, what becomes theirs.

`pytest tests/store/test_kinds_of_players.py -s` prints the table.
"""

from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

import numpy as np
import pytest

from orexis.core.exercises import Exercise
from orexis.core.player import Flaws, SimulatedLips, parse_flaws, performance_flaws, person, play
from orexis.core.practice import Event, SessionState, progression
from orexis.core.sound import Sound
from orexis.services.application import Application
from orexis.services.values.players import Player
from orexis.services.values.sessions import PracticeSession
from tests.conftest import some
from tests.core.test_ear import talk

START = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)
Performer = Callable[[PracticeSession, int], Sound]
TABLE: list[str] = []


@dataclass(frozen=True)
class Kind:
    name: str
    exercise_type: str
    params: dict[str, str]
    flaws: Callable[[Exercise, np.random.Generator], list[str]]
    reason: str


def sliding(exercise: Exercise, rng: np.random.Generator) -> list[str]:
    return [f"entry=-{rng.uniform(60, 95):.0f}c/{rng.uniform(320, 420):.0f}ms", f"sag={rng.normal(-3, 3):.0f}c"]


def catching(exercise: Exercise, rng: np.random.Generator) -> list[str]:
    return [f"caught=5/{rng.uniform(60, 110):.0f}ms@n{rng.integers(2, 4)}", f"centre={rng.normal(0, 4):.0f}c"]


def sagging(exercise: Exercise, rng: np.random.Generator) -> list[str]:
    return [f"sag=-{rng.uniform(24, 36):.0f}c", f"centre={rng.normal(0, 3):.0f}c"]


KINDS = [
    Kind("always slides in from below", "long-low-tones", {"steps": "2", "beats": "6"}, sliding, "attack"),
    Kind("catches the fifth partial", "two-partial-slur", {"partial": "3"}, catching, "clipped-partial"),
    Kind("air sags", "long-low-tones", {"steps": "2", "beats": "6"}, sagging, "pitch-drift"),
]


@pytest.fixture(scope="module", autouse=True)
def printed() -> Iterator[None]:
    yield
    print("\n\n| player | session | found |\n|---|---|---|\n" + "\n".join(TABLE))


def somebody(house: Application, instrument: str = "tuba-eb") -> Player:
    return house.players.add(name="Wim Olde", standard="developing", instrument=instrument, part=None)


def led(house: Application, session: PracticeSession, performer: Performer, *, at: datetime = START) -> SessionState:
    """A whole session: every take played and heard, every advice followed, until it is over or waits."""
    for number in range(150):
        now = house.sessions.get(session.id)
        if now.state.phase == "done" or now.state.paused:
            break
        if now.state.phase == "rest":
            house.takes.happen(session.id, Event("rest-over"))
            continue
        sound = performer(now, number)
        house.takes.whole(
            session.id,
            sound,
            source="simulated",
            first_beat_sample=0,
            device={"label": "x"},
            at=at + timedelta(minutes=number),
        )
        house.takes.happen(session.id, Event("go-on"))
    return house.sessions.get(session.id).state


def flawed(make: Callable[[Exercise, np.random.Generator], list[str]], seed: int) -> Performer:
    def perform(session: PracticeSession, number: int) -> Sound:
        rng = np.random.default_rng((seed, number))
        sound, _ = play(
            session.exercise, flaws=parse_flaws(make(session.exercise, rng)), seed=seed + number, rate=22_050
        )
        return sound

    return perform


@pytest.mark.parametrize("kind", some(KINDS, 1), ids=[kind.name for kind in KINDS])
def test_the_habit_is_named_first(house: Application, kind: Kind) -> None:
    player = somebody(house)
    session = house.sessions.open(player.id, kind.exercise_type, kind.params)
    state = led(house, session, flawed(kind.flaws, 11))
    reasons = Counter(take.reason for take in state.takes)
    share = reasons[kind.reason] / len(state.takes)
    TABLE.append(
        f"| {kind.name} | {kind.exercise_type}, {len(state.takes)} takes | {kind.reason} first in {100 * share:.0f}% |"
    )
    assert len(state.takes) >= 10
    assert share >= 0.9
    forms = {take.form for take in state.takes}
    assert {"as written", "slower"} <= forms


@pytest.mark.broad
def test_one_who_tires_is_heard_tiring_then_spent_and_high_work_ends(
    house: Application, monkeypatch: pytest.MonkeyPatch
) -> None:
    # Checks come every twenty seconds of playing here instead of every ten, so that a session is short.
    monkeypatch.setattr(progression, "CHECK_EVERY_S", 20.0)
    player = somebody(house, "trumpet-bb")
    someone = person(4, standard="advanced")
    session = house.sessions.open_day(player.id, 30)

    def perform(now: PracticeSession, number: int) -> Sound:
        # Misses and caught slots are left out: this player's only trouble is strength.
        lips = SimulatedLips(someone.strength_s * min(2.2, now.state.playing_s / 70.0))
        keep = {"breath", "noise", "wobble", "response", "centre"}
        flaws = performance_flaws(someone, lips, now.exercise, seed=number).flaws if now.state.checking else ()
        sound, _ = play(now.exercise, flaws=Flaws(tuple(f for f in flaws if f.name in keep)), seed=number)
        return sound

    state = led(house, session, perform)
    states = [check.state for check in state.checks]
    TABLE.append(f"| tires | routine of 30 minutes, {len(state.takes)} takes | checks {', '.join(map(str, states))} |")
    assert state.phase == "done"
    assert states[0] == "fresh"
    assert "tiring" in states
    assert "spent" in states
    assert states.index("tiring") < states.index("spent")
    assert "worn out" in (state.register_over or "")
    spent_at = next(
        i for i, take in enumerate(state.takes) if take.take_id == state.checks[states.index("spent")].take_id
    )
    loads = [state.plan[take.block].load for take in state.takes[spent_at + 1 :] if not take.check]
    assert loads
    assert "high" not in loads


def climb_day(house: Application, player: Player, day: int, fails_from: int) -> None:
    """A step ladder from E flat; the note `fails_from` and all above it sag."""
    session = house.sessions.open(
        player.id, "step-ladder", {"start": "Eb3", "steps": "4"}, at=START + timedelta(days=day)
    )

    def perform(now: PracticeSession, number: int) -> Sound:
        midi = now.exercise.notes[0].pitch.midi
        flaws = ["centre=30c", "wobble=25c/3hz"] if midi >= fails_from else []
        sound, _ = play(now.exercise, flaws=parse_flaws(flaws), seed=100 * day + number)
        return sound

    led(house, session, perform, at=START + timedelta(days=day))


def test_one_who_climbs_owns_a_range_note_on_the_third_day_and_loses_it_on_the_second_failing_one(
    house: Application,
) -> None:
    player = somebody(house)
    e_flat, top = 51, 54
    seen = []
    for day in (0, 2, 5):
        climb_day(house, player, day, fails_from=99)
        seen.append(house.range_summary(player).range_notes[top].state)
    assert seen == ["reaching", "reaching", "in_range"]
    in_range_on = house.range_summary(player).range_notes[top].in_range_since
    assert in_range_on == (START + timedelta(days=5)).date().toordinal()
    assert house.range_summary(player).range.high == top
    assert house.range_summary(player).history[-1][1].own == house.range_summary(player).range
    for day in (7, 9):
        climb_day(house, player, day, fails_from=top)
        seen.append(house.range_summary(player).range_notes[top].state)
    TABLE.append(f"| climbs, then falls back | step ladder on five days | top note: {', '.join(seen)} |")
    assert seen[3:] == ["in_range", "reaching"]
    assert house.range_summary(player).range_notes[e_flat].state == "in_range"


def test_a_silent_room_is_no_bad_playing(house: Application) -> None:
    session = house.sessions.open(somebody(house).id, "long-low-tones", {})
    state = led(house, session, flawed(lambda exercise, rng: ["silent=1", "noise=-55db"], 1))
    TABLE.append(f"| silent room | long low tones | {', '.join(t.reason or '' for t in state.takes)}; then waits |")
    assert [(take.outcome, take.reason) for take in state.takes] == [("not_heard", "silence")] * 3
    assert state.paused
    assert state.failures == 0


def test_a_talker_in_the_room_is_no_bad_playing(house: Application) -> None:
    session = house.sessions.open(somebody(house).id, "long-low-tones", {})
    state = led(house, session, lambda now, number: talk(8.0))
    TABLE.append(f"| talker | long low tones | {', '.join(t.reason or '' for t in state.takes)}; then waits |")
    assert [(take.outcome, take.reason) for take in state.takes] == [("not_heard", "talking")] * 3


@pytest.mark.parametrize("phase", ["preview", "count-in", "listening", "judging", "verdict", "rest", "done"])
def test_a_restart_in_each_state_loses_no_take_and_comes_back(tmp_path: Path, phase: str) -> None:
    first = Application(tmp_path / "data")
    session = first.sessions.open_day(somebody(first).id, 15)
    sound, _ = play(first.sessions.get(session.id).exercise, seed=1)
    first.takes.whole(session.id, sound, source="simulated", first_beat_sample=0, device={"label": "x"}, at=START)
    key = "c" * 32
    steps = {
        "preview": ["go-on"],
        "count-in": ["go-on", "begin"],
        "listening": ["go-on", "begin", "counted-in"],
        "judging": ["go-on", "begin", "counted-in", "ended"],
        "verdict": [],
        "rest": ["go-on", "play", "skip"],
        "done": ["go-on", "stop"],
    }[phase]
    for name in steps:
        if name == "play":
            sound, _ = play(first.sessions.get(session.id).exercise, seed=2)
            first.takes.whole(
                session.id, sound, source="simulated", first_beat_sample=0, device={"label": "x"}, at=START
            )
        else:
            first.sessions.step(session.id, Event(name, key))
    before = first.sessions.get(session.id).state
    first.record.close()
    again = Application(tmp_path / "data")
    found = again.sessions.get(session.id)
    assert found.state == before
    assert found.state.phase == phase
    assert found.exercise == again.sessions.get(session.id).exercise
    assert len(found.state.takes) == 1 + steps.count("play")
    again.record.close()
