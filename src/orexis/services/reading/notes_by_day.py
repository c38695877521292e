"""Notes by day, as rows: a take adds its own in its transaction; a day is made anew when one of its takes is thrown away."""

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from orexis.core.figures import Figure
from orexis.core.horn import HORNS
from orexis.core.measures import Measures
from orexis.core.tuning import NoteDay, joined, notes_heard
from orexis.services.clock import utc
from orexis.services.codec import packed, unpacked
from orexis.store.models import AnalysisRow, NoteDayRow, SessionRow, TakeRow

Notes = tuple[NoteDay, ...]


def add_notes(db: Session, row: TakeRow, figure: Figure, measures: Measures) -> None:
    """Count a take's notes in its day."""
    if row.horn not in HORNS:
        return
    began = db.scalar(select(SessionRow.started_at).where(SessionRow.id == row.session_id)) or row.started_at
    before = select(func.sum(TakeRow.playing_s)).where(
        TakeRow.session_id == row.session_id, TakeRow.number < row.number
    )
    found = notes_heard(
        figure,
        HORNS[row.horn],
        measures,
        day=row.day,
        minutes=max(0.0, (utc(row.started_at) - utc(began)).total_seconds() / 60.0),
        playing_min=(db.scalar(before) or 0.0) / 60.0,
    )
    if not found:
        return
    key = {"player_id": row.player_id, "horn": row.horn, "day": row.day}
    kept = db.get(NoteDayRow, tuple(key.values()))
    known = {one.key: one for one in unpacked(Notes, kept.told)} if kept is not None else {}
    for note in found:
        known[note.key] = joined(known.get(note.key), note)
    db.merge(NoteDayRow(**key, told=packed(tuple(known[at] for at in sorted(known)))))
    db.flush()


def notes_anew(db: Session, player_id: str, horn: str, day: int) -> None:
    """A day's notes from its takes that count; one day is never long."""
    db.execute(delete(NoteDayRow).filter_by(player_id=player_id, horn=horn, day=day))
    query = (
        select(TakeRow)
        .where(TakeRow.player_id == player_id, TakeRow.horn == horn, TakeRow.day == day)
        .where(TakeRow.discarded_at.is_(None))
        .order_by(TakeRow.started_at)
    )
    for row in db.scalars(query).all():
        newest = (
            select(AnalysisRow.measures)
            .where(AnalysisRow.take_id == row.id)
            .order_by(AnalysisRow.version.desc())
            .limit(1)
        )
        text = db.scalar(newest)
        if text is not None:
            add_notes(db, row, unpacked(Figure, row.figure), unpacked(Measures, text))


def notes_of(db: Session, player_id: str, horn: str, *, days: int) -> list[NoteDay]:
    """The notes of the last so many days on which any were heard."""
    row = NoteDayRow
    query = select(row.told).where(row.player_id == player_id, row.horn == horn).order_by(row.day.desc()).limit(days)
    return [note for text in reversed(db.scalars(query).all()) for note in unpacked(Notes, text)]
