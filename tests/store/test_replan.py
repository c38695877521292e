"""A planned day that gives way in its session: other blocks stand in the record, with their exercises, and the rest goes on."""

from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from sqlalchemy import select

from orexis.core.coach import Freshness, Outcome
from orexis.core.exercises import Exercise, Load, Medium
from orexis.core.measures import Measures
from orexis.core.planning import KeptBlock
from orexis.core.player import parse_flaws
from orexis.core.practice import Event, EventName, Phase
from orexis.core.rehearsal import flawless
from orexis.core.rehearsal.measured import measured
from orexis.services.application import Application
from orexis.services.documents import to_json
from orexis.services.values.sessions import PracticeSession, SessionSummary
from orexis.store.models import SessionBlockRow, SessionRow

START = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)


def opened(house: Application, **more: object) -> PracticeSession:
    person = house.players.add(name="Odo Lenk", standard="developing", instrument="tuba-eb", part=None)
    house.players.change_settings(person.id, {"checks": False})
    return house.sessions.open_day(person.id, 30, at=START, **more)  # type: ignore[arg-type]


def misses(exercise: Exercise) -> Measures:
    """No note of it speaks."""
    if exercise.medium != Medium.INSTRUMENT:
        return flawless(exercise)
    return measured(exercise, parse_flaws([f"miss=1@{note.id}" for note in exercise.notes]))


def on_to(house: Application, session: PracticeSession, place: str) -> PracticeSession:
    while session.state.current.place != place:
        house.takes.happen(session.id, Event(EventName.SKIP))
        session = house.sessions.get(session.id)
    return session


def run_dry(house: Application, session: PracticeSession) -> PracticeSession:
    """Nothing of the present block is held, until the next begins."""
    here = session.state.block
    for number in range(20):
        take = house.takes.measured(session.id, misses, at=START + timedelta(minutes=2 + number))
        assert take.verdict.outcome != Outcome.CLEAN
        house.takes.happen(session.id, Event(EventName.GO_ON))
        session = house.sessions.get(session.id)
        if session.state.block != here:
            return session
    raise AssertionError("the block did not end")


def stored(house: Application, session_id: str) -> list[int]:
    with house.record.database.reading() as db:
        query = select(SessionBlockRow.number).where(SessionBlockRow.session_id == session_id)
        return sorted(db.scalars(query))


@pytest.fixture
def house(tmp_path: Path):  # type: ignore[no-untyped-def]
    made = Application(tmp_path)
    yield made
    made.close()


def test_the_rest_of_the_day_is_chosen_anew_and_played(house: Application) -> None:
    session = opened(house, kept=(KeptBlock("two-partial-slur", 9.0),))
    was = [block.exercise_type for block in session.state.plan]
    session = run_dry(house, on_to(house, session, "slurs"))
    now = [block.exercise_type for block in session.state.plan]
    new = set(now) - set(was)
    assert new
    assert "Added" in session.state.changed
    assert stored(house, session.id) == list(range(-1, len(now)))
    # Each block's exercises are those of its exercise type, and the session's page has them.
    seen = [session.block.exercise_type]
    while session.state.phase != Phase.DONE and not session.state.current.spare:
        assert session.block.exercise_type == session.state.current.exercise_type
        assert session.state.exercise_index < len(session.block.exercises)
        house.takes.measured(session.id, flawless, at=START + timedelta(minutes=20))
        house.takes.happen(session.id, Event(EventName.SKIP))
        session = house.sessions.get(session.id)
        seen.append(session.block.exercise_type)
    assert len(set(seen)) >= 3
    page = house.log.session(session.id)
    assert [block.title for block in page.blocks if block.takes][-1] in {block.title for block in session.state.plan}


def test_what_was_left_out_does_not_come_back_in(house: Application) -> None:
    session = run_dry(house, on_to(house, opened(house), "slurs"))
    new = _exercise_types(session)[0]
    again = opened(house, without=(new,))
    assert again.params["without"] == new
    again = run_dry(house, on_to(house, again, "slurs"))
    assert new not in _exercise_types(again)


def _exercise_types(session: PracticeSession) -> list[str]:
    return [block.exercise_type for block in session.state.plan[session.state.block :]]


def test_a_day_that_the_player_arranged_keeps_its_order(house: Application) -> None:
    own = (
        KeptBlock("breath", 1.0),
        KeptBlock("two-partial-slur", 8.0),
        KeptBlock("one-octave-scale", 8.0),
        KeptBlock("tune", 5.0),
    )
    session = on_to(house, opened(house, kept=own, arranged=True), "slurs")
    session = run_dry(house, session)
    assert [block.exercise_type for block in session.state.plan] == [block.exercise_type for block in own]
    assert session.state.changed == ""


def test_another_instrument_in_hand_leaves_the_day_as_it_was(house: Application) -> None:
    session = on_to(house, opened(house), "slurs")
    was = [block.exercise_type for block in session.state.plan]
    house.players.change(
        session.player_id, name="Odo Lenk", standard="developing", instrument="trumpet-bb", part=None, a4_hz=440.0
    )
    session = run_dry(house, session)
    assert [block.exercise_type for block in session.state.plan] == was


def test_what_an_earlier_session_of_the_day_said_of_the_lips_holds_in_what_is_chosen(house: Application) -> None:
    person = house.players.add(name="Odo Lenk", standard="advanced", instrument="tuba-eb", part=None)
    house.players.change_settings(person.id, {"checks": False})
    first = house.sessions.open_day(person.id, 10, at=START)
    spent = SessionSummary(checks=(Freshness.SPENT,))
    with house.record.database.writing() as db:
        db.get_one(SessionRow, first.id).summary = to_json(spent)
    later = START + timedelta(hours=2)
    session = house.sessions.open_day(person.id, 60, at=later)
    for _ in range(3):
        house.takes.happen(session.id, Event(EventName.SKIP))
    plan = house.sessions.get(session.id).state.plan
    assert [block.exercise_type for block in plan] != [block.exercise_type for block in session.state.plan]
    assert all(block.load != Load.HIGH for block in plan)
