"""Every language says everything, with the values that the English sentence has."""

import re
from pathlib import Path

import pytest
from babel.messages.catalog import Message
from babel.messages.pofile import read_po

from orexis.api.language import language_for
from orexis.core.coach import REASONS
from orexis.core.messages import spoken
from orexis.core.trends import TREND_MEASURES
from orexis.core.trends.claims import Claim, Direction, Trend
from orexis.core.trends.words import claimed
from orexis.services.values.players import PageLanguage
from scripts.visible_words import ROOT

PYTHON, PAGES = ROOT / "src/orexis/locales", ROOT / "frontend/src/locales"
LANGUAGES = [one.value for one in PageLanguage if one != PageLanguage.ENGLISH]
_VALUES = re.compile(r"\{[^{}]*\}|</?\d+/?>")
# Code that looks like words.
_NO_WORDS = {"ATTACH ? AS again", "Accompanied", "Accompaniment", "Articulation", "Bb", "Db", "Gb", "Param", "short write", "typefree", "typefull", "typestate",
             "change of the check note against today's first: see endurance.py"}  # fmt: skip


def messages(path: Path) -> dict[tuple[str | None, str], Message]:
    with path.open("rb") as file:
        return {(m.context, _forms(m.id)[0]): m for m in read_po(file) if m.id}


def _forms(said: str | tuple[str, ...] | list[str]) -> tuple[str, ...]:
    return (said,) if isinstance(said, str) else tuple(said)


def values(text: str) -> list[str]:
    """Placeholders; the words that a sign chooses between are the language's own."""
    return sorted(re.sub(r"\?.*", "?}", value) for value in _VALUES.findall(text))


@pytest.mark.parametrize("language", LANGUAGES)
@pytest.mark.parametrize(("folder", "english"), [(PYTHON, "orexis.pot"), (PAGES, "en.po")], ids=["python", "pages"])
def test_a_language_says_everything_with_its_values(folder: Path, english: str, language: str) -> None:
    told = messages(folder / f"{language}.po")
    missing, wrong = [], []
    for key, message in messages(folder / english).items():
        said = _forms(told[key].string) if key in told else ()
        if not all(said) or not said:
            missing.append(key[1])
        elif len(_forms(message.id)) == 1 and values(_forms(message.id)[0]) != values(said[0]):
            wrong.append(key[1])
    assert set(missing) <= _NO_WORDS
    assert wrong == []


def test_what_the_page_says_of_a_take_is_in_its_catalogue() -> None:
    """The page's own search for sentences passed over those that begin with a value."""
    known = {key for _, key in messages(PAGES / "en.po")}
    said = {words for reason in REASONS.values() for words in (reason.says, reason.label) if words}
    assert said - known == set()


@pytest.mark.parametrize("language", LANGUAGES)
def test_a_close_take_is_not_said_as_a_button_that_closes(language: str) -> None:
    found = messages(PAGES / f"{language}.po")
    assert found["result of a take", "Close"].string != found[None, "Close"].string


@pytest.mark.parametrize("language", LANGUAGES)
def test_a_trend_that_the_record_keeps_in_english_is_said_as_it_would_be_told(language: str) -> None:
    """What is sent to a teacher is kept as sentences, and read in the teacher's language."""
    told = language_for(language)
    for measure in TREND_MEASURES.values():
        for scope in (None, "low", "loud", "two-partial-slur"):
            for claim in (
                Claim(Direction.BETTER, 14.0, 7.2, -8.6, -5.5, 84),
                Claim(Direction.STILL, 2.0, 2.1, -0.2, 0.3, 7),
            ):
                trend = Trend(measure.id, scope, (), claim, 0)
                english = claimed(measure, trend)
                with spoken(told):
                    directly = claimed(measure, trend)
                assert english is not None
                assert told.said(english) == directly != english
