"""A first visit to an Orexis that answers at an address: the demo player plays the first note, and it is heard.

`python -m scripts.first_note http://127.0.0.1:8722/`. After installing the ear takes up to a minute to get ready.
"""

import re
import sys

from playwright.sync_api import expect, sync_playwright

from scripts.browser import launch

_HEARD_MS = 120_000


def main(address: str) -> None:
    """Play it; an error says what did not come."""
    with sync_playwright() as browsers:
        browser = launch(browsers)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(address)
        page.get_by_label("Your name, or any name").fill("Ada Brook")
        page.get_by_role("button", name="Show the demo player").click()
        expect(page.get_by_text("Ready.")).to_be_visible(timeout=_HEARD_MS)
        page.keyboard.press("PageDown")
        page.get_by_role("heading", name=re.compile("Clean|Close|Not yet")).wait_for(timeout=_HEARD_MS)
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1])
