"""A session as a page, what was thrown away, two spans, then and now."""

from collections.abc import Iterator
from datetime import UTC, date, datetime, timedelta
from pathlib import Path

import pytest

from orexis.core.exercises import Exercise
from orexis.core.measures import Measures
from orexis.core.player import Flaws, parse_flaws
from orexis.core.practice import Event, EventName
from orexis.core.rehearsal.measured import measured
from orexis.errors import InputError, MissingError
from orexis.services import clock
from orexis.services.application import Application
from orexis.services.queries.log import LogFilter
from orexis.services.queries.spans import Span
from orexis.services.simulated import flaws_of, practised_days
from orexis.store.models import TakeRow, UpkeepRow

START = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)


@pytest.fixture
def house(tmp_path: Path) -> Iterator[Application]:
    made = Application(tmp_path)
    yield made
    made.close()


def practised(house: Application, days: int = 12) -> str:
    """Long tones that sag by 12 cents at first and by 2 in the end."""
    person = house.players.add(name="Wenna Tull", standard="developing", instrument="tuba-eb", part="bass", a4_hz=440.0)
    for day in range(days):
        cents = 12.0 if day < days // 2 else 2.0

        def plays(exercise: Exercise, cents: float = cents) -> Measures:
            return measured(
                exercise, parse_flaws([f"sag=-{cents + i % 2}c@{n.id}" for i, n in enumerate(exercise.notes)])
            )

        moment = START + timedelta(days=day)
        session = house.sessions.open(person.id, "long-low-tones", {"steps": "3"}, at=moment)
        for take in range(3):
            house.takes.measured(session.id, plays, at=moment + timedelta(minutes=take))
            house.takes.happen(session.id, Event(EventName.NEXT))
        house.takes.happen(session.id, Event(EventName.STOP))
    return person.id


def test_a_session_has_its_blocks_takes_and_words(house: Application) -> None:
    player = practised(house, 2)
    entry = house.log.page(player).sessions[0]
    page = house.log.session(entry.id)
    assert [len(block.takes) for block in page.blocks] == [3]
    assert page.blocks[0].load == pytest.approx(page.summary.load, abs=0.2)
    assert page.summary.load > 0
    assert (page.summary.blocks, page.summary.reached) == (1, 1)
    house.sessions.remark(entry.id, "the low F at last")
    assert house.log.session(entry.id).remark == "the low F at last"
    assert house.log.page(player, wanted=LogFilter(word="low F at")).total == 1
    with pytest.raises(MissingError):
        house.log.session("0" * 32)


def test_thrown_away_can_be_fetched_back_until_it_is_gone(house: Application, monkeypatch: pytest.MonkeyPatch) -> None:
    player = practised(house, 1)
    first, second, _ = house.log.takes(house.log.page(player).sessions[0].id)
    for take in (first, second):
        house.takes.discard(take.id, discarded=True)
        sound = house.record.sound_path(take.id)
        sound.parent.mkdir(parents=True, exist_ok=True)
        sound.write_bytes(b"fLaC")
    assert {one.id for one in house.log.thrown_away(player)} == {first.id, second.id}
    assert {one.days_left for one in house.log.thrown_away(player)} <= {29, 30}
    house.takes.discard(second.id, discarded=False)
    house.close()
    for days in (31, 32):  # the second start says that the first was no mistake of the clock
        monkeypatch.setattr(clock, "AHEAD", timedelta(days=days))
        later = Application(house.record.folder)
        if days == 31:
            assert len(later.log.thrown_away(player)) <= 1
            assert later.record.sound_path(first.id).exists()
            later.close()
    with later.record.database.reading() as db:
        assert db.get(TakeRow, first.id) is None
        assert db.get(TakeRow, second.id) is not None
    assert not later.record.sound_path(first.id).exists()
    assert later.record.sound_path(second.id).exists()
    assert later.log.thrown_away(player) == ()
    later.close()


def test_a_record_of_an_earlier_release_has_its_thirty_days_first(
    house: Application, monkeypatch: pytest.MonkeyPatch
) -> None:
    player = practised(house, 1)
    take = house.log.takes(house.log.page(player).sessions[0].id)[0]
    house.takes.discard(take.id, discarded=True)
    with house.record.database.writing() as db:
        row = db.get(UpkeepRow, "trash")
        assert row is not None
        db.delete(row)
    house.close()
    monkeypatch.setattr(clock, "AHEAD", timedelta(days=90))
    later = Application(house.record.folder)
    assert [one.id for one in later.log.thrown_away(player)] == [take.id]
    later.close()


def test_two_spans_side_by_side_claim_what_changed(house: Application) -> None:
    player = practised(house)
    day = START.date()
    first, last = Span(day, day + timedelta(days=5)), Span(day + timedelta(days=6), day + timedelta(days=11))
    rows = {(row.measure.id, row.scope): row for row in house.spans.compare(player, first, last)}
    sag = rows["pitch_drift", ""]
    assert (sag.first, sag.last) == (pytest.approx(12.0, abs=1.0), pytest.approx(2.0, abs=1.0))
    assert (sag.first_days, sag.last_days) == (6, 6)
    assert "better" in (sag.says or "")
    assert ("pitch_drift", "playing Long tones") in rows
    assert "better" not in (rows["pitch_wobble", ""].says or "")
    with pytest.raises(InputError, match="after the first"):
        house.spans.compare(player, last, first)
    with pytest.raises(InputError, match="not a period"):
        house.spans.compare(player, Span(date(2026, 3, 9), date(2026, 3, 2)), last)


def test_then_and_now_needs_sound_and_days_between(house: Application, monkeypatch: pytest.MonkeyPatch) -> None:
    player = practised(house)
    monkeypatch.setattr(clock, "AHEAD", START + timedelta(days=20) - datetime.now(UTC))
    assert house.spans.then_and_now(player) == ()
    with house.record.database.writing() as db:
        takes = db.query(TakeRow).order_by(TakeRow.started_at).all()
        for row in takes:
            row.source = "file"
            sound = house.record.sound_path(row.id)
            sound.parent.mkdir(parents=True, exist_ok=True)
            sound.write_bytes(b"fLaC")
    pairs = house.spans.then_and_now(player)
    assert {pair.days for pair in pairs} == {11}
    assert all(pair.then_at < pair.now_at for pair in pairs)
    assert len({pair.written for pair in pairs}) == len(pairs) == 3


def test_everybody_at_a_glance(house: Application, monkeypatch: pytest.MonkeyPatch) -> None:
    player = practised(house, 4)
    idle = house.players.add(
        name="Piran Voss", standard="developing", instrument="trumpet-bb", part="treble", a4_hz=440.0
    )
    monkeypatch.setattr(clock, "AHEAD", START + timedelta(days=5) - datetime.now(UTC))
    seen = {one.player_id: one for one in house.at_a_glance()}
    assert (seen[player].days_ago, seen[player].days_this_week) == (2, 4)
    assert seen[player].minutes_this_week > 1.0
    assert (seen[idle.id].last_day, seen[idle.id].stuck) == (None, None)

    def lost(exercise: Exercise) -> Measures:
        return measured(exercise, parse_flaws([f"sag=-60c@{note.id}" for note in exercise.notes]))

    session = house.sessions.open(idle.id, "long-low-tones", {}, at=START + timedelta(days=5))
    for take in range(8):
        house.takes.measured(session.id, lost, at=START + timedelta(days=5, minutes=take))
        house.takes.happen(session.id, Event(EventName.AGAIN))
    stuck = {one.player_id: one for one in house.at_a_glance()}[idle.id].stuck
    assert stuck is not None
    assert "8 of 8 takes missed" in stuck


def test_the_demo_player_gets_better_by_days_of_practice(house: Application, monkeypatch: pytest.MonkeyPatch) -> None:
    player = practised(house, 6)

    def days_after(days: int) -> tuple[int, int]:
        monkeypatch.setattr(clock, "AHEAD", START + timedelta(days=days) - datetime.now(UTC))
        with house.record.database.reading() as db:
            return practised_days(db, player)

    assert days_after(5) == (6, 0)
    assert days_after(8) == (6, 0), "two days without lose nothing"
    assert days_after(18) == (6, 10)


def test_the_same_take_is_played_better_after_weeks_of_practice(house: Application) -> None:
    person = house.players.add(name="Wenna Tull", standard="developing", instrument="tuba-eb")
    session = house.sessions.open(person.id, "long-low-tones", {"steps": "3"}, at=START)
    first, later = (flaws_of(session, (days, 0), "person", 3) for days in (0, 50))

    def worst(flaws: Flaws, name: str) -> float:
        return max(abs(flaw.size) for flaw in flaws.flaws if flaw.name == name)

    assert worst(later, "sag") < 0.6 * worst(first, "sag")
    assert worst(later, "entry") < 0.6 * worst(first, "entry")
