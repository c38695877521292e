"""Just play: the tuner's notes, the drone, sessions without an exercise and what was read from them."""

import asyncio
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response

from orexis.api import schemas, views
from orexis.api.deps import REFUSALS, Key, TheHouse
from orexis.api.moving_routes import arrived
from orexis.core.theory import Chord, Temperament
from orexis.files.soundfiles import wav_bytes
from orexis.services.archive import JobProgress
from orexis.services.free_practice.recognised import FoundExercise
from orexis.services.free_practice.tuner import TunerNote
from orexis.services.free_practice.use import FreeNames
from orexis.services.values.takes import Take

router = APIRouter(prefix="/api", responses=REFUSALS)
_MOST_BYTES = 2 << 30  # four hours of the largest format that is read

A4 = Annotated[float | None, Query(description="Hz; the player's own when left out")]
PitchClass = Annotated[int, Query(ge=0, le=11, description="sounding pitch class, 0 is C")]


@router.get("/players/{player_id}/tuner")
def read_tuner(
    player_id: Key,
    house: TheHouse,
    a4: A4 = None,
    temperament: Temperament = Temperament.EQUAL,
    root: PitchClass = 0,
) -> list[TunerNote]:
    """Every note of the instrument in hand, where it lies, and where it tends to lie."""
    return list(house.free_practice.tuner(player_id, a4=a4, temperament=temperament, root=root))


@router.get("/players/{player_id}/drone")
def read_drone(
    player_id: Key,
    house: TheHouse,
    midi: Annotated[int, Query(ge=0, le=127)],
    chord: Chord = Chord.NOTE,
    temperament: Temperament = Temperament.EQUAL,
    a4: A4 = None,
) -> list[float]:
    """The frequencies of a drone, in Hz."""
    return list(house.free_practice.drone(player_id, midi=midi, chord=chord, temperament=temperament, a4=a4))


@router.post("/players/{player_id}/free-sessions", status_code=201)
def open_free_session(player_id: Key, house: TheHouse) -> schemas.SessionOut:
    """Begin to play without an exercise."""
    return views.session_out(house.free_practice.open(player_id))


@router.post(
    "/players/{player_id}/free-recordings",
    status_code=201,
    openapi_extra={"requestBody": {"content": {"audio/wav": {}, "audio/flac": {}}, "required": True}},
)
async def read_recording(player_id: Key, request: Request, house: TheHouse) -> schemas.SessionOut:
    """A recording of playing without an exercise, as WAV or FLAC of up to four hours. The body is the file."""
    job = house.reading
    with job.running():
        async with arrived(request, house.record.folder, most=_MOST_BYTES) as path:
            made = await asyncio.to_thread(house.free_practice.from_file, player_id, path, job.report)
    return views.session_out(made)


@router.get("/free-recordings")
def recording_progress(house: TheHouse) -> JobProgress:
    """Return how far the recording under way is read."""
    return house.reading.progress


@router.delete("/free-recordings", status_code=204)
def stop_recording(house: TheHouse) -> None:
    """Stop reading a recording; what was read of it stays."""
    house.reading.stop()


@router.get("/sessions/{session_id}/free-reading")
def free_reading(session_id: Key, house: TheHouse) -> FreeNames:
    """What was read from a session without an exercise."""
    return house.free_practice.read(session_id)


@router.post(
    "/players/{player_id}/free-performance",
    response_class=Response,
    responses={200: {"content": {"audio/wav": {}}}},
)
async def play_freely(player_id: Key, body: schemas.FreePerformIn, house: TheHouse) -> Response:
    """The simulated player plays without an exercise."""
    sound, seed = await asyncio.to_thread(house.free_practice.simulated, player_id, body.seconds, body.seed)
    return Response(wav_bytes(sound), media_type="audio/wav", headers={"X-Seed": str(seed)})


@router.get("/sessions/{session_id}/exercises-played")
def exercises_played(session_id: Key, house: TheHouse) -> list[FoundExercise]:
    """Exercises that were recognised in a session without one."""
    return list(house.free_practice.recognised.find(session_id))


@router.post("/takes/{take_id}/judged-as", status_code=201)
def judge_as(take_id: Key, body: schemas.JudgeAsIn, house: TheHouse) -> Take:
    """A part, or the piece of it, as a take of the exercise that was recognised in it."""
    return house.free_practice.recognised.judge(take_id, body.exercise_type, body.index)
