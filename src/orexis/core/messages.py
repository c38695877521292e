"""Sentences with their values, in the language of whoever asks.

`tell("A take of {seconds:.0f} s", seconds=9.2)`: the English sentence is the key of a gettext catalogue, its values have names, and a
translation may put them in another order. Counted things are `counted(3, "{count} day", "{count} days")`: each language has as many
forms as it needs. Words without values (names, hints, labels) are looked up whole where an answer leaves the house. Outside of a
request everything is English, and so is what the record keeps: `Language.said` puts a finished English sentence into a language.
"""

import re
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from functools import lru_cache
from gettext import NullTranslations
from string import Formatter
from typing import Any

from orexis.core.phrases import Phrase, Recognised, recognise

VALUE = "value"  # the context of such words in a catalogue
_DECIMAL = re.compile(r"[+-]?\d+\.\d+")
_FIELD = re.compile(r"\{(\w+)(?::[^}]*)?\}")
_LABELLED = "{label}: {change}"
_SENTENCES, _ROW = re.compile(r"(?<=[.!?]) "), re.compile(", ")


@dataclass(frozen=True, slots=True)
class Language:
    """A catalogue of sentences, the sign before decimals, and the sentences with values, the longest first."""

    catalogue: NullTranslations = field(default_factory=NullTranslations)
    decimal: str = "."
    phrases: tuple[Phrase, ...] = field(default=(), compare=False)

    def value(self, text: str) -> str:
        """Return a word that stands inside a sentence or on the staff: by itself it may be an id, and is another word elsewhere."""
        told = self.catalogue.pgettext(VALUE, text)
        if told != text or not text:
            return told
        return text.replace(".", self.decimal) if _DECIMAL.fullmatch(text) else self.said(text)

    def said(self, text: str) -> str:
        """Return an English text as it is said in this language: looked up whole, else as a sentence with values, else as it is."""
        return _said(self, text) if text else text

    def _form(self, found: Recognised) -> str:
        one, *many = found.phrase.english
        if not many:
            return self.catalogue.gettext(one)
        count = found.values.get("count", "1")
        return self.catalogue.ngettext(one, many[0], int(count) if count.isdigit() else 2)


@lru_cache(maxsize=20_000)
def _said(language: Language, text: str) -> str:
    whole = language.catalogue.gettext(text)
    if whole != text or language is ENGLISH:
        return whole
    found = recognise(language.phrases, text)
    if found is None:
        return _in_parts(language, text)
    numbers = found.phrase.numbers
    values = {
        name: value.replace(".", language.decimal) if name in numbers else language.value(value)
        for name, value in found.values.items()
    }
    return _FIELD.sub(lambda place: values.get(place.group(1), ""), language._form(found))


ENGLISH = Language()
_SPOKEN: ContextVar[Language] = ContextVar("language", default=ENGLISH)


def _in_parts(language: Language, text: str) -> str:
    """Several sentences one after another, names in a row, what is said of something, or a sentence that begins small and has lost
    its full stop.
    """
    for end in (_SENTENCES, _ROW):
        parts = end.split(text)
        told = [language.said(part) for part in parts] if len(parts) > 1 else parts
        if all(new != part for new, part in zip(told, parts, strict=True)):
            return (" " if end is _SENTENCES else ", ").join(told)
    label, colon, change = text.rpartition(": ")
    if colon:
        told_label, told_change = language.said(label), language.said(change)
        if told_label != label and told_change != change:
            return language.catalogue.gettext(_LABELLED).format(label=told_label, change=told_change)
    sentence = f"{text[:1].upper()}{text[1:]}."
    told_whole = language.catalogue.gettext(sentence)
    return text if told_whole == sentence else f"{told_whole[:1].lower()}{told_whole[1:].removesuffix('.')}"


def tell(sentence: str, /, **values: object) -> str:
    """The sentence in the language in use, with its values. The English one where a translation does not fit the values."""
    return _filled(_SPOKEN.get().catalogue.gettext(sentence), sentence, values)


def counted(count: int, one: str, many: str, /, **values: object) -> str:
    """The form for so many in the language in use; `{count}` is the number."""
    given = {"count": count, **values}
    return _filled(_SPOKEN.get().catalogue.ngettext(one, many, count), one if count == 1 else many, given)


def in_use() -> Language:
    """The language in use: a key for whoever remembers what was said."""
    return _SPOKEN.get()


@contextmanager
def spoken(language: Language) -> Iterator[None]:
    """Inside the block sentences are in this language; other requests keep theirs."""
    token = _SPOKEN.set(language)
    try:
        yield
    finally:
        _SPOKEN.reset(token)


class _Numbers(Formatter):
    """Fills values in, numbers with the decimal sign of a language."""

    def __init__(self, decimal: str) -> None:
        self._decimal = decimal

    def format_field(self, value: Any, format_spec: str) -> str:
        """A value in its form, a decimal number with the sign of the language."""
        text = format(value, format_spec)
        return text.replace(".", self._decimal) if isinstance(value, float) else text


def _filled(translation: str, english: str, values: dict[str, object]) -> str:
    language = _SPOKEN.get()
    decimal = language.decimal
    if language is not ENGLISH:
        values = {name: language.value(value) if isinstance(value, str) else value for name, value in values.items()}
    try:
        return translation.format(**values) if decimal == "." else _Numbers(decimal).vformat(translation, (), values)
    except (KeyError, IndexError, ValueError):
        return english.format(**values)
