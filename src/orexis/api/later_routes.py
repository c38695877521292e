"""Routes that the first page does not ask are loaded behind it: they take a quarter of the time until the server answers.

All of it happens in the event loop's thread: what builds a route changes the interpreter's list of warnings for a moment.
"""

import asyncio
from collections.abc import Sequence
from importlib import import_module

from fastapi import APIRouter
from starlette.routing import BaseRoute, Match
from starlette.types import ASGIApp, Receive, Scope, Send

_ASKED = ("/api/", "/openapi.json")
_MODULES = (
    "session_routes",
    "record_routes",
    "take_routes",
    "material_routes",
    "moving_routes",
    "restore_routes",
    "paper_routes",
    "lesson_routes",
    "free_routes",
)


class LaterRoutes:
    """A router that is empty until it is loaded."""

    def __init__(self) -> None:
        self.router = APIRouter()
        self._left = list(_MODULES)

    @property
    def loaded(self) -> bool:
        """Whether all are there."""
        return not self._left

    def load(self) -> None:
        """Load all that are left."""
        while self._left:
            self._load_next()

    async def load_in_turns(self) -> None:
        """The same, with room for questions between one and the next."""
        while self._left:
            self._load_next()
            await asyncio.sleep(0)

    def _load_next(self) -> None:
        self.router.include_router(import_module(f"orexis.api.{self._left[0]}").router)
        del self._left[0]


class WaitForRoutes:
    """Middleware: a question that no route answers yet waits until all are loaded."""

    def __init__(self, app: ASGIApp, later: LaterRoutes, loaded: Sequence[BaseRoute]) -> None:
        self._app, self._later, self._loaded = app, later, loaded

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a question on once something may answer it."""
        waits = not self._later.loaded and scope["type"] == "http" and scope["path"].startswith(_ASKED)
        if waits and not any(route.matches(scope)[0] is Match.FULL for route in self._loaded):
            self._later.load()
        await self._app(scope, receive, send)
