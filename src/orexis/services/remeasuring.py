"""Takes that an earlier version of the ear measured, measured again from their sound in the background.

What was said of a take stays said: a new analysis stands beside the first, its measures and what it proves count from then on. Playing
goes first: for a minute after the last take nothing is measured again. One take at a time, the newest first; it can be stopped, and goes on
at the next start.
"""

import threading
from dataclasses import dataclass
from typing import Any

from sqlalchemy import ColumnElement, func, select
from sqlalchemy.orm import Session

from orexis.core.listen import ANALYSIS_VERSION
from orexis.errors import OrexisError
from orexis.files.soundfiles import read_sound
from orexis.services.clock import now, utc
from orexis.services.documents import Facts, from_json
from orexis.services.journal import REHEARSED, TakeHead
from orexis.services.judging.judge import Judgement, Work, judged
from orexis.services.judging.reference import reference_of
from orexis.services.projections.kept_take import load_take
from orexis.services.projections.registry import apply_take, retract_take
from orexis.services.record import Record
from orexis.services.takes.given import click_of
from orexis.services.takes.life import Takes
from orexis.services.work import Workers
from orexis.store.models import AnalysisRow, TakeRow

_JUDGING_S = 300.0  # far longer than judging ten minutes takes
_WAITS_S = 2.0  # before it is looked again whether anybody plays
_QUIET_S = 60.0  # since the last take, so that no player waits for a worker


@dataclass(frozen=True, slots=True)
class Remeasured:
    """How far it is: takes that are still of an earlier version, those done since the start, and whether it goes on."""

    old: int
    done: int
    running: bool


class Remeasuring:
    """The job; at most one at a time."""

    def __init__(self, record: Record, takes: Takes, workers: Workers) -> None:
        self._record, self._takes, self._workers = record, takes, workers
        self._stop, self._lock, self._closed = threading.Event(), threading.Lock(), False
        self._thread: threading.Thread | None = None
        self._done = 0
        self._failed: set[str] = set()  # whose sound cannot be read: not tried again before the next start

    @property
    def state(self) -> Remeasured:
        """How many takes are old, how many were done, and whether it runs."""
        running = self._thread is not None and self._thread.is_alive() and not self._stop.is_set()
        with self._record.database.reading() as db:
            return Remeasured(_count_old(db), self._done, running)

    def start(self) -> Remeasured:
        """Start in the background, or go on; return how far it is."""
        with self._lock:
            if not self._closed and (self._thread is None or not self._thread.is_alive()):
                self._stop.clear()
                thread = threading.Thread(target=self._run, name="remeasuring", daemon=True)
                thread.start()
                self._thread = thread
        return self.state

    def stop(self) -> Remeasured:
        """Stop after the take under way."""
        with self._lock:
            self._stop.set()
            thread = self._thread
        if thread is not None:
            thread.join(_JUDGING_S)
        return self.state

    def close(self) -> None:
        """Stop, and do not start again: the record is about to be closed."""
        with self._lock:
            self._closed = True
        self.stop()

    def _run(self) -> None:
        while not self._stop.is_set():
            if not self._takes.is_quiet(_QUIET_S):
                self._stop.wait(_WAITS_S)
                continue
            with self._record.database.reading() as db:
                key = _next_old(db, self._failed)
            if key is None:
                return
            try:
                self.measure_again(key)
                self._done += 1
            except (OrexisError, OSError, ValueError):
                self._failed.add(key)

    def measure_again(self, take_id: str) -> None:
        """One take: a new analysis beside the others, and all summaries by it."""
        with self._record.database.reading() as db:
            work = self._work(db, db.get_one(TakeRow, take_id))
        judgement = self._workers.run(judged, work, seconds=_JUDGING_S)
        with self._record.database.writing() as db:
            row = db.get(TakeRow, take_id)
            if row is None or _version(db, take_id) >= ANALYSIS_VERSION:
                return  # deleted meanwhile, or measured elsewhere
            _keep(db, row, judgement)

    def _work(self, db: Session, row: TakeRow) -> Work:
        take = load_take(db, row)
        head = _head_of(row)
        delay_s, click_db = click_of(db, head)
        path = self._record.sound_path(row.id)
        reference = reference_of(db, row.player_id, take.terms, head)
        return Work(
            head, read_sound(path), None, take.exercise, take.terms, {}, reference, delay_s, click_db, None,
        )  # fmt: skip


def _keep(db: Session, row: TakeRow, judgement: Judgement) -> None:
    """The take as it counts is taken out, and put in again as it is measured now."""
    discarded_at = row.discarded_at
    if discarded_at is None:
        before = load_take(db, row)
        row.discarded_at = now()
        retract_take(db, before)
    verdict = judgement.verdict
    db.add(
        AnalysisRow(
            take_id=row.id,
            version=ANALYSIS_VERSION,
            made_at=now(),
            outcome=verdict.outcome,
            reason=verdict.reason,
            measures=judgement.measures_text,
            verdict=judgement.verdict_text,
        )
    )
    db.flush()
    row.discarded_at = discarded_at
    if discarded_at is None:
        apply_take(db, load_take(db, row))


def _head_of(row: TakeRow) -> TakeHead:
    first = None if row.first_beat_s is None else round(row.first_beat_s * row.rate)
    facts = from_json(Facts, row.device)
    return TakeHead(row.id, row.session_id, row.rate, first, row.source, facts, utc(row.started_at).isoformat())


def _version(db: Session, take_id: str) -> int:
    return db.scalar(select(func.max(AnalysisRow.version)).where(AnalysisRow.take_id == take_id)) or 0


def _is_old() -> tuple[ColumnElement[bool], ...]:
    """Measured by an earlier version, and with a sound to be measured again."""
    of_take = AnalysisRow.take_id == TakeRow.id
    newest: Any = select(func.max(AnalysisRow.version)).where(of_take).correlate(TakeRow).scalar_subquery()
    return TakeRow.source != REHEARSED, TakeRow.sound_gone_at.is_(None), newest < ANALYSIS_VERSION


def _count_old(db: Session) -> int:
    return db.scalar(select(func.count()).select_from(TakeRow).where(*_is_old())) or 0


def _next_old(db: Session, without: set[str]) -> str | None:
    query = select(TakeRow.id).where(*_is_old(), TakeRow.id.not_in(without)).order_by(TakeRow.started_at.desc())
    return db.scalar(query.limit(1))
