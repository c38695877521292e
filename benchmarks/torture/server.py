"""A real server in a process of its own, on a small disk where this user may make one: to be killed, cut off, filled and set ahead."""

import json
import os
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from pathlib import Path
from typing import Any

import psutil
from websockets.sync.client import ClientConnection, connect

_DISK = "size=400m"
_START_S = 120.0
_GRACE_S = 1.0  # before what a crash left is finished


class DiedError(Exception):
    """The server was killed while it was asked."""


class Disk:
    """A folder on a small disk of its own, or on the machine's where that cannot be made."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        folder.mkdir(parents=True)
        told = subprocess.run(["mount", "-t", "tmpfs", "-o", _DISK, "tmpfs", folder], capture_output=True)
        self.small = told.returncode == 0
        self.data = folder / "data"
        self._ballast = folder / "ballast"

    def fill(self, left_kb: int) -> None:
        """Take up the disk but for so much; nothing where it is the machine's."""
        if self.small:
            self.free()
            with self._ballast.open("wb") as file:
                os.posix_fallocate(file.fileno(), 0, max(1, shutil.disk_usage(self.folder).free - (left_kb << 10)))

    def free(self) -> None:
        """Make room again."""
        self._ballast.unlink(missing_ok=True)

    def close(self) -> None:
        """Take it away."""
        if self.small:
            subprocess.run(["umount", "-l", self.folder], check=False)
        shutil.rmtree(self.folder, ignore_errors=True)


class Server:
    """One life of a server; `days` is how far its clock is ahead."""

    def __init__(self, data: Path, days: float) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = int(probe.getsockname()[1])
        code = (
            "import uvicorn, pathlib; from orexis.api.app import create_app; "
            f"uvicorn.run(create_app(pathlib.Path({str(data)!r}), recovery_grace_s={_GRACE_S}), "
            f"host='127.0.0.1', port={self.port}, log_level='warning')"
        )
        self.base = f"http://127.0.0.1:{self.port}"
        with open(os.devnull, "w") as nothing:
            self.process = subprocess.Popen(
                [sys.executable, "-c", code],
                env=dict(os.environ) | {"OREXIS_DAYS_AHEAD": str(days)},
                stdout=nothing,
                stderr=nothing,
            )
        self._wait()
        self._at_first: tuple[float, int] | None = None

    def _wait(self) -> None:
        until = time.monotonic() + _START_S
        while time.monotonic() < until:
            try:
                if self.ask("GET", "/api/players")[0] == 200:
                    return
            except DiedError:
                if self.process.poll() is not None:
                    raise AssertionError("the server did not start") from None
            time.sleep(0.1)
        raise AssertionError("the server does not answer")

    def ask(self, method: str, path: str, body: Any = None, *, seconds: float = 120.0) -> tuple[int, bytes]:
        """Status and body; DiedError where nobody answers any more."""
        data = body if isinstance(body, bytes) or body is None else json.dumps(body).encode()
        kind = "application/zip" if isinstance(body, bytes) else "application/json"
        request = urllib.request.Request(self.base + path, data, {"content-type": kind}, method=method)
        try:
            with urllib.request.urlopen(request, timeout=seconds) as answer:
                return answer.status, answer.read()
        except urllib.error.HTTPError as error:
            return error.code, error.read()
        except (OSError, ConnectionError) as error:
            if isinstance(error, TimeoutError):
                raise AssertionError(f"{method} {path} hangs") from error
            raise DiedError(path) from error

    def live(self, path: str = "/api/live") -> ClientConnection:
        """A socket to play into."""
        return connect(self.base.replace("http", "ws") + path, max_size=None, open_timeout=60)

    def grown(self) -> tuple[float, int]:
        """Megabytes and open files since this was first asked of this life."""
        process = psutil.Process(self.process.pid)
        now = (process.memory_info().rss / 1e6, process.num_fds())
        self._at_first = self._at_first or now
        return now[0] - self._at_first[0], now[1] - self._at_first[1]

    def kill(self) -> None:
        """End it without a word."""
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()
