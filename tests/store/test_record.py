"""The record: what is kept, what is refused, what survives."""

import json
import sqlite3
from collections.abc import Callable
from contextlib import closing
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from alembic import command
from sqlalchemy import text

from orexis.core.measures import Measures
from orexis.core.player import parse_flaws, play
from orexis.core.practice import Event, Phase, SessionState
from orexis.core.rehearsal import measured
from orexis.errors import ConflictError, InputError, MissingError, NewerDatabaseError, StorageError
from orexis.services.application import Application
from orexis.services.clock import now
from orexis.services.documents import from_json, plain, to_json
from orexis.services.journal import Journal, TakeHead
from orexis.services.queries.log import LogFilter
from orexis.store.database import Database
from orexis.store.migrating import alembic_config, known
from orexis.store.models import InstrumentRow, SessionRow
from tests.conftest import Heard, exercise_of


def head(session_id: str, key: str = "b" * 32, rate: int = 44_100) -> TakeHead:
    return TakeHead(key, session_id, rate, 0, "microphone", {"label": "test"}, now().isoformat())


def opened(house: Application, exercise_type: str = "two-partial-slur") -> str:
    player = house.players.add(name="  Wim   Olde ", standard="developing", instrument="tuba-eb", part=None)
    return house.sessions.open(player.id, exercise_type, {}).id


def test_a_new_record_is_what_all_the_migrations_make(tmp_path: Path) -> None:
    """Made from the models at once; only what a column is called in SQL, and what old rows got, may differ."""

    def shape(path: Path) -> dict[str, Any]:
        with closing(sqlite3.connect(path)) as db:
            names = [name for (name,) in db.execute("SELECT name FROM sqlite_master")]
            return {
                name: (
                    sorted(
                        (column, needed, key)
                        for _, column, _, needed, _, key in db.execute(f'PRAGMA table_info("{name}")')
                    ),
                    [column for _, _, column in db.execute(f'PRAGMA index_info("{name}")')],
                    sorted(row[2:] for row in db.execute(f'PRAGMA foreign_key_list("{name}")')),
                )
                for name in names
            }

    Database(tmp_path / "new.db").close()
    command.upgrade(alembic_config(f"sqlite:///{tmp_path / 'old.db'}"), "head")
    assert shape(tmp_path / "new.db") == shape(tmp_path / "old.db")
    with closing(sqlite3.connect(tmp_path / "new.db")) as db:
        assert db.execute("SELECT version_num FROM alembic_version").fetchall() == [(max(known("sqlite://")),)]


def test_a_newer_database_is_refused(tmp_path: Path) -> None:
    Database(tmp_path / "o.db").close()
    with closing(sqlite3.connect(tmp_path / "o.db")) as raw:
        raw.execute("UPDATE alembic_version SET version_num = '9999'")
        raw.commit()
    with pytest.raises(NewerDatabaseError, match="later release"):
        Database(tmp_path / "o.db")


def test_a_take_keeps_its_snapshots(house: Application) -> None:
    session_id = opened(house)
    session = house.sessions.get(session_id)
    sound, _ = play(session.exercise, flaws=parse_flaws(["gap=130ms@n2"]), seed=1)
    made = house.takes.whole(
        session_id, sound, source="simulated", first_beat_sample=0, device={"label": "sim"}, at=now()
    )
    house.players.change(
        session.player_id, name="Wim", standard="professional", instrument="trumpet-bb", part=None, a4_hz=442.0
    )
    kept = house.takes.get(made.id)
    assert (kept.standard, kept.instrument, kept.a4_hz) == ("developing", "tuba-eb", 440.0)
    assert (kept.verdict.outcome, kept.verdict.reason) == ("not_yet", "gap")
    assert kept.limits["gap_ms"] == 60.0
    assert kept.measures == made.measures
    assert len(house.log.trace(made.id)) > 1000
    assert house.sessions.get(session_id).state.phase == "verdict"


def test_the_log_reads_newest_first_and_forgets_the_discarded(house: Application) -> None:
    session_id = opened(house)
    session = house.sessions.get(session_id)
    sound, _ = play(session.exercise, seed=1)
    first = house.takes.whole(session_id, sound, source="file", first_beat_sample=None, device={})
    house.takes.happen(session_id, Event("again"))
    second = house.takes.whole(session_id, sound, source="file", first_beat_sample=None, device={})
    entry = house.log.page(session.player_id).sessions[0]
    assert list(entry.summary.take_ids) == [first.id, second.id]
    assert [take.number for take in house.log.takes(session_id)] == [1, 2]
    day = house.log.today(session.player_id, "tuba-eb")
    off = [abs(take.pitch_error_cents) for take in house.log.takes(session_id) if take.pitch_error_cents is not None]
    assert (day.takes, day.clean) == (2, 2)
    assert day.pitch_error_cents == pytest.approx(sum(off) / len(off), abs=0.01)  # the median of two
    house.takes.discard(first.id, discarded=True)
    assert house.log.page(session.player_id).sessions[0].summary.take_ids == (second.id,)
    assert [take.id for take in house.log.takes(session_id)] == [second.id]
    assert house.log.today(session.player_id, "tuba-eb").takes == day.takes - 1
    house.takes.discard(first.id, discarded=False)
    assert len(house.log.page(session.player_id).sessions[0].summary.take_ids) == 2
    assert house.log.today(session.player_id, "tuba-eb") == day


def test_dropping_a_judged_take_discards_it_and_keeps_the_sound(house: Application) -> None:
    session_id = opened(house)
    sound, _ = play(house.sessions.get(session_id).exercise, seed=1)
    made = house.takes.whole(session_id, sound, source="file", first_beat_sample=None, device={})
    house.takes.happen(session_id, Event("drop"))
    assert house.takes.get(made.id).discarded
    assert house.record.sound_path(made.id).exists()
    assert house.sessions.get(session_id).state.takes == ()


def test_players_are_checked(house: Application) -> None:
    assert (
        house.players.add(name=" Wim  Olde ", standard="developing", instrument="tuba-eb", part="nonsense").part
        == "bass"
    )
    for bad in ({"name": " "}, {"name": "x" * 61}, {"standard": "wizard"}, {"instrument": "kazoo"}, {"a4_hz": 500.0}):
        given = {"name": "A", "standard": "developing", "instrument": "tuba-eb", "part": None, "a4_hz": 440.0, **bad}
        with pytest.raises(InputError):
            house.players.add(**given)


def test_each_instrument_keeps_its_own_settings(house: Application) -> None:
    player = house.players.add(name="A", standard="developing", instrument="tuba-eb", part="treble", a4_hz=442.0)
    given = {"name": "A", "standard": "developing"}
    house.players.change(player.id, **given, instrument="horn-f-bb", part="bass-new", a4_hz=440.0)
    house.players.change(player.id, **given, instrument="horn-f-bb", part="bass-old", a4_hz=441.0)
    with house.record.database.reading() as db:
        rows = {(row.catalogue_id, row.part, row.a4_hz) for row in db.query(InstrumentRow)}
    assert rows == {("tuba-eb", "treble", 442.0), ("horn-f-bb", "bass-old", 441.0)}
    assert house.players.all()[0].instrument == "horn-f-bb"


def test_missing_things_say_so(house: Application) -> None:
    with pytest.raises(MissingError, match="no such session"):
        house.sessions.get("nothing")
    with pytest.raises(MissingError, match="no such take"):
        house.takes.get("nothing")


def test_only_one_window_leads(house: Application) -> None:
    session_id = opened(house)
    token, owner = house.sessions.claim(session_id, None, take_over=False)
    assert owner
    assert house.sessions.claim(session_id, None, take_over=False) == (None, False)
    assert house.sessions.claim(session_id, token, take_over=False) == (token, True)
    other, owner = house.sessions.claim(session_id, None, take_over=True)
    assert owner
    assert other != token


def test_the_journal_goes_on_where_it_was(tmp_path: Path) -> None:
    import numpy as np

    journal = Journal(tmp_path)
    file = journal.open(head("s1"))
    file.append(np.arange(10, dtype=np.float32) / 10)
    file.close()
    with (tmp_path / f"{'b' * 32}.f32").open("ab") as raw:
        raw.write(b"\x00\x01")  # a kill in the middle of a sample
    again = journal.open(head("s1"))
    assert again.received == 10
    assert list(again.read()) == list(np.arange(10, dtype=np.float32) / 10)
    with pytest.raises(ConflictError):
        journal.open(head("s2"))
    again.close()
    for name in ("../../etc/passwd", "B" * 32, "b" * 31):
        with pytest.raises(InputError):
            journal.has(name)


def test_a_full_disk_loses_nothing_and_says_so(tmp_path: Path) -> None:
    import numpy as np

    file = Journal(tmp_path).open(head("s1"))
    file.append(np.ones(100, np.float32))

    class Full:
        def __init__(self, inner: object) -> None:
            self.inner = inner

        def write(self, data: bytes) -> int:
            self.inner.write(data[:10])  # type: ignore[attr-defined]
            raise OSError(28, "No space left on device")

        def truncate(self, size: int) -> None:
            self.inner.truncate(size)  # type: ignore[attr-defined]

    good = file._file
    file._file = Full(good)  # type: ignore[assignment]
    with pytest.raises(StorageError, match="disk may be full"):
        file.append(np.ones(100, np.float32))
    file._file = good
    file.append(np.full(50, 2.0, np.float32))
    assert file.received == 150
    assert list(file.read()[98:102]) == [1.0, 1.0, 2.0, 2.0]
    file.close()


def test_a_record_of_the_first_release_opens_with_all_that_was_in_it(tmp_path: Path) -> None:
    path = tmp_path / "orexis.db"
    command.upgrade(alembic_config(f"sqlite:///{path}"), "0001")
    with closing(sqlite3.connect(path)) as old:
        old.execute(
            "INSERT INTO player (id, name, stage, horn_id, created_at) VALUES ('p', 'Wim', 'growing', 'h', '2026-01-01 10:00:00')"
        )
        old.execute(
            "INSERT INTO horn (id, player_id, instrument, part, a4_hz) VALUES ('h', 'p', 'tuba-eb', 'bass', 440.0)"
        )
        old.commit()
    opened = Application(tmp_path)
    assert [player.name for player in opened.players.all()] == ["Wim"]
    assert opened.devices.all() == ()
    opened.record.database.close()
    assert list(tmp_path.glob("orexis.before-*.db"))


def test_measures_of_the_first_release_are_read(hear: Callable[..., Heard]) -> None:
    """What later releases added is absent in them, not an error."""
    kept = plain(hear(exercise_of("tuba-eb", "two-partial-slur"))[0].measures)
    later = {"vibrato_hz", "response_ms", "envelope_db", "splits", "cracks", "level_rise_db", "tone_match"}
    for note in kept["notes"]:
        for name in later:
            note.pop(name)
    kept["sound"].pop("talking")
    kept["exercise"].pop("evenness_ms")
    read = from_json(Measures, json.dumps(kept))
    assert read.notes[0].vibrato_hz is None
    assert read.notes[0].splits == 0


def test_a_take_is_compared_with_todays_easiest_held_note_on_the_same_device(house: Application) -> None:
    session = opened(house, "long-low-tones")
    exercise = house.sessions.get(session).exercise

    def played(label: str, *flaws: str) -> float | None:
        sound, _ = play(exercise, flaws=parse_flaws(flaws), seed=3)
        take = house.takes.whole(
            session, sound, source="simulated", first_beat_sample=0, device={"label": label}, at=now()
        )
        house.takes.happen(session, Event("again"))
        return take.measures.notes[0].tone_match

    assert played("desk") is None
    like, other = played("desk"), played("desk", "pinched=6db")
    assert like is not None
    assert other is not None
    assert like > 90.0 > 75.0 > other
    assert played("headset") is None


def test_pedal_sets_grow_with_sets_that_were_really_played(house: Application) -> None:
    player = house.players.add(name="Wim", standard="developing", instrument="trombone-bass", part=None)
    start = datetime(2026, 1, 5, 18, 0, tzinfo=UTC)
    short = {"notes": "4", "beats": "2"}
    first = house.sessions.open(player.id, "pedal-sets", short, at=start)
    assert len(first.block.exercises) == 2
    sound, _ = play(first.exercise, seed=1, rate=16_000)
    # One set and ten weeks of waiting make nobody stronger.
    house.takes.whole(first.id, sound, source="simulated", first_beat_sample=0, device={}, at=start)
    assert len(house.sessions.open(player.id, "pedal-sets", short, at=start + timedelta(weeks=10)).block.exercises) == 2
    for week in range(6):
        for day in range(1, 4):
            at = start + timedelta(weeks=week, days=day)
            session = house.sessions.open(player.id, "pedal-sets", short, at=at)
            house.takes.whole(session.id, sound, source="simulated", first_beat_sample=0, device={}, at=at)
    later = start + timedelta(weeks=6)
    assert len(house.sessions.open(player.id, "pedal-sets", short, at=later).block.exercises) == 3
    # Fewer may be asked for, never more.
    for asked, given in (("1", 1), ("5", 3)):
        chosen = house.sessions.open(player.id, "pedal-sets", {**short, "sets": asked}, at=later)
        assert len(chosen.block.exercises) == given
    house.players.change_settings(player.id, {"braces": True})
    held = house.sessions.open(player.id, "pedal-sets", {}, at=later)
    assert [len(exercise.notes) for exercise in held.block.exercises] == [12, 12]
    assert "braces" in held.state.current.why


def test_a_rest_under_way_knows_when_it_began(house: Application) -> None:
    player = house.players.add(name="Wim", standard="developing", instrument="tuba-eb", part=None)
    session = house.sessions.open_day(player.id, 15)
    sound, _ = play(house.sessions.get(session.id).exercise, seed=1)
    house.takes.whole(
        session.id, sound, source="simulated", first_beat_sample=0, device={}, at=datetime(2026, 1, 5, tzinfo=UTC)
    )
    house.takes.happen(session.id, Event("go-on"))
    house.takes.whole(
        session.id, sound, source="simulated", first_beat_sample=0, device={}, at=datetime(2026, 1, 5, tzinfo=UTC)
    )
    house.takes.happen(session.id, Event("skip"))
    found = house.sessions.get(session.id)
    assert found.state.phase == "rest"
    assert found.rest_since is not None


def test_other_takes_are_compared_with_the_one_that_was_named(house: Application) -> None:
    exercise = house.sessions.get(opened(house, "long-low-tones")).exercise
    player = house.players.all()[0].id

    def played(*flaws: str, days: int = 0) -> tuple[str, float | None]:
        session = house.sessions.open(player, "long-low-tones", {}).id  # what was named counts from the next session on
        sound, _ = play(exercise, flaws=parse_flaws(flaws), seed=3)
        when = now() - timedelta(days=days)
        take = house.takes.whole(
            session, sound, source="simulated", first_beat_sample=0, device={"label": "desk"}, at=when
        )
        return take.id, take.measures.notes[0].tone_match

    def elsewhere(label: str = "desk") -> bool:
        session = house.sessions.open(player, "long-low-tones", {}).id
        sound, _ = play(exercise, seed=4)
        take = house.takes.whole(session, sound, source="simulated", first_beat_sample=0, device={"label": label})
        assert take.measures.notes[0].tone_match is not None
        return take.measures.sound.matched_elsewhere

    named, _ = played("pinched=6db", days=30)
    played()
    house.players.change_settings(player, {"reference_take": named})
    _, like = played("pinched=6db")
    _, other = played()
    assert like is not None
    assert other is not None
    assert like > 90.0 > other
    assert not elsewhere()
    assert elsewhere("kitchen")  # another microphone: the take that was named all the same
    house.takes.forget(named)  # gone: today's easiest note again
    assert (played()[1] or 0.0) > 90.0


def test_the_log_tells_what_was_reported_and_overruled(house: Application) -> None:
    session = opened(house)
    sound, _ = play(house.sessions.get(session).exercise, flaws=parse_flaws(["gap=200ms@n2"]), seed=1)
    house.takes.whole(session, sound, source="simulated", first_beat_sample=0, device={}, at=now())
    house.takes.happen(session, Event("next"))
    house.takes.happen(session, Event("report", word="numb"))
    entry = house.log.page(house.sessions.get(session).player_id).sessions[0]
    assert [(item.advised, item.chosen) for item in entry.summary.overruled] == [("again", "next")]
    assert entry.summary.stopped == "numb"
    assert entry.summary.checks == ()


def test_the_instruments_warmth_is_no_tiring(house: Application) -> None:
    """Everything rises by 14 cents after the first check note: the instrument is warm, the lips are fresh."""
    player = house.players.add(name="Wim", standard="developing", instrument="tuba-eb", part=None)
    session = house.sessions.open_day(player.id, 15)

    def played(cents: float) -> None:
        exercise = house.sessions.get(session.id).exercise
        sound, _ = play(exercise, flaws=parse_flaws([f"centre={cents:g}c"]), seed=2)
        house.takes.whole(session.id, sound, source="simulated", first_beat_sample=0, device={}, at=now())
        house.takes.happen(session.id, Event("go-on"))

    played(0.0)
    while house.sessions.get(session.id).state.block < 1:
        house.takes.happen(session.id, Event("skip"))
    for cents in (0.0, 0.0, 0.0, 0.0, 14.0, 14.0, 14.0, 14.0):
        played(cents)
    with house.record.database.writing() as db:
        row = db.get_one(SessionRow, session.id)
        machine = from_json(SessionState, row.state)
        row.state = to_json(replace(machine, checking=True, phase=Phase.PREVIEW, rest=None))
    played(14.0)
    checks = house.sessions.get(session.id).state.checks
    assert [check.state for check in checks] == ["fresh", "fresh"]


def test_the_log_is_found_in_by_note_exercise_remark_reason_outcome_and_date(house: Application) -> None:
    player = house.players.add(name="Wim Olde", standard="developing", instrument="tuba-eb")
    other = house.players.add(name="Ada Brook", standard="developing", instrument="tuba-eb")
    at = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)
    made = []
    for day, exercise_type, flaws in (
        (0, "long-low-tones", ["sag=-40c@n1"]),
        (2, "two-partial-slur", ["gap=150ms@n2"]),
    ):
        session = house.sessions.open(player.id, exercise_type, {}, at=at + timedelta(days=day))
        take = house.takes.measured(
            session.id,
            lambda exercise, flaws=flaws: measured(exercise, parse_flaws(flaws)),
            at=at + timedelta(days=day),
        )
        made.append((session.id, take.id))
    house.takes.remark(made[1][1], "50% better_on mouthpiece B")

    def sessions(**wanted: object) -> list[str]:
        return [entry.id for entry in house.log.page(player.id, wanted=LogFilter(**wanted)).sessions]  # type: ignore[arg-type]

    first, second = made[0][0], made[1][0]
    assert sessions() == [second, first]
    assert sessions(word="long tones") == [first]
    assert sessions(word="E♭2") == [second, first]
    assert sessions(word="mouthpiece b") == [second]
    assert sessions(word="50%") == [second]
    assert sessions(word="%_%") == []
    assert sessions(reason="gap") == [second]
    assert sessions(outcome="clean") == []
    assert sessions(since=date(2026, 3, 3)) == [second]
    assert sessions(until=date(2026, 3, 3)) == [first]
    assert sessions(since=date(2026, 3, 4), until=date(2026, 3, 4), reason="gap") == [second]
    assert house.log.page(player.id, wanted=LogFilter(word="low")).total == 1
    assert house.log.reasons(player.id) == ("gap", "pitch-drift")
    assert house.log.page(other.id, wanted=LogFilter(word="low")).total == 0
    # A take thrown away is not found any more.
    house.takes.discard(made[1][1], discarded=True)
    assert sessions(reason="gap") == []


def test_a_transaction_that_reads_cannot_write(house: Application) -> None:
    with pytest.raises(StorageError, match="could not be read"), house.record.database.reading() as db:
        db.execute(text("DELETE FROM player"))
