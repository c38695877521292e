"""How long whoever starts Orexis waits: `python -m benchmarks.starts [COMMAND]`, by default the one beside this Python.

Prints seconds, least and median of several, for answers that need no sound, and until the server answers on a new record and on one
that is there. The last line is what Python alone takes: a machine's speed changes from minute to minute, ratios less.
"""

import os
import signal
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

_TRIES = 7
_PORT = "8779"


def _seconds(what: Callable[[], object]) -> list[float]:
    taken = []
    for _ in range(_TRIES):
        began = time.perf_counter()
        what()
        taken.append(time.perf_counter() - began)
    return taken


def _say(name: str, taken: list[float]) -> None:
    print(f"{name:28} {min(taken):5.2f} {statistics.median(taken):5.2f}", flush=True)


def _until_it_answers(command: list[str], folder: Path) -> float:
    """Seconds until the address is printed, which is when the first question is answered."""
    began = time.perf_counter()
    with subprocess.Popen(
        [*command, "serve", "--port", _PORT, "--data", str(folder)],
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        text=True,
    ) as server:
        assert server.stdout is not None
        if not server.stdout.readline().startswith("http"):
            raise SystemExit("The server did not start.")
        taken = time.perf_counter() - began
        server.send_signal(signal.SIGINT)
    return taken


def main() -> None:
    command = sys.argv[1:] or [str(Path(sys.executable).parent / "orexis")]
    environment = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
    os.environ.clear()
    os.environ.update(environment)

    def run(*words: str) -> None:
        subprocess.run([*command, *words], check=True, stdout=subprocess.DEVNULL)

    run("--help")  # what is compiled at the first start is there
    print(f"{'seconds':28} {'least':>5} {'median':>5}")
    _say("--help", _seconds(lambda: run("--help")))
    _say("figure", _seconds(lambda: run("figure", "two-partial-slur")))
    with tempfile.TemporaryDirectory() as folder:
        new = [_until_it_answers(command, Path(folder) / str(number)) for number in range(_TRIES)]
        _say("server, new record", new)
        _say("server, a record that is there", [_until_it_answers(command, Path(folder) / "0") for _ in range(_TRIES)])
    _say("Python alone", _seconds(lambda: subprocess.check_call([sys.executable, "-c", "pass"])))


if __name__ == "__main__":
    main()
