"""Exercises read from JSON, and checked."""

from dataclasses import replace
from functools import cache

from pydantic import TypeAdapter, ValidationError

from orexis.core.earlier_names import with_names_of_today
from orexis.core.exercises import Exercise, checked_exercise
from orexis.core.instruments import instrument_named
from orexis.core.messages import tell
from orexis.errors import ExerciseError, PitchError
from orexis.files.strict_json import strict_json

MAX_JSON_BYTES = 1_000_000  # ten times the longest exercise
_SCHEMA = 3  # 1 and 2 had other names: see core/earlier_names.py


def exercise_from_json(data: bytes | str) -> Exercise:
    """Read and check an exercise; ExerciseError says what is wrong with it."""
    if len(data) > MAX_JSON_BYTES:
        raise ExerciseError("The exercise file is larger than 1 MB: an exercise is one take's worth of notes.")
    try:
        exercise = checked_exercise(_form().validate_python(with_names_of_today(strict_json(data))))
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"]) or "the file"
        raise ExerciseError(
            tell("This is no exercise: {place}: {first}.", place=place, first=first["msg"].lower())
        ) from error
    except PitchError as error:
        raise ExerciseError(tell("This is no exercise: {error}", error=error)) from error
    except (ValueError, RecursionError) as error:
        raise ExerciseError(tell("This is no exercise: it is no JSON ({error}).", error=str(error)[:80])) from error
    if not 1 <= exercise.schema <= _SCHEMA:
        raise ExerciseError(
            tell(
                "The exercise has form {schema}: this release reads forms 1 to {schema2}.",
                schema=exercise.schema,
                schema2=_SCHEMA,
            )
        )
    instrument_named(exercise.instrument)
    return replace(exercise, schema=_SCHEMA)


@cache
def _form() -> TypeAdapter[Exercise]:
    """What an exercise is read by; built when the first is read, a tenth of a second."""
    return TypeAdapter(Exercise)
