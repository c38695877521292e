"""The ear gets ready: its inner loops are compiled once after installing, and are read from disk afterwards.

Two other processes compile half of them each, so that pages answer meanwhile and a player may begin: what is played is kept, and heard
as soon as the ear is ready.
"""

import hashlib
import os
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from importlib import import_module
from pathlib import Path

import numba
import numpy as np
from llvmlite.binding import get_host_cpu_features
from numba.core.dispatcher import Dispatcher

from orexis.core import listen, player
from orexis.core.messages import tell
from orexis.core.sound import Samples
from orexis.core.trace import Trace, Tracker, joined

_LONGEST_S = 300
_BLOCK_S = 4  # of what was kept is heard at once: bounds memory
_HALVES = ("path", "windows")  # each takes as long to compile
_WITH_LOOPS = (
    "trace.peaks",
    "trace.filtering",
    "trace.viterbi",
    "trace.f0_path",
    "signals",
    "room.suppression",
    "room.partials",
    "player.harmonics",
)
_MARK = "orexis-loops"  # beside the compiled loops: of which sources they are


class Ear:
    """Whether takes can be heard at once."""

    def __init__(self) -> None:
        self._compiled = threading.Event()
        self._compiled.set()  # until somebody finds that it is not
        self._began_s = 0.0

    def get_ready(self) -> None:
        """Compile what is not compiled yet, then load it. Blocks; to be called in a thread."""
        try:
            if not is_compiled():
                self._began_s = time.time()
                self._compiled.clear()
                _compile_elsewhere()
            listen.warm()  # where the other processes could not, it is compiled here
            player.warm()
            _mark()
        finally:
            self._compiled.set()

    @property
    def ready(self) -> bool:
        """Whether what is played is heard at once."""
        return self._compiled.is_set()

    def says(self) -> tuple[str, ...]:
        """What to tell whoever looks; nothing once it is ready."""
        if self.ready:
            return ()
        return (tell("Getting ready to listen, only once: {percent}%. You can already play.", percent=self._percent()),)

    def wait(self) -> None:
        """Return once it is ready. Blocks; to be called in a thread."""
        self._compiled.wait(_LONGEST_S)

    def _percent(self) -> int:
        done = [any(file.stat().st_mtime >= self._began_s for file in _compiled(loop)) for loop in _loops()]
        return round(100 * sum(done) / len(done))


class PatientTracker:
    """A tracker that keeps what comes until the ear is ready, and hears it then."""

    def __init__(self, rate: int, ear: Ear) -> None:
        self._tracker, self._ear = Tracker(rate), ear
        self._rate, self._longest = rate, _BLOCK_S * rate
        self._kept: list[Samples] = []

    @property
    def kept_s(self) -> float:
        """Seconds of sound that wait to be heard."""
        return sum(map(len, self._kept)) / self._rate

    def push(self, samples: Samples) -> Trace:
        """Final frames that have become ready; none while the ear is not."""
        self._kept.append(np.ascontiguousarray(samples))
        return self._heard() if self._ear.ready else joined([])

    def provisional(self) -> Trace:
        """Guesses for the frames after the last final one; none while the ear is not ready."""
        return joined([]) if self._kept else self._tracker.provisional()

    def finish(self) -> Trace:
        """The frames still open, as if silence followed. Blocks until the ear is ready."""
        self._ear.wait()
        return joined([self._heard(), self._tracker.finish()])

    def _heard(self) -> Trace:
        kept, self._kept = self._kept, []
        blocks = [block[at : at + self._longest] for block in kept for at in range(0, len(block), self._longest)]
        parts = [self._tracker.push(block) for block in blocks]
        return parts[0] if len(parts) == 1 else joined(parts)


def is_compiled() -> bool:
    """Whether the inner loops lie on disk as these sources have them, for this machine."""
    try:
        return _mark_file().read_text() == _of_what()
    except OSError:
        return False


def _compile_elsewhere() -> None:
    here = {**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)}  # however this process was started
    running: list[subprocess.Popen[bytes]] = []
    try:
        for half in _HALVES:
            command = [sys.executable, "-m", __name__, half]
            running.append(subprocess.Popen(command, env=here, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL))
        for process in running:
            process.wait(_LONGEST_S)
    except (OSError, subprocess.TimeoutExpired):
        for process in running:
            process.kill()


def _mark() -> None:
    try:
        _mark_file().write_text(_of_what())
    except OSError:  # where nothing can be written nothing was compiled ahead either
        return


def _mark_file() -> Path:
    return Path(str(next(_loops()).stats.cache_path)) / _MARK


def _of_what() -> str:
    """What the compiler looks at when it reads what it once compiled: the sources as files, itself, the machine."""
    sources = [Path(str(import_module(f"orexis.core.{name}").__file__)).stat() for name in _WITH_LOOPS]
    parts = [numba.__version__, sys.version, get_host_cpu_features().flatten()]
    parts += [f"{source.st_mtime_ns} {source.st_size}" for source in sources]
    return hashlib.sha256("\n".join(parts).encode()).hexdigest()


def _loops() -> Iterator[Dispatcher]:
    for name in _WITH_LOOPS:
        yield from (
            value
            for value in vars(import_module(f"orexis.core.{name}")).values()
            if isinstance(value, Dispatcher) and value.py_func.__module__ == f"orexis.core.{name}"
        )


def _compiled(loop: Dispatcher) -> Iterator[Path]:
    name = loop.py_func.__name__
    return Path(str(loop.stats.cache_path)).glob(f"*.{name}-*.nbi")


def _compile(half: str) -> None:
    if half == "path":
        listen.warm_path()
    else:
        listen.warm_windows_and_room()
        player.warm()


if __name__ == "__main__":
    _compile(sys.argv[1])
