"""Speed where a player waits for it: `make bench`.

Prints, from one run on this machine:
  trace      seconds of sound tracked per second, for each instrument
  stream     what a live stream costs, and forty at once on two cores
  judging    time from the end of a ten-second take to its verdict in the record
  page       how long a frame takes back to the page after the last sample it needs left the worklet
  engraving  time to engrave an exercise not seen before
"""

import re
import statistics
import tempfile
import time
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np

from orexis.core.exercises import exercise_type_named
from orexis.core.instruments import INSTRUMENTS
from orexis.core.player import play
from orexis.core.practice import Event, EventName
from orexis.core.sound import Sound
from orexis.core.trace import Tracker, track
from orexis.files.engraving import exercise_to_svg
from orexis.services.application import Application
from orexis.services.clock import now
from orexis.services.journal import TakeHead

_BLOCK = 1280  # samples, as the page sends them


def trace_speed() -> None:
    """Tracking whole files."""
    for instrument in INSTRUMENTS.values():
        exercise = exercise_type_named("two-partial-slur").series(instrument).exercises[0]
        sound, _ = play(exercise, seed=1)
        long = Sound(np.tile(sound.samples, 4), sound.rate)
        track(sound)
        start = time.perf_counter()
        track(long)
        ratio = long.duration_s / (time.perf_counter() - start)
        print(f"trace      {instrument.id:16} {ratio:6.1f} times real time")


def stream_cost() -> None:
    """One live stream in blocks of 20 and 40 ms, provisional frames included; and forty streams on two cores."""
    exercise = exercise_type_named("two-partial-slur").series(INSTRUMENTS["trumpet-bb"]).exercises[0]
    sound, _ = play(exercise, seed=1)
    for ms in (20, 40):
        size = round(ms / 1000 * sound.rate)
        tracker = Tracker(sound.rate)
        blocks = [sound.samples[i : i + size] for i in range(0, len(sound.samples), size)]
        tracker.push(blocks[0])
        start = time.process_time()
        for block in blocks[1:]:
            tracker.push(block)
            tracker.provisional()
        share = (time.process_time() - start) / sound.duration_s
        print(f"stream     blocks of {ms} ms   {100 * share:.1f}% of a core")
    start = time.perf_counter()
    with ProcessPoolExecutor(2) as pool:
        held = list(pool.map(_twenty_streams, [sound] * 2))
    ratio = sound.duration_s / (time.perf_counter() - start)
    print(f"streams    40 on two cores   {ratio:.1f} times real time, at most {max(held)} samples held by one")


def _twenty_streams(sound: Sound) -> int:
    """Twenty trackers fed in turn, as a server feeds them; the most samples that one of them held."""
    trackers, size, held = [Tracker(sound.rate) for _ in range(20)], round(0.02 * sound.rate), 0
    for i in range(0, len(sound.samples), size):
        for tracker in trackers:
            tracker.push(sound.samples[i : i + size])
            tracker.provisional()
        held = max(held, sum(len(line.buffer) for line in trackers[0]._lines))
    return held


def judging_time() -> None:
    """The live way, fed as fast as it goes, then the clock from its last block to the verdict in the record."""
    times = []
    with tempfile.TemporaryDirectory() as folder:
        house = Application(Path(folder), workers=1)
        player = house.players.add(name="B", standard="developing", instrument="tuba-eb")
        session = house.sessions.open(player.id, "two-partial-slur", {})
        sound, _ = play(session.exercise, seed=1)
        for n in range(6):
            head = TakeHead(f"{n:032x}", session.id, sound.rate, 0, "microphone", {}, now().isoformat())
            take = house.takes.begin(head)
            for at in range(0, len(sound.samples), _BLOCK):
                take.accept(at, sound.samples[at : at + _BLOCK])
            start = time.perf_counter()
            house.takes.end(session.id)
            times.append(time.perf_counter() - start)
            house.takes.happen(session.id, Event(EventName.AGAIN))
        house.close()
    warm = times[1:]
    print(
        f"judging    {sound.duration_s:.1f} s take   the first, with the worker still starting, {times[0]:.1f} s; then "
        f"median {1000 * statistics.median(warm):.0f} ms, worst {1000 * max(warm):.0f} ms"
    )


def page_latency() -> None:
    """A simulated take played in headless Chromium through the worklet and the socket."""
    from playwright.sync_api import sync_playwright

    from scripts.browser import launch
    from tests.web.conftest import Site

    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        site = Site(Path(folder))
        session = site.session("long-low-tones")
        browser = launch(playwright)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.add_init_script("localStorage['orexis.source'] = 'simulated'")
        page.goto(f"{site.base}/stand/{session}")
        page.get_by_role("button", name="Start", exact=True).click()
        page.get_by_role("link", name=re.compile("etails$")).wait_for(timeout=60_000)
        found = sorted(page.evaluate("window.orexisStand.latencies"))
        browser.close()
        site.close()
    p95 = found[int(0.95 * len(found))]
    print(f"page       {len(found)} frames messages   median {statistics.median(found):.1f} ms, p95 {p95:.1f} ms")


def engraving_time() -> None:
    """Exercises that are not in the cache."""
    times = []
    for instrument in INSTRUMENTS.values():
        for exercise in exercise_type_named("two-partial-slur").series(instrument, {"tempo": "71"}).exercises:
            start = time.perf_counter()
            exercise_to_svg(exercise, instrument, instrument.parts[0])
            times.append(time.perf_counter() - start)
    print(
        f"engraving  {len(times)} exercises        median {1000 * statistics.median(times):.0f} ms, worst {1000 * max(times):.0f} ms"
    )


def change_to_page() -> None:
    """A changed parameter to the engraved answer, through the whole server, for every exercise type."""
    from fastapi.testclient import TestClient

    from orexis.api.app import create_app

    times = []
    with (
        tempfile.TemporaryDirectory() as folder,
        TestClient(create_app(Path(folder)), base_url="http://127.0.0.1") as client,
    ):
        player = client.post(
            "/api/players", json={"name": "B", "standard": "developing", "instrument": "trombone-bass"}
        ).json()["id"]
        warm = {"player_id": player, "exercise_type": "tune"}
        client.post("/api/exercises/view", json=warm)
        for exercise_type in client.get(f"/api/players/{player}/material").json()["exercise_types"]:
            tempo = {"tempo": "77"} if any(param["key"] == "tempo" for param in exercise_type["params"]) else {}
            start = time.perf_counter()
            client.post(
                "/api/exercises/view", json={"player_id": player, "exercise_type": exercise_type["id"], "params": tempo}
            )
            times.append(time.perf_counter() - start)
    print(
        f"a change   {len(times)} exercise types       median {1000 * statistics.median(times):.0f} ms, worst {1000 * max(times):.0f} ms"
    )


if __name__ == "__main__":
    trace_speed()
    stream_cost()
    judging_time()
    engraving_time()
    change_to_page()
    page_latency()
