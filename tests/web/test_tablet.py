"""A device on the network: refused until it is let in, over HTTPS by a certificate of this machine's own, microphone included."""

import http.client
import json
import re
import ssl
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.web.conftest import OpenPage, Site, microphone_file

SECRET = "long low tones"


def switched_on(site: Site) -> str:
    told = site.call("/api/stand", {"on": True, "passphrase": SECRET}, "PUT")
    assert told["on"]
    return f"https://127.0.0.1:{site.stand_port}"


def asked(
    site: Site, path: str, *, method: str = "GET", body: object = None, **headers: str
) -> tuple[int, dict[str, str]]:
    """A device that trusts this machine's authority and nothing else."""
    pem = http.client.HTTPConnection(site.base.removeprefix("http://"), timeout=20)
    pem.request("GET", "/authority.pem")
    trusted = ssl.create_default_context(cadata=pem.getresponse().read().decode())
    pem.close()
    device = http.client.HTTPSConnection("127.0.0.1", site.stand_port, context=trusted, timeout=20)
    data = json.dumps(body) if body is not None else None
    device.request(method, path, data, {"content-type": "application/json", **headers})
    answer = device.getresponse()
    found = dict(answer.getheaders())
    answer.read()
    device.close()
    return answer.status, {name.lower(): value for name, value in found.items()}


def test_only_devices_that_were_let_in_reach_the_record(site: Site) -> None:
    site.player()
    switched_on(site)
    assert asked(site, "/api/players")[0] == 401
    assert asked(site, "/")[0] == 200  # the page itself holds nothing
    assert asked(site, "/api/pair", method="POST", body={"secret": "guess"})[0] == 422
    status, headers = asked(site, "/api/pair", method="POST", body={"secret": SECRET, "name": "Music stand"})
    assert status == 204
    cookie = headers["set-cookie"]
    assert {"HttpOnly", "Secure", "SameSite=strict"} <= {part.strip() for part in cookie.split(";")}
    token = cookie.split(";")[0]
    assert asked(site, "/api/players", Cookie=token)[0] == 200
    assert asked(site, "/api/players", Cookie="orexis-stand=x")[0] == 401
    # What lets devices in is for this machine alone, and pages of others are refused.
    assert asked(site, "/api/stand", Cookie=token)[0] == 403
    assert asked(site, "/api/players", Cookie=token, Origin="https://elsewhere.example")[0] == 403
    assert asked(site, "/api/players", Cookie=token, Host="elsewhere.example")[0] == 403
    device = site.call("/api/stand")["devices"][0]
    assert device["name"] == "Music stand"
    site.call(f"/api/stand/devices/{device['id']}", method="DELETE")
    assert asked(site, "/api/players", Cookie=token)[0] == 401
    for _ in range(5):
        asked(site, "/api/pair", method="POST", body={"secret": "guess"})
    assert asked(site, "/api/pair", method="POST", body={"secret": SECRET})[0] == 429
    site.call("/api/stand", {"on": False}, "PUT")
    with pytest.raises(OSError):
        asked(site, "/")


def test_settings_show_the_way_in_and_a_tablet_takes_it(site: Site, open_page: OpenPage) -> None:
    site.player()
    desk = open_page()
    desk.goto(f"{site.base}/settings")
    desk.locator("summary", has_text="Tablet").click()
    desk.get_by_text("Allow devices", exact=True).click()
    desk.get_by_label("Passphrase, at least").fill(SECRET)
    desk.get_by_role("button", name="Save", exact=True).click()
    desk.get_by_role("button", name="Show a code").click()
    code = desk.locator("span.tracking-widest").inner_text()
    assert len(code) == 6
    expect(desk.get_by_alt_text("for a camera")).to_be_visible()
    tablet = open_page(width=820, height=1180, strangers=True)
    tablet.goto(f"https://127.0.0.1:{site.stand_port}/")
    tablet.get_by_label("Code or passphrase").fill(code)
    tablet.get_by_label("Name of this device").fill("Music stand")
    tablet.get_by_role("button", name="Connect").click()
    expect(tablet.get_by_role("heading", level=1, name=re.compile("minutes"))).to_be_visible()
    desk.reload()
    desk.locator("summary", has_text="Tablet").click()
    expect(desk.get_by_label("Allowed devices").get_by_text("Music stand")).to_be_visible()
    site.call("/api/stand", {"on": False}, "PUT")


def test_the_shell_opens_without_the_server_and_says_that_it_sleeps(site: Site, open_page: OpenPage) -> None:
    """Here by this machine's own address: where certificates are not trusted, browsers keep no shell."""
    site.player()
    page = open_page()
    page.goto(site.base)
    page.get_by_role("heading", level=1, name=re.compile("minutes")).wait_for()
    ready = "Promise.race([navigator.serviceWorker.ready.then(() => true), new Promise((r) => setTimeout(r, 20000))])"
    assert page.evaluate(ready) is True
    manifest = page.evaluate("fetch('/manifest.webmanifest').then((answer) => answer.json())")
    assert manifest["display"] == "fullscreen"
    page.reload()
    site.process.terminate()
    site.process.join(timeout=15)
    page.goto(f"{site.base}/progress/sessions")
    expect(page.get_by_role("heading", name="sleeps")).to_be_visible()


@pytest.mark.realtime
def test_a_take_on_a_tablet_through_its_microphone(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    session = site.session("two-partial-slur")
    base = switched_on(site)
    sound = microphone_file(tmp_path / "slur.wav", "two-partial-slur", lead_s=2.0)
    tablet = open_page(sound, width=820, height=1180, source="microphone", strangers=True)
    tablet.goto(base)
    tablet.get_by_label("Code or passphrase").fill(SECRET)
    tablet.get_by_role("button", name="Connect").click()
    tablet.get_by_role("heading", level=1, name=re.compile("minutes")).wait_for()
    tablet.goto(f"{base}/stand/{session}")
    tablet.get_by_role("button", name="Start", exact=True).click()
    tablet.get_by_role("link", name=re.compile("etails$")).wait_for()
    take = site.call(f"/api/sessions/{session}")["state"]["takes"][0]["take_id"]
    found = site.call(f"/api/takes/{take}")
    assert found["source"] == "microphone"
    assert found["measures"]["exercise"]["playing_s"] > 2.0
