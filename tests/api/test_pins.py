"""PINs: what a window sees before and after one was given, who may set and take one away, guesses."""

import http.cookiejar
import json
import urllib.request
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from urllib.error import HTTPError

import pytest

from orexis.errors import InputError, LockedError, TooManyError
from orexis.services.pins import Pins, asking
from tests.web.conftest import Site


@pytest.fixture
def site(tmp_path: Path) -> Iterator[Site]:
    made = Site(tmp_path / "data")
    yield made
    made.close()


class Window:
    """A browser's window: it keeps its cookies."""

    def __init__(self, site: Site) -> None:
        self.site = site
        self._open = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar())).open

    def asks(self, path: str, body: object | None = None, method: str | None = None) -> tuple[int, Any]:
        data = json.dumps(body).encode() if body is not None else None
        request = urllib.request.Request(
            self.site.base + path, data, {"content-type": "application/json"}, method=method
        )
        try:
            with self._open(request, timeout=60) as answer:
                text = answer.read()
                return answer.status, json.loads(text) if text[:1] in (b"{", b"[") else text
        except HTTPError as error:
            return error.code, json.loads(error.read())

    def opens(self, player: str, pin: str) -> int:
        return self.asks(f"/api/players/{player}/open", {"pin": pin})[0]


def everything_of(player: str, session: str, take: str) -> list[tuple[str, object | None, str]]:
    wish = {"player_id": player, "exercise_type": "long-low-tones", "params": {}}
    return [
        (f"/api/players/{player}/sessions", None, "GET"),
        (f"/api/players/{player}/goals", None, "GET"),
        (f"/api/players/{player}/settings", {"braces": True}, "PATCH"),
        (f"/api/players/{player}/pin", {"pin": None}, "PUT"),
        (f"/api/players/{player}", None, "DELETE"),
        (f"/api/sessions/{session}", None, "GET"),
        (f"/api/sessions/{session}/page", None, "GET"),
        (f"/api/takes/{take}", None, "GET"),
        (f"/api/takes/{take}/sound", None, "GET"),
        (f"/api/takes/{take}/marks", {"words": "x", "by": "y"}, "POST"),
        ("/api/sessions", wish, "POST"),
        ("/api/exercises/view", wish, "POST"),
        ("/api/simulated", {"session_id": session}, "POST"),
        ("/api/export", None, "GET"),
        ("/api/class", None, "GET"),
    ]


def test_what_belongs_to_a_player_with_a_pin_answers_only_after_it(site: Site) -> None:
    ada, tam = site.player(name="Ada Brook"), site.player(name="Tam Perrow")
    session = site.call("/api/sessions", {"player_id": ada, "exercise_type": "long-low-tones", "params": {}})["id"]
    take = site.call(f"/api/sessions/{session}/simulated-take", {"manner": "clean", "seed": 1})["id"]
    own, other = Window(site), Window(site)
    assert own.asks(f"/api/players/{ada}/pin", {"pin": "2468"}, "PUT")[0] == 204
    for path, body, method in everything_of(ada, session, take):
        status, said = other.asks(path, body, method)
        assert (status, said["kind"]) == (403, "LockedError"), (method, path)
    assert other.asks(f"/api/players/{tam}/goals")[0] == 200
    assert other.asks("/api/pins") == (200, [{"player_id": ada, "open": False}])
    assert (other.opens(ada, "1357"), own.opens(ada, "2468")) == (422, 204)
    assert own.asks(f"/api/takes/{take}")[0] == 200
    assert own.asks("/api/sessions", {"player_id": ada, "exercise_type": "long-low-tones", "params": {}})[0] == 201
    assert own.asks("/api/pins/open", method="DELETE")[0] == 204
    assert own.asks(f"/api/takes/{take}")[0] == 403
    assert "2468" not in (site.data / "pins.json").read_text()


def test_a_teacher_opens_everybody_and_nobody_else_becomes_one(site: Site) -> None:
    ada, rosa = site.player(name="Ada Brook"), site.player(name="Rosa Lind", teaches=True)
    pupil, teacher = Window(site), Window(site)
    status, said = pupil.asks(f"/api/players/{ada}/pin", {"pin": "2468"}, "PUT")
    assert (status, said["message"]) == (422, "Your teacher sets a PIN first.")
    assert teacher.asks(f"/api/players/{rosa}/pin", {"pin": "11223344"}, "PUT")[0] == 204
    assert pupil.asks(f"/api/players/{ada}/pin", {"pin": "2468"}, "PUT")[0] == 204
    assert (pupil.opens(ada, "2468"), teacher.opens(rosa, "11223344")) == (204, 204)
    assert pupil.asks(f"/api/players/{ada}/settings", {"teaches": True}, "PATCH")[0] == 403
    assert (pupil.asks("/api/class")[0], teacher.asks("/api/class")[0]) == (403, 200)
    assert teacher.asks(f"/api/players/{ada}/goals")[0] == 200
    assert teacher.asks(f"/api/players/{rosa}/pin", {"pin": None}, "PUT")[0] == 422, "it would lock the class"
    assert teacher.asks(f"/api/players/{ada}/pin", {"pin": None}, "PUT")[0] == 204, "a forgotten one is taken away"
    assert Window(site).asks(f"/api/players/{ada}/goals")[0] == 200


def test_pins_are_digits_and_guesses_are_few(tmp_path: Path) -> None:
    pins = Pins(tmp_path)
    for wrong in ("", "123", "123456789", "12a4"):
        with pytest.raises(InputError):
            pins.choose("a", wrong)
    pins.choose("a", "1234")
    with asking(""):
        for _ in range(5):
            with pytest.raises(InputError):
                pins.open("a", "9999")
        with pytest.raises(TooManyError):
            pins.open("a", "1234")
        with pytest.raises(LockedError):
            Pins(tmp_path).require("a")
    fresh = Pins(tmp_path)
    with asking("chosen"):
        assert fresh.open("a", "1234") != "chosen", "a window does not name itself"
        with pytest.raises(LockedError):
            fresh.require("a")
    Pins(tmp_path).require("a")  # no window asks: the command line
    pins.forget("a")
    assert not Pins(tmp_path).in_use
