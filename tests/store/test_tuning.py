"""Notes by day in the record: added by takes, taken out with them, made anew alike; the instrument's part taken over and back."""

from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from sqlalchemy import select

from orexis.core.exercises import Exercise
from orexis.core.measures import Measures
from orexis.core.practice import Event, EventName
from orexis.core.rehearsal.measured import flawless
from orexis.errors import InputError
from orexis.services.application import Application
from orexis.services.documents import from_json
from orexis.services.judging.reference import device_key, sound_key
from orexis.services.projections.rebuild import bring_up_to_date
from orexis.services.queries.notes_by_day import Notes
from orexis.store.models import NoteDayRow, ProjectionRow


@pytest.fixture
def house(tmp_path: Path):
    made = Application(tmp_path)
    yield made
    made.close()


def practised(house: Application, days: int, takes: int, *, cents: float = 0.0) -> str:
    """A player with so many days of long tones; every note lies so many cents high."""
    person = house.players.add(name="Wenna Tull", standard="developing", instrument="tuba-eb", part="bass", a4_hz=440.0)
    start = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)

    def plays(exercise: Exercise) -> Measures:
        from dataclasses import replace

        clean = flawless(exercise)
        return replace(
            clean, notes=tuple(replace(n, pitch_error_cents=cents, judged_error_cents=cents) for n in clean.notes)
        )

    for day in range(days):
        moment = start + timedelta(days=day)
        session = house.sessions.open(person.id, "one-octave-scale", {}, at=moment)
        for take in range(takes):
            house.takes.measured(session.id, plays, at=moment + timedelta(minutes=take))
            house.takes.happen(session.id, Event(EventName.AGAIN))
        house.takes.happen(session.id, Event(EventName.STOP))
    return person.id


def test_notes_with_a_mute_say_nothing_of_the_instrument(house: Application) -> None:
    player = practised(house, 1, 2)
    without = rows(house)
    assert without
    house.players.change_settings(player, {"mute": "straight mute"})
    session = house.sessions.open(player, "one-octave-scale", {}, at=datetime(2026, 3, 4, 18, 0, tzinfo=UTC))
    take = house.takes.measured(session.id, flawless, at=datetime(2026, 3, 4, 18, 1, tzinfo=UTC))
    assert take.device["mute"] == "straight mute"
    assert rows(house) == without
    assert sound_key(take.device) != sound_key({"label": "rehearsed"})
    assert device_key(take.device) == device_key({"label": "rehearsed"})
    house.players.change_settings(player, {"mute": "none"})
    house.takes.happen(session.id, Event(EventName.AGAIN))
    open_again = house.takes.measured(session.id, flawless, at=datetime(2026, 3, 4, 18, 2, tzinfo=UTC))
    assert "mute" not in open_again.device
    assert rows(house) != without


def rows(house: Application) -> dict[tuple[int, int, str, int], str]:
    with house.record.database.reading() as db:
        found = db.scalars(select(NoteDayRow)).all()
        return {(row.day, *note.key): repr(note) for row in found for note in from_json(Notes, row.stats_json)}


def test_too_little_says_what_is_missing(house: Application) -> None:
    player = practised(house, 2, 2)
    told = house.tuning.read(player)
    assert told.missing is not None
    assert "8 days" in told.missing
    assert not told.notes
    with pytest.raises(InputError, match="8 days"):
        house.tuning.take_over(player)


def test_a_take_thrown_away_takes_its_notes_along_and_brings_them_back(house: Application) -> None:
    player = practised(house, 1, 3)
    before = rows(house)
    take = house.log.takes(house.log.page(player).sessions[0].id)[1]
    house.takes.discard(take.id, discarded=True)
    less = rows(house)
    assert less != before
    assert set(less) == set(before)
    house.takes.discard(take.id, discarded=False)
    assert rows(house) == before


def test_made_anew_they_are_the_same(house: Application) -> None:
    practised(house, 2, 3)
    before = rows(house)
    with house.record.database.writing() as db:
        db.query(ProjectionRow).delete()
    bring_up_to_date(house.record)
    assert rows(house) == before


def test_taken_over_and_given_back(house: Application) -> None:
    player = practised(house, 9, 5, cents=9.0)
    told = house.tuning.read(player)
    assert told.missing is None
    assert told.count >= 300
    assert told.days == 9
    assert not told.taken_over
    # The same for every note: that is where the player tunes, and no part of the instrument.
    assert all(abs(note.departs.value) < 2.5 for note in told.notes)
    person = house.tuning.take_over(player)
    assert person.own_instrument.setup == person.setup
    assert house.tuning.give_back(player).setup.learned == ()
