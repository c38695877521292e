"""Just play over the live socket: pitch at once, parts in the record, what is read, load, and what a crash leaves."""

import json
import struct
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from starlette.testclient import WebSocketTestSession

from orexis.api.app import create_app
from orexis.api.live import PROTOCOL
from orexis.core.instruments import instrument_named
from orexis.core.player import FreePerformance, play, play_freely
from orexis.core.sound import Samples
from orexis.errors import ConflictError, StorageError
from orexis.files.soundfiles import wav_bytes, write_wav
from orexis.services.application import Application
from orexis.services.archive import bring_in, check, write_export
from orexis.services.free_practice.listening import FreeListening
from orexis.services.journal import Journal, JournalFile, TakeHead
from tests.conftest import exercise_of

BASE, LIVE, BLOCK = "http://127.0.0.1:8722", "ws://127.0.0.1:8722/api/free-live", 1024


@pytest.fixture
def client(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(create_app(tmp_path / "data", recovery_grace_s=3600.0), base_url=BASE) as made:
        yield made


@pytest.fixture(scope="module")
def performance() -> FreePerformance:
    return play_freely(instrument_named("trumpet-bb"), seconds=14.0, seed=3)


def opened(client: TestClient) -> tuple[str, str]:
    """A player, and a session without an exercise."""
    player = client.post(
        "/api/players", json={"name": "Ada", "standard": "developing", "instrument": "trumpet-bb"}
    ).json()
    return player["id"], client.post(f"/api/players/{player['id']}/free-sessions").json()["id"]


def first(session: str, *, keep_sound: bool = True) -> dict[str, Any]:
    return {
        "type": "listen", "protocol": PROTOCOL, "session": session, "rate": 44_100, "source": "microphone",
        "keep_sound": keep_sound, "device": {"label": "made up"},
    }  # fmt: skip


def send(socket: WebSocketTestSession, samples: Samples, start: int = 0) -> None:
    for i in range(0, len(samples), BLOCK):
        block = samples[i : i + BLOCK]
        socket.send_bytes(struct.pack("<IId", i // BLOCK, start + i, 0.0) + block.astype("<f4").tobytes())


def told(socket: WebSocketTestSession, until: str) -> tuple[list[dict[str, Any]], list[bytes]]:
    """All messages up to one of this type."""
    said: list[dict[str, Any]] = []
    frames: list[bytes] = []
    while not said or said[-1]["type"] != until:
        message = socket.receive()
        if message.get("bytes") is not None:
            frames.append(message["bytes"])
        else:
            said.append(json.loads(message["text"]))
    return said, frames


def played(
    client: TestClient, session: str, samples: Samples, **more: bool
) -> tuple[list[dict[str, Any]], list[bytes]]:
    with client.websocket_connect(LIVE) as socket:
        socket.send_json(first(session, **more))
        assert socket.receive_json()["type"] == "listening"
        send(socket, samples)
        socket.send_json({"type": "end"})
        return told(socket, "ended")


def test_what_is_played_is_heard_at_once_and_kept_in_parts(client: TestClient, performance: FreePerformance) -> None:
    player, session = opened(client)
    said, frames = played(client, session, performance.sound.samples)
    assert [message["type"] for message in said] == ["part"] * len(performance.passages) + ["ended"]
    assert struct.unpack_from("<IIQ", frames[-1])[2] == len(performance.sound.samples)
    reading = client.get(f"/api/sessions/{session}/free-reading").json()
    asked = [note.pitch.midi for passage in performance.passages for note in passage.exercise.notes]
    assert (reading["reading"]["low"], reading["reading"]["high"]) == (min(asked), max(asked))
    assert reading["written"][str(min(asked))]
    page = client.get(f"/api/sessions/{session}/page").json()
    assert len(page["blocks"][0]["takes"]) == len(performance.passages)
    assert page["summary"]["load"] > 5.0
    assert client.get(f"/api/players/{player}/log").json()["sessions"][0]["title"] == "Just play"
    day = client.get(f"/api/players/{player}/day").json()
    assert day["playing_s"] == pytest.approx(reading["reading"]["playing_s"], abs=0.1)
    assert (day["takes"], day["clean"]) == (0, 0)  # nothing was asked
    notes = client.get(f"/api/players/{player}/notes.csv").text
    assert "Just play,0,E5" in notes
    assert "extra" not in notes
    assert client.get(f"/api/players/{player}/session").json() is None


def test_a_part_can_be_looked_at_and_heard(client: TestClient, performance: FreePerformance) -> None:
    _, session = opened(client)
    said, _ = played(client, session, performance.sound.samples)
    take = client.get(f"/api/takes/{said[0]['take']}").json()
    assert (take["verdict"]["outcome"], take["exercise"]["exercise_type"]) == ("done", "free_practice")
    exercise = client.get(f"/api/takes/{take['id']}/exercise").json()
    assert len(exercise["notes"]) == len(performance.passages[0].exercise.notes)
    assert client.get(f"/api/takes/{take['id']}/trace").json()["f0_hz"]
    assert client.get(f"/api/takes/{take['id']}/sound").status_code == 200


def test_without_recording_only_numbers_are_kept(client: TestClient, performance: FreePerformance) -> None:
    _, session = opened(client)
    said, _ = played(client, session, performance.sound.samples, keep_sound=False)
    assert client.get(f"/api/takes/{said[0]['take']}").json()["measures"]["notes"]
    assert client.get(f"/api/takes/{said[0]['take']}/sound").status_code == 404
    assert client.get(f"/api/sessions/{session}/free-reading").json()["reading"]["notes"] > 2


def test_silence_leaves_nothing(client: TestClient) -> None:
    player, session = opened(client)
    said, _ = played(client, session, np.zeros(44_100 * 4, np.float32))
    assert [message["type"] for message in said] == ["ended"]
    assert client.get(f"/api/players/{player}/log").json()["sessions"] == []


def test_after_a_lost_connection_nothing_is_missing(client: TestClient, performance: FreePerformance) -> None:
    _, session = opened(client)
    samples = performance.sound.samples
    half = round(performance.passages[0].at_s * 44_100) + 6 * 44_100 // BLOCK * BLOCK
    with client.websocket_connect(LIVE) as socket:
        socket.send_json(first(session))
        send(socket, samples[:half])
        for _ in range(half // BLOCK):
            received = struct.unpack_from("<IIQ", told_frames(socket))[2]
    with client.websocket_connect(LIVE) as socket:
        socket.send_json(first(session))
        send(socket, samples[received:], start=received)
        socket.send_json({"type": "end"})
        told(socket, "ended")
    deadline = time.monotonic() + 20.0
    while time.monotonic() < deadline:
        takes = client.get(f"/api/sessions/{session}/takes").json()
        if sum(take["duration_s"] for take in takes) > 0.5 * performance.sound.duration_s:
            break
        time.sleep(0.1)
    reading = client.get(f"/api/sessions/{session}/free-reading").json()["reading"]
    tone = sum(note.release_s - note.onset_s for passage in performance.passages for note in passage.truth.notes)
    assert reading["playing_s"] == pytest.approx(tone, rel=0.1)


def told_frames(socket: WebSocketTestSession) -> bytes:
    while True:
        message = socket.receive()
        if message.get("bytes") is not None:
            return bytes(message["bytes"])


def test_a_part_that_a_crash_cut_off_is_read_at_the_next_start(tmp_path: Path, performance: FreePerformance) -> None:
    data = tmp_path / "data"
    with TestClient(create_app(data, recovery_grace_s=3600.0), base_url=BASE) as client:
        _, session = opened(client)
    head = TakeHead("a" * 32, session, 44_100, None, "microphone", {}, "2026-03-04T10:00:00+00:00")
    file = Journal(data / "journal").open(head)
    file.append(performance.sound.samples)
    file.close()
    with TestClient(create_app(data, recovery_grace_s=0.0), base_url=BASE) as client:
        deadline = time.monotonic() + 20.0
        while client.get(f"/api/sessions/{session}").json()["state"]["phase"] != "done" and time.monotonic() < deadline:
            time.sleep(0.1)
        assert [take["recovered"] for take in client.get(f"/api/sessions/{session}/takes").json()] == [True]
    assert not list((data / "journal").glob("*.json"))


def test_what_was_played_freely_counts_in_todays_plan(client: TestClient, performance: FreePerformance) -> None:
    player, session = opened(client)
    played(client, session, performance.sound.samples)
    load = client.get(f"/api/sessions/{session}/page").json()["summary"]["load"]
    weeks = client.get(f"/api/players/{player}/weeks").json()["weeks"]
    loads = [day["played"] for week in weeks for day in week["days"] if day["played"]]
    assert loads == [pytest.approx(load, abs=0.2)]


def test_a_recording_is_read_the_same_way(client: TestClient, performance: FreePerformance) -> None:
    player, _ = opened(client)
    made = client.post(f"/api/players/{player}/free-recordings", content=wav_bytes(performance.sound))
    assert made.status_code == 201
    reading = client.get(f"/api/sessions/{made.json()['id']}/free-reading").json()["reading"]
    assert reading["parts"] == len(performance.passages)
    assert made.json()["state"]["phase"] == "done"
    assert client.get("/api/free-recordings").json() == {"says": None}


def test_what_is_no_recording_is_refused_and_leaves_nothing(client: TestClient) -> None:
    player, _ = opened(client)
    refused = client.post(f"/api/players/{player}/free-recordings", content=b"no sound at all")
    assert refused.status_code == 422
    assert "WAV or FLAC" in refused.json()["message"]
    assert client.get(f"/api/players/{player}/log").json()["sessions"] == []


def test_a_recording_that_is_stopped_keeps_what_was_read(tmp_path: Path, performance: FreePerformance) -> None:
    house = Application(tmp_path / "data")
    player = house.players.add(name="Ada", standard="developing", instrument="trumpet-bb")
    path = tmp_path / "rehearsal.wav"
    write_wav(path, performance.sound)
    said: list[str] = []

    def report(step: str) -> None:
        said.append(step)
        if step.endswith(", 1 part"):
            raise ConflictError("stopped")

    with pytest.raises(ConflictError):
        house.free_practice.from_file(player.id, path, report)
    session = house.log.page(player.id).sessions[0]
    assert len(session.summary.take_ids) >= 1
    assert session.ended_at is not None
    house.close()


def test_other_sessions_and_other_protocols_are_refused(client: TestClient) -> None:
    player, free = opened(client)
    stand = client.post("/api/sessions", json={"player_id": player, "exercise_type": "two-partial-slur"}).json()["id"]
    for wrong in (first(stand), first(free) | {"protocol": 1}, first("nobody"), {"type": "listen"}):
        with client.websocket_connect(LIVE) as socket:
            socket.send_json(wrong)
            assert socket.receive_json()["type"] == "error"


def test_the_tuner_knows_the_instrument(client: TestClient) -> None:
    player, _ = opened(client)
    notes = client.get(f"/api/players/{player}/tuner?a4=442&temperament=just&root=10").json()
    by_name = {note["sounding"]: note for note in notes}
    equal_d = 442.0 * 2 ** (-7 / 12)
    assert 1200 * np.log2(by_name["D4"]["hz"] / equal_d) == pytest.approx(-13.7, abs=0.1)
    assert (by_name["Bb3"]["written"], by_name["Bb3"]["fingering"]) == ("C4", "0")
    assert by_name["D5"]["tendency"] < -8.0  # the fifth partial is flat
    assert client.get(f"/api/players/{player}/tuner?a4=300").status_code == 422
    drone = client.get(f"/api/players/{player}/drone?midi=46&chord=fifth&temperament=just").json()
    assert drone[1] / drone[0] == pytest.approx(1.5, abs=1e-4)


def test_free_playing_survives_moving_house_and_a_check_finds_nothing(
    tmp_path: Path, performance: FreePerformance
) -> None:
    path, box = tmp_path / "rehearsal.wav", tmp_path / "all.zip"
    write_wav(path, performance.sound)
    house, there = Application(tmp_path / "one"), Application(tmp_path / "other")
    player = house.players.add(name="Ada", standard="developing", instrument="trumpet-bb")
    session = house.free_practice.from_file(player.id, path, lambda said: None)
    write_export(house.record, box)
    bring_in(there.record, box, report=lambda said: None)
    assert check(house.record, mend=False) == check(there.record, mend=False) == ()
    assert there.free_practice.read(session.id) == house.free_practice.read(session.id)
    take = house.takes.of_session(session.id)[0]
    house.takes.discard(take, discarded=True)
    assert house.free_practice.read(session.id).reading.parts == len(performance.passages) - 1
    assert check(house.record, mend=False) == ()
    house.close()
    there.close()


def test_an_exercise_that_was_played_can_be_judged(client: TestClient) -> None:
    player, _ = opened(client)
    sound, _ = play(exercise_of("trumpet-bb", "one-octave-scale"), seed=2)
    made = client.post(f"/api/players/{player}/free-recordings", content=wav_bytes(sound)).json()
    found = client.get(f"/api/sessions/{made['id']}/exercises-played").json()
    assert [item["exercise_type"] for item in found] == ["one-octave-scale"]
    take = client.post(
        f"/api/takes/{found[0]['take_id']}/judged-as",
        json={"exercise_type": "one-octave-scale", "index": found[0]["index"]},
    ).json()
    assert take["verdict"]["outcome"] == "clean"
    assert take["session_id"] != made["id"]
    missing = client.post(f"/api/takes/{found[0]['take_id']}/judged-as", json={"exercise_type": "tune", "index": 0})
    assert missing.status_code == 404


def test_on_a_full_disk_no_part_is_lost(
    tmp_path: Path, performance: FreePerformance, monkeypatch: pytest.MonkeyPatch
) -> None:
    house = Application(tmp_path / "data")
    player = house.players.add(name="Ada", standard="developing", instrument="trumpet-bb")
    session = house.free_practice.open(player.id)
    head = TakeHead("", session.id, 44_100, None, "microphone", {}, "2026-03-04T10:00:00+00:00")
    listening, samples, refused = FreeListening(house.takes, head), performance.sound.samples, 0
    written, full = JournalFile.append, iter([True] * 5)

    def append(file: JournalFile, part: Samples) -> None:
        if next(full, False):
            raise StorageError("full")
        written(file, part)

    monkeypatch.setattr(JournalFile, "append", append)
    keys: list[str] = []
    at = 0
    while at < len(samples):
        try:
            keys += listening.accept(at, samples[at : at + BLOCK])[1]
            at += BLOCK
        except StorageError:
            refused += 1  # the page sends the same block again
    keys += listening.finish()
    assert refused == 4  # the first is tried again before the next block
    assert len(keys) == len(performance.passages)
    first = house.takes.keep_part(keys[0])
    assert first is not None
    assert len(first.measures.notes) == len(performance.passages[0].exercise.notes)
    house.close()
