"""The ear gets ready once after installing. Meanwhile pages answer and a player may begin: what is played is kept, and heard as soon as it is."""

import threading
import time

import numpy as np

from orexis.core import listen, player
from orexis.core.messages import tell
from orexis.core.sound import Samples
from orexis.core.trace import Trace, Tracker, joined
from orexis.services import compiling

_LONGEST_S = 300
_BLOCK_S = 4  # of what was kept is heard at once: bounds memory


class Ear:
    """Whether takes can be heard at once."""

    def __init__(self) -> None:
        self._compiled = threading.Event()
        self._compiled.set()  # until somebody finds that it is not
        self._began_s = 0.0

    def get_ready(self) -> None:
        """Compile what is not compiled yet, then load it. Blocks; to be called in a thread."""
        try:
            if not compiling.is_compiled():
                self._began_s = time.time()
                self._compiled.clear()
                compiling.compile_elsewhere()
            listen.warm()  # where the other processes could not, it is compiled here
            player.warm()
            compiling.mark()
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
        percent = round(100 * compiling.share_since(self._began_s))
        return (tell("Getting ready to listen, only once: {percent}%. You can already play.", percent=percent),)

    def wait(self) -> None:
        """Return once it is ready. Blocks; to be called in a thread."""
        self._compiled.wait(_LONGEST_S)


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
