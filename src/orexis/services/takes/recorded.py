"""Takes in the record: read, thrown away and brought back, forgotten, remarked on."""

from sqlalchemy import select

from orexis.core.practice import SessionState
from orexis.services.clock import now
from orexis.services.documents import from_json
from orexis.services.projections.kept_take import load_take
from orexis.services.projections.registry import apply_take, retract_take
from orexis.services.projections.sessions import with_thrown_away
from orexis.services.record import Record, require_row
from orexis.services.rows.takes import take_of
from orexis.services.sessions.use import Sessions, written
from orexis.services.takes.trash import forget_takes, sound_gone
from orexis.services.values.takes import Take
from orexis.store.models import AnalysisRow, SessionRow, TakeRow


class RecordedTakes:
    """Takes that were judged and kept."""

    def __init__(self, record: Record, sessions: Sessions) -> None:
        self._record, self._sessions = record, sessions

    def kept(self, take_id: str) -> bool:
        """Whether the take is in the record."""
        with self._record.database.reading() as db:
            return db.scalar(select(TakeRow.id).where(TakeRow.id == take_id)) is not None

    def get(self, take_id: str) -> Take:
        """One take, discarded or not; MissingError when there is none by that id."""
        with self._record.database.reading() as db:
            row = require_row(db, TakeRow, take_id, "take")
            query = select(AnalysisRow).where(AnalysisRow.take_id == take_id).order_by(AnalysisRow.version)
            analyses = db.scalars(query).all()
            return take_of(row, analyses[0], analyses[-1])

    def of_session(self, session_id: str) -> tuple[str, ...]:
        """The takes of a session that count, in order, by id."""
        row = TakeRow
        query = select(row.id).where(row.session_id == session_id, row.discarded_at.is_(None)).order_by(row.number)
        with self._record.database.reading() as db:
            return tuple(db.scalars(query))

    def discard(self, take_id: str, *, discarded: bool) -> Take:
        """Throw a take away, or bring it back. One that is thrown away proves nothing any more."""
        with self._sessions.lock(self.get(take_id).session_id):
            self._set_discarded(take_id, discarded=discarded)
        return self.get(take_id)

    def _set_discarded(self, take_id: str, *, discarded: bool) -> None:
        """Everything is read inside the transaction that writes it: what another window did meanwhile is seen."""
        with self._record.database.writing() as db:
            row = require_row(db, TakeRow, take_id, "take")
            if (row.discarded_at is not None) == discarded:
                return
            take = load_take(db, row)
            row.discarded_at = now() if discarded else None
            (retract_take if discarded else apply_take)(db, take)
            before = from_json(SessionState, require_row(db, SessionRow, row.session_id, "session").state)
            thrown = {*before.thrown_away, take_id} if discarded else {*before.thrown_away} - {take_id}
            written(row.session_id, before, with_thrown_away(before, thrown))(db)

    def forget(self, take_id: str) -> None:
        """A take with its sound, for good: it is taken out of all that it proved first."""
        self.discard(take_id, discarded=True)
        forget_takes(self._record, (take_id,))

    def forget_sound(self, take_id: str) -> Take:
        """Its sound only; measures and words stay."""
        take = self.get(take_id)
        sound_gone(self._record, (take.id,))
        return take

    def remark(self, take_id: str, text: str) -> Take:
        """The player's own words on a take."""
        with self._record.database.writing() as db:
            require_row(db, TakeRow, take_id, "take").remark = text
        return self.get(take_id)
