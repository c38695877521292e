"""A day composed from the record: the frame's slots filled, the load held to what the week leaves, every block with its why."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace

from orexis.core.coach import Lips, Stage
from orexis.core.figures import FAMILIES, Family, Load, Place, Series, family_named
from orexis.core.planning.choosing import QUIET_TONES, Choice, allowed, candidates, places_for
from orexis.core.planning.frame import MOST_MINUTES, Slot, frame, in_grains, shared
from orexis.core.planning.known import Known
from orexis.core.planning.week import LOAD_PER_MINUTE, Kind
from orexis.core.practice import BlockPlan, planned
from orexis.core.progress import path_of
from orexis.core.schools import Ask
from orexis.core.schools import Choice as School
from orexis.core.theory import pitch_of_midi
from orexis.errors import InputError, OrexisError

# Load a minute of a class, against a mixed day.
CLASS_SHARE: dict[Load, float] = {Load.EASY: 0.85, Load.MEDIUM: 1.05, Load.HIGH: 1.35}
WORKED = 0.8
TIRED = 0.5
OFF_SHARE = 0.5
_SPARE = 1.3  # a block may bring so much more than expected, where the day has room for it
_LEAST_MINUTES = 0.5
_SET_MINUTES = 2.8  # a set of 20 without its rest
_BREATH_RATE = 0.0
_RUNGS_A_MINUTE = 1.6
_MOST_OVER, _FEWEST_BLOCKS = 1.7, 3  # expected load against the day's, before blocks are left out
_STALE_MOST = 8
_MOST_BLOCKS = 24


@dataclass(frozen=True, slots=True)
class DayBlock:
    """One block of a day. `load` is expected, `most_load` its bound; `step` of `of` on the family's path."""

    family: str
    place: Place
    load_class: Load
    minutes: float
    why: str
    params: dict[str, str] = field(default_factory=dict)
    step: int | None = None
    of: int | None = None
    says: str = ""  # the step in words
    load: float = 0.0
    most_load: float | None = None
    must: bool = False
    locked: bool = False
    easier: bool = False  # begins in the easier form: it comes back


@dataclass(frozen=True, slots=True)
class DayPlan:
    """A day: its minutes, kind, the load that it may bring and the load expected, and what is to be said first."""

    minutes: int
    kind: Kind
    target: float | None
    load: float
    blocks: tuple[DayBlock, ...]
    says: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Kept:
    """A block that the player holds on to: composed again, it stays."""

    family: str
    minutes: float | None = None
    params: Mapping[str, str] = field(default_factory=dict)


def compose(known: Known, minutes: int, *, kept: Iterable[Kept] = (), without: Iterable[str] = ()) -> DayPlan:
    """The day. `kept`: blocks that stay in it whatever else; `without`: families that the player left out.

    InputError for minutes that fit nothing.
    """
    left_out, held = frozenset(without), list(kept)
    slots = [slot for slot in frame(minutes, known.stage) if places_for(known, slot.place)]
    slots = list(
        shared(tuple(replace(slot, most=float(minutes)) if len(slots) < 4 else slot for slot in slots), minutes)
    )
    if sum(slot.minutes for slot in slots) < minutes - 0.01:
        slots = list(shared(tuple(replace(slot, most=float(minutes)) for slot in slots), minutes))
    blocks = _filled(known, slots, minutes, held, left_out)
    blocks = _in_order(_with_stale(known, blocks), known)
    return _bounded(known, minutes, _fitted(known, blocks, minutes))


def as_arranged(known: Known, blocks: Iterable[Kept]) -> DayPlan:
    """A day of the player's own blocks in their own order, with today's steps and within today's load."""
    made = [
        _made(known, family_named(item.family), item.minutes or 3.0, "as you arranged it", item.params)
        for item in blocks
    ]
    if not 1 <= len(made) <= _MOST_BLOCKS:
        raise InputError(f"The day has {len(made)} blocks: choose 1 to {_MOST_BLOCKS}.")
    refused = next((block for block in made if not allowed(known, block.load_class)), None)
    if refused is not None:
        raise InputError(f"{FAMILIES[refused.family].name} is too heavy for today: drop it or take something easier.")
    minutes = round(sum(block.minutes for block in made))
    if not 1 <= minutes <= MOST_MINUTES:
        raise InputError(f"The blocks make {minutes} minutes: at most {MOST_MINUTES} fit a day.")
    return _bounded(known, minutes, tuple(made))


def instead(known: Known, family_id: str, minutes: int, *, without: Iterable[str] = ()) -> tuple[str, ...]:
    """What could stand in the place of a family today, the best first."""
    left_out = {*without, family_id}
    place = family_named(family_id).place
    return tuple(choice.family.id for choice in candidates(known, place, minutes) if choice.family.id not in left_out)


def block_of(known: Known, family_id: str, minutes: float) -> DayBlock:
    """A block of this family as it would stand in today."""
    return _made(known, family_named(family_id), minutes, "as you chose", {})


# -- filling -------------------------------------------------------------------------------------------------------------


def _filled(known: Known, slots: list[Slot], minutes: int, held: list[Kept], without: frozenset[str]) -> list[DayBlock]:
    """A family for every slot; a slot for which there is none gives its minutes to the others."""
    used: set[str] = set(without)
    high = 0
    blocks: list[DayBlock] = []
    wanted = [(item, family_named(item.family)) for item in held]
    for slot in slots:
        own = next((pair for pair in wanted if pair[1].place == slot.place), None)
        if own is not None:
            wanted.remove(own)
            used.add(own[1].id)
            block = _made(known, own[1], own[0].minutes or slot.minutes, "you kept it", own[0].params)
            blocks.append(replace(block, locked=True))
            continue
        choice = _first_free(known, slot, minutes, used, high)
        if choice is None:
            continue
        used.add(choice.family.id)
        high += choice.family.load == Load.HIGH
        blocks.append(replace(_made(known, choice.family, slot.minutes, choice.why, {}), must=choice.must))
    for item, family in wanted:
        blocks.append(replace(_made(known, family, item.minutes or 3.0, "you kept it", item.params), locked=True))
    return blocks


def _first_free(known: Known, slot: Slot, minutes: int, used: set[str], high: int) -> Choice | None:
    most_high = 2 if known.kind == Kind.HEAVY else 1
    for choice in candidates(known, slot.place, minutes):
        heavy = choice.family.load == Load.HIGH
        if choice.family.id not in used and not (heavy and high >= most_high):
            return choice
    return None


def _made(known: Known, family: Family, minutes: float, why: str, given: Mapping[str, str]) -> DayBlock:
    """A block with its parameters: the path's step, where the range lets it begin, the school's, the player's own."""
    wish = next((wish for wish in known.wishes if wish.family == family.id), None)
    path = path_of(family.id, known.horn)
    step = known.standing(path).step if path else None
    own = path.steps[step].params if path is not None and step is not None else {}
    params = {
        **family.school_params(known.schools),
        **own,
        **_placed(known, family),
        **(QUIET_TONES.get(family.id, {}) if known.quiet else {}),
        **(dict(wish.params) if wish else {}),
        **dict(given),
    }
    if family.counted_in_sets and known.sets is not None:
        params = known.sets.within(params)
        why = f"{why}; {known.sets.why}" if why else known.sets.why
    lately = known.lately.get(family.id)
    back = lately is not None and bool(lately.comes_back) and (lately.last_day or 0) < known.today
    share = CLASS_SHARE[family.load]
    rate = _BREATH_RATE if family.place == Place.BREATH else known.rate(family.id, share)
    return DayBlock(
        family=family.id,
        place=family.place,
        load_class=family.load,
        minutes=minutes,
        why=why,
        params=params,
        step=step,
        of=len(path.steps) if path else None,
        says=path.steps[step].say if path is not None and step is not None else "",
        load=round(rate * minutes, 1),
        easier=back,
    )


def _placed(known: Known, family: Family) -> dict[str, str]:
    """Where the record lets the register work begin; nothing where no range is known yet."""
    horn, owned = known.horn, known.owned
    match family.id:
        case "step-ladder" if known.start_up is not None:
            rungs = "4" if known.stage == Stage.STARTING else "6"
            return {"start": _name(known, min(known.start_up, horn.highest.midi - 1)), "rungs": rungs}
        case "pair-ladder" if owned.alone.high is not None:
            return {"start": _name(known, owned.alone.high - 7)}
        case "glide-ladder" if owned.alone.high is not None:
            return {}
        case "triad-with-reset" if owned.joined.high is not None:
            return {"start": _name(known, owned.joined.high - 7 - 2)}
        case "two-octave-scale" if owned.joined.high is not None:
            return {"start": _name(known, owned.joined.high - 24 - 1)}
        case "top-note-cold" if owned.alone.high is not None:
            return {"highest": _name(known, owned.alone.high)}
    return {}


def _name(known: Known, midi: int) -> str:
    return pitch_of_midi(min(max(midi, known.horn.lowest.midi), known.horn.highest.midi)).name


def _with_stale(known: Known, blocks: list[DayBlock]) -> list[DayBlock]:
    """Keep: owned notes not met for ten days, the low ones in long tones, the high ones on the ladder."""
    if not known.stale:
        return blocks
    easy = known.horn.easy.midi
    out, low_done, high_done = [], False, False
    low = [midi for midi in known.stale if midi <= easy + 5]
    high = [midi for midi in known.stale if midi > easy + 5]
    for block in blocks:
        made = block
        if block.family == "long-low-tones" and low and not low_done and not block.locked:
            span = min(max(low) - min(low), _STALE_MOST)
            made = _through(block, len(low), {"start": _name(known, max(low)), "steps": str(span), "beats": "8"})
            low_done = True
        elif block.place == Place.REGISTER and high and not high_done and not block.locked and not block.must:
            climbs = "step-ladder" if allowed(known, Load.HIGH) and known.stage != Stage.STARTING else None
            if climbs is not None and climbs not in known.heavy_yesterday:
                family = FAMILIES[climbs]
                made = replace(_made(known, family, block.minutes, block.why, {}), must=block.must)
                rungs = min(_STALE_MOST + 2, max(high) - min(high) + 1)
                made = _through(made, len(high), {"start": _name(known, min(high)), "rungs": str(rungs)})
                high_done = True
        out.append(made)
    return out


def _through(block: DayBlock, count: int, params: dict[str, str]) -> DayBlock:
    notes = "one note of yours was" if count == 1 else f"{count} notes of yours were"
    return replace(
        block, params=block.params | params, step=None, of=None, says="", why=f"{notes} not played for ten days: kept"
    )


def _in_order(blocks: list[DayBlock], known: Known) -> list[DayBlock]:
    """The order of the day; the school may let long tones come first."""
    places = list(Place)
    if known.schools[Ask.DAY_BEGINS] == School.LOW_TONES:
        places.remove(Place.TONES)
        places.insert(0, Place.TONES)
    return sorted(blocks, key=lambda block: places.index(block.place))


# -- minutes and load ----------------------------------------------------------------------------------------------------


def _fitted(known: Known, blocks: list[DayBlock], minutes: int) -> tuple[DayBlock, ...]:
    """Minutes that add up: locked ones stay, sets get what they need, the others share what is left."""
    if not blocks:
        raise InputError("Nothing is left for today: take something back, or rest.")
    fixed = {at: _fixed_minutes(block) for at, block in enumerate(blocks)}
    taken = sum(value for value in fixed.values() if value is not None)
    rest = [at for at, value in fixed.items() if value is None]
    share = max(0.0, minutes - taken) / max(1e-9, sum(blocks[at].minutes for at in rest)) if rest else 1.0
    wanted = [value if (value := fixed[at]) is not None else blocks[at].minutes * share for at in range(len(blocks))]
    if not rest and taken < minutes:
        wanted = [value * minutes / taken for value in wanted]
    rounded = in_grains(wanted)
    kept = [(block, value) for block, value in zip(blocks, rounded, strict=True) if value >= _LEAST_MINUTES]
    return tuple(_lasting(known, block, value) for block, value in kept)


def _fixed_minutes(block: DayBlock) -> float | None:
    if block.locked:
        return block.minutes
    if FAMILIES[block.family].counted_in_sets:
        sets, rest = int(block.params.get("sets", "2")), int(block.params.get("rest", "4"))
        notes = int(block.params.get("notes", "20"))
        return sets * _SET_MINUTES * notes / 20.0 + (sets - 1) * rest
    return None


def _lasting(known: Known, block: DayBlock, minutes: float) -> DayBlock:
    """So many minutes of it, a ladder with as many rungs as they hold."""
    rate = block.load / block.minutes if block.minutes else 0.0
    params = block.params
    if block.family == "step-ladder" and params.get("direction", "up") == "up":
        params = params | {"rungs": str(max(3, min(14, round(_RUNGS_A_MINUTE * minutes))))}
    return replace(block, minutes=minutes, load=round(rate * minutes, 1), params=params)


def today_bound(known: Known, minutes: int) -> float | None:
    """The load that today may still bring: the week's share, less for the lips, less what was played already.

    A day off on which somebody plays all the same may bring half of what its minutes would, and of what the week has left.
    """
    target = known.target
    if target is None:
        return None
    if known.kind == Kind.OFF and known.week_left is not None:
        target = OFF_SHARE * min(known.week_left, LOAD_PER_MINUTE[known.stage] * minutes)
    lips = {Lips.WORKED: WORKED, Lips.TIRED: TIRED, Lips.SORE: TIRED}.get(known.lips, 1.0)
    return max(0.0, target * lips * known.care.share - known.played_load)


def _bounded(known: Known, minutes: int, blocks: tuple[DayBlock, ...]) -> DayPlan:
    """The load of the day within what the week leaves to it, each block with its share of that as its bound."""
    bound, expected = today_bound(known, minutes), sum(block.load for block in blocks)
    says = list(_said(known))
    if bound is None and known.care.share < 1.0:
        bound = expected * known.care.share
    if bound is None or expected <= 0.0:
        return DayPlan(minutes, known.kind, bound, round(expected, 1), blocks, tuple(says))
    blocks = _fewer(known, blocks, minutes, bound)
    expected = sum(block.load for block in blocks)
    share = min(_SPARE, bound / expected)
    if share < 1.0:
        says.append(
            f"The week leaves a load of {bound:.0f} to today, and these minutes would bring {expected:.0f}: "
            "longer rests, fewer takes."
        )
    capped = tuple(replace(block, most_load=round(block.load * share, 1)) for block in blocks)
    return DayPlan(minutes, known.kind, round(bound, 1), round(min(expected, bound), 1), capped, tuple(says))


def _fewer(known: Known, blocks: tuple[DayBlock, ...], minutes: int, bound: float) -> tuple[DayBlock, ...]:
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


def _said(known: Known) -> Iterable[str]:
    if known.spent:
        yield "Today's check note said spent: nothing high until tomorrow."
    if known.lips == Lips.SORE:
        yield "Sore lips: only buzzing and easy low notes, and a day off is the better choice."
    elif known.lips == Lips.TIRED:
        yield "Tired lips: nothing high, and half of the usual load."
    if known.kind_why and known.kind in (Kind.LIGHT, Kind.HEAVY):
        yield f"A {known.kind} day: {known.kind_why}."
    elif known.kind == Kind.OFF:
        yield f"A day off was planned ({known.kind_why}). If you play all the same: easy, and stop early."
    if known.sets is not None and known.pedal_days:
        yield f"Pedal days this week: {known.pedal_days}."


def day_series(known: Known, plan: DayPlan) -> tuple[Series, ...]:
    """The figures of each block on the horn."""
    return tuple(_series_for(known, block) for block in plan.blocks)


def planned_blocks(known: Known, plan: DayPlan, series: Iterable[Series]) -> tuple[BlockPlan, ...]:
    """The blocks as the session sees them."""
    return tuple(
        planned(
            made,
            minutes=block.minutes,
            why=block.why,
            owned=known.owned,
            most_load=block.most_load,
            step=block.step,
            easier=block.easier,
        )
        for block, made in zip(plan.blocks, series, strict=True)
    )


def _series_for(known: Known, block: DayBlock) -> Series:
    """Where the step does not fit the player's own horn, the family as it is."""
    family = family_named(block.family)
    try:
        return family.series(known.horn, block.params)
    except OrexisError:
        return family.series(known.horn, family.school_params(known.schools))
