"""Copies and restoring through the server, also where the record does not open; bodies that are too large; a device that asks."""

from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from orexis.api.app import create_app


def served(folder: Path) -> TestClient:
    return TestClient(create_app(folder, recovery_grace_s=0.0), base_url="http://127.0.0.1")


def with_player(client: TestClient, name: str) -> str:
    body = {"name": name, "standard": "developing", "instrument": "tuba-eb"}
    return str(client.post("/api/players", json=body).json()["id"])


def names(client: TestClient) -> set[str]:
    return {player["name"] for player in client.get("/api/players").json() if not player["guest"]}


def test_a_copy_is_made_restored_and_restored_back(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("orexis.api.open_record._QUIET_S", 0.0)
    with served(tmp_path) as client:
        with_player(client, "Wim Olde")
        (copy,) = client.post("/api/copies").json()
        with_player(client, "Wenna Tull")
        assert client.post(f"/api/copies/{copy['name']}/restore").status_code == 200
        assert names(client) == {"Wim Olde"}
        before = next(item for item in client.get("/api/copies").json() if item["before_restoring"])
        assert client.post(f"/api/copies/{before['name']}/restore").status_code == 200
        assert names(client) == {"Wim Olde", "Wenna Tull"}
        assert client.post("/api/copies/nothing.db/restore").status_code == 404
        assert names(client) == {"Wim Olde", "Wenna Tull"}


def test_nobody_is_interrupted(tmp_path: Path) -> None:
    with served(tmp_path) as client:
        player = with_player(client, "Wim Olde")
        (copy,) = client.post("/api/copies").json()
        session = client.post("/api/sessions", json={"player_id": player, "exercise_type": "long-low-tones"}).json()
        client.post(f"/api/sessions/{session['id']}/simulated-take", json={"manner": "clean", "seed": 1})
        answer = client.post(f"/api/copies/{copy['name']}/restore")
        assert answer.status_code == 409
        assert "playing" in answer.json()["message"]


def test_a_record_that_does_not_open_is_said_and_restored(tmp_path: Path) -> None:
    with served(tmp_path) as client:
        with_player(client, "Wim Olde")
        client.post("/api/copies")
    (tmp_path / "orexis.db").write_bytes(b"this is no database " * 500)
    with served(tmp_path) as client:
        told = client.get("/api/household")
        assert (told.status_code, told.json()["kind"]) == (503, "DamagedError")
        assert client.get("/").status_code in (200, 404)  # the page itself, where it is built
        assert client.get("/api/players").status_code == 503
        (copy,) = client.get("/api/copies").json()
        assert copy["players"] == ["Wim Olde"]
        assert client.post(f"/api/copies/{copy['name']}/restore").status_code == 200
        assert names(client) == {"Wim Olde"}


def test_a_full_disk_at_the_weekly_copy_keeps_nobody_from_playing(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    from orexis.errors import StorageError
    from orexis.services import application

    def full(_: object) -> None:
        raise StorageError("The record could not be copied: the disk is full.")

    with served(tmp_path) as client:
        with_player(client, "Wim Olde")
    monkeypatch.setattr(application, "weekly_backup", full)
    with served(tmp_path) as client:
        assert names(client) == {"Wim Olde"}
        assert client.app.state.house.says == ("The record could not be copied: the disk is full.",)  # type: ignore[attr-defined]


@pytest.mark.parametrize(("path", "size"), [("/api/pair", 5_000), ("/api/players", 3_000_000)])
def test_a_body_is_refused_before_it_is_read(tmp_path: Path, path: str, size: int) -> None:
    with served(tmp_path) as client:
        body = b'{"name": "' + b"x" * size + b'"}'
        answer = client.post(path, content=body, headers={"content-type": "application/json"})
        assert answer.status_code == 413
        assert len(answer.content) < 500
