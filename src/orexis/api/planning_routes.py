"""What comes next: the day, the weeks, paths, goals, own routines."""

import asyncio
from datetime import date
from typing import Annotated

from fastapi import APIRouter, File, UploadFile

from orexis.api import planning_schemas as schemas
from orexis.api import views
from orexis.api.deps import REFUSALS, Key, TheHouse
from orexis.api.schemas import SessionOut
from orexis.core.planning import CheckIn, GoalTarget, KeptBlock
from orexis.files.calendar_read import MAX_BYTES, CalendarEntry, entries_of_calendar
from orexis.services.clock import local_day, now
from orexis.services.sessions.use import lips_named
from orexis.services.values.planning import DayShown, GoalShown, OwnBlock, OwnRoutine, PathShown, WeeksShown

router = APIRouter(prefix="/api/players/{player_id}", responses=REFUSALS)
_READING_S = 20.0  # far longer than the largest calendar takes


def kept_blocks(body: schemas.DayIn) -> list[KeptBlock]:
    """What the player holds on to."""
    return [KeptBlock(block.exercise_type, block.minutes, block.params) for block in body.kept]


@router.post("/day/plan")
def plan_day(player_id: Key, body: schemas.DayIn, house: TheHouse) -> DayShown:
    """The day as it would be opened now. Nothing is kept."""
    person = house.players.get(player_id)
    known, plan = house.planning.day(
        person,
        body.minutes,
        CheckIn(lips_named(body.lips), body.quiet, house.sessions.no_heavy_today(player_id)),
        kept=kept_blocks(body),
        without=body.without,
        arranged=body.arranged,
    )
    return house.planning.shown(person, known, plan)


@router.post("/day", status_code=201)
def open_day(player_id: Key, body: schemas.DayIn, house: TheHouse) -> SessionOut:
    """Open a session with the plan of the day, or with the blocks that were arranged."""
    opened = house.sessions.open_day(
        player_id,
        body.minutes,
        lips=body.lips,
        quiet=body.quiet,
        kept=kept_blocks(body),
        without=body.without,
        arranged=body.arranged,
        anyway=body.anyway,
    )
    return views.session_out(opened)


@router.get("/weeks")
def read_weeks(player_id: Key, house: TheHouse, since: date | None = None, count: int | None = None) -> WeeksShown:
    """Weeks played, the present one, and those ahead; with `since`, so many weeks from that of a date."""
    return house.planning.weeks(player_id, since=since, count=count)


@router.post("/calendar/view")
async def view_calendar(player_id: Key, file: Annotated[UploadFile, File()], house: TheHouse) -> list[CalendarEntry]:
    """Dates in a calendar file, to choose performances and rehearsals from; nothing is kept."""
    data = await file.read(MAX_BYTES + 1)
    await asyncio.to_thread(house.players.get, player_id)
    today = date.fromordinal(local_day(now()))
    return list(await asyncio.to_thread(house.workers.run, entries_of_calendar, data, today, seconds=_READING_S))


@router.get("/paths")
def read_paths(player_id: Key, house: TheHouse) -> list[PathShown]:
    """Where the player stands on every path of the instrument in hand."""
    return list(house.planning.paths(player_id))


@router.put("/paths/{exercise_type}", status_code=204)
def set_step(player_id: Key, exercise_type: Key, body: schemas.StepIn, house: TheHouse) -> None:
    """The player's own word about where they stand."""
    house.planning.set_step(player_id, exercise_type, body.step)


@router.get("/goals")
def read_goals(player_id: Key, house: TheHouse) -> list[GoalShown]:
    """Goals of the instrument in hand, with forecasts."""
    return list(house.goals.all(player_id))


@router.post("/goals", status_code=201)
def add_goal(player_id: Key, body: schemas.GoalIn, house: TheHouse) -> GoalShown:
    """Add a goal with its date; return it with its forecast."""
    return house.goals.add(player_id, GoalTarget(body.kind, body.value, body.joined), body.date)


@router.put("/goals/{goal_id}", status_code=204)
def change_goal(player_id: Key, goal_id: Key, body: schemas.GoalChange, house: TheHouse) -> None:
    """Go on, pause, give up, or move the date."""
    house.goals.change(player_id, goal_id, state=body.state, by=body.date)


@router.get("/routines")
def read_routines(player_id: Key, house: TheHouse) -> list[OwnRoutine]:
    """Days that the player arranged and kept."""
    return list(house.routines.all(player_id))


@router.post("/routines", status_code=201)
def keep_routine(player_id: Key, body: schemas.RoutineIn, house: TheHouse) -> OwnRoutine:
    """Keep one; one of the same name is replaced."""
    blocks = tuple(OwnBlock(block.exercise_type, block.minutes or 3.0, dict(block.params)) for block in body.blocks)
    return house.routines.keep(player_id, body.name, blocks)


@router.delete("/routines/{routine_id}", status_code=204)
def drop_routine(player_id: Key, routine_id: Key, house: TheHouse) -> None:
    """Delete a routine that the player saved; sessions made of it stay."""
    house.routines.drop(player_id, routine_id)
