"""All exercise types in the order of the day."""

from orexis.core.exercises.bending import BENDING
from orexis.core.exercises.buzzing import BUZZING
from orexis.core.exercises.exercise_type import PLACES, ExerciseType
from orexis.core.exercises.intervals import INTERVALS
from orexis.core.exercises.kinds import GoalKind, Role
from orexis.core.exercises.ladders import LADDERS
from orexis.core.exercises.pedals import PEDALS
from orexis.core.exercises.scales import SCALES
from orexis.core.exercises.slurring import SLURRING
from orexis.core.exercises.stairs import STAIRS
from orexis.core.exercises.tones import CENTRING, CHECK, TONES
from orexis.core.exercises.tunes import BUZZ_A_TUNE, TUNE
from orexis.core.instruments import Instrument
from orexis.core.messages import tell
from orexis.errors import ExerciseError

_ALL = (
    *BUZZING,
    BUZZ_A_TUNE,
    *TONES,
    *SLURRING,
    *CENTRING,
    INTERVALS,
    *BENDING,
    *LADDERS,
    *SCALES,
    *STAIRS,
    *PEDALS,
    TUNE,
    *CHECK,
)

# Sorted by place in the day; within a place in the order above.

EXERCISE_TYPES: dict[str, ExerciseType] = {
    exercise_type.id: exercise_type
    for exercise_type in sorted(_ALL, key=lambda exercise_type: PLACES.index(exercise_type.place))
}


RECOVERY: ExerciseType = next(exercise_type for exercise_type in EXERCISE_TYPES.values() if exercise_type.recovers)
IN_SETS: ExerciseType = next(
    exercise_type for exercise_type in EXERCISE_TYPES.values() if exercise_type.counted_in_sets
)
_BY_ROLE: dict[Role, ExerciseType] = {
    exercise_type.role: exercise_type for exercise_type in EXERCISE_TYPES.values() if exercise_type.role is not None
}
_TOWARDS: dict[GoalKind, ExerciseType] = {
    kind: exercise_type for exercise_type in EXERCISE_TYPES.values() for kind in exercise_type.leads_to
}


def exercise_type_in_role(role: Role) -> ExerciseType:
    """The one that the rules of the day call for by this role."""
    return _BY_ROLE[role]


def exercise_type_towards(kind: GoalKind) -> ExerciseType:
    """The one that leads to a goal of this kind."""
    return _TOWARDS[kind]


def exercise_type_named(exercise_type_id: str) -> ExerciseType:
    """The exercise type by id; ExerciseError names those there are."""
    try:
        return EXERCISE_TYPES[exercise_type_id]
    except KeyError:
        raise ExerciseError(
            tell(
                "There is no exercise “{exercise_type_id}”: choose one of {exercise_types}.",
                exercise_type_id=exercise_type_id[:40],
                exercise_types=", ".join(EXERCISE_TYPES),
            )
        ) from None


def exercise_types_for(instrument: Instrument) -> tuple[ExerciseType, ...]:
    """Those that suit the instrument, in the order of the day."""
    return tuple(exercise_type for exercise_type in EXERCISE_TYPES.values() if exercise_type.suits(instrument))
