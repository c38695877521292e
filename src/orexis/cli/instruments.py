"""`orexis horn`: an instrument, or the fingerings of a note on it."""

from typing import Any

from orexis.core.instruments import FingeringOption, fingering_options, instrument_named
from orexis.core.theory import parse_pitch


def instrument_json(instrument_id: str) -> dict[str, Any]:
    """Return an instrument as JSON values: parts, mechanism, range."""
    instrument = instrument_named(instrument_id)
    return {
        "schema": 1,
        "instrument": instrument.id,
        "horn": instrument.id,  # as the first release called it
        "name": instrument.name,
        "fundamentals": {side.name or "open": side.fundamental.name for side in instrument.sides},
        "parts": [{"id": p.id, "clef": p.clef, "written": p.transposition.semitones} for p in instrument.parts],
        "lowest": instrument.lowest.name,
        "highest": instrument.highest.name,
    }


def note_json(instrument_id: str, note: str, *, written: bool, a4: float) -> dict[str, Any]:
    """Return the fingerings of a note as JSON values; the note is concert unless `written`."""
    instrument = instrument_named(instrument_id)
    transposition = instrument.parts[0].transposition
    pitch = transposition.concert(parse_pitch(note)) if written else parse_pitch(note)
    fingerings = [_option(option) for option in fingering_options(instrument, pitch, a4=a4)]
    return {
        "schema": 1,
        "instrument": instrument.id,
        "horn": instrument.id,  # as the first release called it
        "note": pitch.name,
        "written": transposition.written(pitch).name,
        "fingerings": fingerings,
        "ways": fingerings,  # as the first release called them
    }


def _option(option: FingeringOption) -> dict[str, Any]:
    return {
        "partial": option.partial,
        "valves": list(option.fingering.valves),
        "position": option.fingering.position,
        "side": option.fingering.side,
        "cents": round(option.cents, 2),
        "slide_mm": None if option.slide_mm is None else round(option.slide_mm, 1),
        "slide": option.slide,
        "reachable": option.reachable,
        "glide_up": option.glide_up,
        "rank": option.rank,
    }
