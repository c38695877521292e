"""Lines of the core, which speak in concert pitch, as a player reads them."""

import re

from orexis.core.instruments import Part
from orexis.core.theory import parse_pitch

_CONCERT = re.compile(r"\b([A-G][#b]?-?\d)(?: \(concert\))?(?![\w.])")


def in_written(text: str, part: Part) -> str:
    """A line whose concert notes stand as this part writes them."""
    return _CONCERT.sub(lambda found: part.transposition.written(parse_pitch(found.group(1))).name, text)
