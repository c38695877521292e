"""A session's blocks as the machine sees them: series made for an instrument, and the plan that the session follows."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

from orexis.core.approaches import Approaches, Ask
from orexis.core.coach import Care
from orexis.core.exercises import (
    CHECK_NOTE,
    RECOVERY,
    Advance,
    DayPlace,
    Load,
    Series,
    exercise_type_named,
    free_series,
)
from orexis.core.instruments import Instrument
from orexis.core.practice.edge import NOTHING, PlayerRange, comfort_of
from orexis.core.practice.in_time import keeps_time
from orexis.core.practice.machine import opening
from orexis.core.practice.state import BlockPlan, SessionState


@dataclass(frozen=True, slots=True)
class Routine:
    """A session made for an instrument: its series in order, the check note, and the plan that the session follows."""

    blocks: tuple[Series, ...]
    plan: tuple[BlockPlan, ...]
    check: Series


def check_series(instrument: Instrument) -> Series:
    """The check note of the instrument."""
    return CHECK_NOTE.series(instrument)


def routine_of(instrument: Instrument, approaches: Approaches, blocks: Iterable[tuple[Series, BlockPlan]]) -> Routine:
    """A session of these blocks. A climb to the limit is followed by loose pedals, where they do not follow it anyway."""
    made: list[tuple[Series, BlockPlan]] = []
    for series, plan in blocks:
        if made and made[-1][1].advance == Advance.LIMIT:
            if exercise_type_named(plan.exercise_type).recovers:
                plan = replace(plan, recovery=True)
            else:
                made.append(_recovery(instrument, approaches))
        made.append((series, plan))
    if made[-1][1].advance == Advance.LIMIT:
        made.append(_recovery(instrument, approaches))
    return Routine(tuple(series for series, _ in made), tuple(plan for _, plan in made), check_series(instrument))


def free_routine(instrument: Instrument) -> Routine:
    """A session without an exercise: one block that goes on for as long as somebody plays."""
    series = free_series(instrument)
    plan = BlockPlan(
        series.exercise_type, series.title, DayPlace.MUSIC, Load.MEDIUM, series.advance, len(series.exercises)
    )
    return Routine((series,), (plan,), check_series(instrument))


def _recovery(instrument: Instrument, approaches: Approaches) -> tuple[Series, BlockPlan]:
    series = RECOVERY.series(instrument, RECOVERY.approach_params(approaches, instrument))
    plan = planned(series, minutes=None, why="to recover after the triads")
    return series, replace(plan, recovery=True)


def planned(
    series: Series,
    *,
    minutes: float | None,
    why: str,
    in_range: PlayerRange = NOTHING,
    most_load: float | None = None,
    step: int | None = None,
    easier: bool = False,
    spare: bool = False,
    kept: bool = False,
) -> BlockPlan:
    """A block as the session sees it."""
    exercise_type = exercise_type_named(series.exercise_type)
    return BlockPlan(
        exercise_type=series.exercise_type,
        title=series.title,
        place=exercise_type.place,
        load=exercise_type.load,
        advance=series.advance,
        exercises=len(series.exercises),
        first=series.first,
        minutes=minutes,
        rest_s=series.rest_s,
        pauses=series.pauses,
        pause_s=series.pause_s,
        comfort=comfort_of(series, in_range),
        why=why,
        most_load=most_load,
        step=step,
        easier=easier,
        spare=spare,
        kept=kept,
        in_time=keeps_time(series),
    )


def state_for(
    routine: Routine,
    *,
    checks: bool,
    approaches: Approaches,
    care: Care,
    tempo_steps: bool = False,
    in_time: bool = False,
    rest_bars: int = 0,
    light: bool = False,
) -> SessionState:
    """The session as it begins. `light`: of a light day, which has longer rests."""
    minutes = [block.minutes for block in routine.plan if block.minutes]
    loads = [block.most_load for block in routine.plan if block.most_load is not None]
    state = SessionState(
        routine.plan,
        minutes=sum(minutes) or None,
        most_load=sum(loads) if loads else None,
        checks_on=checks,
        lost_note=approaches[Ask.AFTER_A_LOST_NOTE],
        extra_rest=care.extra_rest or light,
        tempo_steps=tempo_steps,
        in_time=in_time,
        rest_bars=rest_bars,
    )
    return opening(state)
