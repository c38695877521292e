"""Figures engraved as SVG. Only XML that we wrote ourselves is ever given to the engraver."""

import threading
from functools import lru_cache
from pathlib import Path

import verovio

from orexis.core.figures import Figure
from orexis.core.horn import Instrument, Part
from orexis.errors import FigureError
from orexis.files.musicxml import figure_to_musicxml

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
    "lyricWordSpace": 2.0,
    "lyricSize": 5.5,
    "pageMarginLeft": 40,
    "pageMarginRight": 40,
    "pageMarginTop": 60,
    "pageMarginBottom": 60,
    "spacingLinear": 0.22,
    "spacingStaff": 8,
}
_local = threading.local()


def _toolkit() -> verovio.toolkit:
    """One engraver per thread."""
    if not hasattr(_local, "toolkit"):
        verovio.enableLog(verovio.LOG_OFF)
        verovio.setDefaultResourcePath(str(Path(verovio.__file__).parent / "data"))
        _local.toolkit = verovio.toolkit()
        _local.toolkit.setOptions(_OPTIONS)
    return _local.toolkit


@lru_cache(maxsize=256)
def figure_to_svg(figure: Figure, horn: Instrument, part: Part) -> str:
    """SVG in the current colour; every note carries its id as data-id."""
    toolkit = _toolkit()
    if not toolkit.loadData(figure_to_musicxml(figure, horn, part, bare=True).decode()):
        raise FigureError("The figure could not be engraved.")
    return str(toolkit.renderToSVG(1))
