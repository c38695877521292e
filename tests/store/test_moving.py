"""Moving house: out and in again byte for byte, beside what is there, and nothing half done; copies; what a check finds."""

import hashlib
import io
import json
import os
import zipfile
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from sqlalchemy import text

from orexis.core.player import play
from orexis.core.practice import Event, EventName
from orexis.errors import ConflictError, InputError, StorageError
from orexis.services import clock
from orexis.services.application import Application
from orexis.services.archive import Job, back_up, bring_in, check, taken_out, weekly_backup, write_export
from orexis.services.archive.backup import backups
from orexis.services.archive.tables import TABLES
from orexis.services.record import Record
from orexis.services.takes.keeping import let_go, sizes
from orexis.services.values.planning import OwnBlock
from orexis.services.values.players import Keeping
from orexis.store.models import Base

START = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)


def filled(folder: Path, *names: str) -> Application:
    """People with a session of sound each, and something in most tables."""
    house = Application(folder)
    for name in names:
        person = house.players.add(name=name, standard="developing", instrument="tuba-eb", part="bass", a4_hz=440.0)
        house.routines.keep(person.id, "Short", (OwnBlock("long-low-tones", 5.0, {}),))
        session = house.sessions.open(person.id, "long-low-tones", {"steps": "2"}, at=START)
        for number in range(2):
            sound, _ = play(house.sessions.get(session.id).exercise, seed=number)
            moment = START + timedelta(minutes=number)
            house.takes.whole(session.id, sound, source="file", first_beat_sample=0, device={}, at=moment)
            house.takes.happen(session.id, Event(EventName.NEXT))
        house.takes.happen(session.id, Event(EventName.STOP))
    return house


@pytest.fixture(scope="module")
def two(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Application]:
    house = filled(tmp_path_factory.mktemp("two"), "Wenna Tull", "Piran Voss")
    yield house
    house.close()


def exported(house: Application) -> bytes:
    return b"".join(taken_out(house.record))


def spoiled(data: bytes, name: str, change: bytes | None, out: Path) -> Path:
    """The export with one entry in another form, or without it."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive, zipfile.ZipFile(out, "w") as made:
        for info in archive.infolist():
            if info.filename != name:
                made.writestr(info, archive.read(info))
        if change is not None:
            made.writestr(name, change)
    return out


def agreeing(data: bytes, name: str, change: bytes, out: Path) -> Path:
    """As `spoiled`, with a manifest that agrees: what a hand that knows the format could make."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        manifest = json.loads(archive.read("manifest.json"))
    manifest["files"][name] = {"size": len(change), "sha256": hashlib.sha256(change).hexdigest()}
    spoiled(data, name, change, out)
    return spoiled(out.read_bytes(), "manifest.json", json.dumps(manifest).encode(), out.with_suffix(".2.zip"))


def test_an_export_of_an_import_of_an_export_is_the_same_to_the_byte(two: Application, tmp_path: Path) -> None:
    first = tmp_path / "first.zip"
    told = write_export(two.record, first)
    assert told.sounds == 4
    assert not first.with_name("first.zip.part").exists()
    other = Application(tmp_path / "other")
    brought = bring_in(other.record, first)
    assert (brought.added["players"], brought.added["takes"], brought.sounds) == (2, 4, 4)
    assert exported(other) == first.read_bytes()
    player = next(person for person in other.players.all() if person.name == "Wenna Tull")
    assert other.log.page(player.id).total == 1
    take = other.log.takes(other.log.page(player.id).sessions[0].id)[0]
    assert other.log.trace(take.id).f0_hz.size > 100
    assert check(other.record, mend=False) == ()
    other.close()


def test_summaries_of_another_shape_are_left_and_made_anew(two: Application, tmp_path: Path) -> None:
    """An export of a release that kept measures by day in other files: its takes come in, its summaries do not."""
    older = tmp_path / "older.zip"
    line = b'{"player_id":"x","instrument":"tuba-eb","day":1,"measure":"sag","takes":1,"low":1,"middle":1,"high":1}\n'
    data = agreeing(exported(two), "measure_days.jsonl", line, tmp_path / "a.zip").read_bytes()
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        manifest = json.loads(archive.read("manifest.json"))
    for name in ("measures_by_day.jsonl", "measures_by_week.jsonl", "notes_by_day.jsonl"):
        data = spoiled(data, name, None, older).read_bytes()
        del manifest["files"][name]
    spoiled(data, "manifest.json", json.dumps({**manifest, "rules": 8}).encode(), older)
    other = Application(tmp_path / "other")
    bring_in(other.record, older)
    with zipfile.ZipFile(io.BytesIO(exported(other))) as here, zipfile.ZipFile(io.BytesIO(exported(two))) as there:
        for name in ("measures_by_day.jsonl", "measures_by_week.jsonl", "notes_by_day.jsonl"):
            assert here.read(name) == there.read(name) != b""
    other.close()


def test_all_tables_move_but_those_that_belong_to_one_machine() -> None:
    assert {table.name for table in Base.metadata.sorted_tables} - {part.table.name for part in TABLES} == {
        "projection",
        "upkeep",
    }
    declared = {(part.table.name, name) for part in TABLES for name in part.values}
    named = {
        (table.name, column.name)
        for table in Base.metadata.sorted_tables
        for column in table.columns
        if column.name
        in (
            "settings",
            "setup",
            "params",
            "exercise",
            "terms",
            "state",
            "summary",
            "measures",
            "stats_json",
            "contents",
            "fact",
        )
    }
    assert named - {("goal", "state")} <= declared  # one word


def test_beside_what_is_there_nothing_is_overwritten_and_everything_counts(two: Application, tmp_path: Path) -> None:
    data = tmp_path / "two.zip"
    write_export(two.record, data)
    here = filled(tmp_path / "here", "Lowen Hext")
    bring_in(here.record, data)
    assert {person.name for person in here.players.all()} == {"Wenna Tull", "Piran Voss", "Lowen Hext"}
    wenna = next(person for person in here.players.all() if person.name == "Wenna Tull")
    entry = here.log.page(wenna.id).sessions[0]
    here.sessions.remark(entry.id, "mine stays")
    take = here.log.takes(entry.id)[0]
    here.takes.forget(take.id)
    again = bring_in(here.record, data)
    assert again.kept == {"sessions": 1}
    assert again.added["takes"] == 1
    assert here.log.session(entry.id).remark == "mine stays"
    assert here.record.sound_path(take.id).exists()
    assert check(here.record, mend=False) == ()
    assert bring_in(here.record, data).added == {}
    here.close()


@pytest.mark.parametrize(
    ("name", "change", "says"),
    [
        ("manifest.json", None, "no manifest"),
        ("manifest.json", b"[]", "manifest"),
        ("players.jsonl", b"{}\n", "not what its manifest"),
        ("../outside.txt", b"x", "no place"),
        ("takes.jsonl", None, "manifest"),
    ],
)
def test_a_damaged_export_is_refused_whole(
    two: Application, tmp_path: Path, name: str, change: bytes | None, says: str
) -> None:
    path = spoiled(exported(two), name, change, tmp_path / "bad.zip")
    fresh = Application(tmp_path / "fresh")
    with pytest.raises(InputError, match=says):
        bring_in(fresh.record, path)
    assert fresh.players.all() == ()
    assert not list((tmp_path / "fresh" / "takes").glob("*/*"))
    fresh.close()


@pytest.mark.parametrize(
    ("name", "line", "says"),
    [
        ("players.jsonl", b"not json\n", "Line 1 of players"),
        (
            "players.jsonl",
            b'{"id":"' + b"0" * 32 + b'","name":"n","standard":"developing","settings":{}}\n',
            "created_at",
        ),
        ("instruments.jsonl", b'{"surprise":1}\n', "surprise"),
        ("takes.jsonl", b'{"id":"' + b"0" * 32 + b'","player_id":7}\n', "takes, 0+: session_id cannot be used"),
        (
            "goals.jsonl",
            b'{"id":"' + b"0" * 32 + b'","player_id":"p","instrument":"tuba-eb","target":{"kind":"no"}}\n',
            "target cannot be used",
        ),
    ],
)
def test_values_that_cannot_be_are_named_and_nothing_is_brought_in(
    two: Application, tmp_path: Path, name: str, line: bytes, says: str
) -> None:
    path = agreeing(exported(two), name, line, tmp_path / "bad.zip")
    fresh = Application(tmp_path / "fresh")
    with pytest.raises(InputError, match=says):
        bring_in(fresh.record, path)
    assert fresh.players.all() == ()
    fresh.close()


def test_a_file_that_is_no_zip_and_one_that_was_cut_off_are_said(two: Application, tmp_path: Path) -> None:
    fresh = Application(tmp_path / "fresh")
    for number, data in enumerate((b"hello", exported(two)[:-500], b"")):
        path = tmp_path / f"{number}.zip"
        path.write_bytes(data)
        with pytest.raises(InputError, match="no export"):
            bring_in(fresh.record, path)
    fresh.close()


def test_copies_are_made_weekly_and_five_are_kept(
    two: Application, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    house = filled(tmp_path / "own", "Lowen Hext")
    assert len(backups(house.record.folder)) == 0  # nobody was there when it was opened
    assert weekly_backup(house.record) is not None
    assert weekly_backup(house.record) is None
    for week in range(1, 8):
        monkeypatch.setattr(clock, "AHEAD", timedelta(days=8 * week))
        assert weekly_backup(house.record) is not None
    assert len(backups(house.record.folder)) == 5
    copy = back_up(house.record)
    house.close()
    restored = tmp_path / "restored"
    restored.mkdir()
    (restored / "orexis.db").write_bytes(copy.read_bytes())
    again = Application(restored)
    assert [person.name for person in again.players.all()] == ["Lowen Hext"]
    again.close()


def test_a_check_says_what_is_wrong_and_mends_what_it_can(tmp_path: Path) -> None:
    house = filled(tmp_path, "Lowen Hext")
    player = house.players.all()[0].id
    takes = house.log.takes(house.log.page(player).sessions[0].id)
    house.record.sound_path(takes[0].id).unlink()
    house.record.sound_path(takes[1].id).write_bytes(b"fLaC and nothing")
    stray = house.record.sound_path("f" * 32)
    stray.parent.mkdir(parents=True, exist_ok=True)
    stray.write_bytes(b"fLaC")
    with house.record.database.writing() as db:
        db.execute(text("update practice_day set takes = 77"))
    found = {fault.says: fault.mended for fault in check(house.record, mend=False)}
    assert len(found) == 4
    assert not any(found.values())
    assert stray.exists()
    mended = check(house.record, mend=True)
    assert sum(fault.mended for fault in mended) == 2
    left = check(house.record, mend=False)
    assert sorted(" ".join(fault.says.split()[1:3]) for fault in left) == ["sound is", "take has"]
    assert (tmp_path / "set-aside" / stray.name).exists()
    house.close()


def test_sound_goes_only_as_it_was_chosen_and_is_said_before(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    house = filled(tmp_path, "Lowen Hext")
    person = house.players.all()[0]
    takes = house.log.takes(house.log.page(person.id).sessions[0].id)
    monkeypatch.setattr(clock, "AHEAD", START + timedelta(days=60) - datetime.now(UTC))
    now = sizes(house.record, person.id, Keeping.DAYS, 30)
    assert (now.takes, now.goes_takes) == (2, 2)
    assert now.size == sum(house.record.sound_path(take.id).stat().st_size for take in takes)
    assert sizes(house.record, person.id, Keeping.DAYS, 90).goes_takes == 0
    assert let_go(house.record) == 0
    house.takes.remark(takes[1].id, "the good one")
    house.players.change_settings(person.id, {"keeping": "milestones", "keeping_days": 30})
    told = sizes(house.record, person.id, Keeping.MILESTONES, 30)
    assert let_go(house.record) == told.goes_takes
    assert house.record.sound_path(takes[1].id).exists()
    house.players.change_settings(person.id, {"keeping": "days", "keeping_days": 30})
    let_go(house.record)
    assert not any(house.record.sound_path(take.id).exists() for take in takes)
    assert house.takes.get(takes[0].id).measures.notes
    assert check(house.record, mend=False) == ()  # what was let go by wish is not missing
    with pytest.raises(InputError, match="7 to 3650"):
        house.players.change_settings(person.id, {"keeping_days": 2})
    house.close()


def test_take_session_and_player_are_deleted_with_their_sound(tmp_path: Path) -> None:
    house = filled(tmp_path, "Lowen Hext", "Wenna Tull")
    first, second = house.players.all()
    entry = house.log.page(first.id).sessions[0]
    takes = house.log.takes(entry.id)
    house.takes.forget(takes[0].id)
    assert not house.record.sound_path(takes[0].id).exists()
    assert len(house.log.takes(entry.id)) == 1
    house.takes.forget_session(entry.id)
    assert house.log.page(first.id).total == 0
    assert check(house.record, mend=False) == ()
    house.forget_player(second.id)
    assert [person.id for person in house.players.all()] == [first.id]
    assert not list((tmp_path / "takes").glob("*/*.flac"))
    assert check(house.record, mend=False) == ()
    house.close()


def _moments(two: Application, data: Path, folder: Path) -> int:
    """How many steps an import tells of."""
    write_export(two.record, data)
    report: list[str] = []
    house = Application(folder)
    bring_in(house.record, data, report=report.append)
    house.close()
    return len(report)


def _sounds(house: Application) -> list[str]:
    return sorted(str(path.relative_to(house.record.folder)) for path in house.record.folder.glob("takes/*/*"))


def test_nobody_who_plays_waits_for_an_import(two: Application, tmp_path: Path) -> None:
    data = tmp_path / "two.zip"
    write_export(two.record, data)
    here = filled(tmp_path / "here", "Lowen Hext")
    (lowen,) = here.players.all()
    said = []

    def report(words: str) -> None:
        said.append(words)  # an import that kept the record to itself would let this wait until it gives up
        here.players.change_settings(lowen.id, {"mute": "cup mute" if len(said) % 2 else "none"})

    assert bring_in(here.record, data, report=report).added["takes"] == 4
    assert len(here.players.all()) == 3
    assert here.players.get(lowen.id).settings.mute == ("cup mute" if len(said) % 2 else "none")
    assert check(here.record, mend=False) == ()
    here.close()


@pytest.mark.parametrize("times", [1, 100])
def test_a_player_of_the_file_who_practises_meanwhile_loses_nothing(
    two: Application, tmp_path: Path, times: int
) -> None:
    data = tmp_path / "two.zip"
    write_export(two.record, data)
    here = Application(tmp_path / "here")
    bring_in(here.record, data)
    wenna = next(person for person in here.players.all() if person.name == "Wenna Tull")
    first, second = here.log.takes(here.log.page(wenna.id).sessions[0].id)
    here.takes.forget(first.id)
    calls = iter(range(times))

    def report(words: str) -> None:
        if words == "takes ..." and next(calls, None) is not None:
            here.marks.add(second.id, at_s=1.0, nearer=False, words="meanwhile", by="Wenna Tull")

    if times == 1:
        assert bring_in(here.record, data, report=report).added["takes"] == 1
    else:
        with pytest.raises(ConflictError, match="practising"):
            bring_in(here.record, data, report=report)
    assert {mark.words for mark in here.marks.of(second.id)} == {"meanwhile"}
    assert len(here.log.takes(here.log.page(wenna.id).sessions[0].id)) == (2 if times == 1 else 1)
    assert check(here.record, mend=False) == ()
    assert not list(here.record.folder.glob("*.import*"))
    here.close()


def test_an_import_stopped_on_the_way_leaves_nothing(two: Application, tmp_path: Path) -> None:
    data = tmp_path / "two.zip"
    steps = _moments(two, data, tmp_path / "whole")
    here = filled(tmp_path / "here", "Lowen Hext")
    before, sounds = exported(here), _sounds(here)
    for step in range(1, steps, steps // 5):
        job = Job(busy="An import is running.", stopped="Nothing was imported.")
        calls = iter(range(steps))

        def report(said: str, job: Job = job, calls: Iterator[int] = calls, step: int = step) -> None:
            if next(calls) == step:
                job.stop()
            job.report(said)

        with job.running(), pytest.raises(ConflictError, match="Nothing was imported"):
            bring_in(here.record, data, report=report)
        assert exported(here) == before
        assert _sounds(here) == sounds
    with job.running(), pytest.raises(ConflictError, match="is running"), job.running():
        pass
    here.close()


def test_an_import_killed_on_the_way_is_all_or_nothing(two: Application, tmp_path: Path) -> None:
    data = tmp_path / "two.zip"
    steps = _moments(two, data, tmp_path / "whole")
    here = filled(tmp_path / "here", "Lowen Hext")
    before = exported(here)
    here.close()
    for step in range(2, steps, steps // 5):
        child = os.fork()
        if child == 0:
            calls = iter(range(steps))
            bring_in(
                Record(tmp_path / "here"), data, report=lambda _, c=calls, s=step: os._exit(9) if next(c) == s else None
            )
            os._exit(0)
        assert os.waitstatus_to_exitcode(os.waitpid(child, 0)[1]) == 9
        again = Application(tmp_path / "here")
        assert exported(again) == before
        assert all(fault.mended for fault in check(again.record, mend=True))
        assert exported(again) == before
        again.close()
    house = Application(tmp_path / "here")
    assert bring_in(house.record, data).sounds == 4
    assert check(house.record, mend=False) == ()
    house.close()


def test_a_file_whose_bytes_are_not_those_of_its_manifest_is_refused(two: Application, tmp_path: Path) -> None:
    """One letter of a name changed in an archive that is whole: only the manifest's checksum tells."""
    data = exported(two)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        text = archive.read("players.jsonl")
    changed = text.replace(b"Wenna Tull", b"Wenna Toll")
    assert changed != text
    forged = spoiled(data, "players.jsonl", changed, tmp_path / "forged.zip")
    assert zipfile.ZipFile(forged).testzip() is None
    other = Application(tmp_path / "other")
    with pytest.raises(InputError, match="checksum"):
        bring_in(other.record, forged)
    assert other.players.all() == ()
    other.close()


@pytest.mark.parametrize("kind", ["sound of zeros", "line that unpacks", "sound that nobody names", "no room"])
def test_a_small_file_costs_no_large_amount(
    two: Application, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, kind: str
) -> None:
    data = exported(two)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        files = {name: archive.read(name) for name in archive.namelist() if name != "manifest.json"}
        manifest = json.loads(archive.read("manifest.json"))
    sound = next(name for name in files if name.startswith("sound/"))
    if kind == "sound of zeros":
        files[sound] = b"fLaC" + bytes(50_000_000)
    elif kind == "line that unpacks":
        files["players.jsonl"] += b'{"id": "' + b" " * 30_000_000 + b'"}\n'
    elif kind == "sound that nobody names":
        files[f"sound/ff/{'f' * 32}.flac"] = files[sound]
    else:
        monkeypatch.setattr("orexis.services.archive.importer._LEAST_FREE", 1 << 60)
    manifest["files"] = {
        name: {"size": len(content), "sha256": hashlib.sha256(content).hexdigest()} for name, content in files.items()
    }
    path = tmp_path / "bomb.zip"
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as made:
        for name, content in {**files, "manifest.json": json.dumps(manifest).encode()}.items():
            made.writestr(name, content, zipfile.ZIP_STORED if kind == "no room" else None)
    assert path.stat().st_size < 8_000_000
    record = Record(tmp_path / "here")
    with pytest.raises((InputError, StorageError), match=r"Nothing was imported|unpacks"):
        bring_in(record, path, report=lambda _: None)
    assert not list((tmp_path / "here" / "takes").glob("*/*"))
    record.close()
