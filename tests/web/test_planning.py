"""The day in the player's hands, the month and goals, the levels of an exercise: in the browser."""

import re
from datetime import timedelta
from pathlib import Path

from playwright.sync_api import Locator, expect

from orexis.services.clock import now
from tests.web.conftest import OpenPage, Site, until


def test_a_day_is_changed_kept_and_begun_as_it_stands(site: Site, open_page: OpenPage) -> None:
    player = site.player("trumpet-bb")
    page = open_page()
    page.goto(site.base)
    blocks = page.locator("ol li b")

    def opened(name: str) -> Locator:
        page.get_by_role("button", name=re.compile(f"^{name},")).click()
        return page.get_by_role("region", name=name)

    expect(blocks.first).to_have_text("Breathing")
    page.get_by_label("Minutes, 10 to 120").fill("20")
    page.get_by_label("Minutes, 10 to 120").press("Tab")
    expect(page.get_by_role("heading", level=1)).to_contain_text("20 minutes")
    opened("Breathing").get_by_role("button", name="Remove").click()
    first, sirens = "Mouthpiece buzzing: two notes", "Mouthpiece buzzing: sirens"
    expect(blocks.first).to_have_text(first)
    opened(first).get_by_label(f"Swap {first} for").select_option("siren")
    expect(blocks.first).to_have_text(sirens)
    details = opened(sirens)
    details.get_by_label("Minutes for").select_option("6")
    expect(details.get_by_role("button", name="Unpin")).to_have_attribute("aria-pressed", "true")
    page.get_by_role("button", name=re.compile(f"^{sirens},")).focus()
    page.keyboard.press("Alt+ArrowRight")
    expect(blocks.nth(1)).to_have_text(sirens)
    page.get_by_label("Add an exercise").select_option("tune")
    expect(blocks.last).to_have_text("Tunes")
    names = blocks.all_inner_texts()
    page.get_by_label("Name of the routine").fill("Evenings")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("“Evenings” is saved.")).to_be_visible()
    page.get_by_role("button", name="Undo changes").click()
    expect(blocks.first).to_have_text("Breathing")
    page.locator("label", has_text="Routine").locator("select").select_option("Evenings")
    expect(blocks.first).to_have_text(names[0])
    page.get_by_role("button", name="Start", exact=True).click()
    expect(page.get_by_text("Ready.")).to_be_visible()
    state = site.call(f"/api/players/{player}/session")["state"]
    exercise_types = [block["exercise_type"] for block in state["plan"]]
    assert exercise_types[1] == "siren"
    assert exercise_types[-1] == "tune"
    assert len(exercise_types) == len(names)
    assert state["plan"][1]["minutes"] == 6


def test_dates_come_from_a_calendar_and_weeks_lead_up_to_them(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    player = site.player("trumpet-bb")
    concert = now().astimezone().date() + timedelta(weeks=8)
    band = now().astimezone().date() + timedelta(days=3)
    events = [
        f"UID:1\r\nSUMMARY:Spring concert\r\nDTSTART;VALUE=DATE:{concert:%Y%m%d}",
        f"UID:2\r\nSUMMARY:Town band\r\nDTSTART:{band:%Y%m%d}T193000\r\nDURATION:PT2H\r\nRRULE:FREQ=WEEKLY",
        f"UID:3\r\nSUMMARY:Dentist\r\nDTSTART:{band:%Y%m%d}T093000\r\nDURATION:PT1H",
    ]
    inner = "".join(f"BEGIN:VEVENT\r\n{event}\r\nEND:VEVENT\r\n" for event in events)
    (tmp_path / "own.ics").write_text(f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\n{inner}END:VCALENDAR\r\n")
    page = open_page()
    page.goto(f"{site.base}/plan")
    page.get_by_text("Practice minutes by weekday").click()
    page.get_by_label("Import from a calendar").set_input_files(tmp_path / "own.ics")
    expect(page.get_by_role("list", name="Dates in the calendar").get_by_role("listitem")).to_have_count(3)
    page.get_by_role("button", name="Add 2 dates").click()
    expect(page.get_by_text("2 dates added.")).to_be_visible()
    settings = site.call("/api/players")[0]["settings"]
    assert settings["performances"] == [concert.isoformat()]
    assert [(item["day"], item["minutes"], item["weekly"]) for item in settings["elsewhere"]] == [
        (band.isoformat(), 120, True)
    ]
    ahead = page.get_by_role("region", name=re.compile("^Weeks until"))
    expect(ahead.get_by_role("heading")).to_contain_text("weeks until the performance")
    expect(ahead.get_by_role("listitem")).to_have_count(10)
    expect(ahead.get_by_role("listitem").nth(8)).to_contain_text("performance")
    assert site.call(f"/api/players/{player}/weeks")["performances"] == [concert.isoformat()]


def test_playing_elsewhere_is_entered_in_two_taps(site: Site, open_page: OpenPage) -> None:
    player = site.player("trumpet-bb")
    page = open_page()
    page.goto(f"{site.base}/plan")
    page.get_by_label("Playing elsewhere").select_option("120")
    page.get_by_role("button", name="Add 120 minutes, medium").click()
    expect(page.get_by_text("120 min elsewhere, medium")).to_be_visible()
    page.get_by_text("every week", exact=True).click()
    until(lambda: site.call("/api/players")[0]["settings"]["elsewhere"][0]["weekly"])
    page.get_by_text("Practice minutes by weekday").click()
    page.get_by_label("You play now").select_option("60")
    until(lambda: site.call("/api/players")[0]["settings"]["plays_now"] == 60)
    page.get_by_role("button", name="Remove", exact=True).click()
    until(lambda: site.call("/api/players")[0]["settings"]["elsewhere"] == [])
    assert player


def test_weeks_are_given_moved_and_aimed_with(site: Site, open_page: OpenPage) -> None:
    player = site.player("trumpet-bb", minutes=[30, 30, 30, 30, 30, 30, 0])
    page = open_page()
    page.goto(f"{site.base}/plan")
    page.locator("summary", has_text="Practice minutes").click()
    page.get_by_label("Sunday", exact=True).fill("20")
    page.get_by_label("Sunday", exact=True).press("Tab")
    today = now().astimezone().date()
    later = today + timedelta(days=14 - today.weekday())  # a Monday that is to come
    name = f"{later.day} {later:%b}"
    page.get_by_label("Go to").fill(f"{later:%Y-%m}")
    page.get_by_label("Go to").press("Tab")
    day = page.get_by_role("button", name=f"Monday {name}")
    day.click()
    expect(page.get_by_role("heading", name=f"Monday, {name}")).to_be_visible()
    page.get_by_text("Performance", exact=True).last.click()
    expect(page.get_by_text("performance day: half the usual, nothing heavy")).to_be_visible()
    page.get_by_label("Move to").select_option(label="Tuesday")
    expect(page.get_by_text("moved to another day")).to_be_visible()
    settings = site.call("/api/players")[0]["settings"]
    assert settings["minutes"] == [30, 30, 30, 30, 30, 30, 20]
    assert settings["performances"] == [later.isoformat()]
    moved = {later.isoformat(): 0, (later + timedelta(days=1)).isoformat(): 30}
    assert settings["moved"] == moved

    # Drawn with the mouse: Tuesday onto Thursday.
    third = later + timedelta(days=3)
    tuesday = later + timedelta(days=1)
    there = page.get_by_role("button", name=f"Thursday {third.day} {third:%b}")
    page.get_by_role("button", name=f"Tuesday {tuesday.day} {tuesday:%b}").drag_to(there)
    expect(page.get_by_role("heading", name=f"Thursday, {third.day} {third:%b}")).to_be_visible()
    expect(page.get_by_role("button", name=f"Tuesday {tuesday.day} {tuesday:%b}: off, 0 min")).to_be_visible()
    settings = site.call("/api/players")[0]["settings"]
    assert settings["moved"] == moved | {tuesday.isoformat(): 0, third.isoformat(): 30}

    # A holiday from that Saturday to the Monday after.
    saturday = later + timedelta(days=5)
    page.get_by_role("button", name=f"Saturday {saturday.day} {saturday:%b}").click()
    page.get_by_label("No practice until").fill((saturday + timedelta(days=2)).isoformat())
    expect(page.get_by_role("button", name=f"Saturday {saturday.day} {saturday:%b}: off, 0 min")).to_be_visible()
    moved = site.call("/api/players")[0]["settings"]["moved"]
    assert [moved[(saturday + timedelta(days=i)).isoformat()] for i in range(3)] == [0, 0, 0]

    page.get_by_role("button", name="Add a goal").click()
    page.locator("form").get_by_label("Goal").select_option("hold")
    page.get_by_label("seconds, 4 to 20").fill("16")
    page.get_by_label("By", exact=True).fill((today + timedelta(days=9)).isoformat())
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_text("Hold a low tone for 16 seconds")).to_be_visible()
    expect(page.get_by_text("Now:")).to_be_visible()
    expect(page.get_by_text("A likely date comes after 3 more days of practice.")).to_be_visible()
    page.get_by_role("button", name="Pause").click()
    expect(page.get_by_text("Paused.")).to_be_visible()
    assert site.call(f"/api/players/{player}/goals")[0]["state"] == "paused"


def test_a_path_is_shown_with_its_exercise_and_set_by_hand(site: Site, open_page: OpenPage) -> None:
    site.player("trumpet-bb")
    page = open_page()
    page.goto(f"{site.base}/exercises")
    page.get_by_role("link", name="Mouthpiece buzzing: sirens").click()
    grows = page.get_by_role("region", name="Level")
    expect(grows).to_contain_text("Level 2 of 8")
    page.get_by_label("Set my level").select_option("5")
    expect(grows).to_contain_text("Level 6 of 8")
    expect(grows).to_contain_text("You set this level.")
    page.get_by_role("button", name="Show this level").click()
    expect(page.get_by_label("Beats each way")).to_have_value("8")
