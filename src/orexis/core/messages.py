"""Sentences with their values, in the language of whoever asks.

`tell("A take of {seconds:.0f} s", seconds=9.2)`: the English sentence is the key of a gettext catalogue, its values have names, and a
translation may put them in another order. Counted things are `counted(3, "{count} day", "{count} days")`: each language has as many
forms as it needs. Words without values (names, hints, labels) are looked up whole where an answer leaves the house. Outside of a
request everything is English, and so is what the record keeps.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from gettext import NullTranslations

ENGLISH = NullTranslations()
_SPOKEN: ContextVar[NullTranslations] = ContextVar("catalogue", default=ENGLISH)


def tell(sentence: str, /, **values: object) -> str:
    """The sentence in the language in use, with its values. The English one where a translation does not fit the values."""
    return _filled(_SPOKEN.get().gettext(sentence), sentence, values)


def counted(count: int, one: str, many: str, /, **values: object) -> str:
    """The form for so many in the language in use; `{count}` is the number."""
    given = {"count": count, **values}
    return _filled(_SPOKEN.get().ngettext(one, many, count), one if count == 1 else many, given)


def in_use() -> NullTranslations:
    """The catalogue in use: a key for whoever remembers what was said."""
    return _SPOKEN.get()


@contextmanager
def spoken(catalogue: NullTranslations) -> Iterator[None]:
    """Inside the block sentences are in the language of this catalogue; other requests keep theirs."""
    token = _SPOKEN.set(catalogue)
    try:
        yield
    finally:
        _SPOKEN.reset(token)


def _filled(translation: str, english: str, values: dict[str, object]) -> str:
    try:
        return translation.format(**values)
    except (KeyError, IndexError, ValueError):
        return english.format(**values)
