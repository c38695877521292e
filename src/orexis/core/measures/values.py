"""What is measured, as values. Definitions, formulas and limits: docs/measures.md.

Cents are against the target unless said; times in seconds from the start of the sound; levels in dBFS. A measure that
could not be taken is None, and `unmeasured` says why under its name.
"""

from dataclasses import dataclass, field

NO_TOP = (
    "no top of level and tone stands out inside the pitch range"  # why a note's ring was not found, though it was led
)


@dataclass(frozen=True, slots=True)
class NoteMeasures:
    """One row of the note table. `target` is the exercise's note id, `sounded` the heard note's; either may be None."""

    index: int
    target: str | None
    sounded: str | None
    right: bool
    written_hz: float | None  # the target's frequency
    slurred: bool
    f0_hz: float | None = None
    partial: int | None = None
    onset_s: float | None = None
    release_s: float | None = None
    due_s: float | None = None  # when the click asked for it, None when the first beat is not known
    pitch_error_cents: float | None = None
    instrument_cents: float | None = None  # the instrument's share of pitch_error_cents
    judged_error_cents: float | None = None  # centre less the instrument's share where the fingering is to be kept
    end_error_cents: float | None = None  # the same in the last second, where a slide or the lips have done their work
    pitch_wobble_cents: float | None = None
    pitch_drift_cents_s: float | None = None
    pitch_drift_cents: float | None = None
    vibrato_hz: float | None = None
    vibrato_cents: float | None = None
    pitch_wobble_rate_hz: float | None = None
    pitch_wobble_depth_cents: float | None = None
    attack_error_cents: float | None = None
    attack_settle_ms: float | None = None
    attack_error_cents_s: float | None = None
    glide_off_cents: float | None = None  # of the note that a glide goes to: see glide.py
    glide_over_cents: float | None = None
    glide_arrived_s: float | None = None
    glide_jump_cents: float | None = None
    glide_hole_ms: float | None = None
    fall_off_cents: float | None = None
    hold_s: float | None = None
    response_ms: float | None = None
    inhalation_ms: float | None = None
    inhalation_db: float | None = None
    level_db: float | None = None
    level_wobble_db: float | None = None
    level_rise_db: float | None = None
    level_fall_db: float | None = None
    level_top_at: float | None = None
    shape_off_db: float | None = None  # distance from the loudness that was asked for
    tone_to_noise_db: float | None = None
    spectral_centroid_hz: float | None = None
    bend_down_cents: float | None = None
    bend_up_cents: float | None = None
    bend_back_cents: float | None = None
    ring_missed_cents: float | None = (
        None  # how far from there, or from the end of the lead it lies beyond, the note came to rest
    )
    ring_cents: float | None = None
    splits: int = 0  # starts on another partial
    cracks: int = 0  # breaks to another partial and back
    envelope_db: tuple[float | None, ...] | None = None
    tone_match: float | None = None  # against the reference that was given
    tone_match_octaves: float | None = None  # how far away the reference's note lies; None: another device heard it
    tone_differs: str | None = None  # what differs most from the reference: airier, thinner, darker
    unmeasured: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class ClippedPartial:
    """A partial touched on the way of a move."""

    partial: int
    f0_hz: float
    start_s: float
    ms: float
    without_echoes: bool = False  # found in the sound without the room


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
    clipped_partials: tuple[ClippedPartial, ...]
    bump_db: float | None
    overshoot_cents: float | None
    gap_under_ms: float | None = None  # where the room rings and none was heard: any there was is shorter than this
    silence_ms: float | None = None  # before a tongued note
    silence_over_ms: float | None = None  # longer than the rhythm asks
    unmeasured: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class ExerciseMeasures:
    """What is measured over a whole take."""

    timing_mean_ms: float | None
    timing_spread_ms: float | None
    playing_s: float
    extra_notes: int
    missed_notes: int
    timing_drift_ms_min: float | None = None
    evenness_ms: float | None = None
    loudness_by_height_db_octave: float | None = None
    tone_match_across: float | None = None  # the least match of any note with the exercise's easiest
    worst_step: int | None = None  # index of the note after the worst step in sound between neighbours
    worst_step_match: float | None = None
    start_off_ms: float | None = None  # the first note against its beat, less the device's delay; positive is behind
    breaths_inside: int | None = None
    breath_at_s: float | None = None  # when the first of them begins
    trill_hz: float | None = None
    unseated_share: float | None = None
    pulse_db: float | None = None  # how far the loudness rises with each beat, where that is asked
    pulse_note: str | None = None  # the beat whose pulse is heard least
    unseated_note: str | None = None  # the first that did not lock, at the speed at which it was worst
    dwelling_share: float | None = None  # of a trill: 0 where its pitch sweeps evenly, 1 where it is always in a slot
    dwelling_note: str | None = None  # the first of the length at which it is least
    lost_turns: int | None = None  # of a trill, from one slot to the other, of those written
    siren_low_hz: float | None = None
    siren_high_hz: float | None = None
    siren_jump_cents: float | None = None
    siren_jump_at_s: float | None = None
    siren_breaks: int | None = None
    siren_break_at_s: float | None = None  # the first
    in_slots_share: float | None = None
    buzz_off_cents: float | None = None  # on the mouthpiece, of the first buzz; all else is measured from there
    unmeasured: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class SoundCheck:
    """Whether the sound could be judged at all."""

    peak_db: float
    clipped_share: float
    noise_db: float | None  # level where nothing sounds
    tone_db_fs: float | None  # level where a tone sounds
    talking: bool = False  # voiced sound that is no playing; no notes are read from it
    room_db_s: float | None = None  # how fast sound dies away where the room rings
    room_hides_ms: float | None = None  # shorter silences cannot be heard in it
    matched_elsewhere: bool = False  # the sound to match was heard by another device
    loudspeaker_db: float | None = None  # what the page played, against the player; None: nothing of it was heard
    lost_ms: float = 0.0  # of the sound, by a computer that was too busy; after them times are not to be trusted


@dataclass(frozen=True, slots=True)
class Measures:
    """Everything that was measured of one take: its notes, the moves between them, the whole, the sound."""

    notes: tuple[NoteMeasures, ...]
    moves: tuple[MoveMeasures, ...]
    exercise: ExerciseMeasures
    sound: SoundCheck
    schema: int = 1
