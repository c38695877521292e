"""What the record says of a player: log, progress, takes thrown away, instrument and player told apart, and what they can play."""

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query

from orexis.api import schemas, views
from orexis.api.deps import REFUSALS, Key, TheHouse
from orexis.core.coach import Outcome
from orexis.services.queries.instrument_or_player import InstrumentOrPlayer
from orexis.services.queries.log import LogFilter, LogPage
from orexis.services.queries.progress import ProgressShown
from orexis.services.queries.spans import SideBySide, Span, ThenAndNow
from orexis.services.queries.thrown_away import DiscardedTake
from orexis.services.values.players import Player

router = APIRouter(prefix="/api/players", responses=REFUSALS)


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
