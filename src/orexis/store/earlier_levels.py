"""Stored numbers of levels brought up to those of today, where a release made fewer and wider levels."""

import json
from typing import Any

import sqlalchemy as sa

from orexis.core.instruments import INSTRUMENTS
from orexis.core.progress import renumbered_level

_OF_TAKES = "SELECT id, instrument, exercise_type, fact FROM take WHERE fact IS NOT NULL"
_BY_HAND = "SELECT player_id, instrument, exercise_type, by_hand FROM path_place WHERE by_hand != '[]'"
_PUT_BY_HAND = (
    "UPDATE path_place SET by_hand = :by_hand"
    " WHERE player_id = :player_id AND instrument = :instrument AND exercise_type = :exercise_type"
)


def renumber_levels(db: sa.Connection) -> None:
    """Change what all takes say of their level, and what players set by hand. To be done once."""
    for take in db.execute(sa.text(_OF_TAKES)).mappings().all():
        row = with_levels_of_today(take)
        if row["fact"] != take["fact"]:
            db.execute(sa.text("UPDATE take SET fact = :fact WHERE id = :id"), {"fact": row["fact"], "id": row["id"]})
    for place in db.execute(sa.text(_BY_HAND)).mappings().all():
        row = with_levels_of_today(place)
        if row["by_hand"] != place["by_hand"]:
            db.execute(sa.text(_PUT_BY_HAND), row)


def with_levels_of_today(given: Any) -> dict[str, Any]:
    """Return a row of takes (`fact`) or of levels (`by_hand`) with the new numbers; JSON that needs no change stays as it is."""
    row = dict(given)
    fact = json.loads(row["fact"]) if row.get("fact") else {}
    if fact.get("step") is not None:
        level = _level(row, fact["step"])
        if level != fact["step"]:
            row["fact"] = json.dumps(fact | {"step": level}, separators=(",", ":"))
    if row.get("by_hand"):
        said = json.loads(row["by_hand"])
        levels = [[day, _level(row, level)] for day, level in said]
        if levels != said:
            row["by_hand"] = json.dumps(levels, separators=(",", ":"))
    return row


def _level(row: dict[str, Any], level: int) -> int:
    instrument = INSTRUMENTS.get(row["instrument"])
    return level if instrument is None else renumbered_level(row["exercise_type"], instrument, level)
