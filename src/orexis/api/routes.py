"""The HTTP routes. Bodies and answers are core values or the schemas; every rule lives elsewhere."""

import asyncio
import io
import secrets
from typing import Annotated

import numpy as np
from fastapi import APIRouter, Depends, File, Form, Request, UploadFile
from fastapi.responses import FileResponse, Response
from pydantic import ValidationError

from orexis import __version__
from orexis.api import schemas, views
from orexis.api.rooms import Rooms
from orexis.core.coach import CAUTIONS, QUESTIONS, REPORTS, STAGES, caution_for
from orexis.core.figures import FAMILIES, PLACES, SERVES, Figure, family_named
from orexis.core.horn import HORNS, Instrument, Part, horn_named
from orexis.core.practice import LIPS, ROUTINES, BlockPlan
from orexis.core.sound import Sound
from orexis.errors import InputError
from orexis.files.engraving import figure_to_svg
from orexis.files.soundfiles import read_sound, wav_bytes
from orexis.services import devices, log, material
from orexis.services.practice import Practice
from orexis.services.simulated import performed, simulated_take
from orexis.services.sounding import figure_wav
from orexis.services.sung import Sung, sung
from orexis.services.values import Device, LogSession, Player, PlayerSettings, PracticeSession, Take

router = APIRouter(prefix="/api", responses={422: {"model": schemas.ErrorOut}})


def practice_of(request: Request) -> Practice:
    """The record."""
    found: Practice = request.app.state.practice
    return found


def rooms_of(request: Request) -> Rooms:
    """The sessions that are being listened to."""
    found: Rooms = request.app.state.rooms
    return found


Record = Annotated[Practice, Depends(practice_of)]
Live = Annotated[Rooms, Depends(rooms_of)]


@router.get("/health")
def health() -> dict[str, str]:
    """Alive, and which release."""
    return {"status": "ok", "version": __version__}


@router.get("/catalogue")
def catalogue() -> schemas.CatalogueOut:
    """Horns, stages, and how families are sorted."""
    return schemas.CatalogueOut(
        horns=[views.horn_out(h) for h in HORNS.values()],
        stages=list(STAGES),
        places=list(PLACES),
        serves=list(SERVES),
        questions=list(QUESTIONS),
        reports=list(REPORTS),
        cautions=CAUTIONS,
        limits=STAGES,
        routines=list(ROUTINES),
        lips=list(LIPS),
    )


@router.get("/players")
def players(practice: Record) -> list[Player]:
    """Everybody in the household."""
    return list(practice.players())


@router.post("/players", status_code=201)
def add_player(body: schemas.PlayerIn, practice: Record) -> Player:
    """A new player."""
    return practice.add_player(name=body.name, stage=body.stage, horn=body.horn, part=body.part, a4_hz=body.a4_hz)


@router.put("/players/{player_id}")
def change_player(player_id: str, body: schemas.PlayerIn, practice: Record) -> Player:
    """New settings."""
    return practice.change_player(
        player_id, name=body.name, stage=body.stage, horn=body.horn, part=body.part, a4_hz=body.a4_hz
    )


@router.post("/sessions", status_code=201)
def open_session(body: schemas.SessionIn, practice: Record) -> PracticeSession:
    """A new sitting."""
    params = dict(body.params)
    if body.own is None:
        return practice.open_session(body.player_id, body.family, params)
    kept = material.series_wished(practice, practice.player(body.player_id), material.Wish("", params, body.own))
    return practice.open_session(body.player_id, kept.family, params, given=kept)


@router.get("/players/{player_id}/session")
def latest_session(player_id: str, practice: Record) -> PracticeSession | None:
    """The sitting left open last, if any."""
    return practice.latest_session(player_id)


@router.get("/sessions/{session_id}")
def session(session_id: str, practice: Record) -> PracticeSession:
    """Where a sitting stands."""
    return practice.session(session_id)


@router.get("/sessions/{session_id}/figure")
def session_figure(session_id: str, practice: Record) -> schemas.FigureView:
    """The figure that comes next or is being played, engraved for its player."""
    found = practice.session(session_id)
    return view_for(practice.player(found.player_id), found.figure)


@router.post("/players/{player_id}/routine", status_code=201)
def open_routine(player_id: str, body: schemas.RoutineIn, practice: Record) -> PracticeSession:
    """A sitting with the built-in routine of so many minutes."""
    return practice.open_routine(player_id, body.minutes, lips=body.lips, quiet=body.quiet)


@router.get("/players/{player_id}/routine")
def read_routine(
    player_id: str, practice: Record, minutes: int, lips: str = "fresh", quiet: bool = False
) -> list[BlockPlan]:
    """The blocks that such a sitting would have."""
    return list(practice.routine(practice.player(player_id), minutes, lips=lips, quiet=quiet).plan)


@router.put("/players/{player_id}/settings")
def change_settings(player_id: str, body: PlayerSettings, practice: Record) -> Player:
    """Schools, limits, care, and how a session goes."""
    return practice.change_settings(player_id, body)


@router.get("/players/{player_id}/ladder")
def read_ladder(player_id: str, practice: Record) -> schemas.LadderOut:
    """Every rung of the horn in hand."""
    person = practice.player(player_id)
    return views.ladder_out(person, practice.ladder(person))


def view_for(person: Player, figure: Figure) -> schemas.FigureView:
    """A figure as its player sees it now."""
    limit = person.limits.centre_cents
    if figure.horn != person.horn:
        return _view(figure, horn_named(figure.horn), horn_named(figure.horn).parts[0], person.a4_hz, limit)
    part = person.instrument.part(person.part)
    place = family_named(figure.family).place if figure.family in FAMILIES else ""
    caution = caution_for(place, person.settings.care)
    return _view(figure, person.instrument, part, person.a4_hz, limit, caution)


def _view(
    figure: Figure, horn: Instrument, part: Part, a4: float, centre_limit: float, caution: str | None = None
) -> schemas.FigureView:
    svg = figure_to_svg(figure, horn, part)
    return views.figure_view(figure, horn, part, a4=a4, centre_limit=centre_limit, svg=svg, caution=caution)


@router.post("/simulated", response_class=Response, responses={200: {"content": {"audio/wav": {}}}})
def perform(body: schemas.PerformIn, practice: Record) -> Response:
    """The simulated player's performance of the present figure; sample 0 is the first beat of the count-in."""
    found = practice.session(body.session_id)
    person = practice.player(found.player_id)
    seed = secrets.randbelow(2**31) if body.seed is None else body.seed
    sound = performed(found, person, body.manner, seed)
    return Response(wav_bytes(sound), media_type="audio/wav", headers={"X-Seed": str(seed)})


@router.post("/sessions/{session_id}/simulated-take", status_code=201)
async def simulate_take(session_id: str, body: schemas.ManneredIn, practice: Record, rooms: Live) -> Take:
    """A whole take by the simulated player, faster than it could be played."""
    made = await asyncio.to_thread(simulated_take, practice, session_id, body.manner, body.seed)
    await rooms.tell_state(session_id)
    return made


@router.post("/sessions/{session_id}/sung")
async def hear_sung(
    session_id: str,
    samples: Annotated[UploadFile, File()],
    rate: Annotated[int, Form(ge=8_000, le=192_000)],
    practice: Record,
) -> Sung:
    """The figure's first note as it was sung, in any octave: little-endian float32 samples."""
    data = await samples.read()
    if len(data) % 4 or not 0 < len(data) <= 4 * 10 * rate:
        raise InputError("What is sung lasts at most 10 seconds, as float32 samples.")
    sound = Sound(np.frombuffer(data, "<f4").astype(np.float32), rate)
    found = practice.session(session_id)
    return await asyncio.to_thread(sung, sound, found.figure, a4=practice.player(found.player_id).a4_hz)


@router.post("/sessions/{session_id}/takes", status_code=201)
async def drop_sound(session_id: str, file: Annotated[UploadFile, File()], practice: Record, rooms: Live) -> Take:
    """A WAV or FLAC file as a take of the present figure."""
    data = await file.read()
    if not data:
        raise InputError("The file is empty: choose a WAV or FLAC file.")
    sound = await asyncio.to_thread(read_sound, io.BytesIO(data))
    made = await asyncio.to_thread(practice.add_sound_take, session_id, sound)
    await rooms.tell_state(session_id)
    return made


@router.post("/device-checks", status_code=201)
async def check_device(
    samples: Annotated[UploadFile, File()], about: Annotated[str, Form()], practice: Record
) -> Device:
    """What the microphone heard while the page played clicks: little-endian float32 samples, and what they were."""
    try:
        told = schemas.CheckAbout.model_validate_json(about)
    except ValidationError as error:
        raise InputError("The device check does not say what it recorded.") from error
    data = await samples.read()
    if len(data) % 4 or len(data) > 4 * 30 * told.rate:
        raise InputError("A device check holds at most 30 seconds of float32 samples.")
    sound = Sound(np.frombuffer(data, "<f4").astype(np.float32), told.rate)
    return await asyncio.to_thread(devices.keep_check, practice, told.facts, sound, tuple(told.clicks_s))


@router.get("/devices")
def read_devices(practice: Record) -> list[Device]:
    """Microphones that were checked, the latest first."""
    return list(devices.devices(practice))


@router.get("/players/{player_id}/log")
def read_log(player_id: str, practice: Record, limit: int = 50, offset: int = 0) -> list[LogSession]:
    """Sessions with their takes, newest first."""
    return list(log.sessions(practice, player_id, limit=limit, offset=offset))


@router.get("/takes/{take_id}")
def read_take(take_id: str, practice: Record) -> Take:
    """One take."""
    return log.take(practice, take_id)


@router.get("/takes/{take_id}/figure")
def take_figure(take_id: str, practice: Record) -> schemas.FigureView:
    """The take's figure as it was asked then."""
    take = log.take(practice, take_id)
    horn = horn_named(take.horn)
    return _view(take.figure, horn, horn.part(take.part), take.a4_hz, take.limits.centre_cents)


@router.get("/takes/{take_id}/trace")
def take_trace(take_id: str, practice: Record) -> schemas.TraceOut:
    """Pitch and level every 5 ms."""
    return views.trace_out(log.trace(practice, take_id))


@router.get("/takes/{take_id}/sound", response_class=FileResponse)
def take_sound(take_id: str, practice: Record) -> FileResponse:
    """The sound as it was heard."""
    return FileResponse(log.sound_file(practice, take_id), media_type="audio/flac")


@router.get("/takes/{take_id}/ideal", response_class=Response, responses={200: {"content": {"audio/wav": {}}}})
def take_ideal(take_id: str, practice: Record) -> Response:
    """The take's figure as it would sound without a flaw; its first beat is sample 0."""
    take = log.take(practice, take_id)
    return Response(figure_wav(take.figure, take.a4_hz, click=False), media_type="audio/wav")


@router.get("/takes/{take_id}/like", response_model=list[schemas.LikeOut])
def takes_like(take_id: str, practice: Record) -> list[schemas.LikeOut]:
    """Other takes of the same figure, the newest first: what one may be laid over."""
    return [schemas.LikeOut(**item) for item in log.takes_like(practice, take_id)]


@router.put("/takes/{take_id}/discarded")
def discard_take(take_id: str, body: schemas.DiscardIn, practice: Record) -> Take:
    """Throw a take away, or bring it back."""
    return log.discard(practice, take_id, discarded=body.discarded)


@router.put("/takes/{take_id}/remark")
def remark_take(take_id: str, body: schemas.RemarkIn, practice: Record) -> Take:
    """The player's words on a take."""
    return log.remark(practice, take_id, body.remark)
