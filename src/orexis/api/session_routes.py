"""Sessions: opened, looked at, played in by the simulated player or from a file."""

import asyncio
import io
from typing import Annotated

import numpy as np
from fastapi import APIRouter, File, Form, UploadFile
from fastapi.responses import Response

from orexis.api import schemas, views
from orexis.api.deps import REFUSALS, Key, Live, TheHouse
from orexis.core.messages import tell
from orexis.core.sound import Sound, finite
from orexis.errors import InputError
from orexis.files.soundfiles import read_sound, wav_bytes
from orexis.services.material.exercises import ExerciseRequest
from orexis.services.material.sung_note import SungNote, sung_note
from orexis.services.queries.log import Log
from orexis.services.queries.session_report import SessionReport
from orexis.services.values.takes import ListedTake, Take

router = APIRouter(prefix="/api", responses=REFUSALS)
_DECODING_S = 60.0  # far longer than ten minutes of sound take
_SUNG_S = 10  # one breath


@router.post("/sessions", status_code=201)
def open_session(body: schemas.SessionIn, house: TheHouse) -> schemas.SessionOut:
    """Open a session with one exercise; return where it stands."""
    params = dict(body.params)
    if body.own is None:
        return views.session_out(house.sessions.open(body.player_id, body.exercise_type, params, anyway=body.anyway))
    kept = house.material.series(house.players.get(body.player_id), ExerciseRequest("", params, body.own))
    return views.session_out(
        house.sessions.open(body.player_id, kept.exercise_type, params, given=kept, anyway=body.anyway)
    )


@router.get("/sessions/{session_id}")
def session(session_id: Key, house: TheHouse) -> schemas.SessionOut:
    """Return a session with its state, without its exercises."""
    return views.session_out(house.sessions.get(session_id))


@router.get("/sessions/{session_id}/exercise")
def session_exercise(session_id: Key, house: TheHouse) -> schemas.ExerciseView:
    """The exercise that comes next or is being played, engraved, by the terms of the session."""
    session = house.sessions.get(session_id)
    return views.exercise_by_terms(house, session.terms, session.exercise)


@router.get("/sessions/{session_id}/page")
def session_page(session_id: Key, house: TheHouse) -> SessionReport:
    """A session with everything that the record holds of it."""
    return house.log.session(session_id)


@router.delete("/sessions/{session_id}", status_code=204)
def forget_session(session_id: Key, house: TheHouse) -> None:
    """A session with its takes and their sound, for good."""
    house.takes.forget_session(session_id)


@router.put("/sessions/{session_id}/remark")
def remark_session(session_id: Key, body: schemas.RemarkIn, house: TheHouse) -> SessionReport:
    """The player's words on a session."""
    house.sessions.remark(session_id, body.remark)
    return house.log.session(session_id)


@router.get("/sessions/{session_id}/takes")
def session_takes(session_id: Key, house: TheHouse) -> list[ListedTake]:
    """Return a session's takes as list entries, in the order in which they were played."""
    log: Log = house.log
    return list(log.takes(session_id))


@router.post("/simulated", response_class=Response, responses={200: {"content": {"audio/wav": {}}}})
def perform(body: schemas.PerformIn, house: TheHouse) -> Response:
    """The simulated player's performance of the present exercise; sample 0 is the first beat of the count-in."""
    sound, seed = house.simulated.perform(body.session_id, body.manner, body.seed)
    return Response(wav_bytes(sound), media_type="audio/wav", headers={"X-Seed": str(seed)})


@router.post("/sessions/{session_id}/simulated-take", status_code=201)
async def simulate_take(session_id: Key, body: schemas.ManneredIn, house: TheHouse, rooms: Live) -> Take:
    """A whole take by the simulated player, faster than it could be played."""
    made = await asyncio.to_thread(house.simulated.take, session_id, body.manner, body.seed)
    await rooms.brought(session_id, made)
    return made


@router.post("/sessions/{session_id}/takes", status_code=201)
async def drop_sound(session_id: Key, file: Annotated[UploadFile, File()], house: TheHouse, rooms: Live) -> Take:
    """A WAV or FLAC file as a take of the present exercise. Its first beat is not known."""
    data = await file.read()
    if not data:
        raise InputError("The file is empty: choose a WAV or FLAC file.")
    sound = await asyncio.to_thread(house.workers.run, _decoded, data, seconds=_DECODING_S)
    made = await asyncio.to_thread(
        house.takes.whole, session_id, sound, source="file", first_beat_sample=None, device={}
    )
    await rooms.brought(session_id, made)
    return made


def _decoded(data: bytes) -> Sound:
    """In a worker: a decoder may take any time over a damaged file."""
    return read_sound(io.BytesIO(data))


@router.post("/sessions/{session_id}/sung")
async def hear_sung(
    session_id: Key,
    samples: Annotated[UploadFile, File()],
    rate: Annotated[int, Form(ge=8_000, le=192_000)],
    house: TheHouse,
) -> SungNote:
    """The exercise's first note as it was sung, in any octave: little-endian float32 samples."""
    data = await samples.read()
    if len(data) % 4 or not 0 < len(data) <= 4 * _SUNG_S * rate:
        raise InputError(tell("What is sung lasts at most {sung_s} seconds, as float32 samples.", sung_s=_SUNG_S))
    sound = Sound(finite(np.frombuffer(data, "<f4")), rate)
    session = await asyncio.to_thread(house.sessions.get, session_id)
    return await asyncio.to_thread(sung_note, sound, session.exercise, a4=session.terms.a4_hz)
