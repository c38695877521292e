"""How long sound is kept: all of it, that of the last so many days, or beyond those only first held takes and takes with words.

The measures of a take stay whatever becomes of its sound. What a choice means is said before it is made; sound goes when the server starts.
"""

from dataclasses import dataclass
from datetime import timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orexis.core.coach import Outcome
from orexis.services.clock import now, utc
from orexis.services.documents import from_json
from orexis.services.journal import REHEARSED
from orexis.services.record import Record
from orexis.services.takes.trash import sound_gone
from orexis.services.values.players import Keeping, PlayerSettings
from orexis.store.models import PlayerRow, TakeRow

_YEAR_DAYS, _RECENT_DAYS = 365.25, 28


@dataclass(frozen=True, slots=True)
class Sizes:
    """What sound takes up, in bytes: now, what a year adds at the rate of the last four weeks, and what would go by this choice."""

    takes: int
    size: int
    a_year: int
    goes_takes: int
    goes_size: int


def sizes(record: Record, player_id: str, keeping: Keeping, days: int) -> Sizes:
    """What a choice would mean; nothing is changed."""
    row = TakeRow
    mine = (row.player_id == player_id, row.source != REHEARSED)
    since = now() - timedelta(days=_RECENT_DAYS)
    with record.database.reading() as db:
        sizes = _on_disk(record, list(db.scalars(select(row.id).where(*mine))))
        goes = _on_disk(record, _goes(db, player_id, keeping, days))
        all_s = db.scalar(select(func.sum(row.duration_s)).where(*mine)) or 0.0
        recent_s = db.scalar(select(func.sum(row.duration_s)).where(*mine, row.started_at >= since)) or 0.0
    size = sum(sizes.values())
    a_year = size / all_s * recent_s * _YEAR_DAYS / _RECENT_DAYS if all_s else 0.0
    return Sizes(len(sizes), size, round(a_year), len(goes), sum(goes.values()))


def let_go(record: Record) -> int:
    """Let go of what nobody chose to keep; how many sounds that were."""
    keys: list[str] = []
    with record.database.reading() as db:
        for player_id, text in db.execute(select(PlayerRow.id, PlayerRow.settings)).all():
            own = from_json(PlayerSettings, text)
            keys += _goes(db, player_id, own.keeping, own.keeping_days)
    there = list(_on_disk(record, keys))
    sound_gone(record, tuple(there))
    return len(there)


def _on_disk(record: Record, keys: list[str]) -> dict[str, int]:
    paths = {key: record.sound_path(key) for key in keys}
    return {key: path.stat().st_size for key, path in paths.items() if path.exists()}


def _goes(db: Session, player_id: str, keeping: Keeping, days: int) -> list[str]:
    """Takes whose sound is not kept by a choice. Thrown away ones have their own thirty days."""
    if keeping == Keeping.ALL:
        return []
    row, before = TakeRow, now() - timedelta(days=days)
    query = (
        select(row.id, row.exercise_id, row.outcome, row.remark, row.started_at)
        .where(row.player_id == player_id, row.source != REHEARSED, row.discarded_at.is_(None))
        .order_by(row.started_at)
    )
    own = from_json(PlayerSettings, db.scalar(select(PlayerRow.settings).where(PlayerRow.id == player_id)) or "{}")
    seen: set[str] = set()
    gone = []
    for key, exercise, outcome, remark, at in db.execute(query):
        first_held = outcome == Outcome.CLEAN and exercise not in seen
        if first_held:
            seen.add(exercise)
        named = bool(remark) or first_held
        stays = key == own.reference_take or utc(at) >= before or (keeping == Keeping.MILESTONES and named)
        if not stays:
            gone.append(key)
    return gone
