"""An exercise as a file for elsewhere, by the name of its format; each writer is loaded when it is asked for."""

from orexis.core.exercises import Exercise
from orexis.core.instruments import Instrument, Part
from orexis.core.messages import tell
from orexis.errors import ExerciseError

FORMATS = {
    "json": ("application/json", "json"),
    "musicxml": ("application/vnd.recordare.musicxml+xml", "musicxml"),
    "midi": ("audio/midi", "mid"),
}


def exported(
    exercise: Exercise, instrument: Instrument, part: Part, form: str, *, also: tuple[str, ...] = ()
) -> tuple[bytes, str, str]:
    """An exercise as a file: its bytes, media type and ending; ExerciseError where there is no such format.

    `also` are formats that the caller writes itself, named in the error.
    """
    if form not in FORMATS:
        raise ExerciseError(
            tell("There is no format “{form}”: choose {formats}.", form=form[:20], formats=", ".join((*FORMATS, *also)))
        )
    return _written(exercise, instrument, part, form), *FORMATS[form]


def _written(exercise: Exercise, instrument: Instrument, part: Part, form: str) -> bytes:
    if form == "musicxml":
        from orexis.files.musicxml import exercise_to_musicxml

        return exercise_to_musicxml(exercise, instrument, part)
    if form == "midi":
        from orexis.files.midi import exercise_to_midi

        return exercise_to_midi(exercise)
    from orexis.files.exercise_json import exercise_to_json

    return exercise_to_json(exercise)
