"""A real server in a process, and headless Chromium whose microphone is a sound file."""

import json
import multiprocessing
import os
import re
import socket
import time
import urllib.request
from collections.abc import Callable, Iterator
from datetime import timedelta
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Playwright, expect, sync_playwright

from orexis.api import app, language
from orexis.cli.server import serve
from orexis.core.player import parse_flaws, play
from orexis.core.sound import Sound
from orexis.files.soundfiles import write_wav
from orexis.services import clock
from orexis.services.clock import now
from scripts import pseudo
from scripts.browser import launch
from tests.conftest import exercise_of
from tests.web.spoken import Catalogue, catalogues, speaking

# Loading takes seconds, and nearly every test starts a server; tests/cli and the wheel start it from its command.
LOADED = multiprocessing.get_context("forkserver")
LOADED.set_forkserver_preload(["tests.web.loaded"])

# The page's clock, put on like the server's.
SHIFTED_DATE = """{
  const Wall = Date, ahead = %d;
  globalThis.Date = class extends Wall {
    constructor(...given) { given.length ? super(...given) : super(Wall.now() + ahead); }
    static now() { return Wall.now() + ahead; }
  };
}"""

# A count-in alone takes four seconds, and a busy machine takes its time.
expect.set_options(timeout=60_000)


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def serve_ahead(ahead: timedelta, **kwargs: Any) -> None:
    """Serve with the clock put on by so much."""
    clock.AHEAD = ahead
    serve(**kwargs)


def serve_made_up(folder: str, **kwargs: Any) -> None:
    """Serve pages and sentences in the made-up language."""
    language.CATALOGUES, app.WEB = Path(folder) / "locales", Path(folder) / "web"
    serve_ahead(**kwargs)


class Site:
    """The running application."""

    server: Callable[..., None] = staticmethod(serve_ahead)

    def __init__(self, data: Path, server: Callable[..., None] | None = None) -> None:
        port, self.stand_port = free_port(), free_port()
        self.data = data
        self.base = f"http://127.0.0.1:{port}"
        self.process = LOADED.Process(
            target=server or self.server,
            kwargs={
                "ahead": clock.AHEAD,
                "host": "127.0.0.1",
                "port": port,
                "stand_port": self.stand_port,
                "data": data,
                "open_browser": False,
                "workers": 0,  # quick to start; workers have tests of their own
            },
            daemon=True,
        )
        self.process.start()
        for _ in range(1200):
            try:
                self.call("/api/health")
                return
            except OSError:
                time.sleep(0.05)
        raise AssertionError("the server did not start")

    def call(self, path: str, body: object | None = None, method: str | None = None) -> Any:
        data = json.dumps(body).encode() if body is not None else None
        request = urllib.request.Request(self.base + path, data, {"content-type": "application/json"}, method=method)
        with urllib.request.urlopen(request, timeout=60) as answer:
            text = answer.read()
            return json.loads(text) if text else None

    def heard_bytes(self) -> int:
        """How much sound of takes under way has arrived."""
        return sum(path.stat().st_size for path in (self.data / "journal").glob("*.f32"))

    def player(self, instrument: str = "tuba-eb", *, name: str = "Wim Olde", **settings: object) -> str:
        """A new player, who has time today and goes on by key unless the settings say otherwise."""
        player = self.call("/api/players", {"name": name, "standard": "developing", "instrument": instrument})
        sunday = now().astimezone().weekday() == 6
        given = [30, 30, 30, 30, 30, 0, 30] if sunday else [30, 30, 30, 30, 30, 30, 0]
        self.call(f"/api/players/{player['id']}/settings", {"goes_on": False, "minutes": given, **settings}, "PATCH")
        return str(player["id"])

    def session(self, exercise_type: str, instrument: str = "tuba-eb", **params: str) -> str:
        player = {"id": self.player(instrument)}
        body = {"player_id": player["id"], "exercise_type": exercise_type, "params": params}
        return str(self.call("/api/sessions", body)["id"])

    def close(self) -> None:
        self.process.terminate()
        self.process.join(timeout=10)


@pytest.fixture(scope="session")
def chosen_server(request: pytest.FixtureRequest) -> None:
    """Every server speaks the made-up language when the tests look for its words."""
    if LANGUAGE == pseudo.LANGUAGE:
        folder = request.getfixturevalue("made_up_folder")
        Site.server = staticmethod(partial(serve_made_up, str(folder)))


@pytest.fixture
def site(tmp_path: Path, chosen_server: None) -> Iterator[Site]:
    made = Site(tmp_path / "data")
    yield made
    made.close()


@pytest.fixture(scope="session")
def chromium() -> Iterator[Playwright]:
    with sync_playwright() as made:
        yield made


def until(holds: Callable[[], object], seconds: float = 60.0) -> None:
    """Wait for what no page shows."""
    end = time.monotonic() + seconds
    while not holds():
        assert time.monotonic() < end, "it did not happen in time"
        time.sleep(0.05)


def drawn(page: Page) -> None:
    """Wait until what changed has been laid out and painted."""
    page.evaluate("new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done)))")


A_SECOND_OF_SOUND = 4 * 44_100
TRIES = 20  # takes in real time: a machine that lends its processor to others loses sound in most of them
OpenPage = Callable[..., Page]
LANGUAGE = os.environ.get("OREXIS_TEST_LANGUAGE", "")


@pytest.fixture(scope="session")
def made_up_folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Pages and sentences in the made-up language."""
    folder = tmp_path_factory.mktemp("made-up")
    pseudo.python_side(folder / "locales")
    pseudo.page_side(folder / "web")
    return folder


@pytest.fixture(scope="session")
def words(request: pytest.FixtureRequest) -> Catalogue:
    """What the pages say: `OREXIS_TEST_LANGUAGE=de`, or `qps`, the made-up one."""
    if LANGUAGE != pseudo.LANGUAGE:
        return Catalogue(catalogues(LANGUAGE))
    made = request.getfixturevalue("made_up_folder")
    return Catalogue(catalogues(LANGUAGE, made / "frontend/src/locales", made / "locales"), decimal=".")


@pytest.fixture(autouse=bool(LANGUAGE))
def in_its_language(words: Catalogue) -> Iterator[None]:
    """What is looked for is said in the language of the pages."""
    yield from speaking(words)


@pytest.fixture(scope="session")
def quiet_browser(chromium: Playwright) -> Iterator[Browser]:
    """One browser for all pages without a microphone of their own: a context shares nothing with the next."""
    made = launch(chromium)
    yield made
    made.close()


@pytest.fixture
def open_page(chromium: Playwright, quiet_browser: Browser) -> Iterator[OpenPage]:
    """Open a page as in a browser that nobody used before, with a microphone fed from a file, or without one."""
    opened: list[BrowserContext | Browser] = []

    def make(
        microphone: Path | None = None,
        *,
        width: int = 1280,
        height: int = 800,
        source: str = "simulated",
        strangers: bool = False,
        language: str = LANGUAGE or "en-GB",
    ) -> Page:
        used = quiet_browser
        if microphone is not None:
            used = launch(
                chromium,
                "--use-fake-ui-for-media-stream",
                "--use-fake-device-for-media-stream",
                f"--use-file-for-fake-audio-capture={microphone}%noloop",
            )
            opened.append(used)
        context = used.new_context(
            viewport={"width": width, "height": height}, ignore_https_errors=strangers, locale=language
        )
        opened.append(context)
        context.add_init_script(SHIFTED_DATE % round(1000 * clock.AHEAD.total_seconds()))
        context.add_init_script(f"if (!localStorage['orexis.source']) localStorage['orexis.source'] = '{source}'")
        page = context.new_page()
        page.set_default_timeout(90_000)
        return page

    yield make
    for one in reversed(opened):
        one.close()


def stolen() -> str:
    """What other machines on the same host took from this one's processor: where sound is lost, the likeliest reason."""
    try:
        used = [int(ticks) for ticks in Path("/proc/stat").read_text().split("\n", 1)[0].split()[1:]]
    except OSError:
        return "not known"
    return f"{used[7] / 100.0:.0f} s of its processor lent to others, {used[0] / 100.0:.0f} s used"


def through_microphone(
    site: Site, open_page: OpenPage, microphone: Path, opened: Callable[[], str]
) -> tuple[Page, dict[str, Any]]:
    """One take through the browser's own microphone path, begun by its button: the page at its verdict, and the take.

    A machine that is too busy loses sound, which the take then says of itself: it is done again, as a player would.
    """
    for _ in range(TRIES):
        session = opened()
        page = open_page(microphone, source="microphone")
        page.goto(f"{site.base}/stand/{session}")
        page.get_by_role("button", name="Start", exact=True).click()
        page.get_by_role("link", name=re.compile("etails$")).wait_for()
        take = site.call(f"/api/sessions/{session}")["state"]["takes"][0]["take_id"]
        found: dict[str, Any] = site.call(f"/api/takes/{take}")
        if found["verdict"]["reason"] != "lost":
            return page, found
        print(f"lost {found['measures']['sound']['lost_ms']:.0f} ms of a take; this machine so far: {stolen()}")
        assert "too busy" in page.locator("footer").inner_text()
        page.close()
    raise AssertionError(f"this machine lost some of the sound {TRIES} times")


def microphone_file(path: Path, exercise_type: str, *flaws: str, lead_s: float, instrument: str = "tuba-eb") -> Path:
    """A performance after `lead_s` of near silence, as a microphone would hear it."""
    sound, _ = play(exercise_of(instrument, exercise_type), flaws=parse_flaws([*flaws, "noise=-66db"]), seed=1)
    rng = np.random.default_rng(0)

    def quiet(seconds: float) -> np.ndarray:
        return rng.normal(0.0, 10.0 ** (-66.0 / 20.0), round(seconds * sound.rate))

    samples = np.concatenate((quiet(lead_s), sound.samples, quiet(3.0))).astype(np.float32)
    write_wav(path, Sound(samples, sound.rate))
    return path
