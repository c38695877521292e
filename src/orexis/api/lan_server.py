"""The server that devices on the network talk to: HTTPS beside the one for this machine, started and stopped by a switch."""

import asyncio
import contextlib
from collections.abc import Iterator
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

import uvicorn
from starlette.types import ASGIApp

from orexis.api.doors import Doors, bounded
from orexis.core.messages import tell
from orexis.errors import StorageError
from orexis.services.standing import Pairing

if TYPE_CHECKING:
    from orexis.services.standing.certificates import Certificates

COOKIE = "orexis-stand"
PORT = 8723  # any that is seldom taken: it stands in the address that is typed
_STARTS_S = 10.0  # a server that is not up by then will not come


class _QuietServer(uvicorn.Server):
    """A second server in the same process: stopping the process is the first one's business."""

    @contextlib.contextmanager
    def capture_signals(self) -> Iterator[None]:
        """Leave signals to the server at the desk, which stops this one."""
        yield


class LanServer:
    """Certificates, who is let in, and the server itself."""

    def __init__(self, folder: Path, *, port: int = PORT, host: str = "0.0.0.0") -> None:
        self.pairing = Pairing(folder)
        self.names: tuple[str, ...] = ()
        self._folder, self._host, self._port = folder, host, port
        self._server: _QuietServer | None = None
        self._task: asyncio.Task[None] | None = None

    @cached_property
    def certificates(self) -> "Certificates":
        """Loaded when the first device is let in: it takes a tenth of a second."""
        from orexis.services.standing.certificates import Certificates

        return Certificates(self._folder)

    @property
    def running(self) -> bool:
        """Return whether the address for devices on the network is open."""
        return self._server is not None and self._server.started

    @property
    def port(self) -> int:
        """The port on which it listens."""
        if self._server is not None and self._server.servers:
            return int(self._server.servers[0].sockets[0].getsockname()[1])
        return self._port

    @property
    def addresses(self) -> tuple[str, ...]:
        """Where a device finds it, most likely first."""
        reached = [name for name in self.names if name not in ("localhost", "127.0.0.1")]
        numbers = [name for name in reached if name.replace(".", "").isdigit()]
        others = [name for name in reached if name not in numbers]
        return tuple(f"https://{name}:{self.port}/" for name in (*numbers, *others) or ("localhost",))

    async def start(self, app: ASGIApp) -> None:
        """Listen. StorageError where the port is taken."""
        if self._task is not None:
            return
        from orexis.services.standing.certificates import names_here

        self.names = await asyncio.to_thread(names_here)
        await asyncio.to_thread(self.certificates.ready, self.names)
        config = uvicorn.Config(
            app,
            host=self._host,
            port=self._port,
            log_level="warning",
            lifespan="off",
            proxy_headers=False,
            ssl_keyfile=str(self.certificates.server_key),
            ssl_certfile=str(self.certificates.server),
            ws_max_size=1_000_000,
            ws_per_message_deflate=False,
            timeout_graceful_shutdown=2,
            http=bounded(Doors()),
        )
        self._server = _QuietServer(config)
        self._task = asyncio.create_task(self._serve(self._server))
        with contextlib.suppress(TimeoutError):
            async with asyncio.timeout(_STARTS_S):
                while not self._server.started and not self._task.done():
                    await asyncio.sleep(0.05)
        if not self.running:
            await self.stop()
            raise StorageError(tell("Port {port} is in use. Devices can connect when it is free.", port=self._port))

    async def stop(self) -> None:
        """Nobody can come in any more."""
        if self._server is not None and self._task is not None:
            self._server.should_exit = True
            with contextlib.suppress(TimeoutError, asyncio.CancelledError):
                await asyncio.wait_for(self._task, _STARTS_S)
        self._server = self._task = None

    async def _serve(self, server: _QuietServer) -> None:
        with contextlib.suppress(SystemExit, OSError):
            await server.serve()
