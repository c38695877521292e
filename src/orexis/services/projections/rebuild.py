"""Summaries made again from the takes: when a release makes them by other rules, after an import, when they are to be mended.

The version of each summary is kept in the record. Verdicts are not touched: what was said stays said.
"""

import sys
from collections.abc import Callable, Iterable

from sqlalchemy import delete, func, select, update
from sqlalchemy.orm import Session, aliased

from orexis.core.coach import Outcome
from orexis.core.exercises import FREE_PRACTICE
from orexis.core.planning import TakeFact
from orexis.core.practice import SessionState, usual_spent_s
from orexis.services.clock import local_day, utc
from orexis.services.documents import from_json, to_json
from orexis.services.projections.evidence import fill_columns
from orexis.services.projections.kept_take import Owner, kept_takes, load_take, takes_that_count
from orexis.services.projections.registry import EVIDENCE, PROJECTIONS, Projection
from orexis.services.projections.sessions import rebuild_sessions
from orexis.services.record import Record
from orexis.store.models import AnalysisRow, ProjectionRow, SessionRow, TakeRow

Report = Callable[[str], None]
_SESSIONS, _SESSIONS_VERSION = "sessions", 11
VERSIONS: dict[str, int] = {item.name: item.version for item in PROJECTIONS} | {_SESSIONS: _SESSIONS_VERSION}
_TOLD_EVERY = 500  # takes between two lines of progress


def bring_up_to_date(record: Record) -> None:
    """Make again what an earlier release made by other rules: all or nothing, and quick when there is nothing to do."""
    with record.database.reading() as db:
        known = known_versions(db)
    stale = [item for item in PROJECTIONS if known.get(item.name) != item.version]
    if not stale and known == VERSIONS:
        return
    with record.database.writing() as db:
        rebuild(db, only=PROJECTIONS if EVIDENCE in stale else stale, report=_to_stderr)
        if known.get(_SESSIONS) != _SESSIONS_VERSION:
            rebuild_sessions(db)
        keep_versions(db)


def known_versions(db: Session) -> dict[str, int]:
    """By which versions the summaries of this record were made."""
    return {row.name: row.version for row in db.scalars(select(ProjectionRow))}


def keep_versions(db: Session) -> None:
    """From now on they are of this release's."""
    db.execute(delete(ProjectionRow))
    db.add_all(ProjectionRow(name=name, version=version) for name, version in VERSIONS.items())


def rebuild(
    db: Session,
    *,
    only: Iterable[Projection] = PROJECTIONS,
    player_ids: frozenset[str] | None = None,
    report: Report = lambda said: None,
) -> None:
    """Make summaries again from the takes, each loaded once. Of some players only where `player_ids` names them."""
    chosen = tuple(only)
    _complete(db)
    add_missing_facts(db)
    for owner in _owners(db, chosen, player_ids):
        _rebuild_owner(db, owner, chosen, report)


def _owners(db: Session, chosen: tuple[Projection, ...], player_ids: frozenset[str] | None) -> list[Owner]:
    """Who has takes, and who still has rows without any."""
    tables = (TakeRow, *(table for projection in chosen for table in projection.tables))
    owners = {
        Owner(*key) for table in tables for key in db.execute(select(table.player_id, table.instrument).distinct())
    }
    return sorted(
        (owner for owner in owners if player_ids is None or owner.player_id in player_ids),
        key=lambda owner: (owner.player_id, owner.instrument),
    )


def _complete(db: Session) -> None:
    """Columns of takes from before lists had any of their own; those that were thrown away have them, too."""
    rows = db.scalars(select(TakeRow).where(TakeRow.outcome == "")).all()
    for row in rows:
        verdicts = select(AnalysisRow.outcome, AnalysisRow.reason).where(AnalysisRow.take_id == row.id)
        row.outcome, row.reason = db.execute(verdicts.order_by(AnalysisRow.version).limit(1)).one()
        row.day = local_day(utc(row.started_at))
        take = load_take(db, row)
        fill_columns(row, take.exercise, take.judgement)
    db.flush()
    if rows:
        fill_played_before(db, frozenset(row.player_id for row in rows))


def add_missing_facts(db: Session) -> None:
    """Takes from before days remembered their exercises count for their day, and for no level. Check notes count for neither, nor does
    free playing.
    """
    rows = db.scalars(select(TakeRow).where(TakeRow.fact.is_(None), TakeRow.exercise_type != FREE_PRACTICE)).all()
    checks: dict[str, frozenset[str]] = {}
    for row in rows:
        if row.session_id not in checks:
            state = from_json(
                SessionState, db.scalar(select(SessionRow.state).where(SessionRow.id == row.session_id)) or ""
            )
            checks[row.session_id] = frozenset(take.take_id for take in state.takes if take.check)
        if row.id not in checks[row.session_id]:
            row.fact = to_json(_fact_of(row))
    db.flush()


def fill_played_before(db: Session, player_ids: frozenset[str]) -> None:
    """What each take's session had played before it, where the take does not say."""
    other = aliased(TakeRow)
    before = (
        select(func.coalesce(func.sum(other.playing_s), 0.0))
        .where(other.session_id == TakeRow.session_id, other.number < TakeRow.number)
        .scalar_subquery()
    )
    db.execute(update(TakeRow).where(TakeRow.player_id.in_(player_ids)).values(played_before_s=before))


def _fact_of(row: TakeRow) -> TakeFact:
    return TakeFact(
        exercise_type=row.exercise_type,
        day=row.day,
        exercise=row.exercise_id,
        outcome=Outcome(row.outcome),
        reason=row.reason,
        load=row.load,
        playing_s=row.playing_s,
        spent_s=usual_spent_s(row.duration_s, row.playing_s),
    )


def _rebuild_owner(db: Session, owner: Owner, chosen: tuple[Projection, ...], report: Report) -> None:
    for projection in chosen:
        projection.begin(db, owner)
    total = db.scalar(select(func.count()).select_from(TakeRow).where(*takes_that_count(owner))) or 0
    for number, take in enumerate(kept_takes(db, owner)):
        if number % _TOLD_EVERY == 0 and total > _TOLD_EVERY:
            report(f"summaries: {number} of {total} takes ...")
        for projection in chosen:
            projection.collect(db, take)
    for projection in chosen:
        projection.finish(db, owner)
    db.flush()


def _to_stderr(said: str) -> None:
    print(f"Updating the data, {said}", file=sys.stderr)
