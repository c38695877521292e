"""Exercises recognised in free playing, and judged as such where the player wishes."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache

from orexis.core.exercises import Exercise, Medium, exercise_type_named, exercise_types_for
from orexis.core.free_practice import RecognisedExercise, recognised
from orexis.core.instruments import Instrument
from orexis.core.sound import Sound
from orexis.errors import InputError, MissingError
from orexis.files.soundfiles import read_sound
from orexis.services.record import Record
from orexis.services.sessions.use import Sessions
from orexis.services.takes.life import Takes
from orexis.services.values.players import Terms
from orexis.services.values.takes import Take


@dataclass(frozen=True, slots=True)
class FoundExercise:
    """An exercise in a part: which, its title, and where it was played."""

    take_id: str
    exercise_type: str
    index: int  # of the exercise in the exercise's series
    title: str
    start_s: float
    stop_s: float


class RecognisedExercises:
    """What of free playing was an exercise."""

    def __init__(self, record: Record, sessions: Sessions, takes: Takes) -> None:
        self._record, self._sessions, self._takes = record, sessions, takes

    def find(self, session_id: str) -> tuple[FoundExercise, ...]:
        """All that were recognised in a session's parts whose sound is there."""
        terms = self._sessions.get(session_id).terms
        takes = [self._takes.get(key) for key in self._takes.of_session(session_id)]
        return tuple(exercise for take in takes if self._sound_is_there(take) for exercise in _found(take, terms))

    def judge(self, take_id: str, exercise_type_id: str, index: int) -> Take:
        """What was recognised as this exercise, as a take of it in a session of its own. MissingError when it is not there."""
        take = self._takes.get(take_id)
        session = self._sessions.get(take.session_id)
        exercise = next(
            (one for one in _found(take, session.terms) if (one.exercise_type, one.index) == (exercise_type_id, index)),
            None,
        )
        if exercise is None:
            raise MissingError("This exercise isn’t in that part.")
        if not self._sound_is_there(take):
            raise InputError("The sound of this part wasn’t kept, so it can’t be judged.")
        series = exercise_type_named(exercise_type_id).series(session.terms.own_instrument)
        one = replace(series, exercises=(series.exercises[index],), first=0, pauses=())
        opened = self._sessions.open(session.player_id, exercise_type_id, {}, given=one, anyway=True)
        sound = read_sound(self._record.sound_path(take.id))
        part = Sound(
            sound.samples[round(exercise.start_s * sound.rate) : round(exercise.stop_s * sound.rate)], sound.rate
        )
        device = {str(key): value for key, value in take.device.items()}
        return self._takes.whole(opened.id, part, source=take.source, first_beat_sample=None, device=device)

    def _sound_is_there(self, take: Take) -> bool:
        return self._record.sound_path(take.id).exists()


def _found(take: Take, terms: Terms) -> Iterator[FoundExercise]:
    known = _exercises(terms.own_instrument)
    for hit in recognised(take.measures, [exercise for _, _, exercise in known], a4=take.a4_hz):
        yield _as_found(take, known[hit.exercise], hit)


def _as_found(take: Take, known: tuple[str, int, Exercise], hit: RecognisedExercise) -> FoundExercise:
    exercise_type, index, _ = known
    return FoundExercise(
        take.id,
        exercise_type,
        index,
        exercise_type_named(exercise_type).name,
        hit.start_s,
        min(hit.stop_s, take.duration_s),
    )


@lru_cache(maxsize=8)
def _exercises(instrument: Instrument) -> tuple[tuple[str, int, Exercise], ...]:
    """Every exercise of the instrument's exercises as they are made without any choice."""
    return tuple(
        (exercise_type.id, index, exercise)
        for exercise_type in exercise_types_for(instrument)
        if exercise_type.medium == Medium.INSTRUMENT
        for index, exercise in enumerate(exercise_type.series(instrument).exercises)
    )
