"""What is printed, put into a calendar or a table, and a take's sound in other formats. Names of files can be read by people."""

import re
from collections.abc import Iterator
from datetime import date, timedelta
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from fastapi.responses import Response, StreamingResponse

from orexis.api import planning_schemas, schemas
from orexis.api.deps import REFUSALS, Key, TheHouse
from orexis.api.planning_routes import kept_blocks
from orexis.core.messages import tell
from orexis.core.planning import CheckIn, day_series, monday
from orexis.core.theory.naming import NoteNames
from orexis.errors import MissingError
from orexis.files.sheets import PracticeSheet, sheet_to_pdf
from orexis.files.soundfiles import sound_as
from orexis.services.application import Application
from orexis.services.clock import local_day, now
from orexis.services.material.chart import ChartRow, chart
from orexis.services.paper.sheets import (
    chart_sheet,
    day_sheet,
    in_names,
    in_words,
    report_sheet,
    series_sheet,
    week_sheet,
)
from orexis.services.paper.tables import chart_csv, notes_csv, takes_csv
from orexis.services.queries.spans import Span
from orexis.services.sessions.use import lips_named
from orexis.services.values.players import Player

router = APIRouter(prefix="/api", responses=REFUSALS)
_USUAL_MINUTES = 30  # of a week without a day of practice left
_PDF_S = 60.0  # far longer than the longest report takes
_MEDIA = {"flac": "audio/flac", "wav": "audio/wav", "mp3": "audio/mpeg"}


def named(*parts: str, ending: str) -> dict[str, str]:
    """The header by which a browser names what it saves."""
    name = "-".join(re.sub(r"[^a-z0-9]+", "-", part.lower()).strip("-")[:60] for part in parts if part)
    return {"Content-Disposition": f'attachment; filename="orexis-{name or "sheet"}.{ending}"'}


def _pdf(house: Application, sheet: PracticeSheet, names: NoteNames, *name: str) -> Response:
    data = house.workers.run(sheet_to_pdf, in_names(in_words(sheet), names), seconds=_PDF_S)
    return Response(data, media_type="application/pdf", headers=named(*name, ending="pdf"))


@router.post("/exercises/sheet", response_class=Response, responses={200: {"content": {"application/pdf": {}}}})
def print_series(
    body: schemas.WishIn, house: TheHouse, whole: bool = False, names: NoteNames = NoteNames.LETTERS
) -> Response:
    """An exercise as a sheet, or the whole of its series."""
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
    return _pdf(house, series_sheet(person, series, only=None if whole else body.index), names, series.title)


@router.post(
    "/players/{player_id}/day/sheet", response_class=Response, responses={200: {"content": {"application/pdf": {}}}}
)
def print_day(
    player_id: Key, body: planning_schemas.DayIn, house: TheHouse, names: NoteNames = NoteNames.LETTERS
) -> Response:
    """The day as it would be opened now, on paper."""
    person = house.players.get(player_id)
    said = CheckIn(lips_named(body.lips), body.quiet, house.sessions.no_heavy_today(player_id))
    known, plan = house.planning.day(
        person, body.minutes, said, kept=kept_blocks(body), without=body.without, arranged=body.arranged
    )
    today = date.fromordinal(local_day(now()))
    shown = house.planning.shown(person, known, plan).plan
    return _pdf(house, day_sheet(person, shown, day_series(known, plan), today), names, "day", today.isoformat())


@router.get("/players/{player_id}/week.pdf", response_class=Response)
def print_week(player_id: Key, house: TheHouse, names: NoteNames = NoteNames.LETTERS) -> Response:
    """The week's days, goals and lessons, and the exercises of the next day of practice, on paper."""
    person, today = house.players.get(player_id), local_day(now())
    week = next(week for week in house.planning.weeks(player_id).weeks if week.start == monday(today))
    coming = next((day for day in week.days if day.day >= today and day.minutes), week.days[-1])
    known, plan = house.planning.day(person, coming.minutes or _USUAL_MINUTES, CheckIn())
    shown = house.planning.shown(person, known, plan).plan
    sheet = week_sheet(
        person, week, house.goals.all(player_id), house.lessons.given_to(player_id), shown, day_series(known, plan)
    )
    return _pdf(house, sheet, names, "week", person.name, date.fromordinal(week.start).isoformat())


@router.get("/players/{player_id}/chart.pdf", response_class=Response)
def print_chart(player_id: Key, house: TheHouse, names: NoteNames = NoteNames.LETTERS) -> Response:
    """The chart of the player's own instrument."""
    person = house.players.get(player_id)
    return _pdf(house, chart_sheet(person, _chart(person)), names, "chart", person.own_instrument.name)


@router.get("/players/{player_id}/chart.csv", response_class=StreamingResponse)
def table_of_chart(player_id: Key, house: TheHouse) -> StreamingResponse:
    """Return the fingering chart as CSV."""
    person = house.players.get(player_id)
    return _csv(chart_csv(_chart(person)), "chart", person.own_instrument.name)


@router.get("/players/{player_id}/report.pdf", response_class=Response)
def print_report(
    player_id: Key,
    house: TheHouse,
    weeks: Annotated[int, Query(ge=1, le=520)] = 12,
    names: NoteNames = NoteNames.LETTERS,
) -> Response:
    """A span on a page or two."""
    person = house.players.get(player_id)
    shown = house.progress.read(player_id, weeks)
    today = date.fromordinal(local_day(now()))
    third = timedelta(days=round(7 * weeks / 3))
    first = Span(today - timedelta(weeks=weeks), today - timedelta(weeks=weeks) + third)
    sides = house.spans.compare(player_id, first, Span(today - third, today))
    history = [(day, reach.own) for day, reach in house.range_summary(person).history]
    sheet = report_sheet(person, shown, sides, house.tuning.read(player_id), today, history=history)
    return _pdf(house, sheet, names, "report", person.name, today.isoformat())


@router.get("/players/{player_id}/weeks.ics", response_class=Response)
def weeks_calendar(player_id: Key, house: TheHouse) -> Response:
    """The weeks ahead for a calendar program."""
    person = house.players.get(player_id)
    from orexis.services.paper.calendar import weeks_as_calendar  # slow to load, and rarely needed

    data = weeks_as_calendar(person, house.planning.weeks(player_id), house.goals.all(player_id))
    return Response(data, media_type="text/calendar", headers=named("practice", person.name, ending="ics"))


@router.get("/players/{player_id}/takes.csv", response_class=StreamingResponse)
def table_of_takes(player_id: Key, house: TheHouse) -> StreamingResponse:
    """Return every take of a player as CSV."""
    person = house.players.get(player_id)
    return _csv(takes_csv(house.record, player_id), "takes", person.name)


@router.get("/players/{player_id}/notes.csv", response_class=StreamingResponse)
def table_of_notes(player_id: Key, house: TheHouse) -> StreamingResponse:
    """Return the measures of every note of every take, a line each, as CSV."""
    person = house.players.get(player_id)
    return _csv(notes_csv(house.record, player_id), "notes", person.name)


@router.get("/takes/{take_id}/sound.{form}", response_class=Response)
def sound_in(take_id: Key, form: Literal["flac", "wav", "mp3"], house: TheHouse) -> Response:
    """A take's sound as a file with a name that says what it is."""
    take = house.takes.get(take_id)
    path = house.record.sound_path(take.id)
    if not path.exists():
        raise MissingError("The sound of this take is not in the data folder; its measures are.")
    data = path.read_bytes() if form == "flac" else house.workers.run(sound_as, path, form, seconds=_PDF_S)
    when = take.started_at.astimezone().strftime("%Y-%m-%d-%H%M")
    return Response(data, media_type=_MEDIA[form], headers=named(take.exercise.title, when, ending=form))


def _chart(person: Player) -> list[ChartRow]:
    return list(chart(person.own_instrument, person.own_instrument.part(person.part), a4=person.a4_hz))


def _csv(lines: Iterator[str], *name: str) -> StreamingResponse:
    return StreamingResponse(lines, media_type="text/csv; charset=utf-8", headers=named(*name, ending="csv"))
