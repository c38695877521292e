"""Devices on the network: what each may do, guesses, connections too many, a device that is removed while it plays."""

import contextlib
import http.client
import json
import socket
import ssl
import time
from collections.abc import Iterator
from pathlib import Path

import pytest
from cryptography import x509
from websockets.sync.client import connect

from orexis.errors import InputError, TooManyError
from orexis.services.standing import Pairing
from orexis.services.standing.pairing import CODE_DIGITS, LONGER_AFTER, LONGER_DIGITS
from tests.web.conftest import Site

SECRET = "long low tones"


@pytest.fixture
def site(tmp_path: Path) -> Iterator[Site]:
    made = Site(tmp_path / "data")
    yield made
    made.close()


def trusted(site: Site) -> ssl.SSLContext:
    pem = http.client.HTTPConnection(site.base.removeprefix("http://"), timeout=20)
    pem.request("GET", "/authority.pem")
    context = ssl.create_default_context(cadata=pem.getresponse().read().decode())
    pem.close()
    return context


def asked(
    site: Site, path: str, *, method: str = "GET", body: object = None, token: str | None = None
) -> tuple[int, dict[str, str]]:
    device = http.client.HTTPSConnection("127.0.0.1", site.stand_port, context=trusted(site), timeout=20)
    headers = {"content-type": "application/json"} | ({"cookie": token} if token else {})
    device.request(method, path, json.dumps(body) if body is not None else None, headers)
    answer = device.getresponse()
    told = {name.lower(): value for name, value in answer.getheaders()}
    answer.read()
    device.close()
    return answer.status, told


def let_in(site: Site) -> tuple[str, str]:
    """A device's token and its id."""
    site.call("/api/stand", {"on": True, "passphrase": SECRET}, "PUT")
    status, headers = asked(site, "/api/pair", method="POST", body={"secret": SECRET, "name": "Tablet"})
    assert status == 204
    return headers["set-cookie"].split(";")[0], str(site.call("/api/stand")["devices"][0]["id"])


def test_each_device_does_what_it_may(site: Site) -> None:
    player = site.player()
    token, device = let_in(site)
    body = {"player_id": player, "exercise_type": "long-low-tones"}
    may = {
        "play": {
            "/api/players": 200,
            "POST": 201,
            "/api/export": 403,
            "/api/class": 403,
            "DELETE": 403,
            "/api/copies": 403,
        },
        "read": {
            "/api/players": 200,
            "POST": 403,
            "/api/export": 403,
            "/api/class": 403,
            "DELETE": 403,
            "/api/copies": 403,
        },
        "all": {
            "/api/players": 200,
            "POST": 201,
            "/api/export": 200,
            "/api/class": 200,
            "DELETE": 204,
            "/api/copies": 403,
        },
    }
    for rights, told in may.items():
        site.call(f"/api/stand/devices/{device}", {"rights": rights}, "PUT")
        got = {path: asked(site, path, token=token)[0] for path in told if path.startswith("/")}
        got["POST"] = asked(site, "/api/sessions", method="POST", body=body, token=token)[0]
        got["DELETE"] = asked(site, f"/api/players/{player}", method="DELETE", token=token)[0]
        assert got == told, rights
    assert asked(site, f"/api/stand/devices/{device}", method="PUT", body={"rights": "all"}, token=token)[0] == 403


def test_a_removed_device_stops_playing_in_its_open_window(site: Site) -> None:
    session = site.session("long-low-tones")
    token, device = let_in(site)
    url = f"wss://127.0.0.1:{site.stand_port}/api/live"
    with connect(url, ssl=trusted(site), additional_headers={"Cookie": token}) as window:
        window.send(json.dumps({"type": "hello", "session": session, "protocol": 2}))
        assert json.loads(window.recv())["type"] == "welcome"
        site.call(f"/api/stand/devices/{device}", method="DELETE")
        time.sleep(1.2)
        with pytest.raises(Exception, match="4401"):  # noqa: PT012 - it may be said at once or with the next word
            for _ in range(20):
                window.send(json.dumps({"type": "event", "name": "pause"}))
                window.recv(timeout=5)
    assert not site.call(f"/api/sessions/{session}")["state"]["paused"]


def test_a_body_for_pairing_is_small(site: Site) -> None:
    let_in(site)
    began = time.monotonic()
    assert asked(site, "/api/pair", method="POST", body={"secret": "x" * 6_000_000})[0] == 413
    assert time.monotonic() - began < 5.0


def test_connections_too_many_leave_the_desk_in_peace(site: Site) -> None:
    session = site.session("long-low-tones")
    let_in(site)
    with contextlib.ExitStack() as stack:
        refused = 0
        for _ in range(60):
            raw = stack.enter_context(socket.create_connection(("127.0.0.1", site.stand_port), timeout=10))
            try:
                held = stack.enter_context(trusted_once(site).wrap_socket(raw, server_hostname="127.0.0.1"))
                held.settimeout(0.3)
                refused += held.recv(1) == b""
            except TimeoutError:
                continue  # it is open, and nothing is said
            except OSError:
                refused += 1
        assert refused >= 30
        began = time.monotonic()
        assert site.call(f"/api/sessions/{session}")["id"] == session
        assert time.monotonic() - began < 2.0


_CONTEXTS: dict[str, ssl.SSLContext] = {}


def trusted_once(site: Site) -> ssl.SSLContext:
    return _CONTEXTS.setdefault(site.base, trusted(site))


def test_every_answer_is_what_it_says_and_the_authority_vouches_for_this_home(site: Site, tmp_path: Path) -> None:
    site.player()
    token, _ = let_in(site)
    for path, given in (("/", None), ("/api/players", token), ("/api/players", None), ("/api/nothing", token)):
        assert asked(site, path, token=given)[1]["x-content-type-options"] == "nosniff"
    authority = x509.load_pem_x509_certificate((site.data / "stand" / "authority.pem").read_bytes())
    limits = authority.extensions.get_extension_for_class(x509.NameConstraints)
    assert limits.critical
    permitted = {str(name.value) for name in limits.value.permitted_subtrees or ()}
    assert {"localhost", "local", "192.168.0.0/16"} <= permitted
    assert "0.0.0.0/0" not in permitted


def test_one_guesser_locks_nobody_else_out(tmp_path: Path) -> None:
    pairing = Pairing(tmp_path)
    pairing.set_passphrase(SECRET)
    pairing.switch(True)
    for _ in range(5):
        with pytest.raises(InputError):
            pairing.let_in("guess", "x", "10.0.0.66")
    with pytest.raises(TooManyError):
        pairing.let_in(SECRET, "x", "10.0.0.66")
    assert pairing.let_in(SECRET, "Tablet", "10.0.0.5")


def test_many_guessers_are_slow_and_meet_a_longer_code(tmp_path: Path) -> None:
    pairing = Pairing(tmp_path)
    pairing.set_passphrase(SECRET)
    code = pairing.code()
    assert len(code) == CODE_DIGITS
    for number in range(LONGER_AFTER):
        with pytest.raises(InputError):
            pairing.let_in("guess", "x", f"10.0.0.{number}")
    with pytest.raises(InputError):
        pairing.let_in(code, "x", "10.0.1.1")  # the short one is gone
    longer = pairing.code()
    assert len(longer) == LONGER_DIGITS
    assert pairing.let_in(longer, "Tablet", "10.0.1.2")
    with pytest.raises(TooManyError):  # noqa: PT012
        for number in range(100):
            with contextlib.suppress(InputError):
                pairing.let_in("guess", "x", f"10.0.2.{number}")
