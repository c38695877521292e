"""What routes are handed: the house, the rooms, and the documented ways in which a call can be refused."""

from typing import Annotated, Any

from fastapi import Depends, Path, Request

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


def house_of(request: Request) -> Application:
    """Return the application that the server was started with."""
    application: Application = request.app.state.house
    return application


def rooms_of(request: Request) -> ConnectionHub:
    """The sessions that are being listened to."""
    hub: ConnectionHub = request.app.state.rooms
    return hub


TheHouse = Annotated[Application, Depends(house_of)]
Live = Annotated[ConnectionHub, Depends(rooms_of)]
Key = Annotated[str, Path(max_length=64)]
