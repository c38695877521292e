"""Devices as they were found: one row per microphone with its settings, renewed by each check."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import select

from orexis.core.device import DeviceCheck, check_device
from orexis.core.sound import Sound
from orexis.services.clock import now, utc
from orexis.services.documents import Facts, from_json, to_json
from orexis.services.judging.reference import device_key
from orexis.services.record import Record
from orexis.store.models import DeviceRow


@dataclass(frozen=True, slots=True)
class Device:
    """A microphone with its settings and what its last check found."""

    key: str
    label: str
    checked_at: datetime
    found: DeviceCheck


class Devices:
    """The microphones that were checked, and what the check found."""

    def __init__(self, record: Record) -> None:
        self._record = record

    def check(self, facts: dict[str, Any], sound: Sound, clicks_s: tuple[float, ...]) -> Device:
        """Read a check and keep what it says about this device with these settings."""
        result: DeviceCheck = check_device(sound, clicks_s)
        made = DeviceRow(
            key=device_key(facts),
            label=str(facts.get("label", ""))[:200],
            facts=to_json(dict(facts), Facts),
            checked_at=now(),
            delay_s=result.delay_s,
            found=to_json(result),
        )
        with self._record.database.writing() as db:
            return _device_of(db.merge(made))

    def all(self) -> tuple[Device, ...]:
        """Return all of them, the one that was checked last first."""
        with self._record.database.reading() as db:
            rows = db.scalars(select(DeviceRow).order_by(DeviceRow.checked_at.desc()))
            return tuple(_device_of(row) for row in rows)


def _device_of(row: DeviceRow) -> Device:
    return Device(row.key, row.label, utc(row.checked_at), from_json(DeviceCheck, row.found))
