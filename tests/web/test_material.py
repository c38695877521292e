"""Exercises and Instrument in the browser: change, see, hear, keep, read from a file, print the chart."""

import re
from itertools import groupby
from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import expect

from orexis.core.exercises import TunePart, melody_of_line, score_series
from orexis.core.instruments import instrument_named
from orexis.core.player import play
from orexis.core.sound import Sound
from orexis.files.musicxml import exercise_to_musicxml
from orexis.files.soundfiles import write_wav
from tests.conftest import exercise_of
from tests.web.conftest import OpenPage, Site


def test_a_parameter_changes_the_engraving_and_it_is_heard_and_kept(site: Site, open_page: OpenPage) -> None:
    site.player("trumpet-bb")
    page = open_page()
    page.goto(f"{site.base}/exercises")
    page.get_by_role("link", name="Interval patterns", exact=False).last.click()
    expect(page.get_by_role("img", name=re.compile("Falling pattern, half step"))).to_be_visible()
    page.get_by_label("Semitones between notes").fill("2")
    expect(page.get_by_role("img", name=re.compile("Falling pattern, whole step"))).to_be_visible()
    page.get_by_label("Notes on one breath").fill("12")
    page.get_by_label("Semitones between notes").fill("7")
    expect(page.get_by_role("alert")).to_contain_text("start higher")
    page.get_by_label("Semitones between notes").fill("1")
    expect(page.get_by_role("alert")).not_to_be_visible()
    page.get_by_role("button", name="Listen").click()
    expect(page.get_by_role("button", name="Stop")).to_be_visible()
    page.get_by_role("button", name="Stop").click()
    page.get_by_label("Save as my own, named").fill("Twelve down")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("Saved as “Twelve down”.")).to_be_visible()
    page.get_by_role("link", name="Exercises").last.click()
    page.get_by_role("link", name="Twelve down", exact=True).click()
    page.get_by_role("button", name="Start", exact=True).click()
    expect(page.get_by_text("Ready.")).to_be_visible()


def test_notes_are_taken_by_hand_each_pitch_or_each_note(site: Site, open_page: OpenPage) -> None:
    site.player("trumpet-bb")
    page = open_page()
    page.goto(f"{site.base}/exercises")
    page.get_by_role(
        "link", name=re.compile("^First notes of Breathing|Breathing")
    ).last.click()  # nothing to choose by hand: its parameters are its own
    page.get_by_label("Beats in").fill("5")
    expect(page.get_by_role("img", name=re.compile("Breathe 5 in"))).to_be_visible()
    page.goto(f"{site.base}/exercises/one-octave-scale")
    engraved = page.get_by_role("img", name=re.compile("One-octave scale"))
    third_valve = engraved.locator("text", has_text=re.compile(r"^\s*3\s*$"))
    expect(engraved).to_be_visible()
    expect(third_valve).to_have_count(0)
    page.get_by_text("More", exact=True).click()
    page.locator("label", has_text="Fingering").locator("select").last.select_option("by hand")
    hand = page.get_by_role("region", name="Choose fingerings")
    chosen = hand.locator("select", has=page.locator("option[value='3']")).first
    chosen.select_option("3")
    expect(third_valve.first).to_be_attached()
    hand.get_by_text("Every note on its own").click()
    told = hand.locator("option", has_text="as every").first
    expect(told).to_be_attached()
    told.locator("xpath=..").select_option(index=1)
    expect(third_valve).to_have_count(0)
    hand.get_by_role("button", name="Use the usual ones").click()
    expect(hand.get_by_role("button", name="Use the usual ones")).not_to_be_visible()
    page.get_by_role("button", name="Start", exact=True).click()
    expect(page.get_by_text("Ready.")).to_be_visible()


def test_a_tune_is_read_from_a_file_and_a_broken_one_refused(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    instrument = instrument_named("tuba-eb")
    xml = exercise_to_musicxml(exercise_of("tuba-eb", "tune", tune="Two Bridges"), instrument, instrument.parts[0])
    (tmp_path / "tune.musicxml").write_bytes(xml)
    (tmp_path / "bad.mid").write_bytes(b"MThd nothing")
    site.player("trombone-tenor")
    page = open_page()
    page.goto(f"{site.base}/exercises")
    chooser = page.get_by_label("Tune or exercise from a file")
    chooser.set_input_files(tmp_path / "bad.mid")
    expect(page.get_by_role("alert")).to_contain_text("MIDI")
    chooser.set_input_files(tmp_path / "tune.musicxml")
    expect(page.get_by_role("heading", name="Two Bridges")).to_be_visible()
    engraved = page.get_by_role("img", name=re.compile("Two Bridges"))
    before = engraved.get_attribute("aria-label") or ""
    page.get_by_label("Played").select_option("an octave up")
    expect(engraved).not_to_have_attribute("aria-label", before)
    page.get_by_label("Save as my own, named").fill("Two Bridges, low")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("Saved as “Two Bridges, low”.")).to_be_visible()
    with page.expect_download() as made:
        page.get_by_role("button", name="MusicXML", exact=True).click()
    assert b"score-partwise" in Path(made.value.path()).read_bytes()


def test_the_chart_follows_the_instrument_of_ones_own(site: Site, open_page: OpenPage) -> None:
    player = site.player("trumpet-bb")
    page = open_page()
    page.goto(f"{site.base}/instrument")
    row = page.get_by_role("row", name=re.compile(r"^D4 C4"))
    expect(row).to_contain_text("1-3")
    expect(row).to_contain_text("third 18 mm out")
    page.get_by_role("main").get_by_text("Settings", exact=True).click()
    page.get_by_label("Slide of valve 1").fill("10")
    page.get_by_label("Slide of valve 3").fill("10")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("Saved.")).to_be_visible()
    page.get_by_role("main").get_by_text("Fingerings", exact=True).click()
    expect(row).to_contain_text("cannot be reached")
    assert site.call("/api/players")[0]["setup"]["moving"][1]["travel_mm"] == 10
    assert len(site.call(f"/api/players/{player}/chart")) > 40


def test_a_way_of_ones_own_and_a_pedal_that_needs_a_shift(site: Site, open_page: OpenPage) -> None:
    player = site.player("trombone-tenor-f", name="Berin Holt")
    page = open_page()
    page.goto(f"{site.base}/instrument")
    page.get_by_role("button", name="Play F3 with V1, partial 4").click()
    row = page.get_by_role("row", name=re.compile("^F3 F3"))
    expect(row).to_contain_text("valve 1 partial 4")
    exercise = {"player_id": player, "exercise_type": "step-ladder", "params": {"start": "F3"}}
    assert site.call("/api/exercises/view", exercise)["exercise"]["notes"][0]["fingering"] == "V1"
    page.get_by_role("button", name="Use the chart’s fingering for F3").click()
    expect(row).to_contain_text("1st position partial 3")

    pedals = {"sets": "2", "notes": "4", "beats": "2", "tempo": "120"}
    body = {"player_id": player, "exercise_type": "pedal-sets", "params": pedals, "anyway": True}
    session = site.call("/api/sessions", body)["id"]
    page.goto(f"{site.base}/stand/{session}")
    page.get_by_role("button", name="Start", exact=True).click()
    page.get_by_role("button", name="My lips shift").click()
    expect(page.get_by_text(re.compile("No sets below"))).to_be_visible()
    page.goto(f"{site.base}/instrument")
    expect(page.get_by_text(re.compile("Pedal sets stop at"))).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text(re.compile("Pedal sets stop at"))).to_have_count(0)


def test_an_exercise_is_written_by_taps_and_by_text_kept_and_played(site: Site, open_page: OpenPage) -> None:
    site.player("trumpet-bb")
    page = open_page()
    page.goto(f"{site.base}/exercises")
    page.get_by_role("link", name="Write your own").click()
    notes = page.get_by_role("group", name="Notes")
    line = page.get_by_label("Notes as in your part")
    for name in ("C4", "E4"):
        notes.get_by_role("button", name=name, exact=True).click()
    page.get_by_text("slurred").click()
    notes.get_by_role("button", name="E4", exact=True).focus()
    for _ in range(3):  # F4, F#4, G4
        page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    assert notes.locator("button[tabindex='0']").count() == 1
    page.get_by_role("button", name="Breath").click()
    expect(line).to_have_value("C4 E4 - G4,")
    expect(page.get_by_role("img", name="C4, E4, G4", exact=True)).to_be_visible()
    line.fill("C4 E4 - G4, H4")
    expect(page.get_by_role("alert")).to_contain_text("“H4” can’t be read")
    page.get_by_role("button", name="Undo").click()
    line.press("End")
    line.type(" C5:2")
    expect(page.get_by_role("img", name="C4, E4, G4, C5")).to_be_visible()
    page.get_by_label("Name").fill("Bugle call of mine")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("heading", level=1, name="Bugle call of mine")).to_be_visible()
    page.get_by_role("button", name="Start", exact=True).click()
    page.wait_for_url("**/stand/*")
    assert site.call(f"/api/sessions/{page.url.rsplit('/', 1)[-1]}")["title"] == "Bugle call of mine"


def test_notes_are_tapped_on_a_staff(site: Site, open_page: OpenPage) -> None:
    site.player("trumpet-bb")
    page = open_page()
    page.goto(f"{site.base}/exercises/write")
    staff = page.get_by_role("slider", name=re.compile("Staff"))
    staff.focus()
    middle = str(staff.get_attribute("aria-valuetext"))
    page.keyboard.press("Enter")
    box = staff.bounding_box()
    assert box is not None
    # Two steps of nine pixels above where the first note lies: the keys say where that is.
    head = staff.locator(".ghost ellipse").bounding_box()
    assert head is not None
    page.get_by_label("Loudness").select_option("p")
    page.mouse.click(head["x"] + 5, head["y"] + head["height"] / 2 - 18)
    steps = "CDEFGAB"
    third = steps[(steps.index(middle[0]) + 2) % 7]
    line = page.get_by_label("Notes as in your part")
    expect(line).to_have_value(re.compile(rf"^{middle} \(p\) {third}\d$"))
    page.get_by_role("button", name="Undo").click()
    expect(line).to_have_value(middle)
    page.get_by_role("button", name="Undo").click()
    expect(line).to_have_value("")
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()


@pytest.mark.realtime
def test_an_exercise_is_played_in_once(site: Site, open_page: OpenPage, tmp_path: Path) -> None:
    person = instrument_named("trumpet-bb").parts[0].transposition
    written = "C4:2 E4:1 G4 - E4 - C4:2"
    tune = (TunePart("Mine", melody_of_line(written, person, title="Mine", tempo_bpm=72.0)),)
    exercise = score_series(instrument_named("trumpet-bb"), tune, {"octave": "as written"}).exercises[0]
    sound, _ = play(exercise, seed=2)
    # The file begins when the microphone opens: the count-in of the page is as long as that of the exercise.
    rng = np.random.default_rng(0)
    quiet = rng.normal(0.0, 10 ** (-66 / 20), 6 * sound.rate)
    write_wav(tmp_path / "mic.wav", Sound(np.concatenate((sound.samples, quiet)).astype(np.float32), sound.rate))
    site.player("trumpet-bb")
    page = open_page(tmp_path / "mic.wav", source="microphone")
    page.goto(f"{site.base}/exercises/write")
    page.get_by_role("button", name="Play it in").click()
    expect(page.get_by_text("Listening …")).to_be_visible()
    page.wait_for_timeout(1000 * exercise.duration_s)
    page.get_by_role("button", name="Stop").click()
    line = page.get_by_label("Notes as in your part")
    expect(line).not_to_have_value("", timeout=20_000)
    read = melody_of_line(line.input_value(), person, title="Mine").notes
    # A busy machine may lose a moment of a note, and the file begins again where it ended: neither changes the tune.
    heard = [midi for midi, _ in groupby(note.midi for note in read)]
    assert heard[:5] == [note.midi for note in tune[0].melody.notes]
    assert any(note.slurred for note in read)
