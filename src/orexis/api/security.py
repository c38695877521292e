"""Who may talk to the server: this machine, from our own pages, with bodies of bounded size."""

from collections.abc import Awaitable, Callable
from urllib.parse import urlsplit

from starlette.datastructures import Headers
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from orexis.files.soundfiles import MAX_BYTES

_LOCAL = {"127.0.0.1", "localhost", "[::1]", "::1"}


def _host_of(value: str) -> str:
    return urlsplit(f"//{value}").hostname or ""


class LocalOnly:
    """Refuses a foreign Host (DNS rebinding) and a foreign Origin, on HTTP and on the socket."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """ASGI."""
        if scope["type"] not in ("http", "websocket"):
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        host, origin = headers.get("host", ""), headers.get("origin")
        # A page's origin must be the very host and port that it talks to.
        good = _host_of(host) in _LOCAL and (origin is None or urlsplit(origin).netloc == host)
        if good:
            await self._app(scope, receive, send)
        elif scope["type"] == "websocket":
            await receive()
            await send({"type": "websocket.close", "code": 4403})
        else:
            answer = JSONResponse(
                {"message": "Orexis answers only to its own pages on this machine.", "kind": "InputError"}, 403
            )
            await answer(scope, receive, send)


class BodyLimit:
    """Stops a request whose body grows beyond the limit, whatever its headers claim. An import is bounded by the disk."""

    def __init__(self, app: ASGIApp, most: int = MAX_BYTES) -> None:
        self._app, self._most = app, most

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """ASGI."""
        if scope["type"] != "http" or scope["path"] == "/api/import":
            await self._app(scope, receive, send)
            return
        if int(Headers(scope=scope).get("content-length") or 0) > self._most:
            await _too_large(scope, receive, send)
            return
        await self._app(scope, self._counted(receive), send)

    def _counted(self, receive: Receive) -> Callable[[], Awaitable[Message]]:
        seen = 0

        async def limited() -> Message:
            nonlocal seen
            message = await receive()
            seen += len(message.get("body", b""))
            if seen > self._most:
                return {"type": "http.disconnect"}
            return message

        return limited


async def _too_large(scope: Scope, receive: Receive, send: Send) -> None:
    text = f"The upload is larger than {MAX_BYTES // 1_048_576} MB: cut the sound into takes."
    await JSONResponse({"message": text, "kind": "SoundError"}, 413)(scope, receive, send)
