"""The real interface in a real browser: microphone, simulated player, dropped file, refusal, reload, a dead server."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.web.conftest import A_SECOND_OF_SOUND, OpenPage, Site, microphone_file, through_microphone, until


def verdict(page: Page) -> str:
    page.get_by_role("heading", name=re.compile("Clean|Close|Not yet|Not heard")).wait_for()
    return page.locator("footer").inner_text()


def test_first_visit_to_a_judged_take_in_the_log(site: Site, open_page: OpenPage) -> None:
    page = open_page()
    page.goto(site.base)
    expect(page.get_by_role("heading", name="Play one note.")).to_be_visible()
    page.get_by_label("Your name").fill("Wim Olde")
    page.get_by_label("What do you play?").select_option("horn-f-bb")
    page.locator("summary", has_text="Comfortable notes").click()
    for written in ("G4", "C4"):  # in either order
        page.get_by_role("button", name=written, exact=True).click()
    page.get_by_role("button", name="Show the demo player").click()
    expect(page.get_by_text("Ready.")).to_be_visible()
    page.keyboard.press("PageDown")  # as a pedal does
    expect(page.get_by_text("Listening.")).to_be_visible()
    text = verdict(page)
    own = site.call("/api/players")[0]["setup"]
    assert [own[f"comfortable_{end}"]["step"] for end in ("low", "high")] == ["F", "C"]  # as they sound
    assert re.search("Clean|Close|Not yet", text)
    # The click goes on: the next take begins by itself, and the first one is looked at afterwards.
    takes = site.call(f"/api/sessions/{page.url.rsplit('/', 1)[1]}")["state"]["takes"]
    page.goto(f"{site.base}/take/{takes[0]['take_id']}")
    expect(page.get_by_role("cell", name=re.compile(r"19\d\.\d Hz"))).to_be_visible()
    page.goto(f"{site.base}/progress/sessions")
    expect(page.get_by_role("link", name="Take 1")).to_be_visible()
    expect(page.get_by_role("heading", name="Long tones")).to_be_visible()


@pytest.mark.realtime
def test_the_microphone_path_measures_what_was_played(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    """A file through the browser's own microphone path: a low centre is found to within a cent or two."""
    # The microphone is opened on arrival at the take; the count-in is four seconds long at 60 beats a minute.
    sound = microphone_file(tmp_path / "mic.wav", "long-low-tones", "centre=-27c", lead_s=0.9)
    page, take = through_microphone(site, open_page, sound, lambda: site.session("long-low-tones"))
    text = verdict(page)
    assert "Not yet" in text
    assert re.search(r"2[678] cents flat", text)
    assert take["source"] == "microphone"
    assert take["device"]["echo_cancellation"] is False
    assert abs(take["measures"]["notes"][0]["pitch_error_cents"] + 26.6) < 1.0
    assert abs(take["measures"]["notes"][0]["pitch_drift_cents"]) < 2.0
    assert (site.call(f"/api/takes/{take['id']}/trace")["f0_hz"]).count(None) > 100


@pytest.mark.realtime
def test_a_slur_through_the_microphone_names_the_gap(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    sound = microphone_file(tmp_path / "mic.wav", "two-partial-slur", "gap=140ms@n2", lead_s=0.9)
    page, take = through_microphone(site, open_page, sound, lambda: site.session("two-partial-slur"))
    text = verdict(page)
    assert "Not yet" in text
    assert "a gap of 0.1 s before E♭2" in text
    assert 130 <= take["measures"]["moves"][0]["gap_ms"] < 150


def test_a_refused_microphone_says_what_to_do(site: Site, open_page: OpenPage) -> None:
    session = site.session("long-low-tones")
    page = open_page(source="microphone")
    page.goto(f"{site.base}/stand/{session}")
    page.get_by_role("button", name="Start", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("demo player")
    page.get_by_role("button", name="Use the demo player").click()
    expect(page.get_by_text("Listening.")).to_be_visible()


def test_a_dropped_file_is_judged(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    session = site.session("two-partial-slur")
    page = open_page()
    page.goto(f"{site.base}/stand/{session}")
    expect(page.get_by_text("Ready.")).to_be_visible()
    chooser = page.get_by_label("Sound file as a take")
    (tmp_path / "no.wav").write_bytes(b"not a sound")
    chooser.set_input_files(tmp_path / "no.wav")
    expect(page.get_by_role("alert")).to_contain_text("WAV or FLAC")
    sound = microphone_file(tmp_path / "take.wav", "two-partial-slur", "gap=140ms@n3", lead_s=0.5)
    page.reload()
    page.get_by_label("Sound file as a take").set_input_files(sound)
    assert "gap" in verdict(page)


def test_stop_throws_the_take_away_and_a_reload_in_a_take_keeps_it(site: Site, open_page: OpenPage) -> None:
    session = site.session("long-low-tones")
    page = open_page()
    page.goto(f"{site.base}/stand/{session}")
    page.get_by_role("button", name="Start", exact=True).click()
    expect(page.get_by_text("Listening.")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_text("Ready.")).to_be_visible()
    assert site.call(f"/api/sessions/{session}")["state"]["takes"] == []
    page.get_by_role("button", name="Start", exact=True).click()
    expect(page.get_by_text("Listening.")).to_be_visible()
    until(lambda: site.heard_bytes() > 2 * A_SECOND_OF_SOUND)
    page.reload()
    verdict(page)
    assert len(site.call(f"/api/sessions/{session}")["state"]["takes"]) == 1


def test_a_second_window_watches(site: Site, open_page: OpenPage) -> None:
    session = site.session("long-low-tones")
    page = open_page()
    page.goto(f"{site.base}/stand/{session}")
    expect(page.get_by_text("Ready.")).to_be_visible()
    other = page.context.new_page()
    other.goto(f"{site.base}/stand/{session}")
    expect(other.get_by_text("Another window runs this session.")).to_be_visible()
    other.get_by_role("button", name="Take over").click()
    expect(other.get_by_text("Ready.")).to_be_visible()
    expect(page.get_by_text("Another window runs this session.")).to_be_visible()


def test_a_server_that_is_away_is_said(site: Site, open_page: OpenPage) -> None:
    session = site.session("long-low-tones")
    page = open_page()
    page.goto(f"{site.base}/stand/{session}")
    expect(page.get_by_text("Ready.")).to_be_visible()
    site.process.kill()
    expect(page.get_by_text("No connection.")).to_be_visible()
