"""Lessons and review requests: put together from what a player keeps, sent as files, opened, taken over, answered."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import date, timedelta
from pathlib import Path
from uuid import UUID, uuid4, uuid5

from sqlalchemy import or_, select
from sqlalchemy.orm import Session

from orexis.core.coach import Outcome
from orexis.core.exercises import Exercise, checked_score
from orexis.core.messages import tell
from orexis.errors import ConflictError, InputError, MissingError, OrexisError
from orexis.services.clock import now, utc
from orexis.services.documents import from_json, to_json
from orexis.services.lessons.opening import from_outside, opened
from orexis.services.lessons.wrapping import head_of, wrapped
from orexis.services.material.exercises import ExerciseRequest, Material
from orexis.services.planning.goals import Goals
from orexis.services.planning.routines import OwnRoutines
from orexis.services.players.use import Players
from orexis.services.queries.progress import ProgressQueries
from orexis.services.record import Record, require_owned, require_row
from orexis.services.rows.readable import readable
from orexis.services.values.lessons import (
    MOST_ITEMS,
    MOST_TAKES,
    Answer,
    Exchange,
    ExchangeDirection,
    ExchangeKind,
    HeardTake,
    Lesson,
    LessonExercise,
    LessonGoal,
    LessonRoutine,
    OpeningReport,
    Recording,
    ReviewRequest,
    checked_name,
    checked_words,
)
from orexis.services.values.players import Player
from orexis.services.values.playing import WeekOfPlaying
from orexis.store.models import ExchangeRow, PlayerRow, TakeRow

_WEEKS = 12  # a school term
_RECENT_WEEKS = 4  # in which a lesson is still being worked at
_WHAT = "lesson or recordings"


@dataclass(frozen=True, slots=True)
class ChosenItem:
    """Something that a player keeps, by its id, and the words that go with it."""

    id: str
    words: str = ""


@dataclass(frozen=True, slots=True)
class LessonWish:
    """What a lesson is to hold, of what its maker keeps. `limits`: whether the maker's own limits go along."""

    to: str
    title: str
    words: str = ""
    exercises: tuple[ChosenItem, ...] = ()
    routines: tuple[ChosenItem, ...] = ()
    goals: tuple[ChosenItem, ...] = ()
    recordings: tuple[ChosenItem, ...] = ()
    limits: bool = False


class Lessons:
    """Lessons and review requests of the household: made, sent, opened, answered."""

    def __init__(
        self,
        record: Record,
        players: Players,
        material: Material,
        routines: OwnRoutines,
        goals: Goals,
        progress: ProgressQueries,
    ) -> None:
        self._record, self._players, self._material = record, players, material
        self._routines, self._goals, self._progress = routines, goals, progress

    # -- made here ---------------------------------------------------------------------------------------------------

    def review_request(
        self, player_id: str, take_ids: tuple[str, ...], *, to: str, title: str, words: str, weeks: bool
    ) -> Exchange:
        """Takes to be heard by somebody; with `weeks`, how it went lately goes along."""
        person = self._players.get(player_id)
        name, said = checked_name(title, "title"), checked_words(words)
        to = checked_name(to, "name of who is to hear it")
        if not 1 <= len(take_ids) <= MOST_TAKES:
            raise InputError(
                tell("{count} takes are chosen: choose 1 to {most_takes}.", count=len(take_ids), most_takes=MOST_TAKES)
            )
        with self._record.database.reading() as db:
            takes = tuple(_heard(db, person, key) for key in dict.fromkeys(take_ids))
            if len(set(db.scalars(select(TakeRow.instrument).where(TakeRow.id.in_(take_ids))))) > 1:
                raise InputError("These takes are of different instruments: send each separately.")
        says, playing = self._lately(person) if weeks else ((), ())
        return self._keep(person, ExchangeKind.REVIEW_REQUEST, ReviewRequest(to, name, said, takes, says, playing))

    def _lately(self, person: Player) -> tuple[tuple[str, ...], tuple[WeekOfPlaying, ...]]:
        shown = self._progress.read(person.id, _WEEKS)
        lines = (*shown.improving, *shown.slipped, *shown.standing)
        return tuple(line.says for line in lines), shown.playing

    def lesson(self, player_id: str, wish: LessonWish) -> Exchange:
        """A lesson of what its maker keeps. InputError when there is nothing in it."""
        person = self._players.get(player_id)
        for part in (wish.exercises, wish.routines, wish.goals, wish.recordings):
            if len(part) > MOST_ITEMS:
                raise InputError(
                    tell(
                        "{count} are chosen of one kind: {most_items} are the most.",
                        count=len(part),
                        most_items=MOST_ITEMS,
                    )
                )
        lesson = Lesson(
            checked_name(wish.to, "name of who it is for"),
            checked_name(wish.title, "title"),
            checked_words(wish.words),
            tuple(self._exercise(person, one) for one in wish.exercises),
            tuple(self._routine(person, one) for one in wish.routines),
            tuple(self._target(person, one) for one in wish.goals),
            dict(person.settings.limits) if wish.limits else {},
            tuple(self._recording(person, one) for one in wish.recordings),
        )
        if lesson.empty and not lesson.words:
            raise InputError("This lesson is empty. Choose an exercise, a routine or a goal, or write a message.")
        return self._keep(person, ExchangeKind.LESSON, lesson)

    def _exercise(self, person: Player, one: ChosenItem) -> LessonExercise:
        own, tune = self._material.own_exercise(person, one.id), self._material.tune(person, one.id)
        return LessonExercise(
            own.name,
            checked_words(one.words or own.words),
            own.instrument,
            own.exercise_type,
            own.params,
            own.exercise,
            tune,
        )

    def _routine(self, person: Player, one: ChosenItem) -> LessonRoutine:
        kept = next((routine for routine in self._routines.all(person.id) if routine.id == one.id), None)
        if kept is None:
            raise MissingError("One of the chosen routines was deleted. Choose again.")
        return LessonRoutine(kept.name, checked_words(one.words), kept.blocks)

    def _target(self, person: Player, one: ChosenItem) -> LessonGoal:
        shown = next((item for item in self._goals.all(person.id) if item.id == one.id), None)
        if shown is None:
            raise MissingError("One of the chosen goals was deleted. Choose again.")
        return LessonGoal(shown.target, shown.date, shown.says, checked_words(one.words))

    def _recording(self, person: Player, one: ChosenItem) -> Recording:
        with self._record.database.reading() as db:
            heard = _heard(db, person, one.id)
            row = db.get_one(TakeRow, one.id)
            if not self._record.sound_path(one.id).exists():
                raise InputError(tell("The sound of “{heard}” was deleted. Choose another take.", heard=heard.title))
            return Recording(one.id, heard.title, checked_words(one.words), from_json(Exercise, row.exercise))

    def _keep(self, person: Player, kind: ExchangeKind, told: Lesson | ReviewRequest) -> Exchange:
        row = ExchangeRow(
            id=uuid4().hex,
            player_id=person.id,
            kind=kind,
            way=ExchangeDirection.SENT,
            sender=person.name,
            made_at=now(),
            contents=to_json(told),
            answer=None,
            answered_by=None,
            answered_at=None,
        )
        with self._record.database.writing() as db:
            db.add(row)
            db.flush()
            return _exchange(row, person.name)

    # -- as files ----------------------------------------------------------------------------------------------------

    def file(self, exchange_id: str, *, sealed: Callable[[str], None] = lambda checksum: None) -> Iterator[bytes]:
        """What was made here, or the answer to what was received. ConflictError where there is nothing to send."""
        with self._record.database.reading() as db:
            row = require_row(db, ExchangeRow, exchange_id, _WHAT)
            exchange = _exchange(row, row.sender)
            db.expunge_all()
        told = exchange.lesson or exchange.review_request
        if exchange.way == ExchangeDirection.SENT:
            return wrapped(self._record, head_of(row, told), _takes_of(exchange), sound=True, sealed=sealed)
        if exchange.kind == ExchangeKind.LESSON or exchange.answer is None:
            raise ConflictError("There is no answer yet. Write one first.")
        return wrapped(
            self._record, head_of(row, told, exchange.answer), _takes_of(exchange), sound=False, sealed=sealed
        )

    def checksum(self, exchange_id: str) -> str:
        """The checksum of that file, to be read out to whoever opened it."""
        checksums: list[str] = []
        for _ in self.file(exchange_id, sealed=checksums.append):
            pass
        return checksums[0]

    def open(self, player_id: str, path: Path) -> OpeningReport:
        """A lesson, a review request or an answer."""
        person = self._players.get(player_id)
        came = opened(self._record, path, person.id)
        with self._record.database.reading() as db:
            row = db.get(ExchangeRow, came.head.id)
            if row is None:
                raise InputError("The remarks were imported. The recordings that they answer were deleted.")
            return OpeningReport(_of(db, row), came.checksum, came.marks, tuple(came.skipped))

    # -- in the record -----------------------------------------------------------------------------------------------

    def all(self, player_id: str) -> tuple[Exchange, ...]:
        """Those of the player, and what came from guests; the newest first."""
        mine = or_(ExchangeRow.player_id == player_id, PlayerRow.guest)
        query = select(ExchangeRow).join(PlayerRow, PlayerRow.id == ExchangeRow.player_id).where(mine)
        with self._record.database.reading() as db:
            rows = db.scalars(query.order_by(ExchangeRow.made_at.desc(), ExchangeRow.id))
            return readable(rows, lambda row: _of(db, row))

    def given_to(self, player_id: str) -> tuple[Lesson, ...]:
        """The player's lessons of the last four weeks, the newest first."""
        since = now() - timedelta(weeks=_RECENT_WEEKS)
        mine = (item for item in self.all(player_id) if item.player_id == player_id and item.made_at >= since)
        return tuple(item.lesson for item in mine if item.lesson and item.way == ExchangeDirection.RECEIVED)

    def get(self, exchange_id: str) -> Exchange:
        """One; MissingError when there is none by that id."""
        with self._record.database.reading() as db:
            return _of(db, require_row(db, ExchangeRow, exchange_id, _WHAT))

    def drop(self, exchange_id: str) -> None:
        """Forget one; takes that came with it stay with their guest."""
        with self._record.database.writing() as db:
            db.delete(require_row(db, ExchangeRow, exchange_id, _WHAT))

    def give(self, exchange_id: str, player_ids: Iterable[str], *, added: bool) -> tuple[str, ...]:
        """A lesson made here, to players who play here; with `added`, all of it becomes theirs at once.

        Whoever has it already gets no second one. Return a sentence for each part that could not be added.
        """
        exchange = self.get(exchange_id)
        if exchange.lesson is None or exchange.way != ExchangeDirection.SENT:
            raise ConflictError("Only a lesson that was written here can be given.")
        refused: list[str] = []
        for person in [self._players.get(key) for key in dict.fromkeys(player_ids)]:
            given = self._given(exchange.id, person, exchange.sender, exchange.lesson)
            if added:
                _, said = self.take_over(person.id, given, exchange.lesson.parts)
                refused += [f"{person.name}: {one}" for one in said]
        return tuple(refused)

    def _given(self, exchange_id: str, person: Player, sender: str, lesson: Lesson) -> str:
        """The lesson among what the player received; its id there is the same whenever it is given."""
        key = uuid5(UUID(exchange_id), person.id).hex
        with self._record.database.writing() as db:
            if db.get(ExchangeRow, key) is None:
                row = ExchangeRow(
                    id=key,
                    player_id=person.id,
                    kind=ExchangeKind.LESSON,
                    way=ExchangeDirection.RECEIVED,
                    sender=sender,
                    made_at=now(),
                    contents=to_json(replace(lesson, to=person.name)),
                )
                db.add(row)
        return key

    def answer(self, exchange_id: str, *, words: str, by: str) -> Exchange:
        """What somebody says of a review request as a whole; written again, it is replaced."""
        said, name = checked_words(words), checked_name(by, "writer's name")
        with self._record.database.writing() as db:
            row = require_row(db, ExchangeRow, exchange_id, _WHAT)
            if row.kind != ExchangeKind.REVIEW_REQUEST or row.way != ExchangeDirection.RECEIVED:
                raise ConflictError("Only recordings that somebody sent can be answered.")
            row.answer, row.answered_by, row.answered_at = said, name, now()
            db.flush()
            return _of(db, row)

    def take_over(self, player_id: str, exchange_id: str, wanted: tuple[str, ...]) -> tuple[Exchange, tuple[str, ...]]:
        """Parts of a lesson become the player's own: `exercise 0`, `routine 0`, `target 1`, `recording 0`, `limits`.

        Also gives a sentence for each part that could not be. What was taken over before is not taken twice.
        """
        person, exchange = self._players.get(player_id), self.get(exchange_id)
        self._record.pins.require(exchange.player_id)
        if exchange.lesson is None:
            raise ConflictError("Only a lesson can be added.")
        taken, refused = list(exchange.taken), []
        for part in dict.fromkeys(wanted):
            if part in taken:
                continue
            try:
                self._take(person, exchange.lesson, exchange.sender, part)
            except OrexisError as error:
                refused.append(str(error))
            else:
                taken.append(part)
        with self._record.database.writing() as db:
            row = require_row(db, ExchangeRow, exchange_id, _WHAT)
            row.taken = to_json(tuple(taken), tuple[str, ...])
            db.flush()
            return _of(db, row), tuple(refused)

    def _take(self, person: Player, lesson: Lesson, sender: str, part: str) -> None:
        kind, _, place = part.partition(" ")
        if kind == "limits" and lesson.limits:
            self._players.change_settings(person.id, {"limits": dict(lesson.limits)})
            return
        rows: Mapping[str, tuple[object, ...]] = {
            "exercise": lesson.exercises,
            "routine": lesson.routines,
            "goal": lesson.goals,
            "recording": lesson.recordings,
        }
        if kind not in rows or not place.isdigit() or int(place) >= len(rows[kind]):
            raise InputError(tell("There is no “{part}” in this lesson.", part=part[:30]))
        one = rows[kind][int(place)]
        if isinstance(one, LessonExercise):
            if one.exercise is not None and one.instrument != person.instrument:
                raise InputError(
                    tell("“{one}” is written for another instrument: choose that instrument first.", one=one.name)
                )
            exercise = from_outside(one.exercise) if one.exercise else None
            tune = checked_score(one.tune) if one.tune else ()
            self._material.keep(
                person, one.name, ExerciseRequest(one.exercise_type, one.params), exercise, words=one.words, tune=tune
            )
        elif isinstance(one, Recording):
            if one.exercise.instrument != person.instrument:
                raise InputError(
                    tell("“{one}” was played on another instrument: choose that instrument first.", one=one.title)
                )
            name = f"{one.title}, {sender}"
            self._material.keep(
                person,
                name[:80],
                ExerciseRequest(one.exercise.exercise_type, {}),
                from_outside(one.exercise),
                words=one.words,
            )
            self._players.change_settings(person.id, {"reference_take": one.take_id})
        elif isinstance(one, LessonRoutine):
            self._routines.keep(person.id, one.name, one.blocks)
        elif isinstance(one, LessonGoal):
            self._goals.add(person.id, one.target, date.fromisoformat(one.by))


def _heard(db: Session, person: Player, take_id: str) -> HeardTake:
    row = require_owned(db, TakeRow, take_id, person.id, "take")
    if row.discarded_at is not None:
        raise InputError("One of the chosen takes was deleted. Choose again.")
    return HeardTake(row.id, row.title, row.written, Outcome(row.outcome), utc(row.started_at))


def _takes_of(exchange: Exchange) -> tuple[str, ...]:
    if exchange.lesson is not None:
        return tuple(one.take_id for one in exchange.lesson.recordings)
    return tuple(one.id for one in exchange.review_request.takes) if exchange.review_request else ()


def _of(db: Session, row: ExchangeRow) -> Exchange:
    return _exchange(row, db.get_one(PlayerRow, row.player_id).name)


def _exchange(row: ExchangeRow, player_name: str) -> Exchange:
    kind = ExchangeKind(row.kind)
    answer = None
    if row.answered_at is not None:
        answer = Answer(row.answer or "", row.answered_by or "", utc(row.answered_at))
    return Exchange(
        row.id,
        row.player_id,
        player_name,
        kind,
        ExchangeDirection(row.way),
        row.sender,
        utc(row.made_at),
        from_json(Lesson, row.contents) if kind == ExchangeKind.LESSON else None,
        from_json(ReviewRequest, row.contents) if kind == ExchangeKind.REVIEW_REQUEST else None,
        from_json(tuple[str, ...], row.taken),
        answer,
    )
