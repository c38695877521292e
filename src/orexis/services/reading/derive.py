"""What is derived from takes, made anew when the rules that make it change: columns of lists, tries, ladders, days, voices.

The number of the rules is kept in the record; a record with an older one is brought up to date once, before anything
else is done with it. Verdicts are not touched: what was said stays said.
"""

import sys
from dataclasses import replace
from typing import Any

from sqlalchemy import delete, func, select, update
from sqlalchemy.orm import Session

from orexis.core.coach import Outcome, Stage, Verdict
from orexis.core.figures import Figure
from orexis.core.horn import HORNS, Setup, horn_named
from orexis.core.measures import Measures
from orexis.core.planning import TakeFact
from orexis.core.practice import BETWEEN_TAKES_S, SessionState
from orexis.services.clock import local_day, utc
from orexis.services.codec import packed, unpacked
from orexis.services.planning.days import Whose, add_fact
from orexis.services.players.values import Terms
from orexis.services.reading.ladder import keep_ladder, ladder_anew, try_row
from orexis.services.reading.notes_by_day import add_notes
from orexis.services.record import Record
from orexis.services.sessions.values import summary_of
from orexis.services.takes.judging import judgement_of
from orexis.services.takes.rows import add_to_day, fill_derived, voice_row
from orexis.store.models import (
    AnalysisRow,
    DerivedRow,
    FamilyDayRow,
    MeasureDayRow,
    MeasureWeekRow,
    NoteDayRow,
    PathPlaceRow,
    PracticeDayRow,
    RangeDayRow,
    RungAttemptRow,
    RungRow,
    SessionRow,
    TakeRow,
    VoiceRow,
)

RULES = 9  # grows whenever the same takes would give other rows
TAKES = "takes"  # the row that says so
Kinds = dict[tuple[str, str, int], str | None]
_TOLD_EVERY = 2000


def bring_up_to_date(record: Record) -> None:
    """All or nothing; quick when there is nothing to do."""
    with record.database.reading() as db:
        known = db.get(DerivedRow, TAKES)
        if known is not None and known.rules == RULES:
            return
    with record.database.writing() as db:
        kinds = _kinds(db)
        _clear(db)
        _takes(db, kinds)
        _ladders(db)
        _sessions(db)
        db.merge(DerivedRow(name=TAKES, rules=RULES))


def derive_takes(db: Session, keys: tuple[str, ...]) -> None:
    """The same for takes that just came in: they count from now on."""
    rows = [db.get_one(TakeRow, key) for key in keys]
    for row in sorted(rows, key=lambda row: (row.started_at, row.number)):
        _take(db, row, counts=True, kind=None)
        db.flush()
    for player_id, horn in sorted({(row.player_id, row.horn) for row in rows}):
        keep_ladder(db, player_id, horn, ladder_anew(db, player_id, horn))


def _clear(db: Session) -> None:
    for table in (
        VoiceRow,
        RungAttemptRow,
        RungRow,
        RangeDayRow,
        PracticeDayRow,
        MeasureDayRow,
        MeasureWeekRow,
        FamilyDayRow,
        NoteDayRow,
    ):
        db.execute(delete(table))
    db.execute(update(PathPlaceRow).values(standing=None))


def _takes(db: Session, kinds: Kinds) -> None:
    total = db.scalar(select(func.count()).select_from(TakeRow)) or 0
    checks = _check_takes(db)
    keys = db.scalars(select(TakeRow.id).order_by(TakeRow.started_at)).all()
    for number, key in enumerate(keys):
        if number % _TOLD_EVERY == 0 and total > _TOLD_EVERY:
            print(f"Bringing the record up to date: {number} of {total} takes ...", file=sys.stderr)
        row = db.get_one(TakeRow, key)
        kind = kinds.get((row.player_id, row.horn, local_day(utc(row.started_at))))
        _take(db, row, counts=key not in checks, kind=kind)
        db.flush()
        db.expunge(row)


def _take(db: Session, row: TakeRow, *, counts: bool, kind: str | None) -> None:
    analysis = db.scalars(
        select(AnalysisRow).where(AnalysisRow.take_id == row.id).order_by(AnalysisRow.version).limit(1)
    ).first()
    if analysis is None:
        return
    figure, verdict = unpacked(Figure, row.figure), unpacked(Verdict, analysis.verdict)
    terms = Terms(row.horn, row.part, row.a4_hz, Setup(), Stage(row.stage))
    measures = unpacked(Measures, analysis.measures)
    judgement = judgement_of(row.id, local_day(utc(row.started_at)), figure, terms, measures, verdict)
    fill_derived(row, figure, judgement)
    facts: dict[str, Any] = unpacked(dict[str, Any], row.device)
    voice = voice_row(row, facts, judgement)
    if voice is not None:
        db.add(voice)
    if counts:
        db.add_all(try_row(row.player_id, row.horn, tried) for tried in judgement.attempts)
    if counts:
        known = unpacked(TakeFact, row.fact) if row.fact else _fact(row)
        fact = replace(known, values=judgement.values)
        row.fact = packed(fact)
        if row.discarded_at is None and row.horn in HORNS:
            add_fact(db, Whose(row.player_id, horn_named(row.horn), Stage(row.stage)), fact)
    if row.discarded_at is None:
        add_to_day(db, row, kind=kind)
        add_notes(db, row, figure, measures)


def _fact(row: TakeRow) -> TakeFact:
    """Of a take from before days remembered their families: it counts for its day, and for no step of a path."""
    return TakeFact(
        family=row.family,
        day=row.day,
        figure=row.figure_id,
        outcome=Outcome(row.outcome),
        reason=row.reason,
        load=row.load,
        playing_s=row.playing_s,
        spent_s=round(row.duration_s + row.playing_s + BETWEEN_TAKES_S, 2),
    )


def _kinds(db: Session) -> Kinds:
    """How days were planned is said nowhere else: it is kept over the rebuilding."""
    query = select(PracticeDayRow.player_id, PracticeDayRow.horn, PracticeDayRow.day, PracticeDayRow.kind)
    return {(player, horn, day): kind for player, horn, day, kind in db.execute(query)}


def _check_takes(db: Session) -> set[str]:
    """Takes of check notes: they are no tries."""
    states = db.scalars(select(SessionRow.state))
    return {take.take_id for text in states for take in unpacked(SessionState, text).takes if take.check}


def _ladders(db: Session) -> None:
    pairs = db.execute(select(RungAttemptRow.player_id, RungAttemptRow.horn).distinct()).all()
    for player_id, horn in pairs:
        keep_ladder(db, player_id, horn, ladder_anew(db, player_id, horn))


def _sessions(db: Session) -> None:
    """What the log shows of each; a session that lost its machine's takes shows none."""
    kept = set(db.scalars(select(TakeRow.id).where(TakeRow.discarded_at.is_(None))))
    lasted: dict[str, float] = {}
    times = select(TakeRow.session_id, SessionRow.started_at, TakeRow.started_at, TakeRow.duration_s).join(
        SessionRow, SessionRow.id == TakeRow.session_id
    )
    for key, began, at, duration_s in db.execute(times):
        until = (utc(at) - utc(began)).total_seconds() + duration_s
        lasted[key] = max(lasted.get(key, 0.0), until)
    for key, text in db.execute(select(SessionRow.id, SessionRow.state)).all():
        state = unpacked(SessionState, text)
        gone = tuple(take.take_id for take in state.takes if take.take_id not in kept)
        known = replace(state, thrown_away=gone)
        summary = summary_of(known, lasted.get(key, 0.0))
        values = {"state": packed(known), "summary": packed(summary), "played": bool(known.kept)}
        db.execute(update(SessionRow).where(SessionRow.id == key).values(**values))
