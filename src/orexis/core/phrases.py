"""Finished English sentences recognised by their templates, with the values in them.

What the record keeps and what a session sends is English. On its way out a sentence is looked up whole; one with values is none of
the catalogue's keys, so that its template is looked for here: `A take of {seconds:.0f} s` is found in "A take of 9 s".
"""

import re
from collections.abc import Iterable
from dataclasses import dataclass

_FIELD = re.compile(r"\{(\w+)(?::([^}]*))?\}")
# Letters of a template outside its values, and of one that begins with a letter or has numbers only: a shorter one is found in anything.
_LEAST_LETTERS, _LEAST_IF_CLEAR = 6, 3
_COUNT = "count"  # the value that chooses a plural
_MOST_TEXT = 600  # letters: longer texts are no sentences


@dataclass(frozen=True, slots=True)
class Phrase:
    """A sentence with values: how it looks in English, and its forms in another language, one for each of its plurals."""

    pattern: re.Pattern[str]
    english: tuple[str, ...]
    letters: int
    numbers: frozenset[str]  # names of values that are written as numbers


@dataclass(frozen=True, slots=True)
class Recognised:
    """A phrase in a text, and the values by their names."""

    phrase: Phrase
    values: dict[str, str]


def phrase_of(english: Iterable[str]) -> tuple[Phrase, ...]:
    """Return a phrase for each English form of one sentence that has values; none where it has none, or too few words."""
    forms = tuple(english)
    found = []
    for form in forms:
        letters = sum(letter.isalpha() for letter in _FIELD.sub("", form))
        numbers = frozenset(name for name, spec in _FIELD.findall(form) if spec or name == _COUNT)
        clear = form[:1].isalpha() or len(numbers) == len(set(_FIELD.findall(form)))
        if _FIELD.search(form) and letters >= (_LEAST_IF_CLEAR if clear else _LEAST_LETTERS) and " " in form:
            found.append(Phrase(re.compile(_pattern(form), re.DOTALL), forms, letters, numbers))
    return tuple(found)


def recognise(phrases: Iterable[Phrase], text: str) -> Recognised | None:
    """Return the phrase that a text is, the first that fits; None where it is none."""
    if " " not in text or len(text) > _MOST_TEXT:
        return None
    for phrase in phrases:
        found = phrase.pattern.fullmatch(text)
        if found is not None:
            return Recognised(phrase, {name: value or "" for name, value in found.groupdict().items()})
    return None


def _pattern(form: str) -> str:
    parts, at, seen = [], 0, set[str]()
    for field in _FIELD.finditer(form):
        name, spec = field.group(1), field.group(2)
        parts.append(re.escape(form[at : field.start()]))
        value = r"[+-]?\d+(?:\.\d+)?" if spec or name == _COUNT else ".*?"
        parts.append(f"(?P={name})" if name in seen else f"(?P<{name}>{value})")
        seen.add(name)
        at = field.end()
    return "".join(parts) + re.escape(form[at:])
