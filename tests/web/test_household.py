"""A household through the screens: who is playing, moving house, a session's page, what was thrown away, paper."""

import re
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from tests.web.conftest import A_SECOND_OF_SOUND, OpenPage, Site, drawn, until


@pytest.fixture
def other(tmp_path: Path) -> Iterator[Site]:
    made = Site(tmp_path / "other")
    yield made
    made.close()


def played(site: Site) -> tuple[str, str]:
    """A session with two takes: player and session."""
    player = site.player()
    body = {"player_id": player, "exercise_type": "two-partial-slur", "params": {}}
    session = site.call("/api/sessions", body)["id"]
    for _ in range(2):
        site.call(f"/api/sessions/{session}/simulated-take", {"manner": "clean", "seed": 1})
    return player, session


def faults(page: Page) -> list[str]:
    found = Axe().run(page).response["violations"]
    return [f"{item['id']}: {item['nodes'][0]['html'][:120]}" for item in found]


def test_everything_moves_from_one_machine_to_another_through_the_pages(
    site: Site, other: Site, open_page: OpenPage, tmp_path: Path
) -> None:
    played(site)
    page = open_page()
    page.goto(f"{site.base}/settings")
    page.locator("summary", has_text="Data").click()
    with page.expect_download() as waiting:
        page.get_by_role("link", name="Export everything").click()
    file = tmp_path / "all.zip"
    waiting.value.save_as(file)
    assert waiting.value.suggested_filename.startswith("orexis-")
    other.player("trumpet-bb")
    there = open_page()
    there.goto(f"{other.base}/settings")
    there.locator("summary", has_text="Data").click()
    there.get_by_label("Import a file").set_input_files(file)
    expect(there.get_by_text("2 takes and 2 sounds imported.")).to_be_visible()
    there.get_by_role("button", name="Check the data").click()
    expect(there.get_by_text("Everything is fine.")).to_be_visible()
    assert len(other.call("/api/players")) == 2
    file.write_bytes(b"no export")
    there.get_by_label("Import a file").set_input_files(file)
    expect(there.get_by_text("is no export of Orexis")).to_be_visible()


def test_moving_house_begins_on_the_first_page_of_an_empty_machine(
    site: Site, other: Site, open_page: OpenPage, tmp_path: Path
) -> None:
    """Nobody has to be made up first, and what came goes out again byte by byte."""
    played(site)
    sent = urllib.request.urlopen(f"{site.base}/api/export", timeout=60).read()
    (tmp_path / "all.zip").write_bytes(sent)
    there = open_page()
    there.goto(other.base)
    there.get_by_role("heading", name="Play one note.").wait_for()
    assert faults(there) == []
    there.get_by_label("Import a file").set_input_files(tmp_path / "all.zip")
    there.get_by_role("heading", level=1, name=re.compile("minutes")).wait_for()
    assert len(other.call("/api/players")) == 1
    assert urllib.request.urlopen(f"{other.base}/api/export", timeout=60).read() == sent


def test_who_is_playing_is_asked_where_there_are_several(site: Site, open_page: OpenPage) -> None:
    played(site)
    site.player("trumpet-bb", name="Ada Brook")
    page = open_page()
    page.goto(site.base)
    expect(page.get_by_role("heading", name="Who is playing?")).to_be_visible()
    expect(page.get_by_text("Played today")).to_be_visible()
    expect(page.get_by_text("No practice yet")).to_be_visible()
    assert faults(page) == []
    page.get_by_role("button", name="Trumpet in B flat").click()
    expect(page.get_by_role("button", name="Ada Brook Menu")).to_be_visible()
    page.get_by_role("button", name="Ada Brook Menu").click()
    page.get_by_role("menuitem", name="Switch to Wim Olde").click()
    expect(page.get_by_role("button", name="Wim Olde Menu")).to_be_visible()
    page.goto(f"{site.base}/nowhere")
    expect(page.get_by_role("heading", name="Nothing here")).to_be_visible()


def test_a_session_has_a_page_and_a_take_thrown_away_comes_back(site: Site, open_page: OpenPage) -> None:
    player, session = played(site)
    page = open_page()
    page.goto(f"{site.base}/progress/sessions")
    page.get_by_role("link", name="Lip slurs: two partials").click()
    expect(page.get_by_role("heading", name="Lip slurs: two partials", level=1)).to_be_visible()
    page.get_by_label("Your note on this session").fill("better after the rest")
    page.get_by_label("Your note on this session").blur()
    page.get_by_role("button", name="Show list").click()
    assert faults(page) == []
    page.get_by_role("link", name="Take 1").click()
    page.get_by_role("button", name="Delete", exact=True).click()
    expect(page.get_by_text("This take is deleted.")).to_be_visible()
    page.goto(f"{site.base}/progress/sessions")
    expect(page.get_by_text("better after the rest")).to_be_visible()
    page.get_by_text("Deleted takes: 1").click()
    page.get_by_role("button", name="Restore").click()
    expect(page.get_by_text("Restored.")).to_be_visible()
    assert len(site.call(f"/api/sessions/{session}/takes")) == 2
    page.goto(f"{site.base}/session/{session}")
    page.get_by_role("button", name="Delete session").click()
    page.get_by_role("button", name="Delete for good").click()
    page.get_by_role("heading", name="Sessions", level=1).wait_for()
    assert site.call(f"/api/players/{player}/log")["total"] == 0


def test_paper_calendar_and_tables_are_where_the_thing_is(site: Site, open_page: OpenPage) -> None:
    played(site)
    page = open_page()
    for path, name, start in (
        ("/instrument", "Export chart as PDF", b"%PDF-"),
        ("/plan", "Export to a calendar", b"BEGIN:VCALENDAR"),
        ("/progress/sessions", "Export notes as CSV", b"take,date,exercise"),
        ("/progress", "Report as PDF", b"%PDF-"),
    ):
        page.goto(f"{site.base}{path}")
        page.get_by_role("heading", level=1).wait_for()
        for closed in ("Practice minutes", "Compare, and export"):
            if page.locator("summary", has_text=closed).count():
                page.locator("summary", has_text=closed).click()
        with page.expect_download() as waiting:
            page.get_by_role("link", name=name).click()
        assert Path(waiting.value.path()).read_bytes().startswith(start)
        assert waiting.value.suggested_filename.startswith("orexis-")


def test_every_control_of_the_stand_is_reachable_on_low_and_narrow_screens(site: Site, open_page: OpenPage) -> None:
    session = site.session("one-octave-scale")
    page = open_page()
    page.goto(f"{site.base}/stand/{session}")
    begin = page.get_by_role("button", name="Start", exact=True)
    begin.wait_for()
    for width, height in ((844, 390), (640, 400), (360, 640)):
        page.set_viewport_size({"width": width, "height": height})
        page.wait_for_function(f"innerWidth === {width} && innerHeight === {height}")
        drawn(page)
        box = begin.bounding_box()
        assert box is not None
        assert box["y"] + box["height"] <= height
        # Nothing lies over it.
        middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        on_top = page.evaluate("([x, y]) => document.elementFromPoint(x, y)?.textContent?.trim()", list(middle))
        assert on_top == "Start"
        for name in ("Pause", "End", "Something hurts"):
            tool = page.get_by_role("button", name=name, exact=True)
            tool.scroll_into_view_if_needed()
            place = tool.bounding_box()
            assert place is not None
            assert 0 <= place["x"] + place["width"] / 2 <= width
            assert place["y"] + place["height"] <= height + 1


def test_keys_leave_the_focused_control_alone_and_a_pedal_ends_a_take(site: Site, open_page: OpenPage) -> None:
    session = site.session("long-low-tones")
    page = open_page()
    page.goto(f"{site.base}/stand/{session}")
    page.get_by_text("Ready.").wait_for()
    page.get_by_role("button", name="Drone").focus()
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Drone")).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("ArrowRight")  # inside the toolbar: no take begins
    expect(page.get_by_text("Ready.")).to_be_visible()
    page.keyboard.press("Space")
    page.locator("body").click(position={"x": 600, "y": 300})
    page.evaluate("document.activeElement?.blur()")
    page.keyboard.press("PageDown")
    page.get_by_text("Listening.").wait_for()
    until(lambda: site.heard_bytes() > A_SECOND_OF_SOUND)
    page.keyboard.press("PageDown")
    page.get_by_role("link", name=re.compile("etails$")).wait_for()
    assert len(site.call(f"/api/sessions/{session}")["state"]["takes"]) == 1
