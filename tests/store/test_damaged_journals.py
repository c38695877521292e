"""Sound that is no sound, and journals that were damaged: each is finished or set aside, and none holds the others up."""

import json
import shutil
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest

from orexis.core.player import play
from orexis.core.practice import OPEN_PHASES
from orexis.errors import MissingError, SoundError
from orexis.services.application import Application
from orexis.services.journal import TakeHead
from orexis.services.takes import life
from tests.conftest import exercise_of


def head_of(session: str, key: str, rate: int = 44_100, first: int | None = 0) -> TakeHead:
    return TakeHead(key, session, rate, first, "microphone", {"label": "test"}, "2026-03-02T18:00:00+00:00")


def begun(house: Application, key: str, *, bad: float | None = None, seconds: float = 60.0) -> str:
    """A session with a take under way that has all its sound, or the first seconds of it; `bad`: one sample in it."""
    person = house.players.add(name="Wim Olde", standard="developing", instrument="tuba-eb", part="bass", a4_hz=440.0)
    session = house.sessions.open(person.id, "long-low-tones", {})
    sound, _ = play(exercise_of("tuba-eb", "long-low-tones"), seed=1)
    take = house.takes.begin(head_of(session.id, key, sound.rate))
    samples = sound.samples[: round(seconds * sound.rate)].copy()
    if bad is not None:
        samples[len(samples) // 2] = bad
    block = sound.rate // 2
    for start in range(0, len(samples), block):
        take.accept(start, samples[start : start + block])
    return session.id


@pytest.mark.parametrize("bad", [float("nan"), float("inf"), float("-inf"), 3e38])
def test_one_sample_that_is_no_number_changes_nothing(tmp_path: Path, bad: float) -> None:
    house = Application(tmp_path)
    session = begun(house, "a" * 32, bad=bad)
    made = house.takes.end(session)
    assert made is not None
    assert made.verdict.outcome in ("clean", "close", "not_yet")
    assert house.sessions.get(session).state.phase not in OPEN_PHASES
    house.close()


def _rewritten(**changes: object) -> Callable[[Path, str], None]:
    def change(folder: Path, key: str) -> None:
        path = folder / "journal" / f"{key}.json"
        path.write_text(json.dumps(json.loads(path.read_text()) | changes))

    return change


def _replaced(suffix: str, data: bytes) -> Callable[[Path, str], None]:
    return lambda folder, key: (folder / "journal" / f"{key}.{suffix}").write_bytes(data) and None


def _with_bad_sample(folder: Path, key: str) -> None:
    path = folder / "journal" / f"{key}.f32"
    samples = np.fromfile(path, "<f4")
    samples[100] = np.nan
    samples.tofile(path)


DAMAGES: dict[str, Callable[[Path, str], None]] = {
    "no number": _with_bad_sample,
    "all infinite": _replaced("f32", np.full(80_000, np.inf, "<f4").tobytes()),
    "noise of bytes": _replaced("f32", np.random.default_rng(0).bytes(400_001)),
    "empty sound": _replaced("f32", b""),
    "head is no JSON": _replaced("json", b"{"),
    "head is no text": _replaced("json", b"\xff\xfe\x00"),
    "head is a list": _replaced("json", b"[]"),
    "head is empty": _replaced("json", b""),
    "rate is a word": _rewritten(rate="fast"),
    "rate is 1": _rewritten(rate=1),
    "rate is huge": _rewritten(rate=10**12),
    "another key": _rewritten(take_id="../../x"),
    "no such session": _rewritten(session_id="f" * 32),
    "session is a number": _rewritten(session_id=7),
    "time is none": _rewritten(started_at="yesterday"),
    "time without a zone": _rewritten(started_at="2026-03-02T18:00:00"),
    "beat far away": _rewritten(first_beat_sample=10**15),
    "device is a list": _rewritten(device=[1]),
    "a field too many": _rewritten(more=1),
}


@pytest.fixture(scope="module")
def three_begun(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, list[str], list[str]]:
    """A record as a crash leaves it: three takes under way; their keys and sessions."""
    folder, keys = tmp_path_factory.mktemp("begun"), ["a" * 32, "b" * 32, "c" * 32]
    house = Application(folder)
    sessions = [begun(house, key, seconds=4.0) for key in keys]
    house.close()
    return folder, keys, sessions


@pytest.mark.parametrize("damage", DAMAGES.values(), ids=DAMAGES.keys())
def test_a_damaged_journal_holds_nothing_up(
    tmp_path: Path, three_begun: tuple[Path, list[str], list[str]], damage: Callable[[Path, str], None]
) -> None:
    folder, keys, sessions = three_begun
    shutil.copytree(folder, tmp_path, dirs_exist_ok=True)
    damage(tmp_path, keys[1])
    house = Application(tmp_path)
    for key in house.left_over():
        house.recover(key)
    house.free_the_stuck()
    assert [house.takes.kept(key) for key in (keys[0], keys[2])] == [True, True]
    assert all(house.sessions.get(session).state.phase not in OPEN_PHASES for session in sessions)
    assert house.left_over() == ()
    kept = house.takes.kept(keys[1])
    aside = any(one.take_id == keys[1] for one in house.broken())
    gone = not (tmp_path / "journal" / f"{keys[1]}.json").exists()
    assert kept or aside or gone
    house.close()


def test_what_cannot_be_judged_is_set_aside_and_the_session_goes_on(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    house = Application(tmp_path)
    session = begun(house, "a" * 32)

    def breaks(_: object) -> None:
        raise ZeroDivisionError("a mistake of ours")

    monkeypatch.setattr(life, "judged", breaks)
    with pytest.raises(SoundError, match="set aside"):
        house.takes.end(session)
    assert house.sessions.get(session).state.phase not in OPEN_PHASES
    assert [(one.take_id, one.why) for one in house.broken()] == [
        ("a" * 32, "Orexis itself failed on it (ZeroDivisionError: a mistake of ours).")
    ]
    sound = tmp_path / "journal" / "broken" / f"{'a' * 32}.f32"
    house.seen("a" * 32)
    assert house.broken() == (), "a notice that was read is told no more"
    assert sound.stat().st_size > 100_000
    with pytest.raises(MissingError):
        house.seen("a" * 32)
    house.close()
