"""The application: record, rooms, routes, and the built pages."""

import asyncio
import contextlib
import sys
from collections.abc import AsyncIterator
from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse, PlainTextResponse, Response
from starlette.staticfiles import StaticFiles

from orexis import __version__
from orexis.api import (
    errors,
    free_live,
    household_routes,
    language,
    live,
    pins,
    planning_routes,
    player_routes,
    standing_routes,
    windows,
)
from orexis.api.connections import RECOVERY_GRACE_S
from orexis.api.lan_server import PORT, LanServer
from orexis.api.language import InLanguage
from orexis.api.later_routes import LaterRoutes, WaitForRoutes
from orexis.api.open_record import OpenRecord
from orexis.api.security import BodyLimit, Guard
from orexis.api.windows import Windows
from orexis.errors import OrexisError
from orexis.files import engraving

WEB = Path(__file__).parent.parent / "web"
_OWN_FILES = {
    "manifest.webmanifest": "application/manifest+json",
    "sw.js": "text/javascript",
    "asleep.html": "text/html",
    "icon-192.png": "image/png",
    "icon-512.png": "image/png",
}
_POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; media-src 'self' blob:; "
    "connect-src 'self' ws: wss:; worker-src 'self' blob:; object-src 'none'; base-uri 'none'; frame-ancestors 'none'"
)


def create_app(
    data: Path, *, recovery_grace_s: float = RECOVERY_GRACE_S, workers: int = 0, stand_port: int = PORT
) -> FastAPI:
    """The whole application on a data folder. `workers`: processes for judging and for what may go wrong."""

    @contextlib.asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        engraving.warm()
        await opened.open()
        loading = asyncio.create_task(later.load_in_turns())
        if standing.pairing.on:
            await _open_stand(app, standing)
        yield
        loading.cancel()
        await standing.stop()
        await opened.close()

    standing = LanServer(data / "stand", port=stand_port)
    app = FastAPI(title="Orexis", version=__version__, lifespan=lifespan, docs_url=None, redoc_url=None)
    app.state.standing = standing
    app.state.windows = Windows()
    opened = app.state.opened = OpenRecord(app, data, workers=workers, recovery_grace_s=recovery_grace_s)
    errors.install(app)
    first = (
        household_routes,
        player_routes,
        planning_routes,
        standing_routes,
        pins,
        live,
        free_live,
        windows,
    )
    for routes in first:
        app.include_router(routes.router)
    later, loaded = LaterRoutes(), [route for routes in first for route in routes.router.routes]
    app.include_router(later.router)
    app.state.later = later
    _pages(app)
    app.add_middleware(WaitForRoutes, later=later, loaded=loaded)
    app.add_middleware(pins.PinGuard)
    app.add_middleware(BodyLimit)
    app.add_middleware(Guard)
    app.add_middleware(InLanguage, folder=language.CATALOGUES)
    return app


async def _open_stand(app: FastAPI, standing: LanServer) -> None:
    """As it was left; a port that is taken keeps nobody from playing at the desk."""
    try:
        await standing.start(app)
        print(f"On the network: {standing.addresses[0]}", file=sys.stderr)
    except OrexisError as error:
        print(f"orexis: {error}", file=sys.stderr)


def _pages(app: FastAPI) -> None:
    """The built front end; any path that is not the API's is a page of it."""
    app.mount("/assets", StaticFiles(directory=WEB / "assets", check_dir=False), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        index, own = WEB / "index.html", WEB / path
        if path in _OWN_FILES and own.exists():
            return FileResponse(own, media_type=_OWN_FILES[path], headers={"Cache-Control": "no-cache"})
        if path.startswith("api/") or not index.exists():
            return PlainTextResponse(
                "Nothing here. If this is the start page: the front end is not built, run make setup.", 404
            )
        return FileResponse(index, headers={"Content-Security-Policy": _POLICY, "Cache-Control": "no-cache"})
