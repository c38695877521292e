"""The pages in other languages: in a made-up one nothing is forgotten and everything fits, and a player chooses their own."""

import re
from collections.abc import Iterator
from functools import partial
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from scripts import pseudo
from tests.web.conftest import OpenPage, Site, serve_made_up

# Words of every language: names of formats, of keys, of people and of other languages, and what a calendar without a language says.
EVERYWHERE = re.compile(
    r"Orexis|MusicXML|MIDI|JSON|FLAC|WAV|PDF|CSV|Escape|Wim Olde|English|Deutsch|Français|Español|wim|rest:|Bb3|"
    r"\b(Mon|Tue|Wed|Thu|Fri|Sat|Sun|M\d\d|MIN|bpm|dBFS|min|Hz|CD)\b|Do Re Mi Fa Sol La Si|^[A-H](#|b|♭|♯)?\d?$"
)
PAGES = ("/", "/plan", "/exercises", "/exercises/two-partial-slur", "/exercises/write", "/progress", "/progress/range",
         "/progress/sessions", "/instrument", "/play", "/settings", "/help", "/lessons", "/class")  # fmt: skip
RESULT = re.compile("|".join(re.escape(pseudo.pseudo(word)) for word in ("Clean", "Close", "Not yet")))
SIZES = ((1280, 800), (820, 1180), (390, 844))
TEXTS = """() => {
  const out = [], walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let node = walk.nextNode(); node; node = walk.nextNode()) {
    const at = node.parentElement;
    if (at && !at.closest('script, style, title, desc, svg style')) out.push(node.textContent.trim());
  }
  for (const name of ['aria-label', 'title', 'placeholder'])
    for (const item of document.querySelectorAll(`[${name}]`)) out.push(item.getAttribute(name));
  return out;
}"""


@pytest.fixture(scope="module")
def made_up(made_up_folder: Path) -> Iterator[Site]:
    site = Site(made_up_folder / "data", partial(serve_made_up, str(made_up_folder)))
    yield site
    site.close()


def forgotten(page: Page) -> list[str]:
    """Runs of plain letters in sight or read aloud: in the made-up language all letters of a word are accented."""
    found = (EVERYWHERE.sub("", text or "") for text in page.evaluate(TEXTS))
    return sorted({text for text in found if re.search(r"[A-Za-z]{3}", text)})


def test_in_a_made_up_language_nothing_is_forgotten_and_everything_fits(made_up: Site, open_page: OpenPage) -> None:
    player = made_up.player()
    made_up.call("/api/sessions", {"player_id": player, "exercise_type": "two-partial-slur", "params": {}})
    page = open_page(language=pseudo.LANGUAGE)
    for path in PAGES:
        page.goto(made_up.base + path)
        expect(page.locator("main")).to_contain_text(re.compile("[é]"))
        page.wait_for_load_state("networkidle")
        for width, height in SIZES:
            page.set_viewport_size({"width": width, "height": height})
            page.wait_for_timeout(50)
            assert forgotten(page) == [], (path, width)
            assert page.evaluate("document.documentElement.scrollWidth <= innerWidth"), (path, width)


def test_what_the_stand_says_is_in_the_players_language(made_up: Site, open_page: OpenPage) -> None:
    session = made_up.session("long-low-tones")
    page = open_page(language=pseudo.LANGUAGE)
    page.goto(f"{made_up.base}/stand/{session}")
    expect(page.get_by_text(pseudo.pseudo("Ready."))).to_be_visible()
    page.keyboard.press("PageDown")
    expect(page.get_by_role("heading", name=RESULT)).to_be_visible()
    assert forgotten(page) == []


@pytest.mark.parametrize(("tag", "name", "settings"), [("de", "Deutsch", "Einstellungen"), ("fr", "Français", "Réglages"), ("es", "Español", "Ajustes")])  # fmt: skip
def test_a_player_chooses_a_language_and_the_window_keeps_it(
    site: Site, open_page: OpenPage, tag: str, name: str, settings: str
) -> None:
    site.player()
    page = open_page()
    page.goto(f"{site.base}/settings")
    page.get_by_text("Name, instrument, level, tuning note, language").click()
    page.get_by_label("Name", exact=True).fill("Wim Older")
    page.get_by_label("Language").select_option(label=name)
    expect(page.get_by_role("heading", level=1)).to_have_text(settings)
    assert page.evaluate("document.documentElement.lang") == tag
    assert site.call("/api/players")[0]["name"] == "Wim Older", "what was being written is saved, too"
    page.goto(site.base)
    expect(page.get_by_role("heading", level=1)).to_contain_text("Minuten" if tag == "de" else "minut")
    page.goto(f"{site.base}/settings")
    page.locator("summary").first.click()
    page.locator("select:has(option[lang='de'])").select_option("en")
    expect(page.get_by_role("heading", level=1)).to_have_text("Settings")


@pytest.mark.parametrize(("tag", "said"), [("de-AT", "Spiel einen Ton."), ("fr-CA", "Joue une note."), ("es-MX", "Toca una nota.")])  # fmt: skip
def test_a_first_visit_is_in_the_language_of_the_browser(site: Site, open_page: OpenPage, tag: str, said: str) -> None:
    page = open_page(language=tag)
    page.goto(site.base)
    expect(page.get_by_role("heading", level=1)).to_have_text(said)
