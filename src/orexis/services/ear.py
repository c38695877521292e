"""The ear gets ready: its inner loops are compiled once after installing, which takes up to a minute, and are read from disk afterwards.

Another process compiles them, so that pages answer meanwhile; a take that is begun waits for it, and says so.
"""

import os
import subprocess
import sys
import threading

from orexis.core import listen
from orexis.core.messages import tell
from orexis.errors import BusyError

_LONGEST_S = 300
_COMPILE = "from orexis.core.listen import warm; warm()"


class Ear:
    """Whether takes can be heard at once."""

    def __init__(self) -> None:
        self._compiled = threading.Event()
        self._compiled.set()  # until somebody finds that it is not

    def get_ready(self) -> None:
        """Compile what is not compiled yet, then load it. Blocks; to be called in a thread."""
        try:
            if not listen.is_compiled():
                self._compiled.clear()
                _compile_elsewhere()
            listen.warm()  # where the other process could not, it is compiled here
        finally:
            self._compiled.set()

    def says(self) -> tuple[str, ...]:
        """What to tell whoever looks; nothing once it is ready."""
        ready = self._compiled.is_set()
        return () if ready else (tell("Getting ready to listen. This takes up to a minute, once."),)

    def not_ready(self) -> BusyError | None:
        """What to tell whoever begins a take before it is ready."""
        return next((BusyError(said) for said in self.says()), None)

    def wait(self) -> None:
        """Return once it is ready. Blocks; to be called in a thread."""
        self._compiled.wait(_LONGEST_S)


def _compile_elsewhere() -> None:
    try:
        here = {**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)}  # however this process was started
        subprocess.run([sys.executable, "-c", _COMPILE], env=here, timeout=_LONGEST_S, check=False, capture_output=True)
    except (OSError, subprocess.TimeoutExpired):
        return
