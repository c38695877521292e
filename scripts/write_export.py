"""Write the table of docs/export.md from the declaration of what an export holds (`make api`)."""

from pathlib import Path

from sqlalchemy import Boolean, DateTime, Float, Integer

from orexis.services.archive.tables import TABLES, ByKind, ExportedTable
from orexis.services.documents import DOCUMENTS

DOCS = Path("docs/export.md")
_BEGIN, _END = "<!-- made by make api: export -->", "<!-- end -->"


def _kind(part: ExportedTable, name: str) -> str:
    column = part.table.c[name]
    kinds = ((Boolean, "true or false"), (Integer, "whole number"), (Float, "number"), (DateTime, "time"))
    said = next((word for kind, word in kinds if isinstance(column.type, kind)), "text")
    if name in part.values:
        kind = part.values[name]
        kinds_here = kind.kinds.values() if isinstance(kind, ByKind) else (kind,)
        said = "JSON: " + " or ".join(DOCUMENTS[one].name for one in kinds_here)
    return f"`{name}` {said}{' or null' if column.nullable else ''}"


def table() -> str:
    """Markdown."""
    rows = ["| file | what | a line's fields |", "|---|---|---|"]
    for part in TABLES:
        about = part.about + (" A summary: made again from the takes where the file is read." if part.derived else "")
        rows.append(f"| `{part.file}.jsonl` | {about} | {', '.join(_kind(part, name) for name in part.columns)} |")
    return "\n".join(rows)


def main() -> None:
    """Between the two marks."""
    text = DOCS.read_text()
    start, end = text.index(_BEGIN) + len(_BEGIN), text.index(_END)
    DOCS.write_text(f"{text[:start]}\n{table()}\n{text[end:]}")


if __name__ == "__main__":
    main()
