"""The HTTP edge: answers, refusals, bounds, and the documented interface that the front end is typed by."""

import io
import json
import re
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from fastapi.testclient import TestClient

from orexis.api.app import create_app
from orexis.api.later_routes import LaterRoutes
from orexis.core.player import parse_flaws, play
from orexis.files.soundfiles import wav_bytes
from tests.conftest import exercise_of

BASE = "http://127.0.0.1:8722"


@pytest.fixture
def client(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(create_app(tmp_path / "data"), base_url=BASE) as made:
        yield made


def session_of(
    client: TestClient, exercise_type: str = "two-partial-slur", instrument: str = "trombone-tenor"
) -> dict[str, str]:
    player = client.post(
        "/api/players", json={"name": "Wim", "standard": "developing", "instrument": instrument}
    ).json()
    made = client.post("/api/sessions", json={"player_id": player["id"], "exercise_type": exercise_type})
    assert made.status_code == 201
    return dict(made.json())


def test_a_dropped_file_becomes_a_judged_take_in_the_log(client: TestClient) -> None:
    session = session_of(client)
    sound, _ = play(exercise_of("trombone-tenor", "two-partial-slur"), flaws=parse_flaws(["gap=130ms@n3"]), seed=1)
    answer = client.post(f"/api/sessions/{session['id']}/takes", files={"file": ("t.wav", wav_bytes(sound))})
    assert answer.status_code == 201
    take = answer.json()
    assert (take["verdict"]["outcome"], take["verdict"]["reason"], take["verdict"]["note"]) == ("not_yet", "gap", "n3")
    page = client.get(f"/api/players/{session['player_id']}/log").json()
    assert (page["total"], page["sessions"][0]["summary"]["take_ids"][0]) == (1, take["id"])
    assert client.get(f"/api/sessions/{session['id']}/takes").json()[0]["id"] == take["id"]
    assert client.get(f"/api/takes/{take['id']}/sound").content[:4] == b"fLaC"
    trace = client.get(f"/api/takes/{take['id']}/trace").json()
    assert len(trace["f0_hz"]) == len(trace["level_db"]) > 1000
    view = client.get(f"/api/takes/{take['id']}/exercise").json()
    assert [note["written"] for note in view["notes"]] == ["F3", "Bb2", "F3"]
    assert "<svg" in view["svg"]
    said = client.put(f"/api/takes/{take['id']}/remark", json={"remark": "<b>calm</b>"}).json()
    assert said["remark"] == "<b>calm</b>"


def test_lanes_are_the_slots_of_the_fingering(client: TestClient) -> None:
    session = session_of(client)
    view = client.get(f"/api/sessions/{session['id']}/exercise").json()
    lanes = {lane["partial"]: lane["hz"] for lane in view["lanes"]}
    assert lanes[3] / lanes[2] == pytest.approx(1.5)
    assert view["notes"][0]["expected_hz"] == pytest.approx(lanes[3])


def test_the_simulated_player_sends_sound(client: TestClient) -> None:
    session = session_of(client)
    answer = client.post("/api/simulated", json={"session_id": session["id"], "manner": "clean", "seed": 3})
    assert answer.content[:4] == b"RIFF"
    again = client.post("/api/simulated", json={"session_id": session["id"], "manner": "clean", "seed": 3})
    assert answer.content == again.content


@pytest.mark.parametrize(
    ("method", "path", "body", "status"),
    [
        ("get", "/api/sessions/nothing", None, 404),
        ("get", "/api/takes/nothing", None, 404),
        ("post", "/api/players", {"name": "", "standard": "developing", "instrument": "tuba-eb"}, 422),
        ("post", "/api/players", {"name": "A", "standard": "developing", "instrument": "kazoo"}, 422),
        ("post", "/api/players", {"name": "A", "standard": "developing", "instrument": "tuba-eb", "hron": 1}, 422),
        ("post", "/api/sessions", {"player_id": "nobody", "exercise_type": "long-low-tones"}, 404),
    ],
)
def test_refusals_are_one_sentence(client: TestClient, method: str, path: str, body: object, status: int) -> None:
    answer = client.request(method, path, json=body)
    assert answer.status_code == status
    assert answer.json()["message"].endswith(".")


@pytest.mark.parametrize("data", [b"", b"not sound at all"])
def test_a_broken_upload_changes_nothing(client: TestClient, data: bytes) -> None:
    session = session_of(client)
    answer = client.post(f"/api/sessions/{session['id']}/takes", files={"file": ("t.wav", io.BytesIO(data))})
    assert answer.status_code == 422
    assert client.get(f"/api/sessions/{session['id']}").json()["state"]["phase"] == "preview"
    assert client.get(f"/api/players/{session['player_id']}/log").json()["sessions"] == []


def test_a_claimed_giant_is_refused(client: TestClient) -> None:
    session = session_of(client)
    answer = client.post(f"/api/sessions/{session['id']}/takes", content=b"x", headers={"content-length": str(10**10)})
    assert answer.status_code == 413


@pytest.mark.parametrize(
    "headers",
    [
        {"host": "evil.example"},
        {"origin": "http://evil.example"},
        {"origin": "http://127.0.0.1:9999"},
        {"origin": "null"},
    ],
)
def test_foreign_hosts_and_origins_are_refused(client: TestClient, headers: dict[str, str]) -> None:
    assert client.get("/api/players", headers=headers).status_code == 403


def test_our_own_origin_is_welcome(client: TestClient) -> None:
    assert client.get("/api/players", headers={"origin": BASE}).status_code == 200


def test_the_documented_interface_is_the_real_one(tmp_path: Path) -> None:
    documented = json.loads(Path("docs/api/openapi.json").read_text())
    app = create_app(tmp_path)
    app.state.later.load()
    assert app.openapi() == documented, "run: make api"


GARBAGE = ({"content": b"\xff\xfe{"}, {"json": []}, {"json": {"name": {"a": 1}, "player_id": "x" * 300}}, {})


def test_whatever_is_sent_is_answered_in_a_documented_way(client: TestClient) -> None:
    """Every operation, with bodies and ids that mean nothing."""
    documented = json.loads(Path("docs/api/openapi.json").read_text())["paths"]
    asked = 0
    for path, operations in documented.items():
        for method, operation in operations.items():
            for key in ("nothing", "%00%f0%9f", "a" * 80):
                for body in GARBAGE if method in ("post", "put", "patch") else ({},):
                    headers = {"content-type": "application/json"} if "content" in body else {}
                    url = re.sub(r"\{\w+\}", key, path)
                    answer = client.request(method, url, headers=headers, params={"offset": 10**30}, **body)
                    assert str(answer.status_code) in operation["responses"], (method, url, answer.status_code)
                    assert answer.status_code < 500, (method, url)
                    if answer.status_code >= 400:
                        assert answer.json()["message"], (method, url)
                    asked += 1
    assert asked > 250


def test_a_device_check_is_kept_and_found_again(client: TestClient) -> None:
    rate, due = 44_100, [1.0 + 0.4 * i for i in range(6)]
    out = np.random.default_rng(0).normal(0.0, 1e-3, 4 * rate)
    for at in due:
        first = round((at + 0.042) * rate)
        t = np.arange(2000) / rate
        out[first : first + 2000] += 0.1 * np.minimum(t / 0.002, 1) * np.exp(-t / 0.0077) * np.sin(2 * np.pi * 1320 * t)
    facts = {"label": "Desk", "echo_cancellation": False, "context_rate": rate}
    about = json.dumps({"rate": rate, "clicks_s": due, "facts": facts})
    files = {"samples": ("check", out.astype("<f4").tobytes())}
    made = client.post("/api/device-checks", files=files, data={"about": about})
    assert made.status_code == 201
    assert made.json()["found"]["delay_s"] == pytest.approx(0.042, abs=0.001)
    client.post("/api/device-checks", files=files, data={"about": about})
    assert [device["label"] for device in client.get("/api/devices").json()] == ["Desk"]


@pytest.mark.parametrize("about", ["{}", "no json", '{"rate": 44100, "clicks_s": [1, 2, 3, 99], "facts": {}}'])
def test_a_device_check_that_cannot_be_read(client: TestClient, about: str) -> None:
    answer = client.post("/api/device-checks", files={"samples": ("check", b"\0" * 4 * 44_100)}, data={"about": about})
    assert answer.status_code in (400, 422)
    assert answer.json()["message"]


def test_a_question_that_comes_before_its_route_waits_for_it(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    async def never(_later: LaterRoutes) -> None: ...

    monkeypatch.setattr(LaterRoutes, "load_in_turns", never)
    for path in ("/api/takes/nobodys", "/openapi.json"):
        with TestClient(create_app(tmp_path / "data"), base_url=BASE) as client:
            assert client.get("/api/players").json() == []
            assert not later_of(client).loaded
            assert client.get(path).headers["content-type"] == "application/json"
            assert later_of(client).loaded


def later_of(client: TestClient) -> LaterRoutes:
    later: LaterRoutes = client.app.state.later  # type: ignore[attr-defined]
    return later
