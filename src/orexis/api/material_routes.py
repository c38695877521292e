"""Figures and horns: what there is to practise, looked at, heard, kept, read from files and written to them."""

import asyncio
import re
from typing import Annotated

from fastapi import APIRouter, File, Form, UploadFile
from fastapi.responses import Response

from orexis.api import schemas, views
from orexis.api.routes import Record, view_for
from orexis.core.figures import Figure, Series
from orexis.core.horn import Setup
from orexis.errors import InputError, MissingError
from orexis.services import material
from orexis.services.chart import ChartRow, chart
from orexis.services.practice import Practice
from orexis.services.sounding import figure_wav
from orexis.services.values import OwnFigure, Player

router = APIRouter(prefix="/api", responses={422: {"model": schemas.ErrorOut}})
_MOST_SOUND_S = 300.0


@router.get("/players/{player_id}/material")
def read_material(player_id: str, practice: Record) -> schemas.MaterialOut:
    """Families with their parameters, notes and tubes of the horn in hand."""
    return views.material_out(practice.player(player_id))


def _wished(practice: Practice, body: schemas.WishIn) -> tuple[Player, Series, Figure]:
    person = practice.player(body.player_id)
    series = material.series_wished(practice, person, body.wish)
    if body.index >= len(series.figures):
        raise MissingError(f"The series has {len(series.figures)} figures: choose 0 to {len(series.figures) - 1}.")
    return person, series, series.figures[body.index]


@router.post("/figures/view")
def view_figure(body: schemas.WishIn, practice: Record) -> schemas.SeriesView:
    """A series with one figure engraved; nothing is kept."""
    person, series, figure = _wished(practice, body)
    return schemas.SeriesView(
        title=series.title,
        advance=series.advance,
        rest_s=series.rest_s,
        titles=[item.title for item in series.figures],
        index=body.index,
        figure=view_for(person, figure),
    )


@router.post("/figures/sound", response_class=Response, responses={200: {"content": {"audio/wav": {}}}})
def hear_figure(body: schemas.SoundIn, practice: Record) -> Response:
    """The figure played without a flaw, with count-in and click."""
    person, _, figure = _wished(practice, body)
    if figure.duration_s > _MOST_SOUND_S:
        raise InputError(f"The figure lasts {figure.duration_s:.0f} s: at most {_MOST_SOUND_S:.0f} s are played.")
    return Response(figure_wav(figure, person.a4_hz, click=body.click and figure.click), media_type="audio/wav")


@router.post("/figures/export", response_class=Response)
def export_figure(body: schemas.ExportIn, practice: Record) -> Response:
    """The figure as JSON, MusicXML or MIDI."""
    person, _, figure = _wished(practice, body)
    horn = person.instrument
    data, media, ending = material.exported(figure, horn, horn.part(person.part), body.format)
    name = re.sub(r"[^A-Za-z0-9._-]+", "-", figure.id)[:80] or "figure"
    return Response(data, media_type=media, headers={"content-disposition": f'attachment; filename="{name}.{ending}"'})


@router.get("/players/{player_id}/figures")
def read_own_figures(player_id: str, practice: Record) -> list[OwnFigure]:
    """What the player keeps, newest first."""
    return list(material.own_figures(practice, player_id))


@router.post("/figures/keep", status_code=201)
def keep_figure(body: schemas.KeepIn, practice: Record) -> OwnFigure:
    """Keep a family with these parameters under a name."""
    return material.keep(practice, practice.player(body.player_id), body.name, body.wish)


@router.post("/players/{player_id}/figures", status_code=201)
async def import_figure(
    player_id: str,
    file: Annotated[UploadFile, File()],
    practice: Record,
    name: Annotated[str, Form(max_length=200)] = "",
    octave: Annotated[int | None, Form(ge=-5, le=5)] = None,
    semitones: Annotated[int, Form(ge=-24, le=24)] = 0,
) -> OwnFigure:
    """A tune from MusicXML, MXL or MIDI, or a figure of ours, placed on the horn in hand and kept."""
    data = await file.read()
    return await asyncio.to_thread(_import, practice, player_id, data, name, octave, semitones)


def _import(
    practice: Practice, player_id: str, data: bytes, name: str, octave: int | None, semitones: int
) -> OwnFigure:
    person = practice.player(player_id)
    return material.imported(practice, person, data, name=name, octave=octave, semitones=semitones)


@router.delete("/players/{player_id}/figures/{own_id}", status_code=204)
def forget_figure(player_id: str, own_id: str, practice: Record) -> None:
    """Delete a kept figure; takes made of it keep theirs."""
    material.forget(practice, player_id, own_id)


@router.get("/players/{player_id}/chart")
def read_chart(player_id: str, practice: Record) -> list[ChartRow]:
    """Every note of the horn in hand with all the ways to play it."""
    person = practice.player(player_id)
    return list(chart(person.instrument, person.instrument.part(person.part), a4=person.a4_hz))


@router.put("/players/{player_id}/horn")
def change_horn(player_id: str, body: Setup, practice: Record) -> Player:
    """Room temperature, slides and corrections of the horn in hand."""
    return practice.change_horn(player_id, body)
