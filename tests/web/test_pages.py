"""Every view in both lights and three sizes: no serious findings from axe, nothing wider than the screen, keys."""

import re
from pathlib import Path

import numpy as np
import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Error as PlaywrightError
from playwright.sync_api import Page, expect

from orexis.core.sound import Sound
from orexis.files.soundfiles import write_wav
from tests.web.conftest import OpenPage, Site

SIZES = [(820, 1180), (390, 844), (320, 256)]  # the last: 1280x1024 enlarged four times
IN_DARK = ("/", "/plan", "/progress", "/exercises", "/take", "/stand")  # between them they have every colour there is


def serious(page: Page, *rules: str) -> list[str]:
    """What axe-core finds to be in the way of somebody: all its rules, or these."""
    options = {"runOnly": {"type": "rule", "values": list(rules)}} if rules else None
    found = Axe().run(page, options=options).response["violations"]
    return [item["id"] for item in found if item["impact"] in ("serious", "critical")]


DESK = (
    "/",
    "/play",
    "/plan",
    "/progress",
    "/welcome",
    "/exercises",
    "/exercises/wide-slur",
    "/exercises/write",
    "/progress/range",
)
REST = (
    "/instrument",
    "/progress/sessions",
    "/lessons",
    "/settings",
    "/help",
    "/who",
    "/pair",
    "/session/{session}",
    "/take/{take}",
    "/stand/{session}",
)


@pytest.mark.parametrize("paths", [DESK, REST], ids=["desk", "rest"])
def test_views_are_accessible_in_both_lights_and_fit(site: Site, open_page: OpenPage, paths: tuple[str, ...]) -> None:
    session = site.session("two-partial-slur", instrument="trombone-tenor")
    page = open_page()
    page.add_init_script("localStorage['orexis.mode'] = 'light'")
    page.goto(f"{site.base}/stand/{session}")
    page.get_by_role("button", name="Start", exact=True).click()
    page.get_by_role("link", name=re.compile("etails$")).wait_for()
    take = site.call(f"/api/sessions/{session}")["state"]["takes"][0]["take_id"]
    for path in (path.format(session=session, take=take) for path in paths):
        page.goto(site.base + path)
        page.wait_for_load_state("networkidle")
        assert serious(page) == [], f"{path} in light"
        page.emulate_media(forced_colors="active")
        assert serious(page, "color-contrast", "focus-order-semantics") == [], f"{path} in forced colours"
        page.emulate_media(forced_colors="none")
        for width, height in SIZES:
            page.set_viewport_size({"width": width, "height": height})
            page.wait_for_function("innerWidth === " + str(width))
            try:  # what is drawn to measure may need a moment
                page.wait_for_function(f"document.documentElement.scrollWidth <= {width}", timeout=3_000)
            except PlaywrightError as error:
                wide = page.evaluate("document.documentElement.scrollWidth")
                raise AssertionError(f"{path} at {width}: {wide} wide") from error
        page.set_viewport_size({"width": 1280, "height": 800})
        # The other light is other colours, and nothing else.
        if path != "/" and not path.startswith(IN_DARK[1:]):
            continue
        page.evaluate("document.documentElement.dataset.mode = 'dark'")
        # Colours that change over a moment are looked at once they have changed.
        page.evaluate("Promise.all(document.getAnimations().map((item) => item.finished.catch(() => null)))")
        assert serious(page, "color-contrast") == [], f"{path} in dark"


def test_the_keys_are_listed(site: Site, open_page: OpenPage) -> None:
    site.session("long-low-tones")
    page = open_page()
    page.goto(site.base)
    page.get_by_role("heading", level=1, name=re.compile("minutes")).wait_for()
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("Page Down")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).not_to_be_visible()


@pytest.mark.realtime
def test_the_microphone_is_checked_with_clicks(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    rate = 44_100
    rng = np.random.default_rng(0)
    out = rng.normal(0.0, 10 ** (-62 / 20), 14 * rate)
    t = np.arange(2000) / rate
    click = 0.1 * np.minimum(t / 0.002, 1) * np.exp(-t / 0.0077) * np.sin(2 * np.pi * 1320 * t)
    for i in range(24):
        first = round((1.6 + 0.45 * i) * rate)
        out[first : first + 2000] += click
    write_wav(tmp_path / "room.wav", Sound(out.astype(np.float32), rate))
    site.session("long-low-tones")
    page = open_page(tmp_path / "room.wav", source="microphone")
    page.goto(f"{site.base}/settings")
    page.locator("summary", has_text="Sound").click()
    facts = page.locator("details[open] dl")
    for _ in range(3):  # where the machine stops for a moment it is said, and done again
        with page.expect_response("**/api/device-checks"):
            page.get_by_role("button", name="Check this microphone").click()
        expect(facts).to_contain_text("Clicks heard")
        if "not measured" not in facts.inner_text():
            break
    expect(facts).to_contain_text("give or take")
    expect(facts).to_contain_text("quiet")
    assert site.call("/api/devices")[0]["found"]["heard"] >= 6
