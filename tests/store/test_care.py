"""Care binds whatever is begun: by itself or as a routine, said once, and kept when it was begun all the same."""

from datetime import UTC, datetime, timedelta

import pytest

from orexis.core.coach import CAUTIONS, Care, Lips, LipsToday, advised_against
from orexis.core.exercises import EXERCISE_TYPES, TO_THE_LIMIT, Load
from orexis.core.planning import KeptBlock
from orexis.core.practice import Event, EventName
from orexis.core.rehearsal import flawless
from orexis.errors import CareError
from orexis.services.application import Application


@pytest.mark.parametrize(
    ("load", "care", "today", "said"),
    [
        (Load.HIGH, Care(), LipsToday(), None),
        (Load.HIGH, Care(braces=True), LipsToday(), None),
        (Load.HIGH, Care(returning=True), LipsToday(), "doctor"),
        (Load.MEDIUM, Care(returning=True), LipsToday(), None),
        (Load.HIGH, Care(), LipsToday(Lips.TIRED), "tired"),
        (Load.MEDIUM, Care(), LipsToday(Lips.TIRED), None),
        (Load.MEDIUM, Care(), LipsToday(Lips.SORE), "sore"),
        (Load.EASY, Care(), LipsToday(Lips.SORE), None),
        (Load.HIGH, Care(), LipsToday(spent=True), "worn out"),
        (Load.MEDIUM, Care(), LipsToday(spent=True), None),
        (Load.EASY, Care(), LipsToday(stopped="numb"), "numb"),
        (Load.HIGH, Care(), LipsToday(heavy_over="Two notes in a row failed."), "two notes in a row failed"),
        (Load.HIGH, Care(), LipsToday(heavy_yesterday=True), "Yesterday was hard"),
        (Load.MEDIUM, Care(), LipsToday(heavy_yesterday=True), None),
    ],
)
def test_what_speaks_against_it(load: Load, care: Care, today: LipsToday, said: str | None) -> None:
    why = advised_against(load, care, today)
    assert (why is None) if said is None else (why is not None and said in why)


def test_after_an_injury_a_single_heavy_exercise_is_refused_once_and_then_kept(house: Application) -> None:
    player = house.players.add(name="Ida", standard="developing", instrument="trumpet-bb")
    house.players.change_settings(player.id, {"returning": True})
    with pytest.raises(CareError, match="doctor"):
        house.sessions.open(player.id, "pedal-sets", {})
    session = house.sessions.open(player.id, "pedal-sets", {}, anyway=True)
    assert session.state.against is not None
    assert session.state.against.startswith(CAUTIONS["return"])
    assert house.sessions.open(player.id, "long-low-tones", {}).state.against is None


def test_a_report_that_ended_the_day_holds_for_all_of_it_and_not_for_tomorrow(house: Application) -> None:
    player = house.players.add(name="Ida", standard="developing", instrument="trumpet-bb")
    at = datetime(2026, 3, 4, 18, 0, tzinfo=UTC)
    session = house.sessions.open(player.id, "long-low-tones", {}, at=at)
    house.sessions.step(session.id, Event(EventName.REPORT, word="numb"))
    with pytest.raises(CareError, match="Numb lips"):
        house.sessions.open(player.id, "long-low-tones", {}, at=at + timedelta(seconds=1))
    with pytest.raises(CareError):
        house.sessions.open_day(player.id, 15, at=at + timedelta(seconds=1))
    house.sessions.open(player.id, "long-low-tones", {}, at=at + timedelta(days=1))


def test_sore_lips_at_the_check_in_hold_for_single_exercises(house: Application) -> None:
    player = house.players.add(name="Ida", standard="developing", instrument="trumpet-bb")
    house.sessions.open_day(player.id, 15, lips="sore")
    with pytest.raises(CareError, match="sore"):
        house.sessions.open(player.id, "one-octave-scale", {})
    assert house.sessions.open(player.id, "long-low-tones", {}).id


def test_a_heavy_block_held_on_to_is_said_before_the_day_and_begun_all_the_same(house: Application) -> None:
    player = house.players.add(name="Wim Olde", standard="developing", instrument="trumpet-bb")
    at = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)
    wish = [KeptBlock("step-ladder", 6.0)]
    for arranged in (False, True):
        with pytest.raises(CareError, match="Semitone ladder"):
            house.sessions.open_day(player.id, 30, lips="sore", kept=wish, arranged=arranged, at=at)
    session = house.sessions.open_day(player.id, 30, lips="sore", kept=wish, anyway=True, at=at)
    assert "step-ladder" in {block.exercise_type for block in session.state.plan}
    assert "Semitone ladder" in (session.state.against or "")


def test_no_more_heavy_work_holds_for_all_of_today(house: Application) -> None:
    player = house.players.add(name="Ida", standard="advanced", instrument="trumpet-bb")
    at = datetime(2026, 3, 4, 10, 0, tzinfo=UTC)
    heavy = {exercise_type.id for exercise_type in EXERCISE_TYPES.values() if exercise_type.load == Load.HIGH}
    session = house.sessions.open(player.id, "step-ladder", {}, at=at)
    house.sessions.step(session.id, Event(EventName.REPORT, word="tired"))
    later = at + timedelta(hours=4)
    with pytest.raises(CareError, match="over for today: your lips are tired"):
        house.sessions.open(player.id, "pair-ladder", {}, at=later)
    day = house.sessions.open_day(player.id, 60, at=later)
    assert not {block.exercise_type for block in day.state.plan} & heavy
    assert house.sessions.open(player.id, "pair-ladder", {}, at=at + timedelta(days=1)).state.against is None


def test_after_a_climb_to_the_limit_tomorrow_has_no_heavy_work_either(house: Application) -> None:
    player = house.players.add(name="Ida", standard="advanced", instrument="trumpet-bb")
    at = datetime(2026, 3, 4, 10, 0, tzinfo=UTC)
    session = house.sessions.open(player.id, "triad-with-reset", {"climb": TO_THE_LIMIT}, at=at)
    house.takes.measured(session.id, flawless, at=at)
    with pytest.raises(CareError, match="Yesterday was hard"):
        house.sessions.open(player.id, "pair-ladder", {}, at=at + timedelta(days=1))
    assert house.sessions.open(player.id, "pair-ladder", {}, at=at + timedelta(days=2)).state.against is None
