"""Levels: how an exercise grows, step by step, each a change of parameters in the order in which difficulty is added with care.

Levels are data made for an instrument by the exercise's own declaration. A level's words say what is new in it.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from orexis.core.instruments import Instrument
from orexis.core.messages import counted


@dataclass(frozen=True, slots=True)
class PathStep:
    """One level: what it asks in words, and the parameters that say so."""

    say: str
    params: dict[str, str]


Levels = Callable[[Instrument], Iterable[PathStep]]


def level(say: str, **params: object) -> PathStep:
    """A level; an underscore at the end of a name is for Python only."""
    return PathStep(say, {key.rstrip("_"): str(value) for key, value in params.items()})


def with_article(name: str) -> str:
    """Return a name with its article: “an octave”, “a third”; a number needs none: “2 octaves”."""
    if name[0].isdigit():
        return name
    return f"{'an' if name[0] in 'aeiou' else 'a'} {name}"


def ordinal(number: int) -> str:
    """Return a number as an ordinal: “3rd”, “11th”."""
    return f"{number}{ {1: 'st', 2: 'nd', 3: 'rd'}.get(number, 'th') }"


def higher_by(semitones: int) -> str:
    """Return a distance upwards in words: “2 semitones higher”."""
    return (
        "the usual start"
        if semitones == 0
        else counted(semitones, "{count} semitone higher", "{count} semitones higher")
    )


def lower_by(semitones: int) -> str:
    """Return a distance downwards in words: “2 semitones lower”."""
    return (
        "the usual start" if semitones == 0 else counted(semitones, "{count} semitone lower", "{count} semitones lower")
    )
