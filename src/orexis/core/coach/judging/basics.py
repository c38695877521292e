"""What a teacher says in any exercise: judged in all that is blown on the instrument, beside what its exercise type names.

An exercise type adds to these. Where one of them makes no sense, it is left out by what the exercise asks for, with the reason here.
"""

from collections.abc import Callable
from dataclasses import dataclass
from itertools import pairwise

from orexis.core.coach.judging.dynamics import written_dynamics
from orexis.core.exercises import Exercise, ExerciseNote, Medium
from orexis.core.measures import glides_in

BASICS = (
    "splits",
    "gap",
    "clipped_partial",
    "bump",
    "pitch",
    "attack",
    "pitch_drift",
    "pitch_wobble",
    "fall_off",
    "level_wobble",
    "line_level",
    "tone_clarity",
    "start",
    "length",
    "breath_noise",
)
_SHORT_S = 0.3  # a shorter note under a slur is over before its pitch can be told
_OF_A_STEADY_NOTE = ("pitch", "pitch_drift", "pitch_wobble", "fall_off", "level_wobble")


@dataclass(frozen=True, slots=True)
class OmittedBasics:
    """Where an exercise judges `measure`, these basics are left out: of all of it, or at some of its notes."""

    measure: str
    basics: tuple[str, ...]
    why: str
    at: Callable[[Exercise, ExerciseNote], bool] | None = None


def _is_led_by_the_lip(exercise: Exercise, note: ExerciseNote) -> bool:
    """Whether the lip leads it: out of its slot, or from elsewhere into it."""
    notes = exercise.notes
    return any(note in (before, after) and after.glide_beats > 0.0 for before, after in pairwise(notes))


def _short_in_a_slur(exercise: Exercise, note: ExerciseNote) -> bool:
    return note.slurred and note.beats * exercise.beat_s < _SHORT_S


LEFT_OUT = (
    OmittedBasics(
        "ring",
        (*_OF_A_STEADY_NOTE, "attack", "tone_clarity", "line_level"),
        "the note is led through its partial, pitch and loudness with it",
    ),
    OmittedBasics(
        "bend",
        ("pitch_drift", "pitch_wobble", "fall_off", "level_wobble", "bump"),
        "the lip leads the note away from its middle",
        at=_is_led_by_the_lip,
    ),
    OmittedBasics("bend", ("tone_clarity", "line_level"), "a bent note has more breath in it"),
    OmittedBasics(
        "trill",
        (*_OF_A_STEADY_NOTE, "attack", "bump", "clipped_partial", "gap", "length", "line_level"),
        "the notes are too short to be judged one by one",
    ),
    OmittedBasics(
        "trill", ("splits",), "what breaks in a note so short is told by its lock on the partials", at=_short_in_a_slur
    ),
    OmittedBasics(
        "count",
        (*_OF_A_STEADY_NOTE, "attack", "tone_clarity", "line_level"),
        "a set is counted: what matters is that the notes speak",
    ),
    OmittedBasics("two_ways", ("pitch_drift",), "the slide is moved while the note sounds"),
    OmittedBasics("shape", ("level_wobble", "tone_clarity", "line_level"), "the loudness is meant to change"),
    OmittedBasics("endurance", (*BASICS, "dynamics"), "the check note is compared with itself, not judged"),
    OmittedBasics("siren", (*BASICS, "dynamics"), "a sweep is judged as a whole"),
)


def _loudness_of(exercise: Exercise) -> tuple[str, ...]:
    """Loudness is judged wherever it is written: between dynamics, with the height, and along a set."""
    return (
        *(("dynamics",) if len({mark for mark, _ in written_dynamics(exercise)}) > 1 else ()),
        *(("loudness_by_height",) if exercise.loudness is not None and exercise.least("rise") is None else ()),
        *(("rise",) if exercise.least("rise") is not None else ()),
    )


def judged_measures_of(exercise: Exercise) -> tuple[str, ...]:
    """Names of all measures that an exercise is judged by, its exercise type's own first; none where it is only ticked."""
    if exercise.judged and exercise.medium == Medium.MOUTHPIECE and "siren" not in exercise.judged:
        timed = ("timing", "start") if exercise.click else ()
        more = ("buzz_off", "pitch_drift", "line_level", *timed)
        return (*exercise.judged, *(name for name in more if name not in exercise.judged))
    if not exercise.judged or exercise.medium != Medium.INSTRUMENT:
        return exercise.judged
    left = {name for item in LEFT_OUT if item.measure in exercise.judged and item.at is None for name in item.basics}
    # What is written is judged: a swell, a fade, a glide that stands in the exercise.
    shaped = ("shape",) if any(note.shape not in (None, "steady") for note in exercise.notes) else ()
    glided = ("glide",) if glides_in(exercise) else ()
    louder = _loudness_of(exercise)
    basics = (*BASICS, *shaped, *glided, *louder)
    return (*exercise.judged, *(name for name in basics if name not in exercise.judged and name not in left))


def left_at(exercise: Exercise, note: ExerciseNote | None) -> frozenset[str]:
    """Basics that are left out at this note; what its exercise type names itself never is."""
    if note is None:
        return frozenset()
    there = (item for item in LEFT_OUT if item.at and item.measure in exercise.judged and item.at(exercise, note))
    return frozenset(name for item in there for name in item.basics) - frozenset(exercise.judged)
