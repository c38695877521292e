"""Every word that a player can read, by the file that says it: pages, verdicts, cues, errors, PDFs, the command line.

`python -m scripts.visible_words` prints all of it, to be read aloud; `--retired` only lines with words that are no longer used, and fails
where there are any. What is one word for one thing stands in docs/words.md.
"""

import ast
import re
import sys
from collections.abc import Iterable, Iterator
from pathlib import Path

ROOT = Path(__file__).parents[1]
PAGES = ROOT / "frontend" / "src"
# Said by the core and the edge to players; the rest are names, SQL and paths.
PYTHON = ("core/coach", "core/exercises", "core/planning", "core/practice", "core/progress", "core/trends", "core/tuning", "core/instruments", "core/measures",
          "core/device", "core/approaches.py", "services", "api", "cli", "files")  # fmt: skip
NOT_SAID = (
    "core/earlier_names.py",
    "core/coach/judging/criterion.py",
    "services/documents.py",
    "services/archive/tables.py",
)
RETIRED = {
    "figure, family": r"\b(figures?|famil(y|ies))\b",
    "sitting": r"\bsittings?\b",
    "rung, ladder view": r"\brungs?\b",
    "slot, tube": r"\b(slots?|tubes?)\b",
    "horn": r"(?<!Tenor )(?<!Double )(?<!Single )(?<!tenor )(?<!double )(?<!single )\b[Hh]orns?\b(?! in )",
    "programme, aim": r"\b([Pp]rogrammes?|[Aa]ims?)\b",
    "held, nearly (as a result)": r"\b(was held|is held|not held|and held|nearly)\b",
    "sag": r"\bsag(s|ged|ging)?\b",
    "stage, school": r"\b([Ss]tages?|[Ss]chools?)\b",
    "hearing (recordings)": r"\ba hearing\b",
    "likeness, spread, wander": r"\b(likeness|spread of|wander(s|ed|ing)?)\b",
    "anew, all the same, thereof": r"\b(anew|all the same|thereof|may be claimed|asked for)\b",
    "owned, path": r"\b(owned|paths?)\b",
    "lies, lay, stood": r"\b(lay|stood)\b",
    "begin, go on, throw away": r"(^|[>'\"] *)(Begin|Go on|Throw away|Keep it|Take it|Leave it)\b",
    "simulated player": r"\bsimulated player\b",
}
# The same letters in words that stay.
STAYS = re.compile(
    r"^simulated player$|longest tube|shortest tube|'simulated player'|\"simulated player\"|class=\"?rung|rung\.|font-family=|exercise_type=|horns?-|\bhorn ID\b|--horn|tone-|“[^”]*”|\{[^{}]*\}|\b(buzz|stands?) as\b|two stages|\"figures?\"|\.tube\b|`[^`]*`|figure FAMILY"
)


def said_in_python(path: Path) -> Iterator[tuple[int, str]]:
    """Sentences and labels: strings with a blank that are no docstrings; of commands the docstring is the help."""
    tree = ast.parse(path.read_text())
    is_cli = path.parent.name == "cli"
    unsaid: set[int] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef):
            first = node.body[0] if node.body else None
            if isinstance(first, ast.Expr) and not (is_cli and getattr(node, "decorator_list", None)):
                unsaid.add(id(first.value))
        if isinstance(node, ast.JoinedStr):
            unsaid |= {id(part) for part in ast.walk(node) if part is not node}
    lines = path.read_bytes().splitlines(keepends=True)
    for node in ast.walk(tree):
        if id(node) in unsaid or not isinstance(node, ast.JoinedStr | ast.Constant):
            continue
        if isinstance(node, ast.Constant) and not isinstance(node.value, str):
            continue
        text = " ".join(_segment(lines, node).split())
        if " " in text.strip("\"'f ") and not text.startswith(("r'", 'r"')):
            yield node.lineno, text


def _segment(lines: list[bytes], node: ast.expr) -> str:
    """The source of a node; the library's own way splits the whole file for each of them."""
    first, last = node.lineno - 1, (node.end_lineno or node.lineno) - 1
    if first == last:
        return lines[first][node.col_offset : node.end_col_offset].decode()
    inner = b"".join(lines[first + 1 : last])
    return (lines[first][node.col_offset :] + inner + lines[last][: node.end_col_offset]).decode()


_SCRIPT = re.compile(r"<(script|style)\b.*?</\1>", re.DOTALL)
_COMMENT = re.compile(r"/\*.*?\*/|(?m:(?<!:)//.*$)", re.DOTALL)
_QUOTED = re.compile(r"'([^'\n]*[A-Za-z][^'\n]*)'|`([^`]*[A-Za-z][^`]*)`")
_TEXT = re.compile(r">([^<>{}]*[A-Za-z][^<>{}]*)[<{]|\}([^<>{}]*[A-Za-z]{2}[^<>{}]*)[<{]")
_SPOKEN = re.compile(r'\b(?:aria-label|title|placeholder|label|legend|text|yes|alt)="([^"]*)"')


def said_in_page(path: Path) -> Iterator[tuple[int, str]]:
    """Text and spoken attributes of a template, and the strings of its script that are sentences or labels."""
    source = path.read_text()
    scripts = "\n".join(found.group(0) for found in _SCRIPT.finditer(source)) if path.suffix == ".svelte" else source
    scripts = _COMMENT.sub("", scripts)
    template = _SCRIPT.sub(lambda found: "\n" * found.group(0).count("\n"), source) if path.suffix == ".svelte" else ""
    for pattern, text in ((_TEXT, template), (_SPOKEN, template), (_QUOTED, template), (_QUOTED, scripts)):
        for found in pattern.finditer(text):
            words = " ".join(next(filter(None, found.groups()), "").split())
            if pattern is _QUOTED and not re.search(r"^[A-Z][a-z]|[a-z] [a-z]", words):
                continue
            if words and not words.startswith(("../", "./", "@", "/api")):
                yield source[: source.find(found.group(0))].count("\n") + 1, words


def all_said() -> Iterator[tuple[Path, int, str]]:
    """File, line and words of everything."""
    package = ROOT / "src" / "orexis"
    for place in PYTHON:
        for path in sorted((package / place).rglob("*.py")) if (package / place).is_dir() else [package / place]:
            if str(path.relative_to(package)) not in NOT_SAID and "migrations" not in path.parts:
                for line, words in said_in_python(path):
                    yield path.relative_to(ROOT), line, words
    for path in sorted([*PAGES.rglob("*.svelte"), *PAGES.rglob("*.ts")]):
        if path.name.endswith((".test.ts", ".d.ts")) or path.name in ("judged.ts", "client.ts"):
            continue
        for line, words in said_in_page(path):
            yield path.relative_to(ROOT), line, words


def retired(said: Iterable[tuple[Path, int, str]]) -> list[str]:
    """Lines that say a word which is no longer used: file, line, which, and the words."""
    found = []
    for path, line, words in said:
        plain = STAYS.sub(" ", words)
        for name, pattern in RETIRED.items():
            if re.search(pattern, plain):
                found.append(f"{path}:{line}: {name}: {words[:160]}")
    return found


def main() -> None:
    """Print everything, or what is retired."""
    if "--retired" in sys.argv:
        lines = retired(all_said())
        print("\n".join(lines))
        sys.exit(1 if lines else 0)
    before = None
    for path, line, words in all_said():
        if path != before:
            print(f"\n== {path}")
            before = path
        print(f"{line:5}  {words}")


if __name__ == "__main__":
    main()
