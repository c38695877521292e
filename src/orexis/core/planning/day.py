"""A day composed from the record: the frame's slots filled, the load held to what the week leaves, every block with its why."""

from collections.abc import Iterable, Mapping
from dataclasses import replace

from orexis.core.approaches import Ask
from orexis.core.approaches import Choice as Approach
from orexis.core.coach import Lips, Standard
from orexis.core.exercises import (
    EXERCISE_TYPES,
    IN_SETS,
    TO_THE_LIMIT,
    Begin,
    DayPlace,
    ExerciseType,
    Load,
    Role,
    exercise_type_in_role,
    exercise_type_named,
)
from orexis.core.messages import counted, tell
from orexis.core.planning.blocks import DayBlock, DayPlan, KeptBlock
from orexis.core.planning.candidates import Candidate, allowed, candidates, places_for
from orexis.core.planning.context import PlanningContext
from orexis.core.planning.fitting import bounded, fitted, sets_for
from orexis.core.planning.frame import MOST_MINUTES, PlanSlot, frame, shared, slot_at
from orexis.core.planning.history import middle_of
from orexis.core.planning.week import DayKind
from orexis.core.practice import TimeLeft
from orexis.core.progress import path_of
from orexis.core.theory import pitch_of_midi
from orexis.errors import InputError

# Load a minute of a class, against a mixed day.
CLASS_SHARE: dict[Load, float] = {Load.EASY: 0.85, Load.MEDIUM: 1.05, Load.HIGH: 1.35}
_BREATH_RATE = 0.0  # breathing does not load the lips
_NO_MORE_HEAVY = "Heavy work is over for today."
_STALE_MOST = 8  # semitones: wider would leave the middle of the instrument
_TONES_OVER_MIDDLE = 2  # long tones stay where they are easy
_MOST_BLOCKS = 24  # more than a day of two hours holds
_CLIMB, _LOW_NOTES = exercise_type_in_role(Role.SINGLE_NOTES), exercise_type_in_role(Role.LOW_NOTES)
_SPARE_PLACES = (DayPlace.TONES, DayPlace.SLURS, DayPlace.MUSIC, DayPlace.BUZZ)
_MOST_SPARE, _SPARE_MINUTES = 3, 5.0
_LEAST_MORE_MINUTES, _LEAST_MORE_LOAD, _MOST_MORE = 3.0, 4.0, 2  # for one block more in what is left of a day


def compose(
    known: PlanningContext, minutes: int, *, kept: Iterable[KeptBlock] = (), without: Iterable[str] = ()
) -> DayPlan:
    """The day. `kept`: blocks that stay in it whatever else; `without`: exercise types that the player left out.

    InputError for minutes that fit nothing.
    """
    left_out, held = frozenset(without), list(kept)
    slots = [slot for slot in frame(minutes, known.standard) if places_for(known, slot.place)]
    blocks = _filled(known, _lasting_all(slots, minutes), minutes, held, left_out)
    blocks = _in_order(_with_stale(known, blocks), known)
    plan = bounded(known, minutes, fitted(blocks, minutes))
    return replace(plan, spare=_spare(known, plan, minutes, left_out))


def rest_of_day(known: PlanningContext, left: TimeLeft, *, without: Iterable[str] = ()) -> DayPlan | None:
    """What is left of a day under way, composed anew from what was played until now: the places that were to come, and one
    or two more where a block gave more time and load than those ask for. None where nothing is left to choose.

    `known`: as of now, today's takes included.
    """
    lips = Lips.TIRED if left.tired and known.lips != Lips.SORE else known.lips
    no_heavy = known.no_heavy or (_NO_MORE_HEAVY if left.nothing_high else None)
    now = replace(known, no_heavy=no_heavy, lips=lips)
    without = frozenset(without)
    out = (
        without
        | left.played
        | {exercise_type.id for exercise_type in EXERCISE_TYPES.values() if exercise_type.counted_in_sets}
    )
    places = [place for place in left.places if places_for(now, place)]
    slots = [slot_at(place, now.standard) for place in [*places, *_more_places(now, left, out)]]
    if not slots:
        return None
    blocks = _filled(now, _lasting_all(slots, left.minutes), left.day_minutes, [], out, high=left.high)
    if not blocks:
        return None
    fitting = fitted(_in_order(_with_stale(now, blocks), now), left.minutes)
    plan = bounded(now, left.minutes, fitting, most=left.load)
    return replace(plan, spare=_spare(now, plan, left.day_minutes, without, played=left.played))


def _more_places(known: PlanningContext, left: TimeLeft, without: frozenset[str]) -> list[DayPlace]:
    """Places for easy or medium work beyond what was to come, by what has waited longest."""
    minutes, load = left.spare_minutes, left.spare_load
    count = min(_MOST_MORE, int(minutes / _LEAST_MORE_MINUTES))
    if load is not None:
        count = min(count, int(load / _LEAST_MORE_LOAD))
    free = _not_heavy(known, left.day_minutes, without)
    # One of each place that is to come anyway is taken by the slot there.
    for place in left.places:
        taken = next((choice for choice in free if choice.exercise_type.place == place), None)
        free = [choice for choice in free if choice is not taken]
    best = sorted(free, key=lambda choice: (not choice.must, -choice.score))
    # What low work leaves goes to low work first, so that it keeps its share of the week.
    if left.ended == DayPlace.LOW:
        best = [*_open_in(known, DayPlace.LOW, left.day_minutes, without), *best]
    return [choice.exercise_type.place for choice in best[: max(0, count)]]


def _not_heavy(known: PlanningContext, minutes: int, without: Iterable[str]) -> list[Candidate]:
    """What may be brought into a day that has time left."""
    return [choice for place in _SPARE_PLACES for choice in _open_in(known, place, minutes, without)]


def _open_in(known: PlanningContext, place: DayPlace, minutes: int, without: Iterable[str]) -> list[Candidate]:
    """Easy and medium exercises of a place, the best first."""
    left_out = frozenset(without)
    return [
        choice
        for choice in (candidates(known, place, minutes) if places_for(known, place) else ())
        if choice.exercise_type.load != Load.HIGH
        and not choice.exercise_type.counted_in_sets
        and choice.exercise_type.id not in left_out
    ]


def as_arranged(known: PlanningContext, blocks: Iterable[KeptBlock]) -> DayPlan:
    """A day of the player's own blocks in their own order, with today's steps and within today's load."""
    made = [
        _made(known, exercise_type_named(item.exercise_type), item.minutes or 3.0, "your choice", item.params)
        for item in blocks
    ]
    if not 1 <= len(made) <= _MOST_BLOCKS:
        raise InputError(
            tell("The plan has {count} blocks: choose 1 to {most_blocks}.", count=len(made), most_blocks=_MOST_BLOCKS)
        )
    minutes = round(sum(block.minutes for block in made))
    if not 1 <= minutes <= MOST_MINUTES:
        raise InputError(
            tell(
                "The blocks make {minutes} minutes: the most is {most_minutes}.",
                minutes=minutes,
                most_minutes=MOST_MINUTES,
            )
        )
    return bounded(known, minutes, tuple(made))


def instead(
    known: PlanningContext, exercise_type_id: str, minutes: int, *, without: Iterable[str] = ()
) -> tuple[str, ...]:
    """What could stand in the place of an exercise type today, the best first."""
    left_out = {*without, exercise_type_id}
    place = exercise_type_named(exercise_type_id).place
    return tuple(
        choice.exercise_type.id
        for choice in candidates(known, place, minutes)
        if choice.exercise_type.id not in left_out
    )


def _spare(
    known: PlanningContext,
    plan: DayPlan,
    minutes: int,
    without: frozenset[str],
    *,
    played: frozenset[str] = frozenset(),
) -> tuple[DayBlock, ...]:
    """What may follow where the last block is over before its time: not heavy, not in the day yet, what waits longest first."""
    used = {block.exercise_type for block in plan.blocks} | played | without
    blocks = _not_heavy(known, minutes, ())
    fresh = [choice for choice in blocks if choice.exercise_type.id not in used]
    again = [choice for choice in blocks if choice.exercise_type.id in used - without]
    best = [*sorted(fresh, key=lambda choice: -choice.score), *again][:_MOST_SPARE]
    spare = [_made(known, choice.exercise_type, _SPARE_MINUTES, "there was time left", {}) for choice in best]
    breath = [
        choice.exercise_type
        for choice in candidates(known, DayPlace.BREATH, minutes)
        if choice.exercise_type.id not in without
    ]
    if plan.target is not None:
        why = "there was time left, easy work only"
        spare += [_made(known, exercise_type, _SPARE_MINUTES, why, {}) for exercise_type in breath[:1]]
    return tuple(spare)


def _lasting_all(slots: list[PlanSlot], minutes: float) -> list[PlanSlot]:
    """All of the minutes over these slots, beyond what is usual for one where there are too few of them."""
    made = list(shared(tuple(slots), minutes))
    if sum(slot.minutes for slot in made) < minutes - 0.01:
        made = list(shared(tuple(replace(slot, most=float(minutes)) for slot in made), minutes))
    return made


# -- filling -------------------------------------------------------------------------------------------------------------


def _filled(
    known: PlanningContext,
    slots: list[PlanSlot],
    minutes: int,
    held: list[KeptBlock],
    without: frozenset[str],
    *,
    high: int = 0,
) -> list[DayBlock]:
    """An exercise type for every slot; a slot for which there is none gives its minutes to the others. `high`: heavy ones already."""
    used: set[str] = set(without)
    blocks: list[DayBlock] = []
    sets = _sets_due(known, slots, minutes, used)
    high += sets is not None  # they come before other heavy work
    wanted = [(item, exercise_type_named(item.exercise_type)) for item in held]
    for slot in slots:
        own = next((pair for pair in wanted if pair[1].place == slot.place), None)
        if own is not None:
            wanted.remove(own)
            used.add(own[1].id)
            block = _made(known, own[1], own[0].minutes or slot.minutes, "you pinned it", own[0].params)
            blocks.append(replace(block, locked=True))
            continue
        if sets is not None and slot.place == sets.exercise_type.place and sets.exercise_type.id not in used:
            choice: Candidate | None = sets
        else:
            choice = _first_free(known, slot, minutes, used, high)
            high += choice is not None and choice.exercise_type.load == Load.HIGH
        if choice is None:
            continue
        used.add(choice.exercise_type.id)
        block = replace(_made(known, choice.exercise_type, slot.minutes, choice.why, {}), must=choice.must)
        if choice.exercise_type.counted_in_sets and known.sets is not None:
            block = replace(block, params=sets_for(block.params, minutes, further=known.sets.further))
        blocks.append(block)
    for item, exercise_type in wanted:
        blocks.append(
            replace(_made(known, exercise_type, item.minutes or 3.0, "you pinned it", item.params), locked=True)
        )
    return blocks


def _sets_due(known: PlanningContext, slots: list[PlanSlot], minutes: int, used: set[str]) -> Candidate | None:
    """Pedal sets, where a goal asks for them and today is one of their days."""
    place = IN_SETS.place
    if IN_SETS.id in used or all(slot.place != place for slot in slots):
        return None
    due = (
        choice for choice in candidates(known, place, minutes) if choice.exercise_type.counted_in_sets and choice.must
    )
    return next(due, None)


def _first_free(known: PlanningContext, slot: PlanSlot, minutes: int, used: set[str], high: int) -> Candidate | None:
    most_high = 2 if known.kind == DayKind.HEAVY else 1
    for choice in candidates(known, slot.place, minutes):
        heavy = choice.exercise_type.load == Load.HIGH
        if choice.exercise_type.id not in used and not (heavy and high >= most_high):
            return choice
    return None


def _made(
    known: PlanningContext, exercise_type: ExerciseType, minutes: float, why: str, given: Mapping[str, str]
) -> DayBlock:
    """A block with its parameters: the path's step, where the range lets it begin, the approach's, the player's own."""
    wish = next((wish for wish in known.wishes if wish.exercise_type == exercise_type.id), None)
    path = path_of(exercise_type.id, known.instrument)
    step = known.standing(path).step if path else None
    own = path.steps[step].params if path is not None and step is not None else {}
    params = {
        **exercise_type.approach_params(known.approaches, known.instrument),
        **own,
        **_placed(known, exercise_type, own),
        **((exercise_type.quiet or {}) if known.quiet else {}),
        **(dict(wish.params) if wish else {}),
        **dict(given),
    }
    if exercise_type.counted_in_sets and known.sets is not None:
        params = known.sets.within(params)
        why = f"{why}; {known.sets.why}" if why else known.sets.why
    lately = known.lately.get(exercise_type.id)
    share = CLASS_SHARE[exercise_type.load]
    rate = _BREATH_RATE if exercise_type.place == DayPlace.BREATH else known.rate(exercise_type.id, share)
    return DayBlock(
        exercise_type=exercise_type.id,
        place=exercise_type.place,
        load_class=exercise_type.load,
        minutes=minutes,
        why=why,
        params=params,
        step=step,
        of=len(path.steps) if path else None,
        says=path.steps[step].say if path is not None and step is not None else "",
        load=round(rate * minutes, 1),
        easier=lately is not None and lately.is_back_on(known.today),
        own=bool(given),
    )


def _placed(known: PlanningContext, exercise_type: ExerciseType, own: Mapping[str, str]) -> dict[str, str]:
    """Where the record lets the work begin, by the exercise's declaration. `own`: the parameters of the path's step."""
    if exercise_type.begins is None:
        return {}
    return exercise_type.begins(
        Begin(
            known.instrument,
            known.standard,
            known.start_up,
            known.top(joined=False),
            known.top(joined=True),
            known.said_low(),
            own,
        )
    )


def _name(known: PlanningContext, midi: int) -> str:
    return pitch_of_midi(min(max(midi, known.instrument.lowest.midi), known.instrument.highest.midi)).name


def _with_stale(known: PlanningContext, blocks: list[DayBlock]) -> list[DayBlock]:
    """Keep: notes in range that were not met, up to the middle in long tones, those above on the ladder."""
    low = [midi for midi in known.stale if midi <= middle_of(known.instrument) + _TONES_OVER_MIDDLE]
    high = [midi for midi in known.stale if midi not in low]
    out = list(blocks)
    tones = _free_place(out, DayPlace.TONES)
    if low and tones is not None:
        span = min(max(low) - min(low), _STALE_MOST)
        params = {"start": _name(known, max(low)), "steps": str(span), "beats": "8"}
        out[tones] = _through(known, out[tones], _LOW_NOTES, len(low), params)
    climb = _free_place(out, DayPlace.REGISTER)
    may = allowed(known, _CLIMB) and known.standard != Standard.BEGINNER and _CLIMB.id not in known.heavy_yesterday
    if high and climb is not None and may:
        range_notes = min(_STALE_MOST + 2, max(high) - min(high) + 1)
        params = {"start": _name(known, min(high)), "steps": str(range_notes)}
        out[climb] = _through(known, out[climb], _CLIMB, len(high), params)
    return out


def _free_place(blocks: list[DayBlock], place: DayPlace) -> int | None:
    """The first block there that neither the player nor a goal holds on to."""
    return next((at for at, b in enumerate(blocks) if b.place == place and not b.locked and not b.must), None)


def _through(
    known: PlanningContext, block: DayBlock, exercise_type: ExerciseType, count: int, params: dict[str, str]
) -> DayBlock:
    """A block in the place of another that goes through notes to be kept; it stays in a day that is made shorter."""
    why = counted(
        count,
        "one note in your range was not played for a week",
        "{count} notes in your range were not played for a week",
    )
    made = _made(known, exercise_type, block.minutes, why, {})
    return replace(made, params=made.params | params, step=None, of=None, says="", must=True)


def _in_order(blocks: list[DayBlock], known: PlanningContext) -> list[DayBlock]:
    """The order of the day; the approach may let long tones come first."""
    places = list(DayPlace)
    if known.approaches[Ask.DAY_BEGINS] == Approach.LOW_TONES:
        places.remove(DayPlace.TONES)
        places.insert(0, DayPlace.TONES)
    ordered = sorted(blocks, key=lambda block: places.index(block.place))
    limit = next((at for at, block in enumerate(ordered) if block.params.get("climb") == TO_THE_LIMIT), None)
    loose = next(
        (block for block in ordered if exercise_type_named(block.exercise_type).recovers and not block.locked), None
    )
    if limit is None or loose is None:
        return ordered
    # After a climb to the limit the blood comes back at once, not at the end of the day.
    ordered.remove(loose)
    return [*ordered[: limit + 1], replace(loose, why="to recover after the triads"), *ordered[limit + 1 :]]
