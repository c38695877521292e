"""A session that leads itself, in the browser: at twenty times life's speed, hands off; care; the first note begins."""

import re
from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import Error as PlaywrightError
from playwright.sync_api import Page, expect

from orexis.core.player import play
from orexis.core.sound import Sound
from orexis.files.soundfiles import write_wav
from tests.conftest import exercise_of
from tests.web.conftest import OpenPage, Site, drawn, through_microphone, until
from tests.web.test_household import faults


def on_today(site: Site, open_page: OpenPage, minutes: str) -> Page:
    page = open_page()
    page.goto(site.base)
    page.get_by_label("Minutes, 10 to 120").fill(minutes)
    page.get_by_label("Minutes, 10 to 120").press("Tab")
    return page


def test_a_routine_runs_from_today_to_its_end_without_a_touch(site: Site, open_page: OpenPage) -> None:
    player = site.player("tuba-eb", goes_on=True)
    page = on_today(site, open_page, "10")
    page.get_by_label("Speed").select_option("20")
    page.get_by_role("button", name="Start", exact=True).click()
    expect(page.get_by_text("Ready.")).to_be_visible()
    page.keyboard.press("PageDown")
    expect(page.get_by_role("region", name="Rest")).to_be_visible()
    assert faults(page) == []
    page.set_viewport_size({"width": 320, "height": 256})
    page.wait_for_function("innerWidth === 320 && document.documentElement.scrollWidth <= 320")
    page.set_viewport_size({"width": 1280, "height": 800})
    expect(page.get_by_text("That’s all for today.")).to_be_visible(timeout=400_000)
    session = site.call(f"/api/players/{player}/log")["sessions"][0]["summary"]
    assert len(session["take_ids"]) >= 8
    page.get_by_role("link", name="Show session").click()
    expect(page.get_by_role("heading", name=re.compile(r"Practice of \d exercises"))).to_be_visible()


def test_what_hurts_stops_the_session_in_one_tap(site: Site, open_page: OpenPage) -> None:
    session = site.session("long-low-tones")
    page = open_page()
    page.goto(f"{site.base}/stand/{session}")
    expect(page.get_by_text("Ready.")).to_be_visible()
    page.get_by_role("button", name="Something hurts").click()
    page.get_by_role("button", name="numb").click()
    expect(page.get_by_text("Stopped.")).to_be_visible()
    expect(page.get_by_text(re.compile("Numb lips"))).to_be_visible()
    assert site.call(f"/api/sessions/{session}")["state"]["stopped"] == "numb"


def test_pause_easier_and_skip_by_key(site: Site, open_page: OpenPage) -> None:
    session = site.session("two-partial-slur")
    page = open_page()
    page.goto(f"{site.base}/stand/{session}")
    expect(page.get_by_text("Ready.")).to_be_visible()
    page.keyboard.press(" ")
    expect(page.get_by_text("Paused.")).to_be_visible()
    page.keyboard.press(" ")
    expect(page.get_by_text("Ready.")).to_be_visible()
    page.keyboard.press("e")
    expect(page.get_by_text("slower")).to_be_visible()
    page.keyboard.press("n")
    expect(page.get_by_text("That’s all for today.")).to_be_visible()


def test_a_block_left_out_makes_room_for_others_and_the_stand_says_for_which(site: Site, open_page: OpenPage) -> None:
    player = site.player("tuba-eb", checks=False)
    page = on_today(site, open_page, "45")
    page.get_by_role("button", name="Start", exact=True).click()
    expect(page.get_by_text("Ready.")).to_be_visible()
    session = page.url.rsplit("/", 1)[1]
    was = {
        block["exercise_type"] for block in site.call(f"/api/sessions/{session}")["state"]["plan"] if not block["spare"]
    }
    for _ in range(5):
        before = site.call(f"/api/sessions/{session}")["state"]["block"]
        page.keyboard.press("n")
        until(lambda before=before: site.call(f"/api/sessions/{session}")["state"]["block"] != before)
        drawn(page)
        if page.get_by_text("plan has changed").is_visible():
            break
    expect(page.get_by_text(re.compile(r"The rest of the plan has changed\. Added: [A-Z]"))).to_be_visible()
    state = site.call(f"/api/sessions/{session}")["state"]
    assert {block["exercise_type"] for block in state["plan"] if not block["spare"]} - was
    expect(page.get_by_role("heading", name=state["plan"][state["block"]]["title"])).to_be_visible()
    assert site.call(f"/api/players/{player}/log")["total"] == 0  # nothing was played


def test_the_rhythm_is_blown_first_and_nobody_is_led_away_from_it(site: Site, open_page: OpenPage) -> None:
    player = site.player("tuba-eb", goes_on=True)
    session = site.call("/api/sessions", {"player_id": player, "exercise_type": "two-partial-slur"})["id"]
    page = open_page()
    page.goto(f"{site.base}/stand/{session}")
    expect(page.get_by_text("Ready.")).to_be_visible()
    page.keyboard.press("b")
    expect(page.get_by_text("Air only.")).to_be_visible()
    expect(page.get_by_text("blow", exact=True)).to_be_visible()
    assert site.call(f"/api/sessions/{session}")["state"]["phase"] == "preview"
    page.get_by_role("button", name="Blow", exact=True).click()
    expect(page.get_by_text("Ready.")).to_be_visible()


def test_a_exercise_with_written_rests_leaves_the_picture_its_place(site: Site, open_page: OpenPage) -> None:
    for exercise_type in ("breath", "buzz-answer"):
        session = site.session(exercise_type)
        page = open_page()
        page.goto(f"{site.base}/stand/{session}")
        page.get_by_role("button", name="Start", exact=True).click()
        expect(page.get_by_text("Breathe, then play.")).to_be_visible()
        box = page.locator(".lanes").bounding_box()
        assert box is not None
        assert box["height"] >= 200.0, exercise_type


def test_on_a_phone_everything_can_be_reached(site: Site, open_page: OpenPage) -> None:
    session = site.session("two-partial-slur")
    page = open_page(width=390, height=844)
    page.goto(f"{site.base}/stand/{session}")
    expect(page.get_by_text("Ready.")).to_be_visible()
    page.get_by_role("button", name="Mirror").click()
    mirror, begin = (page.locator(name).bounding_box() for name in (".mirror", "footer .press.first"))
    assert mirror is not None
    assert begin is not None
    assert mirror["x"] + mirror["width"] <= 390.5
    assert mirror["width"] > 80.0
    page.get_by_role("button", name="Start", exact=True).click()  # not clickable where something lies over it
    expect(page.get_by_text("Breathe, then play.")).to_be_visible()
    page.get_by_role("button", name="Stop").click()
    page.get_by_role("button", name="Something hurts").click()
    page.get_by_role("button", name="tooth or jaw").click()
    expect(page.get_by_text("Stopped.")).to_be_visible()


def test_quiet_hours_give_a_quiet_routine(site: Site, open_page: OpenPage) -> None:
    site.player("trumpet-bb")
    page = open_page()
    page.goto(site.base)
    page.get_by_role("heading", level=1, name=re.compile("minutes")).wait_for()
    blocks = page.locator("ol li b")
    expect(blocks.filter(has_text="Semitone ladder")).to_be_visible()
    page.get_by_text("quiet", exact=True).click()
    expect(blocks.filter(has_text="Semitone ladder")).to_have_count(0)
    expect(blocks.first).to_have_text("Breathing")
    page.get_by_role("button", name="Start", exact=True).click()
    expect(page.get_by_text("Ready.")).to_be_visible()


@pytest.mark.realtime
def test_the_first_note_begins_the_take(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    """No count-in: the last second before the note is kept, so that its start is measured too."""
    exercise = exercise_of("tuba-eb", "long-low-tones")
    sound, _ = play(exercise, seed=4)
    played = sound.samples[round((exercise.start_s(exercise.notes[0]) - 0.3) * sound.rate) :]
    rng = np.random.default_rng(0)
    quiet = rng.normal(0.0, 10 ** (-66 / 20), 5 * sound.rate)
    write_wav(tmp_path / "mic.wav", Sound(np.concatenate((quiet, played, quiet)).astype(np.float32), sound.rate))
    player = site.player("tuba-eb", start="first note")
    body = {"player_id": player, "exercise_type": "long-low-tones"}
    _, take = through_microphone(
        site, open_page, tmp_path / "mic.wav", lambda: str(site.call("/api/sessions", body)["id"])
    )
    assert take["verdict"]["outcome"] == "clean"
    note = take["measures"]["notes"][0]
    assert 0.3 < note["onset_s"] < 1.6
    assert abs(note["attack_error_cents"]) < 15


@pytest.mark.realtime
def test_a_note_is_sung_first(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    rate = 44_100
    t = np.arange(12 * rate) / rate
    tone = sum(np.sin(2 * np.pi * 155.56 * n * t) / n**1.5 for n in range(1, 9))
    write_wav(tmp_path / "voice.wav", Sound((0.1 * tone).astype(np.float32), rate))
    session = site.session("long-low-tones")
    page = open_page(tmp_path / "voice.wav", source="microphone")
    page.goto(f"{site.base}/stand/{session}")
    expect(page.get_by_text("Ready.")).to_be_visible()
    page.get_by_role("button", name="Sing", exact=True).click()
    expect(page.get_by_text("That’s the note. Play what you sang.")).to_be_visible()


def listening_in(site: Site, open_page: OpenPage, microphone: Path) -> tuple[str, Page]:
    """A session whose microphone was checked. Where the link was lost in its first moment the button goes: then a new one."""
    for _ in range(4):
        session = site.session("long-low-tones")
        page = open_page(microphone, source="microphone")
        page.goto(f"{site.base}/stand/{session}")
        try:
            page.get_by_role("button", name="Check the microphone").click(timeout=30_000)
        except PlaywrightError:
            page.close()
        else:
            return session, page
    raise AssertionError("the button left four times")


@pytest.mark.realtime
def test_playing_in_a_rest_is_noticed_and_lengthens_it(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    rate = 44_100
    rng = np.random.default_rng(0)
    out = rng.normal(0.0, 10 ** (-66 / 20), 30 * rate)
    t = np.arange(3 * rate) / rate
    out[10 * rate : 13 * rate] += 0.08 * np.minimum(1, np.minimum(t, 3 - t) / 0.05) * np.sin(2 * np.pi * 155.56 * t)
    write_wav(tmp_path / "room.wav", Sound(out.astype(np.float32), rate))
    session, page = listening_in(site, open_page, tmp_path / "room.wav")
    expect(page.get_by_text(re.compile("silence, -6"))).to_be_visible()
    page.get_by_role("button", name="Something hurts").click()
    page.get_by_role("button", name="tired").click()
    expect(page.get_by_role("region", name="Rest")).to_contain_text("tired lips", ignore_case=True)
    # On a slow machine the rest begins within the three seconds of tone.
    expect(page.get_by_role("region", name="Rest")).to_contain_text(re.compile(r"You played for \d+ s"))
    rest = site.call(f"/api/sessions/{session}")["state"]["rest"]
    assert rest["seconds"] - 300.0 == pytest.approx(rest["heard_s"])
    assert 0.3 < rest["heard_s"] < 3.3


def test_ladder_and_approaches(site: Site, open_page: OpenPage) -> None:
    player = site.player("tuba-eb")
    page = open_page()
    page.goto(f"{site.base}/progress/range")
    expect(page.get_by_role("heading", name="Range", level=1)).to_be_visible()
    page.get_by_role("button", name="Start up from here").click()
    expect(page.get_by_text("Semitone ladder")).to_be_visible()
    page.goto(f"{site.base}/settings")
    page.locator("summary", has_text="Practice").click()
    # "Saved." may still speak of the change before: each is waited for by its answer.
    with page.expect_response(re.compile("/settings")) as kept:
        page.get_by_label("After a note fails").select_option("stop-here")
    assert kept.value.ok
    with page.expect_response(re.compile("/settings")) as kept:
        page.get_by_text(re.compile("I wear braces")).click()
    assert kept.value.ok
    expect(page.get_by_text("Saved.")).to_be_visible()
    settings = next(p for p in site.call("/api/players") if p["id"] == player)["settings"]
    assert settings["approaches"] == {"after-a-lost-note": "stop-here"}
    assert settings["braces"] is True
