"""Who may talk to the server: this machine, from our own pages; a device that was let in, over HTTPS; bodies of bounded size.

What comes over HTTPS comes from the network: its host must be a name of this machine, its page our own, and everything under /api
needs the token of a device that was let in, but for letting it in. The settings of that are for this machine alone.
"""

from collections.abc import Awaitable, Callable
from http.cookies import CookieError, SimpleCookie
from urllib.parse import urlsplit

from starlette.datastructures import Headers
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from orexis.api.lan_server import COOKIE, LanServer
from orexis.files.soundfiles import MAX_BYTES

_MOST_CODE = 4 * 1024  # a passphrase and a name
_MOST_JSON = 2 * 1024 * 1024  # a routine of forty blocks has a few kilobytes
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
        if refused is None:
            await self._app(scope, receive, send)
        elif scope["type"] == "websocket":
            await receive()
            await send({"type": "websocket.close", "code": 4000 + refused})
        else:
            answer = JSONResponse({"message": _SAID[refused], "kind": "InputError"}, refused)
            await answer(scope, receive, send)


_SAID = {
    401: "This device is not let in yet: give it the passphrase, or the code of the moment.",
    403: "Orexis answers only to its own pages, on this machine and on devices that were let in.",
}


def _refusal(scope: Scope) -> int | None:
    """The status with which a call is refused; None where it may come in."""
    headers = Headers(scope=scope)
    host, origin = headers.get("host", ""), headers.get("origin")
    # A page's origin must be the very host and port that it talks to.
    if origin is not None and urlsplit(origin).netloc != host:
        return 403
    if scope["scheme"] not in ("https", "wss"):
        return None if _host_of(host) in _LOCAL else 403
    standing: LanServer | None = getattr(scope["app"].state, "standing", None)
    if standing is None or _host_of(host) not in standing.names:
        return 403
    path = scope["path"]
    if not path.startswith("/api/") or (path == "/api/pair" and scope.get("method") == "POST"):
        return None
    if any(path == own or path.startswith(f"{own}/") for own in _DESK_ONLY):
        return 403
    return None if standing.pairing.knows(_token(headers)) else 401


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
        f"The upload is larger than {most // 1_048_576} MB: cut the sound into takes."
        if most > _MOST_JSON
        else f"What was sent is larger than {most // 1024} kB."
    )
    await JSONResponse({"message": text, "kind": "SoundError"}, 413)(scope, receive, send)
