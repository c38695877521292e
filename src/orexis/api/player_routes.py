"""Players: who there is, how they are led, their range, session and day."""

from typing import Annotated

from fastapi import APIRouter, Query

from orexis.api import schemas, views
from orexis.api.deps import REFUSALS, Key, TheHouse
from orexis.core.instruments import Setup
from orexis.services.queries.log import DaySoFar
from orexis.services.takes.keeping import Sizes
from orexis.services.values.players import Keeping, Player

router = APIRouter(prefix="/api/players", responses=REFUSALS)


@router.get("")
def players(house: TheHouse) -> list[Player]:
    """Return everybody in the household, guests last."""
    return list(house.players.all())


@router.post("", status_code=201)
def add_player(body: schemas.PlayerIn, house: TheHouse) -> Player:
    """Add a player; return them with the instrument in hand."""
    return house.players.add(
        name=body.name, standard=body.standard, instrument=body.instrument, part=body.part, a4_hz=body.a4_hz
    )


@router.put("/{player_id}")
def change_player(player_id: Key, body: schemas.PlayerIn, house: TheHouse) -> Player:
    """Name, standard, and the instrument in hand."""
    return house.players.change(
        player_id, name=body.name, standard=body.standard, instrument=body.instrument, part=body.part, a4_hz=body.a4_hz
    )


@router.delete("/{player_id}", status_code=204)
def forget_player(player_id: Key, house: TheHouse) -> None:
    """A player with everything of theirs, sound included, for good."""
    house.forget_player(player_id)


@router.get("/{player_id}/sound")
def read_sizes(
    player_id: Key, house: TheHouse, keeping: Keeping = Keeping.ALL, days: Annotated[int, Query(ge=7, le=3650)] = 90
) -> Sizes:
    """What sound takes up, and what would go by a choice."""
    return house.sizes(player_id, keeping, days)


@router.patch("/{player_id}/settings")
def change_settings(player_id: Key, body: schemas.SettingsChange, house: TheHouse) -> Player:
    """Some of how a session goes, approaches, limits, care; what is not named stays as it is."""
    return house.players.change_settings(player_id, body.model_dump(exclude_unset=True))


@router.put("/{player_id}/instrument")
def change_instrument(player_id: Key, body: Setup, house: TheHouse) -> Player:
    """Room temperature, slides and corrections of the instrument in hand."""
    return house.players.change_instrument(player_id, body)


@router.get("/{player_id}/session")
def latest_session(player_id: Key, house: TheHouse) -> schemas.SessionOut | None:
    """The session left open last, if any."""
    session = house.sessions.latest(player_id)
    return views.session_out(session) if session else None


@router.get("/{player_id}/range")
def read_range_summary(player_id: Key, house: TheHouse) -> schemas.RangeSummaryOut:
    """Every note of the instrument in hand."""
    person = house.players.get(player_id)
    return views.range_summary_out(person, house.range_summary(person))


@router.get("/{player_id}/day")
def read_day(player_id: Key, house: TheHouse) -> DaySoFar:
    """What was played today on the instrument in hand."""
    return house.log.today(player_id, house.players.get(player_id).instrument)
