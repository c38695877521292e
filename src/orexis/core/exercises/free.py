"""Practice without an exercise, as a series: one exercise that asks for nothing."""

from orexis.core.exercises.build import middle_note
from orexis.core.exercises.exercise import FREE_PRACTICE, Exercise, ExerciseNote, Series
from orexis.core.instruments import Instrument, fingering_options

TITLE = "Just play"


def free_series(instrument: Instrument) -> Series:
    """The series of a session without an exercise. Its one note says only which instrument is in hand."""
    pitch = middle_note(instrument)
    option = fingering_options(instrument, pitch)[0]
    note = ExerciseNote("n1", pitch, 0.0, 1.0, option.fingering, option.partial, free=True)
    exercise = Exercise(
        id=f"{FREE_PRACTICE}-{instrument.id}",
        exercise_type=FREE_PRACTICE,
        instrument=instrument.id,
        title=TITLE,
        tempo_bpm=60.0,
        beats_per_bar=4,
        notes=(note,),
        judged=(),
        click=False,
    )
    return Series(FREE_PRACTICE, instrument.id, TITLE, (exercise,))
