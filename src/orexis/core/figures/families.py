"""All families in the order of the day."""

from orexis.core.figures.bending import BENDING
from orexis.core.figures.buzzing import BUZZING
from orexis.core.figures.family import PLACES, Family
from orexis.core.figures.intervals import INTERVALS
from orexis.core.figures.kinds import AimKind, Role
from orexis.core.figures.ladders import LADDERS
from orexis.core.figures.pedals import PEDALS
from orexis.core.figures.scales import SCALES
from orexis.core.figures.slurring import SLURRING
from orexis.core.figures.stairs import STAIRS
from orexis.core.figures.tones import CENTRING, CHECK, TONES
from orexis.core.figures.tunes import BUZZ_A_TUNE, TUNE
from orexis.core.horn import Instrument
from orexis.errors import FigureError

_ALL = (
    *BUZZING,
    BUZZ_A_TUNE,
    *TONES,
    *SLURRING,
    *CENTRING,
    INTERVALS,
    *BENDING,
    *LADDERS,
    *SCALES,
    *STAIRS,
    *PEDALS,
    TUNE,
    *CHECK,
)

# Sorted by place in the day; within a place in the order above.

FAMILIES: dict[str, Family] = {
    family.id: family for family in sorted(_ALL, key=lambda family: PLACES.index(family.place))
}


RECOVERY: Family = next(family for family in FAMILIES.values() if family.recovers)
IN_SETS: Family = next(family for family in FAMILIES.values() if family.counted_in_sets)
_BY_ROLE: dict[Role, Family] = {family.role: family for family in FAMILIES.values() if family.role is not None}
_TOWARDS: dict[AimKind, Family] = {kind: family for family in FAMILIES.values() for kind in family.leads_to}


def family_in_role(role: Role) -> Family:
    """The one that the rules of the day call for by this role."""
    return _BY_ROLE[role]


def family_towards(kind: AimKind) -> Family:
    """The one that leads to a goal of this kind."""
    return _TOWARDS[kind]


def family_named(family_id: str) -> Family:
    """The family by id; FigureError names those there are."""
    try:
        return FAMILIES[family_id]
    except KeyError:
        raise FigureError(f"There is no exercise “{family_id[:40]}”: choose one of {', '.join(FAMILIES)}.") from None


def families_for(horn: Instrument) -> tuple[Family, ...]:
    """Those that suit the horn, in the order of the day."""
    return tuple(family for family in FAMILIES.values() if family.suits(horn))
