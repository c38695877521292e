"""Copies, restoring and its undoing, one server on a folder, damaged sound, what is set aside: nothing is ever harder to undo."""

import json
import shutil
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest

from orexis.errors import ConflictError, DamagedError, MissingError
from orexis.services.application import Application
from orexis.services.archive import back_up, check, copies, restore
from orexis.services.archive.set_aside import put_aside, set_aside
from orexis.services.folder_lock import FolderLock
from orexis.services.record import Record


def played(house: Application, takes: int) -> list[str]:
    """A player's takes, each with its sound."""
    people = house.players.all()
    person = next((one for one in people if not one.guest), None) or house.players.add(
        name="Wim Olde", standard="developing", instrument="tuba-eb", part="bass", a4_hz=440.0
    )
    session = house.sessions.open(person.id, "long-low-tones", {})
    return [house.simulated.take(session.id, "clean", seed=1).id for _ in range(takes)]


def kept(folder: Path) -> set[str]:
    with sqlite3.connect(folder / "orexis.db") as db:
        return {key for (key,) in db.execute("SELECT id FROM take")}


def faults(folder: Path, *, mend: bool = False) -> list[str]:
    record = Record(folder)
    try:
        return [fault.says for fault in check(record, mend=mend)]
    finally:
        record.close()


@pytest.fixture(scope="module")
def made_once(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, list[str], list[str]]:
    folder = tmp_path_factory.mktemp("two-days")
    house = Application(folder)
    first = played(house, 1)
    back_up(house.record)
    second = played(house, 1)
    house.close()
    return folder, first, second


@pytest.fixture
def two_days(tmp_path: Path, made_once: tuple[Path, list[str], list[str]]) -> tuple[Path, list[str], list[str]]:
    """A record with a copy after the first take; the second take came later."""
    folder, first, second = made_once
    shutil.copytree(folder, tmp_path, dirs_exist_ok=True)
    return tmp_path, first, second


def test_a_copy_is_restored_and_that_is_undone(two_days: tuple[Path, list[str], list[str]]) -> None:
    folder, first, second = two_days
    (copy,) = copies(folder)
    assert (copy.whole, copy.players, copy.takes) == (True, ("Wim Olde",), 1)
    done = restore(folder, copy.name)
    assert kept(folder) == set(first)
    assert faults(folder, mend=True) == [f"No take names {second[0]}.flac; it goes to set-aside/."]
    undone = restore(folder, Path(done.kept_as).name)
    assert kept(folder) == {*first, *second}
    assert undone.sounds_back == 1
    assert faults(folder) == []


def test_the_log_of_the_old_record_is_never_replayed(two_days: tuple[Path, list[str], list[str]]) -> None:
    """As after a crash: a write-ahead log with the later take in it lies beside the database."""
    folder, first, _ = two_days
    database = folder / "orexis.db"
    with sqlite3.connect(database) as keeps_open:
        keeps_open.execute("PRAGMA wal_autocheckpoint=0")
        keeps_open.execute("UPDATE take SET remark = 'in the log'")
        keeps_open.commit()
        for ending in ("-wal", "-shm"):
            shutil.copyfile(f"{database}{ending}", f"{database}{ending}.kept")
        main = database.read_bytes()
    database.write_bytes(main)
    for ending in ("-wal", "-shm"):
        shutil.move(f"{database}{ending}.kept", f"{database}{ending}")
    restore(folder, copies(folder)[-1].name)
    with sqlite3.connect(database) as db:
        assert db.execute("SELECT id, remark FROM take").fetchall() == [(first[0], "")]


@pytest.fixture(scope="module")
def two_sounds(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, str, str]:
    """A record with two takes and their sounds."""
    folder = tmp_path_factory.mktemp("two-sounds")
    house = Application(folder)
    one = played(house, 1)[0]
    session = house.sessions.open(house.players.all()[0].id, "two-partial-slur", {})
    other = house.simulated.take(session.id, "clean", seed=4).id
    house.close()
    return folder, one, other


@pytest.mark.parametrize("damage", ["cut", "garbled", "no database", "empty"])
def test_a_damaged_record_is_said_in_words_and_restored(
    two_days: tuple[Path, list[str], list[str]], damage: str
) -> None:
    folder, first, _ = two_days
    database = folder / "orexis.db"
    data = bytearray(database.read_bytes())
    if damage == "cut":
        database.write_bytes(data[: len(data) // 2])
    elif damage == "garbled":
        data[4096 : len(data) - 4096] = bytes((byte ^ 0x5A) for byte in data[4096 : len(data) - 4096])
        database.write_bytes(data)
    elif damage == "no database":
        database.write_bytes(b"no database at all " * 1000)
    else:
        database.write_bytes(b"")
    if damage != "empty":  # an empty file is a new record to SQLite: nothing can be seen to be wrong with it
        with pytest.raises(DamagedError, match="Restore a copy"):
            Application(folder)
    told = subprocess.run(
        [sys.executable, "-m", "orexis.cli.main", "check", "--data", str(folder)], capture_output=True, text=True
    )
    assert "Traceback" not in told.stderr
    restore(folder, copies(folder)[0].name)
    assert kept(folder) == set(first)
    house = Application(folder)
    assert len(house.players.all()) >= 1
    house.close()


def test_a_damaged_copy_is_refused_and_never_made(two_days: tuple[Path, list[str], list[str]]) -> None:
    folder, first, second = two_days
    (copy,) = copies(folder)
    path = folder / "backups" / copy.name
    path.write_bytes(path.read_bytes()[:9000])
    assert not copies(folder)[0].whole
    with pytest.raises(DamagedError):
        restore(folder, copy.name)
    with pytest.raises(MissingError):
        restore(folder, "../orexis.db")
    assert kept(folder) == {*first, *second}


def test_one_orexis_at_a_time_has_a_folder(tmp_path: Path) -> None:
    house = Application(tmp_path)
    assert house.record.lock is not None
    house.record.lock.say("http://127.0.0.1:8800/")
    with pytest.raises(ConflictError, match=r"http://127\.0\.0\.1:8800/"):
        Application(tmp_path)
    beside = Record(tmp_path, locked=False)  # to look and to copy
    assert check(beside, mend=False) == ()
    back_up(beside)
    beside.close()
    house.close()
    FolderLock(tmp_path).release()


def test_a_lock_is_gone_with_its_process(tmp_path: Path) -> None:
    held = (
        "import os, sys; from pathlib import Path; from orexis.services.folder_lock import FolderLock; "
        "lock = FolderLock(Path(sys.argv[1])); print('held', flush=True); os.kill(os.getpid(), 9)"
    )
    subprocess.run([sys.executable, "-c", held, str(tmp_path)], capture_output=True)
    FolderLock(tmp_path).release()


@pytest.mark.parametrize("damage", ["cut", "end cut", "garbled", "zeros", "one bit", "another's", "gone", "empty"])
@pytest.mark.parametrize("digest", [True, False])
def test_damaged_sound_is_found(tmp_path: Path, two_sounds: tuple[Path, str, str], damage: str, digest: bool) -> None:
    template, one, other = two_sounds
    shutil.copytree(template, tmp_path, dirs_exist_ok=True)
    record = Record(tmp_path)
    path, others = record.sound_path(one), record.sound_path(other)
    record.close()
    assert faults(tmp_path) == []
    if not digest:  # as kept by an earlier release
        with sqlite3.connect(tmp_path / "orexis.db") as db:
            db.execute("UPDATE take SET sound_sha256 = NULL")
    data = bytearray(path.read_bytes())
    middle = len(data) // 2
    if damage == "one bit":
        data[middle] ^= 1
    elif damage == "garbled":
        data[middle : middle + 500] = bytes(range(250)) * 2
    elif damage == "zeros":
        data[middle : middle + 2000] = bytes(2000)
    changed = {
        "cut": bytes(data[:middle]),
        "end cut": bytes(data[:-3000]),
        "another's": others.read_bytes(),
        "empty": b"",
    }
    path.write_bytes(changed.get(damage, bytes(data)))
    if damage == "gone":
        path.unlink()
    (told,) = faults(tmp_path)
    assert ("no sound" if damage == "gone" else "not as kept") in told


def test_mending_without_the_record_moves_nothing(tmp_path: Path) -> None:
    house = Application(tmp_path)
    takes = played(house, 12)
    house.close()
    (tmp_path / "orexis.db").rename(tmp_path / "elsewhere.db")
    (told,) = faults(tmp_path, mend=True)
    assert "is this the right record?" in told
    for take in takes:
        assert (tmp_path / "takes" / take[:2] / f"{take}.flac").exists()


def test_what_is_set_aside_comes_back_with_its_take(tmp_path: Path) -> None:
    house = Application(tmp_path)
    (take,) = played(house, 1)
    house.close()
    shutil.copyfile(tmp_path / "orexis.db", tmp_path / "whole.db")
    with sqlite3.connect(tmp_path / "orexis.db") as db:
        db.execute("PRAGMA foreign_keys=ON")
        db.execute("DELETE FROM take")
    (tmp_path / "old.import").write_bytes(b"x")
    (tmp_path / "journal" / f"{'e' * 32}.f32").write_bytes(b"xxxx")
    assert sum("set-aside" in told for told in faults(tmp_path, mend=True)) == 3
    record = Record(tmp_path)
    assert {item.name for item in set_aside(record)} == {f"{take}.flac", "old.import", f"{'e' * 32}.f32"}
    record.close()
    for ending in ("-wal", "-shm"):
        (tmp_path / f"orexis.db{ending}").unlink(missing_ok=True)
    shutil.move(tmp_path / "whole.db", tmp_path / "orexis.db")
    assert any("back in place" in told for told in faults(tmp_path, mend=True))
    assert (tmp_path / "takes" / take[:2] / f"{take}.flac").exists()
    assert faults(tmp_path) == []


def test_the_command_lists_and_restores(two_days: tuple[Path, list[str], list[str]]) -> None:
    folder, first, _ = two_days
    run = [sys.executable, "-m", "orexis.cli.main", "restore"]
    listed = json.loads(subprocess.run([*run, "--data", str(folder)], capture_output=True, text=True).stdout)
    assert [(item["takes"], item["whole"]) for item in listed] == [(1, True)]
    done = subprocess.run([*run, listed[0]["name"], "--data", str(folder)], capture_output=True, text=True)
    assert json.loads(done.stdout)["copy"]["takes"] == 1
    assert kept(folder) == set(first)
    wrong = subprocess.run([*run, "nothing.db", "--data", str(folder)], capture_output=True, text=True)
    assert wrong.returncode != 0
    assert "Traceback" not in wrong.stderr


def test_what_lies_aside_already_is_not_written_over(tmp_path: Path) -> None:
    record = Record(tmp_path)
    for words in ("first", "second"):
        (tmp_path / "old.import").write_text(words)
        put_aside(record, tmp_path / "old.import")
    assert {(tmp_path / "set-aside" / item.name).read_text() for item in set_aside(record)} == {"first", "second"}
    assert {item.place for item in set_aside(record)} == {"old.import"}
    record.close()
