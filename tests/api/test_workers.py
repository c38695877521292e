"""Work in processes of its own: what takes too long or too much is ended with a sentence, and the next job goes on."""

import os
import time
from collections.abc import Iterator

import numpy as np
import pytest

from orexis.core.sound import Sound
from orexis.errors import BusyError, ExerciseError, InputError, OrexisError
from orexis.services.work import Workers
from tests.conftest import exercise_of


@pytest.fixture(scope="module")
def workers() -> Iterator[Workers]:
    made = Workers(1)
    made.warm()
    yield made
    made.close()


def for_ever() -> None:
    time.sleep(600)


def too_much() -> int:
    return int(np.ones(2_000_000_000, np.float64).sum())


def gone() -> None:
    os._exit(9)


def refused() -> None:
    raise ExerciseError("There is no such exercise.")


def process() -> int:
    return os.getpid()


def test_a_job_runs_elsewhere_and_its_error_comes_back(workers: Workers) -> None:
    assert workers.run(process, seconds=60) != os.getpid()
    with pytest.raises(ExerciseError, match="no such exercise"):
        workers.run(refused, seconds=60)


@pytest.mark.parametrize(
    ("job", "error", "says"),
    [
        (for_ever, InputError, "longer than"),
        (too_much, InputError, "too much"),
        (gone, BusyError, "stopped by itself"),
    ],
)
def test_what_goes_wrong_is_ended_and_the_next_goes_on(
    workers: Workers, job: object, error: type[OrexisError], says: str
) -> None:
    with pytest.raises(error, match=says):
        workers.run(job, seconds=3)  # type: ignore[arg-type]
    assert workers.run(process, seconds=60) > 0


def test_without_processes_jobs_run_here() -> None:
    assert Workers(0).run(process, seconds=1) == os.getpid()


def test_values_cross_over_whole(workers: Workers) -> None:
    exercise = exercise_of("tuba-eb", "two-partial-slur")
    sound = Sound(np.zeros(1000, np.float32), 44_100)
    assert workers.run(repr, exercise, seconds=60) == repr(exercise)
    assert len(workers.run(_same, sound, seconds=60).samples) == 1000


def _same(sound: Sound) -> Sound:
    return sound
