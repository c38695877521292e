"""Practice in time on the stand: the click goes on, the next take begins on it, and any key stops it."""

import itertools

import pytest
from playwright.sync_api import Page, expect

from tests.web.conftest import OpenPage, Site

# When each click sounds on the audio clock.
CLICKS = """() => {
  const start = OscillatorNode.prototype.start;
  window.clicks = [];
  OscillatorNode.prototype.start = function (at) {
    if (this.type === 'sine' && this.frequency.value > 700) window.clicks.push(at);
    return start.call(this, at);
  };
}"""
STANDS = "() => [orexisStand.phase, orexisStand.state.takes.length, orexisStand.inTime.running]"


def begun(site: Site, open_page: OpenPage, **settings: object) -> Page:
    player = site.player("trumpet-bb", goes_on=True, checks=False, **settings)
    session = site.call("/api/sessions", {"player_id": player, "exercise_type": "partial-chain", "params": {}})["id"]
    page = open_page()
    page.goto(f"{site.base}/stand/{session}")
    expect(page.get_by_text("Ready.")).to_be_visible()
    page.evaluate(CLICKS)
    page.get_by_role("button", name="Start", exact=True).click()
    return page


def wait_for(page: Page, phase: str, takes: int) -> None:
    page.wait_for_function(
        "([phase, takes]) => orexisStand.phase === phase && orexisStand.state.takes.length === takes",
        arg=[phase, takes],
        timeout=60_000,
    )


@pytest.mark.realtime
def test_takes_follow_each_other_on_the_click_until_a_key_stops_it(site: Site, open_page: OpenPage) -> None:
    page = begun(site, open_page)
    wait_for(page, "preview", 1)
    # What was said of the last take stays beside what comes.
    expect(page.get_by_text("Space stops.")).to_be_visible()
    expect(page.get_by_role("button", name="Repeat")).to_be_visible()
    wait_for(page, "listening", 1)
    wait_for(page, "listening", 2)
    page.keyboard.press("x")
    wait_for(page, "preview", 2)
    assert page.evaluate(STANDS) == ["preview", 2, False]
    expect(page.get_by_role("button", name="Start", exact=True)).to_be_visible()
    clicks = sorted(page.evaluate("window.clicks"))
    beat = 60.0 / 80.0
    # A count-in, two takes of a bar and two rests of two bars, up to the third take's count-in, which may be slower and then begins
    # between two beats: no beat is missing and none sounds twice.
    gaps = [after - before for before, after in itertools.pairwise(clicks)]
    assert gaps[:22] == pytest.approx([beat] * 22, abs=0.002)
    assert min(gaps) > 0.4
    takes = site.call(f"/api/sessions/{page.url.rsplit('/', 1)[1]}")["state"]["takes"]
    assert all(0.0 < take["gap_s"] < 4.0 for take in takes)
    # Nothing goes on by itself after that, and the left pedal stops it as well.
    assert page.evaluate("() => orexisStand.running") is False
    page.keyboard.press("PageDown")
    wait_for(page, "count-in", 2)
    page.keyboard.press("PageUp")
    wait_for(page, "preview", 2)
    assert page.evaluate(STANDS) == ["preview", 2, False]


@pytest.mark.realtime
def test_bars_of_rest_can_be_set_and_a_pause_stops_the_click(site: Site, open_page: OpenPage) -> None:
    page = begun(site, open_page, rest_bars=4)
    wait_for(page, "verdict", 1)
    bars = page.evaluate("() => orexisStand.state.bars")
    assert (bars["played"], bars["rest"]) == (1, 4)
    page.keyboard.press(" ")
    page.wait_for_function("() => orexisStand.state.paused && !orexisStand.inTime.running")
