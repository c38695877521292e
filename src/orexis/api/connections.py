"""Sessions that are being listened to: who is connected, what everybody is told. Takes themselves live in the services.

Blocks are gathered as they come and heard in runs: one at a time while few play, with those of the next moment when
many do, and as many as are waiting when the machine does not keep up: what one stream costs falls as the load rises. Hearing a block takes less than a millisecond and is done where
it arrives; everything that may take longer (judging, the record) runs in threads, and judging in a process of its own.
"""

import asyncio
import contextlib
from collections import deque
from collections.abc import Awaitable, Iterator
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from starlette.websockets import WebSocket, WebSocketState

from orexis.api.frames import frames_message
from orexis.core.practice import Event, EventName, SessionState
from orexis.errors import OrexisError, SoundError, StorageError
from orexis.services.application import Application
from orexis.services.documents import plain
from orexis.services.journal import TakeHead
from orexis.services.takes.open_take import OpenTake
from orexis.services.values.takes import Take

RECOVERY_GRACE_S = 20.0  # time for a page to come back and go on with its take
OWNER_GRACE_S = 20.0  # for so long a window that has gone may come back and lead on
LATE_S = 0.4  # further behind than this is said
_AGAIN_S = 1.0  # a missing block, or a full disk, is told so often at the most
_FEW, _GATHER_S = 4, 0.03  # with more players than a few, blocks are heard together with those of so much later
_RUN_SAMPLES = 48_000  # heard at once, at the most

Block = tuple[int, np.ndarray[Any, np.dtype[np.float32]]]


@dataclass(slots=True)
class SessionChannel:
    """One session's windows and the blocks that wait to be heard."""

    session_id: str
    sockets: set[WebSocket] = field(default_factory=set)
    owners: dict[WebSocket, str] = field(default_factory=dict)
    lock: asyncio.Lock = field(default_factory=asyncio.Lock)
    waiting: deque[Block] = field(default_factory=deque)
    pump: asyncio.Task[None] | None = None
    letting_go: asyncio.Task[None] | None = None  # of a window that leads and has gone
    coming: int = 0  # windows at the door: they wait until what happens in the room is over
    base_s: float | None = None  # the least that the clock was ever ahead of the sound in this take
    told_hole_s: float = -1e9
    told_full_s: float = -1e9

    def fresh(self) -> None:
        """Forget the provisional frames of the take before."""
        self.waiting.clear()
        self.base_s, self.told_hole_s, self.told_full_s = None, -1e9, -1e9


class ConnectionHub:
    """All rooms, and the recovery of takes that a crash cut off."""

    def __init__(self, house: Application) -> None:
        self._house = house
        self._rooms: dict[str, SessionChannel] = {}
        self.owner_grace_s = OWNER_GRACE_S

    def room(self, session_id: str) -> SessionChannel:
        """The session's room, made when first entered."""
        return self._rooms.setdefault(session_id, SessionChannel(session_id))

    @contextlib.contextmanager
    def entered(self, session_id: str) -> Iterator[SessionChannel]:
        """The room for a window that comes: it stands while the window is at the door, whoever leaves meanwhile."""
        room = self.room(session_id)
        room.coming += 1
        try:
            yield room
        finally:
            room.coming -= 1
            self._close_if_empty(room)

    def _close_if_empty(self, room: SessionChannel) -> None:
        if (
            not room.sockets
            and not room.coming
            and self.take(room) is None
            and self._rooms.get(room.session_id) is room
        ):
            del self._rooms[room.session_id]

    def take(self, room: SessionChannel) -> OpenTake | None:
        """The take that is being heard in the room."""
        return self._house.takes.under_way(room.session_id)

    def leave(self, room: SessionChannel, socket: WebSocket) -> None:
        """A window has gone. A take under way stays: the page may come back."""
        room.sockets.discard(socket)
        if room.owners.pop(socket, None) is not None:
            self.let_go_later(room)
        self._close_if_empty(room)

    def let_go_later(self, room: SessionChannel) -> None:
        """A window that led has gone: unless it is back in time, the session is anybody's, and those who watch are told."""
        if room.letting_go is None or room.letting_go.done():
            room.letting_go = asyncio.create_task(self._let_go(room))

    async def _let_go(self, room: SessionChannel) -> None:
        await asyncio.sleep(self.owner_grace_s)
        present = self._rooms.get(room.session_id, room)
        if present.owners:
            return
        with contextlib.suppress(OrexisError):
            await asyncio.to_thread(self._house.sessions.let_go, room.session_id)
            await self.tell(present, {"type": "free"})

    # -- telling ---------------------------------------------------------------------------------------------------

    async def tell(self, room: SessionChannel, message: dict[str, Any]) -> None:
        """Say it to every window of the room."""
        await self._to_all(room, [socket.send_json(message) for socket in self._connected(room)])

    async def tell_state(self, session_id: str) -> None:
        """Send the session's state to every window that follows it."""
        session = await asyncio.to_thread(self._house.sessions.get, session_id)
        await self._tell_state(self.room(session_id), session.state)

    async def _tell_state(self, room: SessionChannel, state: SessionState) -> None:
        await self.tell(room, {"type": "state", "state": plain(state)})

    def _connected(self, room: SessionChannel) -> list[WebSocket]:
        return [socket for socket in room.sockets if socket.client_state is WebSocketState.CONNECTED]

    async def _to_all(self, room: SessionChannel, sends: list[Awaitable[None]]) -> None:
        for send in sends:
            with contextlib.suppress(Exception):
                await send

    # -- hearing ---------------------------------------------------------------------------------------------------

    def hear(self, room: SessionChannel, block: Block) -> None:
        """A block has come; it is heard as soon as those before it are."""
        room.waiting.append(block)
        if room.pump is None or room.pump.done():
            room.pump = asyncio.create_task(self._pump(room))

    async def drain(self, room: SessionChannel) -> None:
        """Wait until everything that came is heard."""
        if room.pump is not None:
            await room.pump

    async def _pump(self, room: SessionChannel) -> None:
        try:
            while room.waiting:
                if self._house.takes.count > _FEW:
                    await asyncio.sleep(_GATHER_S)
                take = self.take(room)
                if take is None or not room.waiting:
                    room.waiting.clear()
                    return
                await self._heard(room, take, *_run(room.waiting))
                if take.ending.over:
                    async with room.lock:
                        await self.end(room)
        except OrexisError as error:
            await self.tell(room, problem(error))

    async def _heard(self, room: SessionChannel, take: OpenTake, start: int, samples: Any) -> None:
        first, now_s = take.received, asyncio.get_running_loop().time()
        try:
            frames = take.accept(start, samples)
        except StorageError as error:
            # The page keeps what was not taken and tries again later; said once in a while, not for every block.
            room.waiting.clear()
            if now_s - room.told_full_s >= _AGAIN_S:
                room.told_full_s = now_s
                await self.tell(room, {"type": "full", "received": take.received, "message": str(error)})
            return
        hole = start > first
        if hole:
            if now_s - room.told_hole_s < _AGAIN_S:
                return
            room.told_hole_s = now_s
        elif take.received > first:
            room.told_hole_s = -1e9
        message = frames_message(take.received, frames, take.provisional(), hole=hole, late_s=_late(room, take, now_s))
        await self._to_all(room, [socket.send_bytes(message) for socket in self._connected(room)])

    # -- what happens ----------------------------------------------------------------------------------------------

    async def begin(self, room: SessionChannel, head: TakeHead) -> None:
        """Open a take, or go on with the one that is open."""
        present = self.take(room)
        if present is None or present.file.head.take_id != head.take_id:
            room.fresh()
        await asyncio.to_thread(self._house.takes.begin, head)
        await self.tell_state(room.session_id)

    async def event(self, room: SessionChannel, event: Event) -> None:
        """A key, a pedal, a touch, or the passing of time."""
        if event.name == EventName.ENDED:
            await self.end(room)
            return
        await self._tell_state(room, await asyncio.to_thread(self._house.takes.happen, room.session_id, event))

    async def end(self, room: SessionChannel) -> None:
        """The take under way is over: judge it, tell the verdict. One whose end failed is judged again."""
        room.waiting.clear()
        if self.take(room) is not None:
            ended = Event(EventName.ENDED)
            await self._tell_state(room, await asyncio.to_thread(self._house.takes.happen, room.session_id, ended))
        try:
            made = await asyncio.to_thread(self._house.takes.end, room.session_id)
        except SoundError:  # set aside: the session goes on without it
            await self.tell_state(room.session_id)
            raise
        await self.judged(room.session_id, made)

    async def brought(self, session_id: str, made: Take | None) -> None:
        """A take has come by another way than the window: told in its turn, so that nothing older is told after it."""
        with self.entered(session_id) as room:
            async with room.lock:
                await self.judged(session_id, made)

    async def judged(self, session_id: str, made: Take | None) -> None:
        """A take has come into the record: tell its verdict, and where the session stands."""
        if made is not None:
            verdict = {"type": "verdict", "take": made.id, "verdict": plain(made.verdict)}
            await self.tell(self.room(session_id), verdict)
        await self.tell_state(session_id)

    async def recover_left_over(self, grace_s: float = RECOVERY_GRACE_S) -> None:
        """After the grace in which a living page may come back, finish what a crash cut off, each for itself."""
        await asyncio.sleep(grace_s)
        for key in await asyncio.to_thread(self._house.left_over):
            session_id = await asyncio.to_thread(self._house.recover, key)
            if session_id is not None:
                with contextlib.suppress(OrexisError):
                    await self.tell_state(session_id)
        for session_id in await asyncio.to_thread(self._house.free_the_stuck):
            await self.tell_state(session_id)


def problem(error: OrexisError) -> dict[str, Any]:
    """Return an error as the message that the page shows."""
    return {"type": "error", "kind": type(error).__name__, "message": str(error)}


def _run(waiting: deque[Block]) -> Block:
    """The next block, with those that follow it without a hole."""
    start, samples = waiting.popleft()
    parts, total = [samples], len(samples)
    while waiting and waiting[0][0] == start + total and total < _RUN_SAMPLES:
        more = waiting.popleft()[1]
        parts.append(more)
        total += len(more)
    return start, samples if len(parts) == 1 else np.concatenate(parts)


def _late(room: SessionChannel, take: OpenTake, now_s: float) -> float:
    """How far hearing is behind the sound, against the best it was in this take; 0 while that is hardly anything."""
    if take.unheard_s > 0.0:
        return take.unheard_s
    ahead = now_s - take.received / take.file.head.rate
    room.base_s = ahead if room.base_s is None else min(room.base_s, ahead)
    late = ahead - room.base_s
    return late if late >= LATE_S else 0.0
