"""Speed where a player waits for it: `make bench`.

Prints, from one run on this machine:
  trace      seconds of sound tracked per second, for each horn
  judging    time from the end of a ten-second take to its verdict in the record
  page       how long a frame takes back to the page after the last sample it needs left the worklet
  engraving  time to engrave a figure not seen before
"""

import statistics
import tempfile
import time
from pathlib import Path

import numpy as np

from orexis.core.figures import family_named
from orexis.core.horn import HORNS
from orexis.core.player import play
from orexis.core.practice import Event
from orexis.core.sound import Sound
from orexis.core.trace import track
from orexis.files.engraving import figure_to_svg
from orexis.services.clock import now
from orexis.services.journal import TakeHead
from orexis.services.live import LiveTake
from orexis.services.practice import Practice

_BLOCK = 896


def trace_speed() -> None:
    """Tracking whole files."""
    for horn in HORNS.values():
        figure = family_named("two-partial-slur").series(horn).figures[0]
        sound, _ = play(figure, seed=1)
        long = Sound(np.tile(sound.samples, 4), sound.rate)
        track(sound)
        start = time.perf_counter()
        track(long)
        ratio = long.duration_s / (time.perf_counter() - start)
        print(f"trace      {horn.id:16} {ratio:6.1f} times real time")


def judging_time() -> None:
    """The live way, fed as fast as it goes, then the clock from its last block to the verdict."""
    times = []
    with tempfile.TemporaryDirectory() as folder:
        practice = Practice(Path(folder))
        player = practice.add_player(name="B", stage="growing", horn="tuba-eb", part=None)
        session = practice.open_session(player.id, "two-partial-slur", {})
        sound, _ = play(session.series.figures[0], seed=1)
        for n in range(6):
            key = f"{n:032x}"
            practice.advance(session.id, Event("begin", key))
            head = TakeHead(key, session.id, sound.rate, 0, "microphone", {}, now().isoformat())
            take = LiveTake(practice.journal.open(head), session.series.figures[0])
            for at in range(0, len(sound.samples), _BLOCK):
                take.accept(at, sound.samples[at : at + _BLOCK])
            start = time.perf_counter()
            practice.advance(session.id, Event("ended"))
            practice.finish_take(head, *take.finish())
            times.append(time.perf_counter() - start)
            practice.advance(session.id, Event("again"))
        practice.database.close()
    print(
        f"judging    {sound.duration_s:.1f} s take   median {1000 * statistics.median(times):5.0f} ms, worst {1000 * max(times):5.0f} ms"
    )


def page_latency() -> None:
    """A simulated take played in headless Chromium through the worklet and the socket."""
    from playwright.sync_api import sync_playwright

    from tests.web.conftest import FLAGS, Site

    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        site = Site(Path(folder))
        session = site.session("long-low-tones")
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.add_init_script("localStorage['orexis.source'] = 'simulated'")
        page.goto(f"{site.base}/stand/{session}")
        page.get_by_role("button", name="Begin").click()
        page.get_by_role("link", name="Look closer").wait_for(timeout=60_000)
        found = sorted(page.evaluate("window.orexisStand.latencies"))
        browser.close()
        site.close()
    p95 = found[int(0.95 * len(found))]
    print(f"page       {len(found)} frames messages   median {statistics.median(found):.1f} ms, p95 {p95:.1f} ms")


def engraving_time() -> None:
    """Figures that are not in the cache."""
    times = []
    for horn in HORNS.values():
        for figure in family_named("two-partial-slur").series(horn, {"tempo": "71"}).figures:
            start = time.perf_counter()
            figure_to_svg(figure, horn, horn.parts[0])
            times.append(time.perf_counter() - start)
    print(
        f"engraving  {len(times)} figures        median {1000 * statistics.median(times):.0f} ms, worst {1000 * max(times):.0f} ms"
    )


if __name__ == "__main__":
    trace_speed()
    judging_time()
    engraving_time()
    page_latency()
