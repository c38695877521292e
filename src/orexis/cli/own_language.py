"""The command line in the language of this machine's user: help, errors and what is said on stderr. Results stay English, for programs read them."""

import os
import re
import sys
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from functools import cache
from typing import Any

import click

from orexis.core.messages import ENGLISH, Language

# What the library says by itself.
LIBRARY_WORDS = ("Show this message and exit.", "Passphrase for devices", "Repeat for confirmation")
LIBRARY_SENTENCES = (
    "No such option {option}.",
    "No such option {option}. Did you mean {other}?",
    "No such command {command}.",
    "No such command {command}. Did you mean {other}?",
    "Missing argument {name}.",
    "Missing option {name}.",
    "Invalid value for {name}: {why}",
    "{value} is not a valid integer.",
    "{value} is not a valid float.",
    "{value} is not in the range {range}.",
    "Got unexpected extra argument ({name})",
    "Option {name} requires an argument.",
    "Usage: {command}",
    "default: {value}",
)
_BRACKET = re.compile(r"(.*?) *\[([^\[]*)\]")
_HEADINGS = ("Options", "Commands", "required")


@cache
def own_language() -> Language:
    """Whatever the environment names; English where there is no catalogue for it."""
    wanted = next(
        (value for name in ("LANGUAGE", "LC_ALL", "LC_MESSAGES", "LANG") if (value := os.environ.get(name))), ""
    )
    if not wanted or wanted.startswith(("en", "C", "POSIX")):
        return ENGLISH
    from orexis.api.language import language_for

    return language_for(wanted.replace(":", ",").replace("_", "-"))


def own(text: str) -> str:
    """An English text in the language of this machine's user."""
    return own_language().said(text)


def say(text: str) -> None:
    """One line on stderr."""
    print(own(text), file=sys.stderr, flush=True)


class _Formatter(click.HelpFormatter):
    """The library's own way of writing help, its words looked up."""

    def write_usage(self, prog: str, args: str = "", prefix: str | None = None) -> None:
        super().write_usage(prog, args, prefix or own("Usage: {command}").format(command=""))

    def write_text(self, text: str) -> None:
        super().write_text(own(text))

    def write_dl(self, rows: Iterable[tuple[str, str]], col_max: int = 30, col_spacing: int = 2) -> None:
        super().write_dl([(name, _in_parts(text)) for name, text in rows], col_max, col_spacing)

    @contextmanager
    def section(self, name: str) -> Iterator[None]:
        with super().section(own(name)):
            yield


def _in_parts(text: str) -> str:
    """The help of an option, then in brackets its default and whether it is required."""
    found = _BRACKET.fullmatch(text)
    if found is None:
        return own(text)
    extra = "; ".join(own(part) for part in found[2].split("; "))
    return f"{own(found[1])}  [{extra}]".strip()


class OwnContext(click.Context):
    """Writes its help in the language of this machine's user."""

    formatter_class = _Formatter


def in_own_language(command: Any) -> Any:
    """A command and those under it, whose help is in the language of this machine's user and never cut off."""
    command.context_class = OwnContext
    for one in getattr(command, "commands", {}).values():
        one.short_help = one.help
        in_own_language(one)
    return command
