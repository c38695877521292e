"""A record of each released version opens with the present code, and every page of it can be read."""

import gzip
import sqlite3
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import select

from orexis.api.app import create_app
from orexis.core.approaches import Ask, Choice
from orexis.services import clock
from orexis.services.application import Application
from orexis.services.archive import bring_in, check, write_export
from orexis.store.models import TakeRow
from tests.conftest import some
from tests.store.test_projections import playing

RECORDS = sorted((Path(__file__).parent / "records").glob("*.db.gz"))
EARLIEST_TO_LATEST = [RECORDS[0], RECORDS[-1], *RECORDS[1:-1]]
# What there is no sound for in these records, what is a file, and what belongs to a network.
NOT_READ = ("/sound", "/trace", "/ideal", "/events", "/api/pair", "/api/stand", "/api/certificate", "/api/authority")


@pytest.fixture(params=some(EARLIEST_TO_LATEST, 2), ids=lambda path: path.name[:4])
def folder(request: pytest.FixtureRequest, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setattr(clock, "AHEAD", datetime(2026, 12, 1, 10, tzinfo=UTC) - datetime.now(UTC))  # soon after
    (tmp_path / "data").mkdir()
    (tmp_path / "data" / "orexis.db").write_bytes(gzip.decompress(request.param.read_bytes()))
    return tmp_path / "data"


def counted(folder: Path, table: str, where: str = "1") -> int:
    with closing(sqlite3.connect(folder / "orexis.db")) as link:
        return int(link.execute(f"SELECT count(*) FROM {table} WHERE {where}").fetchone()[0])


def ids_in(house: Application) -> dict[str, list[str]]:
    """What paths ask for, from the record."""
    with house.record.database.reading() as db:
        takes = list(db.execute(select(TakeRow.id, TakeRow.session_id)))
    return {
        "player_id": [person.id for person in house.players.all()],
        "take_id": [take.id for take in takes],
        "session_id": sorted({take.session_id for take in takes}),
        "instrument_id": ["tuba-eb"],
    }


def test_there_is_one_of_every_release() -> None:
    assert [path.name[:4] for path in RECORDS] == ["0001", *(f"{number:04}" for number in range(4, 15))]
    assert all(path.stat().st_size < 200_000 for path in RECORDS)


def test_it_opens_whole_and_goes_on(folder: Path, tmp_path: Path) -> None:
    takes, players = counted(folder, "take"), counted(folder, "player")
    thrown = counted(folder, "take", "discarded_at IS NOT NULL")
    assert takes >= 4
    assert thrown >= 1
    house = Application(folder)
    assert counted(folder, "take") == takes
    assert len(house.players.all()) == players == 2
    assert list(folder.glob("orexis.before-*.db"))
    wrong = [fault.says for fault in check(house.record, mend=False)]
    assert [says for says in wrong if "no sound any more" not in says] == []
    person = next(person for person in house.players.all() if person.instrument == "tuba-eb")
    assert house.progress.read(person.id, 52).playing[0].takes == takes - thrown
    # Practice goes on, and everything moves.
    session = house.sessions.open(person.id, "step-ladder", {"start": "Eb3", "steps": "1"}, anyway=True)
    house.takes.measured(session.id, playing(fails=False), at=session.started_at)
    write_export(house.record, tmp_path / "out.zip")
    house.close()
    other = Application(tmp_path / "other")
    assert bring_in(other.record, tmp_path / "out.zip").added["takes"] == takes + 1
    other.close()


@pytest.mark.parametrize("folder", some(EARLIEST_TO_LATEST, 3), ids=lambda path: path.name[:4], indirect=True)
def test_every_page_of_it_can_be_read(folder: Path) -> None:
    with TestClient(create_app(folder), base_url="http://127.0.0.1:8722") as client:
        house: Application = client.app.state.house  # type: ignore[attr-defined]
        ids = ids_in(house)
        asked = 0
        for path, item in client.get("/openapi.json").json()["paths"].items():
            if "get" not in item or any(part in path for part in NOT_READ):
                continue
            for filled in _filled(path, item["get"].get("parameters", []), ids):
                answer = client.get(filled)
                assert answer.status_code == 200, f"{filled}: {answer.text[:300]}"
                asked += 1
    assert asked > 60


def _filled(path: str, parameters: list[dict[str, Any]], ids: dict[str, list[str]]) -> list[str]:
    """The path once for every id that it asks for; none where it asks for something else."""
    names = [item["name"] for item in parameters if item["in"] == "path"]
    if not names:
        return [] if any(item.get("required") for item in parameters) else [path]
    if (
        len(names) > 1
        or names[0] not in ids
        or any(item.get("required") and item["in"] == "query" for item in parameters)
    ):
        return []
    return [path.replace("{" + names[0] + "}", value) for value in ids[names[0]]]


def test_files_of_the_release_before_are_read(tmp_path: Path) -> None:
    """An export of schema 4, and a lesson and recordings of schema 2, when names were others."""
    files = Path(__file__).parent / "records"
    house = Application(tmp_path)
    came = bring_in(house.record, files / "export-4.zip")
    assert (came.added["takes"], came.added["instruments"], came.added["goals"], came.added["exchanges"]) == (
        14,
        2,
        1,
        2,
    )
    player = next(person for person in house.players.all() if person.name == "Wim Olde")
    assert player.settings.chosen[Ask.AFTER_A_LOST_NOTE] == Choice.STOP_HERE
    routine = house.routines.all(player.id)[0]
    assert [block.exercise_type for block in routine.blocks] == ["two-partial-slur", "step-ladder"]
    assert [block.params for block in routine.blocks] == [{"fingering": "few"}, {"steps": "4"}]
    assert {exchange.kind for exchange in house.lessons.all(player.id)} == {"lesson", "review_request"}
    assert [fault.says for fault in check(house.record, mend=False) if "no sound any more" not in fault.says] == []
    house.close()

    other = Application(tmp_path / "other")
    ada = other.players.add(name="Ada Brook", standard="developing", instrument="tuba-eb")
    lesson = other.lessons.open(ada.id, files / "lesson-2.zip").exchange
    assert lesson.lesson is not None
    taken, _ = other.lessons.take_over(ada.id, lesson.id, ("exercise 0", "routine 0", "goal 0"))
    assert taken.taken == ("exercise 0", "routine 0", "goal 0")
    assert other.material.own_exercises(ada)[0].params == {"tempo": "63", "fingering": "few"}
    heard = other.lessons.open(ada.id, files / "recordings-2.zip").exchange
    assert heard.review_request is not None
    assert [take.title for take in heard.review_request.takes] != []
    assert any(person.guest for person in other.players.all())
    other.close()
