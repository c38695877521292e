"""Players: who there is, and what they change about themselves. Takes already made keep their own snapshots."""

from collections.abc import Mapping
from dataclasses import replace
from datetime import date
from typing import Any
from uuid import uuid4

from pydantic import TypeAdapter, ValidationError
from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.instruments import Setup, checked_preferences, checked_range, instrument_named
from orexis.core.messages import tell
from orexis.errors import InputError, LockedError
from orexis.services.clock import local_day, now
from orexis.services.documents import from_json, to_json
from orexis.services.record import Record, require_owned, require_row
from orexis.services.rows.players import fill_player, player_of
from orexis.services.values.players import MOST_DATES, Player, PlayerSettings, changed, checked_settings
from orexis.store.models import PlayerRow, TakeRow

_SETTINGS: TypeAdapter[PlayerSettings] = TypeAdapter(PlayerSettings)
_WHAT = "player"
_LONG_PAST_DAYS = 60  # two months: no rule looks back further at a date


class Players:
    """Everybody in the household, and what they change about themselves."""

    def __init__(self, record: Record) -> None:
        self._record = record

    def all(self) -> tuple[Player, ...]:
        """In the order they came, guests last."""
        with self._record.database.reading() as db:
            query = select(PlayerRow).order_by(PlayerRow.guest, PlayerRow.created_at)
            return tuple(player_of(row) for row in db.scalars(query))

    def teachers(self) -> tuple[Player, ...]:
        """Those who look after the others here."""
        return tuple(person for person in self.all() if person.settings.teaches)

    def get(self, player_id: str) -> Player:
        """One player; MissingError when there is none by that id, LockedError where a PIN was not given."""
        self._record.pins.require(player_id)
        with self._record.database.reading() as db:
            return player_of(require_row(db, PlayerRow, player_id, _WHAT))

    def add(
        self, *, name: str, standard: str, instrument: str, part: str | None = None, a4_hz: float = 440.0
    ) -> Player:
        """A new player; InputError for a name, standard or pitch that cannot be."""
        row = PlayerRow(id=uuid4().hex, created_at=now(), settings="{}")
        fill_player(row, name=name, standard=standard, instrument=instrument, part=part, a4_hz=a4_hz)
        with self._record.database.writing() as db:
            db.add(row)
            db.flush()
            return player_of(row)

    def change(
        self, player_id: str, *, name: str, standard: str, instrument: str, part: str | None, a4_hz: float
    ) -> Player:
        """Name, standard, and the instrument taken in hand with its part and pitch."""
        with self._record.database.writing() as db:
            row = require_row(db, PlayerRow, player_id, _WHAT)
            fill_player(row, name=name, standard=standard, instrument=instrument, part=part, a4_hz=a4_hz)
            db.flush()
            return player_of(row)

    def change_settings(self, player_id: str, change: Mapping[str, Any]) -> Player:
        """Some of how the player is led and judged from now on; what is not named stays. InputError for what cannot be."""
        if change.get("teaches") and not self._record.pins.is_teachers():
            raise LockedError("Somebody here has a PIN: only a teacher can let another one teach.")
        with self._record.database.writing() as db:
            row = require_row(db, PlayerRow, player_id, _WHAT)
            fields = changed(from_json(PlayerSettings, row.settings), change)
            if change.get("reference_take") is not None:
                _check_reference(db, player_id, str(change["reference_take"]))
            row.settings = to_json(checked_settings(_without_old_dates(_read(fields)), row.standard))
            return player_of(row)

    def change_instrument(self, player_id: str, setup: Setup) -> Player:
        """What is the player's own about the instrument in hand; InstrumentError for what cannot be."""
        with self._record.database.writing() as db:
            row = require_row(db, PlayerRow, player_id, _WHAT)
            own = next(instrument for instrument in row.instruments if instrument.id == row.instrument_id)
            checked_preferences(checked_range(instrument_named(own.catalogue_id).with_setup(setup)))
            own.setup = to_json(setup)
            return player_of(row)


def _without_old_dates(settings: PlayerSettings) -> PlayerSettings:
    """Where there are too many single dates with minutes of their own, those that are long past go."""
    if len(settings.moved) <= MOST_DATES:
        return settings
    since = date.fromordinal(local_day(now()) - _LONG_PAST_DAYS).isoformat()
    return replace(settings, moved={day: minutes for day, minutes in settings.moved.items() if day >= since})


def _check_reference(db: Session, player_id: str, take_id: str) -> None:
    """The sound to aim for is one of the player's own, a guest's or a teacher's; MissingError for any other."""
    row = require_row(db, TakeRow, take_id, "take")
    owner = player_of(require_row(db, PlayerRow, row.player_id, _WHAT))
    if not (owner.guest or owner.settings.teaches):
        require_owned(db, TakeRow, take_id, player_id, "take")


def _read(fields: Mapping[str, Any]) -> PlayerSettings:
    try:
        return _SETTINGS.validate_python(dict(fields))
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"])
        raise InputError(tell("The setting {place}: {first}.", place=place, first=first["msg"].lower())) from error
