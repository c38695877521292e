"""The ear gets ready in other processes once after installing; what is played meanwhile is kept, and heard then."""

import os
import subprocess
import sys
import threading
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from orexis.core.trace import Tracker, joined
from orexis.services import compiling as loops
from orexis.services.ear import Ear, PatientTracker


class Compiling:
    """Stands for the processes that compile."""

    def __init__(self) -> None:
        self.begun, self.done, self.asked = threading.Semaphore(0), threading.Event(), list[str]()

    def __call__(self, command: list[str], **_more: Any) -> "Compiling":
        self.asked.append(command[-1])
        self.begun.release()
        return self

    def wait(self, _seconds: float) -> None:
        assert self.done.wait(20.0)


@pytest.fixture
def compiling(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> Compiling:
    """Nothing is compiled yet."""
    made = Compiling()
    monkeypatch.setattr(loops, "_mark_file", lambda: tmp_path / "mark")
    monkeypatch.setattr(subprocess, "Popen", made)
    monkeypatch.setattr(loops, "forget", lambda: None)  # other tests run with what is compiled
    return made


def test_what_is_played_while_the_loops_are_compiled_is_heard_then(compiling: Compiling) -> None:
    rate, ear = 16_000, Ear()
    assert ear.says() == ()
    thread = threading.Thread(target=ear.get_ready)
    thread.start()
    assert compiling.begun.acquire(timeout=20.0)
    assert compiling.begun.acquire(timeout=20.0)
    assert ear.says()[0] == "Getting ready to listen, only once: 0%. You can already play."
    sound = np.sin(2 * np.pi * 233.0 * np.arange(rate) / rate).astype(np.float32)
    patient = PatientTracker(rate, ear)
    assert len(patient.push(sound[:9_000])) == len(patient.provisional()) == 0
    assert patient.kept_s == 9_000 / rate
    finishing: list[Any] = []
    waits = threading.Thread(target=lambda: finishing.append(patient.finish()))
    waits.start()
    waits.join(0.2)
    assert waits.is_alive()
    compiling.done.set()
    waits.join(60.0)
    thread.join(60.0)
    plain = Tracker(rate)
    heard = joined([plain.push(sound[:9_000]), plain.finish()])
    np.testing.assert_array_equal(finishing[0].f0_hz, heard.f0_hz)
    assert ear.says() == ()
    assert compiling.asked == ["path", "windows"]


def test_what_is_compiled_is_compiled_again_only_from_other_sources(
    compiling: Compiling, monkeypatch: pytest.MonkeyPatch
) -> None:
    compiling.done.set()
    Ear().get_ready()
    assert loops.is_compiled()
    Ear().get_ready()
    assert len(compiling.asked) == 2, "once, in two halves"
    monkeypatch.setattr(loops, "_of_what", lambda: "a newer version")
    assert not loops.is_compiled()
    Ear().get_ready()
    assert len(compiling.asked) == 4


def test_what_was_compiled_of_other_sources_is_thrown_away(tmp_path: Path) -> None:
    told = (
        "import pathlib; from orexis.core.signals import low_pass, thinned; from orexis.services import compiling\n"
        f"made = lambda: len(list(pathlib.Path({str(tmp_path)!r}).rglob('*.nb[ic]')))\n"
        "thinned(low_pass(2), low_pass(3), low_pass(2), 2); before = made(); compiling.forget(); print(before, made())"
    )
    here = {**os.environ, "NUMBA_CACHE_DIR": str(tmp_path)}
    run = subprocess.run([sys.executable, "-c", told], env=here, capture_output=True, text=True, check=True)
    assert run.stdout.split() == ["2", "0"]


@pytest.mark.broad
def test_every_loop_is_compiled_beforehand(tmp_path: Path) -> None:
    """In a cache of its own, where no other test has compiled what was forgotten."""
    told = "from orexis.services import compiling, ear; ear.Ear().get_ready(); print(round(100 * compiling.share_since(0.0)))"
    here = {**os.environ, "NUMBA_CACHE_DIR": str(tmp_path)}
    run = subprocess.run([sys.executable, "-c", told], env=here, capture_output=True, text=True, check=True)
    assert run.stdout.strip() == "100"


def test_many_threads_that_need_the_compiler_first_wait_for_one_of_them() -> None:
    told = (
        "import threading; from orexis.core.trace import Tracker; from orexis.core.player import warm;"
        "from orexis.services import compiling; gate, wrong = threading.Barrier(6), []; threading.excepthook = wrong.append\n"
        "def run(what): gate.wait(); what()\n"
        "ways = 2 * [lambda: Tracker(16_000), warm, compiling.is_compiled]\n"
        "threads = [threading.Thread(target=run, args=(way,)) for way in ways]\n"
        "for thread in threads: thread.start()\n"
        "for thread in threads: thread.join()\n"
        "print(len(wrong))"
    )
    run = subprocess.run([sys.executable, "-c", told], capture_output=True, text=True, check=True)
    assert run.stdout.strip() == "0"
