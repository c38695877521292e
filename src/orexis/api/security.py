"""Who may talk to the server: this machine, from our own pages; a device that was let in, over HTTPS; bodies of bounded size.

What comes over HTTPS comes from the network: its host must be a name of this machine, its page our own, and everything under /api
needs the token of a device that was let in, but for letting it in. The settings of that are for this machine alone.
"""

import re
import time
from collections.abc import Awaitable, Callable
from http.cookies import CookieError, SimpleCookie
from typing import NamedTuple
from urllib.parse import urlsplit

from starlette.datastructures import Headers
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from orexis.api.lan_server import COOKIE, LanServer
from orexis.core.messages import tell
from orexis.files.soundfiles import MAX_BYTES
from orexis.services.standing import Rights

_MOST_CODE = 4 * 1024  # a passphrase and a name
_MOST_JSON = 2 * 1024 * 1024  # a routine of forty blocks has a few kilobytes
_LOOK_AGAIN_S = 1.0  # a removed device plays on for so long at the most
_NOT_FOR_DEVICES = ("/api/export", "/api/import", "/api/check", "/api/class", "/api/remeasuring")
_PLAYER = re.compile(r"/api/players/[^/]+")
_DESK_ONLY = ("/api/stand", "/api/copies")  # letting devices in, and going back to an earlier record
_LOCAL = {"127.0.0.1", "localhost", "[::1]", "::1"}


def _host_of(value: str) -> str:
    return urlsplit(f"//{value}").hostname or ""


class Guard:
    """Refuses a foreign Host (DNS rebinding), a foreign Origin, and devices that were not let in, on HTTP and on the socket."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Handle one ASGI call, or refuse it."""
        if scope["type"] not in ("http", "websocket"):
            await self._app(scope, receive, send)
            return
        refused = _refusal(scope)
        if scope["type"] == "http":
            send = _with_nosniff(send)
        if refused is None and scope["scheme"] == "wss":
            await self._app(scope, *_while_let_in(scope, receive, send))
        elif refused is None:
            await self._app(scope, receive, send)
        elif scope["type"] == "websocket":
            await receive()
            await send({"type": "websocket.close", "code": 4000 + refused.status})
        else:
            answer = JSONResponse({"message": refused.says, "kind": "InputError"}, refused.status)
            await answer(scope, receive, send)


class _Refusal(NamedTuple):
    status: int
    says: str


_STRANGER = _Refusal(401, "This device is not let in yet: give it the passphrase, or the code of the moment.")
_FOREIGN = _Refusal(403, "Orexis answers only to its own pages, on this machine and on devices that were let in.")
_NO_RIGHT = _Refusal(403, "This device may not do that. Do it at the computer, or let the device do everything there.")


def _refusal(scope: Scope) -> _Refusal | None:
    """Why a call is refused; None where it may come in."""
    headers = Headers(scope=scope)
    host, origin = headers.get("host", ""), headers.get("origin")
    # A page's origin must be the very host and port that it talks to.
    if origin is not None and urlsplit(origin).netloc != host:
        return _FOREIGN
    if scope["scheme"] not in ("https", "wss"):
        return None if _host_of(host) in _LOCAL else _FOREIGN
    standing: LanServer | None = getattr(scope["app"].state, "standing", None)
    if standing is None or _host_of(host) not in standing.names:
        return _FOREIGN
    path = scope["path"]
    if not path.startswith("/api/") or (path == "/api/pair" and scope.get("method") == "POST"):
        return None
    if any(path == own or path.startswith(f"{own}/") for own in _DESK_ONLY):
        return _FOREIGN
    rights = standing.pairing.rights_of(_token(headers))
    if rights is None:
        return _STRANGER
    if scope["type"] == "websocket":
        return _NO_RIGHT if rights == "read" else None
    return None if rights == "all" or _may(rights, scope.get("method", "GET"), path) else _NO_RIGHT


def _may(rights: Rights, method: str, path: str) -> bool:
    """What a device may do that was not given everything: nothing that takes the record out, brings one in or deletes people."""
    if path.startswith(_NOT_FOR_DEVICES) or (method == "DELETE" and _PLAYER.fullmatch(path)):
        return False
    return rights == "play" or method in ("GET", "HEAD") or path.endswith(("/plan", "/view", "/sound"))


def _while_let_in(scope: Scope, receive: Receive, send: Send) -> tuple[Receive, Send]:
    """A device that is removed while its window is open is gone with the next word, in either direction."""
    standing: LanServer = scope["app"].state.standing
    token = _token(Headers(scope=scope))
    looked_at, known, closed = time.monotonic(), True, False

    def is_known() -> bool:
        nonlocal looked_at, known
        if time.monotonic() - looked_at > _LOOK_AGAIN_S:
            looked_at, known = time.monotonic(), standing.pairing.rights_of(token) is not None
        return known

    async def close() -> None:
        nonlocal closed
        if not closed:
            closed = True
            await send({"type": "websocket.close", "code": 4401})

    async def receive_while() -> Message:
        message = await receive()
        if is_known():
            return message
        await close()
        return {"type": "websocket.disconnect", "code": 4401}

    async def send_while(message: Message) -> None:
        if is_known():
            await send(message)
        else:
            await close()

    return receive_while, send_while


def _with_nosniff(send: Send) -> Send:
    """Every answer says that it is what it says it is."""

    async def with_header(message: Message) -> None:
        if message["type"] == "http.response.start":
            message = {**message, "headers": [*message.get("headers", []), (b"x-content-type-options", b"nosniff")]}
        await send(message)

    return with_header


def _token(headers: Headers) -> str | None:
    jar: SimpleCookie = SimpleCookie()
    try:
        jar.load(headers.get("cookie", ""))
    except CookieError:
        return None
    return jar[COOKIE].value if COOKIE in jar else None


_AS_FILES = ("/exchanges", "/free-recordings")


def _as_file(scope: Scope) -> bool:
    """Exports, lessons, review requests, long recordings: written to the disk as they come, and bounded by who takes them."""
    path: str = scope["path"]
    return path == "/api/import" or (path.startswith("/api/players/") and path.endswith(_AS_FILES))


class BodyLimit:
    """Stops a request whose body grows beyond the limit, whatever its headers claim. What arrives as a file is bounded there."""

    def __init__(self, app: ASGIApp, most: int = MAX_BYTES) -> None:
        self._app, self._most = app, most

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Handle one ASGI call, or refuse it."""
        if scope["type"] != "http" or _as_file(scope):
            await self._app(scope, receive, send)
            return
        most = self._most_of(scope)
        if int(Headers(scope=scope).get("content-length") or 0) > most:
            await _too_large(scope, receive, send, most)
            return
        await self._app(scope, _counted(receive, most), send)

    def _most_of(self, scope: Scope) -> int:
        """What a body may hold: a code to come in with, words and numbers, or sound."""
        if scope["path"] == "/api/pair":
            return _MOST_CODE
        kind = Headers(scope=scope).get("content-type", "")
        return self._most if kind.startswith("multipart/form-data") else min(self._most, _MOST_JSON)


def _counted(receive: Receive, most: int) -> Callable[[], Awaitable[Message]]:
    seen = 0

    async def limited() -> Message:
        nonlocal seen
        message = await receive()
        seen += len(message.get("body", b""))
        if seen > most:
            return {"type": "http.disconnect"}
        return message

    return limited


async def _too_large(scope: Scope, receive: Receive, send: Send, most: int) -> None:
    text = (
        tell("The upload is larger than {most} MB: cut the sound into takes.", most=most // 1_048_576)
        if most > _MOST_JSON
        else tell("What was sent is larger than {most} kB.", most=most // 1024)
    )
    await JSONResponse({"message": text, "kind": "SoundError"}, 413)(scope, receive, send)
