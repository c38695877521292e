"""A database of every earlier release opens, with a copy of it beside."""

import json
from pathlib import Path

import pytest
from alembic import command
from sqlalchemy import create_engine, text

from orexis.core.figures import family_named
from orexis.core.horn import horn_named
from orexis.services import log
from orexis.services.codec import to_json
from orexis.services.practice import Practice
from orexis.store.database import alembic_config

SERIES = to_json(family_named("long-low-tones").series(horn_named("tuba-eb")))
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
            {"series": json.dumps(SERIES), "state": json.dumps({"machine": MACHINE, "owner": "x"})},
        )
    engine.dispose()


@pytest.mark.parametrize("revision", ["0001", "0002", "0003"])
def test_an_older_record_opens(tmp_path: Path, revision: str) -> None:
    folder = tmp_path / "data"
    folder.mkdir()
    old_database(folder / "orexis.db", revision)
    practice = Practice(folder)
    player = practice.player("p")
    assert (player.horn, player.a4_hz, player.setup.corrections) == ("tuba-eb", 442.0, ())
    assert player.settings.checks
    session = practice.session("s")
    assert session.state.phase == "done"
    assert session.state.takes[0].reason == "sag"
    assert len(session.routine.blocks[0].figures) == 9
    assert log.sessions(practice, "p") == ()
    assert practice.open_routine("p", 15).state.checking
    assert list(folder.glob("orexis.before-*.db"))
    practice.database.close()
