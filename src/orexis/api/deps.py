"""What routes are handed: the house, the rooms, and the documented ways in which a call can be refused."""

from typing import Annotated, Any

from fastapi import Depends, Path, Request
from starlette.applications import Starlette

from orexis.api.connections import ConnectionHub
from orexis.api.schemas import ErrorOut
from orexis.services.application import Application

REFUSALS: dict[int | str, dict[str, Any]] = {
    400: {"model": ErrorOut, "description": "what was sent cannot be read at all"},
    403: {"model": ErrorOut, "description": "not from our own pages on this machine"},
    404: {"model": ErrorOut, "description": "nothing by that id"},
    405: {"model": ErrorOut, "description": "no such way to ask for it"},
    409: {"model": ErrorOut, "description": "not possible at this moment"},
    413: {"model": ErrorOut, "description": "too large"},
    422: {"model": ErrorOut, "description": "what was sent cannot be used"},
    429: {"model": ErrorOut, "description": "too many attempts: wait a minute"},
    507: {"model": ErrorOut, "description": "the disk is full"},
}


def house_in(app: Starlette) -> Application:
    """The application, or the error that says why there is none."""
    application: Application | None = app.state.house
    if application is None:
        raise app.state.trouble
    return application


def rooms_in(app: Starlette) -> ConnectionHub:
    """The sessions that are being listened to, or the error that says why there are none."""
    hub: ConnectionHub | None = app.state.rooms
    if hub is None:
        raise app.state.trouble
    return hub


def house_of(request: Request) -> Application:
    """Return the application that the server was started with."""
    return house_in(request.app)


def rooms_of(request: Request) -> ConnectionHub:
    """The sessions that are being listened to."""
    return rooms_in(request.app)


TheHouse = Annotated[Application, Depends(house_of)]
Live = Annotated[ConnectionHub, Depends(rooms_of)]
Key = Annotated[str, Path(max_length=64)]
