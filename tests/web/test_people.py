"""What five people came for, in few actions: a beginner, a returning player, a student, a player with a tablet, a teacher."""

import re
import time
from datetime import timedelta
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect

from orexis.services.clock import now
from tests.web.conftest import OpenPage, Site
from tests.web.test_household import played

MOST_WORDS, MOST_AT_THE_STAND = 120, 40
# Words in sight: not those in drawings, for readers only, or inside closed choices.
IN_SIGHT = """() => {
  const words = [];
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (walker.nextNode()) {
    const [node, text] = [walker.currentNode, walker.currentNode.textContent.trim()];
    if (!/[A-Za-z]{2}/.test(text) || node.parentElement.closest('.sr-only, svg, option, script, style')) continue;
    const range = document.createRange();
    range.selectNodeContents(node);
    const box = range.getBoundingClientRect();
    if (box.width < 1 || box.bottom < 0 || box.top > innerHeight) continue;
    if (!node.parentElement.checkVisibility({ visibilityProperty: true })) continue;
    words.push(...text.split(/\\s+/).filter((word) => /[A-Za-z]{2}/.test(word)));
  }
  return words.length;
}"""


class Hand:
    """Counts what somebody does."""

    def __init__(self) -> None:
        self.actions = 0

    def click(self, what: Locator) -> None:
        self.actions += 1
        what.click()

    def choose(self, what: Locator, option: str) -> None:
        self.actions += 1
        what.select_option(option)

    def write(self, what: Locator, text: str) -> None:
        self.actions += 1
        what.fill(text)

    def open(self, page: Page, file: Path) -> None:
        self.actions += 1
        page.get_by_label("Open a file").set_input_files(file)
        expect(page.get_by_text("Opened and complete.")).to_be_visible()

    def save(self, page: Page, name: str, to: Path) -> Path:
        self.actions += 1
        with page.expect_download() as waiting:
            page.get_by_role("button", name=name).or_(page.get_by_role("link", name=name)).click()
        waiting.value.save_as(to)
        return to


@pytest.mark.realtime
def test_a_beginner_has_a_first_result_in_five_actions_and_half_a_minute(site: Site, open_page: OpenPage) -> None:
    page, hand = open_page(), Hand()
    page.goto(site.base)
    page.get_by_role("heading", name="Play one note.").wait_for()
    began = time.monotonic()
    hand.choose(page.get_by_label("What do you play?"), "cornet-bb")
    hand.choose(page.get_by_label("Your level"), "beginner")
    hand.click(page.get_by_role("button", name="Show the demo player"))
    expect(page.get_by_text("Ready.")).to_be_visible()
    hand.click(page.get_by_role("button", name="Start", exact=True))
    # The result stays while the next take is shown.
    page.get_by_role("heading", name=re.compile("Clean|Close|Not yet|Not heard")).wait_for()
    assert hand.actions <= 5
    assert time.monotonic() - began < 30.0


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (820, 1180), (390, 844)])
def test_a_returning_player_starts_the_day_in_two(site: Site, open_page: OpenPage, width: int, height: int) -> None:
    site.player("trombone-tenor")
    page, hand = open_page(width=width, height=height), Hand()
    page.goto(site.base)
    start = page.get_by_role("button", name="Start", exact=True)
    expect(start).to_be_enabled()
    box = start.bounding_box()
    assert box is not None
    assert box["y"] + box["height"] <= height  # seen without scrolling
    page.keyboard.press("Tab")
    page.keyboard.press("Tab")
    expect(start).to_be_focused()  # the second stop of the tab key
    hand.click(start)
    expect(page.get_by_text("Ready.")).to_be_visible()
    hand.click(page.get_by_role("button", name="Start", exact=True))
    expect(page.get_by_text("Breathe, then play.").or_(page.get_by_text("Listening."))).to_be_visible()
    assert hand.actions == 2


def test_a_student_enters_an_audition_in_ten_weeks_with_a_goal(site: Site, open_page: OpenPage) -> None:
    player = site.player("horn-f-bb")
    page, hand = open_page(), Hand()
    audition = now().astimezone().date() + timedelta(weeks=10)
    page.goto(site.base)
    hand.click(page.get_by_role("link", name="Plan"))
    hand.write(page.get_by_label("Go to"), f"{audition:%Y-%m}")
    page.get_by_label("Go to").press("Tab")
    hand.click(page.locator("td:not(.outside) button.day").nth(audition.day - 1))
    hand.click(page.get_by_role("main").get_by_text("Performance", exact=True).last)
    hand.click(page.get_by_role("button", name="Add a goal"))
    hand.choose(page.locator("form").get_by_label("Goal"), "hold")
    hand.write(page.get_by_label("seconds, 4 to 20"), "15")
    hand.write(page.get_by_label("By", exact=True), audition.isoformat())
    hand.click(page.get_by_role("button", name="Add", exact=True))
    expect(page.get_by_text("Hold a low tone for 15 seconds")).to_be_visible()
    assert hand.actions <= 12
    assert site.call("/api/players")[0]["settings"]["performances"] == [audition.isoformat()]
    assert len(site.call(f"/api/players/{player}/goals")) == 1


def test_a_teacher_opens_files_without_playing_a_note(site: Site, open_page: OpenPage) -> None:
    page, hand = open_page(), Hand()
    page.goto(site.base)
    hand.choose(page.get_by_label("What brings you here?"), "teacher")
    hand.click(page.get_by_role("button", name="Open a file"))
    expect(page.get_by_role("heading", name="Lessons")).to_be_visible()
    assert hand.actions == 2
    assert site.call(f"/api/players/{site.call('/api/players')[0]['id']}/log")["total"] == 0


def test_recordings_go_to_the_teacher_and_come_back(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    played(site)
    teacher = Site(tmp_path / "teacher")
    teacher.player("tuba-eb", name="Wenna Tull")
    page, sends, returns = open_page(), Hand(), Hand()
    there, reviews = open_page(), Hand()
    page.goto(f"{site.base}/lessons")
    sends.click(page.get_by_role("button", name="Send recordings"))
    sends.write(page.get_by_label("For", exact=True), "Wenna")
    sends.write(page.get_by_label("Subject"), "First slurs")
    sends.click(page.get_by_label("Take 1:"))
    sends.click(page.get_by_role("button", name="Create file"))
    request = sends.save(page, "Save file", tmp_path / "request.zip")
    assert sends.actions <= 8

    there.goto(f"{teacher.base}/lessons")
    reviews.open(there, request)
    reviews.click(there.get_by_role("listitem").get_by_role("link").first)
    reviews.write(there.get_by_label("Position in the take, in seconds"), "3.2")
    reviews.write(there.get_by_label("Remark by Wenna Tull, at 3.2 s"), "warm air here")
    reviews.click(there.get_by_role("button", name="Add here"))
    expect(there.get_by_role("button", name="at 3.2 s")).to_be_visible()
    reviews.click(there.get_by_role("button", name="Mark as closer"))
    expect(there.get_by_text("closer", exact=True)).to_be_visible()
    reviews.click(there.get_by_role("link", name="Back to the lesson"))
    reviews.write(there.get_by_label("Answer from Wenna Tull"), "Half the air.")
    answer = reviews.save(there, "Save answer", tmp_path / "answer.zip")
    assert reviews.actions <= 12
    teacher.close()

    page.goto(f"{site.base}/lessons")
    returns.open(page, answer)
    expect(page.get_by_text("Half the air.")).to_be_visible()
    returns.click(page.get_by_role("listitem").get_by_role("link").first)
    expect(page.get_by_text("warm air here")).to_be_visible()
    assert returns.actions == 2


def test_a_tubist_plays_two_takes_with_a_pedal_alone(site: Site, open_page: OpenPage) -> None:
    """A pedal sends the keys of a page turner: no hand leaves the instrument."""
    session = site.session("long-low-tones")
    page = open_page(width=820, height=1180)
    page.goto(f"{site.base}/stand/{session}")
    page.get_by_text("Ready.").wait_for()
    for takes in (1, 2):
        page.keyboard.press("PageDown")
        page.get_by_role("heading", name=re.compile("Clean|Close|Not yet|Not heard")).wait_for()
        page.wait_for_function(
            "([url, takes]) => fetch(url).then((a) => a.json()).then((a) => a.state.takes.length === takes)",
            arg=[f"/api/sessions/{session}", takes],
        )
        page.keyboard.press("PageDown")
        page.get_by_text("Ready.").wait_for()


def test_no_view_begins_with_more_than_can_be_taken_in(site: Site, open_page: OpenPage) -> None:
    session = site.session("two-partial-slur", instrument="trumpet-bb")
    page = open_page()
    page.goto(f"{site.base}/stand/{session}")
    page.get_by_text("Ready.").wait_for()
    at_the_stand = [words_of(page)]
    page.get_by_role("button", name="Start", exact=True).click()
    page.get_by_role("link", name="Show details").wait_for()
    at_the_stand.append(words_of(page))
    take = site.call(f"/api/sessions/{session}")["state"]["takes"][0]["take_id"]
    assert max(at_the_stand) <= MOST_AT_THE_STAND, at_the_stand
    counts = {}
    for path in ("/", "/play", "/plan", "/exercises", "/exercises/long-low-tones", "/progress", "/progress/range",
                 "/progress/sessions", "/instrument", "/settings", "/lessons", "/welcome", f"/session/{session}",
                 f"/take/{take}"):  # fmt: skip
        page.goto(site.base + path)
        page.get_by_role("heading", level=1).wait_for()
        page.wait_for_load_state("networkidle")
        counts[path] = words_of(page)
    assert {path: count for path, count in counts.items() if count > MOST_WORDS} == {}, counts


def words_of(page: Page) -> int:
    """Words in sight without scrolling."""
    return int(page.evaluate(IN_SIGHT))
