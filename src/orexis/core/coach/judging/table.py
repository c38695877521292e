"""All that is judged, in the order in which a take's faults are worked on: there at all, right partial, continuity, centre,
entry, sag, sound, timing, loudness. Everything else that lists limits, reasons, columns or words is made from this.
"""

from collections.abc import Mapping
from enum import StrEnum
from typing import TYPE_CHECKING, NewType

from orexis.core.coach.judging.context import Limits
from orexis.core.coach.judging.continuity import CONTINUITY
from orexis.core.coach.judging.criterion import Column, Criterion, Cue, FaultType, Limit
from orexis.core.coach.judging.dynamics import DYNAMICS_JUDGED
from orexis.core.coach.judging.glide import GLIDE
from orexis.core.coach.judging.level import LEVEL
from orexis.core.coach.judging.likeness import LIKENESS
from orexis.core.coach.judging.note_presence import THERE
from orexis.core.coach.judging.pitch import PITCH
from orexis.core.coach.judging.pitch_stability import COURSE
from orexis.core.coach.judging.pulse import PULSE
from orexis.core.schools import DEFAULTS, Ask, Choice, Schools
from orexis.core.stages import Stage
from orexis.errors import InputError

JUDGED: tuple[Criterion, ...] = (
    *THERE,
    *CONTINUITY,
    *GLIDE,
    *PITCH,
    *COURSE,
    *LIKENESS,
    *PULSE,
    *LEVEL,
    *DYNAMICS_JUDGED,
)
REASONS: dict[str, FaultType] = {reason.id: reason for judged in JUDGED for reason in judged.reasons}
ORDER: tuple[str, ...] = tuple(REASONS)
LIMITS: dict[str, Limit] = {limit.name: limit for judged in JUDGED for limit in judged.limits}

# Why a take could not be judged: what is said of it, and what to do. (label, cause and cue)
NOT_HEARD: dict[str, tuple[str, Cue]] = {
    "silence": (
        "no tone",
        Cue("no tone reached the microphone", "Check the microphone, come a step closer, and play again."),
    ),
    "talking": (
        "a voice",
        Cue("a voice was heard and no horn", "Play when the talk has ended; this take does not count."),
    ),
    "too-quiet": (
        "too quiet",
        Cue("the sound is too close to the noise of the room", "Come closer, or raise the input level."),
    ),
    "clipped": (
        "overloaded",
        Cue("the input is overloaded", "Step back or lower the input level; the sound is cut off at its peaks."),
    ),
    "lost": (
        "sound lost by the computer",
        Cue(
            "this computer was too busy and lost some of the sound",
            "That was not you. Close what else is running; this take does not count.",
        ),
    ),
    "unmeasured": (
        "too little tone",
        Cue("too little steady sound to judge", "Hold each note as long as it is written."),
    ),
    "no-lean": (
        "no lean",
        Cue("the pitch hardly moved", "Lean further above and let it sink further below, then settle."),
    ),
}
# Every word that may stand as a verdict's reason. Made from the declarations, so that a new one is declared once.
if TYPE_CHECKING:
    ReasonId = NewType("ReasonId", str)
else:
    ReasonId = StrEnum("ReasonId", {key.upper().replace("-", "_"): key for key in (*ORDER, *NOT_HEARD)})
    ReasonId.__doc__ = "Why a take was not held, or not heard."

# Columns of the note table that nothing is judged by.
COLUMNS: tuple[Column, ...] = tuple(
    sorted(
        (
            Column(1, "Heard", ("f0_hz",), "hz"),
            Column(3, "Horn’s share", ("horn_cents",), "cents"),
            Column(8, "Moves to and fro", ("wobble_cents",), "movement"),
            Column(11, "Level", ("level_db",), "db"),
            *(judged.column for judged in JUDGED if judged.column is not None),
        ),
        key=lambda column: column.place,
    )
)


STAGES: dict[Stage, Limits] = {
    stage: {limit.name: limit.by_stage[place] for limit in LIMITS.values()} for place, stage in enumerate(Stage)
}
# When attempts keep failing and nothing says why.
THREE_QUESTIONS = "Was the breath full? Did the air keep moving? Was the tongue where it should be?"


def limits_of(stage: str, own: Mapping[str, float] | None = None) -> dict[str, float]:
    """The limits of a stage, with the player's own in their place; InputError names what there is."""
    if stage not in STAGES:
        raise InputError(f"There is no stage “{stage[:30]}”: choose {', '.join(STAGES)}.")
    found = dict(STAGES[Stage(stage)])
    for name, value in (own or {}).items():
        if name not in LIMITS:
            raise InputError(f"There is no limit “{name[:30]}”: choose one of {', '.join(LIMITS)}.")
        low, high = LIMITS[name].lowest, LIMITS[name].highest
        if not low <= value <= high:
            raise InputError(f"The limit {name} is {value:g}: choose {low:g} to {high:g}.")
        found[name] = float(value)
    return found


def cue_for(reason: str, side: str, misses_before: int, schools: Schools | None = None) -> Cue:
    """The pair to offer; the next one after two misses for the same reason. A school's own pair comes first."""
    chosen = schools or DEFAULTS
    pairs = REASONS[reason].cues[side]
    if chosen[Ask.BODY] == Choice.SOUND_ONLY:
        pairs = tuple(pair for pair in pairs if not pair.body) or pairs
    own = [pair for pair in pairs if pair.when and chosen[pair.when[0]] == pair.when[1]]
    common = [pair for pair in pairs if pair.when is None]
    ordered = [*own, *common]
    return ordered[min(misses_before // 2, len(ordered) - 1)]
