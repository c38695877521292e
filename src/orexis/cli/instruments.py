"""`orexis horn`: the documented JSON."""

from typing import Any

from orexis.core.instruments import Way, instrument_named, ways_to_play
from orexis.core.theory import parse_pitch


def instrument_json(instrument_id: str) -> dict[str, Any]:
    """Return an instrument as JSON values: parts, mechanism, range."""
    instrument = instrument_named(instrument_id)
    return {
        "schema": 1,
        "instrument": instrument.id,
        "name": instrument.name,
        "fundamentals": {side.name or "open": side.fundamental.name for side in instrument.sides},
        "parts": [{"id": p.id, "clef": p.clef, "written": p.transposition.semitones} for p in instrument.parts],
        "lowest": instrument.lowest.name,
        "highest": instrument.highest.name,
    }


def note_json(instrument_id: str, note: str, *, written: bool, a4: float) -> dict[str, Any]:
    """The ways to play a note, concert unless `written`."""
    instrument = instrument_named(instrument_id)
    transposition = instrument.parts[0].transposition
    pitch = transposition.concert(parse_pitch(note)) if written else parse_pitch(note)
    ways = ways_to_play(instrument, pitch, a4=a4)
    return {
        "schema": 1,
        "instrument": instrument.id,
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
