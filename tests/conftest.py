"""Shared: exercises, played and heard takes, a record in a temporary folder."""

import os
from collections.abc import Callable, Iterable, Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from hypothesis import settings

from orexis.core.coach import limits_of
from orexis.core.exercises import Exercise, exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.core.listen import JudgingTerms, ListeningTask, ListenResult, listen
from orexis.core.player import Truth, parse_flaws, play
from orexis.services import clock
from orexis.services.application import Application
from orexis.services.compiling import is_compiled
from orexis.services.ear import Ear

# The same examples on every machine; `HYPOTHESIS_PROFILE=explore` with --hypothesis-seed looks for new ones.
settings.register_profile("fixed", derandomize=True, deadline=None)
settings.register_profile("explore", deadline=None, max_examples=int(os.environ.get("HYPOTHESIS_EXAMPLES", "400")))
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "fixed"))

if not is_compiled():  # else the first server would do it, and takes would wait
    Ear().get_ready()

INSTRUMENTS = ("trumpet-bb", "horn-f-bb", "trombone-tenor", "tuba-eb")


def some(values: Iterable[Any], plain: int) -> list[Any]:
    """The first few for every run of the tests, the others for the broad one."""
    return [
        value if at < plain else pytest.param(*_parts(value), marks=pytest.mark.broad)
        for at, value in enumerate(values)
    ]


def _parts(value: Any) -> tuple[Any, ...]:
    return value if isinstance(value, tuple) else (value,)


# When every test begins, by the wall: a Wednesday morning unless `OREXIS_TEST_AT` names another moment (`make anyday`).
TEST_AT = datetime.fromisoformat(os.environ.get("OREXIS_TEST_AT", "2026-03-04T10:00:00")).astimezone()


@pytest.fixture(autouse=True)
def _clock(monkeypatch: pytest.MonkeyPatch) -> None:
    """Set the clock to that moment; from there it runs on."""
    monkeypatch.setattr(clock, "AHEAD", TEST_AT - datetime.now(UTC))


Heard = tuple[ListenResult, Truth, Exercise]


def exercise_of(instrument: str, exercise_type: str, index: int = 0, **params: str) -> Exercise:
    return exercise_type_named(exercise_type).series(instrument_named(instrument), params).exercises[index]


def heard(
    exercise: Exercise, *flaws: str, seed: int = 1, standard: str = "developing", first_beat_s: float | None = 0.0
) -> Heard:
    sound, truth = play(exercise, flaws=parse_flaws(flaws), seed=seed)
    result = listen(
        sound,
        ListeningTask(instrument_named(exercise.instrument), exercise, first_beat_s=first_beat_s),
        JudgingTerms(limits_of(standard)),
    )
    return result, truth, exercise


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """The long ones first, so that no worker is left alone with them at the end."""
    items.sort(key=lambda item: "tests/web" not in item.path.as_posix())


@pytest.fixture
def hear() -> Callable[..., Heard]:
    return heard


@pytest.fixture
def house(tmp_path: Path) -> Iterator[Application]:
    made = Application(tmp_path / "data")
    yield made
    made.record.database.close()
