"""`orexis` by itself: it starts, opens the browser, ends with the last window; and its entry in the menu."""

import asyncio
import json
import os
import signal
import socket
import stat
import subprocess
import sys
import time
import urllib.request
from pathlib import Path
from types import SimpleNamespace
from typing import Any

import pytest
from websockets.sync.client import connect

from orexis.api.windows import Windows
from orexis.cli import desktop
from orexis.cli import server as cli_server
from orexis.services.folder_lock import FolderLock


@pytest.fixture
def home(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))
    return tmp_path


def files(folder: Path) -> list[str]:
    return sorted(str(path.relative_to(folder)) for path in folder.rglob("*") if path.is_file())


def test_the_menu_entry_comes_with_its_icons_and_goes_without_a_trace(home: Path, monkeypatch: Any) -> None:
    told: list[tuple[str, ...]] = []
    monkeypatch.setattr(desktop, "_systemctl", lambda *words: told.append(words))
    written = desktop.install()
    assert [path.is_file() for path in written] == [True, True, True]
    entry = (home / "data" / "applications" / "orexis.desktop").read_text()
    assert entry.startswith("[Desktop Entry]\nType=Application\n")
    command = next(line for line in entry.splitlines() if line.startswith("Exec=")).removeprefix("Exec=").strip('"')
    assert os.access(command, os.X_OK)
    assert told == []
    desktop.install(service=True)
    unit = (home / "config" / "systemd" / "user" / "orexis.service").read_text()
    assert "serve\n" in unit
    assert told == [("enable", "--now", "orexis.service")]
    assert len(desktop.remove()) == 4
    assert files(home) == []
    assert desktop.remove() == []


def test_an_orexis_that_runs_already_is_opened_and_not_started_again(home: Path, monkeypatch: Any) -> None:
    opened: list[str] = []
    started: list[dict[str, Any]] = []
    monkeypatch.setattr(cli_server.webbrowser, "open", opened.append)
    monkeypatch.setattr(cli_server, "serve", lambda **more: started.append(more))
    lock = FolderLock(home / "data" / "orexis")
    lock.say("http://127.0.0.1:9/")  # a process that was killed leaves its address behind
    cli_server.open_or_serve()
    assert opened == []
    assert [item["ends_with_windows"] for item in started] == [True]
    monkeypatch.setattr(cli_server, "_answers", lambda address: address == "http://127.0.0.1:9/")
    cli_server.open_or_serve()
    assert opened == ["http://127.0.0.1:9/"]
    assert len(started) == 1
    lock.release()


def test_it_waits_for_a_page_that_is_loaded_again_and_for_whoever_plays() -> None:
    async def story() -> list[str]:
        windows, said = Windows(), []
        playing = True
        takes = SimpleNamespace(is_quiet=lambda _s: not playing)
        app = SimpleNamespace(state=SimpleNamespace(house=SimpleNamespace(takes=takes)))
        ending = asyncio.create_task(windows.all_gone(app, 0.1))  # type: ignore[arg-type]
        await asyncio.sleep(0.25)
        said.append(f"before the first window: {ending.done()}")
        windows.came()
        windows.came()
        windows.went()
        await asyncio.sleep(0.25)
        said.append(f"one is open: {ending.done()}")
        windows.went()
        await asyncio.sleep(0.02)
        windows.came()
        await asyncio.sleep(0.25)
        said.append(f"loaded again: {ending.done()}")
        windows.went()
        await asyncio.sleep(0.25)
        said.append(f"somebody plays: {ending.done()}")
        playing = False
        await asyncio.wait_for(ending, 2.0)
        return said

    assert asyncio.run(story()) == [
        "before the first window: False",
        "one is open: False",
        "loaded again: False",
        "somebody plays: False",
    ]


def test_started_alone_it_ends_with_the_last_window(home: Path) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        port = taken.getsockname()[1]
    browser = home / "browser"
    browser.write_text(f'#!/bin/sh\necho "$1" > {home}/opened\n')
    browser.chmod(browser.stat().st_mode | stat.S_IXUSR)
    code = (
        "from orexis.cli import server\n"
        f"server.PORT, server._GONE_S = {port}, 1.0\n"
        "from orexis.cli.main import run\nimport sys\nsys.argv = ['orexis']\nrun()"
    )
    process = subprocess.Popen(
        [sys.executable, "-c", code], env=os.environ | {"BROWSER": f"{browser} %s"}, stdout=subprocess.PIPE, text=True
    )
    try:
        assert process.stdout is not None
        assert process.stdout.readline().strip() == f"http://127.0.0.1:{port}/"
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=10) as answer:
            assert json.load(answer)["ends_with_windows"] is True
        with connect(f"ws://127.0.0.1:{port}/api/here"):
            time.sleep(2.0)
            assert process.poll() is None
            assert (home / "opened").read_text().strip() == f"http://127.0.0.1:{port}/"
        assert process.wait(timeout=20) == 0
    finally:
        if process.poll() is None:
            process.send_signal(signal.SIGINT)
        process.communicate(timeout=20)
