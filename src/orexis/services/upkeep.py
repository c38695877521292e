"""Whether the calendar may be believed where something is deleted for good.

A clock that was ahead once must not throw anything away: what is deleted by its date waits until the record was opened on two
different days that agree within reason.
"""

from orexis.services.clock import local_day, now
from orexis.services.record import Record
from orexis.store.models import UpkeepRow

MOST_JUMP_DAYS = 14  # a longer silence may be a holiday, or a clock that jumped: the next day of use tells
_SEEN, _BEFORE = "seen", "seen before"


def calendar_agrees(record: Record) -> bool:
    """Note today's start; whether an earlier one, on another day, agrees with it."""
    today = local_day(now())
    with record.database.writing() as db:
        seen, before = db.get(UpkeepRow, _SEEN), db.get(UpkeepRow, _BEFORE)
        if seen is not None and today == seen.since:
            return before is not None and 0 < today - before.since <= MOST_JUMP_DAYS
        last = seen.since if seen is not None else None
        db.merge(UpkeepRow(task=_SEEN, since=today))
        if last is None or today < last:  # the first start, or one after a clock was put back
            if before is not None:
                db.delete(before)
            return False
        db.merge(UpkeepRow(task=_BEFORE, since=last))
        return today - last <= MOST_JUMP_DAYS
