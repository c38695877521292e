"""Takes as values: whole with their snapshots, as a line of a list, and as one that is like another."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from orexis.core.coach import Outcome, ReasonId, Standard, Verdict
from orexis.core.exercises import Exercise
from orexis.core.measures import Measures

MOST_REMARKS = 200  # on a take: more cannot be read beside its picture


@dataclass(frozen=True, slots=True)
class Take:
    """One take with its snapshots, what was measured and what was said."""

    id: str
    session_id: str
    player_id: str
    number: int
    exercise_index: int
    started_at: datetime
    duration_s: float
    rate: int
    first_beat_s: float | None
    source: str
    exercise: Exercise
    instrument: str
    part: str
    a4_hz: float
    standard: Standard
    limits: dict[str, float]
    device: dict[str, Any]
    recovered: bool
    remark: str
    discarded: bool
    analysis_version: int
    is_old: bool  # measured by an earlier version of the ear
    measures: Measures
    verdict: Verdict


@dataclass(frozen=True, slots=True)
class ListedTake:
    """A take as a line of a list."""

    id: str
    number: int
    exercise_title: str
    written: str  # the written note names, as the player reads them
    fingering: str
    outcome: Outcome
    reason: ReasonId | None
    started_at: datetime
    duration_s: float
    source: str
    pitch_error_cents: float | None
    pitch_wobble_cents: float | None
    pitch_drift_cents: float | None
    hold_s: float | None
    recovered: bool


@dataclass(frozen=True, slots=True)
class LikeTake:
    """A take of the same exercise. `by`: whose, where it is somebody else's."""

    id: str
    number: int
    started_at: datetime
    outcome: Outcome
    by: str | None = None
