"""Where a player stands on the levels of each exercise today, from what the projections keep."""

from collections.abc import Iterable
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.coach import Standard
from orexis.core.horn import Instrument
from orexis.core.planning import ByHand, FamilyDay, follow_days, with_set_by_hand
from orexis.core.planning.levels import PathOn
from orexis.core.progress import Path, PathPosition, path_of
from orexis.services.documents import from_json
from orexis.services.projections.kept_take import Owner
from orexis.store.models import PathPlaceRow


@dataclass(frozen=True, slots=True)
class Whose:
    """A player with a horn, as they have both now: whose days and standings these are."""

    player_id: str
    horn: Instrument
    standard: Standard

    @property
    def owner(self) -> Owner:
        """The player and instrument as the record knows them."""
        return Owner(self.player_id, self.horn.id)


def standings(db: Session, whose: Whose, days: Iterable[FamilyDay], *, before: int) -> dict[str, PathPosition]:
    """Where the player stands on each path: as kept, with the given days that are over, and what was set by hand since."""
    query = select(PathPlaceRow.family, PathPlaceRow.standing, PathPlaceRow.by_hand).filter_by(**whose.owner.key)
    rows = db.execute(query).all()
    known = {family: from_json(PathPosition, text) for family, text, _ in rows if text}
    by_hand = {family: from_json(ByHand, text) for family, _, text in rows}
    fresh: dict[str, list[FamilyDay]] = {}
    for day in days:
        if day.day < before:
            fresh.setdefault(day.family, []).append(day)
    out: dict[str, PathPosition] = {}
    for family in sorted({*known, *fresh, *by_hand}):
        path = path_of(family, whose.horn)
        if path is None:
            continue
        own = by_hand.get(family, ())
        standing = follow_days(known.get(family), _always(path, whose.standard), fresh.get(family, ()), own)
        standing = with_set_by_hand(standing, path, whose.standard, own)
        if standing is not None:
            out[family] = standing
    return out


def _always(path: Path, standard: Standard) -> PathOn:
    return lambda _: (path, standard)
