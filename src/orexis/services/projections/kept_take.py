"""A take of the record with all that the summaries are made from, loaded once and with its own terms."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import datetime
from functools import lru_cache
from typing import Any

from sqlalchemy import ColumnElement, and_, or_, select
from sqlalchemy.orm import Session

from orexis.core.coach import Standard, Verdict
from orexis.core.exercises import Exercise
from orexis.core.measures import Measures
from orexis.services.documents import from_json
from orexis.services.judging.judge import Judgement, judgement_of
from orexis.services.values.players import Terms
from orexis.store.models import AnalysisRow, SessionRow, TakeRow

ORDER = (TakeRow.day, TakeRow.started_at, TakeRow.number, TakeRow.id)  # in which takes count, always


@dataclass(frozen=True, slots=True)
class Owner:
    """A player with one of their instruments: summaries are kept for each apart."""

    player_id: str
    instrument: str

    @property
    def key(self) -> dict[str, str]:
        """Return the owner as values of the columns that every summary has."""
        return {"player_id": self.player_id, "instrument": self.instrument}


@dataclass(frozen=True, slots=True)
class KeptTake:
    """A take in the record. `judgement`: what its newest analysis proves, by the terms of its own session."""

    row: TakeRow
    exercise: Exercise
    measures: Measures
    judgement: Judgement
    terms: Terms
    session_started_at: datetime

    @property
    def owner(self) -> Owner:
        """The player and instrument in whose summaries it counts."""
        return Owner(self.row.player_id, self.row.instrument)


def load_take(db: Session, row: TakeRow) -> KeptTake:
    """The take of a row. Its newest analysis counts; what was said at the time stays in its columns."""
    newest = (
        select(AnalysisRow.measures, AnalysisRow.verdict)
        .where(AnalysisRow.take_id == row.id)
        .order_by(AnalysisRow.version.desc())
        .limit(1)
    )
    measures_text, verdict_text = db.execute(newest).one()
    session = db.execute(select(SessionRow.terms, SessionRow.started_at).where(SessionRow.id == row.session_id)).one()
    exercise, measures = from_json(Exercise, row.exercise), from_json(Measures, measures_text)
    verdict = from_json(Verdict, verdict_text)
    terms = terms_of_take(row, session.terms)
    judgement = judgement_of(row.id, row.day, exercise, terms, measures, verdict)
    return KeptTake(row, exercise, measures, judgement, terms, session.started_at)


def terms_of_take(row: Any, session_terms: str) -> Terms:
    """The terms of its session; what the take itself (a row, or columns of it) remembers goes before them."""
    return replace(
        terms_from(session_terms),
        instrument=row.instrument,
        part=row.part,
        a4_hz=row.a4_hz,
        standard=Standard(row.standard),
    )


@lru_cache(maxsize=256)
def terms_from(text: str) -> Terms:
    """Terms of a session; many sessions share theirs."""
    return from_json(Terms, text)


def takes_that_count(owner: Owner) -> tuple[ColumnElement[bool], ...]:
    """Of an owner, without those that were thrown away."""
    return TakeRow.player_id == owner.player_id, TakeRow.instrument == owner.instrument, TakeRow.discarded_at.is_(None)


def kept_takes(db: Session, owner: Owner, *where: ColumnElement[bool]) -> Iterator[KeptTake]:
    """All takes of an owner that count, in their order, one at a time in memory."""
    keys = db.scalars(select(TakeRow.id).where(*takes_that_count(owner), *where).order_by(*ORDER)).all()
    in_use = {row.id for row in db.identity_map.values() if isinstance(row, TakeRow)}
    for key in keys:
        row = db.get_one(TakeRow, key)
        yield load_take(db, row)
        db.flush()
        if key not in in_use:
            db.expunge(row)


def is_later(row: TakeRow) -> ColumnElement[bool]:
    """Whether another take counts after this one."""
    other = TakeRow
    by_number = or_(other.number > row.number, and_(other.number == row.number, other.id > row.id))
    by_time = or_(other.started_at > row.started_at, and_(other.started_at == row.started_at, by_number))
    return or_(other.day > row.day, and_(other.day == row.day, by_time))
