"""The live socket of just playing: sound in, pitch out, and parts as they are read. Laid down in docs/live-protocol.md."""

import asyncio
import contextlib
from typing import Annotated, Any, Literal

import numpy as np
from fastapi import APIRouter, WebSocket, WebSocketDisconnect
from pydantic import Field, TypeAdapter

from orexis.api.connections import problem
from orexis.api.deps import house_in
from orexis.api.frames import frames_message
from orexis.api.live import PROTOCOL, LiveMessage, block_of, message_of
from orexis.core.exercises import FREE_PRACTICE
from orexis.core.messages import tell
from orexis.core.trace import joined
from orexis.errors import InputError, OrexisError, StorageError
from orexis.services.application import Application
from orexis.services.clock import now
from orexis.services.free_practice.listening import FreeListening
from orexis.services.journal import TakeHead

_AGAIN_S = 1.0  # a missing block, or a full disk, is told so often at the most
router = APIRouter()


class ListenMessage(LiveMessage):
    """The first message: sound of this session follows."""

    type: Literal["listen"]
    protocol: int
    session: Annotated[str, Field(max_length=64)]
    rate: Annotated[int, Field(ge=8_000, le=192_000)]
    source: Literal["microphone", "simulated"]
    keep_sound: bool = True
    device: dict[str, str | int | float | bool | None] = Field(default_factory=dict, max_length=40)


class EndMessage(LiveMessage):
    """Message of the page: the player has stopped, and nothing more comes."""

    type: Literal["end"]


_INCOMING: TypeAdapter[ListenMessage | EndMessage] = TypeAdapter(
    Annotated[ListenMessage | EndMessage, Field(discriminator="type")]
)


class FreeStream:
    """One page's sound. Parts are read one after another in the background, whether the page is still there or not."""

    def __init__(self, socket: WebSocket, house: Application, first: ListenMessage) -> None:
        self._socket, self._house, self._session_id = socket, house, first.session
        head = TakeHead(
            take_id="",
            session_id=first.session,
            rate=first.rate,
            first_beat_sample=None,
            source=first.source,
            device=dict(first.device),
            started_at=now().isoformat(),
            clicked=False,
            keeps_sound=first.keep_sound,
        )
        self._listening = FreeListening(house.takes, head)
        self._reading: asyncio.Task[None] | None = None
        self._told_s = -1e9

    async def hear(self, start: int, samples: np.ndarray[Any, np.dtype[np.float32]]) -> None:
        """A block: its frames go back at once."""
        hole = start > self._listening.received and self._listening.begun
        now_s = asyncio.get_running_loop().time()
        if hole and now_s - self._told_s < _AGAIN_S:
            return
        try:
            frames, over = self._listening.accept(start, samples)
        except StorageError as error:
            if now_s - self._told_s >= _AGAIN_S:
                self._told_s = now_s
                full = {"type": "full", "received": self._listening.received, "message": str(error)}
                await self._socket.send_json(full)
            return
        self._told_s = now_s if hole else -1e9
        guesses = joined([]) if hole else self._listening.provisional()
        await self._socket.send_bytes(frames_message(self._listening.received, frames, guesses, hole=hole))
        self._read(over)

    async def end(self) -> None:
        """The sound is over: everything is read, then the session ends."""
        self._read(await asyncio.to_thread(self._listening.finish))
        if self._reading is not None:
            await asyncio.shield(self._reading)
        await asyncio.to_thread(self._house.free_practice.end, self._session_id)
        await self._tell({"type": "ended"})

    def _read(self, keys: list[str]) -> None:
        if keys:
            self._reading = asyncio.create_task(self._read_after(self._reading, keys))

    async def _read_after(self, before: asyncio.Task[None] | None, keys: list[str]) -> None:
        if before is not None:
            await before
        for key in keys:
            try:
                made = await asyncio.to_thread(self._house.takes.keep_part, key)
            except OrexisError as error:  # its sound stays in the journal, and is read at the next start
                await self._tell(problem(error))
                continue
            if made is not None:
                playing_s = made.measures.exercise.playing_s
                await self._tell({"type": "part", "take": made.id, "number": made.number, "playing_s": playing_s})

    async def _tell(self, message: dict[str, Any]) -> None:
        with contextlib.suppress(Exception):  # the page may be gone
            await self._socket.send_json(message)


@router.websocket("/api/free-live")
async def free_live(socket: WebSocket) -> None:
    """Listen to one page until it says that it is over, or is gone."""
    await socket.accept()
    try:
        house = house_in(socket.app)
        first = _read(await socket.receive_text())
        if not isinstance(first, ListenMessage) or first.protocol != PROTOCOL:
            raise InputError(
                tell(
                    "This page speaks another version of the live protocol: reload it (the server has {protocol}).",
                    protocol=PROTOCOL,
                )
            )
        session = await asyncio.to_thread(house.sessions.get, first.session)
        if session.exercise_type != FREE_PRACTICE:
            raise InputError("This session has an exercise: open it at the stand.")
    except (OrexisError, WebSocketDisconnect, KeyError) as error:
        if isinstance(error, OrexisError):
            await socket.send_json(problem(error))
            await socket.close(4400)
        return
    for said in house.ear.says():  # what comes meanwhile waits in the socket
        await socket.send_json({"type": "error", "kind": "BusyError", "message": said})
    await asyncio.to_thread(house.ear.wait)
    stream = FreeStream(socket, house, first)
    await socket.send_json({"type": "listening", "protocol": PROTOCOL})
    try:
        while await _taken(socket, stream):
            pass
    finally:
        ending = asyncio.create_task(stream.end())
        _ENDING.add(ending)
        ending.add_done_callback(_ENDING.discard)
        await asyncio.shield(ending)


_ENDING: set[asyncio.Task[None]] = set()  # streams whose last part is still being read


async def _taken(socket: WebSocket, stream: FreeStream) -> bool:
    """One message; False when it was the last."""
    message = await socket.receive()
    if message["type"] == "websocket.disconnect":
        return False
    try:
        if message.get("bytes") is not None:
            await stream.hear(*block_of(message["bytes"]))
            return True
        return not isinstance(_read(message.get("text") or ""), EndMessage)
    except OrexisError as error:
        await socket.send_json(problem(error))
        return True


def _read(text: str) -> ListenMessage | EndMessage:
    return message_of(text, _INCOMING)
