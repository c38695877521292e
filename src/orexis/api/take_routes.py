"""Takes in the record: looked at, heard, laid beside others, thrown away, remarked on."""

from fastapi import APIRouter
from fastapi.responses import FileResponse, Response

from orexis.api import schemas, views
from orexis.api.deps import REFUSALS, Key, TheHouse
from orexis.core.free_practice import exercise_as_heard
from orexis.core.instruments import instrument_named
from orexis.errors import MissingError
from orexis.services.values.takes import LikeTake, Take

router = APIRouter(prefix="/api/takes", responses=REFUSALS)


@router.get("/{take_id}")
def read_take(take_id: Key, house: TheHouse) -> Take:
    """Return a take with its snapshots, measures and verdict."""
    return house.takes.get(take_id)


@router.get("/{take_id}/exercise")
def take_exercise(take_id: Key, house: TheHouse) -> schemas.ExerciseView:
    """The take's exercise as it was asked then; where nothing was asked, the notes that were heard."""
    take = house.takes.get(take_id)
    instrument = instrument_named(take.instrument)
    part = instrument.part(take.part)
    free = take.exercise.asks_nothing
    exercise = exercise_as_heard(take.measures, instrument, a4=take.a4_hz) if free else take.exercise
    svg = "" if free else house.material.svg(exercise, instrument, part)
    limit = take.limits["pitch_error_cents"]
    return views.exercise_view(exercise, instrument, part, a4=take.a4_hz, centre_limit=limit, svg=svg)


@router.get("/{take_id}/trace")
def take_trace(take_id: Key, house: TheHouse) -> schemas.TraceOut:
    """Pitch and level every 5 ms."""
    return views.trace_out(house.log.trace(take_id))


@router.get("/{take_id}/sound", response_class=FileResponse)
def take_sound(take_id: Key, house: TheHouse) -> FileResponse:
    """The sound as it was heard."""
    path = house.record.sound_path(house.takes.get(take_id).id)
    if not path.exists():
        raise MissingError("The sound of this take is not in the data folder; its measures are.")
    return FileResponse(path, media_type="audio/flac")


@router.get("/{take_id}/ideal", response_class=Response, responses={200: {"content": {"audio/wav": {}}}})
def take_ideal(take_id: Key, house: TheHouse) -> Response:
    """The take's exercise as it would sound without a flaw; its first beat is sample 0."""
    take = house.takes.get(take_id)
    return Response(house.material.wav(take.exercise, take.a4_hz, click=False), media_type="audio/wav")


@router.get("/{take_id}/like")
def takes_like(take_id: Key, house: TheHouse) -> list[LikeTake]:
    """Other takes of the same exercise, the newest first: what one may be laid over."""
    return list(house.log.like(take_id))


@router.put("/{take_id}/discarded")
def discard_take(take_id: Key, body: schemas.DiscardIn, house: TheHouse) -> Take:
    """Throw a take away, or bring it back."""
    return house.takes.discard(take_id, discarded=body.discarded)


@router.delete("/{take_id}", status_code=204)
def forget_take(take_id: Key, house: TheHouse) -> None:
    """A take with its sound, for good."""
    house.takes.forget(take_id)


@router.delete("/{take_id}/sound")
def forget_sound(take_id: Key, house: TheHouse) -> Take:
    """The sound of a take, for good; its measures and words stay."""
    return house.takes.forget_sound(take_id)


@router.put("/{take_id}/remark")
def remark_take(take_id: Key, body: schemas.RemarkIn, house: TheHouse) -> Take:
    """The player's words on a take."""
    return house.takes.remark(take_id, body.remark)
