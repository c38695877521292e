"""Page tests in another language: what they look for by its English words is looked up in the catalogues."""

import re
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from babel.messages.pofile import read_po
from playwright.sync_api import Locator, Page

from scripts.visible_words import ROOT

_TAG, _FIELD, _LETTERS = re.compile(r"</?\d+/?>"), re.compile(r"\{(\w+)[^}]*\}"), re.compile(r"[A-Za-z]{2}")
_DECIMAL = re.compile(r"\d\.\d")
_END = " …"  # stands for the rest of a sentence of which a test says the beginning


def catalogues(
    language: str, pages: Path = ROOT / "frontend/src/locales", sentences: Path = ROOT / "src/orexis/locales"
) -> list[Path]:
    """The files with the words of a language."""
    return [pages / f"{language}.po", sentences / f"{language}.po"]


class Catalogue:
    """English texts of pages and sentences, and what they are in another language: one word can be several there."""

    def __init__(self, files: list[Path], decimal: str = ",") -> None:
        self._decimal = decimal
        self._whole: dict[str, list[str]] = defaultdict(list)
        self._patterns: list[tuple[int, re.Pattern[str], str]] = []
        for file in files:
            with file.open("rb") as opened:
                messages = list(read_po(opened))
            for message in messages:
                if message.id and isinstance(message.id, str) and message.string:
                    self._learn(_TAG.sub("", message.id), _TAG.sub("", str(message.string)))
        self._patterns.sort(key=lambda found: -found[0])

    def said(self, text: str) -> list[str]:
        """The same in the other language, each way it is said: whole, as a sentence with values, or its first sentences."""
        if text in self._whole:
            return self._whole[text]
        if text.endswith(":"):
            return [one.split(_END)[0] for one in self.said(text + _END)]
        begun = next((key for key in self._whole if key.startswith(text) and text.endswith(".")), None)
        if begun is not None:
            count = len(text.rstrip(".").split(". "))
            return [". ".join(self._whole[begun][0].rstrip(".").split(". ")[:count])]
        small = text[:1].lower() + text[1:]
        for _, pattern, told in self._patterns:
            for words in (text, small):
                if found := pattern.fullmatch(words):
                    filled = _FIELD.sub(lambda field, got=found: self._value(got.group(f"v{field[1]}")), told)
                    return [filled if words == text else filled[:1].upper() + filled[1:]]
        return [text]

    def sought(self, what: str | re.Pattern[str], *, exact: bool) -> str | re.Pattern[str]:
        """What to look for instead of a text or of a choice of words."""
        if isinstance(what, str):
            ways = self.said(what)
            if len(ways) == 1:
                return ways[0]
        elif re.fullmatch(r"[\w |]+", what.pattern):
            ways = [way for part in what.pattern.split("|") for way in self.said(part)]
        else:
            return what
        choice = "|".join(re.escape(way) for way in ways)
        return re.compile(rf"^\s*({choice})\s*$" if exact else choice)

    def _learn(self, english: str, told: str) -> None:
        if not _FIELD.search(english):
            ways = self._whole[english.strip()]
            if told.strip() not in ways:
                ways.append(told.strip())
            return
        if not _LETTERS.search(_FIELD.sub("", english)):
            return
        parts, at, seen = [], 0, set[str]()
        for field in _FIELD.finditer(english):
            parts.append(re.escape(english[at : field.start()]))
            parts.append(f"(?P=v{field[1]})" if field[1] in seen else f"(?P<v{field[1]}>.+?)")
            seen.add(field[1])
            at = field.end()
        pattern = re.compile("".join(parts) + re.escape(english[at:]))
        self._patterns.append((len(_FIELD.sub("", english)), pattern, told))

    def _value(self, text: str) -> str:
        return text.replace(".", self._decimal) if _DECIMAL.search(text) else self._whole.get(text, [text])[0]


def speaking(words: Catalogue) -> Iterator[None]:
    """While it lasts, pages are searched by the words of a language."""
    with pytest.MonkeyPatch.context() as patch:
        for kind in (Page, Locator):
            for name in ("get_by_text", "get_by_label", "get_by_role"):
                _translate(patch, kind, name, words)
        yield


def _translate(patch: pytest.MonkeyPatch, kind: type, name: str, words: Catalogue) -> None:
    plain = getattr(kind, name)

    def by_words(self: Any, what: Any, **given: Any) -> Locator:
        exact = bool(given.get("exact"))
        if name != "get_by_role":
            what = words.sought(what, exact=exact)
        elif "name" in given:
            given["name"] = words.sought(given["name"], exact=exact)
        found: Locator = plain(self, what, **given)
        return found

    patch.setattr(kind, name, by_words)
