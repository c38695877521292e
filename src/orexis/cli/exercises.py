"""`orexis figure`: exercise types listed, exercises in every form."""

import dataclasses
from collections.abc import Sequence
from typing import Any

from orexis.core.earlier_names import TERMS
from orexis.core.exercises import exercise_type_named, exercise_types_for
from orexis.core.instruments import instrument_named
from orexis.core.messages import tell
from orexis.errors import ExerciseError
from orexis.files.exercise_files import exported


def exercise_types_json(instrument_id: str) -> dict[str, Any]:
    """Return the exercise types that an instrument can play, with their parameters, as JSON values."""
    instrument = instrument_named(instrument_id)
    types = [
        {
            "id": f.id,
            "name": f.name,
            "place": f.place,
            "purpose": f.purpose,
            "load": f.load,
            "serves": list(f.serves),
            "judged": list(f.judged),
            "params": [dataclasses.asdict(p) for p in f.specs(instrument)],
        }
        for f in exercise_types_for(instrument)
    ]
    # The last two as the first release called them.
    return {
        "schema": 1,
        "instrument": instrument.id,
        "exercise_types": types,
        "horn": instrument.id,
        "families": types,
    }


def exercise_bytes(
    exercise_type: str, instrument_id: str, params: Sequence[str], index: int, part_id: str | None, form: str
) -> bytes:
    """One exercise of the series in the form asked for."""
    instrument = instrument_named(instrument_id)
    given = dict(_pair(text) for text in params)
    exercises = exercise_type_named(exercise_type).series(instrument, given).exercises
    if not 0 <= index < len(exercises):
        raise ExerciseError(
            tell("The series has {count} exercises: choose 0 to {last}.", count=len(exercises), last=len(exercises) - 1)
        )
    exercise, part = exercises[index], instrument.part(part_id)
    if form == "json":
        return exported(exercise, instrument, part, form)[0] + b"\n"
    if form == "svg":
        from orexis.files.engraving import exercise_to_svg

        return exercise_to_svg(exercise, instrument, part).encode()
    return exported(exercise, instrument, part, form, also=("svg",))[0]


def _pair(text: str) -> tuple[str, str]:
    key, sign, value = text.partition("=")
    if not sign:
        raise ExerciseError(tell("“{text}” is no parameter: write key=value.", text=text[:40]))
    return TERMS.get(key, key), value
