"""Rows of players and their horns, to values and back."""

from uuid import uuid4

from orexis.core.coach import Standard, standard_named
from orexis.core.horn import Setup, horn_named
from orexis.errors import InputError
from orexis.services.documents import from_json
from orexis.services.players.values import Player, PlayerSettings, checked_a4
from orexis.store.models import HornRow, PlayerRow

_NAME_LENGTH = 60


def player_of(row: PlayerRow) -> Player:
    """A player with the horn in hand."""
    horn = next(horn for horn in row.horns if horn.id == row.horn_id)
    return Player(
        row.id,
        row.name,
        Standard(row.standard),
        horn.instrument,
        horn.part,
        horn.a4_hz,
        from_json(Setup, horn.setup),
        from_json(PlayerSettings, row.settings),
        row.guest,
    )


def fill_player(row: PlayerRow, *, name: str, standard: str, horn: str, part: str | None, a4_hz: float) -> None:
    """Settings of the person, and of the horn that is taken in hand."""
    cleaned = " ".join(name.split())
    if not 1 <= len(cleaned) <= _NAME_LENGTH:
        raise InputError(f"The name has {len(cleaned)} letters: write 1 to {_NAME_LENGTH}.")
    checked_a4(a4_hz)
    instrument = horn_named(horn)
    row.name, row.standard = cleaned, standard_named(standard)
    own = next((item for item in row.horns if item.instrument == horn), None)
    if own is None:
        own = HornRow(id=uuid4().hex, instrument=horn)
        row.horns.append(own)
    own.part, own.a4_hz = instrument.part(part).id, a4_hz
    row.horn_id = own.id
