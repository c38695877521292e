"""Page tests in another language: what they look for by its English words is looked up in the catalogues."""

import re
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


class Catalogue:
    """English texts of pages and sentences, and what they are in another language."""

    def __init__(self, *files: Path) -> None:
        self._whole: dict[str, str] = {}
        self._patterns: list[tuple[int, re.Pattern[str], str]] = []
        for file in files:
            with file.open("rb") as opened:
                messages = list(read_po(opened))
            for message in messages:
                if message.id and isinstance(message.id, str) and message.string:
                    self._learn(_TAG.sub("", message.id), _TAG.sub("", str(message.string)))
        self._patterns.sort(key=lambda found: -found[0])

    def said(self, text: str) -> str:
        """The same in the other language: whole, as a sentence with values, or its first sentences."""
        if text in self._whole:
            return self._whole[text]
        begun = next((key for key in self._whole if key.startswith(text) and text.endswith(".")), None)
        if begun is not None:
            count = len(text.rstrip(".").split(". "))
            return ". ".join(self._whole[begun].rstrip(".").split(". ")[:count])
        small = text[:1].lower() + text[1:]
        for _, pattern, told in self._patterns:
            for words in (text, small):
                if found := pattern.fullmatch(words):
                    filled = _FIELD.sub(lambda field, got=found: self._value(got.group(f"v{field[1]}")), told)
                    return filled if words == text else filled[:1].upper() + filled[1:]
        return self.said(text + _END).removesuffix(_END) if text.endswith(":") else text

    def sought(self, pattern: re.Pattern[str]) -> re.Pattern[str]:
        """A choice of words in the other language."""
        told = "|".join(self.said(part) for part in pattern.pattern.split("|"))
        return re.compile(told) if re.fullmatch(r"[\w |]+", pattern.pattern) else pattern

    def _learn(self, english: str, told: str) -> None:
        if not _FIELD.search(english):
            self._whole.setdefault(english.strip(), told.strip())
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
        return text.replace(".", ",") if _DECIMAL.search(text) else self._whole.get(text, text)


def speaking(language: str) -> Iterator[None]:
    """While it lasts, pages are searched by the words of a language."""
    words = Catalogue(ROOT / f"frontend/src/locales/{language}.po", ROOT / f"src/orexis/locales/{language}.po")

    def told(what: Any) -> Any:
        return words.sought(what) if isinstance(what, re.Pattern) else words.said(what)

    with pytest.MonkeyPatch.context() as patch:
        for kind in (Page, Locator):
            for name in ("get_by_text", "get_by_label", "get_by_role"):
                _translate(patch, kind, name, told)
        yield


def _translate(patch: pytest.MonkeyPatch, kind: type, name: str, told: Any) -> None:
    plain = getattr(kind, name)

    def by_words(self: Any, what: Any, **given: Any) -> Locator:
        if name != "get_by_role":
            what = told(what)
        elif "name" in given:
            given["name"] = told(given["name"])
        found: Locator = plain(self, what, **given)
        return found

    patch.setattr(kind, name, by_words)
