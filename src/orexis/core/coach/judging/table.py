"""All that is judged, in the order in which a take's faults are worked on: there at all, right partial, continuity, centre,
entry, sag, sound, timing, loudness, breath. Everything else that lists limits, reasons, columns or words is made from this.
"""

from collections.abc import Mapping
from enum import StrEnum
from typing import TYPE_CHECKING, NewType

from orexis.core.approaches import DEFAULTS, Approaches, Ask, Choice
from orexis.core.coach.judging.bends import BENDS
from orexis.core.coach.judging.breathing import BREATHING
from orexis.core.coach.judging.context import Limits
from orexis.core.coach.judging.continuity import CONTINUITY
from orexis.core.coach.judging.criterion import Column, Criterion, Cue, FaultType, Limit
from orexis.core.coach.judging.dynamics import DYNAMICS_JUDGED
from orexis.core.coach.judging.glide import GLIDE
from orexis.core.coach.judging.length import LENGTH
from orexis.core.coach.judging.level import LEVEL
from orexis.core.coach.judging.likeness import LIKENESS
from orexis.core.coach.judging.note_presence import THERE
from orexis.core.coach.judging.pitch import PITCH
from orexis.core.coach.judging.pitch_stability import COURSE
from orexis.core.coach.judging.pulse import PULSE
from orexis.core.messages import tell
from orexis.core.standards import Standard, standard_named
from orexis.errors import InputError

JUDGED: tuple[Criterion, ...] = (
    *THERE,
    *CONTINUITY,
    *LENGTH,
    *GLIDE,
    *PITCH,
    *BENDS,
    *COURSE,
    *LIKENESS,
    *PULSE,
    *LEVEL,
    *DYNAMICS_JUDGED,
    *BREATHING,
)
REASONS: dict[str, FaultType] = {reason.id: reason for judged in JUDGED for reason in judged.reasons}
ORDER: tuple[str, ...] = tuple(REASONS)
LIMITS: dict[str, Limit] = {limit.name: limit for judged in JUDGED for limit in judged.limits}

# Why a take could not be judged: what is said of it, and what to do. (label, cause and cue)
NOT_HEARD: dict[str, tuple[str, Cue]] = {
    "silence": (
        "no sound",
        Cue("no sound reached the microphone", "Check the microphone, come a step closer, and play again."),
    ),
    "talking": (
        "talking",
        Cue("someone was talking", "Play when it’s quiet. This take doesn’t count."),
    ),
    "too-quiet": (
        "too quiet",
        Cue("the sound is hard to tell from the room’s noise", "Come closer, or turn the microphone up."),
    ),
    "clipped": (
        "overloaded",
        Cue("the microphone is overloaded", "Step back or turn the microphone down."),
    ),
    "lost": (
        "sound lost by the computer",
        Cue(
            "this computer was too busy and lost some of the sound",
            "That wasn’t you. Close other programs. This take doesn’t count.",
        ),
    ),
    "unmeasured": (
        "too short",
        Cue("there was too little steady sound to judge", "Hold each note for its full length."),
    ),
    "no-lean": (
        "no bend",
        Cue("the pitch hardly moved", "Go further above and further below, then settle."),
    ),
}
# Every word that may stand as a verdict's reason. Made from the declarations, so that a new one is declared once.
if TYPE_CHECKING:
    ReasonId = NewType("ReasonId", str)
else:
    ReasonId = StrEnum("ReasonId", {key.upper().replace("-", "_"): key for key in (*ORDER, *NOT_HEARD)})
    ReasonId.__doc__ = "Why a take was not clean, or not heard."

# Columns of the note table that nothing is judged by.
COLUMNS: tuple[Column, ...] = tuple(
    sorted(
        (
            Column(1, "Heard", ("f0_hz",), "hz"),
            Column(3, "Instrument’s share", ("instrument_cents",), "cents"),
            Column(8, "Vibrato or wave", ("pitch_wobble_depth_cents",), "movement"),
            Column(11, "Volume", ("level_db",), "db"),
            *(judged.column for judged in JUDGED if judged.column is not None),
        ),
        key=lambda column: column.place,
    )
)


STANDARDS: dict[Standard, Limits] = {
    standard: {limit.name: limit.by_standard[place] for limit in LIMITS.values()}
    for place, standard in enumerate(Standard)
}
# When attempts keep failing and nothing says why.
THREE_QUESTIONS = "Was the breath full? Did the air keep moving? Was the tongue where it should be?"


def limits_of(standard: str, own: Mapping[str, float] | None = None) -> dict[str, float]:
    """The limits of a standard, with the player's own in their place; InputError names what there is."""
    limits = dict(STANDARDS[standard_named(standard)])
    for name, value in (own or {}).items():
        if name not in LIMITS:
            raise InputError(
                tell("There is no limit “{name}”: choose one of {limits}.", name=name[:30], limits=", ".join(LIMITS))
            )
        low, high = LIMITS[name].lowest, LIMITS[name].highest
        if not low <= value <= high:
            raise InputError(
                tell(
                    "The limit {name} is {value:g}: choose {low:g} to {high:g}.",
                    name=name,
                    value=value,
                    low=low,
                    high=high,
                )
            )
        limits[name] = float(value)
    return limits


def cue_for(reason: str, side: str, misses_before: int, approaches: Approaches | None = None) -> Cue:
    """The pair to offer; the next one after two misses for the same reason. An approach's own pair comes first."""
    chosen = approaches or DEFAULTS
    pairs = REASONS[reason].cues[side]
    if chosen[Ask.BODY] == Choice.SOUND_ONLY:
        pairs = tuple(pair for pair in pairs if not pair.body) or pairs
    own = [pair for pair in pairs if pair.when and chosen[pair.when[0]] == pair.when[1]]
    common = [pair for pair in pairs if pair.when is None]
    ordered = [*own, *common]
    return ordered[min(misses_before // 2, len(ordered) - 1)]
