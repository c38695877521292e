"""What everybody shares: the release, the catalogue, microphones, and what a crash left behind."""

import asyncio
from typing import Annotated

import numpy as np
from fastapi import APIRouter, File, Form, Request, UploadFile
from pydantic import ValidationError

from orexis import __version__
from orexis.api import schemas, views
from orexis.api.deps import REFUSALS, Key, TheHouse
from orexis.core.approaches import QUESTIONS
from orexis.core.coach import CAUTIONS, LIMITS, LIPS, REPORTS, STANDARDS
from orexis.core.exercises import PLACES, SERVES
from orexis.core.instruments import INSTRUMENTS
from orexis.core.messages import tell
from orexis.core.planning import FEWEST_MINUTES, MOST_MINUTES, GoalKind
from orexis.core.sound import Sound, finite
from orexis.errors import InputError
from orexis.services.devices import Device
from orexis.services.journal import Broken
from orexis.services.lessons.class_week import ClassShown
from orexis.services.queries.glance import Glance

router = APIRouter(prefix="/api", responses=REFUSALS)
_CHECK_S = 30  # the device check plays eight clicks in six seconds


@router.get("/household")
def household(house: TheHouse) -> list[Glance]:
    """Return a line for each player: when they last played, how much, what is stuck; none where a teacher looks after that."""
    return list(house.at_a_glance())


@router.get("/class")
def class_of_the_week(house: TheHouse) -> ClassShown:
    """Return how everybody in the class practises; nobody where nobody teaches here."""
    return house.class_week()


@router.post("/class/goals")
def give_goal(body: schemas.ClassGoalIn, house: TheHouse) -> list[str]:
    """The same goal for several players; return a sentence for each who cannot have it."""
    return list(house.goals.add_to_all(body.players, body.kind, body.value, body.date, joined=body.joined))


@router.get("/health", responses={500: {"model": schemas.ErrorOut}})
def health(request: Request) -> schemas.HealthOut:
    """Return that the server answers, its release, and whether it ends with the last window."""
    return schemas.HealthOut(status="ok", version=__version__, ends_with_windows=request.app.state.windows.counted)


@router.get("/catalogue")
def catalogue() -> schemas.CatalogueOut:
    """Instruments, standards, and how exercise types are sorted."""
    return schemas.CatalogueOut(
        instruments=[views.instrument_out(h) for h in INSTRUMENTS.values()],
        standards=list(STANDARDS),
        places=list(PLACES),
        serves=list(SERVES),
        questions=list(QUESTIONS),
        reports=list(REPORTS),
        cautions=CAUTIONS,
        limits={standard: dict(limits) for standard, limits in STANDARDS.items()},
        limit_labels={limit.name: limit.label for limit in LIMITS.values()},
        day_minutes=[FEWEST_MINUTES, MOST_MINUTES],
        goals=[views.goal_kind_out(kind) for kind in GoalKind],
        lips=list(LIPS),
    )


@router.get("/notices")
def notices(house: TheHouse) -> list[str]:
    """Return what could not be done when the record was opened, and what is not ready yet: a sentence each, for the screen."""
    return [*house.ear.says(), *house.says]


@router.get("/broken-takes")
def broken_takes(house: TheHouse) -> list[Broken]:
    """Takes that a crash cut off and that could not be finished: they lie in `journal/broken`."""
    return list(house.broken())


@router.delete("/broken-takes/{take_id}", status_code=204)
def seen_broken_take(take_id: Key, house: TheHouse) -> None:
    """Tell no more of it; what is left of it stays in `journal/broken`."""
    house.seen(take_id)


@router.post("/device-checks", status_code=201)
async def check_device(
    samples: Annotated[UploadFile, File()], about: Annotated[str, Form()], house: TheHouse
) -> Device:
    """What the microphone heard while the page played clicks: little-endian float32 samples, and what they were."""
    try:
        told = schemas.CheckAbout.model_validate_json(about)
    except ValidationError as error:
        raise InputError("The device check does not say what it recorded.") from error
    data = await samples.read()
    if len(data) % 4 or len(data) > 4 * _CHECK_S * told.rate:
        raise InputError(tell("A device check holds at most {check_s} seconds of float32 samples.", check_s=_CHECK_S))
    sound = Sound(finite(np.frombuffer(data, "<f4")), told.rate)
    return await asyncio.to_thread(house.devices.check, told.facts, sound, tuple(told.clicks_s))


@router.get("/devices")
def read_devices(house: TheHouse) -> list[Device]:
    """Microphones that were checked, the latest first."""
    return list(house.devices.all())
