"""Is all well? Reads the database, the journal and the sound; says what is wrong, and mends what can be mended.

Mended: summaries that the takes say otherwise (they are made anew), half-written files of an export or an import, sound that no take
names (set aside, never deleted), a session that waits for a take which is nowhere. Said only: a damaged database, takes whose sound
is missing or cannot be read.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import soundfile
from sqlalchemy import select, text

from orexis.core.practice import OPEN_PHASES, SessionState
from orexis.services.documents import from_json
from orexis.services.journal import REHEARSED
from orexis.services.projections.differences import differences
from orexis.services.projections.rebuild import keep_versions, rebuild
from orexis.services.projections.sessions import rebuild_sessions
from orexis.services.record import Record
from orexis.store.models import SessionRow, TakeRow

_MOST_SAID = 20  # more lines say nothing new
_ASIDE = "set-aside"
Report = Callable[[str], None]


@dataclass(frozen=True, slots=True)
class RecordFault:
    """Something that is wrong, and whether it was mended."""

    says: str
    mended: bool


def check(record: Record, *, mend: bool, report: Report = lambda said: None) -> tuple[RecordFault, ...]:
    """Everything that is wrong; nothing is changed unless it is to be mended."""
    faults: list[RecordFault] = []
    for says, look in (
        ("database", _database),
        ("summaries", _summaries),
        ("sound", _sound),
        ("journal", _journal),
        ("sessions", _sessions),
    ):
        report(f"{says} ...")
        faults += look(record, mend)
    return tuple(faults)


def _database(record: Record, mend: bool) -> Iterator[RecordFault]:
    with record.database.reading() as db:
        for (line,) in db.execute(text("PRAGMA integrity_check")).all()[:_MOST_SAID]:
            if line != "ok":
                yield RecordFault(f"The database is damaged: {line}. Use the newest copy in backups/.", False)
        broken = len(db.execute(text("PRAGMA foreign_key_check")).all())
        if broken:
            yield RecordFault(f"{broken} rows of the database belong to nothing.", False)


def _summaries(record: Record, mend: bool) -> Iterator[RecordFault]:
    """Every summary against one that is made again from the takes, in a copy of the record."""
    wrong = differences(record)
    if not wrong:
        return
    if mend:
        with record.database.writing() as db:
            rebuild(db)
            rebuild_sessions(db)
            keep_versions(db)
    for name, count in wrong.items():
        yield RecordFault(
            f"{name}: {count} {'row does' if count == 1 else 'rows do'} not say what the takes say.", mend
        )


def _sound(record: Record, mend: bool) -> Iterator[RecordFault]:
    query = select(TakeRow.id, TakeRow.source, TakeRow.sound_gone_at)
    with record.database.reading() as db:
        takes = {row.id: row.source == REHEARSED or row.sound_gone_at is not None for row in db.execute(query)}
    missing = unreadable = 0
    for key, is_silent in takes.items():
        path = record.sound_path(key)
        if is_silent:
            continue
        if not path.exists():
            missing += 1
        elif not _readable(path):
            unreadable += 1
    if missing:
        yield RecordFault(
            f"{missing} {'take has' if missing == 1 else 'takes have'} no sound any more; the measures are there.",
            False,
        )
    if unreadable:
        yield RecordFault(f"The sound of {unreadable} {'take' if unreadable == 1 else 'takes'} cannot be read.", False)
    folder = record.folder / "takes"
    for path in sorted(folder.glob("*/*")):
        if path.suffix == ".part":
            if mend:
                path.unlink()
            yield RecordFault(f"{path.name} was never finished.", mend)
        elif path.stem not in takes:
            if mend:
                aside = record.folder / _ASIDE
                aside.mkdir(exist_ok=True)
                path.rename(aside / path.name)
            yield RecordFault(f"No take names {path.name}; it goes to {_ASIDE}/.", mend)


def _readable(path: Path) -> bool:
    try:
        return bool(soundfile.info(str(path)).frames > 0)
    except (soundfile.LibsndfileError, OSError):
        return False


def _journal(record: Record, mend: bool) -> Iterator[RecordFault]:
    waiting = len(list(record.journal.pending()))
    if waiting:
        yield RecordFault(
            f"{waiting} {'take waits' if waiting == 1 else 'takes wait'} to be finished: start Orexis.", False
        )
    for one in record.journal.broken():
        yield RecordFault(f"A take could not be finished and lies in journal/broken: {one.why}", False)


def _sessions(record: Record, mend: bool) -> Iterator[RecordFault]:
    with record.database.reading() as db:
        rows = db.execute(select(SessionRow.id, SessionRow.state).where(SessionRow.ended_at.is_(None))).all()
    for key, state_text in rows:
        state = from_json(SessionState, state_text)
        take = state.take_key
        if state.phase in OPEN_PHASES and take is not None and not record.journal.has(take):
            yield RecordFault(
                f"Session {key[:8]} waits for a take that is nowhere: it continues at the next start.", True
            )
