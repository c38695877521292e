"""Is all well? Reads the database, the journal and the sound; says what is wrong, and mends what can be mended.

Mended: summaries that the takes say otherwise (they are made anew), half-written files of an export or an import, sound that no take
names (set aside with a line of where it lay, never deleted; taken back once a take names it), a session that waits for a take which
is nowhere. Said only: a damaged database, takes whose sound is missing or is not as it was kept. Where more sound belongs to no take
than to takes, the record was lost and not the sound: then nothing is moved.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial
from pathlib import Path

import soundfile
from sqlalchemy import select, text

from orexis.core.messages import counted, tell
from orexis.core.practice import OPEN_PHASES, SessionState
from orexis.services.archive.set_aside import FOLDER, put_aside, take_back
from orexis.services.documents import from_json
from orexis.services.journal import REHEARSED
from orexis.services.judging.judge import digest_of
from orexis.services.projections.differences import differences
from orexis.services.projections.rebuild import keep_versions, rebuild
from orexis.services.projections.sessions import rebuild_sessions
from orexis.services.record import Record
from orexis.store.models import SessionRow, TakeRow

_MOST_SAID = 20  # more lines say nothing new
_REPORT_EVERY = 50  # sounds between two lines of progress
_BLOCK = 1 << 16  # samples decoded at once
_SAME_S = 0.01  # durations are kept to a millisecond
_FEW_UNNAMED = 10  # sounds without a take, beside any record
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
        ("sound", partial(_sound, report=report)),
        ("journal", _journal),
        ("left over", _left_over),
        ("sessions", _sessions),
    ):
        report(f"{says} ...")
        faults += look(record, mend)
    return tuple(faults)


def _database(record: Record, mend: bool) -> Iterator[RecordFault]:
    with record.database.reading() as db:
        for (line,) in db.execute(text("PRAGMA integrity_check")).all()[:_MOST_SAID]:
            if line != "ok":
                yield RecordFault(
                    tell("The database is damaged: {line}. Restore a copy: orexis restore.", line=line), False
                )
        broken = len(db.execute(text("PRAGMA foreign_key_check")).all())
        if broken:
            yield RecordFault(tell("{broken} rows of the database belong to nothing.", broken=broken), False)


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
            counted(
                count,
                "{name}: {count} row does not say what the takes say.",
                "{name}: {count} rows do not say what the takes say.",
                name=name,
            ),
            mend,
        )


def _sound(record: Record, mend: bool, report: Report) -> Iterator[RecordFault]:
    """Every sound against its digest; those of earlier releases, which have none, are decoded to their end."""
    query = select(TakeRow.id, TakeRow.source, TakeRow.sound_gone_at, TakeRow.sound_sha256, TakeRow.duration_s)
    if mend:
        back = take_back(record)
        if back:
            yield RecordFault(
                tell("{sounds} had been set aside although a take names it: back in place.", sounds=_sounds(back)), True
            )
    with record.database.reading() as db:
        takes = {row.id: row for row in db.execute(query)}
    missing = damaged = 0
    for number, (key, row) in enumerate(takes.items(), start=1):
        if number % _REPORT_EVERY == 0:
            report(tell("sound {number} of {count}", number=number, count=len(takes)))
        path = record.sound_path(key)
        if row.source == REHEARSED or row.sound_gone_at is not None:
            continue
        if not path.exists():
            missing += 1
        elif not _as_kept(path, row.sound_sha256, row.duration_s):
            damaged += 1
    if missing:
        yield RecordFault(
            counted(
                missing,
                "{count} take has no sound any more; the measures are there.",
                "{count} takes have no sound any more; the measures are there.",
            ),
            False,
        )
    if damaged:
        yield RecordFault(
            counted(
                damaged,
                "{count} sound is not as kept; the measures are.",
                "{count} sounds are not as kept; the measures are.",
            ),
            False,
        )
    unnamed = []
    for path in sorted((record.folder / "takes").glob("*/*")):
        if path.suffix == ".part":
            if mend:
                path.unlink()
            yield RecordFault(tell("{path} was never finished.", path=path.name), mend)
        elif path.stem not in takes:
            unnamed.append(path)
    yield from _unnamed(record, unnamed, len(takes), mend)


def _unnamed(record: Record, paths: list[Path], takes: int, mend: bool) -> Iterator[RecordFault]:
    """Sound that no take names. Where it is much, the record was lost and not the sound: nothing is moved."""
    if len(paths) > max(_FEW_UNNAMED, takes):
        yield RecordFault(
            tell(
                "{sounds} belong to no take: is this the right record? Restore a copy: orexis restore.",
                sounds=_sounds(len(paths)),
            ),
            False,
        )
        return
    for path in paths:
        if mend:
            put_aside(record, path)
        yield RecordFault(tell("No take names {path}; it goes to {folder}/.", path=path.name, folder=FOLDER), mend)


def _sounds(count: int) -> str:
    return counted(count, "{count} sound", "{count} sounds")


def _as_kept(path: Path, sha256: str | None, duration_s: float) -> bool:
    try:
        if sha256 is not None:
            return digest_of(path) == sha256
        with soundfile.SoundFile(str(path)) as file:
            frames = sum(len(block) for block in file.blocks(_BLOCK))
            return abs(frames / file.samplerate - duration_s) < _SAME_S
    except (RuntimeError, OSError, TypeError, ValueError):
        return False


def _left_over(record: Record, mend: bool) -> Iterator[RecordFault]:
    """What a kill left half-written: of an import, an export, a copy; sound in the journal without its head."""
    folder = record.folder
    heads = {path.stem for path in (folder / "journal").glob("*.json")}
    left = [
        *folder.glob("*.import*"),
        *folder.glob("*.part"),
        *(folder / "backups").glob("*.part"),
        *(path for path in (folder / "journal").glob("*.f32") if path.stem not in heads),
        *(path for path in (folder / "journal").glob("*.part")),
    ]
    for path in sorted(left):
        if mend:
            put_aside(record, path)
        yield RecordFault(
            tell(
                "{path} was left over by something that was stopped; it goes to {folder}/.",
                path=path.name,
                folder=FOLDER,
            ),
            mend,
        )


def _journal(record: Record, mend: bool) -> Iterator[RecordFault]:
    waiting = len(list(record.journal.pending()))
    if waiting:
        yield RecordFault(
            counted(
                waiting,
                "{count} take waits to be finished: start Orexis.",
                "{count} takes wait to be finished: start Orexis.",
            ),
            False,
        )
    for one in record.journal.broken():
        yield RecordFault(tell("A take could not be finished and lies in journal/broken: {why}", why=one.why), False)


def _sessions(record: Record, mend: bool) -> Iterator[RecordFault]:
    with record.database.reading() as db:
        rows = db.execute(select(SessionRow.id, SessionRow.state).where(SessionRow.ended_at.is_(None))).all()
    for key, state_text in rows:
        state = from_json(SessionState, state_text)
        take = state.take_key
        if state.phase in OPEN_PHASES and take is not None and not record.journal.has(take):
            yield RecordFault(
                tell(
                    "Session {value} waits for a take that is nowhere: it continues at the next start.", value=key[:8]
                ),
                True,
            )
