"""Sittings: opened with what they are judged by, taken on step by step, led by one window.

A step is read, computed, and only then written; the session's lock keeps steps from crossing each other. Effects of a
step are not carried out here: whoever has takes to do so goes through `orexis.services.takes`.
"""

import secrets
import threading
from collections import defaultdict
from collections.abc import Callable, Mapping
from dataclasses import replace
from datetime import datetime, timedelta
from uuid import uuid4

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.coach import Freshness, Lips, LipsToday, Verdict, advised_against, set_played
from orexis.core.figures import FAMILIES, Load, Series, SetsToday, family_named, sets_today
from orexis.core.practice import (
    Event,
    Owned,
    Phase,
    Routine,
    SessionState,
    Step,
    check_series,
    planned,
    routine_for,
    state_for,
    step,
)
from orexis.errors import CareError
from orexis.services.clock import local_day, now, utc
from orexis.services.codec import packed, unpacked
from orexis.services.players import Player, Players
from orexis.services.reading.ladder import ladder_of
from orexis.services.record import Record, found
from orexis.services.sessions.rows import CHECK_BLOCK, session_of
from orexis.services.sessions.values import PracticeSession, SessionSummary, summary_of
from orexis.store.models import AnalysisRow, SessionBlockRow, SessionRow, TakeRow

_WHAT = "session"
_SETS_SINCE = timedelta(weeks=60)  # sets further back have been lost again by pauses, or have long made five
Write = Callable[[Session], None]


def written(session_id: str, before: SessionState, after: SessionState) -> Write:
    """What writes a session's new state: everything is computed here, before the transaction that it is called in."""
    state, summary, moment = packed(after), packed(summary_of(after)), now()
    began = after.phase == Phase.REST and before.phase != Phase.REST

    def write(db: Session) -> None:
        row = found(db, SessionRow, session_id, _WHAT)
        row.state, row.summary, row.played = state, summary, bool(after.kept)
        row.rest_since = moment if began else row.rest_since
        if after.phase != Phase.DONE:
            row.ended_at = None
        elif before.phase != Phase.DONE:
            row.ended_at = moment

    return write


class Sessions:
    """Everything about a sitting but its takes."""

    def __init__(self, record: Record, players: Players) -> None:
        self._record, self._players = record, players
        self._locks: defaultdict[str, threading.RLock] = defaultdict(threading.RLock)

    def lock(self, session_id: str) -> threading.RLock:
        """Held while something happens to the session: one thing at a time."""
        return self._locks[session_id]

    def open(
        self,
        player_id: str,
        family_id: str,
        params: Mapping[str, str],
        *,
        given: Series | None = None,
        anyway: bool = False,
        at: datetime | None = None,
    ) -> PracticeSession:
        """A sitting with one series; `given` is one that no family makes, from a file for instance.

        CareError when something speaks against it; with `anyway` it is begun all the same, and that is kept.
        """
        person = self._players.get(player_id)
        load = family_named(family_id).load if family_id in FAMILIES else Load.MEDIUM
        against = self._against(person, load, at or now(), anyway=anyway)
        wanted, why = dict(params), ""
        if given is None and family_named(family_id).counted_in_sets:
            today = self._sets_today(person, family_id, at or now())
            wanted, why = today.within(wanted), today.why
        series = given or person.series(family_id, wanted)
        plan = planned(series, minutes=None, why=why, owned=self._owned(person))
        routine = Routine((series,), (plan,), check_series(person.instrument))
        return self._opened(person, family_id, wanted, routine, checks=False, at=at, against=against)

    def open_routine(
        self,
        player_id: str,
        minutes: int,
        *,
        lips: str = "fresh",
        quiet: bool = False,
        anyway: bool = False,
        at: datetime | None = None,
    ) -> PracticeSession:
        """A sitting with the built-in routine of so many minutes, its register work placed by the ladder.

        CareError after a report that ended the day's playing; with `anyway` it is begun all the same.
        """
        person = self._players.get(player_id)
        against = self._against(person, Load.EASY, at or now(), anyway=anyway)
        routine = self.routine(person, minutes, lips=lips, quiet=quiet)
        params = {"minutes": str(minutes), "lips": lips} | ({"quiet": "yes"} if quiet else {})
        return self._opened(person, "routine", params, routine, checks=person.settings.checks, at=at, against=against)

    def routine(self, person: Player, minutes: int, *, lips: str, quiet: bool = False) -> Routine:
        """The routine as it would be opened now."""
        with self._record.database.reading() as db:
            ladder = ladder_of(db, person)
        return routine_for(
            minutes,
            person.instrument,
            schools=person.settings.chosen,
            care=person.settings.care,
            owned=Owned(ladder.alone, ladder.joined),
            start_midi=ladder.start_up,
            lips=lips,
            quiet=quiet,
        )

    def get(self, session_id: str) -> PracticeSession:
        """Where it stands; MissingError when there is none by that id."""
        with self._record.database.reading() as db:
            return session_of(db, found(db, SessionRow, session_id, _WHAT))

    def latest(self, player_id: str) -> PracticeSession | None:
        """The sitting that was left open last, if it is not over."""
        query = (
            select(SessionRow).where(SessionRow.player_id == player_id).order_by(SessionRow.started_at.desc()).limit(1)
        )
        with self._record.database.reading() as db:
            row = db.scalars(query).first()
            return session_of(db, row) if row is not None and row.ended_at is None else None

    def unfinished(self) -> tuple[PracticeSession, ...]:
        """Sittings that are not over, for the recovery at a start."""
        with self._record.database.reading() as db:
            rows = db.scalars(select(SessionRow).where(SessionRow.ended_at.is_(None)))
            return tuple(session_of(db, row) for row in rows)

    def step(self, session_id: str, event: Event) -> Step:
        """One step of the machine, kept before anything else is done. ConflictError when it makes no sense now."""
        with self.lock(session_id):
            with self._record.database.reading() as db:
                before = unpacked(SessionState, found(db, SessionRow, session_id, _WHAT).state)
            made = step(before, event)
            write = written(session_id, before, made.state)
            with self._record.database.writing() as db:
                write(db)
        return made

    def claim(self, session_id: str, token: str | None, *, take_over: bool) -> tuple[str | None, bool]:
        """Who drives the session: (token, True) for the owner, (None, False) for a watcher."""
        with self.lock(session_id), self._record.database.writing() as db:
            row = found(db, SessionRow, session_id, _WHAT)
            if row.owner is not None and row.owner != token and not take_over:
                return None, False
            if row.owner is None or row.owner != token:
                row.owner = secrets.token_hex(16)
            return row.owner, True

    def _owned(self, person: Player) -> Owned:
        with self._record.database.reading() as db:
            ladder = ladder_of(db, person)
        return Owned(ladder.alone, ladder.joined)

    def _against(self, person: Player, load: Load, at: datetime, *, anyway: bool) -> str | None:
        """What speaks against playing it now; CareError unless it is wanted all the same."""
        why = advised_against(load, person.settings.care, self._lips_today(person.id, at))
        if why is not None and not anyway:
            raise CareError(why)
        return why

    def _lips_today(self, player_id: str, at: datetime) -> LipsToday:
        """From the day's sittings: the last check-in, a check note that said spent, a report that ended them."""
        begins = at.astimezone().replace(hour=0, minute=0, second=0, microsecond=0)
        query = (
            select(SessionRow.params, SessionRow.summary)
            .where(SessionRow.player_id == player_id, SessionRow.started_at >= begins, SessionRow.started_at <= at)
            .order_by(SessionRow.started_at)
        )
        today = LipsToday()
        with self._record.database.reading() as db:
            for params, text in db.execute(query):
                summary = unpacked(SessionSummary, text)
                felt = unpacked(dict[str, str], params).get("lips", today.felt)
                spent = today.spent or Freshness.SPENT in summary.checks
                today = LipsToday(Lips(felt), spent, summary.stopped or today.stopped)
        return today

    def _sets_today(self, person: Player, family_id: str, at: datetime) -> SetsToday:
        """How many sets may be played, from those that were really played on the horn in hand."""
        query = (
            select(TakeRow.started_at, AnalysisRow.verdict)
            .join(AnalysisRow, AnalysisRow.take_id == TakeRow.id)
            .where(TakeRow.player_id == person.id, TakeRow.horn == person.horn, TakeRow.family == family_id)
            .where(TakeRow.discarded_at.is_(None), TakeRow.started_at >= at - _SETS_SINCE)
            .order_by(TakeRow.started_at)
        )
        with self._record.database.reading() as db:
            played = [
                set_played(unpacked(Verdict, text), day=local_day(utc(started))) for started, text in db.execute(query)
            ]
        care = person.settings.care
        return sets_today(played, local_day(at), braces=care.braces, returning=care.returning)

    def _opened(
        self,
        person: Player,
        family: str,
        params: Mapping[str, str],
        routine: Routine,
        *,
        checks: bool,
        at: datetime | None,
        against: str | None,
    ) -> PracticeSession:
        terms = person.terms
        state = state_for(
            routine,
            checks=checks,
            schools=terms.chosen,
            care=terms.care,
            tempo_steps=person.settings.tempo_steps,
        )
        state = replace(state, against=against)
        blocks = routine.blocks
        row = SessionRow(
            id=uuid4().hex,
            player_id=person.id,
            family=family,
            title=blocks[0].title if len(blocks) == 1 else f"Routine of {len(blocks)} blocks",
            horn=person.horn,
            params=packed(dict(params)),
            terms=packed(terms),
            state=packed(state),
            summary=packed(summary_of(state)),
            started_at=at or now(),
        )
        series = [*enumerate(blocks), (CHECK_BLOCK, routine.check)]
        rows = [SessionBlockRow(session_id=row.id, number=number, series=packed(item)) for number, item in series]
        with self._record.database.writing() as db:
            db.add(row)
            db.flush()
            db.add_all(rows)
        return self.get(row.id)
