"""Summaries cannot contradict the takes: whatever was done in whatever order, they are what a rebuild makes of them."""

import random
import shutil
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, timedelta
from functools import cache
from pathlib import Path
from typing import Any

import pytest
from sqlalchemy import select, text
from sqlalchemy.orm import Session

from orexis.core.coach import RangeNote
from orexis.core.exercises import Exercise
from orexis.core.instruments import Setup, instrument_named
from orexis.core.measures import Measures
from orexis.core.practice import Event, EventName, SessionState
from orexis.core.progress import PathPosition, path_of
from orexis.core.rehearsal import flawless
from orexis.core.theory import parse_pitch
from orexis.services.application import Application
from orexis.services.archive import bring_in, check, write_export
from orexis.services.documents import Params, from_json, to_json
from orexis.services.projections.rebuild import rebuild
from orexis.services.projections.registry import PROJECTIONS
from orexis.services.projections.sessions import rebuild_sessions
from orexis.services.takes import life
from orexis.services.values.players import Player
from orexis.store.models import ExerciseTypeDayRow, PathPlaceRow, PracticeDayRow, RangeNoteRow, SessionRow, TakeRow
from tests.conftest import some

START = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)
# A ladder of single notes, a line, a mouthpiece, and low work, so that every summary has something in it.
PLAYED = (
    ("step-ladder", {"start": "Eb3", "steps": "2"}),
    ("two-partial-slur", {"fingering": "few"}),
    ("siren", {"interval": "7", "widest": "7", "beats": "4"}),
    ("falling-scale", {"keys": "1"}),
)
COMPARED: dict[Any, frozenset[str]] = {table: frozenset() for item in PROJECTIONS for table in item.tables} | {
    SessionRow: frozenset({"owner", "rest_since", "endurance"}),
    TakeRow: frozenset(),
}


@cache
def as_played(text: str, fails: bool) -> Measures:
    """How an exercise comes out: clean, or with its first notes 60 cents flat."""
    clean = flawless(from_json(Exercise, text))
    if not fails:
        return clean
    flat = tuple(
        replace(note, pitch_error_cents=-60.0, judged_error_cents=-60.0)
        if at < 2 and note.pitch_error_cents is not None
        else note
        for at, note in enumerate(clean.notes)
    )
    return replace(clean, notes=flat, exercise=replace(clean.exercise, siren_jump_cents=900.0, siren_breaks=3))


def playing(*, fails: bool) -> Callable[[Exercise], Measures]:
    return lambda exercise: as_played(to_json(exercise), fails)


@contextmanager
def for_a_look(house: Application) -> Iterator[Session]:
    """A transaction of which nothing stays."""
    with house.record.database.writing() as db:
        yield db
        db.rollback()


def rows_of(db: Session, player_id: str) -> dict[str, list[tuple[Any, ...]]]:
    """Everything that is a summary, table by table, without the database's own numbers."""
    out = {}
    for table, left_out in COMPARED.items():
        columns = [c for c in table.__table__.columns if c.name not in {"from_midi"} | left_out]
        if table.__tablename__ == "range_attempt":
            columns = [c for c in columns if c.name != "id"]
        query = select(*columns).where(table.__table__.c.player_id == player_id)
        out[table.__tablename__] = sorted((tuple(row) for row in db.execute(query)), key=repr)
    return out


def assert_as_rebuilt(house: Application, player: Player, done: list[str]) -> None:
    with for_a_look(house) as db:
        before = rows_of(db, player.id)
        rebuild(db, player_ids=frozenset({player.id}))
        rebuild_sessions(db, frozenset({player.id}))
        db.flush()
        after = rows_of(db, player.id)
    for table, rows in after.items():
        assert before[table] == rows, f"{table} after {done}"


@dataclass
class Life:
    """One player and what happens to them."""

    house: Application
    chance: random.Random
    folder: Path
    player: Player
    takes: list[str] = field(default_factory=list)
    done: list[str] = field(default_factory=list)

    def act(self) -> None:
        acts = {
            self.play: 6,
            self.discard: 3,
            self.restore: 3,
            self.forget: 1,
            self.set_level: 1,
            self.own_range: 1,
            self.mend: 1,
            self.move: 0.3,
        }
        act = self.chance.choices(tuple(acts), tuple(acts.values()))[0]
        self.done.append(act.__name__)
        act()

    def play(self) -> None:
        """On any of eight days, so that many come later than what is known already."""
        exercise_type, params = self.chance.choice(PLAYED)
        at = START + timedelta(days=self.chance.randrange(8), minutes=self.chance.randrange(180))
        session = self.house.sessions.open(self.player.id, exercise_type, params, at=at, anyway=True)
        for number in range(self.chance.randint(1, 2)):
            fails = self.chance.random() < 0.3
            made = self.house.takes.measured(session.id, playing(fails=fails), at=at + timedelta(minutes=1 + number))
            self.takes.append(made.id)
            if self.house.takes.happen(session.id, Event(EventName.NEXT)).phase == "done":
                break

    def _any_take(self) -> str | None:
        return self.chance.choice(self.takes) if self.takes else None

    def discard(self) -> None:
        if take := self._any_take():
            self.house.takes.discard(take, discarded=True)

    def restore(self) -> None:
        if take := self._any_take():
            self.house.takes.discard(take, discarded=False)

    def forget(self) -> None:
        if take := self._any_take():
            self.house.takes.forget(take)
            self.takes.remove(take)

    def set_level(self) -> None:
        at = START + timedelta(days=self.chance.randrange(10))
        self.house.planning.set_step(self.player.id, "siren", self.chance.randrange(6), at=at)

    def own_range(self) -> None:
        low, high = self.chance.choice(((None, None), ("Bb1", None), (None, "Bb3"), ("C2", "F4")))
        setup = Setup(lowest=parse_pitch(low) if low else None, highest=parse_pitch(high) if high else None)
        self.player = self.house.players.change_instrument(self.player.id, setup)

    def mend(self) -> None:
        with self.house.record.database.writing() as db:
            rebuild(db, player_ids=frozenset({self.player.id}))
            rebuild_sessions(db, frozenset({self.player.id}))

    def move(self) -> None:
        """Out into a file and in again, with a take less in between."""
        path = self.folder / "out.zip"
        write_export(self.house.record, path)
        self.forget()
        bring_in(self.house.record, path)
        with self.house.record.database.reading() as db:
            self.takes = list(db.scalars(select(TakeRow.id).where(TakeRow.player_id == self.player.id)))


@pytest.mark.parametrize("batch", some(range(25), 1))
def test_any_interleaving_ends_in_the_tables_of_a_rebuild(house: Application, tmp_path: Path, batch: int) -> None:
    """Twenty lives at a time, each of a player of their own."""
    for number in range(20):
        chance = random.Random(1000 * batch + number)
        player = house.players.add(name=f"Wim {number}", standard="developing", instrument="tuba-eb")
        life = Life(house, chance, tmp_path, player)
        for _ in range(chance.randint(3, 9)):
            life.act()
        assert_as_rebuilt(house, life.player, [f"seed {1000 * batch + number}", *life.done])
        house.forget_player(life.player.id)


@pytest.fixture
def practised(tmp_path: Path, three_days: Life) -> Iterator[Life]:
    """A player with every kind of summary."""
    shutil.copytree(three_days.folder, tmp_path / "data")
    house = Application(tmp_path / "data")
    yield replace(three_days, house=house, chance=random.Random(5), folder=tmp_path, takes=list(three_days.takes))
    house.close()


@pytest.fixture(scope="module")
def three_days(tmp_path_factory: pytest.TempPathFactory) -> Life:
    """Three days, all exercises; its house is closed."""
    folder = tmp_path_factory.mktemp("three-days")
    house = Application(folder)
    player = house.players.add(name="Wim Olde", standard="developing", instrument="tuba-eb")
    life = Life(house, random.Random(5), folder, player)
    for day in range(3):
        for exercise_type, params in PLAYED:
            at = START + timedelta(days=day)
            session = house.sessions.open(player.id, exercise_type, params, at=at, anyway=True)
            for number in range(2):
                made = house.takes.measured(session.id, playing(fails=False), at=at + timedelta(minutes=1 + number))
                life.takes.append(made.id)
                if house.takes.happen(session.id, Event(EventName.NEXT)).phase == "done":
                    break
    house.close()
    return life


def test_a_take_discarded_in_one_window_while_another_is_kept_counts_nowhere(
    practised: Life, monkeypatch: pytest.MonkeyPatch
) -> None:
    house, player = practised.house, practised.player
    first = practised.takes[0]
    session = house.sessions.open(player.id, *PLAYED[0], at=START + timedelta(days=3), anyway=True)
    stepped = life.step

    def meanwhile(*given: Any) -> Any:
        """After the take was judged, and before it is written."""
        window = threading.Thread(target=house.takes.discard, args=(first,), kwargs={"discarded": True})
        window.start()
        window.join()
        monkeypatch.setattr(life, "step", stepped)
        return stepped(*given)

    def played(exercise: Exercise) -> Measures:
        monkeypatch.setattr(life, "step", meanwhile)
        return playing(fails=False)(exercise)

    house.takes.measured(session.id, played, at=START + timedelta(days=3, minutes=1))
    assert_as_rebuilt(house, player, ["discarded while another was kept"])
    with house.record.database.reading() as db:
        assert first not in [
            from_json(RangeNote, text).best_take for text in db.scalars(select(RangeNoteRow.range_note))
        ]


def test_a_rebuild_takes_each_day_by_the_terms_under_which_it_was_played(house: Application) -> None:
    """Who had set their own top and bottom stays on the same level."""
    player = house.players.add(name="Wim Olde", standard="advanced", instrument="tuba-eb")
    house.players.change_instrument(player.id, Setup(lowest=parse_pitch("C2"), highest=parse_pitch("Bb3")))
    player = house.players.get(player.id)
    own = path_of("falling-scale", player.own_instrument)
    assert own is not None
    assert len(own.steps) != len(path_of("falling-scale", instrument_named("tuba-eb")).steps)  # type: ignore[union-attr]
    for day in range(5):
        step = house.planning.paths(player.id, at=START + timedelta(days=day))
        params = next(dict(own.steps[item.step].params) for item in step if item.exercise_type == "falling-scale")
        session = house.sessions.open(player.id, "falling-scale", params, at=START + timedelta(days=day), anyway=True)
        for number in range(12):
            at = START + timedelta(days=day, minutes=1 + number)
            house.takes.measured(session.id, playing(fails=False), at=at)
            if house.takes.happen(session.id, Event(EventName.NEXT)).phase == "done":
                break
    moved = level_of(house, player, "falling-scale")
    assert moved.step > round(0.35 * (len(own.steps) - 1))  # three days held opened the next
    with house.record.database.writing() as db:
        rebuild(db)
    assert level_of(house, player, "falling-scale") == moved


def level_of(house: Application, player: Player, exercise_type: str) -> PathPosition:
    with house.record.database.reading() as db:
        text = db.scalar(
            select(PathPlaceRow.standing).where(
                PathPlaceRow.player_id == player.id, PathPlaceRow.exercise_type == exercise_type
            )
        )
    return from_json(PathPosition, text or "")


SPOILED = (
    ("evidence", "UPDATE range_attempt SET clean = 1 - clean"),
    ("evidence", "INSERT INTO timbre (take_id, player_id, instrument, source, device_key, started_at, clean, away, timbre) "
     "SELECT id, player_id, instrument, source, 'x', started_at, 1, 0.5, '{}' FROM take LIMIT 1"),
    ("evidence", "UPDATE take SET load = load + 1"),
    ("ranges", "DELETE FROM range_note WHERE midi = (SELECT min(midi) FROM range_note)"),
    ("ranges", "UPDATE range_day SET high = 99"),
    ("practice days", "UPDATE practice_day SET clean = clean + 1"),
    ("practice days", "INSERT INTO practice_day (player_id, instrument, day, takes, clean, playing_s, load) "
     "SELECT id, 'tuba-eb', 5, 1, 1, 1, 1 FROM player"),
    ("measures by day", "DELETE FROM measures_of_day"),
    ("measures by day", "UPDATE measures_of_week SET day = day - 7"),
    ("notes by day", "UPDATE notes_of_day SET stats_json = '[]'"),
    ("levels", "DELETE FROM exercise_type_day WHERE exercise_type = 'siren'"),
    ("levels", "UPDATE path_place SET standing = NULL"),
    ("sessions", "UPDATE session SET played = 0"),
)  # fmt: skip


@pytest.mark.parametrize(("name", "spoiling"), SPOILED)
def test_the_check_says_which_summary_is_wrong_and_mends_it(practised: Life, name: str, spoiling: str) -> None:
    house = practised.house
    with house.record.database.writing() as db:
        db.execute(text(spoiling))
        is_changed = rows_of(db, practised.player.id)
    said = [fault.says for fault in check(house.record, mend=False) if "the takes say" in fault.says]
    assert [line.split(":")[0] for line in said] == [name]
    with house.record.database.reading() as db:
        assert rows_of(db, practised.player.id) == is_changed  # looking changes nothing
    assert check(house.record, mend=True)[0].mended
    assert not [fault for fault in check(house.record, mend=False) if "the takes say" in fault.says]
    assert_as_rebuilt(house, practised.player, [spoiling])


def test_each_day_is_of_the_kind_that_its_own_sessions_were_planned_as(practised: Life) -> None:
    house, player = practised.house, practised.player
    with house.record.database.writing() as db:
        sessions = db.query(SessionRow).order_by(SessionRow.started_at).all()
        days = sorted({session.started_at.date() for session in sessions})
        kinds = dict(zip(days, ("heavy", None, "light"), strict=True))
        for session in sessions:
            kind = kinds[session.started_at.date()]
            session.params = to_json({"kind": kind} if kind else {}, Params)
        db.flush()
        rebuild(db, player_ids=frozenset({player.id}))
        found = {row.day: row.kind for row in db.query(PracticeDayRow)}
    assert found == {day.toordinal(): kind for day, kind in kinds.items()}


def test_check_notes_of_an_older_record_count_for_no_level(house: Application) -> None:
    """Takes from before facts were kept get theirs; check notes do not, because they prove nothing."""
    player = house.players.add(name="Wim Olde", standard="developing", instrument="tuba-eb")
    session = house.sessions.open_day(player.id, 15, at=START)
    check_note = house.takes.measured(session.id, playing(fails=False), at=START + timedelta(minutes=1)).id
    house.takes.happen(session.id, Event(EventName.SKIP))
    house.takes.happen(session.id, Event(EventName.NEXT))
    with house.record.database.writing() as db:
        state = from_json(SessionState, db.get_one(SessionRow, session.id).state)
        assert [take.check for take in state.takes] == [True]
        db.execute(text("UPDATE take SET fact = NULL"))
        rebuild(db)
        assert db.get_one(TakeRow, check_note).fact is None
        assert db.query(ExerciseTypeDayRow).all() == []
