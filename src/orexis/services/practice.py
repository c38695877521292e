"""Players, sessions, takes: the use cases, each owning its transaction and the clock."""

import secrets
from datetime import datetime
from pathlib import Path
from typing import Any, TypeVar
from uuid import uuid4

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orexis.core.coach import pedal_sets
from orexis.core.figures import Figure, Series
from orexis.core.horn import Setup, horn_named
from orexis.core.listen import Hearing, listen
from orexis.core.measures import Voice
from orexis.core.practice import (
    Event,
    Routine,
    SessionState,
    Step,
    check_series,
    planned,
    routine_for,
    state_for,
    step,
)
from orexis.core.sound import Sound
from orexis.core.trace import Trace
from orexis.errors import MissingError
from orexis.files.soundfiles import write_flac
from orexis.services.clock import now
from orexis.services.codec import from_json, to_json
from orexis.services.heard import heard_of
from orexis.services.journal import Journal, TakeHead
from orexis.services.ladder import Ladder, add_attempt, ladder_of
from orexis.services.new_rows import analysis_row, fill_player, take_row, whole_take_head
from orexis.services.reference import reference_voice
from orexis.services.rows import device_key, player_of, session_of, take_of, utc
from orexis.services.values import Player, PlayerSettings, PracticeSession, RoutineKept, Take, checked_settings
from orexis.store.database import Database
from orexis.store.models import DeviceRow, PlayerRow, SessionRow, TakeRow

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
        fill_player(row, name=name, stage=stage, horn=horn, part=part, a4_hz=a4_hz)
        with self.database.transaction() as db:
            db.add(row)
            return player_of(row)

    def change_player(
        self, player_id: str, *, name: str, stage: str, horn: str, part: str | None, a4_hz: float
    ) -> Player:
        """New settings; takes already made keep theirs."""
        with self.database.transaction() as db:
            row = _found(db, PlayerRow, player_id, "player")
            fill_player(row, name=name, stage=stage, horn=horn, part=part, a4_hz=a4_hz)
            return player_of(row)

    def player(self, player_id: str) -> Player:
        """One player; MissingError when there is none by that id."""
        with self.database.transaction() as db:
            return player_of(_found(db, PlayerRow, player_id, "player"))

    def change_settings(self, player_id: str, settings: PlayerSettings) -> Player:
        """How the player is led and judged from now on; InputError for what cannot be."""
        with self.database.transaction() as db:
            row = _found(db, PlayerRow, player_id, "player")
            row.settings = to_json(checked_settings(settings, row.stage))
            return player_of(row)

    def change_horn(self, player_id: str, setup: Setup) -> Player:
        """What is the player's own about the horn in hand; HornError for what cannot be."""
        with self.database.transaction() as db:
            row = _found(db, PlayerRow, player_id, "player")
            horn_named(player_of(row).horn).with_setup(setup)
            own = next(horn for horn in row.horns if horn.id == row.horn_id)
            own.setup = to_json(setup)
            return player_of(row)

    # -- sessions --------------------------------------------------------------------------------------------------

    def open_session(
        self,
        player_id: str,
        family: str,
        params: dict[str, str],
        *,
        given: Series | None = None,
        at: datetime | None = None,
    ) -> PracticeSession:
        """A sitting with one series; `given` is one that no family makes, from a file for instance."""
        person = self.player(player_id)
        if family == "pedal-sets" and "sets" not in params and given is None:
            params = {**params, "sets": str(pedal_sets(self._weeks_of(person, family, at or now())))}
        series = given or person.series(family, params)
        plan = planned(series, minutes=None, why="", top_owned=self.ladder(person).range.high)
        routine = Routine((series,), (plan,), check_series(person.instrument))
        return self._open(person, family, params, routine, checks=False, at=at)

    def _weeks_of(self, person: Player, family: str, at: datetime) -> float:
        """Weeks since the player's first take of a family on the horn in hand; 0 when there is none."""
        query = (
            select(func.min(TakeRow.started_at))
            .join(SessionRow)
            .where(SessionRow.player_id == person.id, TakeRow.horn == person.horn, TakeRow.discarded_at.is_(None))
            .where(TakeRow.figure["family"].as_string() == family)
        )
        with self.database.transaction() as db:
            first = db.scalar(query)
        return max(0.0, (at - utc(first)).days / 7.0) if first else 0.0

    def open_routine(
        self,
        player_id: str,
        minutes: int,
        *,
        lips: str = "fresh",
        quiet: bool = False,
        at: datetime | None = None,
    ) -> PracticeSession:
        """A sitting with the built-in routine of so many minutes, its register work placed by the ladder."""
        person = self.player(player_id)
        routine = self.routine(person, minutes, lips=lips, quiet=quiet)
        params = {"minutes": str(minutes), "lips": lips} | ({"quiet": "yes"} if quiet else {})
        return self._open(person, "routine", params, routine, checks=person.settings.checks, at=at)

    def routine(self, person: Player, minutes: int, *, lips: str, quiet: bool = False) -> Routine:
        """The routine as it would be opened now."""
        ladder, settings = self.ladder(person), person.settings
        return routine_for(
            minutes,
            person.instrument,
            schools=settings.chosen,
            care=settings.care,
            top_owned=ladder.range.high,
            start_midi=ladder.start_up,
            lips=lips,
            quiet=quiet,
        )

    def _open(
        self,
        person: Player,
        family: str,
        params: dict[str, str],
        routine: Routine,
        *,
        checks: bool,
        at: datetime | None,
    ) -> PracticeSession:
        settings = person.settings
        state = state_for(
            routine, checks=checks, schools=settings.chosen, care=settings.care, tempo_steps=settings.tempo_steps
        )
        row = SessionRow(
            id=uuid4().hex,
            player_id=person.id,
            family=family,
            horn=person.horn,
            params=dict(params),
            routine=to_json(RoutineKept(routine.blocks, routine.check)),
            state={"machine": to_json(state), "owner": None},
            started_at=at or now(),
            ended_at=None,
        )
        with self.database.transaction() as db:
            db.add(row)
            return session_of(row)

    def ladder(self, person: Player) -> Ladder:
        """The player's rungs on the horn in hand, as of today."""
        with self.database.transaction() as db:
            return ladder_of(db, person)

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
            began = made.state.phase == "rest" and row.state["machine"]["phase"] != "rest"
            since = now().isoformat() if began else row.state.get("rest_since")
            row.state = {**row.state, "machine": to_json(made.state), "rest_since": since}
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
            reference = reference_voice(db, row, head, person.settings.reference_take)
        figure = session.figure
        hearing = self._listen(sound, figure, person, head, trace, session.state.misses, reference)
        write_flac(self.sound_path(head.take_id), sound)
        with self.database.transaction() as db:
            number = len(db.scalars(select(TakeRow.id).where(TakeRow.session_id == session.id)).all()) + 1
            take = take_row(head, sound, session, person, figure, number, recovered=recovered)
            take.analyses.append(analysis_row(figure, hearing))
            db.add(take)
            db.flush()
            kept = _found(db, SessionRow, session.id, "session")
            machine = from_json(SessionState, kept.state["machine"])
            if machine.take_key == head.take_id:
                heard = heard_of(db, machine, person, figure, hearing, sound.duration_s)
                after = step(machine, Event("judged", head.take_id, heard)).state
                kept.state = {**kept.state, "machine": to_json(after)}
            if not machine.checking:
                add_attempt(db, person, figure, hearing, take)
            db.flush()
            made = take_of(take, person.id)
        self.journal.remove(head.take_id)
        return made

    def add_sound_take(self, session_id: str, sound: Sound, *, at: datetime | None = None) -> Take:
        """A dropped sound file as a take of the session's present figure. Its first beat is not known."""
        return self._whole_take(whole_take_head(session_id, sound, "file", None, {}, at or now()), sound)

    def add_simulated_take(self, session_id: str, sound: Sound, *, device: dict[str, Any], at: datetime) -> Take:
        """A simulated take whose first beat is its first sample."""
        return self._whole_take(whole_take_head(session_id, sound, "simulated", 0, device, at), sound)

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
        head: TakeHead,
        trace: Trace | None,
        misses: dict[str, int],
        reference: Voice | None,
    ) -> Hearing:
        delay_s, click_db = self._clicks(head)
        return listen(
            sound,
            horn=person.instrument if figure.horn == person.horn else horn_named(figure.horn),
            figure=figure,
            limits=person.limits,
            a4=person.a4_hz,
            first_beat_s=head.first_beat_s,
            trace=trace,
            misses_before=misses,
            delay_s=delay_s,
            click_db=click_db,
            reference=reference,
            schools=person.settings.chosen,
            live=head.source == "microphone",
            clicked=head.clicked,
        )

    def _clicks(self, head: TakeHead) -> tuple[float | None, float | None]:
        """The way of a click to the microphone and its peak there, as this device's last check found them."""
        if head.source == "simulated":
            return 0.0, None  # its sound enters at the very sample, and no click with it
        with self.database.transaction() as db:
            row = db.get(DeviceRow, device_key(head.device))
            return (row.delay_s, row.found["peak_db"]) if row and row.delay_s is not None else (None, None)

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


_Row = TypeVar("_Row")


def _found(db: Session, kind: type[_Row], key: str, what: str) -> _Row:
    row = db.get(kind, key)
    if row is None:
        raise MissingError(f"There is no such {what}: it may have been deleted.")
    return row
