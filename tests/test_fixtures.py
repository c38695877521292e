"""What the front end's tests read is what the back end says today."""

import json
from pathlib import Path
from typing import Any

import pytest

from scripts.write_fixtures import slur
from scripts.write_judged import DOCS, PAGE, in_docs, page


def alike(a: Any, b: Any) -> bool:
    """The same shape, and numbers that differ by no more than another processor's rounding."""
    if isinstance(a, dict) and isinstance(b, dict):
        return a.keys() == b.keys() and all(alike(a[key], b[key]) for key in a)
    if isinstance(a, list) and isinstance(b, list):
        return len(a) == len(b) and all(alike(x, y) for x, y in zip(a, b, strict=True))
    if isinstance(a, float) or isinstance(b, float):
        return a is not None and b is not None and bool(a == pytest.approx(b, abs=0.15, rel=1e-3))
    return bool(a == b)


def test_the_front_ends_snapshots_are_fresh() -> None:
    kept = json.loads(Path("frontend/src/lib/fixtures/slur.json").read_text())
    assert kept["trace"]["f0_hz"]
    assert alike(json.loads(json.dumps(slur())), kept), "run: make api"


def test_the_pages_words_and_the_tables_are_made_from_the_declarations() -> None:
    assert PAGE.read_text() == page(), "run: make api"
    assert DOCS.read_text() == in_docs(DOCS.read_text()), "run: make api"
