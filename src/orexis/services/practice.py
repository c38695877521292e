"""Players, sessions, takes: the use cases, each owning its transaction and the clock."""

import secrets
from datetime import datetime
from pathlib import Path
from typing import Any, TypeVar
from uuid import uuid4

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.coach import limits_of
from orexis.core.figures import Figure, family_named
from orexis.core.horn import horn_named
from orexis.core.listen import Hearing, listen
from orexis.core.practice import Event, SessionState, Step, step
from orexis.core.sound import Sound
from orexis.core.trace import Trace
from orexis.errors import InputError, MissingError
from orexis.files.soundfiles import write_flac
from orexis.services.clock import now
from orexis.services.codec import from_json, to_json
from orexis.services.journal import Journal, TakeHead
from orexis.services.new_rows import analysis_row, take_row
from orexis.services.rows import player_of, session_of, take_of
from orexis.services.values import Player, PracticeSession, Take
from orexis.store.database import Database
from orexis.store.models import HornRow, PlayerRow, SessionRow, TakeRow

_A4_RANGE = (392.0, 466.0)
_NAME_LENGTH = 60
_SHORTEST_TAKE_S = 0.5


class Practice:
    """Everything that reads or writes the record."""

    def __init__(self, data: Path) -> None:
        self.data = data
        self.database = Database(data / "orexis.db")
        self.journal = Journal(data / "journal")

    # -- players ---------------------------------------------------------------------------------------------------

    def players(self) -> tuple[Player, ...]:
        """Everybody in the household, in the order they came."""
        with self.database.transaction() as db:
            return tuple(player_of(row) for row in db.scalars(select(PlayerRow).order_by(PlayerRow.created_at)))

    def add_player(self, *, name: str, stage: str, horn: str, part: str | None, a4_hz: float = 440.0) -> Player:
        """A new player; InputError for a name, stage or pitch that cannot be."""
        row = PlayerRow(id=uuid4().hex, created_at=now())
        _fill_player(row, name=name, stage=stage, horn=horn, part=part, a4_hz=a4_hz)
        with self.database.transaction() as db:
            db.add(row)
            return player_of(row)

    def change_player(
        self, player_id: str, *, name: str, stage: str, horn: str, part: str | None, a4_hz: float
    ) -> Player:
        """New settings; takes already made keep theirs."""
        with self.database.transaction() as db:
            row = _found(db, PlayerRow, player_id, "player")
            _fill_player(row, name=name, stage=stage, horn=horn, part=part, a4_hz=a4_hz)
            return player_of(row)

    # -- sessions --------------------------------------------------------------------------------------------------

    def open_session(
        self, player_id: str, family: str, params: dict[str, str], *, at: datetime | None = None
    ) -> PracticeSession:
        """A new sitting on the player's horn."""
        with self.database.transaction() as db:
            person = player_of(_found(db, PlayerRow, player_id, "player"))
            series = family_named(family).series(horn_named(person.horn), params)
            row = SessionRow(
                id=uuid4().hex,
                player_id=player_id,
                family=family,
                horn=person.horn,
                params=dict(params),
                series=to_json(series),
                state={"machine": to_json(SessionState(len(series.figures))), "owner": None},
                started_at=at or now(),
                ended_at=None,
            )
            db.add(row)
            return session_of(row)

    def session(self, session_id: str) -> PracticeSession:
        """Where it stands."""
        with self.database.transaction() as db:
            return session_of(_found(db, SessionRow, session_id, "session"))

    def latest_session(self, player_id: str) -> PracticeSession | None:
        """The sitting that was left open last, if it is not over."""
        query = (
            select(SessionRow).where(SessionRow.player_id == player_id).order_by(SessionRow.started_at.desc()).limit(1)
        )
        with self.database.transaction() as db:
            row = db.scalars(query).first()
            found = session_of(row) if row else None
        return found if found and found.state.phase != "done" else None

    def advance(self, session_id: str, event: Event) -> Step:
        """One step of the machine, kept before anything else is done. Effects on kept takes are carried out here."""
        with self.database.transaction() as db:
            row = _found(db, SessionRow, session_id, "session")
            made = step(from_json(SessionState, row.state["machine"]), event)
            row.state = {**row.state, "machine": to_json(made.state)}
            row.ended_at = now() if made.state.phase == "done" else None
            for effect in made.effects:
                if effect.name == "erase-take":
                    _found(db, TakeRow, effect.take_key, "take").discarded_at = now()
        for effect in made.effects:
            if effect.name == "drop-take":
                self.journal.remove(effect.take_key)
        return made

    def claim(self, session_id: str, token: str | None, *, take_over: bool) -> tuple[str | None, bool]:
        """Who drives the session: (token, True) for the owner, (None, False) for a watcher."""
        with self.database.transaction() as db:
            row = _found(db, SessionRow, session_id, "session")
            owner = row.state.get("owner")
            if owner is not None and owner != token and not take_over:
                return None, False
            if owner is None or owner != token:
                owner = secrets.token_hex(16)
                row.state = {**row.state, "owner": owner}
            return owner, True

    def release(self, session_id: str, token: str) -> None:
        """The owner's window has closed for good."""
        with self.database.transaction() as db:
            row = _found(db, SessionRow, session_id, "session")
            if row.state.get("owner") == token:
                row.state = {**row.state, "owner": None}

    # -- takes -----------------------------------------------------------------------------------------------------

    def finish_take(self, head: TakeHead, sound: Sound, trace: Trace | None = None, *, recovered: bool = False) -> Take:
        """Analyse, keep the sound, write the take, tell the session. The journal is emptied last of all."""
        with self.database.transaction() as db:
            row = _found(db, SessionRow, head.session_id, "session")
            player = _found(db, PlayerRow, row.player_id, "player")
            session, person = session_of(row), player_of(player)
        state = session.state
        figure = session.series.figures[state.figure_index]
        hearing = self._listen(sound, figure, person, head.first_beat_s, trace, state.misses)
        write_flac(self.sound_path(head.take_id), sound)
        with self.database.transaction() as db:
            number = len(db.scalars(select(TakeRow.id).where(TakeRow.session_id == session.id)).all()) + 1
            take = take_row(head, sound, session, person, figure, number, recovered=recovered)
            take.analyses.append(analysis_row(figure, hearing))
            db.add(take)
            kept = _found(db, SessionRow, session.id, "session")
            machine = from_json(SessionState, kept.state["machine"])
            if machine.take_key == head.take_id:
                kept.state = {**kept.state, "machine": to_json(_judged(machine, head.take_id, hearing))}
            db.flush()
            made = take_of(take, person.id)
        self.journal.remove(head.take_id)
        return made

    def add_sound_take(self, session_id: str, sound: Sound, *, at: datetime | None = None) -> Take:
        """A dropped sound file as a take of the session's present figure. Its first beat is not known."""
        return self._whole_take(_head(session_id, sound, "file", None, {}, at or now()), sound)

    def add_simulated_take(self, session_id: str, sound: Sound, *, device: dict[str, Any], at: datetime) -> Take:
        """A simulated take whose first beat is its first sample."""
        return self._whole_take(_head(session_id, sound, "simulated", 0, device, at), sound)

    def _whole_take(self, head: TakeHead, sound: Sound) -> Take:
        """A take that comes in one piece goes through the same steps as one that was heard live."""
        self.advance(head.session_id, Event("begin", head.take_id))
        self.advance(head.session_id, Event("ended"))
        return self.finish_take(head, sound)

    def _listen(
        self,
        sound: Sound,
        figure: Figure,
        person: Player,
        first_beat_s: float | None,
        trace: Trace | None,
        misses: dict[str, int],
    ) -> Hearing:
        return listen(
            sound,
            horn=horn_named(figure.horn),
            figure=figure,
            limits=limits_of(person.stage),
            a4=person.a4_hz,
            first_beat_s=first_beat_s,
            trace=trace,
            misses_before=misses,
        )

    def recover(self, head: TakeHead) -> Take | None:
        """Finish a take that a crash cut off. A take too short to hold anything is dropped."""
        sound = self.journal.sound(head.take_id)
        state = self.session(head.session_id).state
        if sound.duration_s < _SHORTEST_TAKE_S or state.take_key != head.take_id:
            self.journal.remove(head.take_id)
            if state.take_key == head.take_id and state.phase in ("count-in", "listening"):
                self.advance(head.session_id, Event("drop"))
            return None
        if state.phase in ("count-in", "listening"):
            self.advance(head.session_id, Event("ended"))
        return self.finish_take(head, sound, recovered=True)

    def sound_path(self, take_id: str) -> Path:
        """Where a take's sound is kept."""
        return self.data / "takes" / take_id[:2] / f"{take_id}.flac"


def _head(
    session_id: str, sound: Sound, source: str, first_beat_sample: int | None, device: dict[str, Any], at: datetime
) -> TakeHead:
    return TakeHead(uuid4().hex, session_id, sound.rate, first_beat_sample, source, device, at.isoformat())


def _judged(state: SessionState, take_id: str, hearing: Hearing) -> SessionState:
    verdict = hearing.verdict
    assert verdict is not None
    return step(state, Event("judged", take_id, verdict.outcome, verdict.reason)).state


def _fill_player(row: PlayerRow, *, name: str, stage: str, horn: str, part: str | None, a4_hz: float) -> None:
    """Settings of the person, and of the horn that is taken in hand."""
    cleaned = " ".join(name.split())
    if not 1 <= len(cleaned) <= _NAME_LENGTH:
        raise InputError(f"The name has {len(cleaned)} letters: write 1 to {_NAME_LENGTH}.")
    low, high = _A4_RANGE
    if not low <= a4_hz <= high:
        raise InputError(f"A4 is {a4_hz:g} Hz: choose {low:g} to {high:g}.")
    limits_of(stage)
    instrument = horn_named(horn)
    row.name, row.stage = cleaned, stage
    own = next((item for item in row.horns if item.instrument == horn), None)
    if own is None:
        own = HornRow(id=uuid4().hex, instrument=horn)
        row.horns.append(own)
    own.part, own.a4_hz = instrument.part(part).id, a4_hz
    row.horn_id = own.id


_Row = TypeVar("_Row")


def _found(db: Session, kind: type[_Row], key: str, what: str) -> _Row:
    row = db.get(kind, key)
    if row is None:
        raise MissingError(f"There is no such {what}: it may have been deleted.")
    return row
