"""Who may come in from the network: a passphrase, a short code that is shown on this machine, devices that were let in.

The passphrase is kept as an Argon2 hash, a device's token as a SHA-256: neither can be read back. Attempts are counted for each address,
so that nobody locks the others out, and for all together, so that guessing is slow for many as well; after wrong ones the code is longer.
"""

import hashlib
import json
import os
import secrets
import threading
import time
from collections import deque
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Any, Literal
from uuid import uuid4

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError

from orexis.core.messages import tell
from orexis.errors import InputError, MissingError, TooManyError
from orexis.services.clock import now

LEAST_LETTERS, MOST_LETTERS = 8, 200
CODE_DIGITS, CODE_S = 6, 600.0
LONGER_AFTER, LONGER_DIGITS = 10, 10  # wrong guesses since the last device was let in, and what a code has then
_ATTEMPTS, _ALL_ATTEMPTS, _WITHIN_S = 5, 60, 60.0  # of one address, and of all
_MOST_ADDRESSES = 512  # remembered at once
_MOST_DEVICES, _NAME = 20, 60


# To practise; only to look; or everything that the desk may but for letting others in and going back to an earlier record.
Rights = Literal["play", "read", "all"]


@dataclass(frozen=True, slots=True)
class PairedDevice:
    """A tablet or phone that was let in, since when, and what it may do."""

    id: str
    name: str
    paired_at: datetime
    seen_at: datetime | None
    rights: Rights = "play"


class Pairing:
    """The folder's passphrase and devices; the code of the moment lives in memory only."""

    def __init__(self, folder: Path) -> None:
        self._path = folder / "pairing.json"
        self._hasher = PasswordHasher()
        self._lock = threading.Lock()
        self._attempts: dict[str, deque[float]] = {}
        self._wrong = 0  # since a device was let in
        self._code: tuple[str, float] | None = None
        self._known: dict[str, Any] = self._read()
        self._seen: dict[str, datetime] = {}

    # -- the passphrase, the switch ------------------------------------------------------------------------------------

    @property
    def has_passphrase(self) -> bool:
        """Return whether the owner has set a passphrase."""
        return bool(self._known.get("passphrase"))

    @property
    def on(self) -> bool:
        """Whether the network is let in."""
        return bool(self._known.get("on")) and self.has_passphrase

    def set_passphrase(self, text: str) -> None:
        """Another passphrase; devices that were let in stay."""
        if not LEAST_LETTERS <= len(text) <= MOST_LETTERS:
            raise InputError(
                tell(
                    "The passphrase has {count} letters: choose {least_letters} to {most_letters}.",
                    count=len(text),
                    least_letters=LEAST_LETTERS,
                    most_letters=MOST_LETTERS,
                )
            )
        with self._lock:
            self._keep(passphrase=self._hasher.hash(text))

    def switch(self, on: bool) -> None:
        """Let the network in, or not any more. InputError without a passphrase."""
        if on and not self.has_passphrase:
            raise InputError("Set a passphrase first.")
        with self._lock:
            self._keep(on=on)

    # -- letting in ----------------------------------------------------------------------------------------------------

    def code(self) -> str:
        """A code for the next ten minutes, for one device."""
        with self._lock:
            digits = LONGER_DIGITS if self._wrong >= LONGER_AFTER else CODE_DIGITS
            made = "".join(str(secrets.randbelow(10)) for _ in range(digits))
            self._code = (made, time.monotonic() + CODE_S)
            return made

    def let_in(self, secret: str, name: str, address: str = "") -> str:
        """A token for a device that knows the passphrase or the code. InputError where it knows neither, TooManyError where too many
        were tried from its address.
        """
        cleaned = " ".join(name.split())[:_NAME] or "a device"
        with self._lock:
            self._count_attempt(address)
            if not self._is_code(secret) and not self._is_passphrase(secret):
                self._wrong += 1
                if self._wrong == LONGER_AFTER:
                    self._code = None  # a short one is not offered any longer
                raise InputError("That isn’t the passphrase or the current code.")
            token = secrets.token_urlsafe(32)
            devices = list(self._known.get("devices", []))
            if len(devices) >= _MOST_DEVICES:
                raise InputError(
                    tell(
                        "{most_devices} devices are allowed already. Remove one in Settings first.",
                        most_devices=_MOST_DEVICES,
                    )
                )
            moment = now().isoformat()
            devices.append({"id": uuid4().hex, "name": cleaned, "token": _digest(token), "paired_at": moment})
            self._keep(devices=devices)
            self._wrong = 0
            self._attempts.pop(address, None)
            return token

    def rights_of(self, token: str | None) -> Rights | None:
        """What the device with this token may do; None for a token of no device that is still let in."""
        if not token:
            return None
        digest = _digest(token)
        for device in self._known.get("devices", []):
            if secrets.compare_digest(device["token"], digest):
                self._seen[device["id"]] = now()
                return _rights(device)
        return None

    def give(self, device_id: str, rights: Rights) -> None:
        """What a device may do from now on; MissingError when there is none by that id."""
        with self._lock:
            devices = [dict(item) for item in self._known.get("devices", [])]
            found = next((item for item in devices if item["id"] == device_id), None)
            if found is None:
                raise MissingError("There is no such device: it may have been removed.")
            found["rights"] = rights
            self._keep(devices=devices)

    def devices(self) -> tuple[PairedDevice, ...]:
        """All that are let in, the newest first."""
        return tuple(
            PairedDevice(
                item["id"],
                item["name"],
                datetime.fromisoformat(item["paired_at"]),
                self._seen.get(item["id"]),
                _rights(item),
            )
            for item in reversed(self._known.get("devices", []))
        )

    def remove(self, device_id: str) -> None:
        """Not let in any more; MissingError when there is none by that id."""
        with self._lock:
            devices = self._known.get("devices", [])
            left = [item for item in devices if item["id"] != device_id]
            if len(left) == len(devices):
                raise MissingError("There is no such device: it may have been removed.")
            self._keep(devices=left)

    # -- inside --------------------------------------------------------------------------------------------------------

    def _count_attempt(self, address: str) -> None:
        moment = time.monotonic()
        for known in list(self._attempts):
            tried = self._attempts[known]
            while tried and moment - tried[0] > _WITHIN_S:
                tried.popleft()
            if not tried:
                del self._attempts[known]
        own = self._attempts.get(address, deque())
        everybody = sum(len(tried) for tried in self._attempts.values())
        if len(own) >= _ATTEMPTS or everybody >= _ALL_ATTEMPTS or len(self._attempts) >= _MOST_ADDRESSES:
            raise TooManyError("Too many attempts: wait a minute.")
        own.append(moment)
        self._attempts[address] = own

    def _is_code(self, secret: str) -> bool:
        if self._code is None or time.monotonic() > self._code[1]:
            return False
        good = secrets.compare_digest(self._code[0].encode(), secret.strip().encode())
        if good:
            self._code = None
        return good

    def _is_passphrase(self, secret: str) -> bool:
        kept = self._known.get("passphrase")
        if not kept or len(secret) > MOST_LETTERS:
            return False
        try:
            return self._hasher.verify(kept, secret)
        except (VerificationError, InvalidHashError):
            return False

    def _read(self) -> dict[str, Any]:
        try:
            content = json.loads(self._path.read_text())
        except (OSError, ValueError):
            return {}
        return content if isinstance(content, dict) else {}

    def _keep(self, **change: Any) -> None:
        self._known = {**self._known, **change}
        self._path.parent.mkdir(parents=True, exist_ok=True)
        unfinished = self._path.with_suffix(".part")
        unfinished.touch(mode=0o600)
        unfinished.write_text(json.dumps(self._known))
        os.replace(unfinished, self._path)


def _rights(device: dict[str, Any]) -> Rights:
    """Those of a device; devices of earlier releases play."""
    given = device.get("rights")
    return given if given in ("play", "read", "all") else "play"


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
