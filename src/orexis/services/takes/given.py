"""What a take is given with its sound: what is in the bell, the way of its click, and what was played before it."""

from dataclasses import replace
from datetime import datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.device import DeviceCheck
from orexis.services.clock import utc
from orexis.services.documents import from_json
from orexis.services.journal import TakeHead
from orexis.services.judging.reference import MUTE, device_key
from orexis.services.record import Record
from orexis.services.values.players import Mute, PlayerSettings
from orexis.store.models import DeviceRow, PlayerRow, SessionRow, TakeRow


def with_mute(record: Record, head: TakeHead) -> TakeHead:
    """The head with what the player says is in the bell."""
    query = (
        select(PlayerRow.settings)
        .join(SessionRow, SessionRow.player_id == PlayerRow.id)
        .where(SessionRow.id == head.session_id)
    )
    with record.database.reading() as db:
        text = db.scalar(query)
    mute = from_json(PlayerSettings, text).mute if text else Mute.NONE
    return head if mute == Mute.NONE else replace(head, device=head.device | {MUTE: mute.value})


def click_of(db: Session, head: TakeHead) -> tuple[float | None, float | None]:
    """The way of a click to the microphone and its peak there, as this device's last check found them."""
    if head.source == "simulated":
        return 0.0, None  # its sound enters at the very sample, and no click with it
    row = db.get(DeviceRow, device_key(head.device))
    if row is None or row.delay_s is None:
        return None, None
    return row.delay_s, from_json(DeviceCheck, row.found).peak_db


def takes_before(db: Session, session_id: str) -> tuple[int, datetime | None, float]:
    """The number of a session's last take, when it was over, and the seconds of tone so far; 0, None, 0 before the first."""
    row = TakeRow
    query = (
        select(row.number, row.started_at, row.duration_s, row.played_before_s, row.playing_s)
        .where(row.session_id == session_id)
        .order_by(row.number.desc())
        .limit(1)
    )
    last = db.execute(query).first()
    if last is None:
        return 0, None, 0.0
    end = utc(last.started_at) + timedelta(seconds=last.duration_s)
    return last.number, end, round(last.played_before_s + last.playing_s, 3)
