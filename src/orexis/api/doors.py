"""How many connections the network may hold open: a few for each address, and never all there are."""

import asyncio
from typing import Any

from uvicorn.protocols.http.auto import AutoHTTPProtocol

MOST_OF_ONE, MOST_OF_ALL = 24, 192  # a tablet's browser opens six, and a socket a window
SILENT_S = 15.0  # who says nothing for so long is let go


class Doors:
    """The connections that are open now, by address."""

    def __init__(self, most_of_one: int = MOST_OF_ONE, most_of_all: int = MOST_OF_ALL) -> None:
        self._most_of_one, self._most_of_all = most_of_one, most_of_all
        self._open: dict[Any, str] = {}  # transport -> address

    def enter(self, transport: Any) -> bool:
        """Whether there is room for one more from its address."""
        self._open = {known: address for known, address in self._open.items() if not known.is_closing()}
        address = str((transport.get_extra_info("peername") or ("",))[0])
        of_one = sum(known == address for known in self._open.values())
        if of_one >= self._most_of_one or len(self._open) >= self._most_of_all:
            return False
        self._open[transport] = address
        return True


def bounded(doors: Doors, silent_s: float = SILENT_S) -> type[asyncio.Protocol]:
    """The server's own protocol, behind the doors."""

    class BoundedProtocol(AutoHTTPProtocol):  # type: ignore[misc, valid-type]
        """Refuses a connection too many, and lets go of one that says nothing."""

        _came = _spoke = False

        def connection_made(self, transport: Any) -> None:
            if not doors.enter(transport):
                transport.abort()
                return
            self._came = True
            super().connection_made(transport)
            self.loop.call_later(silent_s, self._let_go_if_silent, transport)

        def data_received(self, data: bytes) -> None:
            self._spoke = True
            if self._came:
                super().data_received(data)

        def eof_received(self) -> None:
            if self._came:
                super().eof_received()

        def connection_lost(self, exc: Exception | None) -> None:
            if self._came:
                super().connection_lost(exc)

        def _let_go_if_silent(self, transport: Any) -> None:
            if not self._spoke and not transport.is_closing():
                transport.abort()

    return BoundedProtocol
