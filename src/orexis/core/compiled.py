"""Inner loops, compiled by numba. The compiler is loaded when a loop first runs: to load it at every start would cost half a second.

One thread loads it while others wait: halfway loaded it is of no use to anybody.
"""

from collections.abc import Callable
from inspect import getfile
from pathlib import Path
from threading import RLock
from typing import Any

_LOADING = RLock()


class Loop:
    """An inner loop. It can be called from Python and from other loops."""

    def __init__(self, python: Callable[..., Any]) -> None:
        self._python, self.__doc__ = python, python.__doc__
        self.source, self.name = Path(getfile(python)), python.__name__
        self._made: Any = None
        _ALL.append(self)

    def __call__(self, *values: Any) -> Any:
        """Run it: compiled on the first day, read from its cache afterwards."""
        return self.dispatcher(*values)

    @property
    def dispatcher(self) -> Any:
        """What numba made of it."""
        if self._made is None:
            load()
            with _LOADING:
                from numba import njit

                self._made = self._made or njit(cache=True)(self._python)
        return self._made

    @property
    def folder(self) -> Path:
        """Where what was compiled of it is kept."""
        return Path(str(self.dispatcher.stats.cache_path))

    @property
    def _numba_type_(self) -> Any:
        """What another loop that calls this one sees."""
        return self.dispatcher._numba_type_


_ALL: list[Loop] = []


def loops() -> tuple[Loop, ...]:
    """Return all of them, of the modules that were imported."""
    return tuple(_ALL)


def load() -> None:
    """Have the compiler loaded. Whoever uses it by another way than a loop calls this first."""
    with _LOADING:
        import rocket_fft  # noqa: F401  (brings numba along)


def good_size(least: int) -> int:
    """Return the next length from `least` on whose real transform is quick."""
    load()
    from rocket_fft import good_size as found

    return int(found(least, real=True))
