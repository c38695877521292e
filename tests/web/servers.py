"""Servers for the page tests: one process has everything loaded, and each server is a fork of it, ready in a tenth of the time.

The command line's own way of starting is tried by tests/api/test_live.py, tests/api/test_workers.py and scripts/try-wheel.
"""

import atexit
import json
import os
import signal
import subprocess
import sys
import time
from functools import lru_cache
from pathlib import Path
from typing import Any


class Forked:
    """A server's process; it is reaped by the one that it was forked from."""

    def __init__(self, pid: int) -> None:
        self.pid = pid

    def kill(self) -> None:
        """At once."""
        self._send(signal.SIGKILL)

    def terminate(self) -> None:
        """As a user would."""
        self._send(signal.SIGTERM)

    def wait(self, timeout: float = 10.0) -> None:
        """Until it is gone."""
        until = time.monotonic() + timeout
        while self.alive():
            if time.monotonic() > until:
                self.kill()
                raise TimeoutError(f"The server {self.pid} did not end.")
            time.sleep(0.02)

    def alive(self) -> bool:
        """Whether it still runs."""
        return self._send(0)

    def _send(self, what: int) -> bool:
        try:
            os.kill(self.pid, what)
        except ProcessLookupError:
            return False
        return True


def started(*, port: int, stand_port: int, data: Path) -> Forked:
    """A server on its way."""
    mother = _mother()
    assert mother.stdin is not None
    assert mother.stdout is not None
    mother.stdin.write(json.dumps({"port": port, "stand_port": stand_port, "data": str(data)}) + "\n")
    mother.stdin.flush()
    return Forked(int(mother.stdout.readline()))


@lru_cache(maxsize=1)
def _mother() -> "subprocess.Popen[str]":
    made = subprocess.Popen([sys.executable, __file__], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
    atexit.register(made.terminate)
    return made


def _serve(told: dict[str, Any]) -> None:
    from orexis.cli.server import serve

    signal.signal(signal.SIGCHLD, signal.SIG_DFL)
    folder = Path(told["data"])
    folder.parent.mkdir(parents=True, exist_ok=True)
    log = os.open(folder.with_suffix(".log"), os.O_WRONLY | os.O_CREAT | os.O_APPEND)
    os.dup2(log, 1)
    os.dup2(log, 2)
    serve(
        host="127.0.0.1", port=told["port"], data=folder, open_browser=False, workers=0, stand_port=told["stand_port"]
    )


def main() -> None:
    """Load everything, then fork a server for each line."""
    import orexis.api.app

    assert orexis.api.app is not None
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)
    for line in sys.stdin:
        pid = os.fork()
        if pid == 0:
            try:
                _serve(json.loads(line))
            finally:
                os._exit(0)
        print(pid, flush=True)


if __name__ == "__main__":
    main()
