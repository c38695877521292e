"""What routes are handed: the house, the rooms, and the documented ways in which a call can be refused."""

from typing import Annotated, Any

from fastapi import Depends, Path, Request
from starlette.applications import Starlette

from orexis.api.connections import ConnectionHub
from orexis.services.application import Application

_ERROR = {"application/json": {"schema": {"$ref": "#/components/schemas/ErrorOut"}}}
# Said by reference: a model for each of them on every route would take a second of every start.
REFUSALS: dict[int | str, dict[str, Any]] = {
    status: {"description": said, "content": _ERROR}
    for status, said in (
        (400, "what was sent cannot be read at all"),
        (403, "not from our own pages on this machine"),
        (404, "nothing by that id"),
        (405, "no such way to ask for it"),
        (409, "not possible at this moment"),
        (413, "too large"),
        (422, "what was sent cannot be used"),
        (429, "too many attempts: wait a minute"),
        (507, "the disk is full"),
    )
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
