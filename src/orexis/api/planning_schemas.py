"""What the planning routes are sent."""

import datetime
from typing import Annotated, Literal

from pydantic import Field

from orexis.api.schemas import ParamText, StrictModel
from orexis.core.coach import Lips
from orexis.core.planning import GoalKind

Short = Annotated[str, Field(max_length=60)]
Params = Annotated[dict[Short, ParamText], Field(max_length=24)]
Minutes = Annotated[float, Field(gt=0, le=120)]
WholeMinutes = Annotated[int, Field(ge=1, le=240)]


class BlockIn(StrictModel):
    """A block to be kept in the day."""

    exercise_type: Short
    minutes: Minutes | None = None
    params: Params = Field(default_factory=dict)


class DayIn(StrictModel):
    """How long there is time, how the lips feel, and what the player changed."""

    minutes: WholeMinutes
    lips: Lips = Lips.FRESH
    quiet: bool = False
    kept: Annotated[list[BlockIn], Field(max_length=24)] = Field(default_factory=list)
    without: Annotated[list[Short], Field(max_length=60)] = Field(default_factory=list)
    arranged: bool = False  # exactly the kept blocks, in their order
    anyway: bool = False  # although something speaks against it


class StepIn(StrictModel):
    """A step of a path, from 0."""

    step: Annotated[int, Field(ge=0, le=999)]


class GoalIn(StrictModel):
    """A new goal: what is to be reached, and by which day."""

    kind: GoalKind
    value: Annotated[float, Field(ge=0, le=200, allow_inf_nan=False)]
    joined: bool = False
    date: datetime.date


class GoalChange(StrictModel):
    """Request: pause a goal, go on with it, give it up, or move its date."""

    state: Literal["on", "paused", "given up"]
    date: datetime.date | None = None


class RoutineIn(StrictModel):
    """Request: a day to be saved under a name."""

    name: Annotated[str, Field(max_length=120)]
    blocks: Annotated[list[BlockIn], Field(min_length=1, max_length=24)]
