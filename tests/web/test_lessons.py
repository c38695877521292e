"""A lesson there, a review request and its answer back, between two machines, through the screens."""

import re
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.web.conftest import OpenPage, Site
from tests.web.test_household import faults, played


@pytest.fixture
def other(tmp_path: Path) -> Iterator[Site]:
    made = Site(tmp_path / "other")
    yield made
    made.close()


def saved(site: Site, exchange: str, to: Path) -> Path:
    """The file behind a page's link, as any program would fetch it."""
    with urllib.request.urlopen(f"{site.base}/api/exchanges/{exchange}/file", timeout=60) as answer:
        to.write_bytes(answer.read())
    return to


def shown(page: Page) -> str:
    """The id of the exchange whose page this is, once its link is there."""
    link = page.get_by_role("link", name="Save file").get_attribute("href")
    assert link is not None
    return link.split("/")[-2]


def opened(page: Page, site: Site, file: Path) -> None:
    page.goto(f"{site.base}/lessons")
    page.get_by_label("Open a file").set_input_files(file)
    expect(page.get_by_text("Opened and complete.")).to_be_visible()


def test_a_review_request_is_remarked_on_and_a_lesson_is_taken_over(
    site: Site, other: Site, open_page: OpenPage, tmp_path: Path
) -> None:
    played(site)
    teacher = other.player("tuba-eb", name="Wenna Tull")
    body = {"player_id": teacher, "exercise_type": "two-partial-slur", "params": {"tempo": "66"}, "name": "Slow slurs"}
    other.call("/api/exercises/keep", body)

    page = open_page()
    page.goto(f"{site.base}/lessons")
    expect(page.get_by_text("Nothing sent or received yet.")).to_be_visible()
    assert faults(page) == []
    page.get_by_role("button", name="Send recordings").click()
    page.get_by_label("For", exact=True).fill("Wenna")
    page.get_by_label("Subject").fill("First slurs")
    expect(page.get_by_text("Choose a take")).to_be_visible()
    page.get_by_label("Take 1:").check()
    expect(page.get_by_text("Choose a take")).to_have_count(0)
    assert faults(page) == []
    page.get_by_role("button", name="Create file").click()
    page.get_by_role("button", name="Show checksum").click()
    checksum = page.locator("strong").inner_text()
    review_request = shown(page)
    file = saved(site, review_request, tmp_path / "review request.zip")

    there = open_page()
    opened(there, other, file)
    expect(there.get_by_text(checksum)).to_be_visible()
    there.get_by_role("listitem").get_by_role("link").first.click()
    there.get_by_label("Position in the take, in seconds").fill("3.2")
    there.get_by_label("Remark by Wenna Tull, at 3.2 s").fill("warm air here")
    there.get_by_role("button", name="Add here").click()
    expect(there.get_by_role("button", name="at 3.2 s")).to_be_visible()
    # The picture is pointed at: the place moves, and with it what the next words are about.
    there.locator("canvas").first.click(position={"x": 700, "y": 120})
    expect(there.get_by_label("at 3.2 s", exact=True)).to_have_count(0)
    there.get_by_role("button", name="Mark as closer").click()
    expect(there.get_by_text("closer", exact=True)).to_be_visible()
    assert faults(there) == []
    there.goto(f"{other.base}/lessons")
    there.get_by_role("link", name="First slurs").click()
    there.get_by_label("Answer from Wenna Tull").fill("Half the air.")
    assert faults(there) == []
    other.call(f"/api/exchanges/{review_request}/answer", {"words": "Half the air.", "by": "Wenna Tull"}, "PUT")
    answer = saved(other, review_request, tmp_path / "answer.zip")

    opened(page, site, answer)
    expect(page.get_by_text("Half the air.")).to_be_visible()
    expect(page.get_by_text("closer, 1 remark")).to_be_visible()
    page.get_by_role("listitem").get_by_role("link").first.click()
    expect(page.get_by_text("warm air here")).to_be_visible()

    there.goto(f"{other.base}/lessons")
    there.get_by_role("button", name="Write a lesson").click()
    there.get_by_label("For", exact=True).fill("Piran")
    there.get_by_label("Title").fill("Until Easter")
    there.get_by_label("Slow slurs", exact=True).check()
    there.get_by_label("Note on Slow slurs").fill("as if the bell were full of water")
    there.get_by_role("button", name="Create file").click()
    lesson = saved(other, shown(there), tmp_path / "lesson.zip")
    opened(page, site, lesson)
    page.get_by_role("button", name="Add Slow slurs").click()
    expect(page.get_by_text("added", exact=True)).to_be_visible()
    page.goto(f"{site.base}/exercises")
    page.get_by_role("link", name="Slow slurs").click()
    expect(page.get_by_text("“as if the bell were full of water”")).to_be_visible()


def test_guests_are_nobody_who_plays_here_and_broken_files_are_said(
    site: Site, other: Site, open_page: OpenPage, tmp_path: Path
) -> None:
    player, session = played(site)
    takes = [take["id"] for take in site.call(f"/api/sessions/{session}/takes")]
    made = site.call(f"/api/players/{player}/review-requests", {"to": "Wenna", "title": "Slurs", "takes": takes})
    file = saved(site, made["id"], tmp_path / "review request.zip")
    other.player("tuba-eb", name="Wenna Tull")
    there = open_page()
    opened(there, other, file)
    there.goto(f"{other.base}/")
    expect(there.get_by_role("heading", name="Who is playing?")).to_have_count(0)
    expect(there.get_by_role("button", name="Wenna Tull Menu")).to_be_visible()
    there.goto(f"{other.base}/who")
    there.get_by_role("listitem").get_by_role("button").last.click()
    expect(there.get_by_role("heading", name="Sessions", level=1)).to_be_visible()
    expect(there.get_by_role("link", name="Slurs")).to_be_visible()
    expect(there.get_by_role("button", name=re.compile("guest Menu"))).to_be_visible()
    file.write_bytes(file.read_bytes()[:-100])
    there.goto(f"{other.base}/lessons")
    there.get_by_label("Open a file").set_input_files(file)
    expect(there.get_by_text("This file is no lesson and no recordings of Orexis, or it is damaged.")).to_be_visible()
