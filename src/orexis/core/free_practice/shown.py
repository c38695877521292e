"""Notes that were heard, as an exercise: what the picture of a part is drawn over."""

from orexis.core.exercises import FREE_PRACTICE, Exercise, ExerciseNote, free_series
from orexis.core.instruments import FingeringOption, Instrument, fingering_options
from orexis.core.measures import Measures
from orexis.core.theory import nearest_pitch
from orexis.errors import InstrumentError

_SHORTEST_S = 0.1  # a shorter mark is narrower than its outline
_MOST = 400  # as many marks as can be told apart across a screen


def exercise_as_heard(measures: Measures, instrument: Instrument, *, a4: float) -> Exercise:
    """The heard notes in their usual fingering, a second to a beat, from the start of the sound and without a count-in's wait.

    Notes that the instrument cannot play, and those shorter than a tenth of a second, are left out. Without any, the exercise is the
    one that asks for nothing.
    """
    notes: list[ExerciseNote] = []
    end = 0.0
    for row in measures.notes[:_MOST]:
        if row.f0_hz is None or row.onset_s is None or row.release_s is None:
            continue
        start, stop = max(row.onset_s, end), row.release_s
        option = _option(instrument, row.f0_hz, a4)
        if option is None or stop - start < _SHORTEST_S:
            continue
        pitch = nearest_pitch(row.f0_hz, a4=a4)
        notes.append(
            ExerciseNote(row.sounded or f"h{row.index}", pitch, start, stop - start, option.fingering, option.partial)
        )
        end = stop
    blank = free_series(instrument).exercises[0]
    if not notes:
        return blank
    return Exercise(
        id=blank.id,
        exercise_type=FREE_PRACTICE,
        instrument=instrument.id,
        title=blank.title,
        tempo_bpm=60.0,
        beats_per_bar=4,
        notes=tuple(notes),
        judged=(),
        click=False,
    )


def _option(instrument: Instrument, hz: float, a4: float) -> FingeringOption | None:
    try:
        return fingering_options(instrument, nearest_pitch(hz, a4=a4), a4=a4)[0]
    except InstrumentError:
        return None
