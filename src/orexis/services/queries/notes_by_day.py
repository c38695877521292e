"""Notes by day, read from what the projections keep."""

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.tuning import NoteDay
from orexis.services.documents import Notes, from_json
from orexis.store.models import NoteDayRow


def notes_of(db: Session, player_id: str, instrument: str, *, days: int) -> list[NoteDay]:
    """The notes of the last so many days on which any were heard."""
    row = NoteDayRow
    query = (
        select(row.stats_json)
        .where(row.player_id == player_id, row.instrument == instrument)
        .order_by(row.day.desc())
        .limit(days)
    )
    return [note for text in reversed(db.scalars(query).all()) for note in from_json(Notes, text)]
