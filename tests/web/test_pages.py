"""Every view in both lights and three sizes: no serious findings from axe, nothing wider than the screen, keys."""

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import expect

from tests.web.conftest import OpenPage, Site

SIZES = [(1280, 800), (820, 1180), (390, 844)]


@pytest.mark.parametrize("mode", ["light", "dark"])
def test_views_are_accessible_and_fit(site: Site, open_page: OpenPage, mode: str) -> None:
    session = site.session("two-partial-slur", horn="trombone-tenor")
    page = open_page()
    page.add_init_script(f"localStorage['orexis.mode'] = '{mode}'")
    page.goto(f"{site.base}/stand/{session}")
    page.get_by_role("button", name="Begin").click()
    page.get_by_role("link", name="Look closer").wait_for()
    take = site.call(f"/api/sessions/{session}")["state"]["takes"][0]["take_id"]
    for path in ("/", "/welcome", "/log", "/settings", f"/take/{take}", f"/stand/{session}"):
        page.goto(site.base + path)
        page.wait_for_timeout(400)
        found = Axe().run(page).response["violations"]
        serious = [item["id"] for item in found if item["impact"] in ("serious", "critical")]
        assert serious == [], f"{path} in {mode}: {serious}"
        for width, height in SIZES:
            page.set_viewport_size({"width": width, "height": height})
            page.wait_for_timeout(60)
            wide = page.evaluate("document.documentElement.scrollWidth")
            assert wide <= width, f"{path} at {width}: {wide} wide"
        page.set_viewport_size({"width": 1280, "height": 800})


def test_the_keys_are_listed(site: Site, open_page: OpenPage) -> None:
    site.session("long-low-tones")
    page = open_page()
    page.goto(site.base)
    page.get_by_role("heading", name="What would you like to work on?").wait_for()
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("Page Down")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).not_to_be_visible()
