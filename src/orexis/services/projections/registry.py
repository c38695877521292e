"""All summaries, and what a take does to them: one place for whoever keeps, throws away, restores, imports or measures again.

Every call is made inside the transaction that writes the take. SQLite lets one writer in at a time, and everything that a summary is
made from is read inside that transaction: what another window wrote meanwhile is seen, and nothing is lost.
"""

from typing import Any, Protocol

from sqlalchemy.orm import Session

from orexis.services.projections.days import MeasureDays, PracticeDays
from orexis.services.projections.evidence import Evidence
from orexis.services.projections.kept_take import KeptTake, Owner
from orexis.services.projections.levels import Levels
from orexis.services.projections.note_days import NoteDays
from orexis.services.projections.ranges import Ranges


class Projection(Protocol):
    """A summary of takes. `version` grows whenever the same takes would give other rows."""

    name: str
    version: int
    tables: tuple[Any, ...]

    def apply(self, db: Session, take: KeptTake) -> None:
        """Count a take that is in the record from now on."""

    def retract(self, db: Session, take: KeptTake) -> None:
        """Count it no more; its row says already that it was thrown away."""

    def begin(self, db: Session, owner: Owner) -> None:
        """Forget everything of an owner, to be made again from their takes."""

    def collect(self, db: Session, take: KeptTake) -> None:
        """The next of the owner's takes, in order."""

    def finish(self, db: Session, owner: Owner) -> None:
        """Write what needs all takes: they were given."""


EVIDENCE, LEVELS = Evidence(), Levels()
# Evidence first: the others read what it writes.
PROJECTIONS: tuple[Projection, ...] = (EVIDENCE, Ranges(), PracticeDays(), MeasureDays(), NoteDays(), LEVELS)


def apply_take(db: Session, take: KeptTake) -> None:
    """Count a take in every summary; its row may still be unwritten."""
    for projection in PROJECTIONS:
        projection.apply(db, take)
        db.flush()


def retract_take(db: Session, take: KeptTake) -> None:
    """Take it out of every summary. Its row says `discarded_at` already."""
    db.flush()
    for projection in PROJECTIONS:
        projection.retract(db, take)
        db.flush()
