"""The day in the player's hands, the weeks and programmes, the path on Figures: in the browser."""

from datetime import timedelta

from playwright.sync_api import expect

from orexis.services.clock import now
from tests.web.conftest import OpenPage, Site


def test_a_day_is_changed_kept_and_begun_as_it_stands(site: Site, open_page: OpenPage) -> None:
    player = site.player("trumpet-bb")
    page = open_page()
    page.goto(site.base)
    blocks = page.locator("ol li b")
    expect(blocks.first).to_have_text("Breath")
    page.get_by_label("Minutes, 10 to 120").fill("20")
    page.get_by_label("Minutes, 10 to 120").press("Tab")
    expect(page.get_by_label("5 blocks over 20 minutes")).to_be_visible()
    page.get_by_role("button", name="Leave out Breath").click()
    expect(blocks.first).to_have_text("Buzz and answer")
    page.get_by_label("In place of Buzz and answer").select_option("siren")
    expect(blocks.first).to_have_text("Siren")
    page.get_by_label("Minutes of Siren").select_option("6")
    expect(page.get_by_role("button", name="Keep Siren")).to_have_attribute("aria-pressed", "true")
    page.get_by_role("button", name="Siren later").focus()
    page.keyboard.press("Enter")
    expect(blocks.nth(1)).to_have_text("Siren")
    page.get_by_label("One more").select_option("tune")
    expect(blocks.last).to_have_text("Tune")
    names = blocks.all_inner_texts()
    page.get_by_label("Keep this day as").fill("Evenings")
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_text("“Evenings” is kept.")).to_be_visible()
    page.get_by_role("button", name="As it was composed").click()
    expect(blocks.first).to_have_text("Breath")
    page.get_by_label("The day is").select_option("Evenings")
    expect(blocks.first).to_have_text(names[0])
    page.get_by_role("button", name="To the stand").click()
    expect(page.get_by_text("Ready when you are.")).to_be_visible()
    state = site.call(f"/api/players/{player}/session")["state"]
    families = [block["family"] for block in state["plan"]]
    assert families[1] == "siren"
    assert families[-1] == "tune"
    assert len(families) == len(names)
    assert state["plan"][1]["minutes"] == 6


def test_weeks_are_given_moved_and_aimed_with(site: Site, open_page: OpenPage) -> None:
    player = site.player("trumpet-bb", minutes=[30, 30, 30, 30, 30, 30, 0])
    page = open_page()
    page.goto(f"{site.base}/weeks")
    expect(page.get_by_role("heading", level=1)).to_contain_text("room for a load")
    page.get_by_label("Sunday", exact=True).fill("20")
    page.get_by_label("Sunday", exact=True).press("Tab")
    today = now().astimezone().date()
    later = today + timedelta(days=14 - today.weekday())  # a Monday that is to come
    name = f"{later.day} {later:%b}"
    day = page.get_by_role("button", name=f"Monday {name}")
    day.click()
    expect(page.get_by_role("heading", name=f"Monday, {name}")).to_be_visible()
    page.get_by_text("a performance").click()
    expect(page.get_by_text("a performance: half of the usual, nothing high")).to_be_visible()
    page.get_by_label("Move it to").select_option(label="Tuesday")
    expect(page.get_by_text("moved away")).to_be_visible()
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
    expect(page.get_by_role("button", name=f"Tuesday {tuesday.day} {tuesday:%b}: off, moved away")).to_be_visible()
    settings = site.call("/api/players")[0]["settings"]
    assert settings["moved"] == moved | {tuesday.isoformat(): 0, third.isoformat(): 30}

    page.get_by_label("A new aim").select_option("hold")
    page.get_by_label("seconds, 4 to 20").fill("16")
    page.get_by_label("By", exact=True).fill((today + timedelta(days=9)).isoformat())
    page.get_by_role("button", name="Begin it").click()
    expect(page.get_by_text("Hold a low tone for 16 seconds")).to_be_visible()
    expect(page.get_by_text("four times in five")).to_be_visible()
    expect(page.get_by_text("it will hardly be met")).to_be_visible()
    page.get_by_role("button", name="Pause it").click()
    expect(page.get_by_text("Paused: it asks for nothing.")).to_be_visible()
    assert site.call(f"/api/players/{player}/programmes")[0]["state"] == "paused"


def test_a_path_is_shown_with_its_figure_and_set_by_hand(site: Site, open_page: OpenPage) -> None:
    site.player("trumpet-bb")
    page = open_page()
    page.goto(f"{site.base}/figures")
    page.get_by_role("button", name="Siren").click()
    grows = page.get_by_role("region", name="How it grows")
    expect(grows).to_contain_text("Step 2 of 8")
    page.get_by_label("Your own word on it").select_option("5")
    expect(grows).to_contain_text("Step 6 of 8")
    expect(grows).to_contain_text("You set this step.")
    page.get_by_role("button", name="As this step has it").click()
    expect(page.get_by_label("Beats each way")).to_have_value("8")
