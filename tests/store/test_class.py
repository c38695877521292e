"""A teacher's class: who practised, what is given to whom, and that there is none without a teacher."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import date, timedelta
from pathlib import Path

import pytest

from orexis.core.planning import GoalKind, GoalTarget
from orexis.core.practice import Event, EventName
from orexis.core.practice.state import WORN_LIPS
from orexis.core.rehearsal.measured import flawless
from orexis.errors import ConflictError, MissingError
from orexis.services.application import Application
from orexis.services.clock import local_day, now
from orexis.services.documents import from_json, to_json
from orexis.services.lessons.use import ChosenItem, LessonWish
from orexis.services.material.exercises import ExerciseRequest
from orexis.services.values.players import Player
from orexis.services.values.sessions import SessionSummary
from orexis.store.models import SessionRow


@pytest.fixture
def house(tmp_path: Path) -> Iterator[Application]:
    made = Application(tmp_path)
    yield made
    made.close()


def add(house: Application, name: str, instrument: str = "trumpet-bb") -> Player:
    return house.players.add(name=name, standard="developing", instrument=instrument)


def teacher_of(house: Application) -> Player:
    return house.players.change_settings(add(house, "Rosa Lind").id, {"teaches": True})


def soon() -> date:
    return date.fromordinal(local_day(now())) + timedelta(days=200)


def lesson_of(house: Application, teacher: Player) -> str:
    """A lesson with an exercise and a goal."""
    wish = ExerciseRequest("two-partial-slur", {})
    own = house.material.keep(teacher, "Slurs of the week", wish, None)
    goal = house.goals.add(teacher.id, GoalTarget(GoalKind.MINUTES, 40.0), soon())
    chosen = LessonWish(
        "everybody", "Week 1", exercises=(ChosenItem(own.id, "slow air"),), goals=(ChosenItem(goal.id),)
    )
    return house.lessons.lesson(teacher.id, chosen).id


def test_there_is_no_class_without_a_teacher(house: Application) -> None:
    add(house, "Ada Brook")
    assert house.class_week().members == ()
    assert len(house.at_a_glance()) == 1


def test_a_class_is_everybody_but_its_teachers_and_only_the_class_shows_it(house: Application) -> None:
    teacher, ada = teacher_of(house), add(house, "Ada Brook")
    session = house.sessions.open(ada.id, "long-low-tones", {"steps": "3"})
    house.takes.measured(session.id, flawless, at=now())
    house.takes.happen(session.id, Event(EventName.REPORT, word="lips hurt"))
    shown = house.class_week()
    assert shown.teachers == (teacher.name,)
    assert [one.player_id for one in shown.members] == [ada.id]
    today = date.fromordinal(local_day(now()))
    member = shown.members[0]
    assert (member.last_day, [minutes > 0 for minutes in member.minutes].index(True)) == (
        today.isoformat(),
        today.weekday(),
    )
    assert (member.lips, member.lips_day) == ("lips hurt", today.isoformat())
    assert house.at_a_glance() == ()


def test_a_lesson_is_given_to_all_once(house: Application) -> None:
    teacher, ada, tam = teacher_of(house), add(house, "Ada Brook"), add(house, "Tam Perrow")
    lesson = lesson_of(house, teacher)
    assert house.lessons.give(lesson, [ada.id], added=False) == ()
    assert [one.open_lessons for one in house.class_week().members] == [1, 0]
    assert house.lessons.give(lesson, [ada.id, tam.id], added=True) == ()
    for person in (ada, tam):
        received = [one for one in house.lessons.all(person.id) if one.way == "received"]
        assert [(one.sender, one.lesson.to if one.lesson else "") for one in received] == [(teacher.name, person.name)]
        assert [one.name for one in house.material.own_exercises(person)] == ["Slurs of the week"]
        assert [goal.target.value for goal in house.goals.all(person.id)] == [40.0]
    assert [one.open_lessons for one in house.class_week().members] == [0, 0]
    assert house.lessons.give(lesson, [ada.id], added=True) == (), "given again it changes nothing"
    assert [lesson.title for lesson in house.lessons.given_to(ada.id)] == ["Week 1"]


def test_what_cannot_be_given_is_said(house: Application) -> None:
    teacher, ada = teacher_of(house), add(house, "Ada Brook")
    lesson = lesson_of(house, teacher)
    house.goals.add(ada.id, GoalTarget(GoalKind.MINUTES, 40.0), soon())
    refused = house.lessons.give(lesson, [ada.id], added=True)
    assert len(refused) == 1
    assert refused[0].startswith("Ada Brook: ")
    with pytest.raises(MissingError):
        house.lessons.give(lesson, ["nobody"], added=True)
    received = next(one for one in house.lessons.all(ada.id) if one.way == "received")
    with pytest.raises(ConflictError):
        house.lessons.give(received.id, [ada.id], added=True)


def test_a_goal_of_the_class_is_a_note_as_each_reads_it(house: Application) -> None:
    teacher_of(house)
    trumpet, horn = add(house, "Ada Brook"), add(house, "Tam Perrow", "horn-f-bb")
    tuba = add(house, "Wim Darrow", "tuba-eb")
    refused = house.goals.add_to_all([trumpet.id, horn.id, tuba.id], GoalKind.OWN, "A5", soon(), joined=True)
    assert [one.partition(":")[0] for one in refused] == ["Wim Darrow"]
    notes = [house.goals.all(person.id)[0].target.value for person in (trumpet, horn)]
    assert notes == [79.0, 74.0], "G5 and D5 as they sound"
    goals = house.class_week().goals
    assert [(goal.says, len(goal.players)) for goal in goals] == [("play A5 reliably in a slur or scale", 2)]
    assert all(0.0 <= way.share < 1.0 for way in goals[0].players)


def test_high_work_that_ended_by_misses_is_no_report_of_lips(house: Application) -> None:
    teacher_of(house)
    ada = add(house, "Ada Brook")
    session = house.sessions.open(ada.id, "long-low-tones", {"steps": "3"})
    house.takes.measured(session.id, flawless, at=now())
    for why, told in (("Three lost. No more high work today.", None), (WORN_LIPS, WORN_LIPS)):
        with house.record.database.writing() as db:
            row = db.get_one(SessionRow, session.id)
            row.summary = to_json(replace(from_json(SessionSummary, row.summary), heavy_over=why))
        assert house.class_week().members[0].lips == told
