"""Words at moments of a take: by whoever plays, or by whoever heard it. Said once, they are taken away, not changed."""

from dataclasses import dataclass
from datetime import datetime
from uuid import uuid4

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orexis.core.messages import tell
from orexis.errors import InputError
from orexis.services.clock import now, utc
from orexis.services.record import Record, require_owned, require_row
from orexis.services.values.takes import MOST_REMARKS
from orexis.store.models import MarkRow, TakeRow

_LONGEST, _LONGEST_NAME = 1000, 80


@dataclass(frozen=True, slots=True)
class Mark:
    """`at_s`: seconds from the beginning of its sound, None where it is about all of it. `nearer`: closer to what is wanted."""

    id: str
    take_id: str
    at_s: float | None
    nearer: bool
    words: str
    by: str
    made_at: datetime


def marks_of(db: Session, take_ids: tuple[str, ...]) -> tuple[Mark, ...]:
    """Of these takes, in the order of the sound; those about all of a take first."""
    row = MarkRow
    query = select(row).where(row.take_id.in_(take_ids)).order_by(row.take_id, row.at_s, row.made_at, row.id)
    return tuple(_mark(one) for one in db.scalars(query))


class Remarks:
    """Remarks on takes: read, added, deleted."""

    def __init__(self, record: Record) -> None:
        self._record = record

    def of(self, take_id: str) -> tuple[Mark, ...]:
        """MissingError when there is no such take."""
        with self._record.database.reading() as db:
            require_row(db, TakeRow, take_id, "take")
            return marks_of(db, (take_id,))

    def add(self, take_id: str, *, at_s: float | None, nearer: bool, words: str, by: str) -> tuple[Mark, ...]:
        """One more; InputError for a moment outside the take, and for nothing said."""
        said, name = words.strip(), " ".join(by.split())
        with self._record.database.writing() as db:
            take = require_row(db, TakeRow, take_id, "take")
            check_mark(at_s, nearer=nearer, words=said, by=name, duration_s=take.duration_s)
            count = db.scalar(select(func.count()).select_from(MarkRow).where(MarkRow.take_id == take_id)) or 0
            if count >= MOST_REMARKS:
                raise InputError(
                    tell("This take has {most_remarks} remarks already. Delete one first.", most_remarks=MOST_REMARKS)
                )
            db.add(
                MarkRow(id=uuid4().hex, take_id=take_id, at_s=at_s, nearer=nearer, words=said, by=name, made_at=now())
            )
            db.flush()
            return marks_of(db, (take_id,))

    def take_away(self, take_id: str, mark_id: str) -> tuple[Mark, ...]:
        """One less; MissingError where the take has none by that id."""
        with self._record.database.writing() as db:
            db.delete(require_owned(db, MarkRow, mark_id, take_id, "remark", column="take_id"))
            db.flush()
            return marks_of(db, (take_id,))


def check_mark(at_s: float | None, *, nearer: bool, words: str, by: str, duration_s: float) -> None:
    """InputError for what cannot be a remark on a take of this length."""
    if not words and not nearer:
        raise InputError("The remark is empty. Write what you hear.")
    if len(words) > _LONGEST or not 1 <= len(by) <= _LONGEST_NAME:
        raise InputError(
            tell(
                "The remark has {count} letters, its writer's name {count2}: up to {longest} and 80.",
                count=len(words),
                count2=len(by),
                longest=_LONGEST,
            )
        )
    if at_s is not None and not 0.0 <= at_s <= duration_s:
        raise InputError(
            tell(
                "The take has no moment at {at_s:.1f} s: it is {duration_s:.1f} s long.",
                at_s=at_s,
                duration_s=duration_s,
            )
        )


def _mark(row: MarkRow) -> Mark:
    return Mark(row.id, row.take_id, row.at_s, row.nearer, row.words, row.by, utc(row.made_at))
