"""Takes of an earlier ear are measured again from their sound; what was said of them stays said."""

import time

import pytest
from sqlalchemy import select, text

from orexis.services import remeasuring
from orexis.services.application import Application
from orexis.services.archive import check
from orexis.services.clock import local_day
from orexis.services.planning.remember import sets_of
from orexis.services.takes import life
from orexis.store.models import AnalysisRow, TakeRow
from tests.store.test_projections import assert_as_rebuilt
from tests.store.test_record import head, opened


@pytest.fixture
def older(house: Application) -> tuple[Application, list[str]]:
    """Three takes, as an earlier version measured them: 40 cents lower, and the first one called held."""
    session = opened(house, "long-low-tones")
    keys = [house.simulated.take(session, manner, seed=3).id for manner in ("sagging", "clean", "clean")]
    house.takes.discard(keys[2], discarded=True)
    with house.record.database.writing() as db:
        db.execute(text("UPDATE analysis SET version = 3"))
        db.execute(
            text("""UPDATE analysis SET measures = json_set(measures, '$.notes[0].judged_error_cents', -40.0)""")
        )
        db.execute(text("UPDATE take SET outcome = 'clean', reason = NULL WHERE id = :key"), {"key": keys[0]})
        db.execute(
            text("""UPDATE analysis SET outcome = 'clean', verdict = '{"outcome":"clean"}' WHERE take_id = :key"""),
            {"key": keys[0]},
        )
    check(house.record, mend=True)
    return house, keys


def versions(house: Application, key: str) -> list[int]:
    with house.record.database.reading() as db:
        query = select(AnalysisRow.version).where(AnalysisRow.take_id == key).order_by(AnalysisRow.version)
        return list(db.scalars(query))


def settled(house: Application) -> None:
    end = time.monotonic() + 60
    while house.remeasuring.state.running:
        assert time.monotonic() < end
        time.sleep(0.05)


@pytest.fixture
def quiet(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(remeasuring, "_QUIET_S", -1.0)
    monkeypatch.setattr(remeasuring, "_WAITS_S", 0.02)


@pytest.mark.usefixtures("quiet")
def test_all_are_measured_again_and_what_was_said_stays_said(older: tuple[Application, list[str]]) -> None:
    house, keys = older
    player = house.players.all()[0]
    assert house.remeasuring.state.old == 3
    assert house.takes.get(keys[0]).is_old
    with house.record.database.reading() as db:
        assert db.get_one(TakeRow, keys[0]).pitch_error_cents == -40.0
    clean = house.progress.read(player.id, 6).playing[0].clean
    assert clean >= 1
    house.remeasuring.start()
    settled(house)
    assert house.remeasuring.state == remeasuring.Remeasured(0, 3, False)
    assert [versions(house, key) for key in keys] == [[3, remeasuring.ANALYSIS_VERSION]] * 3
    again = house.takes.get(keys[0])
    assert again.verdict.outcome == "clean"  # as it was told then
    assert not again.is_old
    assert abs(again.measures.notes[0].judged_error_cents or 99.0) < 30.0
    assert house.progress.read(player.id, 6).playing[0].clean == clean
    assert house.takes.get(keys[2]).discarded
    with house.record.database.reading() as db:  # lists and summaries go by the new analysis
        assert abs(db.get_one(TakeRow, keys[0]).pitch_error_cents or 99.0) < 30.0
    assert_as_rebuilt(house, player, ["measured again"])
    assert check(house.record, mend=False) == ()


@pytest.mark.usefixtures("quiet")
def test_a_pedal_set_measured_again_is_one_set(house: Application) -> None:
    session = opened(house, "pedal-sets")
    key = house.simulated.take(session, "clean", seed=3).id
    with house.record.database.writing() as db:
        db.execute(text("UPDATE analysis SET version = 3"))
    player = house.players.all()[0]
    house.remeasuring.measure_again(key)
    assert len(versions(house, key)) == 2
    with house.record.database.reading() as db:
        assert len(sets_of(db, player, local_day(life.now()))) == 1


def test_playing_goes_first_and_it_can_be_stopped(
    older: tuple[Application, list[str]], monkeypatch: pytest.MonkeyPatch
) -> None:
    house, keys = older
    monkeypatch.setattr(remeasuring, "_QUIET_S", -1.0)
    monkeypatch.setattr(remeasuring, "_WAITS_S", 0.02)
    session = opened(house, "long-low-tones")
    house.takes.begin(head(session))
    assert house.remeasuring.start().running
    time.sleep(0.3)
    assert house.remeasuring.state.old == 3  # a take is being heard
    assert not house.remeasuring.stop().running
    house.takes.happen(session, life.Event(life.EventName.DROP))
    monkeypatch.setattr(remeasuring, "_QUIET_S", 60.0)
    house.remeasuring.start()
    time.sleep(0.2)
    assert house.remeasuring.state.old == 3  # nor soon after
    house.remeasuring.stop()
    monkeypatch.setattr(remeasuring, "_QUIET_S", -1.0)
    house.record.sound_path(keys[1]).write_bytes(b"no sound")
    house.remeasuring.start()
    settled(house)
    assert house.remeasuring.state.old == 1  # what cannot be read is left, and keeps nothing else from being done
