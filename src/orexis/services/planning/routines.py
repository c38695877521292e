"""Days that a player arranged and kept under a name."""

from uuid import uuid4

from sqlalchemy import delete, select

from orexis.core.exercises import exercise_type_named
from orexis.core.messages import tell
from orexis.core.planning import MOST_MINUTES
from orexis.errors import ConflictError, InputError
from orexis.services.clock import now
from orexis.services.documents import from_json, to_json
from orexis.services.record import Record, require_owned
from orexis.services.rows.readable import readable
from orexis.services.values.planning import OwnBlock, OwnRoutine
from orexis.store.models import OwnRoutineRow

_MOST_ROUTINES, _NAME = 40, 60


class OwnRoutines:
    """Routines that players saved: listed, kept, dropped."""

    def __init__(self, record: Record) -> None:
        self._record = record

    def all(self, player_id: str) -> tuple[OwnRoutine, ...]:
        """Return a player's routines by name."""
        query = select(OwnRoutineRow).where(OwnRoutineRow.player_id == player_id).order_by(OwnRoutineRow.name)
        with self._record.database.reading() as db:
            return readable(db.scalars(query), _routine)

    def keep(self, player_id: str, name: str, blocks: tuple[OwnBlock, ...]) -> OwnRoutine:
        """Keep a day; one of the same name is replaced."""
        cleaned = " ".join(name.split())
        if not 1 <= len(cleaned) <= _NAME:
            raise InputError(tell("The name has {count} letters: write 1 to {name}.", count=len(cleaned), name=_NAME))
        minutes = sum(block.minutes for block in blocks)
        if not blocks or not 1 <= minutes <= MOST_MINUTES or any(block.minutes <= 0 for block in blocks):
            raise InputError(
                tell(
                    "The blocks make {minutes:g} minutes: a plan has up to {most_minutes}, and each exercise needs some.",
                    minutes=minutes,
                    most_minutes=MOST_MINUTES,
                )
            )
        for block in blocks:
            exercise_type_named(block.exercise_type)
        with self._record.database.writing() as db:
            db.execute(delete(OwnRoutineRow).where(OwnRoutineRow.player_id == player_id, OwnRoutineRow.name == cleaned))
            count = len(db.scalars(select(OwnRoutineRow.id).where(OwnRoutineRow.player_id == player_id)).all())
            if count >= _MOST_ROUTINES:
                raise ConflictError(
                    tell("{most_routines} routines are saved already. Delete one first.", most_routines=_MOST_ROUTINES)
                )
            row = OwnRoutineRow(
                id=uuid4().hex,
                player_id=player_id,
                name=cleaned,
                blocks=to_json(blocks, tuple[OwnBlock, ...]),
                made_at=now(),
            )
            db.add(row)
            db.flush()
            return OwnRoutine(row.id, cleaned, blocks)

    def drop(self, player_id: str, routine_id: str) -> None:
        """Delete one; MissingError where the player has none by that id."""
        with self._record.database.writing() as db:
            db.delete(require_owned(db, OwnRoutineRow, routine_id, player_id, "routine"))


def _routine(row: OwnRoutineRow) -> OwnRoutine:
    return OwnRoutine(row.id, row.name, from_json(tuple[OwnBlock, ...], row.blocks))
