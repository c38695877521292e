"""Renew docs/screenshots from the demo data: `make screenshots`."""

import json
import subprocess
import sys
import tempfile
import urllib.request
from datetime import date, timedelta
from pathlib import Path
from typing import Any

import numpy as np
from playwright.sync_api import Page, sync_playwright

from scripts.browser import launch

OUT = Path("docs/screenshots")
PORT = 8797
BASE = f"http://127.0.0.1:{PORT}"


def call(path: str, body: object | None = None, method: str | None = None) -> Any:
    """One answer of the running demo."""
    data = json.dumps(body).encode() if body is not None else None
    request = urllib.request.Request(BASE + path, data, {"content-type": "application/json"}, method=method)
    with urllib.request.urlopen(request, timeout=20) as answer:
        return json.load(answer)


def page_of(playwright: Any, mode: str, player: str) -> Page:
    """A page at the reference size in one light, with who is playing."""
    browser = launch(playwright)
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    page.add_init_script(f"localStorage['orexis.mode']='{mode}'; localStorage['orexis.source']='simulated'")
    page.add_init_script(f"localStorage['orexis.player']='{player}'")
    return page


def shoot(page: Page, name: str, path: str | None = None) -> None:
    """One picture."""
    if path is not None:
        page.goto(BASE + path)
        page.wait_for_load_state("networkidle")  # staves come as they are drawn
    page.wait_for_timeout(900)
    page.screenshot(path=OUT / f"{name}.png")


def checked(page: Page) -> None:
    """A device check, so that the settings have something to say."""
    rate, due = 44_100, [1.0 + 0.45 * i for i in range(8)]
    out = np.random.default_rng(0).normal(0.0, 10 ** (-63 / 20), 6 * rate)
    t = np.arange(2000) / rate
    for at in due:
        first = round((at + 0.038) * rate)
        out[first : first + 2000] += 0.1 * np.minimum(t / 0.002, 1) * np.exp(-t / 0.0077) * np.sin(2 * np.pi * 1320 * t)
    about = {"rate": rate, "clicks_s": due, "facts": {"label": "Desk microphone"}}
    samples = {"name": "check", "mimeType": "application/octet-stream", "buffer": out.astype("<f4").tobytes()}
    page.request.post(f"{BASE}/api/device-checks", multipart={"samples": samples, "about": json.dumps(about)})


def stand(page: Page, player: str) -> None:
    """The stand before, while and after a take."""
    body = {"player_id": player, "exercise_type": "one-octave-scale", "params": {"tempo": "84", "start": "Eb2"}}
    page.goto(f"{BASE}/stand/{call('/api/sessions', body)['id']}")
    page.get_by_text("Ready.").wait_for()
    shoot(page, "stand-ready")
    page.keyboard.press("ArrowRight")
    page.wait_for_timeout(2600)
    page.get_by_text("Listening.").wait_for()
    page.wait_for_timeout(4600)
    page.screenshot(path=OUT / "stand-listening.png")
    page.get_by_role("link", name="Show details").wait_for()
    page.wait_for_timeout(600)
    page.screenshot(path=OUT / "stand-verdict.png")
    page.get_by_role("button", name="End", exact=True).click()


def just_play(page: Page) -> None:
    """The tuner while somebody plays, with the metronome going."""
    page.goto(f"{BASE}/play")
    page.get_by_role("button", name="Start").first.click()
    page.get_by_role("button", name="Listen").click()
    page.locator(".note").wait_for()
    page.wait_for_timeout(7000)
    page.screenshot(path=OUT / "just-play.png")
    page.get_by_role("button", name="Stop").first.click()
    page.get_by_role("link", name="See what was heard").wait_for()


def rest(page: Page) -> None:
    """A rest between two exercises of a plan that runs fast."""
    page.goto(BASE)
    page.get_by_text("15", exact=True).click()
    page.get_by_label("Speed").select_option("5")
    page.get_by_role("button", name="Start", exact=True).click()
    page.get_by_text("Ready.").wait_for()
    page.keyboard.press("ArrowRight")
    page.get_by_role("region", name="Rest").wait_for()
    shoot(page, "stand-rest")
    page.get_by_role("button", name="End", exact=True).click()


def heard(page: Page, take: str) -> None:
    """A take with what a teacher said of it."""
    page.goto(f"{BASE}/take/{take}")
    page.get_by_role("heading", name="Remarks").wait_for()
    page.wait_for_timeout(1200)
    page.screenshot(path=OUT / "take-remarks.png", full_page=True)


def class_of_two(page: Page, players: list[str]) -> None:
    """A teacher's page over the two who play here, with a goal for both."""
    told = {"name": "Rosa Lind", "standard": "advanced", "instrument": "trumpet-bb"}
    teacher = call("/api/players", told)["id"]
    call(f"/api/players/{teacher}/settings", {"teaches": True}, "PATCH")
    by = (date.today() + timedelta(days=90)).isoformat()
    call("/api/class/goals", {"players": players, "kind": "hold", "value": "16", "date": by})
    page.goto(BASE)
    page.evaluate(f"localStorage['orexis.player'] = '{teacher}'")
    page.add_init_script(f"localStorage['orexis.player']='{teacher}'")
    shoot(page, "class", "/class")


def sessions_of(player: str) -> list[dict[str, Any]]:
    """The last twenty."""
    return [one for offset in (0, 10) for one in call(f"/api/players/{player}/log?offset={offset}")["sessions"]]


def main() -> None:
    """All pictures."""
    OUT.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        command = [sys.executable, "-m", "orexis.cli.main", "demo", "--port", str(PORT), "--data", folder]
        server = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
        try:
            assert server.stdout is not None
            server.stdout.readline()
            player = call("/api/players")[0]["id"]
            sessions = sessions_of(player)
            takes = [take for one in sessions for take in call(f"/api/sessions/{one['id']}/takes")]
            takes = [take for take in takes if take["source"] == "simulated"]  # those with sound
            sagging = next(take["id"] for take in takes if take["reason"] == "pitch-drift")
            light, dark = page_of(playwright, "light", player), page_of(playwright, "dark", player)
            shoot(dark, "today", "/")
            shoot(dark, "plan", "/plan")
            shoot(light, "progress", "/progress")
            shoot(light, "sessions", "/progress/sessions")
            shoot(light, "welcome", "/welcome")
            shoot(light, "instrument", "/instrument")
            shoot(light, "range", "/progress/range")
            shoot(light, "exercises", "/exercises")
            shoot(light, "exercise", "/exercises/wide-slur")
            checked(dark)
            shoot(dark, "settings", "/settings")
            shoot(light, "take-long-tone", f"/take/{sagging}")
            exchanges = call(f"/api/players/{player}/exchanges")
            lesson = next(one["id"] for one in exchanges if one["kind"] == "lesson")
            review_request = next(one for one in exchanges if one["kind"] == "review_request")
            shoot(light, "lessons", f"/lessons/{lesson}")
            heard(dark, review_request["review_request"]["takes"][0]["id"])
            stand(dark, player)
            rest(light)
            just_play(light)
            class_of_two(light, [one["id"] for one in call("/api/players") if not one["guest"]])
        finally:
            server.terminate()
            server.wait()


if __name__ == "__main__":
    main()
