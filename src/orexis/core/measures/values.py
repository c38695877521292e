"""What is measured, as values. Definitions, formulas and limits: docs/measures.md.

Cents are against the target unless said; times in seconds from the start of the sound; levels in dBFS. A measure that
could not be taken is None, and `unmeasured` says why under its name.
"""

from dataclasses import dataclass, field

WINDOW_REASON = "this release does not measure it yet"


@dataclass(frozen=True, slots=True)
class NoteMeasures:
    """One row of the note table. `target` is the figure's note id, `sounded` the heard note's; either may be None."""

    index: int
    target: str | None
    sounded: str | None
    right: bool
    written_hz: float | None  # the target's frequency
    f0_hz: float | None
    partial: int | None
    onset_s: float | None
    release_s: float | None
    due_s: float | None  # when the click asked for it, None when the first beat is not known
    slurred: bool
    centre_cents: float | None
    horn_cents: float | None  # the horn's share of centre_cents
    judged_cents: float | None  # centre less the horn's share where the tube is to be kept
    spread_cents: float | None
    sag_cents_s: float | None
    sag_cents: float | None
    entry_cents: float | None
    entry_ms: float | None
    fall_off_cents: float | None
    hold_s: float | None
    response_ms: float | None
    level_db: float | None
    level_wander_db: float | None
    tone_db: float | None
    brightness_hz: float | None
    unmeasured: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Caught:
    """A partial touched on the way of a move."""

    partial: int
    f0_hz: float
    start_s: float
    ms: float


@dataclass(frozen=True, slots=True)
class MoveMeasures:
    """What happened between two neighbouring notes; `before` and `after` are indices into the note table."""

    before: int
    after: int
    slurred: bool
    start_s: float
    stop_s: float
    move_ms: float | None
    gap_ms: float | None
    gap_start_s: float | None
    caught: tuple[Caught, ...]
    bump_db: float | None
    overshoot_cents: float | None
    unmeasured: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class FigureMeasures:
    """Over the whole take."""

    timing_mean_ms: float | None
    timing_spread_ms: float | None
    playing_s: float
    extra_notes: int
    missed_notes: int
    unmeasured: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class SoundCheck:
    """Whether the sound could be judged at all."""

    peak_db: float
    clipped_share: float
    noise_db: float | None  # level where nothing sounds
    tone_db_fs: float | None  # level where a tone sounds


@dataclass(frozen=True, slots=True)
class Measures:
    """Everything measured of one take."""

    notes: tuple[NoteMeasures, ...]
    moves: tuple[MoveMeasures, ...]
    figure: FigureMeasures
    sound: SoundCheck
    schema: int = 1
