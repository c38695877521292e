"""The log: sessions newest first, a page at a time; a session's takes; takes of the same exercise; a take's sound and trace."""

from dataclasses import dataclass
from datetime import date, datetime, time, timedelta

from sqlalchemy import ColumnElement, exists, func, or_, select

from orexis.core.coach import Outcome
from orexis.core.exercises import EXERCISE_TYPES, Exercise
from orexis.core.listen import players_sound
from orexis.core.trace import Trace, track
from orexis.errors import MissingError
from orexis.files.soundfiles import read_sound
from orexis.services.clock import local_day, now, utc
from orexis.services.documents import from_json
from orexis.services.queries.measures_by_day import middle_of_day
from orexis.services.queries.session_report import SessionReport, session_report
from orexis.services.queries.thrown_away import DiscardedTake, thrown_away
from orexis.services.record import Record, require_row
from orexis.services.rows.takes import listed, listed_take
from orexis.services.values.sessions import SessionSummary
from orexis.services.values.takes import LikeTake, ListedTake
from orexis.store.models import PlayerRow, PracticeDayRow, SessionRow, TakeRow

PAGE = 10  # sessions on one page
_MOST_LIKE = 12  # as many as a line of choices holds
_PEOPLE = select(PlayerRow.id, PlayerRow.name, PlayerRow.guest)


@dataclass(frozen=True, slots=True)
class LogSession:
    """A session as an entry of the log."""

    id: str
    exercise_type: str
    title: str
    instrument: str
    started_at: datetime
    ended_at: datetime | None
    remark: str
    summary: SessionSummary


@dataclass(frozen=True, slots=True)
class LogPage:
    """One page of the log; `total` counts all sessions that have takes."""

    sessions: tuple[LogSession, ...]
    offset: int
    total: int


@dataclass(frozen=True, slots=True)
class LogFilter:
    """What is looked for in the log; what is empty is not asked. `word`: in titles, exercise types, written notes, remarks."""

    word: str = ""
    outcome: Outcome | None = None
    reason: str = ""
    instrument: str = ""
    since: date | None = None
    until: date | None = None


EVERYTHING = LogFilter()


@dataclass(frozen=True, slots=True)
class DaySoFar:
    """What was played today on the instrument in hand."""

    takes: int = 0
    clean: int = 0
    playing_s: float = 0.0
    pitch_error_cents: float | None = (
        None  # how far off the furthest note of a take lay, in the middle of the day's takes
    )


class Log:
    """Sessions and takes as they are listed and searched."""

    def __init__(self, record: Record) -> None:
        self._record = record

    def page(self, player_id: str, *, offset: int = 0, limit: int = PAGE, wanted: LogFilter = EVERYTHING) -> LogPage:
        """Sessions that have takes, newest first; only those in which something wanted was played."""
        mine = (SessionRow.player_id == player_id, SessionRow.played, *_sought(wanted))
        row = SessionRow
        # Entries are counted off in the index; only those shown are fetched.
        shown = (
            select(row.id)
            .where(*mine)
            .order_by(row.started_at.desc())
            .limit(max(1, min(limit, PAGE)))
            .offset(max(0, offset))
        )
        query = (
            select(
                row.id,
                row.exercise_type,
                row.title,
                row.instrument,
                row.started_at,
                row.ended_at,
                row.remark,
                row.summary,
            )
            .where(row.id.in_(shown))
            .order_by(row.started_at.desc())
        )
        with self._record.database.reading() as db:
            rows = db.execute(query).all()
            total = db.scalar(select(func.count()).select_from(row).where(*mine)) or 0
        entries = tuple(
            LogSession(
                key,
                exercise_type,
                title,
                instrument,
                utc(started_at),
                utc(ended_at) if ended_at else None,
                remark,
                from_json(SessionSummary, summary),
            )
            for key, exercise_type, title, instrument, started_at, ended_at, remark, summary in rows
        )
        return LogPage(entries, max(0, offset), total)

    def session(self, session_id: str) -> SessionReport:
        """One session with everything; MissingError when there is none by that id."""
        return session_report(self._record, session_id)

    def thrown_away(self, player_id: str) -> tuple[DiscardedTake, ...]:
        """Takes that may still be brought back."""
        return thrown_away(self._record, player_id)

    def reasons(self, player_id: str) -> tuple[str, ...]:
        """Why takes of this player were not held, for the choice of what to look for."""
        query = select(TakeRow.reason).where(TakeRow.player_id == player_id, TakeRow.reason.is_not(None)).distinct()
        with self._record.database.reading() as db:
            return tuple(sorted(reason for reason in db.scalars(query) if reason))

    def instruments(self, player_id: str) -> tuple[str, ...]:
        """Return the instruments on which anything was played."""
        query = select(PracticeDayRow.instrument).where(PracticeDayRow.player_id == player_id).distinct()
        with self._record.database.reading() as db:
            return tuple(sorted(db.scalars(query)))

    def takes(self, session_id: str) -> tuple[ListedTake, ...]:
        """A session's takes that were kept, in order."""
        with self._record.database.reading() as db:
            require_row(db, SessionRow, session_id, "session")
            return tuple(listed_take(values) for values in db.execute(listed((session_id,))))

    def like(self, take_id: str) -> tuple[LikeTake, ...]:
        """Takes of the same exercise by the same player and by guests, the newest first, the take itself left out.

        Beside a guest's take lie everybody's.
        """
        with self._record.database.reading() as db:
            row = require_row(db, TakeRow, take_id, "take")
            people = {key: (name, guest) for key, name, guest in db.execute(_PEOPLE)}
            whose = {key for key in people if key == row.player_id or people[key][1] or people[row.player_id][1]}
            query = (
                select(TakeRow.id, TakeRow.number, TakeRow.started_at, TakeRow.outcome, TakeRow.player_id)
                .where(TakeRow.player_id.in_(whose), TakeRow.instrument == row.instrument)
                .where(TakeRow.exercise_id == row.exercise_id, TakeRow.id != take_id, TakeRow.discarded_at.is_(None))
                .order_by(TakeRow.started_at.desc())
                .limit(_MOST_LIKE)
            )
            return tuple(
                LikeTake(key, number, utc(at), Outcome(said), None if by == row.player_id else people[by][0])
                for key, number, at, said, by in db.execute(query)
            )

    def today(self, player_id: str, instrument: str) -> DaySoFar:
        """What was played since midnight on the wall."""
        with self._record.database.reading() as db:
            day = local_day(now())
            row = db.get(PracticeDayRow, (player_id, instrument, day))
            middle = middle_of_day(db, player_id, instrument, day, "pitch_error_cents")
            return DaySoFar(row.takes, row.clean, row.playing_s, middle) if row else DaySoFar()

    def trace(self, take_id: str) -> Trace:
        """The take's trace, tracked again from its sound, without what a loudspeaker played with it."""
        path = self._record.sound_path(take_id)
        with self._record.database.reading() as db:
            row = require_row(db, TakeRow, take_id, "take")
            exercise, a4_hz, first_beat_s = from_json(Exercise, row.exercise), row.a4_hz, row.first_beat_s
        if not path.exists():
            raise MissingError("The sound of this take is missing. Its measurements are there.")
        return track(players_sound(read_sound(path), exercise, a4=a4_hz, first_beat_s=first_beat_s))


def _sought(wanted: LogFilter) -> list[ColumnElement[bool]]:
    """Conditions on a session, and on one of its takes that were kept."""
    conditions: list[ColumnElement[bool]] = []
    if wanted.instrument:
        conditions.append(SessionRow.instrument == wanted.instrument)
    if wanted.since is not None:
        conditions.append(SessionRow.started_at >= _midnight(wanted.since))
    if wanted.until is not None:
        conditions.append(SessionRow.started_at < _midnight(wanted.until + timedelta(days=1)))
    of_take: list[ColumnElement[bool]] = []
    if wanted.outcome is not None:
        of_take.append(TakeRow.outcome == wanted.outcome)
    if wanted.reason:
        of_take.append(TakeRow.reason == wanted.reason)
    word = " ".join(wanted.word.replace("♭", "b").replace("♯", "#").split())
    if word:
        columns = (TakeRow.title, TakeRow.exercise_type, TakeRow.written, TakeRow.remark)
        called = [
            exercise_type.id for exercise_type in EXERCISE_TYPES.values() if word.lower() in exercise_type.name.lower()
        ]
        said = or_(TakeRow.exercise_type.in_(called), *(column.icontains(word, autoescape=True) for column in columns))
        kept = (TakeRow.session_id == SessionRow.id, TakeRow.discarded_at.is_(None))
        conditions.append(
            or_(exists().where(*kept, said, *of_take), SessionRow.remark.icontains(word, autoescape=True))
        )
    elif of_take:
        kept = (TakeRow.session_id == SessionRow.id, TakeRow.discarded_at.is_(None))
        conditions.append(exists().where(*kept, *of_take))
    return conditions


def _midnight(day: date) -> datetime:
    """When a day begins on the wall."""
    return datetime.combine(day, time()).astimezone()
