"""Sentences with their values, in the language of whoever asks.

`tell("A take of {seconds:.0f} s", seconds=9.2)`: the English sentence is the key of a gettext catalogue, its values have names, and a
translation may put them in another order. Counted things are `counted(3, "{count} day", "{count} days")`: each language has as many
forms as it needs. Words without values (names, hints, labels) are looked up whole where an answer leaves the house. Outside of a
request everything is English, and so is what the record keeps.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from gettext import NullTranslations
from string import Formatter
from typing import Any


@dataclass(frozen=True, slots=True)
class Language:
    """A catalogue of sentences, and the sign before decimals."""

    catalogue: NullTranslations = field(default_factory=NullTranslations)
    decimal: str = "."


ENGLISH = Language()
_SPOKEN: ContextVar[Language] = ContextVar("language", default=ENGLISH)


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
    decimal = _SPOKEN.get().decimal
    try:
        return translation.format(**values) if decimal == "." else _Numbers(decimal).vformat(translation, (), values)
    except (KeyError, IndexError, ValueError):
        return english.format(**values)
