"""Exercises as JSON: the documented form of docs/formats.md. Reading is elsewhere, for writing needs no Pydantic."""

import json
from dataclasses import asdict

from orexis.core.exercises import Exercise


def exercise_to_json(exercise: Exercise) -> bytes:
    """Return an exercise as indented JSON, UTF-8."""
    return json.dumps(asdict(exercise), indent=2, ensure_ascii=False).encode()
