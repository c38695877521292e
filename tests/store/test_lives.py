"""The life of a take: killed at any moment, judged by what its session froze, proving nothing once it is thrown away."""

import json
import threading
import time
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pytest

from benchmarks.scale import counted, filled, pages
from orexis.core.coach import RangeNote
from orexis.core.instruments import Setup
from orexis.core.player import parse_flaws, play
from orexis.core.practice import Event, EventName, Phase
from orexis.errors import ConflictError, InputError
from orexis.services.application import Application
from orexis.services.clock import local_day, now
from orexis.services.documents import from_json
from orexis.services.journal import TakeHead
from orexis.services.takes import life
from orexis.services.values.takes import Take
from orexis.store.models import RangeNoteRow, TimbreRow

KEY = "e" * 32


class Killed(BaseException):
    """What a kill of the process looks like from inside."""


def opened(house: Application, exercise_type: str = "two-partial-slur", **params: str) -> str:
    people = house.players.all()
    player = people[0] if people else house.players.add(name="Wim", standard="developing", instrument="tuba-eb")
    return house.sessions.open(player.id, exercise_type, params).id


def taken(house: Application, session: str, *flaws: str, at: datetime | None = None) -> Take:
    sound, _ = play(house.sessions.get(session).exercise, flaws=parse_flaws(flaws), seed=1)
    return house.takes.whole(session, sound, source="simulated", first_beat_sample=0, device={"label": "x"}, at=at)


def journalled(house: Application, session: str, key: str = KEY, *, seconds: float = 9.0) -> None:
    """A take that was being heard when the process ended."""
    sound, _ = play(house.sessions.get(session).exercise, seed=1)
    head = TakeHead(key, session, sound.rate, 0, "microphone", {"label": "x"}, now().isoformat())
    file = house.record.journal.open(head)
    file.append(sound.samples[: round(seconds * sound.rate)])
    file.close()
    house.sessions.step(session, Event(EventName.BEGIN, key))


def restarted(house: Application) -> Application:
    folder = house.record.folder
    house.close()
    return Application(folder)


def recovered(house: Application) -> Application:
    again = restarted(house)
    for key in again.left_over():
        again.recover(key)
    again.free_the_stuck()
    return again


# -- killed --------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("where", ["judged", "keep", "remove"])
def test_killed_while_a_file_is_judged_it_is_judged_at_the_next_start(
    house: Application, monkeypatch: pytest.MonkeyPatch, where: str
) -> None:
    session = opened(house)

    def killed(*args: object, **more: object) -> None:
        raise Killed

    if where == "judged":
        monkeypatch.setattr(life, "judged", killed)
    elif where == "keep":
        monkeypatch.setattr(house.takes, "_keep", killed)
    else:
        monkeypatch.setattr(house.record.journal, "remove", killed)
    with pytest.raises(Killed):
        taken(house, session)
    monkeypatch.undo()
    again = recovered(house)
    state = again.sessions.get(session).state
    assert (state.phase, len(state.takes)) == (Phase.VERDICT, 1)
    take = again.takes.get(state.takes[0].take_id)
    assert take.recovered == (where != "remove")
    assert again.left_over() == ()
    assert len(again.log.takes(session)) == 1
    again.close()


@pytest.mark.parametrize(
    "head", [b"", b"{", b"[]", b'{"take_id": 1}', None], ids=["empty", "cut", "list", "odd", "whole"]
)
def test_a_damaged_head_ends_nobody_elses_recovery(house: Application, head: bytes | None) -> None:
    damaged, other = opened(house), opened(house)
    journalled(house, damaged, "a" * 32)
    journalled(house, other, "b" * 32)
    if head is not None:
        (house.record.folder / "journal" / f"{'a' * 32}.json").write_bytes(head)
    again = recovered(house)
    assert again.takes.get("b" * 32).recovered
    assert again.sessions.get(other).state.phase == Phase.VERDICT
    broken = [item.take_id for item in again.broken()]
    if head is None:
        assert broken == []
        assert again.takes.get("a" * 32).recovered
    else:
        assert broken == ["a" * 32]
        assert (again.record.folder / "journal" / "broken" / f"{'a' * 32}.f32").stat().st_size > 100_000
        assert again.sessions.get(damaged).state.phase == Phase.PREVIEW  # it goes back to its exercise
    assert again.left_over() == ()
    again.close()


def test_a_take_that_was_finished_while_others_were_recovered_is_not_called_broken(house: Application) -> None:
    """The list of takes left over is made once; one of them may be kept by the page before its turn comes."""
    journalled(house, opened(house), "a" * 32)
    [key] = house.left_over()
    house.record.journal.remove(key)
    assert house.recover(key) is None
    assert house.broken() == ()


def test_a_session_that_waits_for_a_take_that_is_nowhere_goes_back_to_its_exercise(house: Application) -> None:
    session = opened(house)
    for name in (EventName.BEGIN, EventName.COUNTED_IN, EventName.ENDED):
        house.sessions.step(session, Event(name, KEY))
    again = recovered(house)
    assert again.sessions.get(session).state.phase == Phase.PREVIEW
    assert taken(again, session).verdict.outcome == "clean"
    again.close()


def test_too_short_a_scrap_is_forgotten(house: Application) -> None:
    session = opened(house)
    journalled(house, session, seconds=0.2)
    again = recovered(house)
    assert (again.left_over(), again.broken()) == ((), ())
    assert again.sessions.get(session).state.phase == Phase.PREVIEW
    again.close()


def test_a_take_begun_twice_is_one_take_and_one_that_is_kept_is_not_begun_again(house: Application) -> None:
    session = opened(house)
    head = TakeHead(KEY, session, 44_100, 0, "microphone", {}, now().isoformat())
    first = house.takes.begin(head)
    assert house.takes.begin(head) is first
    other = TakeHead("f" * 32, session, 44_100, 0, "microphone", {}, now().isoformat())
    with pytest.raises(ConflictError):
        house.takes.begin(other)
    assert not house.record.journal.has("f" * 32)
    sound, _ = play(house.sessions.get(session).exercise, seed=1)
    first.accept(0, sound.samples[:40_000])
    assert house.takes.end(session) is not None
    assert house.takes.end(session) is None
    with pytest.raises(ConflictError, match="saved already"):
        house.takes.begin(head)


def test_a_take_that_is_dropped_leaves_nothing_behind(house: Application) -> None:
    session = opened(house)
    house.takes.begin(TakeHead(KEY, session, 44_100, 0, "microphone", {}, now().isoformat()))
    house.takes.happen(session, Event(EventName.DROP))
    assert house.takes.under_way(session) is None
    assert house.left_over() == ()


# -- what it is judged by ------------------------------------------------------------------------------------------


def test_a_session_keeps_the_terms_it_was_opened_with(house: Application) -> None:
    session = opened(house, "step-ladder", start="Eb3", steps="2")
    player = house.players.all()[0]
    house.players.change_instrument(player.id, Setup(room_c=30.0))
    house.players.change_settings(
        player.id, {"limits": {"pitch_error_cents": 1.0}, "approaches": {"body": "sound-only"}}
    )
    house.players.change(
        player.id, name="Wim", standard="professional", instrument="trumpet-bb", part=None, a4_hz=443.0
    )
    take = taken(house, session)
    assert (take.instrument, take.part, take.a4_hz, take.standard) == ("tuba-eb", "bass", 440.0, "developing")
    assert take.limits["pitch_error_cents"] == 15.0
    assert house.range_summary(house.players.all()[0]).range_notes == {}  # nothing on the trumpet's
    house.players.change(player.id, name="Wim", standard="developing", instrument="tuba-eb", part=None, a4_hz=440.0)
    assert house.range_summary(house.players.all()[0]).range_notes[51].state == "reaching"
    later = house.sessions.open(player.id, "step-ladder", {"start": "Eb3", "steps": "2"})
    assert (later.terms.limits["pitch_error_cents"], later.terms.setup.room_c) == (1.0, 30.0)


def test_settings_that_are_changed_at_once_do_not_undo_each_other(house: Application) -> None:
    opened(house)
    player = house.players.all()[0].id
    changes = [{"braces": True}, {"tempo_steps": True}, {"quiet_from": 21}, {"spoken": True}]
    threads = [threading.Thread(target=house.players.change_settings, args=(player, change)) for change in changes]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    settings = house.players.get(player).settings
    assert (settings.braces, settings.tempo_steps, settings.quiet_from, settings.spoken) == (True, True, 21, True)
    for change, says in (({"brace": True}, "no setting"), ({"start": "now"}, "start"), ({"quiet_from": 24}, "0 to 23")):
        with pytest.raises(InputError, match=says):
            house.players.change_settings(player, change)


def test_a_take_that_is_thrown_away_proves_nothing(house: Application) -> None:
    player_days = []
    for day in (1, 2, 3):
        session = opened(house, "step-ladder", start="Eb3", steps="2")
        player_days.append(taken(house, session, at=datetime(2026, 3, day, 12, tzinfo=UTC)))
    player = house.players.all()[0]
    assert house.range_summary(player).range_notes[51].state == "in_range"
    house.takes.discard(player_days[1].id, discarded=True)
    range_note = house.range_summary(player).range_notes[51]
    assert (range_note.state, range_note.days_held) == ("reaching", 2)
    house.takes.discard(player_days[1].id, discarded=False)
    assert house.range_summary(player).range_notes[51].state == "in_range"
    # Nor is it one of the session's misses any more.
    session = opened(house)
    missed = taken(house, session, "gap=200ms@n2")
    assert house.sessions.get(session).state.failures == 1
    house.takes.discard(missed.id, discarded=True)
    assert house.sessions.get(session).state.failures == 0


def test_a_mouthpiece_buzz_is_no_sound_to_match(house: Application) -> None:
    taken(house, opened(house, "buzz-answer"))
    with house.record.database.reading() as db:
        assert db.query(TimbreRow).count() == 0
    taken(house, opened(house, "long-low-tones"))
    with house.record.database.reading() as db:
        assert db.query(TimbreRow).count() == 1


@pytest.fixture
def auckland(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    monkeypatch.setenv("TZ", "Pacific/Auckland")
    time.tzset()
    yield
    monkeypatch.undo()
    time.tzset()


def test_a_day_is_the_one_on_the_wall(house: Application, auckland: None) -> None:
    """Eleven at night and one in the morning are two days, however UTC counts them."""
    evening, night = datetime(2026, 6, 10, 11, 0, tzinfo=UTC), datetime(2026, 6, 10, 13, 0, tzinfo=UTC)
    assert local_day(night) == local_day(evening) + 1
    for at in (evening, night):
        taken(house, opened(house, "step-ladder", start="Eb3", steps="2"), at=at)
    with house.record.database.reading() as db:
        range_note = from_json(
            RangeNote, db.get_one(RangeNoteRow, (house.players.all()[0].id, "tuba-eb", 51)).range_note
        )
    assert range_note.clean_days == [local_day(evening), local_day(night)]


# -- a record that scales ------------------------------------------------------------------------------------------


def test_reading_waits_for_no_writer(house: Application) -> None:
    session = opened(house)
    with house.record.database.writing() as db:
        db.query(TimbreRow).delete()
        start = time.perf_counter()
        house.sessions.get(session)
        house.log.page(house.players.all()[0].id)
        assert time.perf_counter() - start < 2.0  # a writer would be waited for for ten seconds


def test_a_page_asks_as_often_whatever_there_is_in_the_record(tmp_path: Path) -> None:
    few, many = filled(tmp_path / "few", 1, takes=4), filled(tmp_path / "many", 12, takes=12)
    asked = pages(*few), pages(*many)
    for name in asked[0]:
        statements = []
        for (house, _), page in zip((few, many), asked, strict=True):
            page[name]()
            with counted(house) as said:
                page[name]()
            statements.append(len(said))
        assert statements[0] == statements[1], name
    assert len(many[0].range_summary(many[1]).history) > 5
    for house, _ in (few, many):
        house.close()


def test_the_log_is_paged(tmp_path: Path) -> None:
    house, player = filled(tmp_path, 23, takes=2)
    pages_ = [house.log.page(player.id, offset=offset) for offset in (0, 10, 20, 30)]
    assert [len(page.sessions) for page in pages_] == [10, 10, 3, 0]
    assert {page.total for page in pages_} == {23}
    moments = [entry.started_at for page in pages_ for entry in page.sessions]
    assert moments == sorted(moments, reverse=True)
    house.close()


def test_a_full_journal_says_so_and_goes_on_when_there_is_room(
    house: Application, monkeypatch: pytest.MonkeyPatch
) -> None:
    session = opened(house)
    sound, _ = play(house.sessions.get(session).exercise, seed=1)
    real = type(house.record.journal)._path
    monkeypatch.setattr(house.record.journal, "_path", lambda key, suffix: Path("/proc/nowhere") / f"{key}.{suffix}")
    with pytest.raises(Exception, match="disk may be full"):
        house.takes.whole(session, sound, source="file", first_beat_sample=None, device={})
    assert house.sessions.get(session).state.phase == Phase.PREVIEW
    monkeypatch.setattr(house.record.journal, "_path", lambda key, suffix: real(house.record.journal, key, suffix))
    assert (
        house.takes.whole(session, sound, source="file", first_beat_sample=None, device={}).verdict.outcome == "clean"
    )


def test_heads_are_written_whole(house: Application) -> None:
    session = opened(house)
    journalled(house, session)
    head = json.loads((house.record.folder / "journal" / f"{KEY}.json").read_text())
    assert head["session_id"] == session
    assert not list((house.record.folder / "journal").glob("*.part"))
    assert len(house.record.journal.sound(KEY).samples) == 9 * 44_100
    assert np.isfinite(house.record.journal.sound(KEY).samples).all()
