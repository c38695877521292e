"""The built-in routines of 15, 30 and 60 minutes, in the order of the day. Plans made from the record come later.

A routine is a list of blocks with minutes, each with a family and parameters; the rest after a block is as long as what
was played in it, so that about half of the minutes are playing.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from orexis.core.coach import LIPS, Care, Lips
from orexis.core.figures import (
    BREATH,
    BUZZ_ANSWER,
    BUZZ_INTERVALS,
    CHECK_NOTE,
    FAMILIES,
    FIND_THE_MIDDLE,
    INTERVAL_STAIRS,
    LIP_BEND,
    LONG_LOW_TONES,
    LOOSE_PEDALS,
    ONE_OCTAVE_SCALE,
    PARTIAL_CHAIN,
    SHAPED_TONES,
    SIREN,
    STEP_LADDER,
    TUNE,
    TWO_PARTIAL_SLUR,
    Family,
    Place,
    Series,
    family_named,
)
from orexis.core.horn import Instrument
from orexis.core.practice.edge import NOTHING, Owned, comfort_of
from orexis.core.practice.machine import opening
from orexis.core.practice.state import BlockPlan, SessionState
from orexis.core.schools import Ask, Choice, Schools
from orexis.core.theory import pitch_of_midi
from orexis.errors import InputError


@dataclass(frozen=True, slots=True)
class Item:
    """One block of a routine before it is made for a horn."""

    family: Family
    minutes: float
    why: str
    params: Mapping[str, str]


def _item(family: Family, minutes: float, why: str, **params: str) -> Item:
    return Item(family, minutes, why, params)


_BUZZ = _item(BUZZ_ANSWER, 2.0, "wakes lips and ear before the horn helps")
_LONG = _item(LONG_LOW_TONES, 4.0, "the sound everything else is compared with", steps="3", beats="8")
_SLUR = _item(TWO_PARTIAL_SLUR, 5.0, "clean moves on the breath alone")
_LOOSE = _item(LOOSE_PEDALS, 1.5, "blood back into the lips", steps="5")
ROUTINES: dict[int, tuple[Item, ...]] = {
    15: (_BUZZ, _LONG, _SLUR, _LOOSE),
    30: (
        _item(BREATH, 1.0, "a full breath before the first note", rounds="2"),
        _BUZZ,
        _LONG,
        _SLUR,
        _item(FIND_THE_MIDDLE, 2.0, "where a note rings, everything else gets easier"),
        _item(PARTIAL_CHAIN, 4.0, "three slots in a row, clean before fast"),
        _item(STEP_LADDER, 6.0, "one semitone at a time", rungs="6"),
        _item(TUNE, 3.0, "music in the register just worked on"),
        _LOOSE,
    ),
    60: (
        _item(BREATH, 1.5, "a full breath before the first note", rounds="3"),
        _BUZZ,
        _item(BUZZ_INTERVALS, 2.0, "hear it, then go straight to it", to="5"),
        _item(LONG_LOW_TONES, 6.0, "the sound everything else is compared with", steps="5", beats="8"),
        _item(SHAPED_TONES, 4.0, "loudness moves, the pitch stays"),
        _item(TWO_PARTIAL_SLUR, 6.0, "clean moves on the breath alone"),
        _item(PARTIAL_CHAIN, 5.0, "three slots in a row, clean before fast"),
        _item(LIP_BEND, 3.0, "strength in the middle of the lip", tube="all"),
        _item(INTERVAL_STAIRS, 4.0, "one setting all the way down"),
        _item(STEP_LADDER, 8.0, "one semitone at a time", rungs="8"),
        _item(ONE_OCTAVE_SCALE, 5.0, "the register carried along a line"),
        _item(TUNE, 5.0, "music in the register just worked on"),
        _LOOSE,
    ),
}
# After the hour from which it has to be quiet: the same minutes in these shares.
QUIET: tuple[Item, ...] = (
    _item(BREATH, 0.07, "a full breath before the first note", rounds="2"),
    _item(BUZZ_ANSWER, 0.23, "the mouthpiece alone is hardly heard next door"),
    _item(SIREN, 0.2, "one buzz from low to high, no place where it is set anew"),
    _item(BUZZ_INTERVALS, 0.23, "hear it, then go straight to it", to="5"),
    _item(LONG_LOW_TONES, 0.27, "as soft as it still sounds", steps="3", beats="8", dynamic="pp"),
)


@dataclass(frozen=True, slots=True)
class Routine:
    """A routine made for a horn: its series in order, the check note, and the plan that the session follows."""

    blocks: tuple[Series, ...]
    plan: tuple[BlockPlan, ...]
    check: Series


def check_series(horn: Instrument) -> Series:
    """The check note of the horn."""
    return CHECK_NOTE.series(horn)


def routine_for(
    minutes: int,
    horn: Instrument,
    *,
    schools: Schools,
    care: Care,
    owned: Owned = NOTHING,
    start_midi: int | None = None,
    lips: str = Lips.FRESH,
    quiet: bool = False,
) -> Routine:
    """The built-in routine of so many minutes. `owned` and `start_midi` place the register work.

    Tired lips get no heavy block, sore ones only what is easy. `quiet`: buzzing and soft work only.
    """
    if minutes not in ROUTINES:
        raise InputError(f"There is no routine of {minutes} minutes: choose {', '.join(map(str, ROUTINES))}.")
    if lips not in LIPS:
        raise InputError(f"The lips are “{lips[:20]}”: choose {', '.join(LIPS)}.")
    loads = LIPS[Lips(lips)]
    wanted = tuple(replace(i, minutes=i.minutes * minutes) for i in QUIET) if quiet else ROUTINES[minutes]
    items = [item for item in _by_school(wanted, horn, schools, care) if item.family.load in loads]
    blocks, plan = [], []
    for item in items:
        params = dict(item.params) | item.family.school_params(schools) | _register(item, horn, start_midi)
        series = item.family.series(horn, params)
        blocks.append(series)
        plan.append(planned(series, minutes=item.minutes * care.share, why=item.why, owned=owned))
    return Routine(tuple(blocks), tuple(plan), check_series(horn))


def planned(series: Series, *, minutes: float | None, why: str, owned: Owned = NOTHING) -> BlockPlan:
    """A block as the session sees it."""
    family = family_named(series.family)
    return BlockPlan(
        family=series.family,
        title=series.title,
        place=family.place,
        load=family.load,
        advance=series.advance,
        figures=len(series.figures),
        first=series.first,
        minutes=minutes,
        rest_s=series.rest_s,
        comfort=comfort_of(series, owned),
        why=why,
    )


def state_for(
    routine: Routine, *, checks: bool, schools: Schools, care: Care, tempo_steps: bool = False
) -> SessionState:
    """The session as it begins."""
    state = SessionState(
        routine.plan,
        checks_on=checks,
        lost_rung=schools[Ask.AFTER_A_LOST_RUNG],
        extra_rest=care.extra_rest,
        tempo_steps=tempo_steps,
    )
    return opening(state)


def _by_school(items: tuple[Item, ...], horn: Instrument, schools: Schools, care: Care) -> list[Item]:
    """What a school puts first, or in the place of something else; what care leaves out."""
    chosen = [_stood_in(item, schools) for item in items if item.family.suits(horn)]
    if schools[Ask.DAY_BEGINS] == Choice.LOW_TONES:
        tones = [item for item in chosen if item.family.place == Place.TONES]
        chosen = tones + [item for item in chosen if item not in tones]
    return [item for item in chosen if care.allows(item.family.load)]


def _stood_in(item: Item, schools: Schools) -> Item:
    """The family that stands in for this one by a school that was chosen, or the same."""
    for family in FAMILIES.values():
        rule = family.stands_in
        if rule and rule.instead_of == item.family.id and schools[rule.ask] == rule.choice:
            return Item(family, item.minutes, family.purpose, {})
    return item


def _register(item: Item, horn: Instrument, start_midi: int | None) -> dict[str, str]:
    """Where the record lets the register work begin."""
    if item.family.placed is None or start_midi is None:
        return {}
    low, high = horn.lowest.midi, horn.highest.midi
    return {item.family.placed: pitch_of_midi(min(max(start_midi, low), high - 1)).name}
