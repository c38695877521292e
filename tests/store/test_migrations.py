"""A database of every earlier release opens, with a copy of it beside."""

import json
import sqlite3
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest
from alembic import command
from sqlalchemy import create_engine, text

from orexis.core.approaches import Ask, Choice
from orexis.core.coach import limits_of
from orexis.core.earlier_names import TERMS
from orexis.core.exercises import Series, exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.services.application import Application
from orexis.services.documents import to_json
from orexis.store import database
from orexis.store.database import Database
from orexis.store.migrating import alembic_config, known
from tests.conftest import heard


def as_of_then(text: str) -> str:
    """The JSON of a series or an exercise as the first releases wrote it."""

    def old(value: Any) -> Any:
        if isinstance(value, list):
            return [old(item) for item in value]
        if isinstance(value, dict):
            return {BEFORE.get(key, key): old(item) for key, item in value.items() if key != "$v"}
        return value

    return json.dumps(old(json.loads(text)))


BEFORE = {now: before for before, now in reversed(TERMS.items())}
SERIES = as_of_then(to_json(exercise_type_named("long-low-tones").series(instrument_named("tuba-eb"))))
MACHINE = {
    "figure_count": 9,
    "phase": "verdict",
    "figure_index": 2,
    "take_key": "a" * 32,
    "advice": "again",
    "takes": [{"take_id": "a" * 32, "figure_index": 2, "outcome": "not yet", "reason": "sag"}],
}


def old_database(path: Path, revision: str) -> None:
    """A player, a horn and a session under way, as that release wrote them."""
    url = f"sqlite:///{path}"
    config = alembic_config(url)
    engine = create_engine(url)
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, revision)
        connection.execute(text("INSERT INTO player VALUES ('p', 'Wim', 'growing', 'h', '2026-01-01 10:00:00')"))
        columns = "(id, player_id, instrument, part, a4_hz)"
        connection.execute(text(f"INSERT INTO horn {columns} VALUES ('h', 'p', 'tuba-eb', 'bass', 442.0)"))
        connection.execute(
            text(
                "INSERT INTO session (id, player_id, family, horn, params, series, state, started_at) "
                "VALUES ('s', 'p', 'long-low-tones', 'tuba-eb', '{}', :series, :state, '2026-01-01 10:00:00')"
            ),
            {"series": SERIES, "state": json.dumps({"machine": MACHINE, "owner": "x"})},
        )
    engine.dispose()


@pytest.mark.parametrize("revision", ["0001", "0002", "0003"])
def test_an_older_record_opens(tmp_path: Path, revision: str) -> None:
    folder = tmp_path / "data"
    folder.mkdir()
    old_database(folder / "orexis.db", revision)
    house = Application(folder)
    player = house.players.get("p")
    assert (player.instrument, player.a4_hz, player.setup.corrections) == ("tuba-eb", 442.0, ())
    assert player.settings.checks
    session = house.sessions.get("s")
    assert session.state.phase == "done"
    assert session.state.takes[0].reason == "pitch-drift"
    assert len(session.block.exercises) == 9
    assert (session.title, session.terms.a4_hz, session.terms.part) == ("Long tones", 442.0, "bass")
    assert house.log.page("p").sessions == ()
    assert house.sessions.open_day("p", 15).state.checking
    assert list(folder.glob("orexis.before-*.db"))
    house.record.database.close()


TAKES = {"held": "c" * 32, "tossed": "d" * 32}


def a_climbing_record(path: Path) -> None:
    """What the release before this wrote: schools in prose, two takes of a ladder (one thrown away), their tries."""
    url = f"sqlite:///{path}"
    command.upgrade(alembic_config(url), "0004")
    figure = (
        exercise_type_named("step-ladder")
        .series(instrument_named("tuba-eb"), {"start": "Eb3", "steps": "1"})
        .exercises[0]
    )
    hearing, _, _ = heard(figure)
    assert hearing.verdict is not None
    limits, when = to_json(limits_of("growing"), dict[str, float]), "2026-02-01 18:00:00"
    state = {"machine": {"plan": [], "phase": "done", "lost_rung": "stop here for today", "takes": []}, "owner": "me"}
    state["machine"]["plan"] = [
        {"family": "step-ladder", "title": "Step ladder", "place": "register", "load": "high", "advance": "climb", "figures": 1}
    ]  # fmt: skip
    for key in TAKES.values():
        state["machine"]["takes"].append(
            {"take_id": key, "block": 0, "figure_index": 0, "outcome": "held", "reason": None}
        )
    settings = {"schools": {"breath-inside": "a nose breath, corners kept"}, "limits": {"gap_ms": 44.0}, "braces": True}
    routine = {
        "blocks": [json.loads(as_of_then(to_json(Series("step-ladder", "tuba-eb", "Step ladder", (figure,)))))],
        "check": None,
    }
    with closing(sqlite3.connect(path)) as db:

        def put(table: str, **values: object) -> None:
            marks = ", ".join("?" * len(values))
            db.execute(f"INSERT INTO {table} ({', '.join(values)}) VALUES ({marks})", tuple(values.values()))

        put("player", id="p", name="Wim", stage="growing", horn_id="h", created_at=when, settings=json.dumps(settings))
        put("horn", id="h", player_id="p", instrument="tuba-eb", part="treble", a4_hz=441.0, setup="{}")
        put("session", id="s", player_id="p", family="step-ladder", horn="tuba-eb", params="{}", routine=json.dumps(routine),
            state=json.dumps(state), started_at=when, ended_at=when)  # fmt: skip
        for number, (name, key) in enumerate(TAKES.items(), 1):
            put("take", id=key, session_id="s", figure_index=0, number=number, started_at=when, duration_s=9.0, rate=44100,
                first_beat_s=0.0, source="simulated", figure=as_of_then(to_json(figure)), horn="tuba-eb", part="bass", a4_hz=440.0,
                stage="growing", limits=limits, schools=json.dumps({"body": "sound only"}), device="{}", recovered=0,
                remark="calm", discarded_at=when if name == "tossed" else None)  # fmt: skip
            put("analysis", id=number, take_id=key, version=4, made_at=when, outcome="held", reason=None,
                measures=to_json(hearing.measures), verdict=to_json(hearing.verdict))  # fmt: skip
            put(
                "rung_attempt",
                player_id="p",
                horn="tuba-eb",
                take_id=key,
                midi=51,
                day=1,
                held=1,
                sounded_s=4.0,
                connected=0,
            )
        db.commit()


def test_a_record_of_the_last_release_keeps_all_and_what_is_derived_is_made_anew(tmp_path: Path) -> None:
    a_climbing_record(tmp_path / "orexis.db")
    house = Application(tmp_path)
    player = house.players.get("p")
    assert player.settings.chosen[Ask.BREATH_INSIDE] == Choice.NOSE_BREATH
    session = house.sessions.get("s")
    assert session.state.lost_note == Choice.STOP_HERE
    assert (session.terms.part, session.terms.a4_hz, session.terms.limits["gap_ms"]) == ("treble", 441.0, 44.0)
    assert session.terms.braces
    for name, key in TAKES.items():
        take = house.takes.get(key)
        assert (take.remark, take.discarded, take.verdict.outcome) == ("calm", name == "tossed", "clean")
    (line,) = house.log.takes("s")
    assert (line.id, line.written, line.outcome) == (TAKES["held"], "Eb3", "clean")
    (entry,) = house.log.page("p").sessions
    assert entry.summary.take_ids == (TAKES["held"],)
    note = house.range_summary(player).range_notes[51]
    assert (note.state, note.days_held, note.best_take) == ("reaching", 1, TAKES["held"])
    house.close()


def test_the_copy_made_before_a_migration_holds_what_was_only_in_the_log(tmp_path: Path) -> None:
    path = tmp_path / "orexis.db"
    a_climbing_record(path)
    writer = sqlite3.connect(path)  # open throughout: what it wrote stays in the log
    writer.execute("PRAGMA journal_mode=WAL")
    writer.execute(
        "INSERT INTO player (id, name, stage, created_at) VALUES ('q', 'Late', 'growing', '2026-02-02 10:00:00')"
    )
    writer.commit()  # and not yet in the main file
    with closing(Database(path).engine.connect()):
        pass
    copy = next(tmp_path.glob("orexis.before-*.db"))
    with closing(sqlite3.connect(copy)) as read:
        assert [row[0] for row in read.execute("SELECT id FROM player ORDER BY id")] == ["p", "q"]
    writer.close()


def test_migrations_are_named_by_their_revisions() -> None:
    """The newest file's name says up to where a record is brought, so that nothing else need be loaded at most starts."""
    files = (Path(database.__file__).parent / "migrations" / "versions").glob("[0-9]*.py")
    assert known("sqlite://") == {file.name[:4] for file in files}
