"""Sessions: opened with what they are judged by, taken on step by step, led by one window.

A step is read, computed, and only then written; the session's lock keeps steps from crossing each other. Effects of a
step are not carried out here: whoever has takes to do so goes through `orexis.services.takes`.
"""

import secrets
import threading
from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping
from dataclasses import replace
from datetime import datetime
from uuid import uuid4

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.coach import LIPS, Lips, LipsToday, advised_against
from orexis.core.exercises import (
    EXERCISE_TYPES,
    FREE_PRACTICE,
    Load,
    Series,
    SetsToday,
    exercise_type_named,
    sets_today,
)
from orexis.core.messages import tell
from orexis.core.planning import CheckIn, DayKind, KeptBlock, day_series, planned_blocks, too_heavy
from orexis.core.practice import (
    Event,
    Phase,
    PlayerRange,
    Routine,
    SessionState,
    Step,
    free_routine,
    planned,
    routine_of,
    state_for,
    step,
)
from orexis.core.progress import path_of
from orexis.errors import CareError, InputError
from orexis.services.clock import local_day, now, utc
from orexis.services.documents import Params, from_json, to_json
from orexis.services.planning.remember import sets_of
from orexis.services.planning.use import Planning
from orexis.services.players.use import Players
from orexis.services.queries.range_summary import range_summary_of
from orexis.services.record import Record, require_row
from orexis.services.rows.sessions import CHECK_BLOCK, session_of
from orexis.services.sessions.lips import lips_today
from orexis.services.sessions.replan import ARRANGED, WITHOUT, day_title, replan_session_rest, write_rest
from orexis.services.values.players import Player
from orexis.services.values.sessions import PracticeSession, SessionSummary, summary_of
from orexis.store.models import SessionBlockRow, SessionRow

_WHAT = "session"
DAY = "day"  # the exercise type of a session with a planned day
Write = Callable[[Session], None]


def written(session_id: str, before: SessionState, after: SessionState, *, take_end: datetime | None = None) -> Write:
    """What writes a session's new state: everything is computed here, before the transaction that it is called in.

    `take_end`: when the take that brought the step was over.
    """
    state, moment = to_json(after), now()
    began = after.phase == Phase.REST and before.phase != Phase.REST

    def write(db: Session) -> None:
        row = require_row(db, SessionRow, session_id, _WHAT)
        lasted_s = from_json(SessionSummary, row.summary).lasted_s
        if take_end is not None:
            lasted_s = max(lasted_s, (take_end - utc(row.started_at)).total_seconds())
        row.state, row.summary, row.played = state, to_json(summary_of(after, lasted_s)), bool(after.kept)
        row.rest_since = moment if began else row.rest_since
        if after.phase != Phase.DONE:
            row.ended_at = None
        elif before.phase != Phase.DONE:
            row.ended_at = moment

    return write


def lips_named(lips: str) -> Lips:
    """How the lips feel; InputError names what there is."""
    if lips not in LIPS:
        raise InputError(tell("The lips are “{lips}”: choose {lips2}.", lips=lips[:20], lips2=", ".join(LIPS)))
    return Lips(lips)


def _step(person: Player, exercise_type_id: str, wanted: Mapping[str, str]) -> int | None:
    """The step of the exercise type's path that these parameters meet, so that what is chosen by hand counts as well."""
    path = path_of(exercise_type_id, person.own_instrument) if exercise_type_id in EXERCISE_TYPES else None
    if path is None:
        return None
    exercise_type = exercise_type_named(exercise_type_id)
    usual = {param.key: param.default for param in exercise_type.specs(person.own_instrument)}
    return path.step_with(
        usual | exercise_type.approach_params(person.settings.chosen, person.own_instrument) | dict(wanted)
    )


class Sessions:
    """Everything about a session but its takes."""

    def __init__(self, record: Record, players: Players, planning: Planning) -> None:
        self._record, self._players, self._planning = record, players, planning
        self._locks: defaultdict[str, threading.RLock] = defaultdict(threading.RLock)

    def lock(self, session_id: str) -> threading.RLock:
        """Held while something happens to the session: one thing at a time."""
        return self._locks[session_id]

    def open(
        self,
        player_id: str,
        exercise_type_id: str,
        params: Mapping[str, str],
        *,
        given: Series | None = None,
        anyway: bool = False,
        at: datetime | None = None,
    ) -> PracticeSession:
        """A session with one series; `given` is one that no exercise type makes, from a file for instance.

        CareError when something speaks against it; with `anyway` it is begun all the same, and that is kept.
        """
        person = self._players.get(player_id)
        load = exercise_type_named(exercise_type_id).load if exercise_type_id in EXERCISE_TYPES else Load.MEDIUM
        against = self._against(person, load, at or now(), anyway=anyway)
        wanted, why = dict(params), ""
        if given is None and exercise_type_named(exercise_type_id).counted_in_sets:
            today = self._sets_today(person, at or now())
            wanted, why = today.within(wanted), today.why
        series = given or person.series(exercise_type_id, wanted)
        plan = planned(
            series, minutes=None, why=why, in_range=self._in_range(person), step=_step(person, exercise_type_id, wanted)
        )
        routine = routine_of(person.own_instrument, person.settings.chosen, [(series, plan)])
        return self._opened(person, exercise_type_id, wanted, routine, checks=False, at=at, against=against)

    def open_day(
        self,
        player_id: str,
        minutes: int,
        *,
        lips: str = "fresh",
        quiet: bool = False,
        kept: Iterable[KeptBlock] = (),
        without: Iterable[str] = (),
        arranged: bool = False,
        anyway: bool = False,
        at: datetime | None = None,
    ) -> PracticeSession:
        """A session with the day as it is planned now, or as the player arranged it.

        CareError after a report that ended the day's playing; with `anyway` it is begun all the same.
        """
        person, moment = self._players.get(player_id), at or now()
        felt, left_out = lips_named(lips), sorted(without)
        against = self._against(person, Load.EASY, moment, anyway=anyway)
        no_heavy = self._lips_today(person.id, moment).no_heavy
        known, plan = self._planning.day(
            person,
            minutes,
            CheckIn(felt, quiet, no_heavy),
            kept=kept,
            without=left_out,
            arranged=arranged,
            at=moment,
        )
        heavy = too_heavy(known, plan.blocks)
        if heavy is not None and not anyway:
            raise CareError(heavy)
        series = day_series(known, plan)
        blocks = zip(series, planned_blocks(known, plan, series), strict=True)
        routine = routine_of(person.own_instrument, person.settings.chosen, blocks)
        params = {"minutes": str(plan.minutes), "lips": str(felt), "kind": str(plan.kind)}
        params |= ({"quiet": "yes"} if quiet else {}) | ({ARRANGED: "yes"} if arranged else {})
        params |= {WITHOUT: ",".join(left_out)} if left_out else {}
        return self._opened(
            person, DAY, params, routine, checks=person.settings.checks and not quiet, at=at, against=against or heavy
        )

    def no_heavy_today(self, player_id: str) -> str | None:
        """Why there is no heavy work today, as a session of today or yesterday said; None where there may be some."""
        return self._lips_today(player_id, now()).no_heavy

    def open_free(self, person: Player, *, at: datetime | None = None) -> PracticeSession:
        """A session without an exercise. Nothing is asked, so nothing speaks against it."""
        routine = free_routine(person.own_instrument)
        return self._opened(person, FREE_PRACTICE, {}, routine, checks=False, at=at, against=None)

    def get(self, session_id: str) -> PracticeSession:
        """Where it stands; MissingError when there is none by that id, LockedError where its player's PIN was not given."""
        with self._record.database.reading() as db:
            session = session_of(db, require_row(db, SessionRow, session_id, _WHAT))
        self._record.pins.require(session.player_id)
        return session

    def latest(self, player_id: str) -> PracticeSession | None:
        """The session that was left open last, if it is not over."""
        of_player = (SessionRow.player_id == player_id, SessionRow.exercise_type != FREE_PRACTICE)
        query = select(SessionRow).where(*of_player).order_by(SessionRow.started_at.desc()).limit(1)
        with self._record.database.reading() as db:
            row = db.scalars(query).first()
            return session_of(db, row) if row is not None and row.ended_at is None else None

    def unfinished(self) -> tuple[PracticeSession, ...]:
        """Sessions that are not over, for the recovery at a start."""
        with self._record.database.reading() as db:
            rows = db.scalars(select(SessionRow).where(SessionRow.ended_at.is_(None)))
            return tuple(session_of(db, row) for row in rows)

    def step(self, session_id: str, event: Event) -> Step:
        """One step of the machine, kept before anything else is done. ConflictError when it makes no sense now.

        Where a planned day gives way in it, what is left of the day is chosen anew.
        """
        with self.lock(session_id):
            with self._record.database.reading() as db:
                row = require_row(db, SessionRow, session_id, _WHAT)
                before = from_json(SessionState, row.state)
                made = step(before, event)
                anew = replan_session_rest(db, self._players, self._planning, row, before, made.state)
            if anew is not None:
                made = replace(made, state=anew.state)
            write = written(session_id, before, made.state)
            with self._record.database.writing() as db:
                write(db)
                if anew is not None:
                    write_rest(db, session_id, anew)
        return made

    def claim(self, session_id: str, token: str | None, *, take_over: bool) -> tuple[str | None, bool]:
        """Who drives the session: (token, True) for the owner, (None, False) for a watcher.

        A window may bring a token of its own making: it is known by it even where it never heard the answer.
        """
        with self.lock(session_id), self._record.database.writing() as db:
            row = require_row(db, SessionRow, session_id, _WHAT)
            if row.owner is not None and row.owner != token and not take_over:
                return None, False
            if row.owner is None or row.owner != token:
                row.owner = token or secrets.token_hex(16)
            return row.owner, True

    def remark(self, session_id: str, text: str) -> None:
        """Write the player's own words on a session."""
        with self._record.database.writing() as db:
            require_row(db, SessionRow, session_id, "session").remark = text

    def let_go(self, session_id: str) -> None:
        """Nobody leads it any more: the next window that comes does."""
        with self.lock(session_id), self._record.database.writing() as db:
            require_row(db, SessionRow, session_id, _WHAT).owner = None

    def _in_range(self, person: Player) -> PlayerRange:
        with self._record.database.reading() as db:
            ladder = range_summary_of(db, person)
        return PlayerRange(ladder.alone, ladder.joined)

    def _against(self, person: Player, load: Load, at: datetime, *, anyway: bool) -> str | None:
        """What speaks against playing it now; CareError unless it is wanted all the same."""
        why = advised_against(load, person.settings.care, self._lips_today(person.id, at))
        if why is not None and not anyway:
            raise CareError(why)
        return why

    def _lips_today(self, player_id: str, at: datetime) -> LipsToday:
        with self._record.database.reading() as db:
            return lips_today(db, player_id, at)

    def _sets_today(self, person: Player, at: datetime) -> SetsToday:
        """How many sets may be played, from those that were really played on the instrument in hand."""
        with self._record.database.reading() as db:
            played = sets_of(db, person, local_day(at))
        care = person.settings.care
        return sets_today(played, local_day(at), braces=care.braces, returning=care.returning)

    def _opened(
        self,
        person: Player,
        exercise_type: str,
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
            approaches=terms.chosen,
            care=terms.care,
            tempo_steps=person.settings.tempo_steps,
            in_time=person.settings.practises_in_time,
            rest_bars=person.settings.rest_bars,
            light=params.get("kind") == DayKind.LIGHT,
        )
        state = replace(state, against=against)
        blocks = routine.blocks
        row = SessionRow(
            id=uuid4().hex,
            player_id=person.id,
            exercise_type=exercise_type,
            title=blocks[0].title if len(blocks) == 1 else day_title(routine.plan),
            instrument=person.instrument,
            params=to_json(dict(params), Params),
            terms=to_json(terms),
            state=to_json(state),
            summary=to_json(summary_of(state)),
            started_at=at or now(),
        )
        series = [*enumerate(blocks), (CHECK_BLOCK, routine.check)]
        rows = [SessionBlockRow(session_id=row.id, number=number, series=to_json(item)) for number, item in series]
        with self._record.database.writing() as db:
            db.add(row)
            db.flush()
            db.add_all(rows)
        return self.get(row.id)
