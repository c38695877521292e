"""All use cases on one data folder, by noun: what the edge is handed."""

import contextlib
from collections.abc import Callable
from functools import partial
from pathlib import Path

from sqlalchemy import select

from orexis.core.messages import tell
from orexis.core.practice import OPEN_PHASES, Event, EventName
from orexis.errors import BusyError, DamagedError, OrexisError, StorageError
from orexis.services.archive.backup import weekly_backup
from orexis.services.archive.importer import has_players
from orexis.services.archive.job import Job
from orexis.services.devices import Devices
from orexis.services.ear import Ear
from orexis.services.free_practice.use import FreePractice
from orexis.services.journal import Broken, why_broken
from orexis.services.judging.judge import rehearsed
from orexis.services.lessons.class_week import ClassShown, class_week
from orexis.services.lessons.use import Lessons
from orexis.services.material.exercises import Material
from orexis.services.planning.goals import Goals
from orexis.services.planning.routines import OwnRoutines
from orexis.services.planning.use import Planning
from orexis.services.players.use import Players
from orexis.services.projections.rebuild import bring_up_to_date
from orexis.services.queries.glance import Glance, at_a_glance
from orexis.services.queries.instrument_or_player import Tuning
from orexis.services.queries.log import Log
from orexis.services.queries.progress import ProgressQueries
from orexis.services.queries.range_summary import RangeSummary, range_summary_of
from orexis.services.queries.spans import Spans
from orexis.services.record import DATABASE, Record
from orexis.services.remeasuring import Remeasuring
from orexis.services.sessions.use import Sessions
from orexis.services.simulated import SimulatedPlayer
from orexis.services.takes.keeping import Sizes, let_go, sizes
from orexis.services.takes.life import Takes
from orexis.services.takes.marks import Remarks
from orexis.services.takes.trash import forget_player, purge
from orexis.services.upkeep import calendar_agrees
from orexis.services.values.players import Keeping, Player
from orexis.services.work import Workers
from orexis.store.models import ExchangeRow, SessionRow, TakeRow

_SHORTEST_TAKE_S = 0.5  # less holds no note worth judging


def _opened(folder: Path, *, locked: bool) -> tuple[Record, tuple[str, ...]]:
    """The record, and what could not be done, in words. Where it cannot be written it is opened to be looked at."""
    try:
        record = _up_to_date(Record(folder, locked=locked))
    except StorageError as error:
        if not (folder / DATABASE).exists():
            raise
        record = _up_to_date(Record(folder, only_look=True))
        record.database.seal(str(error))
        return record, (tell("{error} You can look at everything, but nothing new is kept.", error=error),)
    return record, _tidied(record)


def _up_to_date(record: Record) -> Record:
    """The record with its summaries by the rules of this release; closed where that fails."""
    try:
        bring_up_to_date(record)
    except BaseException:
        record.close()
        raise
    return record


def _tidied(record: Record) -> tuple[str, ...]:
    """What is done at every start and can wait: a full disk keeps nobody from playing. What could not be done, in words."""
    says, believed = [], False
    try:
        believed = calendar_agrees(record)
    except StorageError as error:
        says.append(str(error))
    tasks: list[Callable[[Record], object]] = [partial(purge, believed=believed)]
    if has_players(record):
        tasks += [weekly_backup, let_go] if believed else [weekly_backup]
    for tidy in tasks:
        try:
            tidy(record)
        except (StorageError, DamagedError) as error:
            says.append(str(error))
    return tuple(dict.fromkeys(says))


_OWNED: dict[str, type[SessionRow] | type[TakeRow] | type[ExchangeRow]] = {
    "sessions": SessionRow,
    "takes": TakeRow,
    "exchanges": ExchangeRow,
}


class Application:
    """Players, sessions, takes, the log, exercises, devices."""

    def __init__(self, folder: Path, *, workers: int = 0, locked: bool = True) -> None:
        """`locked`: nobody else has the folder; without, somebody who has it lets others of their own in."""
        self.record, self.says = _opened(folder, locked=locked)
        self.ear = Ear()
        self.workers = Workers(workers, ready=rehearsed)
        self.players = Players(self.record)
        self.pins = self.record.pins
        self.pins.who_teaches = lambda: frozenset(person.id for person in self.players.teachers())
        self.planning = Planning(self.record, self.players)
        self.goals = Goals(self.record, self.players)
        self.routines = OwnRoutines(self.record)
        self.sessions = Sessions(self.record, self.players, self.planning)
        self.takes = Takes(self.record, self.sessions, self.workers, self.ear)
        self.free_practice = FreePractice(self.record, self.players, self.sessions, self.takes)
        self.log = Log(self.record)
        self.progress = ProgressQueries(self.record, self.players)
        self.spans = Spans(self.record, self.players)
        self.tuning = Tuning(self.record, self.players)
        self.material = Material(self.record, self.workers)
        self.lessons = Lessons(self.record, self.players, self.material, self.routines, self.goals, self.progress)
        self.marks = Remarks(self.record)
        self.bringing = Job(
            busy="An import is running. Wait for it, or cancel it.", stopped="Stopped. Nothing was imported."
        )
        self.reading = Job(
            busy="Another recording is being read. Wait for it, or cancel it.",
            stopped="Stopped. The parts that were read are saved.",
        )
        self.devices = Devices(self.record)
        self.remeasuring = Remeasuring(self.record, self.takes, self.workers)
        self.simulated = SimulatedPlayer(self.record, self.sessions, self.takes)

    def range_summary(self, person: Player) -> RangeSummary:
        """The player's notes on the instrument in hand, as of today."""
        with self.record.database.reading() as db:
            return range_summary_of(db, person)

    def at_a_glance(self) -> tuple[Glance, ...]:
        """Everybody: when they last played, how much, what is stuck; none where a teacher looks after that."""
        return () if self.players.teachers() else at_a_glance(self.record, self.players)

    def class_week(self) -> ClassShown:
        """How everybody in the class practises; nobody where nobody teaches here."""
        return class_week(self.record, self.players, self.goals)

    def forget_player(self, player_id: str) -> None:
        """A player with everything of theirs, for good."""
        self.pins.require(player_id)
        forget_player(self.record, player_id)
        self.pins.forget(player_id)

    def owner_of(self, kind: str, key: str) -> str | None:
        """Whose session, take or exchange it is; None where there is none by that id, and for guests' exchanges."""
        row = _OWNED[kind]
        with self.record.database.reading() as db:
            found: str | None = db.scalar(select(row.player_id).where(row.id == key))
            return found

    def sizes(self, player_id: str, keeping: Keeping, days: int) -> Sizes:
        """What sound takes up, and what would go by a choice."""
        return sizes(self.record, self.players.get(player_id).id, keeping, days)

    def left_over(self) -> tuple[str, ...]:
        """Takes that a crash cut off, by key; none where the record is only looked at: they wait until it can be written."""
        return () if self.record.only_look else tuple(self.record.journal.pending())

    def recover(self, key: str) -> str | None:
        """Finish one of them: the session it belongs to, None when it could not be. One that is broken is set aside."""
        try:
            session_id = self.record.journal.head(key).session_id
            self.takes.recover(key, shortest_s=_SHORTEST_TAKE_S)
        except (StorageError, BusyError):
            return None  # nothing is wrong with the take: it waits in the journal for a disk that takes it
        except Exception as error:  # whatever it is: the others must come back all the same
            # One that was still being played when the list was made may have been finished since.
            with contextlib.suppress(OSError):
                if self.record.journal.has(key):
                    self.record.journal.set_aside(key, why_broken(error))
            return None
        return session_id

    def free_the_stuck(self) -> tuple[str, ...]:
        """Sessions that wait for a take which is nowhere any more: they go back to their exercise."""
        freed = []
        for session in self.sessions.unfinished():
            key = session.state.take_key
            waits = session.state.phase in OPEN_PHASES and key is not None
            if not waits or key is None or self.record.journal.has(key) or self.takes.under_way(session.id):
                continue
            with contextlib.suppress(OrexisError):
                self.takes.happen(session.id, Event(EventName.DROP))
                freed.append(session.id)
        return tuple(freed)

    def broken(self) -> tuple[Broken, ...]:
        """Takes that could not be finished, and why."""
        return self.record.journal.broken()

    def seen(self, take_id: str) -> None:
        """Tell no more of one of them; what is left of it stays where it lies."""
        self.record.journal.seen(take_id)

    def close(self) -> None:
        """Stop what runs in the background, and close the record."""
        self.remeasuring.close()
        self.takes.close()
        self.workers.close()
        self.record.close()
