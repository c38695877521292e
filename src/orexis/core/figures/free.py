"""Practice without an exercise, as a series: one figure that asks for nothing."""

from orexis.core.figures.build import middle_note
from orexis.core.figures.figure import FREE_PRACTICE, Figure, FigureNote, Series
from orexis.core.horn import Instrument, ways_to_play

TITLE = "Just play"


def free_series(horn: Instrument) -> Series:
    """The series of a session without an exercise. Its one note says only which instrument is in hand."""
    pitch = middle_note(horn)
    way = ways_to_play(horn, pitch)[0]
    note = FigureNote("n1", pitch, 0.0, 1.0, way.tube, way.partial, free=True)
    figure = Figure(
        id=f"{FREE_PRACTICE}-{horn.id}",
        family=FREE_PRACTICE,
        horn=horn.id,
        title=TITLE,
        tempo_bpm=60.0,
        beats_per_bar=4,
        notes=(note,),
        judged=(),
        click=False,
    )
    return Series(FREE_PRACTICE, horn.id, TITLE, (figure,))
