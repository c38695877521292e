"""Renew docs/screenshots from the demo data: `make screenshots`."""

import json
import subprocess
import sys
import tempfile
import urllib.request
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, sync_playwright

OUT = Path("docs/screenshots")
PORT = 8797
BASE = f"http://127.0.0.1:{PORT}"
FLAGS = ["--no-sandbox", "--disable-gpu", "--autoplay-policy=no-user-gesture-required"]


def call(path: str, body: object | None = None) -> Any:
    """One answer of the running demo."""
    data = json.dumps(body).encode() if body is not None else None
    request = urllib.request.Request(BASE + path, data, {"content-type": "application/json"})
    with urllib.request.urlopen(request, timeout=20) as answer:
        return json.load(answer)


def page_of(playwright: Any, mode: str) -> Page:
    """A page at the reference size in one light."""
    browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    page.add_init_script(f"localStorage['orexis.mode']='{mode}'; localStorage['orexis.source']='simulated'")
    return page


def shoot(page: Page, name: str, path: str | None = None) -> None:
    """One picture."""
    if path is not None:
        page.goto(BASE + path)
    page.wait_for_timeout(900)
    page.screenshot(path=OUT / f"{name}.png")


def stand(page: Page, player: str) -> None:
    """The stand before, while and after a take."""
    body = {"player_id": player, "family": "two-partial-slur", "params": {"tempo": "76"}}
    page.goto(f"{BASE}/stand/{call('/api/sessions', body)['id']}")
    page.get_by_text("Ready when you are.").wait_for()
    shoot(page, "stand-ready")
    page.keyboard.press("ArrowRight")
    page.wait_for_timeout(3000)
    page.screenshot(path=OUT / "stand-count-in.png")
    page.get_by_text("Listening.").wait_for()
    page.wait_for_timeout(3600)
    page.screenshot(path=OUT / "stand-listening.png")
    page.get_by_role("link", name="Look closer").wait_for()
    page.get_by_role("button", name="Next").first.click()


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
            takes = [take for entry in call(f"/api/players/{player}/log") for take in entry["takes"]]
            caught = next(take["id"] for take in takes if take["reason"] == "caught")
            sagging = next(take["id"] for take in takes if take["reason"] == "sag")
            light, dark = page_of(playwright, "light"), page_of(playwright, "dark")
            shoot(dark, "today", "/")
            shoot(light, "log", "/log")
            shoot(light, "welcome", "/welcome")
            shoot(dark, "settings", "/settings")
            shoot(dark, "take-slur", f"/take/{caught}")
            shoot(light, "take-long-tone", f"/take/{sagging}")
            stand(dark, player)
        finally:
            server.terminate()
            server.wait()


if __name__ == "__main__":
    main()
