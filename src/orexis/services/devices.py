"""Devices as they were found: one row per microphone with its settings, renewed by each check."""

from dataclasses import asdict
from datetime import datetime
from typing import Any

from sqlalchemy import select

from orexis.core.device import DeviceCheck, check_device
from orexis.core.sound import Sound
from orexis.services.clock import now
from orexis.services.practice import Practice
from orexis.services.rows import device_key, device_of
from orexis.services.values import Device
from orexis.store.models import DeviceRow


def keep_check(practice: Practice, facts: dict[str, Any], sound: Sound, clicks_s: tuple[float, ...]) -> Device:
    """Read a check and keep what it says about this device with these settings."""
    found: DeviceCheck = check_device(sound, clicks_s)
    made_at: datetime = now()
    with practice.database.transaction() as db:
        row = db.get(DeviceRow, device_key(facts)) or DeviceRow(key=device_key(facts))
        row.label, row.facts = str(facts.get("label", ""))[:200], dict(facts)
        row.checked_at, row.delay_s, row.found = made_at, found.delay_s, asdict(found)
        db.add(row)
        return device_of(row)


def devices(practice: Practice) -> tuple[Device, ...]:
    """All devices that were checked, the latest first."""
    with practice.database.transaction() as db:
        return tuple(device_of(row) for row in db.scalars(select(DeviceRow).order_by(DeviceRow.checked_at.desc())))
