"""Exercises and instruments: what there is to practise, looked at, heard, kept, read from files and written to them."""

import asyncio
import re
from typing import Annotated

import numpy as np
from fastapi import APIRouter, File, Form, UploadFile
from fastapi.responses import Response

from orexis.api import schemas, views
from orexis.api.deps import REFUSALS, Key, TheHouse
from orexis.core.exercises import Exercise, Series
from orexis.core.messages import tell
from orexis.core.sound import Sound, finite
from orexis.errors import InputError, MissingError
from orexis.files.exercise_files import exported
from orexis.services.application import Application
from orexis.services.material.chart import ChartRow, chart
from orexis.services.material.exercises import OwnExercise
from orexis.services.material.played_in import MOST_SECONDS
from orexis.services.values.players import Player

router = APIRouter(prefix="/api", responses=REFUSALS)


def _wished(house: Application, body: schemas.WishIn) -> tuple[Player, Series, Exercise]:
    person = house.players.get(body.player_id)
    series = house.material.series(person, body.wish)
    if body.index >= len(series.exercises):
        raise MissingError(
            tell(
                "The series has {count} exercises: choose 0 to {count2}.",
                count=len(series.exercises),
                count2=len(series.exercises) - 1,
            )
        )
    return person, series, series.exercises[body.index]


@router.post("/exercises/view")
def view_exercise(body: schemas.WishIn, house: TheHouse) -> schemas.SeriesView:
    """A series with one exercise engraved; nothing is kept."""
    person, series, exercise = _wished(house, body)
    return schemas.SeriesView(
        title=series.title,
        advance=series.advance,
        rest_s=series.rest_s,
        titles=views.titles_of(series, person.terms.written),
        index=body.index,
        exercise=views.exercise_by_terms(house, person.terms, exercise),
        says=list(house.material.says(person, body.wish)),
    )


@router.post("/exercises/line/view")
def view_line(body: schemas.LineIn, house: TheHouse) -> schemas.ExerciseView:
    """An exercise from a line of text, engraved; nothing is kept."""
    person = house.players.get(body.player_id)
    return views.exercise_by_terms(house, person.terms, house.material.written(person, body.written).exercises[-1])


@router.post("/exercises/line", status_code=201)
def keep_line(body: schemas.KeepLineIn, house: TheHouse) -> OwnExercise:
    """Keep an exercise that was written as a line of text, under a name."""
    return house.material.keep_written(house.players.get(body.player_id), body.name, body.written)


@router.post("/exercises/line/played")
async def play_line_in(
    player_id: Annotated[str, Form(max_length=80)],
    samples: Annotated[UploadFile, File()],
    rate: Annotated[int, Form(ge=8_000, le=192_000)],
    house: TheHouse,
    tempo: Annotated[int, Form(ge=20, le=300)] = 72,
) -> schemas.PlayedLineOut:
    """A line of notes from what was played once: little-endian float32 samples."""
    data = await samples.read()
    if len(data) % 4 or not 0 < len(data) <= 4 * MOST_SECONDS * rate:
        raise InputError(
            tell(
                "What is played in lasts at most {most_seconds} seconds, as float32 samples.", most_seconds=MOST_SECONDS
            )
        )
    sound = Sound(finite(np.frombuffer(data, "<f4")), rate)
    person = await asyncio.to_thread(house.players.get, player_id)
    return schemas.PlayedLineOut(line=await asyncio.to_thread(house.material.played_in, person, sound, float(tempo)))


@router.post("/exercises/sound", response_class=Response, responses={200: {"content": {"audio/wav": {}}}})
def hear_exercise(body: schemas.SoundIn, house: TheHouse) -> Response:
    """The exercise played without a flaw, with count-in and click."""
    person, _, exercise = _wished(house, body)
    return Response(
        house.material.wav(exercise, person.a4_hz, click=body.click and exercise.click), media_type="audio/wav"
    )


@router.post("/exercises/export", response_class=Response)
def export_exercise(body: schemas.ExportIn, house: TheHouse) -> Response:
    """The exercise as JSON, MusicXML or MIDI."""
    person, _, exercise = _wished(house, body)
    instrument = person.own_instrument
    data, media, ending = exported(exercise, instrument, instrument.part(person.part), body.format)
    name = re.sub(r"[^A-Za-z0-9._-]+", "-", exercise.id)[:80] or "exercise"
    return Response(data, media_type=media, headers={"content-disposition": f'attachment; filename="{name}.{ending}"'})


@router.get("/players/{player_id}/exercises")
def read_own_exercises(player_id: Key, house: TheHouse) -> list[OwnExercise]:
    """What the player keeps, newest first."""
    return list(house.material.own_exercises(house.players.get(player_id)))


@router.post("/exercises/keep", status_code=201)
def keep_exercise(body: schemas.KeepIn, house: TheHouse) -> OwnExercise:
    """Keep an exercise type with these parameters under a name."""
    return house.material.keep(house.players.get(body.player_id), body.name, body.wish)


@router.post("/players/{player_id}/exercises", status_code=201)
async def import_exercise(
    player_id: Key,
    file: Annotated[UploadFile, File()],
    house: TheHouse,
    name: Annotated[str, Form(max_length=200)] = "",
    semitones: Annotated[int, Form(ge=-24, le=24)] = 0,
) -> OwnExercise:
    """A tune from MusicXML, MXL or MIDI, or an exercise of ours, placed on the instrument in hand and kept."""
    data = await file.read()
    return await asyncio.to_thread(_import, house, player_id, data, name, semitones)


def _import(house: Application, player_id: str, data: bytes, name: str, semitones: int) -> OwnExercise:
    person = house.players.get(player_id)
    return house.material.imported(person, data, name=name, semitones=semitones)


@router.delete("/players/{player_id}/exercises/{own_id}", status_code=204)
def forget_exercise(player_id: Key, own_id: Key, house: TheHouse) -> None:
    """Delete a kept exercise; takes made of it keep theirs."""
    house.material.forget(house.players.get(player_id), own_id)


@router.get("/players/{player_id}/chart")
def read_chart(player_id: Key, house: TheHouse) -> list[ChartRow]:
    """Every note of the instrument in hand with all the ways to play it."""
    person = house.players.get(player_id)
    return list(chart(person.own_instrument, person.own_instrument.part(person.part), a4=person.a4_hz))
