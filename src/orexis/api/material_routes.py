"""Figures and horns: what there is to practise, looked at, heard, kept, read from files and written to them."""

import asyncio
import re
from typing import Annotated

from fastapi import APIRouter, File, Form, UploadFile
from fastapi.responses import Response

from orexis.api import schemas, views
from orexis.api.deps import REFUSALS, Key, TheHouse
from orexis.core.figures import Figure, Series
from orexis.errors import MissingError
from orexis.services.application import Application
from orexis.services.material.chart import ChartRow, chart
from orexis.services.material.figures import OwnFigure, exported
from orexis.services.players.values import Player

router = APIRouter(prefix="/api", responses=REFUSALS)


def _wished(house: Application, body: schemas.WishIn) -> tuple[Player, Series, Figure]:
    person = house.players.get(body.player_id)
    series = house.material.series(person, body.wish)
    if body.index >= len(series.figures):
        raise MissingError(f"The series has {len(series.figures)} exercises: choose 0 to {len(series.figures) - 1}.")
    return person, series, series.figures[body.index]


@router.post("/figures/view")
def view_figure(body: schemas.WishIn, house: TheHouse) -> schemas.SeriesView:
    """A series with one figure engraved; nothing is kept."""
    person, series, figure = _wished(house, body)
    return schemas.SeriesView(
        title=series.title,
        advance=series.advance,
        rest_s=series.rest_s,
        titles=views.titles_of(series, person.terms.written),
        index=body.index,
        figure=views.figure_by_terms(house, person.terms, figure),
        says=list(house.material.says(person, body.wish)),
    )


@router.post("/figures/line/view")
def view_line(body: schemas.LineIn, house: TheHouse) -> schemas.FigureView:
    """An exercise from a line of text, engraved; nothing is kept."""
    person = house.players.get(body.player_id)
    return views.figure_by_terms(house, person.terms, house.material.written(person, body.written).figures[-1])


@router.post("/figures/line", status_code=201)
def keep_line(body: schemas.KeepLineIn, house: TheHouse) -> OwnFigure:
    """Keep it under a name."""
    return house.material.keep_written(house.players.get(body.player_id), body.name, body.written)


@router.post("/figures/sound", response_class=Response, responses={200: {"content": {"audio/wav": {}}}})
def hear_figure(body: schemas.SoundIn, house: TheHouse) -> Response:
    """The figure played without a flaw, with count-in and click."""
    person, _, figure = _wished(house, body)
    return Response(house.material.wav(figure, person.a4_hz, click=body.click and figure.click), media_type="audio/wav")


@router.post("/figures/export", response_class=Response)
def export_figure(body: schemas.ExportIn, house: TheHouse) -> Response:
    """The figure as JSON, MusicXML or MIDI."""
    person, _, figure = _wished(house, body)
    horn = person.instrument
    data, media, ending = exported(figure, horn, horn.part(person.part), body.format)
    name = re.sub(r"[^A-Za-z0-9._-]+", "-", figure.id)[:80] or "figure"
    return Response(data, media_type=media, headers={"content-disposition": f'attachment; filename="{name}.{ending}"'})


@router.get("/players/{player_id}/figures")
def read_own_figures(player_id: Key, house: TheHouse) -> list[OwnFigure]:
    """What the player keeps, newest first."""
    return list(house.material.own_figures(house.players.get(player_id)))


@router.post("/figures/keep", status_code=201)
def keep_figure(body: schemas.KeepIn, house: TheHouse) -> OwnFigure:
    """Keep a family with these parameters under a name."""
    return house.material.keep(house.players.get(body.player_id), body.name, body.wish)


@router.post("/players/{player_id}/figures", status_code=201)
async def import_figure(
    player_id: Key,
    file: Annotated[UploadFile, File()],
    house: TheHouse,
    name: Annotated[str, Form(max_length=200)] = "",
    semitones: Annotated[int, Form(ge=-24, le=24)] = 0,
) -> OwnFigure:
    """A tune from MusicXML, MXL or MIDI, or a figure of ours, placed on the horn in hand and kept."""
    data = await file.read()
    return await asyncio.to_thread(_import, house, player_id, data, name, semitones)


def _import(house: Application, player_id: str, data: bytes, name: str, semitones: int) -> OwnFigure:
    person = house.players.get(player_id)
    return house.material.imported(person, data, name=name, semitones=semitones)


@router.delete("/players/{player_id}/figures/{own_id}", status_code=204)
def forget_figure(player_id: Key, own_id: Key, house: TheHouse) -> None:
    """Delete a kept figure; takes made of it keep theirs."""
    house.material.forget(house.players.get(player_id), own_id)


@router.get("/players/{player_id}/chart")
def read_chart(player_id: Key, house: TheHouse) -> list[ChartRow]:
    """Every note of the horn in hand with all the ways to play it."""
    person = house.players.get(player_id)
    return list(chart(person.instrument, person.instrument.part(person.part), a4=person.a4_hz))
