"""A lesson there, a hearing and an answer back: between two folders that know nothing of each other."""

import hashlib
import io
import json
import shutil
import zipfile
from collections.abc import Iterator
from dataclasses import replace
from datetime import timedelta
from pathlib import Path

import pytest
from sqlalchemy import select

from orexis.core.instruments import instrument_named
from orexis.core.planning import GoalKind, GoalTarget
from orexis.core.player import play
from orexis.errors import ConflictError, InputError, MissingError
from orexis.files.musicxml import exercise_to_musicxml
from orexis.services import clock
from orexis.services.application import Application
from orexis.services.archive import bring_in, check, taken_out, write_export
from orexis.services.lessons.use import ChosenItem, LessonWish
from orexis.services.material.exercises import ExerciseRequest
from orexis.services.projections.rebuild import bring_up_to_date
from orexis.services.values.lessons import Exchange
from orexis.services.values.planning import OwnBlock
from orexis.store.models import InstrumentRow, ProjectionRow
from tests.conftest import exercise_of

from .test_moving import filled


@pytest.fixture(scope="module")
def folders(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Two records, made once and copied for each test."""
    folder = tmp_path_factory.mktemp("two")
    for place, name in (("student", "Piran Voss"), ("teacher", "Wenna Tull")):
        filled(folder / place, name).close()
    return folder


@pytest.fixture
def student(folders: Path, tmp_path: Path) -> Iterator[Application]:
    shutil.copytree(folders / "student", tmp_path / "student")
    house = Application(tmp_path / "student")
    yield house
    house.close()


@pytest.fixture
def teacher(folders: Path, tmp_path: Path) -> Iterator[Application]:
    shutil.copytree(folders / "teacher", tmp_path / "teacher")
    house = Application(tmp_path / "teacher")
    yield house
    house.close()


def who(house: Application, name: str) -> str:
    return next(person.id for person in house.players.all() if person.name == name)


def takes_of(house: Application, player_id: str) -> tuple[str, ...]:
    return house.log.page(player_id).sessions[0].summary.take_ids


def sent(house: Application, exchange: Exchange, folder: Path) -> Path:
    path = folder / f"{exchange.id}-{exchange.way}.zip"
    path.write_bytes(b"".join(house.lessons.file(exchange.id)))
    return path


def heard(student: Application, *, count: int = 1) -> Exchange:
    me = who(student, "Piran Voss")
    return student.lessons.review_request(
        me, takes_of(student, me)[:count], to="Wenna", title="Low tones, third week", words="Is it airy?", weeks=True
    )


def changed(path: Path, name: str, change: bytes, out: Path) -> Path:
    """With one entry changed, and a manifest that agrees."""
    with zipfile.ZipFile(path) as archive:
        files = {info.filename: archive.read(info) for info in archive.infolist()}
    files[name] = change
    manifest = json.loads(files["manifest.json"])
    manifest["files"][name] = {"size": len(change), "sha256": hashlib.sha256(change).hexdigest()}
    files["manifest.json"] = json.dumps(manifest).encode()
    with zipfile.ZipFile(out, "w") as made:
        for key, data in files.items():
            made.writestr(key, data)
    return out


def test_a_review_request_goes_there_and_its_remarks_come_back_into_the_takes(
    student: Application, teacher: Application, tmp_path: Path
) -> None:
    exchange, me = heard(student), who(student, "Piran Voss")
    take = exchange.review_request.takes[0].id  # type: ignore[union-attr]
    before = student.takes.get(take)
    here = who(teacher, "Wenna Tull")
    opened = teacher.lessons.open(here, sent(student, exchange, tmp_path))
    assert (opened.exchange.player_name, opened.exchange.sender, opened.skipped) == ("Piran Voss", "Piran Voss", ())
    guest = teacher.players.get(me)
    assert guest.guest
    assert guest.instrument == "tuba-eb"
    theirs = teacher.takes.get(take)
    assert (theirs.measures, theirs.verdict, theirs.limits) == (before.measures, before.verdict, before.limits)
    assert teacher.record.sound_path(take).read_bytes() == student.record.sound_path(take).read_bytes()
    assert teacher.log.page(me).sessions[0].summary.take_ids == (take,)
    assert teacher.log.page(here).total == 1
    assert check(teacher.record, mend=False) == ()

    moment = theirs.measures.notes[0].onset_s
    teacher.marks.add(take, at_s=moment, nearer=False, words="breathe before this", by="Wenna Tull")
    teacher.marks.add(take, at_s=None, nearer=True, words="", by="Wenna Tull")
    answered = teacher.lessons.answer(exchange.id, words="Warmer already.", by="Wenna Tull")
    back = student.lessons.open(me, sent(teacher, answered, tmp_path))
    assert (back.marks, back.skipped) == (2, ())
    assert [(mark.at_s, mark.nearer, mark.words, mark.by) for mark in student.marks.of(take)] == [
        (None, True, "", "Wenna Tull"),
        (moment, False, "breathe before this", "Wenna Tull"),
    ]
    assert student.lessons.get(exchange.id).answer.words == "Warmer already."  # type: ignore[union-attr]
    assert student.takes.get(take) == before
    # Said again, nothing comes twice.
    assert student.lessons.open(me, sent(teacher, answered, tmp_path)).marks == 0
    assert len(student.marks.of(take)) == 2


def test_only_what_was_chosen_leaves_the_house(student: Application, tmp_path: Path) -> None:
    me = who(student, "Piran Voss")
    student.players.change_settings(me, {"braces": True, "performances": ["2026-12-24"]})
    chosen, other = takes_of(student, me)
    student.takes.remark(other, "not for others")
    student.sessions.remark(student.log.page(me).sessions[0].id, "my lip hurt")
    with zipfile.ZipFile(sent(student, heard(student), tmp_path)) as archive:
        text = b"".join(archive.read(name) for name in archive.namelist() if not name.endswith(".flac")).decode()
        names = archive.namelist()
    assert sum(name.startswith("sound/") for name in names) == 1
    for kept in (other, "not for others", "my lip hurt", 'braces":true', "2026-12-24"):
        assert kept not in text
    assert chosen in text
    assert "Is it airy?" in text
    assert f"exercises/{chosen}.musicxml" in names
    assert "measures.csv" in names


def test_a_guest_who_sends_again_stays_one_and_counts_each_take_once(
    student: Application, teacher: Application, tmp_path: Path
) -> None:
    me, here = who(student, "Piran Voss"), who(teacher, "Wenna Tull")
    first, both = heard(student), heard(student, count=2)
    teacher.lessons.open(here, sent(student, first, tmp_path))
    teacher.lessons.open(here, sent(student, both, tmp_path))
    teacher.lessons.open(here, sent(student, both, tmp_path))
    assert [person.guest for person in teacher.players.all()] == [False, True]
    sessions = teacher.log.page(me).sessions
    assert sorted(key for one in sessions for key in one.summary.take_ids) == sorted(takes_of(student, me))
    glance = next(one for one in teacher.at_a_glance() if one.player_id == me)
    assert glance.last_day is not None
    days = teacher.progress.read(me, 52).playing
    assert sum(week.takes for week in days) == 2
    # Made anew from the takes, it is the same.
    with teacher.record.database.writing() as db:
        db.query(ProjectionRow).delete()
    bring_up_to_date(teacher.record)
    assert teacher.progress.read(me, 52).playing == days
    assert check(teacher.record, mend=False) == ()


def test_within_one_household_only_remarks_move(student: Application, tmp_path: Path) -> None:
    exchange, me = heard(student), who(student, "Piran Voss")
    before = b"".join(taken_out(student.record))
    path = sent(student, exchange, tmp_path)
    opened = student.lessons.open(me, path)
    assert (opened.marks, opened.exchange.way) == (0, "sent")
    assert b"".join(taken_out(student.record)) == before


def test_a_lesson_is_taken_over_part_by_part(student: Application, teacher: Application, tmp_path: Path) -> None:
    here, me = who(teacher, "Wenna Tull"), who(student, "Piran Voss")
    person = teacher.players.get(here)
    slur = teacher.material.keep(person, "Low slurs", ExerciseRequest("two-partial-slur", {"tempo": "66"}))
    score = exercise_to_musicxml(
        exercise_of("tuba-eb", "tune"), instrument_named("tuba-eb"), instrument_named("tuba-eb").parts[0]
    )
    tune = teacher.material.imported(person, score, name="A tune", semitones=2)
    routine = teacher.routines.keep(here, "Tuesday", (OwnBlock("long-low-tones", 8.0, {}),))
    teacher.players.change_settings(here, {"limits": {"pitch_error_cents": 14.0}})
    by = clock.now().date() + timedelta(days=60)
    target = teacher.goals.add(here, GoalTarget(GoalKind.HOLD, 14.0), by)
    match = takes_of(teacher, here)[0]
    wish = LessonWish(
        "Piran",
        "Until Christmas",
        "Slowly.",
        (ChosenItem(slur.id, "as if the bell were full of water"), ChosenItem(tune.id)),
        (ChosenItem(routine.id),),
        (ChosenItem(target.id),),
        (ChosenItem(match, "this length"),),
        limits=True,
    )
    lesson = teacher.lessons.lesson(here, wish)
    opened = student.lessons.open(me, sent(teacher, lesson, tmp_path))
    assert opened.exchange.lesson == lesson.lesson
    assert student.material.own_exercises(student.players.get(me)) == ()
    assert student.goals.all(me) == ()

    parts = ("exercise 0", "exercise 1", "routine 0", "goal 0", "recording 0", "limits", "exercise 7")
    exchange, refused = student.lessons.take_over(me, lesson.id, parts)
    assert exchange.taken == parts[:-1]
    assert "exercise 7" in refused[0]
    assert student.lessons.take_over(me, lesson.id, parts[:-1])[0].taken == parts[:-1]
    exercises = {own.name: own for own in student.material.own_exercises(student.players.get(me))}
    assert exercises["Low slurs"].words == "as if the bell were full of water"
    assert len(exercises) == 3
    assert [param.key for param in exercises["A tune"].choices][:2] == ["octave", "semitones"]
    assert exercises["A tune"].params == {"semitones": "2"}
    assert student.players.get(me).settings.reference_take == match
    assert [one.name for one in student.routines.all(me)][-1] == "Tuesday"
    assert student.players.get(me).limits["pitch_error_cents"] == 14.0
    assert [one.date for one in student.goals.all(me)] == [by.isoformat()]
    # The recording's exercise can be played, and lies beside the takes of it.
    named = next(own for name, own in exercises.items() if name.endswith("Wenna Tull"))
    series = student.material.series(student.players.get(me), ExerciseRequest(named.exercise_type, {}, named.id))
    assert series.exercises[0] == replace(student.takes.get(match).exercise, hint="this length")
    assert series.exercises[0].from_file  # engraved where it can be ended
    like = student.log.like(takes_of(student, me)[0])
    assert ("Wenna Tull", match) in {(one.by, one.id) for one in like}


def test_lessons_and_guests_move_house(student: Application, teacher: Application, tmp_path: Path) -> None:
    exchange, here = heard(student), who(teacher, "Wenna Tull")
    teacher.lessons.open(here, sent(student, exchange, tmp_path))
    take = exchange.review_request.takes[0].id  # type: ignore[union-attr]
    teacher.marks.add(take, at_s=1.0, nearer=False, words="there", by="Wenna Tull")
    write_export(teacher.record, tmp_path / "all.zip")
    other = Application(tmp_path / "other")
    bring_in(other.record, tmp_path / "all.zip")
    assert b"".join(taken_out(other.record)) == (tmp_path / "all.zip").read_bytes()
    assert other.lessons.get(exchange.id) == teacher.lessons.get(exchange.id)
    other.close()


def test_what_cannot_be_sent_is_said(student: Application) -> None:
    me = who(student, "Piran Voss")
    take = takes_of(student, me)[0]
    with pytest.raises(MissingError):
        student.lessons.review_request(me, ("0" * 32,), to="Wenna", title="x", words="", weeks=False)
    for takes, title, says in (((), "x", "0 takes"), ((take,), " ", "title")):
        with pytest.raises(InputError, match=says):
            student.lessons.review_request(me, takes, to="Wenna", title=title, words="", weeks=False)
    with pytest.raises(InputError, match="lesson is empty"):
        student.lessons.lesson(me, LessonWish("Piran", "Empty"))
    exchange = heard(student)
    with pytest.raises(ConflictError, match="Only recordings"):
        student.lessons.answer(exchange.id, words="me?", by="me")
    for at_s, words, says in ((999.0, "x", "no moment"), (1.0, "  ", "empty"), (1.0, "x" * 1001, "1001 letters")):
        with pytest.raises(InputError, match=says):
            student.marks.add(take, at_s=at_s, nearer=False, words=words, by="me")


def test_a_forged_file_changes_nothing(student: Application, teacher: Application, tmp_path: Path) -> None:
    here, me = who(teacher, "Wenna Tull"), who(student, "Piran Voss")
    path, out = sent(student, heard(student), tmp_path), tmp_path / "forged.zip"
    with teacher.record.database.reading() as db:
        own_instrument = db.scalars(select(InstrumentRow.id)).one().encode()
    with zipfile.ZipFile(path) as archive:
        head = json.loads(archive.read("exchange.json"))
        people, instruments = archive.read("players.jsonl"), archive.read("instruments.jsonl")
        takes, sessions = archive.read("takes.jsonl"), archive.read("sessions.jsonl")
    before = b"".join(taken_out(teacher.record))
    own_session = teacher.log.page(here).sessions[0].id.encode()
    forged = (
        ("exchange.json", b"{}", "cannot be used"),
        ("exchange.json", json.dumps({**head, "id": "../x"}).encode(), "does not say what it is"),
        ("takes.jsonl", takes.replace(b'"standard":"developing"', b'"standard":"king"'), "standard cannot be “king”"),
        ("takes.jsonl", takes.replace(b'"tempo_bpm":', b'"tempo_bpm":9e9,"x":'), "Nothing was imported|tempo"),
        ("players.jsonl", people.replace(b'"developing"', b'"king"'), "standard cannot be “king”"),
        ("instruments.jsonl", instruments.replace(b'"tuba-eb"', b'"kazoo"'), "no instrument “kazoo”"),
        ("instruments.jsonl", instruments.replace(b'"setup":{}', b'"setup":{"room_c":900.0}'), "900"),
        (
            "instruments.jsonl",
            instruments.replace(instruments[7:39], own_instrument),
            "who played|no instrument of their own",
        ),
        ("takes.jsonl", takes * 61, "61 takes"),
        ("sessions.jsonl", b"", "no session"),
        ("sessions.jsonl", sessions.replace(head["id"].encode(), own_session), "no session"),
        ("players.jsonl", b"", "who played"),
        ("marks.jsonl", b'{"id":"no"}\n', "Nothing was imported"),
        ("analyses.jsonl", b"[]\n", "cannot be read"),
        ("extra.sh", b"true", "has no place"),
    )
    for name, change, says in forged:
        with pytest.raises(InputError, match=says):
            teacher.lessons.open(here, changed(path, name, change, out))
    (tmp_path / "cut.zip").write_bytes(path.read_bytes()[:-300])
    (tmp_path / "text.zip").write_text("no zip")
    for broken in ("cut.zip", "text.zip"):
        with pytest.raises(InputError, match="no lesson and no recordings"):
            teacher.lessons.open(here, tmp_path / broken)
    export = tmp_path / "export.zip"
    write_export(student.record, export)
    with pytest.raises(InputError, match="under Settings"):
        teacher.lessons.open(here, export)
    assert b"".join(taken_out(teacher.record)) == before

    # Takes that say they are of somebody of this household are not believed.
    claimed = changed(path, "exchange.json", json.dumps({**head, "player_id": here}).encode(), out)
    opened = teacher.lessons.open(here, claimed)
    assert "left out" in opened.skipped[0]
    assert teacher.log.page(here).total == 1
    assert len(takes_of(teacher, here)) == 2
    assert [person.id for person in teacher.players.all()] == [here]
    assert me not in {person.id for person in teacher.players.all()}


def test_an_answer_to_nothing_is_refused_and_files_are_the_same_twice(
    student: Application, teacher: Application, tmp_path: Path
) -> None:
    exchange, here = heard(student), who(teacher, "Wenna Tull")
    path = sent(student, exchange, tmp_path)
    assert b"".join(student.lessons.file(exchange.id)) == path.read_bytes()
    opened = teacher.lessons.open(here, path)
    with zipfile.ZipFile(io.BytesIO(path.read_bytes())) as archive:
        assert archive.namelist()[-1] == "manifest.json"
    assert opened.checksum == student.lessons.checksum(exchange.id)
    assert len(opened.checksum) == 12
    with pytest.raises(ConflictError, match="no answer yet"):
        teacher.lessons.file(exchange.id)
    answered = teacher.lessons.answer(exchange.id, words="Good.", by="Wenna Tull")
    answer = sent(teacher, answered, tmp_path)
    stranger = filled(tmp_path / "stranger", "Lowen Hext")
    with pytest.raises(InputError, match="were not sent from here"):
        stranger.lessons.open(who(stranger, "Lowen Hext"), answer)
    stranger.close()


def test_a_sound_that_came_in_a_file_can_be_matched(student: Application, teacher: Application, tmp_path: Path) -> None:
    """Somebody else's tone, through another microphone: named, it is what the next takes are compared with."""
    teacher.lessons.open(who(teacher, "Wenna Tull"), sent(student, heard(student), tmp_path))
    guest = next(person for person in teacher.players.all() if person.guest)
    mine = next(person for person in teacher.players.all() if not person.guest)
    teacher.players.change_settings(mine.id, {"reference_take": takes_of(teacher, guest.id)[0]})
    session = teacher.sessions.open(mine.id, "long-low-tones", {})
    sound, _ = play(session.exercise, seed=2)
    made = teacher.takes.whole(
        session.id, sound, source="simulated", first_beat_sample=0, device={"label": "another microphone"}
    )
    assert made.measures.sound.matched_elsewhere
    assert made.measures.notes[0].tone_match is not None
