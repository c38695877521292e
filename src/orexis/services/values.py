"""What the services hand out: plain values, ready for the edge."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from orexis.core.coach import Limits, Verdict
from orexis.core.figures import Figure, Series
from orexis.core.measures import Measures
from orexis.core.practice import SessionState


@dataclass(frozen=True, slots=True)
class Player:
    """A person at the stand and what they play."""

    id: str
    name: str
    stage: str
    horn: str
    part: str
    a4_hz: float


@dataclass(frozen=True, slots=True)
class PracticeSession:
    """One sitting and where it stands."""

    id: str
    player_id: str
    family: str
    horn: str
    params: dict[str, str]
    series: Series
    state: SessionState
    started_at: datetime
    ended_at: datetime | None


@dataclass(frozen=True, slots=True)
class Take:
    """One take with its snapshots, what was measured and what was said."""

    id: str
    session_id: str
    player_id: str
    number: int
    figure_index: int
    started_at: datetime
    duration_s: float
    rate: int
    first_beat_s: float | None
    source: str
    figure: Figure
    horn: str
    part: str
    a4_hz: float
    stage: str
    limits: Limits
    device: dict[str, Any]
    recovered: bool
    remark: str
    discarded: bool
    analysis_version: int
    measures: Measures
    verdict: Verdict


@dataclass(frozen=True, slots=True)
class LogTake:
    """A take as a line of the log."""

    id: str
    number: int
    figure_title: str
    written: str  # the written note names, as the player reads them
    tube: str
    outcome: str
    reason: str | None
    started_at: datetime
    duration_s: float
    source: str
    centre_cents: float | None
    spread_cents: float | None
    sag_cents: float | None
    hold_s: float | None
    recovered: bool


@dataclass(frozen=True, slots=True)
class LogSession:
    """A session as an entry of the log."""

    id: str
    family: str
    title: str
    horn: str
    started_at: datetime
    playing_s: float
    takes: tuple[LogTake, ...]
