"""What the services hand out: plain values, ready for the edge."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from orexis.core.coach import DEFAULTS, Care, Limits, Verdict, checked_schools, limits_of
from orexis.core.device import DeviceCheck
from orexis.core.figures import Figure, Series, at_tempo, family_named, in_form
from orexis.core.horn import AS_BUILT, Instrument, Setup, horn_named
from orexis.core.measures import Measures
from orexis.core.practice import Overruling, SessionState, school_params
from orexis.errors import InputError


@dataclass(frozen=True, slots=True)
class PlayerSettings:
    """What a player decided about how they are led and judged."""

    schools: dict[str, str] = field(default_factory=dict)
    limits: dict[str, float] = field(default_factory=dict)  # the player's own in place of the stage's
    braces: bool = False
    returning: bool = False
    checks: bool = True
    start: str = "count-in"  # or "first note"
    goes_on: bool = True  # by itself after a verdict
    spoken: bool = False
    tempo_steps: bool = False
    reference_take: str | None = None  # what other takes are compared with, in place of today's easiest note
    quiet_from: int | None = None  # the hour from which only buzzing and soft work is offered

    @property
    def care(self) -> Care:
        """What to be careful about."""
        return Care(self.braces, self.returning)

    @property
    def chosen(self) -> dict[str, str]:
        """All questions of the schools answered."""
        return DEFAULTS | self.schools


AS_GIVEN = PlayerSettings()
STARTS = ("count-in", "first note")


def checked_settings(settings: PlayerSettings, stage: str) -> PlayerSettings:
    """The settings themselves; InputError for a choice or a limit that cannot be."""
    checked_schools(settings.schools)
    limits_of(stage, settings.limits)
    if settings.start not in STARTS:
        raise InputError(f"A take starts by {' or '.join(STARTS)}, not by “{settings.start[:20]}”.")
    if settings.quiet_from is not None and not 0 <= settings.quiet_from <= 23:
        raise InputError(f"The hour from which it is quiet is {settings.quiet_from}: choose 0 to 23.")
    return settings


@dataclass(frozen=True, slots=True)
class RoutineKept:
    """The series of a session in order, and its check note."""

    blocks: tuple[Series, ...]
    check: Series | None = None


@dataclass(frozen=True, slots=True)
class Player:
    """A person at the stand and what they play."""

    id: str
    name: str
    stage: str
    horn: str
    part: str
    a4_hz: float
    setup: Setup = AS_BUILT
    settings: PlayerSettings = AS_GIVEN

    @property
    def instrument(self) -> Instrument:
        """The horn in hand as this player has it."""
        return horn_named(self.horn).with_setup(self.setup)

    @property
    def limits(self) -> Limits:
        """The stage's limits with the player's own in their place."""
        return limits_of(self.stage, self.settings.limits)

    def series(self, family: str, params: Mapping[str, str]) -> Series:
        """A family's figures on the horn in hand; where nothing was chosen, as the player's schools have it."""
        horn = self.instrument
        return family_named(family).series(horn, school_params(family, horn, self.settings.chosen) | dict(params))


@dataclass(frozen=True, slots=True)
class OwnFigure:
    """A figure that the player keeps: a family with parameters, or a figure that came from a file."""

    id: str
    name: str
    horn: str
    family: str
    params: dict[str, str]
    figure: Figure | None
    made_at: datetime


@dataclass(frozen=True, slots=True)
class PracticeSession:
    """One sitting and where it stands."""

    id: str
    player_id: str
    family: str
    horn: str
    params: dict[str, str]
    routine: RoutineKept
    state: SessionState
    started_at: datetime
    ended_at: datetime | None
    rest_since: datetime | None = None  # when the rest under way began

    @property
    def figure(self) -> Figure:
        """The figure that comes next or is being played, in its present form."""
        if self.state.checking and self.routine.check is not None:
            return self.routine.check.figures[0]
        state = self.state
        written = self.routine.blocks[state.block].figures[state.figure_index]
        return in_form(at_tempo(written, state.tempo_percent), state.form)


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
class Device:
    """A microphone with its settings and what its last check found."""

    key: str
    label: str
    checked_at: datetime
    found: DeviceCheck


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
    checks: tuple[str, ...] = ()  # what the check notes said: fresh, tiring, spent
    stopped: str | None = None  # what was reported, where it ended everything
    overruled: tuple[Overruling, ...] = ()
