"""The live socket: one for every window on a session. The protocol is written down in docs/live-protocol.md."""

import asyncio
import struct
from typing import Annotated, Any, Literal, TypeVar

import numpy as np
from fastapi import APIRouter, WebSocket, WebSocketDisconnect
from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, ValidationError

from orexis.api.connections import Block, ConnectionHub, SessionChannel, problem
from orexis.api.deps import house_in, rooms_in
from orexis.api.frames import frames_message
from orexis.core.messages import tell
from orexis.core.practice import Event, EventName, Phase
from orexis.core.trace import joined
from orexis.errors import ConflictError, InputError, OrexisError
from orexis.services.application import Application
from orexis.services.clock import now
from orexis.services.documents import plain
from orexis.services.journal import TakeHead
from orexis.services.takes.open_take import OpenTake
from orexis.services.values.sessions import PracticeSession

PROTOCOL = 2  # raised whenever an older page would misread a message
_HEAD = struct.Struct("<IId")  # sequence number, first sample, the page's context frame
_MOST_TEXT = 64 * 1024  # messages hold a few hundred bytes
_M = TypeVar("_M")
router = APIRouter()


class LiveMessage(BaseModel):
    """A message of a live socket: nothing in it is unknown."""

    model_config = ConfigDict(extra="forbid")


class Hello(LiveMessage):
    """The first message of a window."""

    type: Literal["hello"]
    protocol: int
    session: Annotated[str, Field(max_length=64)]
    token: Annotated[str, Field(max_length=64)] | None = None
    take_over: bool = False


class BeginMessage(LiveMessage):
    """A take begins; sample 0 is the first sample that follows."""

    type: Literal["begin"]
    take: Annotated[str, Field(pattern=r"^[0-9a-f]{32}$")]
    rate: Annotated[int, Field(ge=8_000, le=192_000)]
    first_beat_sample: Annotated[int, Field(ge=-10_000_000, le=100_000_000)]
    clicked: bool = True
    source: Literal["microphone", "simulated"]
    device: dict[str, str | int | float | bool | None] = Field(default_factory=dict, max_length=40)


class EventMessage(LiveMessage):
    """A key, a pedal, a touch, or the end of the count-in."""

    type: Literal["event"]
    name: Literal[
        EventName.COUNTED_IN, EventName.ENDED, EventName.DROP, EventName.GO_ON, EventName.AGAIN, EventName.NEXT,
        EventName.BACK, EventName.EASIER, EventName.HARDER, EventName.SKIP, EventName.PAUSE, EventName.RESUME,
        EventName.REST_OVER, EventName.PLAYED, EventName.REPORT, EventName.STOP,
    ]  # fmt: skip
    seconds: Annotated[float, Field(ge=0.0, le=3600.0)] = 0.0
    word: Annotated[str, Field(max_length=40)] | None = None


_INCOMING: TypeAdapter[Hello | BeginMessage | EventMessage] = TypeAdapter(
    Annotated[Hello | BeginMessage | EventMessage, Field(discriminator="type")]
)


@router.websocket("/api/live")
async def live(socket: WebSocket) -> None:
    """Serve one window on a session: commands and sound in, frames and states out."""
    await socket.accept()
    try:
        house, rooms = house_in(socket.app), rooms_in(socket.app)
        hello = _read(await socket.receive_text())
        if not isinstance(hello, Hello) or hello.protocol != PROTOCOL:
            raise InputError(
                tell(
                    "This page speaks another version of the live protocol: reload it (the server has {protocol}).",
                    protocol=PROTOCOL,
                )
            )
        room = await _welcome(socket, house, rooms, hello)
    except (OrexisError, WebSocketDisconnect, KeyError) as error:
        await _refuse(socket, error)
        return
    try:
        while True:
            message = await socket.receive()
            if message["type"] == "websocket.disconnect":
                return
            await _handle(socket, rooms, room, message)
    finally:
        rooms.leave(room, socket)


async def _handle(socket: WebSocket, rooms: ConnectionHub, room: SessionChannel, message: Any) -> None:
    """One message; an error is told to its sender and changes nothing."""
    try:
        if room.owners.get(socket) is None:
            raise ConflictError("Another window runs this session. Take over here to play.")
        if message.get("bytes") is not None:
            rooms.hear(room, block_of(message["bytes"]))
            return
        incoming = _read(message.get("text") or "")
        await rooms.drain(room)  # what was played before it was said is heard before it is done
        async with room.lock:
            if isinstance(incoming, BeginMessage):
                await rooms.begin(room, _head(room, incoming))
            elif isinstance(incoming, EventMessage):
                await rooms.event(room, Event(incoming.name, seconds=incoming.seconds, word=incoming.word))
    except OrexisError as error:
        await socket.send_json(problem(error))
        if isinstance(error, ConflictError):  # the window stands elsewhere than the session: it is told where that is
            async with room.lock:
                await rooms.tell_state(room.session_id)


async def _welcome(socket: WebSocket, house: Application, rooms: ConnectionHub, hello: Hello) -> SessionChannel:
    with rooms.entered(hello.session) as room:
        async with room.lock:
            token, owner = await asyncio.to_thread(
                house.sessions.claim, hello.session, hello.token, take_over=hello.take_over
            )
            if owner:
                for other in list(room.owners):
                    room.owners.pop(other)
                    await other.send_json({"type": "demoted"})
                room.owners[socket] = token or ""
                session = await asyncio.to_thread(house.takes.resume, hello.session)
            else:
                if not room.owners:
                    rooms.let_go_later(room)
                session = await asyncio.to_thread(house.sessions.get, hello.session)
            room.sockets.add(socket)
            take = rooms.take(room)
            await socket.send_json(
                {
                    "type": "welcome",
                    "protocol": PROTOCOL,
                    "owner": owner,
                    "token": token,
                    "state": plain(session.state),
                    "rested_s": _rested_s(session),
                    "take": None if take is None else {"key": take.file.head.take_id, "received": take.received},
                }
            )
            if take is not None:
                await socket.send_bytes(await asyncio.to_thread(_all_frames, take))
    return room


def _all_frames(take: OpenTake) -> bytes:
    return frames_message(take.received, take.frames_so_far(), joined([]))


def _rested_s(session: PracticeSession) -> float:
    """How much of the rest under way has passed: a page that comes back goes on with what is left."""
    if session.state.phase != Phase.REST or session.rest_since is None:
        return 0.0
    return max(0.0, (now() - session.rest_since).total_seconds())


async def _refuse(socket: WebSocket, error: Exception) -> None:
    if isinstance(error, OrexisError):
        await socket.send_json(problem(error))
        await socket.close(4400)


def _read(text: str) -> Hello | BeginMessage | EventMessage:
    return message_of(text, _INCOMING)


def message_of(text: str, kinds: TypeAdapter[_M]) -> _M:
    """One of these messages; InputError for anything else, and for what is too long."""
    if len(text) > _MOST_TEXT:
        raise InputError("A message is longer than 64 kB.")
    try:
        return kinds.validate_json(text)
    except ValidationError as error:
        raise InputError("A message does not follow the live protocol.") from error


def block_of(data: bytes) -> Block:
    """The first sample and the samples of a block; InputError when it is none."""
    if len(data) < _HEAD.size or (len(data) - _HEAD.size) % 4:
        raise InputError("A block of sound does not follow the live protocol.")
    _, start, _ = _HEAD.unpack_from(data)
    return start, np.frombuffer(data, "<f4", offset=_HEAD.size)


def _head(room: SessionChannel, begin: BeginMessage) -> TakeHead:
    return TakeHead(
        take_id=begin.take,
        session_id=room.session_id,
        rate=begin.rate,
        first_beat_sample=begin.first_beat_sample,
        clicked=begin.clicked,
        source=begin.source,
        device=dict(begin.device),
        started_at=now().isoformat(),
    )
