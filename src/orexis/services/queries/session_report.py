"""A session as a page of its own: its blocks with their takes, check notes, what was decided otherwise, what was reported."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select

from orexis.core.coach import Freshness
from orexis.core.exercises import Load
from orexis.core.practice import CheckMark, SessionState
from orexis.services.clock import utc
from orexis.services.documents import Params, from_json
from orexis.services.record import Record, require_row
from orexis.services.rows.takes import listed, listed_take
from orexis.services.values.sessions import SessionSummary
from orexis.services.values.takes import ListedTake
from orexis.store.models import SessionRow, TakeRow


@dataclass(frozen=True, slots=True)
class SessionReportBlock:
    """A block as it went. `load`: what its takes brought, `most_load` what it might."""

    title: str
    why: str
    load_class: Load
    minutes: float | None
    load: float
    most_load: float | None
    spare: bool
    takes: tuple[ListedTake, ...]


@dataclass(frozen=True, slots=True)
class SessionReportCheck:
    """A check note: after so much playing, how fresh, by which signs."""

    take_id: str
    state: Freshness | None
    playing_min: float
    signs: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class SessionReport:
    """All of it. `params`: minutes, lips, kind of day where it was one; `caution`: what was said after a report."""

    id: str
    player_id: str
    exercise_type: str
    title: str
    instrument: str
    started_at: datetime
    ended_at: datetime | None
    params: dict[str, str]
    remark: str
    summary: SessionSummary
    caution: str | None
    register_over: str | None
    blocks: tuple[SessionReportBlock, ...]
    checks: tuple[SessionReportCheck, ...]


def session_report(record: Record, session_id: str) -> SessionReport:
    """MissingError when there is none by that id."""
    with record.database.reading() as db:
        session = require_row(db, SessionRow, session_id, "session")
        state, summary = from_json(SessionState, session.state), from_json(SessionSummary, session.summary)
        takes = {take.id: take for take in (listed_take(values) for values in db.execute(listed((session_id,))))}
        rows = db.execute(select(TakeRow.id, TakeRow.load).filter_by(session_id=session_id)).all()
        loads = {row.id: row.load for row in rows}
        return SessionReport(
            session.id,
            session.player_id,
            session.exercise_type,
            session.title,
            session.instrument,
            utc(session.started_at),
            utc(session.ended_at) if session.ended_at else None,
            from_json(Params, session.params),
            session.remark,
            summary,
            state.caution,
            state.register_over,
            _blocks(state, takes, loads),
            tuple(_check(check) for check in state.checks),
        )


def _blocks(
    state: SessionState, takes: dict[str, ListedTake], loads: dict[str, float]
) -> tuple[SessionReportBlock, ...]:
    out = []
    for number, block in enumerate(state.plan):
        keys = [take.take_id for take in state.kept if take.block == number and not take.check]
        played = tuple(takes[key] for key in keys if key in takes)
        if block.spare and not played:
            continue
        load = round(sum(loads.get(key, 0.0) for key in keys), 1)
        out.append(
            SessionReportBlock(
                block.title, block.why, block.load, block.minutes, load, block.most_load, block.spare, played
            )
        )
    return tuple(out)


def _check(check: CheckMark) -> SessionReportCheck:
    return SessionReportCheck(check.take_id, check.state, round(check.playing_s / 60.0, 1), check.signs)
