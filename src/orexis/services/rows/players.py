"""Rows of players and their instruments, to values and back."""

from uuid import uuid4

from orexis.core.coach import Standard, standard_named
from orexis.core.instruments import Setup, instrument_named
from orexis.core.messages import tell
from orexis.errors import InputError
from orexis.services.documents import from_json
from orexis.services.values.players import Player, PlayerSettings, checked_a4
from orexis.store.models import InstrumentRow, PlayerRow

_NAME_LENGTH = 60  # one line


def player_of(row: PlayerRow) -> Player:
    """A player with the instrument in hand."""
    instrument = next(instrument for instrument in row.instruments if instrument.id == row.instrument_id)
    return Player(
        row.id,
        row.name,
        Standard(row.standard),
        instrument.catalogue_id,
        instrument.part,
        instrument.a4_hz,
        from_json(Setup, instrument.setup),
        from_json(PlayerSettings, row.settings),
        row.guest,
    )


def fill_player(row: PlayerRow, *, name: str, standard: str, instrument: str, part: str | None, a4_hz: float) -> None:
    """Settings of the person, and of the instrument that is taken in hand."""
    cleaned = " ".join(name.split())
    if not 1 <= len(cleaned) <= _NAME_LENGTH:
        raise InputError(
            tell(
                "The name has {count} letters: write 1 to {name_length}.", count=len(cleaned), name_length=_NAME_LENGTH
            )
        )
    checked_a4(a4_hz)
    built = instrument_named(instrument)
    row.name, row.standard = cleaned, standard_named(standard)
    own = next((item for item in row.instruments if item.catalogue_id == instrument), None)
    if own is None:
        own = InstrumentRow(id=uuid4().hex, catalogue_id=instrument)
        row.instruments.append(own)
    own.part, own.a4_hz = built.part(part).id, a4_hz
    row.instrument_id = own.id
