"""Starting the server from the command line."""

import asyncio
import contextlib
import gc
import json
import sys
import urllib.request
import webbrowser
from pathlib import Path
from typing import TYPE_CHECKING

import uvicorn

from orexis.cli.desktop import data_home
from orexis.cli.own_language import say
from orexis.core.messages import tell
from orexis.errors import InputError, StorageError
from orexis.services.folder_lock import FolderLock, address_of

if TYPE_CHECKING:
    from fastapi import FastAPI

    from orexis.api.windows import Windows

PORT = 8722
_ANSWERS_S = 3.0
_GONE_S = 20.0  # without a window: a page that is loaded again needs less
WORKERS = 2  # one for judging while the other reads a file
_LOCAL = {"127.0.0.1", "localhost", "::1"}


def data_folder() -> Path:
    """Where the record lives unless said otherwise: the user's data folder."""
    return data_home() / "orexis"


class _Server(uvicorn.Server):
    """Says the address once it really answers."""

    def __init__(self, app: "FastAPI", config: uvicorn.Config, address: str, open_browser: bool) -> None:
        super().__init__(config)
        self._app, self._address, self._open = app, address, open_browser

    async def startup(self, sockets: list[object] | None = None) -> None:  # type: ignore[override]
        await super().startup(sockets)  # type: ignore[arg-type]
        if self.started:
            self._app.state.opened.say(self._address)
            print(self._address, flush=True)
            if self._open:
                webbrowser.open(self._address)
            windows: Windows = self._app.state.windows
            if windows.counted:
                self._ending = asyncio.create_task(self._end_with(windows))

    async def _end_with(self, windows: "Windows") -> None:
        await windows.all_gone(self._app, _GONE_S)
        say("The last window is closed: Orexis ends.")
        self.should_exit = True


def open_or_serve() -> None:
    """Open the Orexis that runs already in the browser, or start it and open that."""
    running = address_of(data_folder())
    if running is not None and _answers(running):
        print(running, flush=True)
        webbrowser.open(running)
        return
    serve(host="127.0.0.1", port=PORT, data=None, open_browser=True, ends_with_windows=True)


def _answers(address: str) -> bool:
    """Whether an Orexis answers there: a process that was killed leaves its address behind."""
    try:
        with urllib.request.urlopen(f"{address}api/health", timeout=_ANSWERS_S) as answer:
            return bool(json.load(answer).get("status") == "ok")
    except (OSError, ValueError, AttributeError):
        return False


_OPEN_FILES = 16_384  # connections that are not yet shaken hands with are not counted by the doors
_TURN_S = 0.0005  # a thread that begins a take or reads the record gives way to the sound that comes in after so long


def _room_for_files() -> None:
    """As many open files as the system gives: connections from the network must never take those of the journal."""
    try:
        import resource
    except ImportError:  # not on this system, which has no such bound
        return
    _, most = resource.getrlimit(resource.RLIMIT_NOFILE)
    wanted = _OPEN_FILES if most == resource.RLIM_INFINITY else min(_OPEN_FILES, most)
    resource.setrlimit(resource.RLIMIT_NOFILE, (wanted, most))


def serve(
    *,
    host: str,
    port: int,
    data: Path | None,
    open_browser: bool,
    workers: int = WORKERS,
    stand_port: int = 8723,
    ends_with_windows: bool = False,
) -> None:
    """Start the server and keep it running until it is stopped, or until the last window is closed where that is asked."""
    gc.disable()  # nothing of what is loaded now is ever let go: looking for it costs a third of a second
    from orexis.api.app import create_app

    if host not in _LOCAL:
        raise InputError(
            tell(
                "{host} is no address of this machine alone: use --stand, which asks for a passphrase and brings HTTPS.",
                host=host,
            )
        )
    folder = data or data_folder()
    with contextlib.suppress(StorageError):  # what cannot be written is opened to be looked at
        FolderLock(folder).release()  # somebody who has it is named here, before anything is started
    app = create_app(folder, workers=workers, stand_port=stand_port)
    app.state.windows.counted = ends_with_windows
    config = uvicorn.Config(
        app,
        host=host,
        port=port,
        log_level="warning",
        ws_max_size=1_000_000,
        ws_per_message_deflate=False,  # sound does not shrink, and nothing leaves this machine
        timeout_graceful_shutdown=2,
        proxy_headers=False,
    )
    sys.setswitchinterval(_TURN_S)
    _room_for_files()
    gc.freeze()
    gc.enable()
    say(tell("Data folder: {folder}", folder=folder))
    _Server(app, config, f"http://{host}:{port}/", open_browser).run()
