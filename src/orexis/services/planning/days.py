"""Where a player stands on the levels of each exercise today, from what the projections keep."""

from collections.abc import Iterable
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.coach import Standard
from orexis.core.instruments import Instrument
from orexis.core.planning import ByHand, ExerciseTypeDay, follow_days, with_set_by_hand
from orexis.core.planning.levels import PathOn
from orexis.core.progress import Path, PathPosition, path_of
from orexis.services.documents import from_json
from orexis.services.projections.kept_take import Owner
from orexis.store.models import PathPlaceRow


@dataclass(frozen=True, slots=True)
class PlayerOnInstrument:
    """A player with an instrument, as they have both now: whose days and standings these are."""

    player_id: str
    instrument: Instrument
    standard: Standard

    @property
    def owner(self) -> Owner:
        """The player and instrument as the record knows them."""
        return Owner(self.player_id, self.instrument.id)


def standings(
    db: Session, whose: PlayerOnInstrument, days: Iterable[ExerciseTypeDay], *, before: int
) -> dict[str, PathPosition]:
    """Where the player stands on each path: as kept, with the given days that are over, and what was set by hand since."""
    query = select(PathPlaceRow.exercise_type, PathPlaceRow.standing, PathPlaceRow.by_hand).filter_by(**whose.owner.key)
    rows = db.execute(query).all()
    known = {exercise_type: from_json(PathPosition, text) for exercise_type, text, _ in rows if text}
    by_hand = {exercise_type: from_json(ByHand, text) for exercise_type, _, text in rows}
    fresh: dict[str, list[ExerciseTypeDay]] = {}
    for day in days:
        if day.day < before:
            fresh.setdefault(day.exercise_type, []).append(day)
    out: dict[str, PathPosition] = {}
    for exercise_type in sorted({*known, *fresh, *by_hand}):
        path = path_of(exercise_type, whose.instrument)
        if path is None:
            continue
        own = by_hand.get(exercise_type, ())
        standing = follow_days(
            known.get(exercise_type), _always(path, whose.standard), fresh.get(exercise_type, ()), own
        )
        standing = with_set_by_hand(standing, path, whose.standard, own)
        if standing is not None:
            out[exercise_type] = standing
    return out


def _always(path: Path, standard: Standard) -> PathOn:
    return lambda _: (path, standard)
