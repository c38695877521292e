"""Whose a thing is, when it goes for good, and what is written together: the promises of the record that no page shows."""

from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from sqlite3 import OperationalError as SqliteError
from typing import Any

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.exc import OperationalError

from orexis.api.app import create_app
from orexis.core.practice import Event, EventName
from orexis.errors import BusyError, DamagedError, MissingError, OrexisError, StorageError
from orexis.services import clock
from orexis.services.application import Application
from orexis.services.takes import life
from orexis.services.takes.keeping import let_go
from orexis.services.takes.trash import purge
from orexis.store.models import TakeRow
from tests.conftest import TEST_AT
from tests.store.test_projections import playing
from tests.store.test_record import opened

START = TEST_AT.astimezone(UTC)


@pytest.fixture
def client(tmp_path: Any) -> Iterator[TestClient]:
    with TestClient(create_app(tmp_path), base_url="http://127.0.0.1:8722") as made:
        yield made


def test_what_belongs_to_another_player_is_not_there(client: TestClient) -> None:
    """For everybody else it is a 404, and nothing of it is touched."""
    mine, other = (
        client.post("/api/players", json={"name": name, "standard": "developing", "instrument": "tuba-eb"}).json()["id"]
        for name in ("Wim Olde", "Ada Brook")
    )
    blocks = [{"exercise_type": "buzz-answer", "minutes": 5}]
    routine = client.post(f"/api/players/{mine}/routines", json={"name": "Morning", "blocks": blocks}).json()["id"]
    wish = {"player_id": mine, "name": "My slur", "exercise_type": "two-partial-slur", "params": {}}
    exercise = client.post("/api/exercises/keep", json=wish).json()["id"]
    target = {"kind": "hold", "value": 16.0, "date": "2027-03-01"}
    goal = client.post(f"/api/players/{mine}/goals", json=target).json()["id"]
    takes = []
    for _ in range(2):
        session = client.post("/api/sessions", json={"player_id": mine, "exercise_type": "long-low-tones"}).json()["id"]
        body = {"manner": "clean", "seed": 2}
        takes.append(client.post(f"/api/sessions/{session}/simulated-take", json=body).json()["id"])
    words = {"at_s": 1.0, "nearer": False, "words": "listen here", "by": "Wenna Tull"}
    [mark] = client.post(f"/api/takes/{takes[0]}/marks", json=words).json()

    change = {"state": "paused", "date": None}
    review_request = {"takes": [takes[0]], "to": "Wenna Tull", "title": "Listen", "words": "", "weeks": False}
    strangers: tuple[tuple[str, str, object], ...] = (
        ("DELETE", f"/api/players/{other}/routines/{routine}", None),
        ("DELETE", f"/api/players/{other}/exercises/{exercise}", None),
        ("PUT", f"/api/players/{other}/goals/{goal}", change),
        ("PATCH", f"/api/players/{other}/settings", {"reference_take": takes[0]}),
        ("PATCH", f"/api/players/{mine}/settings", {"reference_take": "f" * 32}),
        ("POST", f"/api/players/{other}/review-requests", review_request),
        ("DELETE", f"/api/takes/{takes[1]}/marks/{mark['id']}", None),
        (
            "POST",
            "/api/exercises/view",
            {"player_id": other, "own": exercise, "exercise_type": "two-partial-slur", "params": {}},
        ),
    )
    for method, path, body in strangers:
        answer = client.request(method, path, json=body)
        assert (answer.status_code, answer.json()["kind"]) == (404, "MissingError"), (path, answer.text)
    assert [item["id"] for item in client.get(f"/api/players/{mine}/routines").json()] == [routine]
    assert [item["id"] for item in client.get(f"/api/players/{mine}/exercises").json()] == [exercise]
    assert [item["state"] for item in client.get(f"/api/players/{mine}/goals").json()] == ["on"]
    assert [item["id"] for item in client.get(f"/api/takes/{takes[0]}/marks").json()] == [mark["id"]]
    settings = client.get("/api/players").json()[1]["settings"]
    assert settings["reference_take"] is None

    own: tuple[tuple[str, str, object], ...] = (
        ("DELETE", f"/api/players/{mine}/routines/{routine}", None),
        ("DELETE", f"/api/players/{mine}/exercises/{exercise}", None),
        ("PUT", f"/api/players/{mine}/goals/{goal}", change),
        ("PATCH", f"/api/players/{mine}/settings", {"reference_take": takes[0]}),
        ("DELETE", f"/api/takes/{takes[0]}/marks/{mark['id']}", None),
    )
    for method, path, body in own:
        assert client.request(method, path, json=body).status_code < 300, path


def test_the_sound_of_a_guest_may_be_aimed_for(house: Application) -> None:
    take = house.simulated.take(opened(house, "long-low-tones"), "clean", seed=2)
    other = house.players.add(name="Ada Brook", standard="developing", instrument="tuba-eb")
    with pytest.raises(MissingError):
        house.players.change_settings(other.id, {"reference_take": take.id})
    with house.record.database.writing() as db:
        from orexis.store.models import PlayerRow

        db.get_one(PlayerRow, take.player_id).guest = True
    house.players.change_settings(other.id, {"reference_take": take.id})


def at(days: float, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(clock, "AHEAD", START + timedelta(days=days) - datetime.now(UTC))


def test_thirty_days_are_thirty_days(house: Application, monkeypatch: pytest.MonkeyPatch) -> None:
    at(0, monkeypatch)
    purge(house.record)  # the record knows from now on that there is an end
    session = opened(house, "long-low-tones")
    first, second = (house.simulated.take(session, "clean", seed=seed).id for seed in (2, 3))
    house.takes.discard(first, discarded=True)
    at(20, monkeypatch)
    house.takes.discard(second, discarded=True)
    at(29, monkeypatch)
    assert purge(house.record) == 0
    assert house.record.sound_path(first).exists()
    at(31, monkeypatch)
    assert purge(house.record) == 1
    assert not house.record.sound_path(first).exists()
    assert house.record.sound_path(second).exists()
    with house.record.database.reading() as db:
        assert db.get(TakeRow, first) is None
        assert db.get(TakeRow, second) is not None
    at(51, monkeypatch)
    assert purge(house.record) == 1


def test_the_sound_of_a_take_deleted_for_good_goes_with_it(house: Application) -> None:
    key = house.simulated.take(opened(house, "long-low-tones"), "clean", seed=2).id
    path = house.record.sound_path(key)
    assert path.exists()
    house.takes.forget(key)
    assert not path.exists()
    assert not house.takes.kept(key)
    key = house.simulated.take(opened(house, "long-low-tones"), "clean", seed=2).id
    house.takes.forget_sound(key)
    assert not house.record.sound_path(key).exists()
    assert house.takes.kept(key)


def test_sound_is_kept_as_it_was_chosen(house: Application, monkeypatch: pytest.MonkeyPatch) -> None:
    at(0, monkeypatch)
    session = opened(house, "long-low-tones")
    goal_exercises, old = (house.simulated.take(session, "sagging", seed=seed).id for seed in (2, 3))
    player = house.players.all()[0].id
    house.players.change_settings(player, {"keeping": "days", "keeping_days": 30, "reference_take": goal_exercises})
    at(25, monkeypatch)
    recent = house.simulated.take(opened_again(house, player), "sagging", seed=4).id
    at(29, monkeypatch)
    assert let_go(house.record) == 0
    at(31, monkeypatch)
    assert let_go(house.record) == 1
    there = {key: house.record.sound_path(key).exists() for key in (goal_exercises, old, recent)}
    assert there == {goal_exercises: True, old: False, recent: True}


def opened_again(house: Application, player: str) -> str:
    return house.sessions.open(player, "long-low-tones", {}).id


def test_a_take_and_its_sessions_next_state_are_written_together_or_not_at_all(
    house: Application, monkeypatch: pytest.MonkeyPatch
) -> None:
    session = opened(house, "long-low-tones")
    written = life.written

    def failing(*given: Any, **more: Any) -> Callable[[Any], None]:
        def write(_: Any) -> None:
            raise StorageError("The record could not be written.")

        return write if "take_end" in more else written(*given, **more)

    monkeypatch.setattr(life, "written", failing)
    with pytest.raises(StorageError):
        house.simulated.take(session, "clean", seed=2)
    player = house.players.all()[0].id
    with house.record.database.reading() as db:
        assert db.query(TakeRow).count() == 0
    assert house.range_summary(house.players.get(player)).range_notes == {}
    assert house.log.today(player, "tuba-eb").takes == 0
    monkeypatch.setattr(life, "written", written)
    made = house.takes.end(session)  # its sound is in the journal still
    assert made is not None
    assert house.log.today(player, "tuba-eb").takes == 1


def test_a_pause_longer_than_any_rest_is_not_counted_into_the_day(house: Application) -> None:
    """Somebody made coffee: what a take cost of the day is itself and the usual rest, by the clock up to the longest rest."""
    from orexis.core.practice import LONGEST_REST_S
    from orexis.services.projections.kept_take import Owner
    from orexis.services.projections.levels import exercise_type_days
    from orexis.services.rows import takes as rows

    session = opened(house, "long-low-tones")
    player = house.players.all()[0].id

    def spent_after(seconds: float) -> float:
        take = TakeRow(duration_s=10.0, playing_s=8.0, source="microphone", started_at=START)
        return rows._spent_s(take, START - timedelta(seconds=seconds))

    assert spent_after(60.0) == 70.0
    assert spent_after(LONGEST_REST_S) == 10.0 + LONGEST_REST_S
    assert spent_after(LONGEST_REST_S + 1.0) == spent_after(-1.0) < 30.0
    house.takes.measured(session, playing(fails=False), at=START)
    with house.record.database.reading() as db:
        [day] = exercise_type_days(db, Owner(player, "tuba-eb"), since=0)
    assert 0.0 < day.spent_s < 120.0


def test_what_a_session_had_played_before_a_take_is_added_up(house: Application) -> None:
    session = opened(house, "long-low-tones")
    played = []
    for minute in range(3):
        made = house.takes.measured(session, playing(fails=False), at=START + timedelta(minutes=minute))
        house.takes.happen(session, Event(EventName.NEXT))
        played.append(made.measures.exercise.playing_s)
    with house.record.database.reading() as db:
        before = [row.played_before_s for row in db.query(TakeRow).order_by(TakeRow.number)]
    assert before == pytest.approx([0.0, played[0], played[0] + played[1]], abs=0.01)


@pytest.mark.parametrize(
    ("name", "error", "says"),
    [
        ("SQLITE_FULL", StorageError, "disk is full"),
        ("SQLITE_IOERR_WRITE", StorageError, "disk does not answer"),
        ("SQLITE_READONLY", StorageError, "cannot be written"),
        ("SQLITE_CANTOPEN", StorageError, "cannot be opened"),
        ("SQLITE_BUSY", BusyError, "try again"),
        ("SQLITE_CORRUPT", DamagedError, "damaged"),
    ],
)
def test_what_the_database_says_is_told_by_its_name(
    house: Application, name: str, error: type[OrexisError], says: str
) -> None:
    said = SqliteError("something happened to the disk")
    said.sqlite_errorname = name
    for opening in (house.record.database.writing, house.record.database.reading):
        with pytest.raises(error, match=says), opening():
            raise OperationalError("SELECT 1", {}, said)


def test_a_mistake_of_ours_is_not_called_a_full_disk(house: Application) -> None:
    from sqlalchemy import text

    with pytest.raises(OperationalError, match="no such table"), house.record.database.writing() as db:
        db.execute(text("SELECT * FROM nowhere"))
