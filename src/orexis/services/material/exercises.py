"""The material of practice as a player sees it: exercise types on the instrument in hand, exercises to look at and to hear, own exercises."""

from dataclasses import dataclass, replace
from datetime import datetime
from textwrap import shorten
from uuid import uuid4

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orexis.core.exercises import (
    AS_WRITTEN,
    MAX_TEXT,
    TUNE,
    Exercise,
    Meter,
    Param,
    Series,
    TunePart,
    melody_of_line,
    score_params,
    score_says,
    score_series,
)
from orexis.core.instruments import Instrument, Part
from orexis.core.messages import tell
from orexis.core.sound import Sound
from orexis.errors import ExerciseError, InputError
from orexis.files.engraving import exercise_to_svg
from orexis.files.tune_files import read_on
from orexis.services.clock import now, utc
from orexis.services.documents import Params, from_json, to_json
from orexis.services.material.exercise_sound import exercise_wav
from orexis.services.material.played_in import line_of_sound
from orexis.services.material.staff_words import with_staff_words
from orexis.services.record import Record, require_owned
from orexis.services.rows.readable import readable
from orexis.services.values.players import Player
from orexis.services.work import Workers
from orexis.store.models import OwnExerciseRow

_MOST_OWN = 500  # more cannot be found again in a list
_NAME_LENGTH = 80  # one line
_TITLE = 40  # fits the stand
_AS_WRITTEN = {"octave": AS_WRITTEN}
_ENGRAVING_S, _SOUND_S, _READING_S, _HEARING_S = 20.0, 60.0, 20.0, 60.0


@dataclass(frozen=True, slots=True)
class ExerciseRequest:
    """What to make: an exercise type with parameters, or an exercise that the player keeps."""

    exercise_type: str
    params: dict[str, str]
    own: str | None = None


@dataclass(frozen=True, slots=True)
class OwnExercise:
    """An exercise that the player keeps: an exercise type with parameters, or an exercise that came from a file."""

    id: str
    name: str
    instrument: str
    exercise_type: str
    params: dict[str, str]
    exercise: Exercise | None
    made_at: datetime
    words: str = ""  # how it is to be played
    choices: tuple[Param, ...] = ()  # of a tune from a file: part, octave, height, phrases


@dataclass(frozen=True, slots=True)
class WrittenLine:
    """Notes as the player writes them: see core/exercises/own_line.py."""

    text: str
    tempo_bpm: float = 72.0
    beats_per_bar: int = 4


def _tune_of(person: Player, line: WrittenLine, title: str) -> tuple[TunePart, ...]:
    part, meter = person.own_instrument.part(person.part), Meter(line.beats_per_bar)
    read = melody_of_line(line.text, part.transposition, title=title, tempo_bpm=line.tempo_bpm, meter=meter)
    return (TunePart(title, read),)


class Material:
    """Exercises as a player wishes for them, and those of their own."""

    def __init__(self, record: Record, workers: Workers) -> None:
        self._record, self._workers = record, workers

    def series(self, person: Player, wish: ExerciseRequest) -> Series:
        """The series wished for, on the instrument in hand."""
        if wish.own is None:
            return person.series(wish.exercise_type, wish.params)
        kept = self.own_exercise(person, wish.own)
        parts = self.tune(person, wish.own)
        if parts:
            given = kept.params | wish.params
            made = self._workers.run(score_series, person.own_instrument, parts, given, seconds=_READING_S)
            return _with_words(replace(made, title=kept.name), kept.words)
        if kept.exercise is not None:
            if kept.exercise.instrument != person.instrument:
                raise ExerciseError(
                    tell("“{kept}” was made for another instrument: choose that instrument to play it.", kept=kept.name)
                )
            return _with_words(Series(kept.exercise_type, person.instrument, kept.name, (kept.exercise,)), kept.words)
        return _with_words(person.series(kept.exercise_type, kept.params), kept.words)

    def says(self, person: Player, wish: ExerciseRequest) -> tuple[str, ...]:
        """What became of a tune on the way from its file to this exercise; nothing of any other."""
        if wish.own is None:
            return ()
        kept, parts = self.own_exercise(person, wish.own), self.tune(person, wish.own)
        return score_says(person.own_instrument, parts, kept.params | wish.params) if parts else ()

    def svg(self, exercise: Exercise, instrument: Instrument, part: Part) -> str:
        """Return an exercise engraved as SVG."""
        if exercise.from_file:
            return self._workers.run(exercise_to_svg, exercise, instrument, part, seconds=_ENGRAVING_S)
        return exercise_to_svg(with_staff_words(exercise), instrument, part)

    def wav(self, exercise: Exercise, a4: float, *, click: bool) -> bytes:
        """Return an exercise as a WAV file to listen to, with or without its click."""
        return self._workers.run(exercise_wav, exercise, a4, click=click, seconds=_SOUND_S)

    def own_exercises(self, person: Player) -> tuple[OwnExercise, ...]:
        """What the player keeps, newest first."""
        query = (
            select(OwnExerciseRow).where(OwnExerciseRow.player_id == person.id).order_by(OwnExerciseRow.made_at.desc())
        )
        with self._record.database.reading() as db:
            return readable(db.scalars(query), lambda row: _own_exercise_of(row, person.own_instrument))

    def own_exercise(self, person: Player, own_id: str) -> OwnExercise:
        """Return a kept exercise of the player; MissingError where there is none by that id."""
        with self._record.database.reading() as db:
            return _own_exercise_of(_row(db, person, own_id), person.own_instrument)

    def tune(self, person: Player, own_id: str) -> tuple[TunePart, ...]:
        """The parts of a kept tune from a file; none of any other exercise."""
        with self._record.database.reading() as db:
            text = _row(db, person, own_id).tune
        return from_json(tuple[TunePart, ...], text) if text else ()

    def keep(
        self,
        person: Player,
        name: str,
        wish: ExerciseRequest,
        exercise: Exercise | None = None,
        *,
        words: str = "",
        tune: tuple[TunePart, ...] = (),
    ) -> OwnExercise:
        """Keep parameters, an exercise or a tune from a file, under a name; `words`: how it is to be played."""
        cleaned = " ".join(name.split())
        if not 1 <= len(cleaned) <= _NAME_LENGTH:
            raise InputError(
                tell(
                    "The name has {count} letters: write 1 to {name_length}.",
                    count=len(cleaned),
                    name_length=_NAME_LENGTH,
                )
            )
        if wish.own is not None:
            tune = self.tune(person, wish.own)
            wish = ExerciseRequest(TUNE.id, wish.params) if tune else wish
        # Refuse now what could not be played later.
        if tune:
            self._workers.run(score_series, person.own_instrument, tune, wish.params, seconds=_READING_S)
        elif exercise is None:
            person.series(wish.exercise_type, wish.params)
        row = OwnExerciseRow(
            id=uuid4().hex,
            player_id=person.id,
            name=cleaned,
            instrument=person.instrument,
            exercise_type=wish.exercise_type,
            params=to_json(dict(wish.params), Params),
            exercise=to_json(exercise) if exercise else None,
            made_at=now(),
            words=words,
            tune=to_json(tune, tuple[TunePart, ...]) if tune else None,
        )
        with self._record.database.writing() as db:
            mine = select(func.count()).select_from(OwnExerciseRow).where(OwnExerciseRow.player_id == person.id)
            if (db.scalar(mine) or 0) >= _MOST_OWN:
                raise InputError(tell("{most_own} exercises are saved already. Delete one first.", most_own=_MOST_OWN))
            db.add(row)
            db.flush()
            return _own_exercise_of(row, person.own_instrument)

    def written(self, person: Player, line: WrittenLine) -> Series:
        """An exercise from a line of text, as it is written in the part; ExerciseError says what cannot be read."""
        tune = _tune_of(person, line, "Your own")
        return self._workers.run(score_series, person.own_instrument, tune, _AS_WRITTEN, seconds=_READING_S)

    def keep_written(self, person: Player, name: str, line: WrittenLine) -> OwnExercise:
        """The same, kept under a name."""
        title = shorten(name, _TITLE, placeholder=" …") or "Your own"
        return self.keep(person, name, ExerciseRequest(TUNE.id, dict(_AS_WRITTEN)), tune=_tune_of(person, line, title))

    def played_in(self, person: Player, sound: Sound, tempo_bpm: float) -> str:
        """What was played once, as a line of text in the player's part."""
        part = person.own_instrument.part(person.part)
        given = (sound, part.transposition, tempo_bpm, person.a4_hz)
        return self._workers.run(line_of_sound, *given, seconds=_HEARING_S)

    def forget(self, person: Player, own_id: str) -> None:
        """Delete a kept exercise; takes made of it keep their own copy."""
        with self._record.database.writing() as db:
            db.delete(_row(db, person, own_id))

    def imported(self, person: Player, data: bytes, *, name: str, semitones: int = 0) -> OwnExercise:
        """A tune by its parts, or an exercise, from a file, and kept; the first part's choices are what was asked for."""
        read = self._workers.run(read_on, data, person.own_instrument, seconds=_READING_S)
        if isinstance(read, Exercise):
            return self.keep(person, name or read.title, ExerciseRequest(read.exercise_type, {}), read)
        chosen = {"semitones": str(semitones)} if semitones else {}
        title = read[0].melody.title
        return self.keep(person, name or title, ExerciseRequest(TUNE.id, chosen), tune=read)


def _with_words(series: Series, words: str) -> Series:
    """Words of a teacher stand beside the exercise at the stand, in place of its own hint."""
    if not words:
        return series
    hint = shorten(words, MAX_TEXT, placeholder=" …")
    return replace(series, exercises=tuple(replace(exercise, hint=hint) for exercise in series.exercises))


def _row(db: Session, person: Player, own_id: str) -> OwnExerciseRow:
    return require_owned(db, OwnExerciseRow, own_id, person.id, "exercise")


def _own_exercise_of(row: OwnExerciseRow, instrument: Instrument) -> OwnExercise:
    exercise = from_json(Exercise, row.exercise) if row.exercise else None
    params = {key: str(value) for key, value in from_json(Params, row.params).items()}
    choices = score_params(instrument, from_json(tuple[TunePart, ...], row.tune)) if row.tune else ()
    return OwnExercise(
        row.id, row.name, row.instrument, row.exercise_type, params, exercise, utc(row.made_at), row.words, choices
    )
