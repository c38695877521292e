"""Which exercise type fills a place of the day, and why: must, need, keep; by standard, lips, approaches and the week.

*Must*: what a goal asks, what comes back from last time. *Need*: the exercise type whose path has waited longest, weighted by
how often it was not held in the last 14 days. *Keep*: what is in range and was not met for ten days. The same record gives
the same choice.
"""

from dataclasses import dataclass

from orexis.core.coach import LIPS, REASONS, Lips, Standard
from orexis.core.exercises import EXERCISE_TYPES, DayPlace, ExerciseType, Load, exercise_types_for
from orexis.core.messages import counted, tell
from orexis.core.planning.context import MET_AGAIN, PlanningContext
from orexis.core.planning.frame import LEAST_FOR_SETS
from orexis.core.planning.week import AFTER_A_HEAVY_DAY, DayKind
from orexis.core.progress import opens, path_of

_STANDARDS = tuple(Standard)
_QUIET_PLACES = (DayPlace.BREATH, DayPlace.BUZZ, DayPlace.TONES)
_SORE_PLACES = (DayPlace.BREATH, DayPlace.BUZZ, DayPlace.TONES, DayPlace.CHECK)
_NEVER_PLAYED_DAYS, _LONGEST_WAIT = 6, 21
_STARVES = 12  # days
_FIRST = 0.4  # what an exercise type weighs when all of its takes are held
_OUT_OF_REACH, _SEEN_ENOUGH, _NONE_GOOD = 0.3, 8, 0.9  # weight, takes, and share missed at the first level
_PEDAL_DAYS = 3  # three days a week, and never two in a row
_HEAVY_KINDS = (DayKind.HEAVY, DayKind.MEDIUM)
_LEAST_HIGH = 8.0  # less than this the week's heavy work is played


@dataclass(frozen=True, slots=True)
class Candidate:
    """An exercise type for a slot. `rank`: must before need; the greater score first."""

    exercise_type: ExerciseType
    must: bool
    score: float
    why: str


def candidates(known: PlanningContext, place: DayPlace, minutes: int) -> list[Candidate]:
    """Every exercise type that may stand in this place today, the best first."""
    exercise_types = [
        exercise_type
        for exercise_type in exercise_types_for(known.instrument)
        if _may(known, exercise_type, place, minutes)
    ]
    starving = [exercise_type for exercise_type in exercise_types if _days_waited(known, exercise_type) >= _STARVES]
    beyond = [exercise_type for exercise_type in exercise_types if _is_out_of_reach(known, exercise_type)]
    if len(beyond) == len(exercise_types):  # somebody who fails all of them plays them all the same
        beyond = []
    open_ = [
        _choice(
            known,
            exercise_type,
            comes_back=not starving or exercise_type in starving,
            out_of_reach=exercise_type in beyond,
        )
        for exercise_type in exercise_types
    ]
    return sorted(open_, key=lambda choice: (not choice.must, -choice.score))


def allowed(known: PlanningContext, exercise_type: ExerciseType) -> bool:
    """Whether work of this weight is for today at all. Pedal sets have their own bound, and their days may follow a heavy one."""
    if exercise_type.load not in LIPS[known.lips] or not known.care.allows(exercise_type.load):
        return False
    if exercise_type.load != Load.HIGH:
        return True
    if known.no_heavy is not None:
        return False
    if exercise_type.counted_in_sets:
        return known.kind in _HEAVY_KINDS or (known.kind, known.kind_why) == (DayKind.LIGHT, AFTER_A_HEAVY_DAY)
    return known.kind in _HEAVY_KINDS and (known.high_left is None or known.high_left >= _LEAST_HIGH)


def places_for(known: PlanningContext, place: DayPlace) -> bool:
    """Whether this place of the day is open: quiet hours and sore lips close most."""
    if known.quiet and place not in _QUIET_PLACES:
        return False
    return known.lips != Lips.SORE or place in _SORE_PLACES


def _may(known: PlanningContext, exercise_type: ExerciseType, place: DayPlace, minutes: int) -> bool:
    if exercise_type.place != place or exercise_type.id == "check-note" or not allowed(known, exercise_type):
        return False
    if not _for_stage(known, exercise_type):
        return False
    if (
        exercise_type.stands_in is not None
        and known.approaches[exercise_type.stands_in.ask] != exercise_type.stands_in.choice
    ):
        return False
    if _is_replaced(known, exercise_type):
        return False
    if known.quiet and place == DayPlace.TONES and exercise_type.quiet is None:
        return False
    if exercise_type.load == Load.HIGH and exercise_type.id in known.heavy_yesterday:
        return False
    if exercise_type.counted_in_sets:
        return minutes >= LEAST_FOR_SETS and known.pedal_days < _PEDAL_DAYS and not known.pedals_yesterday
    return True


def _for_stage(known: PlanningContext, exercise_type: ExerciseType) -> bool:
    """An exercise type is opened by the standard, or by a goal that leads through it."""
    wished = (
        any(wish.exercise_type == exercise_type.id for wish in known.wishes) and known.standard != Standard.BEGINNER
    )
    return wished or _STANDARDS.index(exercise_type.opens_at) <= _STANDARDS.index(known.standard)


def _is_replaced(known: PlanningContext, exercise_type: ExerciseType) -> bool:
    """Whether another exercise type stands in for this one by the player's approach."""
    return any(
        rule is not None and rule.instead_of == exercise_type.id and known.approaches[rule.ask] == rule.choice
        for rule in (other.stands_in for other in EXERCISE_TYPES.values() if other.suits(known.instrument))
    )


def _choice(known: PlanningContext, exercise_type: ExerciseType, *, comes_back: bool, out_of_reach: bool) -> Candidate:
    """`comes_back`: one that failed often last time goes first; not where another of its place has waited for long.

    `out_of_reach`: one that failed nearly always comes only now and then, beside others that do not.
    """
    wish = next((wish for wish in known.wishes if wish.exercise_type == exercise_type.id), None)
    if wish is not None:
        return Candidate(exercise_type, True, 1000.0, wish.why)
    own = known.lately.get(exercise_type.id)
    waited = _days_waited(known, exercise_type)
    if out_of_reach:
        return Candidate(exercise_type, False, waited * _OUT_OF_REACH, "out of reach so far, so only now and then")
    if own is not None and own.is_back_on(known.today) and comes_back:
        return Candidate(exercise_type, True, 500.0, "failed four times last time, so easier first")
    missed = own.missed_share if own is not None else 0.5
    return Candidate(exercise_type, False, waited * (_FIRST + missed), _why(known, exercise_type, waited))


def _is_out_of_reach(known: PlanningContext, exercise_type: ExerciseType) -> bool:
    """Whether hardly a take was held at the first level: more of what fails teaches nothing."""
    own, path = known.lately.get(exercise_type.id), path_of(exercise_type.id, known.instrument)
    if own is None or path is None or known.standing(path).step > 0:
        return False
    return own.takes >= _SEEN_ENOUGH and own.missed_share >= _NONE_GOOD


def _days_waited(known: PlanningContext, exercise_type: ExerciseType) -> int:
    """Days since an exercise was played; one that never was has waited since practice began, a few days at least."""
    own = known.lately.get(exercise_type.id)
    if own is not None and own.last_day is not None:
        return min(_LONGEST_WAIT, known.today - own.last_day)
    since = 0 if known.practising_since is None else known.today - known.practising_since
    return min(_LONGEST_WAIT, max(_NEVER_PLAYED_DAYS, since))


def _why(known: PlanningContext, exercise_type: ExerciseType, waited: int) -> str:
    """Return why the exercise is offered: one line with its number."""
    own = known.lately.get(exercise_type.id)
    if own is None or own.last_day is None:
        return tell("new: {lower}", lower=_lower(exercise_type.purpose))
    if own.takes and own.reason is not None and own.missed_share >= 0.25:
        name, times = own.reason
        label = REASONS[name].label if name in REASONS else name
        return tell("{label} in {times} of {takes} takes", label=label, times=times, takes=own.takes)
    path = path_of(exercise_type.id, known.instrument)
    if waited >= MET_AGAIN:
        return tell("not played for {today} days", today=known.today - own.last_day)
    if path is not None:
        return opens(known.standing(path), path)
    if own.takes:
        return tell("{clean} of {takes} takes clean in two weeks", clean=own.clean, takes=own.takes)
    return counted(waited, "last played {count} day ago", "last played {count} days ago")


def _lower(text: str) -> str:
    return text[:1].lower() + text[1:].rstrip(".")
