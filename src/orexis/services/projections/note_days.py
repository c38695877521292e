"""The notes of each day, for telling the instrument from the player."""

from typing import Any

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from orexis.core.instruments import INSTRUMENTS
from orexis.core.tuning import joined, notes_heard
from orexis.services.clock import utc
from orexis.services.documents import Facts, Notes, from_json, to_json
from orexis.services.judging.reference import MUTE
from orexis.services.projections.kept_take import KeptTake, Owner, is_later, kept_takes, takes_that_count
from orexis.store.models import NoteDayRow, TakeRow


class NoteDays:
    """One row for each day with the sums of its notes."""

    name, version = "notes by day", 10
    tables: tuple[Any, ...] = (NoteDayRow,)

    def apply(self, db: Session, take: KeptTake) -> None:
        """Count the take's notes in its day; one that is older than others of the day is put in its place among them."""
        later = select(TakeRow.id).where(*takes_that_count(take.owner), TakeRow.day == take.row.day, is_later(take.row))
        if db.scalar(later.limit(1)) is not None:
            self._refresh(db, take.owner, take.row.day)
        else:
            self.collect(db, take)

    def retract(self, db: Session, take: KeptTake) -> None:
        """Make its day from the takes that are left."""
        self._refresh(db, take.owner, take.row.day)

    def begin(self, db: Session, owner: Owner) -> None:
        """Delete what is summarised for an owner, before it is made again."""
        db.execute(delete(NoteDayRow).filter_by(**owner.key))

    def collect(self, db: Session, take: KeptTake) -> None:
        """One take more, later than those that are counted."""
        notes = _notes_in(take)
        if not notes:
            return
        kept = db.get(NoteDayRow, (*take.owner.key.values(), take.row.day))
        known = {one.key: one for one in from_json(Notes, kept.stats_json)} if kept is not None else {}
        for note in notes:
            known[note.key] = joined(known.get(note.key), note)
        stats_json = to_json(tuple(known[at] for at in sorted(known)), Notes)
        db.merge(NoteDayRow(**take.owner.key, day=take.row.day, stats_json=stats_json))
        db.flush()

    def finish(self, db: Session, owner: Owner) -> None:
        """Nothing is left to do after the last take."""

    def _refresh(self, db: Session, owner: Owner, day: int) -> None:
        db.execute(delete(NoteDayRow).filter_by(**owner.key, day=day))
        for take in kept_takes(db, owner, TakeRow.day == day):
            self.collect(db, take)


def _notes_in(take: KeptTake) -> Notes:
    row = take.row
    if MUTE in from_json(Facts, row.device):
        return ()  # a mute moves every note: it says nothing of the instrument as it is
    began = (utc(row.started_at) - utc(take.session_started_at)).total_seconds() / 60.0
    return notes_heard(
        take.exercise,
        INSTRUMENTS[row.instrument],
        take.measures,
        day=row.day,
        minutes=max(0.0, began),
        playing_min=row.played_before_s / 60.0,
    )
