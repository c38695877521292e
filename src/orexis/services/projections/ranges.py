"""The notes that a player has, and how far they reached at the end of each day: read from the tries by the coach's rules."""

from typing import Any

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from orexis.core.coach import Attempt, RangeNote, Reach, add, range_notes, ranges_over, reach_of
from orexis.services.documents import from_json, to_json
from orexis.services.projections.kept_take import ORDER, KeptTake, Owner, is_later, takes_that_count
from orexis.store.models import RangeAttemptRow, RangeDayRow, RangeNoteRow, TakeRow


class Ranges:
    """A note a note, and a row for each day on which anything was tried."""

    name, version = "ranges", 10
    tables: tuple[Any, ...] = (RangeNoteRow, RangeDayRow)

    def apply(self, db: Session, take: KeptTake) -> None:
        """Add the take's tries; one that is older than others is put in its place among them."""
        tries = take.judgement.attempts if take.row.fact is not None else ()
        if not tries:
            return
        if _has_later_tries(db, take):
            self._rebuild(db, take.owner)
            return
        known = range_notes_of(db, take.owner)
        before = {midi: to_json(range_note) for midi, range_note in known.items()}
        for tried in tries:
            add(known, tried)
        for midi, range_note in known.items():
            if before.get(midi) != to_json(range_note):
                _put_range_note(db, take.owner, range_note)
        _put_day(db, take.owner, take.row.day, reach_of(known))
        db.flush()

    def retract(self, db: Session, take: KeptTake) -> None:
        """A take thrown away proves nothing."""
        if take.judgement.attempts and take.row.fact is not None:
            self._rebuild(db, take.owner)

    def begin(self, db: Session, owner: Owner) -> None:
        """Delete what is summarised for an owner, before it is made again."""
        for table in (RangeNoteRow, RangeDayRow):
            db.execute(delete(table).filter_by(**owner.key))

    def collect(self, db: Session, take: KeptTake) -> None:
        """Tries are read when all are there."""

    def finish(self, db: Session, owner: Owner) -> None:
        """Make notes and days from the tries of the owner."""
        self._rebuild(db, owner)

    def _rebuild(self, db: Session, owner: Owner) -> None:
        self.begin(db, owner)
        tries = tries_of(db, owner)
        days = sorted({item.day for item in tries})
        for range_note in range_notes(tries).values():
            _put_range_note(db, owner, range_note)
        for day, reach in zip(days, ranges_over(tries, days), strict=True):
            _put_day(db, owner, day, reach)
        db.flush()


def tries_of(db: Session, owner: Owner) -> list[Attempt]:
    """All tries that count, in the order in which they were made."""
    row = RangeAttemptRow
    query = (
        select(row.midi, row.day, row.clean, row.sounded_s, row.connected, row.take_id, row.match)
        .join(TakeRow, TakeRow.id == row.take_id)
        .where(row.player_id == owner.player_id, row.instrument == owner.instrument)
        .order_by(*ORDER, row.id)
    )
    return [Attempt(*values) for values in db.execute(query)]


def range_notes_of(db: Session, owner: Owner) -> dict[int, RangeNote]:
    """The notes as they were kept, by keyboard number."""
    query = select(RangeNoteRow.midi, RangeNoteRow.range_note).filter_by(**owner.key)
    return {midi: from_json(RangeNote, text) for midi, text in db.execute(query)}


def _has_later_tries(db: Session, take: KeptTake) -> bool:
    query = (
        select(RangeAttemptRow.id)
        .join(TakeRow, TakeRow.id == RangeAttemptRow.take_id)
        .where(*takes_that_count(take.owner), is_later(take.row))
        .limit(1)
    )
    return db.scalar(query) is not None


def _put_range_note(db: Session, owner: Owner, range_note: RangeNote) -> None:
    db.merge(RangeNoteRow(**owner.key, midi=range_note.midi, range_note=to_json(range_note)))


def _put_day(db: Session, owner: Owner, day: int, reach: Reach) -> None:
    own, alone, joined = reach.own, reach.alone, reach.joined
    db.merge(
        RangeDayRow(
            **owner.key, day=day, low=own.low, high=own.high, alone_low=alone.low, alone_high=alone.high,
            joined_low=joined.low, joined_high=joined.high,
        )
    )  # fmt: skip
