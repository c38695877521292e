"""Minutes that add up, and the load of a day held to what the week leaves."""

from collections.abc import Iterable, Mapping
from dataclasses import replace

from orexis.core.coach import Lips
from orexis.core.exercises import EXERCISE_TYPES, SETS_OF_A_FURTHER_PITCH, Load, Role
from orexis.core.messages import tell
from orexis.core.planning.blocks import DayBlock, DayPlan
from orexis.core.planning.candidates import allowed
from orexis.core.planning.context import PlanningContext
from orexis.core.planning.frame import in_grains
from orexis.core.planning.history import HEAVY_EXERCISE_TYPES
from orexis.core.planning.week import LOAD_PER_MINUTE, DayKind
from orexis.core.progress.standing import PAUSES
from orexis.errors import InputError

WORKED = 0.8  # of the day's load, for lips that have worked today
TIRED = 0.5  # of the day's load, for tired or sore lips
OFF_SHARE = 0.5  # who practises on a day off gets half a day
_SPARE = 1.3  # a block may bring so much more than expected, where the day has room for it
_LEAST_MINUTES = 0.5  # a shorter block is over before it begins
_SETS_SHARE = 0.4  # of a day's minutes
_SET_MINUTES = 2.8  # a set of 20 without its rest
_NOTES_A_MINUTE = 1.6  # attempts a minute with the rest that pedals need
_MOST_OVER, _FEWEST_BLOCKS = 1.7, 3  # expected load against the day's, before blocks are left out


def fitted(blocks: list[DayBlock], minutes: float) -> tuple[DayBlock, ...]:
    """Minutes that add up: locked ones stay, sets get what they need, the others share what is left."""
    if not blocks:
        raise InputError("Nothing is left for today. Add a block, or rest.")
    fixed = {at: _fixed_minutes(block) for at, block in enumerate(blocks)}
    taken = sum(value for value in fixed.values() if value is not None)
    rest = [at for at, value in fixed.items() if value is None]
    share = max(0.0, minutes - taken) / max(1e-9, sum(blocks[at].minutes for at in rest)) if rest else 1.0
    wanted = [value if (value := fixed[at]) is not None else blocks[at].minutes * share for at in range(len(blocks))]
    if not rest and taken < minutes:
        wanted = [value * minutes / taken for value in wanted]
    rounded = in_grains(wanted)
    kept = [(block, value) for block, value in zip(blocks, rounded, strict=True) if value >= _LEAST_MINUTES]
    return tuple(_lasting(block, value) for block, value in kept)


def _fixed_minutes(block: DayBlock) -> float | None:
    if block.locked:
        return block.minutes
    return _sets_minutes(block.params) if EXERCISE_TYPES[block.exercise_type].counted_in_sets else None


def _sets_minutes(params: Mapping[str, str]) -> float:
    sets, rest = int(params.get("sets", "2")), int(params.get("rest", "4"))
    notes = int(params.get("notes", "20"))
    further = int(params.get("pitches", "1")) - 1
    more = further * min(sets, SETS_OF_A_FURTHER_PITCH)
    played = (sets + more) * _SET_MINUTES * notes / 20.0
    return played + (sets + more - 1 - further) * rest + further * int(params.get("pause", "12"))


def sets_for(params: Mapping[str, str], minutes: float, *, further: bool) -> dict[str, str]:
    """As many of the sets as a day of so many minutes has room for, and a second pitch where it has room for all of them and more."""
    room = _SETS_SHARE * minutes
    made = dict(params)
    while int(made.get("sets", "2")) > 1 and _sets_minutes(made) > room:
        made["sets"] = str(int(made.get("sets", "2")) - 1)
    two = made | {"pitches": "2"}
    whole = made.get("sets", "2") == params.get("sets", "2")
    return two if further and whole and _sets_minutes(two) <= room else made


def _lasting(block: DayBlock, minutes: float) -> DayBlock:
    """So many minutes of it, a ladder with as many notes as they hold."""
    rate = block.load / block.minutes if block.minutes else 0.0
    params = block.params
    if EXERCISE_TYPES[block.exercise_type].role == Role.SINGLE_NOTES and params.get("direction", "up") == "up":
        params = params | {"steps": str(max(3, min(14, round(_NOTES_A_MINUTE * minutes))))}
    return replace(block, minutes=minutes, load=round(rate * minutes, 1), params=params)


_BACK: dict[int | None, str] = {  # by the levels of PAUSES
    None: "High work and pedal tones start again from the first level.",
    2: "High work and pedal tones start two levels lower, the rest one.",
    1: "High work and pedal tones start one level lower.",
}


def today_bound(known: PlanningContext, minutes: float) -> float | None:
    """The load that today may still bring: the week's share, less for the lips, less what was played already.

    A day off on which somebody plays all the same may bring half of what its minutes would, and of what the week has left.
    """
    target = known.target
    if target is None:
        return None
    if known.kind == DayKind.OFF and known.week_left is not None:
        target = OFF_SHARE * min(known.week_left, LOAD_PER_MINUTE[known.standard] * minutes)
    lips = {Lips.WORKED: WORKED, Lips.TIRED: TIRED, Lips.SORE: TIRED}.get(known.lips, 1.0)
    return max(0.0, target * lips * known.care.share - known.played_load)


def bounded(
    known: PlanningContext, minutes: float, blocks: tuple[DayBlock, ...], *, most: float | None = None
) -> DayPlan:
    """The load of the day within what the week leaves to it, each block with its share of that as its bound.

    `most`: what a day that is under way has left of its own.
    """
    bound, expected = today_bound(known, minutes), sum(block.load for block in blocks)
    if most is not None:
        bound = most if bound is None else min(bound, most)
    says = list(_said(known))
    heavy = too_heavy(known, blocks)
    if heavy is not None:
        says.append(heavy)
    if bound is None and known.care.share < 1.0:
        bound = expected * known.care.share
    if bound is None or expected <= 0.0:
        return DayPlan(round(minutes), known.kind, bound, round(expected, 1), blocks, tuple(says))
    blocks = _fewer(blocks, minutes, bound)
    expected = sum(block.load for block in blocks)
    share = min(_SPARE, bound / expected)
    if share < 1.0:
        says.append("This week leaves less playing for today than fits in this time: longer rests, fewer takes.")
    capped = _within_high(known, [replace(block, most_load=round(block.load * share, 1)) for block in blocks])
    return DayPlan(round(minutes), known.kind, round(bound, 1), round(min(expected, bound), 1), capped, tuple(says))


def _within_high(known: PlanningContext, blocks: list[DayBlock]) -> tuple[DayBlock, ...]:
    """Heavy blocks together within what the week leaves to heavy work."""
    high = sum(block.most_load or 0.0 for block in blocks if block.exercise_type in HEAVY_EXERCISE_TYPES)
    if known.high_left is None or high <= known.high_left:
        return tuple(blocks)
    share = known.high_left / high
    return tuple(
        replace(block, most_load=round((block.most_load or 0.0) * share, 1))
        if block.exercise_type in HEAVY_EXERCISE_TYPES
        else block
        for block in blocks
    )


def too_heavy(known: PlanningContext, blocks: Iterable[DayBlock]) -> str | None:
    """What speaks against blocks that the player holds on to; None where all of them are for today."""
    names = [
        EXERCISE_TYPES[block.exercise_type].name
        for block in blocks
        if not allowed(known, EXERCISE_TYPES[block.exercise_type])
    ]
    return (
        tell("Too heavy for today: {names}. Remove it or swap it for something easier.", names=", ".join(names))
        if names
        else None
    )


def _fewer(blocks: tuple[DayBlock, ...], minutes: float, bound: float) -> tuple[DayBlock, ...]:
    """Where the load would leave a take or two to each block, the heaviest go and the others get their minutes."""
    kept = list(blocks)
    while sum(block.load for block in kept) > _MOST_OVER * bound and len(kept) > _FEWEST_BLOCKS:
        free = [block for block in kept if not block.locked and not block.must] or [b for b in kept if not b.locked]
        if not free:
            break
        kept.remove(max(free, key=lambda block: (block.load_class != Load.EASY, block.load)))
    if len(kept) == len(blocks):
        return blocks
    weights = [block.minutes for block in kept]
    return tuple(
        replace(block, minutes=value)
        for block, value in zip(kept, in_grains([minutes * w / sum(weights) for w in weights]), strict=True)
    )


def _said(known: PlanningContext) -> Iterable[str]:
    back = next((_BACK[levels] for least, levels in PAUSES if (known.days_away or 0) >= least), None)
    if back is not None:
        yield tell(
            "Welcome back after {days_away} weeks. {back} Play little today, and easily.",
            days_away=(known.days_away or 0) // 7,
            back=back,
        )
    if known.no_heavy is not None:
        yield known.no_heavy
    if known.lips == Lips.SORE:
        yield "Sore lips: only buzzing and easy low notes. A day off is better."
    elif known.lips == Lips.TIRED:
        yield "Tired lips: nothing heavy, half the usual load."
    if known.kind_why and known.kind == DayKind.LIGHT:
        yield tell("A light day: {kind_why}.", kind_why=known.kind_why)
    elif known.kind_why and known.kind == DayKind.HEAVY:
        yield tell("A heavy day: {kind_why}.", kind_why=known.kind_why)
    elif known.kind == DayKind.OFF and known.lately:
        yield tell(
            "Today is a day off ({kind_why}). If you play anyway, keep it easy and short.", kind_why=known.kind_why
        )
    if known.sets is not None and known.pedal_days:
        yield tell("Pedal days this week: {pedal_days}.", pedal_days=known.pedal_days)
