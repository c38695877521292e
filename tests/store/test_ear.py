"""The ear gets ready in another process once after installing, and nobody begins a take meanwhile."""

import subprocess
import threading
from typing import Any

import pytest

from orexis.core import listen
from orexis.errors import BusyError
from orexis.services import ear as ears
from orexis.services.ear import Ear


def test_while_loops_are_compiled_it_says_so_and_takes_wait(monkeypatch: pytest.MonkeyPatch) -> None:
    begun, done = threading.Event(), threading.Event()
    asked: list[list[str]] = []

    def compiled_elsewhere(command: list[str], **_more: Any) -> None:
        asked.append(command)
        begun.set()
        assert done.wait(10.0)

    monkeypatch.setattr(listen, "is_compiled", lambda: False)
    monkeypatch.setattr(subprocess, "run", compiled_elsewhere)
    ear = Ear()
    assert ear.says() == ()
    thread = threading.Thread(target=ear.get_ready)
    thread.start()
    assert begun.wait(10.0)
    assert "once" in ear.says()[0]
    assert isinstance(ear.not_ready(), BusyError)
    waits = threading.Thread(target=ear.wait)
    waits.start()
    waits.join(0.2)
    assert waits.is_alive()
    done.set()
    waits.join(10.0)
    assert not waits.is_alive()
    thread.join(60.0)
    assert (ear.says(), ear.not_ready()) == ((), None)
    assert "warm()" in asked[0][-1]


def test_what_is_compiled_is_not_compiled_again(monkeypatch: pytest.MonkeyPatch) -> None:
    listen.warm()
    assert listen.is_compiled()
    monkeypatch.setattr(ears.subprocess, "run", lambda *_args, **_more: pytest.fail("compiled again"))
    Ear().get_ready()
