"""Takes thrown away: kept for thirty days, then gone with their sound.

What a take proved was taken out when it was thrown away; nothing that is read changes when it is gone. In a record of an earlier
release, which promised no end, the thirty days begin when this one first opens it.
"""

from datetime import timedelta

from sqlalchemy import delete, select, update

from orexis.services.clock import local_day, now
from orexis.services.queries.thrown_away import KEPT_DAYS
from orexis.services.record import Record, require_row
from orexis.store.models import PlayerRow, SessionRow, TakeRow, UpkeepRow

_TASK = "trash"


def purge(record: Record, *, believed: bool = True) -> int:
    """Forget what was thrown away too long ago; how many takes that were. `believed`: whether the calendar is."""
    if local_day(now()) - _since(record) < KEPT_DAYS or not believed:
        return 0
    before = now() - timedelta(days=KEPT_DAYS)
    old = select(TakeRow.id).where(TakeRow.discarded_at.is_not(None), TakeRow.discarded_at < before)
    with record.database.reading() as db:
        keys = tuple(db.scalars(old))
    forget_takes(record, keys)
    return len(keys)


def forget_takes(record: Record, keys: tuple[str, ...]) -> None:
    """Takes that count no more, for good. The rows first, so that no row lacks its sound."""
    if keys:
        with record.database.writing() as db:
            for key in keys:
                db.execute(delete(TakeRow).where(TakeRow.id == key))
    for key in keys:
        record.sound_path(key).unlink(missing_ok=True)


def sound_gone(record: Record, keys: tuple[str, ...]) -> None:
    """The sound of takes goes, as somebody wished; that it is no loss is written first."""
    moment = now()
    if keys:
        with record.database.writing() as db:
            for key in keys:
                db.execute(update(TakeRow).where(TakeRow.id == key).values(sound_gone_at=moment))
    for key in keys:
        record.sound_path(key).unlink(missing_ok=True)


def forget_player(record: Record, player_id: str) -> None:
    """A player with everything of theirs, sound included; MissingError when there is none by that id."""
    with record.database.writing() as db:
        require_row(db, PlayerRow, player_id, "player")
        keys = tuple(db.scalars(select(TakeRow.id).where(TakeRow.player_id == player_id)))
        db.execute(delete(PlayerRow).where(PlayerRow.id == player_id))
    for key in keys:
        record.sound_path(key).unlink(missing_ok=True)


def forget_session(record: Record, session_id: str) -> None:
    """A session whose takes were thrown away before, so that they prove nothing any more."""
    with record.database.reading() as db:
        keys = tuple(db.scalars(select(TakeRow.id).where(TakeRow.session_id == session_id)))
    forget_takes(record, keys)
    with record.database.writing() as db:
        db.execute(delete(SessionRow).where(SessionRow.id == session_id))


def _since(record: Record) -> int:
    """The day on which this record first had an end to what is thrown away."""
    with record.database.reading() as db:
        known = db.get(UpkeepRow, _TASK)
        if known is not None:
            return known.since
    with record.database.writing() as db:
        db.add(UpkeepRow(task=_TASK, since=local_day(now())))
    return local_day(now())
