"""Playing with sound, in the browser: chords sound from the count-in on, and end with the take."""

from typing import Any

from playwright.sync_api import expect

from tests.web.conftest import OpenPage, Site, until

# Every tone that the page has sounded: its pitch, when it was to begin, and when it was last told to stop.
TONES = """
  globalThis.tones = [];
  const start = OscillatorNode.prototype.start, stop = OscillatorNode.prototype.stop;
  OscillatorNode.prototype.start = function (at) {
    tones.push({ node: this, hz: this.frequency.value, at: at ?? 0, end: null });
    return start.call(this, at);
  };
  OscillatorNode.prototype.stop = function (at) {
    const tone = tones.find((one) => one.node === this);
    if (tone) tone.end = at ?? 0;
    return stop.call(this, at);
  };
"""


def test_chords_sound_from_the_count_in_and_end_with_the_take(site: Site, open_page: OpenPage) -> None:
    session = site.session("tune", "trumpet-bb", sounds="chords", tune="Lamp in the Hall")
    sounds = site.call(f"/api/sessions/{session}/exercise")["sounds"]
    page = open_page()
    page.add_init_script(TONES)
    page.goto(f"{site.base}/stand/{session}")
    expect(page.get_by_text("Headphones are best.")).to_be_visible()
    page.keyboard.press("PageDown")
    expect(page.get_by_text("Breathe, then play.")).to_be_visible()

    def heard() -> list[dict[str, Any]]:
        read = "tones.map(({hz, at, end}) => ({hz, at, end})).filter(({hz}) => ![1320, 990, 740].includes(hz))"
        return [tone for tone in page.evaluate(read) if tone["at"] > 0.0]

    until(lambda: len(heard()) == len(sounds))
    first = min(tone["at"] for tone in heard())
    for tone, written in zip(heard(), sounds, strict=True):
        assert abs(tone["hz"] - written["hz"]) < 0.01
        assert abs(tone["at"] - first - written["start_s"]) < 0.01
    page.get_by_role("button", name="Stop", exact=True).click()
    expect(page.get_by_text("Ready.").or_(page.get_by_text("Paused.")).first).to_be_visible()
    last = max(first + sound["start_s"] + sound["duration_s"] for sound in sounds)
    until(lambda: max(tone["end"] for tone in heard()) < last - 5.0)
