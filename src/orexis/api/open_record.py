"""The record that the server has open. Where it cannot be opened the server runs all the same, and says why and what helps."""

import asyncio
import sys
from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

from fastapi import FastAPI

from orexis.api.connections import ConnectionHub
from orexis.errors import BusyError, ConflictError, OrexisError
from orexis.services.application import Application

_T = TypeVar("_T")
_QUIET_S = 1.0  # nothing was begun, ended or judged for so long
_WARM_AFTER_S = 1.5  # the first page goes before


class OpenRecord:
    """Opens and closes the application on its data folder; `app.state` has the house, the rooms, and what is wrong."""

    def __init__(self, app: FastAPI, folder: Path, *, workers: int, recovery_grace_s: float) -> None:
        self.folder = folder
        self.address = ""  # where the server is found, once it answers
        self._app, self._workers, self._grace_s = app, workers, recovery_grace_s
        self._tasks: list[asyncio.Task[None]] = []
        self._lock = asyncio.Lock()
        app.state.house = app.state.rooms = None
        app.state.trouble = BusyError("Orexis is starting. Try again in a moment.")

    async def open(self) -> None:
        """Open the record; what is in the way is kept as `app.state.trouble`, and answered to every question."""
        state = self._app.state
        try:
            house = Application(self.folder, workers=self._workers)
        except ConflictError:
            raise  # somebody else has it: there is nothing to serve
        except OrexisError as error:
            state.house, state.rooms, state.trouble = None, None, error
            print(f"orexis: {error}", file=sys.stderr, flush=True)
            return
        state.house, state.rooms, state.trouble = house, ConnectionHub(house), None
        self.say(self.address)
        self._tasks = [
            asyncio.create_task(state.rooms.recover_left_over(self._grace_s)),
            asyncio.create_task(_warmed(house)),
        ]

    def say(self, address: str) -> None:
        """Leave word in the folder of where this server is found."""
        self.address = address
        house: Application | None = self._app.state.house
        if house is not None and house.record.lock is not None:
            house.record.lock.say(address)

    async def close(self) -> None:
        """Close it; what was being done in the background stops."""
        state = self._app.state
        for task in self._tasks:
            task.cancel()
        house, state.house, state.rooms = state.house, None, None
        if house is not None:
            await asyncio.to_thread(house.close)

    async def while_closed(self, change: Callable[[], _T]) -> _T:
        """Do something to the folder that nobody may have open meanwhile. ConflictError while somebody plays."""
        async with self._lock:
            house: Application | None = self._app.state.house
            if house is not None and not house.takes.is_quiet(_QUIET_S):
                raise ConflictError("Somebody is playing: end the take first.")
            self._app.state.trouble = BusyError("The record is being restored. Wait a moment.")
            await self.close()
            try:
                return await asyncio.to_thread(change)
            finally:
                await self.open()


async def _warmed(house: Application) -> None:
    """Have the ear and the workers ready before the first take asks for them, but after the first page."""
    await asyncio.sleep(_WARM_AFTER_S)
    await asyncio.to_thread(house.ear.get_ready)
    house.workers.warm()
    await asyncio.to_thread(house.remeasuring.start)
