"""A teacher's class through the pages: turned on, looked at, a goal and a lesson given, a player's practice visited."""

from datetime import date, timedelta

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from tests.web.conftest import OpenPage, Site


def as_player(page: Page, player: str) -> None:
    page.add_init_script(f"localStorage['orexis.player'] ??= '{player}'")


def test_a_class_from_its_teachers_first_look_to_a_players_own_day(site: Site, open_page: OpenPage) -> None:
    pupil, teacher = site.player("trumpet-bb", name="Ada Brook"), site.player("trumpet-bb", name="Rosa Lind")
    session = site.call("/api/sessions", {"player_id": pupil, "exercise_type": "two-partial-slur", "params": {}})["id"]
    site.call(f"/api/sessions/{session}/simulated-take", {"manner": "clean", "seed": 1})
    page = open_page()
    as_player(page, teacher)
    page.goto(f"{site.base}/settings")
    page.locator("summary", has_text="Teach the others here").click()
    page.get_by_label("I teach the others here").check(force=True)
    page.get_by_role("link", name="Class", exact=True).click()
    expect(page.get_by_text("1 of 1 player practised this week.")).to_be_visible()

    by = (date.today() + timedelta(days=100)).isoformat()
    page.get_by_label("Choose Ada Brook").check()
    page.get_by_role("button", name="Give a goal").click()
    page.get_by_label("Goal").select_option("minutes")
    page.get_by_label("minutes, 5 to 90").fill("30")
    page.get_by_label("By", exact=True).fill(by)
    page.get_by_role("button", name="Give", exact=True).click()
    expect(page.get_by_text("Done.")).to_be_visible()
    assert [goal["says"] for goal in site.call(f"/api/players/{pupil}/goals")] == ["play 30 minutes before tiring"]

    wish = {"player_id": teacher, "exercise_type": "two-partial-slur", "params": {}, "name": "Slurs of the week"}
    own = site.call("/api/exercises/keep", wish)["id"]
    lesson = {"to": "all", "title": "Week 1", "words": "Slow air", "exercises": [{"id": own}]}
    site.call(f"/api/players/{teacher}/lessons", lesson)
    page.reload()
    page.get_by_label("Everybody").check()
    page.get_by_role("button", name="Give a lesson").click()
    page.locator("form").get_by_label("Lesson").select_option(label="Week 1")
    page.get_by_label("Add it to their practice at once").uncheck(force=True)
    page.get_by_role("button", name="Give", exact=True).click()
    expect(page.get_by_text("1 lesson not added yet")).to_be_visible()
    assert Axe().run(page).response["violations"] == []
    with page.expect_download() as sheet:
        page.get_by_role("link", name="Print week").click()
    assert sheet.value.path().read_bytes().startswith(b"%PDF")

    page.get_by_role("button", name="Sessions").click()
    expect(page.get_by_text("You are looking at Ada Brook’s practice.")).to_be_visible()
    page.locator("a[href^='/take/'], a[href^='/session/']").first.click()
    page.locator("a[href^='/take/']").first.click()
    page.get_by_label("Remark by Rosa Lind").fill("lovely start")
    page.get_by_role("button", name="Add to the whole take").click()
    expect(page.get_by_text("lovely start")).to_be_visible()
    page.get_by_role("button", name="Back to the class").click()
    expect(page.get_by_role("heading", name="Class")).to_be_visible()

    own_page = open_page()
    as_player(own_page, pupil)
    own_page.goto(site.base)
    expect(own_page.get_by_text("Rosa Lind sees how you practise")).to_be_visible()
    own_page.get_by_role("link", name="Week 1").click()
    own_page.get_by_role("button", name="Add Slurs of the week").click()
    expect(own_page.get_by_text("added", exact=True)).to_be_visible()


def test_a_pin_is_asked_before_anything_of_a_player_is_shown(site: Site, open_page: OpenPage) -> None:
    ada = site.player("trumpet-bb", name="Ada Brook")
    site.player("trumpet-bb", name="Tam Perrow")
    own = open_page()
    as_player(own, ada)
    own.goto(f"{site.base}/settings")
    own.locator("summary", has_text="Name, instrument").click()
    own.get_by_label("PIN, 4 to 8 digits").fill("2468")
    own.get_by_role("button", name="Set", exact=True).click()
    expect(own.get_by_role("button", name="Remove the PIN")).to_be_visible()

    page = open_page()
    as_player(page, ada)
    page.goto(site.base)
    expect(page.get_by_role("heading", name="Ada Brook")).to_be_visible()
    page.get_by_label("PIN").fill("1357")
    page.get_by_role("button", name="Open").click()
    expect(page.get_by_text("That isn’t the PIN.")).to_be_visible()
    assert Axe().run(page).response["violations"] == []
    page.get_by_label("PIN").fill("2468")
    page.get_by_role("button", name="Open").click()
    expect(page.get_by_role("button", name="Start", exact=True)).to_be_visible()
    page.goto(f"{site.base}/who")
    page.get_by_role("button", name="Tam Perrow").click()
    expect(page.get_by_role("button", name="Start", exact=True)).to_be_visible()
    page.goto(f"{site.base}/who")
    page.get_by_role("button", name="Ada Brook").click()
    expect(page.get_by_label("PIN")).to_be_visible()
