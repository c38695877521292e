"""Exports that a hostile hand made are refused in a sentence or break nothing; what is here already is not touched by them."""

import io
import json
import shutil
import zipfile
from collections.abc import Iterator
from pathlib import Path

import pytest

from benchmarks import hostile_files
from benchmarks.hostile import attack, base_export, broken_by, mutant
from orexis.core.coach.load import weight
from orexis.errors import ExerciseError, InputError
from orexis.files.exercise_json_read import exercise_from_json
from orexis.files.strict_json import strict_json
from orexis.services.application import Application
from orexis.services.archive import bring_in, taken_out

from .test_moving import agreeing


@pytest.fixture(scope="module")
def base(tmp_path_factory: pytest.TempPathFactory) -> tuple[bytes, Path, Path]:
    """An export, the folder it came from, and an empty record."""
    work = tmp_path_factory.mktemp("hostile")
    data = base_export(work / "base")
    Application(work / "empty").close()
    return data, work / "base", work / "empty"


def test_one_value_changed_at_random_breaks_nothing() -> None:
    refused, taken, broken = attack(25, 10_001)
    assert broken == []
    assert refused + taken == 25


@pytest.mark.parametrize("seed", [292, 360, 382, 501, 658, 663])
def test_what_once_broke_something_breaks_it_no_more(base: tuple[bytes, Path, Path], tmp_path: Path, seed: int) -> None:
    data, _, empty = base
    file, what = mutant(data, seed)
    assert not broken_by(empty, file, tmp_path / "one"), what


@pytest.fixture(scope="module")
def running(tmp_path_factory: pytest.TempPathFactory) -> Iterator[hostile_files.Attack]:
    made = hostile_files.Attack(tmp_path_factory.mktemp("running"))
    yield made
    made.close()


def test_a_good_file_of_every_kind_is_taken_in(running: hostile_files.Attack, monkeypatch: pytest.MonkeyPatch) -> None:
    for name in ("spoiled", "reworded"):
        monkeypatch.setattr(hostile_files, name, lambda data, rng: data)
    monkeypatch.setattr(hostile_files, "mutant", lambda data, seed: (data, ""))
    for kind in running.samples.files:
        assert running.send(kind, 1) == "", kind


@pytest.mark.parametrize("kind", dict.fromkeys(hostile_files.KINDS))
def test_files_and_requests_of_every_kind_break_nothing(running: hostile_files.Attack, kind: str) -> None:
    for seed in range(30_001, 30_005):
        assert not running.send(kind, seed), seed
    assert running.pages() is None


# A reason that there is not; A4 of nothing; no level; a document of a later release; a sign that no score can hold; no block to stand in.
_ONCE_BROKE = [
    ("request", 14995), ("lesson", 101272), ("lesson", 101920), ("request", 102125), ("request", 102509), ("request", 32335),
    ("request", 106505), ("lesson", 107644), ("lesson", 107872),
]  # fmt: skip


@pytest.mark.parametrize(("kind", "seed"), _ONCE_BROKE)
def test_what_once_broke_a_page_is_refused(running: hostile_files.Attack, kind: str, seed: int) -> None:
    assert running.send(kind, seed) is None


def test_a_take_of_a_level_that_cannot_be_breaks_no_load() -> None:
    assert weight(440.0, 440.0, 1e300) == 4.0
    assert weight(440.0, 440.0, -1e300) == 0.5


@pytest.mark.parametrize(
    "text",
    [
        "NaN",
        '{"a": "\\u0000"}',
        '{"a": Infinity}',
        "1e999",
        "1e17",
        "[-1e400]",
        "9" * 40,
        '"\\ud800"',
        "[" * 100_000,
        "{",
        b"\xff",
        "",
    ],
)
def test_json_from_outside_is_strict(text: str | bytes) -> None:
    with pytest.raises(ValueError):
        strict_json(text)


def test_ordinary_json_is_read() -> None:
    assert strict_json('{"a": [1, 2.5, "♭ \\ud83c\\udfba", null, true]}') == {"a": [1, 2.5, "♭ 🎺", None, True]}


@pytest.mark.parametrize("word", ["NaN", "1e999", "-1e300"])
def test_an_exercise_with_a_number_that_is_none_is_refused(base: tuple[bytes, Path, Path], word: str) -> None:
    with zipfile.ZipFile(io.BytesIO(base[0])) as archive:
        take = json.loads(archive.read("takes.jsonl").splitlines()[0])
    take["exercise"]["notes"][0]["target_cents"] = "here"
    with pytest.raises(ExerciseError):
        exercise_from_json(json.dumps(take["exercise"]).replace('"here"', word))


def test_what_was_said_of_a_take_that_is_here_stays(base: tuple[bytes, Path, Path], tmp_path: Path) -> None:
    data, folder, _ = base
    shutil.copytree(folder, tmp_path / "own")
    house = Application(tmp_path / "own")
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        analyses = archive.read("analyses.jsonl").decode().splitlines()
        marks = archive.read("marks.jsonl").decode().splitlines()
    more = [json.dumps(json.loads(line) | {"version": 2, "outcome": "clean"}) for line in analyses]
    bring_in(
        house.record, agreeing(data, "analyses.jsonl", "\n".join([*analyses, *more, ""]).encode(), tmp_path / "a.zip")
    )
    assert b"".join(taken_out(house.record)) == data
    many = [json.dumps(json.loads(marks[0]) | {"id": f"{number:032x}"}) for number in range(500)]
    with pytest.raises(InputError, match="more than 200 remarks"):
        bring_in(
            house.record, agreeing(data, "marks.jsonl", "\n".join([*marks, *many, ""]).encode(), tmp_path / "m.zip")
        )
    assert b"".join(taken_out(house.record)) == data
    house.close()
