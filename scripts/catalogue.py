"""The English sentences and words of the Python side, as a catalogue that translators begin with.

`python -m scripts.catalogue` writes src/orexis/locales/orexis.pot; `--check` fails where it is not what the code says. Sentences with
values are found by their calls (`tell`, `counted`), words without by their places, as in `visible_words`. Ids of the interface are no words.
"""

import ast
import io
import json
import re
import sys

from babel.messages.catalog import Catalog
from babel.messages.extract import extract_python
from babel.messages.pofile import write_po

from orexis.core.messages import VALUE
from scripts.visible_words import NOT_SAID, PYTHON, ROOT

PACKAGE = ROOT / "src" / "orexis"
OUT = PACKAGE / "locales" / "orexis.pot"
_UNSAID = (
    "services/demo",
    "services/archive/join.py",
    "services/documents.py",
)  # made-up people, SQL, names of columns
_CALLS = {"tell": None, "counted": (2, 3)}
# Words that stand inside sentences, or on the staff: alone they may be ids, so that they are looked up as values only.
VALUES = (
    "down", "up", "down and up", "up and down", "halves", "eighths", "triplets", "sixteenths", "steady", "pulsed", "half", "quarters",
    "1st", "2nd", "3rd", "4th", "5th", "6th", "7th", "8th", "9th", "10th", "11th", "12th", "13th", "14th", "15th", "16th", "fourth", "fifth",
    "unison", "half step", "whole step", "tritone", "octave", "a half step", "a whole step", "a minor third", "a major third", "a fourth", "a tritone",
    "a fifth", "a minor sixth", "a major sixth", "a minor seventh", "a major seventh", "an octave", "minor third", "major third",
    "minor sixth", "major sixth", "minor seventh", "major seventh",
    "cents", "of 100", "notes", "semitones", "seconds", "minutes", "better", "worse", "higher", "lower", "soft", "loud", "sharp", "flat", "in", "out",
    "grow", "ease", "even", "gathered", "buzzing", "slurred", "tongued", "plain", "none", "open", "fast", "slow", "short", "again",
    "apart", "joined", "straight", "settle", "low", "high", "beat", "yes", "no", "medium", "response", "tone", "pitch wobble", "pitch",
    "portato", "nothing", "a drone", "chords", "a second part",
    ".",  # before decimals
)  # fmt: skip
_LABEL = re.compile(r"[A-Z][a-z]+(?:[ ,:’(-].*)?|.*\w [a-z].*", re.DOTALL)
_LABELLED = (
    "core/exercises",
    "core/trends",
    "core/instruments",
    "core/approaches.py",
    "core/coach",
    "services/paper",
)  # say words of one word


def catalogue() -> Catalog:
    """Everything that is said, with the files that say it."""
    made = Catalog(project="orexis", fuzzy=False, charset="utf-8")
    names = _names()
    for path in sorted(PACKAGE.rglob("*.py")):
        place = str(path.relative_to(PACKAGE))
        source = path.read_bytes()
        for _, call, words, _ in extract_python(io.BytesIO(source), list(_CALLS), [], {"encoding": "utf-8"}):
            keys = words if isinstance(words, tuple) else (words,)
            said = tuple(key for key in keys if key)
            if not said:
                continue  # the sentence is a value
            made.add(said[:2] if call == "counted" else said[0], locations=[(place, None)])  # type: ignore[list-item]
        if place.startswith("cli"):
            for words in _command_words(source.decode(), place):
                made.add(words, locations=[(place, None)])  # type: ignore[list-item]
        if place.startswith(PYTHON) and place not in NOT_SAID and not place.startswith(("cli", *_UNSAID)):
            for words in _constants(source.decode(), place):
                if words not in names:
                    made.add(words, locations=[(place, None)])  # type: ignore[list-item]
    for word in VALUES:
        made.add(word, context=VALUE)
    return made


def _constants(source: str, place: str) -> list[str]:
    """Strings that are words or sentences and have no values."""
    tree = ast.parse(source)
    beside: set[int] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Expr):  # docstrings
            beside.add(id(node.value))
        if isinstance(node, ast.JoinedStr) or (isinstance(node, ast.Call) and getattr(node.func, "id", "") in _CALLS):
            beside |= {id(part) for part in ast.walk(node) if isinstance(part, ast.Constant)}
    found = []
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in beside:
            words = node.value
            one_word = " " not in words.strip()
            if "{" in words or not _LABEL.fullmatch(words) or (one_word and not place.startswith(_LABELLED)):
                continue
            if not re.search(r"[<>=\\/]|SELECT|PRAGMA|^[A-Z_]+$|%[YmdHs]", words):
                found.append(words)
    return found


def _command_words(source: str, place: str) -> list[str]:
    """Help of commands and their options, what is said on stderr, and what the library says by itself."""
    found: list[str | None] = []
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.FunctionDef) and any(isinstance(by, ast.Call) for by in node.decorator_list):
            found.append(ast.get_docstring(node))
        if isinstance(node, ast.Call):
            said = [key.value for key in node.keywords if key.arg == "help"]
            said += node.args if getattr(node.func, "id", "") in ("say", "own") else []
            found += [part.value for part in said if isinstance(part, ast.Constant)]
        if isinstance(node, ast.Assign) and place.endswith("own_language.py"):
            found += [
                part.value
                for part in ast.walk(node.value)
                if isinstance(part, ast.Constant) and isinstance(part.value, str)
            ]
    return [words for words in found if words and re.search("[a-z]{2}", words) and not words.isupper()]


def _names() -> frozenset[str]:
    """Ids that the interface knows: enumerations of its documentation."""
    documented = json.loads((ROOT / "docs" / "api" / "openapi.json").read_text())
    return frozenset(
        str(value) for part in documented["components"]["schemas"].values() for value in part.get("enum", ())
    )


def written(made: Catalog) -> bytes:
    """The file: one entry after another as they were found, without dates, so that it changes only with the words."""
    out = io.BytesIO()
    write_po(out, made, omit_header=True, sort_output=True, width=120)
    return out.getvalue()


def main() -> None:
    """Write the catalogue, or look whether it is the code's."""
    now = written(catalogue())
    if "--check" in sys.argv:
        if OUT.read_bytes() != now:
            sys.exit(f"{OUT.relative_to(ROOT)} is not what the code says: run python -m scripts.catalogue")
        return
    OUT.write_bytes(now)


if __name__ == "__main__":
    main()
