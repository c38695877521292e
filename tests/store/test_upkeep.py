"""A clock that was ahead once deletes nothing for good."""

from datetime import timedelta
from pathlib import Path

import pytest

from orexis.services import clock
from orexis.services.application import Application
from orexis.services.record import Record
from orexis.services.upkeep import calendar_agrees

from .test_moving import filled


def opened(folder: Path, monkeypatch: pytest.MonkeyPatch, days: int) -> int:
    """How many takes with sound are left after a start so many days on."""
    monkeypatch.setattr(clock, "AHEAD", timedelta(days=days))
    house = Application(folder)
    left = len(list((folder / "takes").glob("*/*.flac")))
    house.close()
    return left


def test_a_clock_that_was_ahead_once_deletes_nothing(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    house = filled(tmp_path, "Lowen Hext")
    person = house.players.all()[0]
    house.players.change_settings(person.id, {"keeping": "days", "keeping_days": 30})
    entry = house.log.page(person.id).sessions[0]
    house.takes.discard(entry.summary.take_ids[0], discarded=True)
    house.close()
    assert opened(tmp_path, monkeypatch, 1) == 2
    assert opened(tmp_path, monkeypatch, 4000) == 2  # the clock is wrong for a start, and for another on the same day
    assert opened(tmp_path, monkeypatch, 4000) == 2
    assert opened(tmp_path, monkeypatch, 2) == 2  # it is put right
    assert opened(tmp_path, monkeypatch, 3) <= 2


def test_two_days_that_agree_are_believed(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    told = []
    for days in (0, 0, 1, 1, 15, 45, 46, 500, 501, 20, 21):
        monkeypatch.setattr(clock, "AHEAD", timedelta(days=days))
        record = Record(tmp_path)
        told.append(calendar_agrees(record))
        record.close()
    assert told == [False, False, True, True, True, False, True, False, True, False, True]
