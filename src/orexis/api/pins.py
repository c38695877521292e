"""PINs at the door: every call is asked by a window, and what belongs to a player with a PIN answers only where that was given."""

import asyncio
import re
from http.cookies import SimpleCookie
from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import Field
from starlette.datastructures import Headers
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Receive, Scope, Send

from orexis.api.deps import REFUSALS, Key, TheHouse
from orexis.api.schemas import StrictModel
from orexis.errors import LockedError, OrexisError
from orexis.services.application import Application
from orexis.services.pins import asking

router = APIRouter(prefix="/api", responses=REFUSALS)
COOKIE = "orexis-opened"
_OF_SOMEBODY = re.compile(r"/api/(players|sessions|takes|exchanges)/([^/]+)(/.*)?")
_OF_EVERYBODY = ("/api/class", "/api/export", "/api/copies", "/api/import")
_TO_OPEN = "/open"


class PinIn(StrictModel):
    """A PIN as it is typed."""

    pin: Annotated[str, Field(max_length=20)]


class NewPinIn(StrictModel):
    """Another PIN; null: none any more."""

    pin: Annotated[str | None, Field(max_length=20)] = None


class PinOut(StrictModel):
    """A player who has a PIN, and whether this window has given it."""

    player_id: str
    open: bool


@router.get("/pins")
def read_pins(house: TheHouse) -> list[PinOut]:
    """Return the players who have a PIN."""
    pins = house.pins
    return [PinOut(player_id=one.id, open=pins.is_open(one.id)) for one in house.players.all() if pins.has(one.id)]


@router.put("/players/{player_id}/pin", status_code=204)
def set_pin(player_id: Key, body: NewPinIn, house: TheHouse) -> None:
    """Set another PIN, or none."""
    house.players.get(player_id)
    house.pins.choose(player_id, body.pin)


@router.post("/players/{player_id}/open", status_code=204)
def open_player(player_id: Key, body: PinIn, house: TheHouse, response: Response) -> None:
    """Give a player's PIN in this window; it is asked again when the browser was closed."""
    window = house.pins.open(player_id, body.pin)
    response.set_cookie(COOKIE, window, httponly=True, samesite="strict", path="/api")


@router.delete("/pins/open", status_code=204)
def close_players(house: TheHouse) -> None:
    """Let this window see nobody any more who has a PIN."""
    house.pins.close()


class PinGuard:
    """Names the window that asks, and refuses it what belongs to somebody it has not opened."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Handle one ASGI call, or refuse it."""
        if scope["type"] not in ("http", "websocket"):
            await self._app(scope, receive, send)
            return
        cookie = SimpleCookie(Headers(scope=scope).get("cookie", "")).get(COOKIE)
        with asking(cookie.value if cookie else ""):
            house: Application | None = getattr(scope["app"].state, "house", None)
            if house is not None and house.pins.in_use and scope["type"] == "http":
                try:
                    await asyncio.to_thread(_require, house, scope["path"])
                except OrexisError as error:
                    answer = JSONResponse({"message": str(error), "kind": type(error).__name__}, 403)
                    await answer(scope, receive, send)
                    return
            await self._app(scope, receive, send)


def _require(house: Application, path: str) -> None:
    """LockedError where a call asks for what belongs to somebody whose PIN was not given."""
    if path.startswith(_OF_EVERYBODY) and not house.pins.is_teachers():
        raise LockedError("Somebody here has a PIN: only a teacher may see everybody’s data.")
    found = _OF_SOMEBODY.fullmatch(path)
    if found is not None and not (found[1] == "players" and found[3] == _TO_OPEN):
        owner = found[2] if found[1] == "players" else house.owner_of(found[1], found[2])
        if owner is not None:
            house.pins.require(owner)
