"""A made-up language in which every English word is accented and a third longer, to find what was forgotten and what does not fit.

`python -m scripts.pseudo FOLDER` writes FOLDER/locales/qps.po for the Python side and builds pages in it under FOLDER/web. Nothing of it ships.
"""

import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.pofile import read_po, write_po

from scripts.visible_words import ROOT

LANGUAGE = "qps"
_LONGER = 0.35  # as German and French are to English
_PLAIN = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ"
_ACCENTED = "áƀćďéƒǵĥíĵķĺḿńóṕɋŕśťúṽẃẋýźÁƁĆĎÉƑǴĤÍĴĶĹḾŃÓṔɊŔŚŤÚṼẂẊÝŹ"
_TABLE = str.maketrans(_PLAIN, _ACCENTED)
_VALUES = re.compile(r"(\{[^{}]*\}|</?\d+/?>|#)")
_FRONT = ROOT / "frontend"


def pseudo(text: str) -> str:
    """A text with its letters accented and vowels added to its end; values and tags stay."""
    parts = _VALUES.split(text)
    told = "".join(_value(part) if at % 2 else part.translate(_TABLE) for at, part in enumerate(parts))
    letters = sum(letter.isalpha() for letter in "".join(parts[::2]))
    more = "é" * round(_LONGER * letters)
    end = len(told.rstrip(" .:;,!?…"))
    return told[:end] + more + told[end:] if letters else told


def _value(part: str) -> str:
    """A value as it is; where its sign chooses between words, those too: `{value?fell|rose}`."""
    name, choice, words = part.partition("?")
    return part if not choice else f"{name}?{words.translate(_TABLE)}"


def python_side(folder: Path) -> None:
    """Write the catalogue of the Python side."""
    with (ROOT / "src/orexis/locales/orexis.pot").open("rb") as file:
        english = read_po(file)
    made = Catalog(project="orexis", fuzzy=False, charset="utf-8")
    for message in english:
        if message.id:
            forms = (message.id,) if isinstance(message.id, str) else message.id
            told = tuple(pseudo(form) for form in forms)
            made.add(
                message.id,
                told[0] if isinstance(message.id, str) else told,
                flags=message.flags,
                context=message.context,
            )
    folder.mkdir(parents=True, exist_ok=True)
    with (folder / f"{LANGUAGE}.po").open("wb") as out:
        write_po(out, made, width=0)


def page_side(web: Path) -> None:
    """Build the pages in it, beside their sources, in a folder of their own."""
    with (_FRONT / "src/locales/en.po").open("rb") as file:
        english = read_po(file, locale="en")
    copy = web.parent / "frontend"
    shutil.copytree(_FRONT, copy, ignore=shutil.ignore_patterns("node_modules", ".wuchale"), dirs_exist_ok=True)
    (copy / "node_modules").unlink(missing_ok=True)
    (copy / "node_modules").symlink_to(_FRONT / "node_modules")
    shutil.copytree(ROOT / "docs/api", web.parent / "docs/api", dirs_exist_ok=True)
    lines = (copy / "src/locales/en.po").read_text()
    told = re.sub(r'^msgstr(\[\d\])? "(.*)"$', _line, lines, flags=re.MULTILINE)
    assert len(english) > 1000, "no words"
    (copy / f"src/locales/{LANGUAGE}.po").write_text(told.replace('"Language: en', f'"Language: {LANGUAGE}', 1))
    config = copy / "wuchale.config.js"
    config.write_text(re.sub(r"locales: \[[^\]]*\]", f"locales: ['en', '{LANGUAGE}']", config.read_text()))
    command = ["npx", "vite", "build", "--outDir", str(web), "--emptyOutDir", "--logLevel", "error"]
    subprocess.run(command, cwd=copy, check=True, env={**os.environ, "NODE_ENV": "production"})


def _line(found: re.Match[str]) -> str:
    return f'msgstr{found.group(1) or ""} "{pseudo(found.group(2))}"'


if __name__ == "__main__":
    place = Path(sys.argv[1]).resolve()
    python_side(place / "locales")
    page_side(place / "web")
