"""Long work under way (an import, a recording that is read): how far it is, and the wish to stop it. One at a time."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from orexis.errors import ConflictError


@dataclass(frozen=True, slots=True)
class JobProgress:
    """What is being done; None where nothing is."""

    says: str | None


class Job:
    """Told of each step by whoever works, from any thread; a wish to stop is met at the next step."""

    def __init__(self, *, busy: str, stopped: str) -> None:
        """`busy`: why another one cannot begin; `stopped`: what is said of one that was stopped."""
        self._why_busy, self._why_stopped = busy, stopped
        self._busy = threading.Lock()
        self._says: str | None = None
        self._stop = False

    @contextmanager
    def running(self) -> Iterator[None]:
        """Mark the job as running inside the block; ConflictError while another runs."""
        if not self._busy.acquire(blocking=False):
            raise ConflictError(self._why_busy)
        self._says, self._stop = "arriving", False
        try:
            yield
        finally:
            self._says = None
            self._busy.release()

    def report(self, said: str) -> None:
        """A step; ConflictError where it was to stop."""
        self._says = said
        if self._stop:
            raise ConflictError(self._why_stopped)

    def stop(self) -> None:
        """Ask the job to stop at its next step."""
        self._stop = True

    @property
    def progress(self) -> JobProgress:
        """What is being done at this moment."""
        return JobProgress(self._says)
