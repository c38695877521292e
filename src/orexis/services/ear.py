"""The ear gets ready: its inner loops are compiled once after installing, which takes up to a minute, and are read from disk afterwards.

Another process compiles them, so that pages answer meanwhile; nobody begins a take that would wait for it.
"""

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
        self._compiling = threading.Event()

    def get_ready(self) -> None:
        """Compile what is not compiled yet, then load it. Blocks; to be called in a thread."""
        if not listen.is_compiled():
            self._compiling.set()
            try:
                subprocess.run([sys.executable, "-c", _COMPILE], timeout=_LONGEST_S, check=False)
            except (OSError, subprocess.TimeoutExpired):
                pass  # it is compiled here instead, where it takes as long
            finally:
                self._compiling.clear()
        listen.warm()

    def says(self) -> tuple[str, ...]:
        """What to tell whoever looks; nothing once it is ready."""
        return (tell("Getting ready to listen. This takes up to a minute, once."),) if self._compiling.is_set() else ()

    def require(self) -> None:
        """BusyError while it is being compiled."""
        if self._compiling.is_set():
            raise BusyError("Getting ready to listen. This takes up to a minute, once. Then start again.")
