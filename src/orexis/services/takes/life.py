"""The life of a take, from *begin* to *kept*: for the live socket, for files dropped in, for the simulated player, for
recovery after a crash.

    begin -> (sound arrives) -> end -> judge -> keep -> forget the journal

Every way in goes through here. A take is known by its key from the moment it begins: said again, a step changes nothing.
Its sound is in the journal before its session knows of it, and leaves the journal after the record has it, so that a kill
at any moment leaves something to go on from. The session's lock is held here, and the effects that its machine asks for
are carried out here and nowhere else.
"""

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import uuid4

import numpy as np

from orexis.core.coach import judge
from orexis.core.exercises import FREE_PRACTICE, Exercise
from orexis.core.measures import Measures
from orexis.core.practice import OPEN_PHASES, Effect, EffectName, Event, EventName, Phase, SessionState, step
from orexis.core.sound import Sound
from orexis.core.trace import Trace
from orexis.errors import BusyError, ConflictError, SoundError, StorageError
from orexis.services.clock import now
from orexis.services.documents import to_json
from orexis.services.ear import Ear
from orexis.services.journal import REHEARSED, JournalFile, TakeHead, why_broken
from orexis.services.judging.bearing import result_of
from orexis.services.judging.judge import Judgement, Work, judged, judgement_of
from orexis.services.judging.reference import reference_of
from orexis.services.projections.kept_take import KeptTake
from orexis.services.projections.registry import apply_take
from orexis.services.record import Record
from orexis.services.rows.takes import fact_of, take_of, take_row
from orexis.services.sessions.use import Sessions, written
from orexis.services.takes.given import click_of, takes_before, with_mute
from orexis.services.takes.open_take import OpenTake
from orexis.services.takes.recorded import RecordedTakes
from orexis.services.takes.trash import forget_session
from orexis.services.values.sessions import PracticeSession
from orexis.services.values.takes import Take
from orexis.services.work import Workers

_WHOLE_BLOCK_S = 10.0  # bounds memory
_SILENT_RATE = 8_000  # Hz: nothing is heard, so the smallest that readers accept
_JUDGING_S = 300.0  # far longer than judging ten minutes takes


@dataclass(slots=True)
class CompleteTake:
    """A take whose sound is complete."""

    head: TakeHead
    sound: Sound
    trace: Trace | None = field(default=None)
    recovered: bool = False


class Takes(RecordedTakes):
    """Takes under way and their way into the record."""

    def __init__(self, record: Record, sessions: Sessions, workers: Workers, ear: Ear) -> None:
        super().__init__(record, sessions)
        self._workers, self._ear = workers, ear
        self._open: dict[str, OpenTake] = {}  # by session
        self._complete: dict[str, CompleteTake] = {}  # by take, between its end and its judgement
        self._parts: set[str] = set()  # of free playing that are being written
        self._busy_at = datetime.min.replace(tzinfo=UTC)  # when a take last began, ended or was judged
        self._carried: dict[EffectName, Callable[[str, str], None]] = {
            EffectName.OPEN_TAKE: self._opened,
            EffectName.CLOSE_TAKE: self._closed,
            EffectName.DROP_TAKE: self._dropped,
            EffectName.ERASE_TAKE: lambda session_id, key: self._set_discarded(key, discarded=True),
        }

    # -- under way -------------------------------------------------------------------------------------------------

    def under_way(self, session_id: str) -> OpenTake | None:
        """The take that is being heard in a session."""
        return self._open.get(session_id)

    @property
    def count(self) -> int:
        """How many takes are being heard."""
        return len(self._open)

    def is_quiet(self, seconds: float) -> bool:
        """Whether nothing was heard or judged for so long: time for work that can wait."""
        return not self._open and (now() - self._busy_at).total_seconds() > seconds

    def begin(self, head: TakeHead) -> OpenTake:
        """Open a take, or go on with the one of this key. ConflictError when the session is not waiting for one."""
        with self._sessions.lock(head.session_id):
            present = self._open.get(head.session_id)
            if present is not None and present.file.head.take_id == head.take_id:
                return present
            if self.kept(head.take_id):
                raise ConflictError("This take is saved already.")
            fresh = not self._record.journal.has(head.take_id)
            head = self.with_mute(head) if fresh else head
            self._record.journal.open(head).close()
            try:
                self._begun(head)
            except ConflictError:
                if fresh:
                    self._record.journal.remove(head.take_id)
                raise
            return self._open[head.session_id]

    def with_mute(self, head: TakeHead) -> TakeHead:
        """The head with what the player says is in the bell."""
        return with_mute(self._record, head)

    def _begun(self, head: TakeHead) -> None:
        session = self._sessions.get(head.session_id)
        state = session.state
        if state.take_key != head.take_id:
            self.happen(head.session_id, Event(EventName.BEGIN, head.take_id))
        elif state.phase in (Phase.COUNT_IN, Phase.LISTENING):
            self._hear(session, head.take_id)  # after a restart of the server
        else:
            raise ConflictError("This take has ended and is being judged.")

    def resume(self, session_id: str) -> PracticeSession:
        """After a restart: take up what the journal holds of the session's take, where it was still being heard.

        Where the session stands.
        """
        with self._sessions.lock(session_id):
            session = self._sessions.get(session_id)
            key = session.state.take_key
            heard = session.state.phase in (Phase.COUNT_IN, Phase.LISTENING)
            if session_id not in self._open and key is not None and heard and self._record.journal.has(key):
                self._hear(session, key)
            return session

    def happen(self, session_id: str, event: Event) -> SessionState:
        """Anything that happens to a session, its effects carried out."""
        self._busy_at = now()
        with self._sessions.lock(session_id):
            made = self._sessions.step(session_id, event)
            for effect in made.effects:
                self._carry_out(session_id, effect)
            return made.state

    def end(self, session_id: str) -> Take | None:
        """The take under way is over: judge and keep it. Said again while it is being judged, it is judged once more.

        None when there is none. StorageError leaves it in the journal, to be ended again.
        """
        with self._sessions.lock(session_id):
            phase = self._sessions.get(session_id).state.phase
            if phase in (Phase.COUNT_IN, Phase.LISTENING):
                self.happen(session_id, Event(EventName.ENDED))
            elif phase != Phase.JUDGING:
                return None
            return self._judge(session_id)

    def whole(
        self,
        session_id: str,
        sound: Sound,
        *,
        source: str,
        first_beat_sample: int | None,
        device: dict[str, Any],
        at: datetime | None = None,
    ) -> Take:
        """A take that comes in one piece goes the same way as one that is heard live."""
        moment = (at or now()).isoformat()
        head = self.with_mute(TakeHead(uuid4().hex, session_id, sound.rate, first_beat_sample, source, device, moment))
        with self._sessions.lock(session_id):
            session = self._sessions.get(session_id)
            step(session.state, Event(EventName.BEGIN, head.take_id))  # refused before anything is written
            file = self._record.journal.open(head)
            block = round(_WHOLE_BLOCK_S * sound.rate)
            try:
                for start in range(0, len(sound.samples), block):
                    file.append(sound.samples[start : start + block])
            finally:
                file.close()
            self._sessions.step(session_id, Event(EventName.BEGIN, head.take_id))
            self._sessions.step(session_id, Event(EventName.ENDED))
            self._complete[head.take_id] = CompleteTake(head, sound)
            made = self._judge(session_id)
        assert made is not None
        return made

    def measured(self, session_id: str, plays: Callable[[Exercise], Measures], *, at: datetime) -> Take:
        """A take of rehearsed weeks: measures without sound, judged and kept as any other."""
        facts = {"label": "rehearsed"}
        head = self.with_mute(TakeHead(uuid4().hex, session_id, _SILENT_RATE, 0, REHEARSED, facts, at.isoformat()))
        with self._sessions.lock(session_id):
            session = self._sessions.get(session_id)
            begun = step(session.state, Event(EventName.BEGIN, head.take_id)).state
            session = replace(session, state=step(begun, Event(EventName.ENDED)).state)
            exercise, terms = session.exercise, session.terms
            measures = plays(exercise)
            verdict = judge(
                measures, exercise, terms.limits, misses_before=session.state.misses, approaches=terms.chosen
            )
            judgement = judgement_of(head.take_id, head.day, exercise, terms, measures, verdict)
            silence = np.broadcast_to(np.float32(0.0), (round(_SILENT_RATE * exercise.duration_s),))
            return self._keep(session, CompleteTake(head, Sound(silence, _SILENT_RATE)), judgement)

    # -- free playing ----------------------------------------------------------------------------------------------

    def open_part(self, head: TakeHead) -> JournalFile:
        """A part of free playing begins: its sound goes into the journal, and its session is told when it is over."""
        self._busy_at = now()
        self._parts.add(head.take_id)
        return self._record.journal.open(head)

    def drop_part(self, key: str) -> None:
        """A part in which hardly anything sounded is not kept."""
        self._parts.discard(key)
        self._record.journal.remove(key)

    def keep_part(self, key: str, *, recovered: bool = False) -> Take | None:
        """A part is over: read it and keep it. None when no note was played in it. One that is recovered ends its session."""
        self._busy_at = now()
        self._parts.discard(key)
        head, sound = self._record.journal.head(key), self._record.journal.sound(key)
        with self._sessions.lock(head.session_id):
            state = self._sessions.get(head.session_id).state
            if state.phase in OPEN_PHASES and state.take_key != key:  # that one's sound has its own turn
                self._sessions.step(head.session_id, Event(EventName.DROP))
            if state.phase == Phase.DONE:
                self._sessions.step(head.session_id, Event(EventName.RESUME))
            if state.take_key != key or state.phase not in OPEN_PHASES:
                self._sessions.step(head.session_id, Event(EventName.BEGIN, key))
            if self._sessions.get(head.session_id).state.phase != Phase.JUDGING:
                self._sessions.step(head.session_id, Event(EventName.ENDED))
            self._complete[key] = CompleteTake(head, sound, recovered=recovered)
            made = self._judge(head.session_id)
            if recovered or state.phase == Phase.DONE:
                self._sessions.step(head.session_id, Event(EventName.STOP))
            return made

    def recover(self, key: str, *, shortest_s: float) -> Take | None:
        """Finish a take that a crash cut off. One that the record has, or too short to hold anything, is forgotten."""
        head = self._record.journal.head(key)
        if key in self._parts:
            return None
        if self._sessions.get(head.session_id).exercise_type == FREE_PRACTICE and not self.kept(key):
            return self.keep_part(key, recovered=True)
        with self._sessions.lock(head.session_id):
            if head.session_id in self._open:
                return None
            state = self._sessions.get(head.session_id).state
            sound = self._record.journal.sound(key)
            if self.kept(key) or state.take_key != key or sound.duration_s < shortest_s:
                self._record.journal.remove(key)
                return None
            if state.phase in (Phase.COUNT_IN, Phase.LISTENING):
                self._sessions.step(head.session_id, Event(EventName.ENDED))
            self._complete[key] = CompleteTake(head, sound, recovered=True)
            return self._judge(head.session_id)

    def close(self) -> None:
        """The server stops: takes under way stay in the journal, to be taken up or finished at the next start."""
        for take in self._open.values():
            take.close()
        self._open.clear()

    # -- what the machine asks for ---------------------------------------------------------------------------------

    def _carry_out(self, session_id: str, effect: Effect) -> None:
        self._carried[effect.name](session_id, effect.take_key)

    def _opened(self, session_id: str, key: str) -> None:
        self._hear(self._sessions.get(session_id), key)

    def _hear(self, session: PracticeSession, key: str) -> None:
        self._open[session.id] = OpenTake(
            self._record.journal.file(key),
            session.exercise,
            self._ear,
            a4=session.terms.a4_hz,
            in_time=session.state.runs_in_time,
        )

    def _closed(self, session_id: str, key: str) -> None:
        take = self._open.pop(session_id, None)
        if take is not None:
            self._complete[key] = CompleteTake(take.file.head, *take.finish())

    def _dropped(self, session_id: str, key: str) -> None:
        take = self._open.pop(session_id, None)
        if take is not None:
            take.close()
        self._complete.pop(key, None)
        self._record.journal.remove(key)

    # -- judging and keeping ---------------------------------------------------------------------------------------

    def _judge(self, session_id: str) -> Take | None:
        self._busy_at = now()
        session = self._sessions.get(session_id)
        key = session.state.take_key
        if key is None:
            return None
        heard = self._complete.get(key)
        if heard is None:
            if not self._record.journal.has(key):
                return None
            heard = CompleteTake(self._record.journal.head(key), self._record.journal.sound(key))
        try:
            judgement = self._judgement(self._work(session, heard))
        except StorageError:
            raise  # it stays in the journal, to be judged when there is room
        except Exception as error:
            self._give_up(session_id, key, error)
            raise SoundError(
                "This take could not be judged. Its sound is set aside in the data folder, under journal/broken."
            ) from error
        if session.exercise.asks_nothing and not judgement.measures.notes:
            self.happen(session_id, Event(EventName.DROP))
            return None
        made = self._keep(session, heard, judgement)
        self._busy_at = now()
        self._complete.pop(key, None)
        self._record.journal.remove(key)
        return made

    def _judgement(self, work: Work) -> Judgement:
        """Judged in a worker as soon as the ear is ready; once more in a new one where the first died of something else."""
        self._ear.wait()
        try:
            return self._workers.run(judged, work, seconds=_JUDGING_S)
        except BusyError:
            return self._workers.run(judged, work, seconds=_JUDGING_S)

    def _give_up(self, session_id: str, key: str, error: Exception) -> None:
        """A take that cannot be judged must not hold its session: set aside with the reason, never deleted."""
        self._record.journal.set_aside(key, why_broken(error))
        self._complete.pop(key, None)
        self.happen(session_id, Event(EventName.DROP))

    def _work(self, session: PracticeSession, heard: CompleteTake) -> Work:
        head = heard.head
        with self._record.database.reading() as db:
            free = session.exercise.asks_nothing
            reference = None if free else reference_of(db, session.player_id, session.terms, head)
            delay_s, click_db = click_of(db, head)
        return Work(
            head,
            heard.sound,
            heard.trace,
            session.exercise,
            session.terms,
            session.state.misses,
            reference,
            delay_s,
            click_db,
            self._record.sound_path(head.take_id) if head.keeps_sound else None,
        )

    def _keep(self, session: PracticeSession, heard: CompleteTake, judgement: Judgement) -> Take:
        """Write the take, its summaries and its session's next state: all of it, or nothing."""
        key, before = heard.head.take_id, session.state
        with self._record.database.reading() as db:
            result = result_of(db, session, judgement, heard.sound.duration_s, heard.head.first_beat_s)
            number, last_end, played_s = takes_before(db, session.id)
        after = step(before, Event(EventName.JUDGED, key, result)).state
        end = datetime.fromisoformat(heard.head.started_at) + timedelta(seconds=heard.sound.duration_s)
        write_state = written(session.id, before, after, take_end=end)
        row = take_row(heard.head, heard.sound, session, judgement, number + 1, recovered=heard.recovered)
        row.played_before_s = played_s
        row.sound_gone_at = None if heard.head.keeps_sound else now()
        is_practice = not before.checking and not session.exercise.asks_nothing
        row.fact = to_json(fact_of(row, session, judgement, last_end=last_end)) if is_practice else None
        with self._record.database.writing() as db:
            db.add(row)
            apply_take(
                db, KeptTake(row, session.exercise, judgement.measures, judgement, session.terms, session.started_at)
            )
            write_state(db)
        return take_of(row, row.analyses[0], row.analyses[0])

    # -- for good -----------------------------------------------------------------------------------------------------

    def forget_session(self, session_id: str) -> None:
        """A session with its takes and their sound, for good. ConflictError while one is being played."""
        with self._sessions.lock(session_id):
            session = self._sessions.get(session_id)
            if session_id in self._open:
                raise ConflictError("A take is being played. End it first.")
            for mark in session.state.kept:
                if self.kept(mark.take_id):
                    self.discard(mark.take_id, discarded=True)
            forget_session(self._record, session_id)
