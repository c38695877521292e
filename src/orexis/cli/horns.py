"""`orexis horn`: the documented JSON."""

from typing import Any

from orexis.core.horn import Way, horn_named, ways_to_play
from orexis.core.theory import parse_pitch


def horn_json(horn_id: str) -> dict[str, Any]:
    """Return an instrument as JSON values: parts, mechanism, range."""
    horn = horn_named(horn_id)
    return {
        "schema": 1,
        "horn": horn.id,
        "name": horn.name,
        "fundamentals": {side.name or "open": side.fundamental.name for side in horn.sides},
        "parts": [{"id": p.id, "clef": p.clef, "written": p.transposition.semitones} for p in horn.parts],
        "lowest": horn.lowest.name,
        "highest": horn.highest.name,
    }


def note_json(horn_id: str, note: str, *, written: bool, a4: float) -> dict[str, Any]:
    """The ways to play a note, concert unless `written`."""
    horn = horn_named(horn_id)
    transposition = horn.parts[0].transposition
    pitch = transposition.concert(parse_pitch(note)) if written else parse_pitch(note)
    ways = ways_to_play(horn, pitch, a4=a4)
    return {
        "schema": 1,
        "horn": horn.id,
        "note": pitch.name,
        "written": transposition.written(pitch).name,
        "ways": [_way(way) for way in ways],
    }


def _way(way: Way) -> dict[str, Any]:
    return {
        "partial": way.partial,
        "valves": list(way.tube.valves),
        "position": way.tube.position,
        "side": way.tube.side,
        "cents": round(way.cents, 2),
        "slide_mm": None if way.slide_mm is None else round(way.slide_mm, 1),
        "slide": way.slide,
        "reachable": way.reachable,
        "glide_up": way.glide_up,
        "rank": way.rank,
    }
