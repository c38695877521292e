"""The HTTP routes. Bodies and answers are core values or the schemas; every rule lives elsewhere."""

import asyncio
import io
import secrets
from typing import Annotated, Any

from fastapi import APIRouter, Depends, File, Request, UploadFile
from fastapi.responses import FileResponse, Response

from orexis import __version__
from orexis.api import schemas
from orexis.api.rooms import Rooms
from orexis.core.coach import STAGES, limits_of
from orexis.core.figures import FAMILIES
from orexis.core.horn import HORNS, horn_named
from orexis.core.player import play
from orexis.errors import InputError, MissingError
from orexis.files.engraving import figure_to_svg
from orexis.files.soundfiles import read_sound, wav_bytes
from orexis.services import log
from orexis.services.manners import manner_flaws
from orexis.services.practice import Practice
from orexis.services.values import LogSession, Player, PracticeSession, Take

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
    """Horns, families and stages."""
    families = {
        horn.id: [
            schemas.FamilyOut(
                id=f.id, name=f.name, purpose=f.purpose, asks=f.asks, load=f.load, params=list(f.params(horn))
            )
            for f in FAMILIES.values()
        ]
        for horn in HORNS.values()
    }
    return schemas.CatalogueOut(
        horns=[schemas.horn_out(h) for h in HORNS.values()], families=families, stages=list(STAGES)
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
    return practice.open_session(body.player_id, body.family, dict(body.params))


@router.get("/players/{player_id}/session")
def latest_session(player_id: str, practice: Record) -> PracticeSession | None:
    """The sitting left open last, if any."""
    return practice.latest_session(player_id)


@router.get("/sessions/{session_id}")
def session(session_id: str, practice: Record) -> PracticeSession:
    """Where a sitting stands."""
    return practice.session(session_id)


@router.get("/sessions/{session_id}/figures/{index}")
def session_figure(session_id: str, index: int, practice: Record) -> schemas.FigureView:
    """A figure of the sitting, engraved for its player."""
    found = practice.session(session_id)
    if not 0 <= index < len(found.series.figures):
        raise MissingError(
            f"The series has {len(found.series.figures)} figures: choose 0 to {len(found.series.figures) - 1}."
        )
    person = next(p for p in practice.players() if p.id == found.player_id)
    return _view(
        found.series.figures[index], found.horn, person.part, person.a4_hz, limits_of(person.stage).centre_cents
    )


def _view(figure: Any, horn_id: str, part_id: str, a4: float, centre_limit: float) -> schemas.FigureView:
    horn = horn_named(horn_id)
    part = horn.part(part_id)
    svg = figure_to_svg(figure, horn, part)
    return schemas.figure_view(figure, horn, part, a4=a4, centre_limit=centre_limit, svg=svg)


@router.post("/simulated", response_class=Response, responses={200: {"content": {"audio/wav": {}}}})
def perform(body: schemas.PerformIn, practice: Record) -> Response:
    """The simulated player's performance of the present figure; sample 0 is the first beat of the count-in."""
    found = practice.session(body.session_id)
    person = next(p for p in practice.players() if p.id == found.player_id)
    figure = found.series.figures[found.state.figure_index]
    seed = secrets.randbelow(2**31) if body.seed is None else body.seed
    sound, _ = play(figure, a4=person.a4_hz, flaws=manner_flaws(body.manner, figure, seed), seed=seed)
    return Response(wav_bytes(sound), media_type="audio/wav", headers={"X-Seed": str(seed)})


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
    return _view(take.figure, take.horn, take.part, take.a4_hz, take.limits.centre_cents)


@router.get("/takes/{take_id}/trace")
def take_trace(take_id: str, practice: Record) -> schemas.TraceOut:
    """Pitch and level every 5 ms."""
    return schemas.trace_out(log.trace(practice, take_id))


@router.get("/takes/{take_id}/sound", response_class=FileResponse)
def take_sound(take_id: str, practice: Record) -> FileResponse:
    """The sound as it was heard."""
    return FileResponse(log.sound_file(practice, take_id), media_type="audio/flac")


@router.put("/takes/{take_id}/discarded")
def discard_take(take_id: str, body: schemas.DiscardIn, practice: Record) -> Take:
    """Throw a take away, or bring it back."""
    return log.discard(practice, take_id, discarded=body.discarded)


@router.put("/takes/{take_id}/remark")
def remark_take(take_id: str, body: schemas.RemarkIn, practice: Record) -> Take:
    """The player's words on a take."""
    return log.remark(practice, take_id, body.remark)
