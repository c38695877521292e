"""Two-partial slur: two neighbouring partials, down then up, on every tube length in turn."""

from orexis.core.figures.build import slot_note
from orexis.core.figures.family import Family
from orexis.core.figures.figure import Figure, Series
from orexis.core.figures.params import Param, Values
from orexis.core.horn import Instrument, Tube, seven_tubes
from orexis.errors import FigureError

_JUDGED = ("centre", "gap", "caught", "entry", "timing")
_LENGTHS = (2.0, 2.0, 4.0)  # upper, lower, upper and stay


def _params(horn: Instrument) -> tuple[Param, ...]:
    return (
        Param("partial", "Lower partial", "int", str(horn.slur_partial), 1, horn.top_partial - 1),
        Param("tube", "Tube (all: the seven in turn)", "tube", "all"),
        Param("tempo", "Beats a minute", "int", "72", 40, 160),
    )


def _make(horn: Instrument, values: Values) -> Series:
    partial, chosen = values.integer("partial"), values.tube("tube")
    if partial + 1 > horn.top_partial:
        raise FigureError(f"Partial {partial + 1} is above the {horn.name}'s top, {horn.top_partial}.")
    tubes = seven_tubes(horn) if chosen is None else (chosen,)
    tempo = values.integer("tempo")
    figures = tuple(_figure(horn, tube, partial, tempo) for tube in tubes)
    return Series("two-partial-slur", horn.id, "Two-partial slurs", figures)


def _figure(horn: Instrument, tube: Tube, low: int, tempo: int) -> Figure:
    partials, starts = (low + 1, low, low + 1), (0.0, 2.0, 4.0)
    notes = tuple(
        slot_note(horn, i, tube, partial, start_beat=starts[i], beats=_LENGTHS[i], slurred=i > 0)
        for i, partial in enumerate(partials)
    )
    return Figure(
        id=f"two-partial-slur-{low}-{low + 1}-{tube.label.replace(' ', '')}",
        family="two-partial-slur",
        horn=horn.id,
        title=f"Slur, partials {low + 1} and {low}",
        tempo_bpm=float(tempo),
        beats_per_bar=4,
        notes=notes,
        judged=_JUDGED,
    )


TWO_PARTIAL_SLUR = Family(
    id="two-partial-slur",
    name="Two-partial slurs",
    purpose="Move between neighbouring slots on the breath alone.",
    asks="One gesture, nothing heard between, no push.",
    load="easy",
    params=_params,
    make=_make,
)
