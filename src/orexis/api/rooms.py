"""Sessions that are being listened to: who is connected, which take is open, what everybody is told.

A room's lock lets one thing happen to a session at a time; tracking and analysis run in threads, so that the event
loop never waits for them.
"""

import asyncio
import contextlib
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from starlette.websockets import WebSocket, WebSocketState

from orexis.api.views import trace_out
from orexis.core.practice import Event, SessionState
from orexis.errors import OrexisError
from orexis.services.codec import to_json
from orexis.services.journal import TakeHead
from orexis.services.live import LiveTake
from orexis.services.practice import Practice

RECOVERY_GRACE_S = 20.0


@dataclass(slots=True)
class Room:
    """One session's windows and its open take."""

    session_id: str
    sockets: set[WebSocket] = field(default_factory=set)
    owners: dict[WebSocket, str] = field(default_factory=dict)
    take: LiveTake | None = None
    lock: asyncio.Lock = field(default_factory=asyncio.Lock)


class Rooms:
    """All rooms, and the recovery of takes that a crash cut off."""

    def __init__(self, practice: Practice) -> None:
        self._practice = practice
        self._rooms: dict[str, Room] = {}

    def room(self, session_id: str) -> Room:
        """The session's room, made when first entered."""
        return self._rooms.setdefault(session_id, Room(session_id))

    def leave(self, room: Room, socket: WebSocket) -> None:
        """A window has gone. An open take stays: the page may come back."""
        room.sockets.discard(socket)
        room.owners.pop(socket, None)
        if not room.sockets and room.take is None:
            self._rooms.pop(room.session_id, None)

    def close(self) -> None:
        """The server stops: open takes stay in the journal, to be taken up or finished at the next start."""
        for room in self._rooms.values():
            if room.take is not None:
                room.take.file.close()

    async def tell(self, room: Room, message: dict[str, Any]) -> None:
        """Say it to every window of the room."""
        for socket in list(room.sockets):
            with contextlib.suppress(Exception):
                if socket.client_state is WebSocketState.CONNECTED:
                    await socket.send_json(message)

    async def tell_state(self, session_id: str) -> None:
        """Say where the session stands."""
        session = await asyncio.to_thread(self._practice.session, session_id)
        await self.tell(self.room(session_id), {"type": "state", "state": to_json(session.state)})

    async def begin(self, room: Room, head: TakeHead) -> None:
        """Open a take, or go on with the one that is open."""
        if room.take is not None and room.take.file.head.take_id == head.take_id:
            return
        session = await asyncio.to_thread(self._practice.session, room.session_id)
        if session.state.take_key != head.take_id:
            await asyncio.to_thread(self._practice.advance, room.session_id, Event("begin", head.take_id))
        figure = session.figure
        file = await asyncio.to_thread(self._practice.journal.open, head)
        room.take = await asyncio.to_thread(LiveTake, file, figure)
        await self.tell_state(room.session_id)

    async def resume(self, room: Room, state: SessionState) -> None:
        """After a restart of the server: take up what the journal holds, when a page asks for the session."""
        key = state.take_key
        if room.take is not None or key is None or state.phase not in ("count-in", "listening"):
            return
        if await asyncio.to_thread(self._practice.journal.has, key):
            await self.begin(room, await asyncio.to_thread(self._practice.journal.head, key))

    async def hear(self, room: Room, start: int, samples: np.ndarray[Any, np.dtype[np.float32]]) -> None:
        """Take a block, tell the frames, and end the take when its end was heard."""
        take = room.take
        if take is None:
            return
        first = take.received
        message = await asyncio.to_thread(_accept, take, start, samples)
        if message is not None:
            await self.tell(room, message)
        await self.tell(room, {"type": "ack", "received": take.received, "hole": start > first})
        if take.ending.over:
            await self.end(room)

    async def end(self, room: Room) -> None:
        """Close the take, judge it, tell the verdict."""
        take, room.take = room.take, None
        if take is None:
            await self._finish_again(room)
            return
        await asyncio.to_thread(self._practice.advance, room.session_id, Event("ended"))
        await self.tell_state(room.session_id)
        await self._judge(room, take)

    async def _finish_again(self, room: Room) -> None:
        """A take whose end failed, on a full disk for instance: the journal still has it."""
        state = (await asyncio.to_thread(self._practice.session, room.session_id)).state
        key = state.take_key
        if state.phase != "judging" or key is None or not await asyncio.to_thread(self._practice.journal.has, key):
            return
        made = await asyncio.to_thread(self._practice.recover, self._practice.journal.head(key))
        if made is not None:
            await self.tell(room, {"type": "verdict", "take": made.id, "verdict": to_json(made.verdict)})
        await self.tell_state(room.session_id)

    async def _judge(self, room: Room, take: LiveTake) -> None:
        sound, trace = await asyncio.to_thread(take.finish)
        made = await asyncio.to_thread(self._practice.finish_take, take.file.head, sound, trace)
        await self.tell(room, {"type": "verdict", "take": made.id, "verdict": to_json(made.verdict)})
        await self.tell_state(room.session_id)

    async def event(self, room: Room, event: Event) -> None:
        """A key, a pedal, a touch, or the passing of time."""
        if event.name == "ended":
            await self.end(room)
            return
        await asyncio.to_thread(self._practice.advance, room.session_id, event)
        if event.name in ("drop", "stop", "report") and room.take is not None:
            room.take.file.close()
            room.take = None
        await self.tell_state(room.session_id)

    async def recover_left_over(self, grace_s: float = RECOVERY_GRACE_S) -> None:
        """After the grace in which a living page may come back, finish what a crash cut off."""
        await asyncio.sleep(grace_s)
        for head in await asyncio.to_thread(lambda: list(self._practice.journal.pending())):
            room = self.room(head.session_id)
            async with room.lock:
                if room.take is not None and room.take.file.head.take_id == head.take_id:
                    continue
                with contextlib.suppress(OrexisError):
                    await asyncio.to_thread(self._practice.recover, head)
                    await self.tell_state(head.session_id)


def _accept(take: LiveTake, start: int, samples: np.ndarray[Any, np.dtype[np.float32]]) -> dict[str, Any] | None:
    """Hear a block and put the frames into a message, all off the event loop."""
    frames, guesses = take.accept(start, samples), take.provisional()
    if not len(frames) and not len(guesses):
        return None
    return {
        "type": "frames",
        "final": trace_out(frames).model_dump(),
        "provisional": trace_out(guesses).model_dump(),
    }
