"""Exercises engraved as SVG. Only XML that we wrote ourselves is ever given to the engraver."""

from concurrent.futures import ThreadPoolExecutor
from functools import lru_cache
from pathlib import Path

import verovio

from orexis.core.exercises import Accompanied, Exercise
from orexis.core.instruments import Instrument, Part
from orexis.errors import ExerciseError
from orexis.files.musicxml import exercise_to_musicxml

_OPTIONS: dict[str, object] = {
    "pageWidth": 2100,
    "pageHeight": 60000,
    "scale": 40,
    "adjustPageHeight": True,
    "adjustPageWidth": True,
    "header": "none",
    "footer": "none",
    "svgViewBox": True,
    "svgHtml5": True,
    "svgRemoveXlink": True,
    "smuflTextFont": "none",
    "xmlIdChecksum": True,
    "xmlIdSeed": 1,
    "lyricWordSpace": 4.5,
    "lyricSize": 5.0,
    "measureMinWidth": 24,
    "pageMarginLeft": 40,
    "pageMarginRight": 40,
    "pageMarginTop": 60,
    "pageMarginBottom": 60,
    "spacingLinear": 0.22,
    "spacingStaff": 8,
}
_ONE_LINE = 9  # bars
# The engraver needs two seconds to load its fonts and serves one thread: it has one of its own, warm from the start.
_worker = ThreadPoolExecutor(max_workers=1, thread_name_prefix="engraver")
_own: list[verovio.toolkit] = []


def warm() -> None:
    """Let the engraver load its fonts in the background."""
    _worker.submit(_toolkit)


def _toolkit() -> verovio.toolkit:
    """The engraver; only ever called in its own thread."""
    if not _own:
        verovio.enableLog(verovio.LOG_OFF)
        verovio.setDefaultResourcePath(str(Path(verovio.__file__).parent / "data"))
        _own.append(verovio.toolkit())
        _own[0].setOptions(_OPTIONS)
    return _own[0]


@lru_cache(maxsize=512)
def exercise_to_svg(exercise: Exercise, instrument: Instrument, part: Part) -> str:
    """SVG in the current colour; every note carries its id as data-id."""
    xml = exercise_to_musicxml(exercise, instrument, part, bare=True).decode()
    two_staves = exercise.accompaniment is not None and exercise.accompaniment.kind == Accompanied.SECOND_PART
    if two_staves and exercise.beats <= _ONE_LINE * exercise.beats_per_bar:
        breaks = "none"  # one line of two staves is read from further away than two of them
    else:
        breaks = "encoded" if any(note.new_line for note in exercise.notes) else "auto"
    return _worker.submit(_engraved, xml, breaks).result()


def _engraved(xml: str, breaks: str) -> str:
    toolkit = _toolkit()
    toolkit.setOptions({"breaks": breaks})
    if not toolkit.loadData(xml):
        raise ExerciseError("The exercise could not be engraved.")
    return str(toolkit.renderToSVG(1))
