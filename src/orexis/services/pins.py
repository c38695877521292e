"""PINs: who may open whose practice at this computer. A player without one is open to everybody.

A PIN is kept as an Argon2 hash in a file of its own, which no export takes along; what a window has opened lives in memory, so that a new start asks
again. A teacher opens everybody. Whoever can read the data folder reads it without a PIN.
"""

import json
import os
import re
import secrets
import threading
import time
from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from pathlib import Path

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError

from orexis.errors import InputError, LockedError, StorageError, TooManyError

_PIN = re.compile(r"\d{4,8}")
_ATTEMPTS, _WITHIN_S = 5, 60.0  # for each player
_MOST_WINDOWS = 1000  # that have opened somebody, remembered at once
# The window that asks; None where no page does: the command line, and what runs by itself.
_ASKING: ContextVar[str | None] = ContextVar("asking", default=None)


@contextmanager
def asking(window: str) -> Iterator[None]:
    """Everything inside is asked by this window, named by its token; empty for one that has opened nobody."""
    before = _ASKING.set(window)
    try:
        yield
    finally:
        _ASKING.reset(before)


class Pins:
    """The PINs of a household. `who_teaches`: the ids of those who may open everybody."""

    def __init__(self, folder: Path, who_teaches: Callable[[], frozenset[str]] = frozenset) -> None:
        self._path = folder / "pins.json"
        self._hasher = PasswordHasher()
        self._lock = threading.Lock()
        self._hashes: dict[str, str] = self._read()
        self._opened: dict[str, set[str]] = {}  # player ids by window
        self._attempts: dict[str, deque[float]] = {}
        self.who_teaches = who_teaches

    def has(self, player_id: str) -> bool:
        """Whether a player has a PIN."""
        return player_id in self._hashes

    @property
    def in_use(self) -> bool:
        """Whether anybody has one."""
        return bool(self._hashes)

    def is_open(self, player_id: str) -> bool:
        """Whether the window that asks may see this player's practice."""
        window = _ASKING.get()
        if window is None or not self.has(player_id):
            return True
        opened = self._opened.get(window, set())
        return player_id in opened or bool(opened & self.who_teaches())

    def is_teachers(self) -> bool:
        """Whether the window that asks may see everybody's: nobody has a PIN, or it has opened a teacher."""
        window = _ASKING.get()
        return window is None or not self._hashes or bool(self._opened.get(window, set()) & self.who_teaches())

    def require(self, player_id: str) -> None:
        """LockedError where the window that asks may not see this player's practice."""
        if not self.is_open(player_id):
            raise LockedError("This player has a PIN. Enter it first.")

    def open(self, player_id: str, pin: str) -> str:
        """The token of the window that asks, which has opened this player now. InputError for a wrong PIN, TooManyError for too many."""
        with self._lock:
            self._count_attempt(player_id)
            try:
                self._hasher.verify(self._hashes.get(player_id, ""), pin)
            except (VerificationError, InvalidHashError):
                raise InputError("That isn’t the PIN.") from None
            self._attempts.pop(player_id, None)
            window = _ASKING.get()
            if (
                window is None or window not in self._opened
            ):  # a name of the window's own choice could be known to others
                window = secrets.token_urlsafe(32)
                if len(self._opened) >= _MOST_WINDOWS:
                    self._opened.pop(next(iter(self._opened)))
            self._opened.setdefault(window, set()).add(player_id)
            return window

    def close(self) -> None:
        """The window that asks has nobody open any more."""
        self._opened.pop(_ASKING.get() or "", None)

    def choose(self, player_id: str, pin: str | None) -> None:
        """Another PIN, or none. LockedError where the present one was not given; InputError for one that is not four to eight digits,
        and where it would keep a teacher out: a teacher has one first, and last.
        """
        self.require(player_id)
        teachers = self.who_teaches()
        if pin is None and player_id in teachers and set(self._hashes) - teachers:
            raise InputError("Others here have a PIN: keep yours, or you no longer see how they practise.")
        if pin is not None and not _PIN.fullmatch(pin):
            raise InputError("A PIN has 4 to 8 digits.")
        if pin is not None and player_id not in teachers and teachers and not teachers & set(self._hashes):
            raise InputError("Your teacher sets a PIN first.")
        with self._lock:
            self._hashes = {key: value for key, value in self._hashes.items() if key != player_id}
            if pin is not None:
                self._hashes[player_id] = self._hasher.hash(pin)
            self._write()

    def forget(self, player_id: str) -> None:
        """A player who is no more has no PIN."""
        with self._lock:
            if self._hashes.pop(player_id, None) is not None:
                self._write()

    def _count_attempt(self, player_id: str) -> None:
        moment = time.monotonic()
        tried = self._attempts.setdefault(player_id, deque())
        while tried and moment - tried[0] > _WITHIN_S:
            tried.popleft()
        if len(tried) >= _ATTEMPTS:
            raise TooManyError("Too many attempts: wait a minute.")
        tried.append(moment)

    def _read(self) -> dict[str, str]:
        try:
            told = json.loads(self._path.read_text())
        except (OSError, ValueError):
            return {}
        return {str(key): str(value) for key, value in told.items()} if isinstance(told, dict) else {}

    def _write(self) -> None:
        unfinished = self._path.with_suffix(".part")
        try:
            unfinished.write_text(json.dumps(self._hashes))
            unfinished.chmod(0o600)
            os.replace(unfinished, self._path)
        except OSError as error:
            raise StorageError("The PIN could not be saved. The disk may be full.") from error
