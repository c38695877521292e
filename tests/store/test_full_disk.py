"""A disk that is full or cannot be written: Orexis starts all the same, everything can be looked at, and it says what is wrong.

These run on small disks of their own, which only an administrator of the machine can make; without that right they are skipped.
"""

import json
import os
import shutil
import socket
import subprocess
import sys
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from fastapi.testclient import TestClient

from benchmarks.hostile import PAGES
from orexis.api.app import create_app
from orexis.errors import StorageError
from orexis.services.application import Application
from orexis.services.archive import back_up, write_export
from orexis.services.clock import now
from orexis.services.journal import TakeHead
from tests.store.test_moving import filled

_SIZE_KB = 8192


@pytest.fixture
def small(tmp_path: Path) -> Iterator[Path]:
    """A disk of 8 MB with a record on it."""
    place = tmp_path / "disk"
    place.mkdir()
    made = subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={_SIZE_KB}k", "tmpfs", place], capture_output=True)
    if made.returncode:
        pytest.skip("this user cannot make a disk")
    try:
        filled(place / "data", "Wenna Tull").close()
        yield place
    finally:
        subprocess.run(["umount", "-l", place], check=True)


def fill(place: Path, left_kb: int) -> None:
    """Take up the disk but for so much."""
    free = shutil.disk_usage(place).free - (left_kb << 10)
    with (place / "ballast").open("wb") as file:
        file.write(b"\0" * max(0, free))


def pages_of(client: TestClient) -> dict[str, int]:
    """The status of every page of the first player."""
    (player,) = client.get("/api/players").json()
    (session,) = client.get(f"/api/players/{player['id']}/log").json()["sessions"]
    take = session["summary"]["take_ids"][0]
    return {
        page: client.get(page.format(player=player["id"], session=session["id"], take=take)).status_code
        for page in PAGES
    }


def serve(folder: Path) -> TestClient:
    return TestClient(create_app(folder), base_url="http://127.0.0.1", raise_server_exceptions=False)


def test_a_record_on_a_disk_that_cannot_be_written_can_be_looked_at(small: Path, tmp_path: Path) -> None:
    folder = small / "data"
    with serve(folder) as client:
        before = pages_of(client)
    assert set(before.values()) == {200}
    subprocess.run(["mount", "-o", "remount,ro", small], check=True)
    with serve(folder) as client:
        assert pages_of(client) == before
        (said,) = client.get("/api/notices").json()
        assert "cannot be written" in said
        assert "nothing new is kept" in said
        (player,) = client.get("/api/players").json()
        answer = client.patch(f"/api/players/{player['id']}/settings", json={"quiet_from": 21})
        assert answer.status_code == 507
        assert "cannot be written" in answer.json()["message"]
        written = client.get("/api/export")
        assert written.status_code == 200
    house = Application(folder)
    write_export(house.record, tmp_path / "out.zip")
    with pytest.raises(StorageError, match="could not be copied"):
        back_up(house.record)
    house.close()


@pytest.mark.parametrize("read_only", [True, False])
def test_the_command_starts_too(small: Path, read_only: bool) -> None:
    if read_only:
        subprocess.run(["mount", "-o", "remount,ro", small], check=True)
    else:
        fill(small, 0)
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = [sys.executable, "-m", "orexis.cli.main", "serve", "--port", str(port), "--data", str(small / "data")]
    running = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)
    try:
        assert running.stdout is not None
        assert running.stdout.readline().startswith("http://127.0.0.1")
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/notices", timeout=60) as answer:
            assert "You can look at everything" in json.load(answer)[0]
    finally:
        running.kill()
        running.communicate()


@pytest.mark.parametrize("left_kb", [0, 40, 60, 100, 150, 200, 400])
def test_it_starts_and_reads_on_a_full_disk_and_goes_on_when_there_is_room(small: Path, left_kb: int) -> None:
    folder = small / "data"
    shutil.rmtree(folder / "backups", ignore_errors=True)  # so that a copy is due
    fill(small, left_kb)
    with serve(folder) as client:
        assert set(pages_of(client).values()) == {200}
        notices = client.get("/api/notices").json()
        assert notices or left_kb > 0
        for said in notices:
            assert "disk is full" in said
            assert "200 MB" in said
    os.unlink(small / "ballast")
    with serve(folder) as client:
        assert client.get("/api/notices").json() == []
        (player,) = client.get("/api/players").json()
        assert client.patch(f"/api/players/{player['id']}/settings", json={"quiet_from": 21}).status_code == 200


def test_a_take_that_a_crash_cut_off_waits_in_the_journal_for_room(small: Path) -> None:
    folder = small / "data"
    house = Application(folder)
    (person,) = house.players.all()
    session = house.sessions.open(person.id, "long-low-tones", {"steps": "2"})
    head = TakeHead("d" * 32, session.id, 44_100, 0, "microphone", {}, now().isoformat())
    file = house.record.journal.open(head)
    file.append(np.zeros(3 * 44_100, np.float32))
    file.close()
    house.close()
    fill(small, 0)
    house = Application(folder)
    waits, has = house.left_over(), house.record.journal.has(head.take_id)
    house.close()
    assert (waits, has) == ((), True)
    os.unlink(small / "ballast")
    house = Application(folder)
    waits = house.left_over()
    house.close()
    assert waits == (head.take_id,)
