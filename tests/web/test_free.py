"""Just play in the browser: the tuner by the demo player and by a microphone, what was heard, metronome and drone."""

import re
import time
from pathlib import Path

import pytest
from playwright.sync_api import expect

from orexis.core.player import play
from orexis.files.soundfiles import write_flac
from tests.conftest import exercise_of
from tests.web.conftest import TRIES, OpenPage, Site, microphone_file, stolen, until


def test_just_play_is_one_tap_away_and_tells_what_was_heard(site: Site, open_page: OpenPage) -> None:
    site.player()
    page = open_page()
    page.goto(site.base)
    page.locator("main").get_by_role("link", name="Just play").click()
    page.get_by_role("button", name="Listen").click()
    expect(page.locator(".note")).to_have_text(re.compile(r"^[A-G]♭?\d$"))
    expect(page.get_by_text(re.compile(r"^1 part, \d+ s of playing$"))).to_be_visible()
    page.get_by_role("button", name="Stop", exact=True).click()
    page.get_by_role("link", name="See what was heard").click()
    expect(page.get_by_role("heading", name="Just play")).to_be_visible()
    expect(page.get_by_text(re.compile(r"of playing in \d parts?, from [A-G]♭?\d to [A-G]♭?\d\."))).to_be_visible()
    expect(page.get_by_role("heading", name="Tuning by note")).to_be_visible()
    page.get_by_role("link", name=re.compile("^Part 1,")).click()
    expect(page.get_by_role("heading", name="Just play, part 1")).to_be_visible()
    expect(page.get_by_text("Cents from the nearest note.")).to_be_visible()


def test_nothing_is_kept_of_the_sound_when_the_recorder_is_off(site: Site, open_page: OpenPage) -> None:
    player = site.player()
    page = open_page()
    page.goto(f"{site.base}/play")
    page.get_by_text("record", exact=True).click()
    page.get_by_role("button", name="Listen").click()
    expect(page.get_by_text(re.compile("^1 part, "))).to_be_visible()
    page.get_by_role("button", name="Stop", exact=True).click()
    expect(page.get_by_role("link", name="See what was heard")).to_be_visible()
    session = site.call(f"/api/players/{player}/log")["sessions"][0]
    assert session["summary"]["load"] > 0
    assert not list((site.data / "takes").rglob("*.flac"))


@pytest.mark.realtime
def test_the_tuner_hears_a_microphone(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    """A file through the browser's own microphone path: a low centre is shown while it sounds, and read afterwards."""
    player = site.player()
    sound = microphone_file(tmp_path / "mic.wav", "long-low-tones", "centre=-27c", lead_s=1.5)
    for _ in range(TRIES):  # a machine that is too busy loses sound, and says so
        page = open_page(sound, source="microphone")
        page.goto(f"{site.base}/play")
        page.get_by_role("button", name="Listen").click()
        expect(page.locator(".off")).to_have_text(re.compile("^2[5-9] flat$"))
        expect(page.get_by_text(re.compile("^1 part, "))).to_be_visible()
        page.get_by_role("button", name="Stop", exact=True).click()
        expect(page.get_by_role("link", name="See what was heard")).to_be_visible()
        page.close()
        session = site.call(f"/api/players/{player}/log")["sessions"][0]
        take = site.call(f"/api/takes/{session['summary']['take_ids'][0]}")
        if take["measures"]["sound"]["lost_ms"] == 0:
            break
        print(f"lost {take['measures']['sound']['lost_ms']:.0f} ms; this machine so far: {stolen()}")
        site.call(f"/api/takes/{take['id']}/discarded", {"discarded": True}, "PUT")
    reading = site.call(f"/api/sessions/{session['id']}/free-reading")["reading"]
    assert reading["notes"] == 1
    assert abs(reading["tuning"][0]["cents"] + 27.0) < 3.0


def test_the_metronome_follows_keys_taps_and_a_pedal(site: Site, open_page: OpenPage) -> None:
    site.player()
    page = open_page()
    page.goto(f"{site.base}/play")
    expect(page.locator("[aria-labelledby=drone] option").nth(8)).to_be_attached()  # the page is at work
    beat = page.locator(".now")
    tempo = page.get_by_label(re.compile("^Beats a minute"))
    page.keyboard.press("PageDown")
    expect(beat).to_have_text("3")
    page.keyboard.press("ArrowUp")
    expect(tempo).to_have_value("81")
    page.get_by_label("Beats in a bar").select_option("2")
    until(lambda: beat.inner_text() == "1")
    until(lambda: beat.inner_text() == "2")
    until(lambda: beat.inner_text() == "1")  # never a third
    page.keyboard.press("Space")
    expect(beat).to_have_text("")
    for _ in range(4):
        tapped = time.monotonic()
        page.keyboard.press("t")
        while time.monotonic() - tapped < 0.5:
            time.sleep(0.01)
    until(lambda: 100 <= int(tempo.input_value()) <= 140)
    page.reload()
    expect(tempo).not_to_have_value("80")  # it is remembered


def test_a_drone_is_a_chord_in_the_chosen_tuning(site: Site, open_page: OpenPage) -> None:
    site.player("trumpet-bb")
    page = open_page()
    page.goto(f"{site.base}/play")
    page.get_by_label("Sounds").select_option("major")
    page.get_by_role("heading", name="Drone").click()
    with page.expect_request(re.compile(r"/drone\?.*chord=major&temperament=equal")):
        page.keyboard.press("d")
    with page.expect_request(re.compile("temperament=just")):
        page.get_by_label("Temperament").select_option("just")
    page.get_by_label("A4 in hertz").fill("442")
    with page.expect_request(re.compile(r"/drone\?.*a4=442")):
        page.get_by_label("A4 in hertz").press("Enter")
    expect(page.get_by_text("from", exact=True)).to_be_visible()
    page.get_by_role("heading", name="Drone").click()
    page.keyboard.press("ArrowLeft")
    expect(page.get_by_role("button", name="Start").nth(1)).to_be_visible()


def test_a_recording_of_a_phone_is_decoded_by_the_browser(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    """The name says that the server does not read it; what is inside stands for any format that the browser decodes."""
    player = site.player("tuba-eb")
    sound, _ = play(exercise_of("tuba-eb", "long-low-tones"), seed=2)
    write_flac(tmp_path / "phone.flac", sound)
    (tmp_path / "phone.flac").rename(tmp_path / "phone.m4a")
    page = open_page()
    page.goto(f"{site.base}/play")
    page.get_by_label("Read a recording").set_input_files(tmp_path / "phone.m4a")
    page.wait_for_url("**/session/*", timeout=60_000)
    take = site.call(f"/api/players/{player}/log")["sessions"][0]["summary"]["take_ids"][0]
    assert site.call(f"/api/takes/{take}")["rate"] == 24_000
    (tmp_path / "no.mp3").write_bytes(b"no sound at all")
    page.goto(f"{site.base}/play")
    page.get_by_label("Read a recording").set_input_files(tmp_path / "no.mp3")
    expect(page.get_by_role("alert")).to_contain_text("Save it as WAV or FLAC")
