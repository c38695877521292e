"""Work that takes long or may go wrong: in processes of its own, which can be ended, so that nothing else waits for it.

A job has a time and the process a bound of memory; beyond either the process is ended and another one started, and the
caller gets a clear error. With no processes (tests, the command line) jobs run where they are called.
"""

import multiprocessing
import resource
import signal
from collections.abc import Callable
from concurrent.futures import TimeoutError as LateError
from typing import Any, TypeVar

from pebble import ProcessExpired, ProcessPool

from orexis.core.messages import tell
from orexis.errors import BusyError, InputError

_T = TypeVar("_T")
_MEMORY_BYTES = 3 * 1024**3  # a worker that needs more has gone astray


def _nothing() -> None:
    """Do nothing: a first job that starts a process."""


def _begun(ready: Callable[[], object]) -> None:
    """What a worker does first: ignore the terminal's interrupt, get ready, bound its memory."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    ready()
    resource.setrlimit(resource.RLIMIT_AS, (_MEMORY_BYTES, _MEMORY_BYTES))


class Workers:
    """A few processes, or none. Each calls `ready`, a function of a module, before its first job."""

    def __init__(self, processes: int = 0, *, ready: Callable[[], object] = _nothing) -> None:
        self._pool = None
        if processes:
            context = multiprocessing.get_context("spawn")
            self._pool = ProcessPool(max_workers=processes, initializer=_begun, initargs=(ready,), context=context)

    def warm(self) -> None:
        """Start the processes, so that the first to wait for one does not wait for its start, too."""
        if self._pool is not None:
            self._pool.schedule(_nothing)

    def run(self, job: Callable[..., _T], *args: Any, seconds: float, **more: Any) -> _T:
        """The job's result, or its error; InputError when it took too long or too much memory, BusyError when its process died."""
        if self._pool is None:
            return job(*args, **more)
        try:
            result: _T = self._pool.schedule(job, args=args, kwargs=more, timeout=seconds).result()
            return result
        except LateError as error:
            raise InputError(
                tell("That took longer than {seconds:.0f} s and was stopped. Try something shorter.", seconds=seconds)
            ) from error
        except MemoryError as error:
            raise InputError("That was too much for this computer and was stopped. Try something shorter.") from error
        except ProcessExpired as error:
            raise BusyError("A part of Orexis stopped by itself. Try again.") from error

    def close(self) -> None:
        """Stop the worker processes; what they had not finished is lost."""
        if self._pool is not None:
            self._pool.stop()  # type: ignore[no-untyped-call]
            self._pool.join()
