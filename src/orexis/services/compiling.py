"""The inner loops are compiled once after installing, by two other processes with half of them each, and are read from disk afterwards.

A mark beside them says of which sources they are.
"""

import contextlib
import hashlib
import os
import subprocess
import sys
from pathlib import Path

from orexis.core import listen, player
from orexis.core.compiled import load, loops

_LONGEST_S = 300
_HALVES = ("path", "windows")  # each takes as long to compile
_MARK = "orexis-loops"


def is_compiled() -> bool:
    """Whether the inner loops lie on disk as these sources have them, for this machine."""
    try:
        return _mark_file().read_text() == _of_what()
    except OSError:
        return False


def compile_elsewhere() -> None:
    """Compile them in other processes. Blocks; where that cannot be done they stay as they are."""
    forget()
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


def forget() -> None:
    """Delete what was compiled of other sources: the compiler sees when a loop has changed, but not a loop that it calls."""
    for loop in loops():
        for file in loop.folder.glob(f"*.{loop.name}-*.nb[ic]"):
            with contextlib.suppress(
                OSError
            ):  # another Orexis did it, or it cannot be written and so was not compiled here
                file.unlink()


def share_since(moment_s: float) -> float:
    """Return how many of them were compiled since a moment, in seconds since 1970; 0 to 1."""
    made = [loop.folder.glob(f"*.{loop.name}-*.nbi") for loop in loops()]
    done = [any(file.stat().st_mtime >= moment_s for file in files) for files in made]
    return sum(done) / len(done)


def mark() -> None:
    """Write down that they are compiled."""
    try:
        _mark_file().write_text(_of_what())
    except OSError:  # where nothing can be written nothing was compiled ahead either
        return


def _mark_file() -> Path:
    return loops()[0].folder / _MARK


def _of_what() -> str:
    """What the compiler looks at when it reads what it once compiled: the sources as files, itself, the machine."""
    load()
    import numba
    from llvmlite.binding import get_host_cpu_features

    sources = [source.stat() for source in sorted({loop.source for loop in loops()})]
    parts = [numba.__version__, sys.version, get_host_cpu_features().flatten()]
    parts += [f"{source.st_mtime_ns} {source.st_size}" for source in sources]
    return hashlib.sha256("\n".join(parts).encode()).hexdigest()


def _compile(half: str) -> None:
    if half == "path":
        listen.warm_path()
    else:
        listen.warm_windows_and_room()
        player.warm()


if __name__ == "__main__":
    _compile(sys.argv[1])
