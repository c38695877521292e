"""Which windows show Orexis: each keeps a socket open, so that an Orexis that was started for them ends with the last of them."""

import asyncio
import contextlib

from fastapi import APIRouter, FastAPI, WebSocket, WebSocketDisconnect

router = APIRouter(prefix="/api")
_EVERY_S = 1.0


class Windows:
    """How many are open, and for how long there has been none since the first."""

    def __init__(self) -> None:
        self.open = 0
        self.counted = False  # whether anybody wants to know
        self._none_since: float | None = None

    def came(self) -> None:
        """Count one more."""
        self.open += 1
        self._none_since = None

    def went(self) -> None:
        """Count one less."""
        self.open -= 1
        if not self.open:
            self._none_since = asyncio.get_running_loop().time()

    async def all_gone(self, app: FastAPI, after_s: float) -> None:
        """Return when the last window has been gone for so long and nobody plays. A page that is loaded again comes back sooner."""
        loop = asyncio.get_running_loop()
        while True:
            await asyncio.sleep(min(_EVERY_S, after_s))
            house = app.state.house
            quiet = house is None or house.takes.is_quiet(after_s)
            if quiet and self._none_since is not None and loop.time() - self._none_since >= after_s:
                return


@router.websocket("/here")
async def here(socket: WebSocket) -> None:
    """Count a window for as long as its socket is open."""
    windows: Windows = socket.app.state.windows
    await socket.accept()
    windows.came()
    try:
        while True:
            await socket.receive_text()
    except WebSocketDisconnect:
        pass
    finally:
        with contextlib.suppress(RuntimeError):  # the server is ending
            windows.went()
