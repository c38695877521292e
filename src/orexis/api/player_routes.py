"""Players: who there is, how they are led, their ladder, log and day."""

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query

from orexis.api import schemas, views
from orexis.api.deps import REFUSALS, Key, TheHouse
from orexis.core.coach import Outcome
from orexis.core.instruments import Setup
from orexis.services.queries.instrument_or_player import InstrumentOrPlayer
from orexis.services.queries.log import DaySoFar, LogFilter, LogPage
from orexis.services.queries.progress import ProgressShown
from orexis.services.queries.spans import SideBySide, Span, ThenAndNow
from orexis.services.queries.thrown_away import DiscardedTake
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


@router.get("/{player_id}/instrument/told")
def read_instrument_or_player(player_id: Key, house: TheHouse) -> InstrumentOrPlayer:
    """What the instrument in hand does, what the player does, and what may be done about it."""
    return house.tuning.read(player_id)


@router.put("/{player_id}/instrument/learned")
def take_over(player_id: Key, house: TheHouse) -> Player:
    """Count with the instrument as it was heard, from now on."""
    return house.tuning.take_over(player_id)


@router.delete("/{player_id}/instrument/learned")
def give_back(player_id: Key, house: TheHouse) -> Player:
    """Forget the corrections that were learned: the instrument counts as theory has it again."""
    return house.tuning.give_back(player_id)


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


@router.get("/{player_id}/log")
def read_log(
    player_id: Key,
    house: TheHouse,
    offset: Annotated[int, Query(ge=0, le=1_000_000)] = 0,
    word: Annotated[str, Query(max_length=60)] = "",
    outcome: Outcome | None = None,
    reason: Annotated[str, Query(max_length=40)] = "",
    instrument: Annotated[str, Query(max_length=40)] = "",
    since: date | None = None,
    until: date | None = None,
) -> LogPage:
    """A page of sessions, newest first: all, or those with a take that has the word, outcome and reason asked for."""
    wanted = LogFilter(word, outcome, reason, instrument, since, until)
    return house.log.page(player_id, offset=offset, wanted=wanted)


@router.get("/{player_id}/instruments-played")
def read_instruments_played(player_id: Key, house: TheHouse) -> list[str]:
    """On which instruments anything was played."""
    return list(house.log.instruments(player_id))


@router.get("/{player_id}/reasons")
def read_reasons(player_id: Key, house: TheHouse) -> list[str]:
    """Why takes were not held so far."""
    return list(house.log.reasons(player_id))


@router.get("/{player_id}/day")
def read_day(player_id: Key, house: TheHouse) -> DaySoFar:
    """What was played today on the instrument in hand."""
    return house.log.today(player_id, house.players.get(player_id).instrument)


@router.get("/{player_id}/progress")
def read_progress(player_id: Key, house: TheHouse, weeks: Annotated[int, Query(ge=1, le=520)] = 12) -> ProgressShown:
    """Trends with what may be claimed of them, weeks of playing, milestones."""
    return house.progress.read(player_id, weeks)


@router.get("/{player_id}/spans")
def compare_spans(
    player_id: Key, first_from: date, first_to: date, last_from: date, last_to: date, house: TheHouse
) -> list[SideBySide]:
    """Every measure in two spans of days, side by side."""
    return list(house.spans.compare(player_id, Span(first_from, first_to), Span(last_from, last_to)))


@router.get("/{player_id}/then-and-now")
def then_and_now(player_id: Key, house: TheHouse) -> list[ThenAndNow]:
    """Exercises that can be heard as they were then and as they are now."""
    return list(house.spans.then_and_now(player_id))


@router.get("/{player_id}/thrown-away")
def thrown_away(player_id: Key, house: TheHouse) -> list[DiscardedTake]:
    """Takes thrown away that may still be brought back."""
    return list(house.log.thrown_away(player_id))


@router.get("/{player_id}/material")
def read_material(player_id: Key, house: TheHouse) -> schemas.MaterialOut:
    """Exercise types with their parameters, notes and fingerings of the instrument in hand."""
    return views.material_out(house.players.get(player_id))
