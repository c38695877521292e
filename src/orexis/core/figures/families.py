"""All families in the order of the day."""

from orexis.core.figures.family import Family
from orexis.core.figures.long_low_tones import LONG_LOW_TONES
from orexis.core.figures.two_partial_slur import TWO_PARTIAL_SLUR
from orexis.errors import FigureError

FAMILIES: dict[str, Family] = {family.id: family for family in (LONG_LOW_TONES, TWO_PARTIAL_SLUR)}


def family_named(family_id: str) -> Family:
    """The family by id; FigureError names those there are."""
    try:
        return FAMILIES[family_id]
    except KeyError:
        raise FigureError(f"There is no family “{family_id[:40]}”: choose one of {', '.join(FAMILIES)}.") from None
