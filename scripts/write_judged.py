"""Write what is made from the declarations of judged things: the page's words, and the tables of docs/measures.md."""

import json
from pathlib import Path
from typing import Any

from orexis.core.coach import COLUMNS, JUDGED, LIMITS, NOT_HEARD, REASONS, Standard

PAGE = Path("frontend/src/lib/api/judged.ts")
DOCS = Path("docs/measures.md")
_BEGIN, _END = "<!-- made by make api: {} -->", "<!-- end -->"


def page() -> str:
    """The TypeScript module."""
    reasons = {key: {"label": reason.label, "says": reason.says} for key, reason in REASONS.items()}
    unheard = {key: {"label": label, "says": cue.cause} for key, (label, cue) in NOT_HEARD.items()}
    columns = [{"label": c.label, "fields": list(c.fields), "form": c.form} for c in COLUMNS]

    def written(value: Any) -> str:
        return json.dumps(value, indent=2, ensure_ascii=False)

    return (
        "/** Made by `make api` from the core's declarations (core/coach/judging). Do not edit. */\n"
        f"export const REASONS = {written(reasons | unheard)} as const;\n\n"
        "export type Reason = keyof typeof REASONS;\n\n"
        f"export const COLUMNS = {written(columns)} as const;\n\n"
        f"export const LIMIT_LABELS: Record<string, string> = {written({x.name: x.label for x in LIMITS.values()})};\n"
    )


def limits_table() -> str:
    """Limits by standard."""
    head = f"| limit | {' | '.join(Standard)} |\n|---|{'---|' * len(Standard)}\n"
    rows = [
        f"| {limit.label} | {' | '.join(f'{value:g}' for value in limit.by_standard)} |" for limit in LIMITS.values()
    ]
    return head + "\n".join(rows)


def judged_table() -> str:
    """What is judged, in the order in which faults are worked on."""
    head = "| judged | what it is | reasons |\n|---|---|---|\n"
    rows = [
        f"| {judged.measure or 'every exercise'} | {judged.means} | {', '.join(r.id for r in judged.reasons) or '–'} |"
        for judged in JUDGED
    ]
    return head + "\n".join(rows)


def in_docs(text: str) -> str:
    """The document with its tables made anew."""
    for name, table in (("limits", limits_table()), ("judged", judged_table())):
        begin = _BEGIN.format(name)
        before, _, rest = text.partition(begin)
        _, _, after = rest.partition(_END)
        text = f"{before}{begin}\n{table}\n{_END}{after}"
    return text


def main() -> None:
    """Write both."""
    PAGE.write_text(page())
    DOCS.write_text(in_docs(DOCS.read_text()))


if __name__ == "__main__":
    main()
