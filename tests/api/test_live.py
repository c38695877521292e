"""The live socket: a whole take block by block, resends, a second window, a lost connection, a killed server."""

import json
import os
import signal
import socket
import struct
import subprocess
import sys
import threading
import time
import urllib.request
from collections.abc import Iterator
from contextlib import ExitStack
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from starlette.testclient import WebSocketTestSession
from websockets.sync.client import ClientConnection, connect

from orexis.api.app import create_app
from orexis.api.connections import ConnectionHub
from orexis.core.player import parse_flaws, play
from orexis.core.sound import Samples
from orexis.core.trace import HOP_S
from orexis.services.ear import Ear
from tests.conftest import exercise_of

BASE, KEY, BLOCK = "http://127.0.0.1:8722", "c" * 32, 896
LIVE = "ws://127.0.0.1:8722/api/live"


@pytest.fixture
def client(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(create_app(tmp_path / "data", recovery_grace_s=3600.0), base_url=BASE) as made:
        yield made


def open_session(client: TestClient) -> str:
    player = client.post("/api/players", json={"name": "Wim", "standard": "developing", "instrument": "tuba-eb"}).json()
    made = client.post("/api/sessions", json={"player_id": player["id"], "exercise_type": "two-partial-slur"}).json()
    return str(made["id"])


def performance(*flaws: str) -> tuple[Samples, int]:
    sound, _ = play(exercise_of("tuba-eb", "two-partial-slur"), flaws=parse_flaws(flaws), seed=1)
    return np.concatenate((sound.samples, np.zeros(sound.rate, np.float32))), sound.rate


def encode(sequence: int, start: int, samples: Samples) -> bytes:
    return struct.pack("<IId", sequence, start, float(start)) + samples.astype("<f4").tobytes()


def begin(rate: int) -> str:
    return json.dumps(
        {"type": "begin", "take": KEY, "rate": rate, "first_beat_sample": 0, "source": "microphone", "device": {"a": 1}}
    )


def hello(session: str, token: str | None = None, *, take_over: bool = False) -> str:
    message = {"type": "hello", "protocol": 2, "session": session, "token": token, "take_over": take_over}
    return json.dumps(message)


def read(message: dict[str, Any]) -> dict[str, Any]:
    """A message of the socket, text or frames."""
    if message.get("text") is not None:
        return dict(json.loads(message["text"]))
    return frames(message["bytes"])


def frames(data: bytes) -> dict[str, Any]:
    kind, flags, received, late_s, final, _, provisional, _ = struct.unpack_from("<IIQfIdId", data)
    assert kind == 1
    assert len(data) == struct.calcsize("<IIQfIdId") + 16 * (final + provisional)
    return {"type": "frames", "received": received, "hole": bool(flags & 1), "late_s": late_s, "final": final}


def until(ws: WebSocketTestSession, kind: str) -> dict[str, Any]:
    for _ in range(5000):
        message = read(dict(ws.receive()))
        if message["type"] == kind:
            return dict(message)
        assert message["type"] != "error", message
    raise AssertionError(f"no {kind}")


def told(ws: WebSocketTestSession) -> tuple[int, bool]:
    message = until(ws, "frames")
    return message["received"], message["hole"]


def test_a_take_is_heard_ended_and_judged(client: TestClient) -> None:
    session = open_session(client)
    samples, rate = performance("gap=130ms@n2")
    with client.websocket_connect(LIVE) as ws:
        ws.send_text(hello(session))
        assert until(ws, "welcome")["owner"]
        ws.send_text(begin(rate))
        assert until(ws, "state")["state"]["phase"] == "count-in"
        ws.send_text(json.dumps({"type": "event", "name": "counted-in"}))
        for n, start in enumerate(range(0, len(samples), BLOCK)):
            ws.send_bytes(encode(n, start, samples[start : start + BLOCK]))
        verdict = until(ws, "verdict")
        assert (verdict["verdict"]["outcome"], verdict["verdict"]["reason"]) == ("not_yet", "gap")
        assert until(ws, "state")["state"]["phase"] == "verdict"
    take = client.get(f"/api/takes/{verdict['take']}").json()
    assert take["device"] == {"a": 1}
    assert take["measures"]["exercise"]["timing_spread_ms"] is not None
    assert not take["recovered"]


def test_what_is_played_before_the_ear_is_ready_is_kept_and_heard_then(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    ready = threading.Event()
    monkeypatch.setattr(Ear, "ready", property(lambda _: ready.is_set()))
    monkeypatch.setattr(Ear, "wait", lambda _: ready.wait(60.0))
    session = open_session(client)
    samples, rate = performance("gap=130ms@n2")
    half = 300 * BLOCK
    with client.websocket_connect(LIVE) as ws:
        ws.send_text(hello(session))
        until(ws, "welcome")
        ws.send_text(begin(rate))
        assert until(ws, "state")["state"]["phase"] == "count-in"
        for start in range(0, half, BLOCK):
            ws.send_bytes(encode(start // BLOCK, start, samples[start : start + BLOCK]))
        while (message := until(ws, "frames"))["received"] < half:
            assert message["final"] == 0
            assert message["late_s"] == pytest.approx(message["received"] / rate)
        ready.set()
        ws.send_bytes(encode(300, half, samples[half : half + BLOCK]))
        message = until(ws, "frames")
        assert message["late_s"] == 0.0
        assert message["final"] > 0.9 * (half / rate) / HOP_S
        for start in range(half + BLOCK, len(samples), BLOCK):
            ws.send_bytes(encode(start // BLOCK, start, samples[start : start + BLOCK]))
        verdict = until(ws, "verdict")["verdict"]
    assert (verdict["reason"], verdict["note"]) == ("gap", "n2")


def test_repeats_and_holes(client: TestClient) -> None:
    session = open_session(client)
    samples, rate = performance()
    with client.websocket_connect(LIVE) as ws:
        ws.send_text(hello(session))
        until(ws, "welcome")
        ws.send_text(begin(rate))
        ws.send_bytes(encode(0, 0, samples[:BLOCK]))
        assert told(ws) == (BLOCK, False)
        ws.send_bytes(encode(2, 2 * BLOCK, samples[2 * BLOCK : 3 * BLOCK]))
        assert told(ws) == (BLOCK, True)
        ws.send_bytes(encode(3, 0, samples[: 3 * BLOCK]))
        assert told(ws) == (3 * BLOCK, False)


def test_a_socket_that_closes_in_a_take_loses_nothing(client: TestClient) -> None:
    session = open_session(client)
    samples, rate = performance("gap=130ms@n3")
    half = 300 * BLOCK
    with client.websocket_connect(LIVE) as ws:
        ws.send_text(hello(session))
        token = until(ws, "welcome")["token"]
        ws.send_text(begin(rate))
        ws.send_bytes(encode(0, 0, samples[:BLOCK]))
        until(ws, "frames")
        for start in range(BLOCK, half, BLOCK):
            ws.send_bytes(encode(start // BLOCK, start, samples[start : start + BLOCK]))
    with client.websocket_connect(LIVE) as ws:
        ws.send_text(hello(session, token))
        received = until(ws, "welcome")["take"]["received"]
        assert 0 < received <= half
        ws.send_text(begin(rate))
        for start in range(received, len(samples), BLOCK):
            ws.send_bytes(encode(start // BLOCK, start, samples[start : start + BLOCK]))
        verdict = until(ws, "verdict")["verdict"]
    assert (verdict["reason"], verdict["note"]) == ("gap", "n3")


def test_a_full_disk_at_the_end_of_a_take_keeps_it_in_the_journal(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    from orexis.errors import StorageError
    from orexis.services.judging import judge as module

    session = open_session(client)
    samples, rate = performance()
    real = module.write_flac

    def full(path: Path, sound: object) -> None:
        raise StorageError("The take's sound could not be written: is the disk full?")

    with client.websocket_connect(LIVE) as ws:
        ws.send_text(hello(session))
        until(ws, "welcome")
        ws.send_text(begin(rate))
        for n, start in enumerate(range(0, 9 * rate, BLOCK)):
            ws.send_bytes(encode(n, start, samples[start : start + BLOCK]))
        monkeypatch.setattr(module, "write_flac", full)
        ws.send_text(json.dumps({"type": "event", "name": "ended"}))
        while (message := read(dict(ws.receive())))["type"] != "error":
            pass
        assert "disk full" in message["message"]
        monkeypatch.setattr(module, "write_flac", real)
        ws.send_text(json.dumps({"type": "event", "name": "ended"}))
        assert until(ws, "verdict")["take"] == KEY


def test_a_second_window_watches_and_may_take_over(client: TestClient) -> None:
    session = open_session(client)
    with client.websocket_connect(LIVE) as first, client.websocket_connect(LIVE) as second:
        first.send_text(hello(session))
        until(first, "welcome")
        second.send_text(hello(session))
        assert not until(second, "welcome")["owner"]
        second.send_text(json.dumps({"type": "event", "name": "next"}))
        message = second.receive_json()
        assert message["type"] == "error"
        assert "Take over here" in message["message"]
        with client.websocket_connect(LIVE) as third:
            third.send_text(hello(session, take_over=True))
            assert until(third, "welcome")["owner"]
            until(first, "demoted")


def test_a_window_that_stands_elsewhere_than_the_session_is_told_where_that_is(client: TestClient) -> None:
    session = open_session(client)
    with client.websocket_connect(LIVE) as ws:
        ws.send_text(hello(session))
        until(ws, "welcome")
        ws.send_text(json.dumps({"type": "event", "name": "go-on"}))
        told = ws.receive_json()
        assert (told["type"], "possible during" in told["message"]) == ("error", True)
        assert ws.receive_json()["state"]["phase"] == "preview"


def test_a_take_that_comes_by_another_way_is_told_in_its_turn(client: TestClient) -> None:
    """Verdict and state in one go: what the window says in between is answered after both."""
    session = open_session(client)
    with client.websocket_connect(LIVE) as ws:
        ws.send_text(hello(session))
        until(ws, "welcome")
        assert client.post(f"/api/sessions/{session}/simulated-take", json={"manner": "person"}).status_code == 201
        ws.send_text(json.dumps({"type": "event", "name": "go-on"}))
        until(ws, "verdict")
        phases = [ws.receive_json()["state"]["phase"], ws.receive_json()["state"]["phase"]]
        assert phases[0] == "verdict"
        assert phases[1] in ("preview", "rest")


@pytest.mark.parametrize(
    "text", ["", "{}", '{"type": "event", "name": "explode"}', "[" * 1000, '{"type": "hello", "protocol": 9}']
)
def test_nonsense_is_answered_with_a_sentence(client: TestClient, text: str) -> None:
    with client.websocket_connect(LIVE) as ws:
        ws.send_text(text)
        assert ws.receive_json()["type"] == "error"


def test_an_odd_block_is_refused_and_the_take_goes_on(client: TestClient) -> None:
    session = open_session(client)
    with client.websocket_connect(LIVE) as ws:
        ws.send_text(hello(session))
        until(ws, "welcome")
        ws.send_text(begin(44_100))
        until(ws, "state")
        ws.send_bytes(b"\x00" * 17)
        assert ws.receive_json()["type"] == "error"
        ws.send_bytes(encode(0, 0, np.zeros(BLOCK, np.float32)))
        assert until(ws, "frames")["received"] == BLOCK


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class Server:
    """A real server in a process of its own, to be killed."""

    def __init__(self, data: Path, port: int, grace_s: float = 30.0) -> None:
        code = (
            "import uvicorn, pathlib; from orexis.api.app import create_app; "
            f"uvicorn.run(create_app(pathlib.Path({str(data)!r}), recovery_grace_s={grace_s}), "
            f"host='127.0.0.1', port={port}, log_level='warning')"
        )
        self.base = f"http://127.0.0.1:{port}"
        self.process = subprocess.Popen([sys.executable, "-c", code], env=dict(os.environ))
        for _ in range(900):
            try:
                urllib.request.urlopen(f"{self.base}/api/health", timeout=1).close()
                return
            except OSError:
                time.sleep(0.1)
        raise AssertionError("the server did not start")

    def call(self, path: str, body: object | None = None) -> Any:
        data = json.dumps(body).encode() if body is not None else None
        request = urllib.request.Request(self.base + path, data, {"content-type": "application/json"})
        with urllib.request.urlopen(request, timeout=60) as answer:
            return json.load(answer)

    def socket(self) -> ClientConnection:
        return connect(self.base.replace("http", "ws") + "/api/live", max_size=None)

    def kill(self) -> None:
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()


def receive(ws: ClientConnection, kind: str) -> dict[str, Any]:
    while True:
        raw = ws.recv(timeout=90)
        message = json.loads(raw) if isinstance(raw, str) else frames(raw)
        if message["type"] == kind:
            return dict(message)


def start_take(server: Server, ws: ClientConnection, session: str, rate: int, token: str | None = None) -> str:
    ws.send(hello(session, token))
    given = str(receive(ws, "welcome")["token"])
    ws.send(begin(rate))
    return given


def send(ws: ClientConnection, samples: Samples, start: int, stop: int) -> None:
    for n, at in enumerate(range(start, stop, BLOCK)):
        ws.send(encode(n, at, samples[at : min(at + BLOCK, stop)]))


def new_session(server: Server) -> str:
    player = server.call("/api/players", {"name": "Wim", "standard": "developing", "instrument": "tuba-eb"})
    made = server.call("/api/sessions", {"player_id": player["id"], "exercise_type": "two-partial-slur"})
    return str(made["id"])


def test_a_killed_server_loses_nothing_while_the_page_lives(tmp_path: Path) -> None:
    samples, rate = performance("gap=130ms@n3")
    port, half = free_port(), len(samples) // 2
    server = Server(tmp_path, port)
    session = new_session(server)
    with server.socket() as ws:
        token = start_take(server, ws, session, rate)
        send(ws, samples, 0, half)
        receive(ws, "frames")
        server.kill()
    server = Server(tmp_path, port)
    try:
        with server.socket() as ws:
            ws.send(hello(session, token))
            welcome = receive(ws, "welcome")
            assert welcome["owner"]
            received = welcome["take"]["received"]
            ws.send(begin(rate))
            send(ws, samples, received, len(samples))
            verdict = receive(ws, "verdict")
        take = server.call(f"/api/takes/{verdict['take']}")
        assert take["duration_s"] * rate > len(samples) - rate
        assert (take["verdict"]["reason"], take["verdict"]["note"]) == ("gap", "n3")
    finally:
        server.kill()


def test_when_both_die_what_arrived_is_recovered(tmp_path: Path) -> None:
    samples, rate = performance()
    server = Server(tmp_path, free_port())
    session = new_session(server)
    arrived = 0
    with server.socket() as ws:
        start_take(server, ws, session, rate)
        send(ws, samples, 0, 9 * rate)
        while arrived < 9 * rate - BLOCK:
            arrived = receive(ws, "frames")["received"]
        server.kill()
    server = Server(tmp_path, free_port(), grace_s=2.0)
    try:
        for _ in range(400):
            found = server.call(f"/api/sessions/{session}")
            if found["state"]["phase"] == "verdict":
                break
            time.sleep(0.2)
        assert found["state"]["phase"] == "verdict"
        take = server.call(f"/api/takes/{KEY}")
        assert take["recovered"]
        assert take["duration_s"] * rate == pytest.approx(arrived, abs=rate)
    finally:
        server.kill()


def test_a_window_that_died_gives_its_session_up(client: TestClient) -> None:
    client.app.state.rooms.owner_grace_s = 0.2  # type: ignore[attr-defined]
    session = open_session(client)
    with client.websocket_connect(LIVE) as first:
        first.send_text(hello(session))
        assert until(first, "welcome")["owner"]
        with client.websocket_connect(LIVE) as second:
            second.send_text(hello(session))
            assert not until(second, "welcome")["owner"]
            first.close()
            until(second, "free")
            with client.websocket_connect(LIVE) as third:
                third.send_text(hello(session))
                assert until(third, "welcome")["owner"]


def test_a_window_that_comes_back_in_time_leads_on(client: TestClient) -> None:
    client.app.state.rooms.owner_grace_s = 0.4  # type: ignore[attr-defined]
    session = open_session(client)
    with client.websocket_connect(LIVE) as first:
        first.send_text(hello(session))
        token = until(first, "welcome")["token"]
    with client.websocket_connect(LIVE) as again:
        again.send_text(hello(session, token=token))
        assert until(again, "welcome")["owner"]
        time.sleep(0.7)
        again.send_text(json.dumps({"type": "event", "name": "pause"}))
        assert until(again, "state")["state"]["paused"]


def test_a_window_whose_welcome_was_lost_leads_when_it_comes_back(client: TestClient) -> None:
    session, own = open_session(client), "d" * 32
    with client.websocket_connect(LIVE) as lost:
        lost.send_text(hello(session, token=own))
        until(lost, "welcome")  # as if nobody had heard it
    with client.websocket_connect(LIVE) as again:
        again.send_text(hello(session, token=own))
        assert until(again, "welcome")["owner"] is True
        with client.websocket_connect(LIVE) as other:
            other.send_text(hello(session, token="e" * 32))
            assert until(other, "welcome")["owner"] is False


def test_a_window_that_waits_at_the_door_is_told_what_comes(client: TestClient) -> None:
    """One leaves while another waits for what happens in the room: both were and are in the same room."""
    session = open_session(client)
    samples, rate = performance()
    rooms: ConnectionHub = client.app.state.rooms  # type: ignore[attr-defined]
    with ExitStack() as doors:
        with client.websocket_connect(LIVE) as first:
            first.send_text(hello(session))
            until(first, "welcome")
            room = rooms.room(session)
            assert client.portal is not None
            client.portal.call(room.lock.acquire)
            second = doors.enter_context(client.websocket_connect(LIVE))
            second.send_text(hello(session, take_over=True))
            while not room.coming:
                time.sleep(0.005)
        client.portal.call(room.lock.release)
        assert until(second, "welcome")["owner"]
        assert rooms.room(session) is room
        second.send_text(begin(rate))
        until(second, "state")
        for n, start in enumerate(range(0, len(samples), BLOCK)):
            second.send_bytes(encode(n, start, samples[start : start + BLOCK]))
        assert until(second, "verdict")["take"] == KEY


def test_a_window_on_no_session_leaves_no_room_behind(client: TestClient) -> None:
    rooms: ConnectionHub = client.app.state.rooms  # type: ignore[attr-defined]
    with client.websocket_connect(LIVE) as ws:
        ws.send_text(hello("f" * 32))
        assert ws.receive_json()["type"] == "error"
    assert not rooms._rooms
