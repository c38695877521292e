"""The built-in routines of 15, 30 and 60 minutes, in the order of the day. Plans made from the record come later.

A routine is a list of blocks with minutes, each with a family and parameters; the rest after a block is as long as what
was played in it, so that about half of the minutes are playing.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from orexis.core.coach import Care
from orexis.core.figures import Series, family_named
from orexis.core.horn import Instrument
from orexis.core.practice.machine import opening
from orexis.core.practice.state import BlockPlan, SessionState
from orexis.core.theory import pitch_of_midi
from orexis.errors import InputError


@dataclass(frozen=True, slots=True)
class Item:
    """One block of a routine before it is made for a horn."""

    family: str
    minutes: float
    why: str
    params: Mapping[str, str]


def _item(family: str, minutes: float, why: str, **params: str) -> Item:
    return Item(family, minutes, why, params)


_BUZZ = _item("buzz-answer", 2.0, "wakes lips and ear before the horn helps")
_LONG = _item("long-low-tones", 4.0, "the sound everything else is compared with", steps="3", beats="8")
_SLUR = _item("two-partial-slur", 5.0, "clean moves on the breath alone")
_LOOSE = _item("loose-pedals", 1.5, "blood back into the lips", steps="5")
ROUTINES: dict[int, tuple[Item, ...]] = {
    15: (_BUZZ, _LONG, _SLUR, _LOOSE),
    30: (
        _item("breath", 1.0, "a full breath before the first note", rounds="2"),
        _BUZZ,
        _LONG,
        _SLUR,
        _item("find-the-middle", 2.0, "where a note rings, everything else gets easier"),
        _item("partial-chain", 4.0, "three slots in a row, clean before fast"),
        _item("step-ladder", 6.0, "one semitone at a time", rungs="6"),
        _item("tune", 3.0, "music in the register just worked on"),
        _LOOSE,
    ),
    60: (
        _item("breath", 1.5, "a full breath before the first note", rounds="3"),
        _BUZZ,
        _item("buzz-intervals", 2.0, "hear it, then go straight to it", to="5"),
        _item("long-low-tones", 6.0, "the sound everything else is compared with", steps="5", beats="8"),
        _item("shaped-tones", 4.0, "loudness moves, the pitch stays"),
        _item("two-partial-slur", 6.0, "clean moves on the breath alone"),
        _item("partial-chain", 5.0, "three slots in a row, clean before fast"),
        _item("lip-bend", 3.0, "strength in the middle of the lip", tube="all"),
        _item("interval-stairs", 4.0, "one setting all the way down"),
        _item("step-ladder", 8.0, "one semitone at a time", rungs="8"),
        _item("one-octave-scale", 5.0, "the register carried along a line"),
        _item("tune", 5.0, "music in the register just worked on"),
        _LOOSE,
    ),
}
# After the hour from which it has to be quiet: the same minutes in these shares.
QUIET: tuple[Item, ...] = (
    _item("breath", 0.07, "a full breath before the first note", rounds="2"),
    _item("buzz-answer", 0.23, "the mouthpiece alone is hardly heard next door"),
    _item("siren", 0.2, "one buzz from low to high, no place where it is set anew"),
    _item("buzz-intervals", 0.23, "hear it, then go straight to it", to="5"),
    _item("long-low-tones", 0.27, "as soft as it still sounds", steps="3", beats="8", dynamic="pp"),
)


# What is asked of lips that feel so.
LIPS: dict[str, tuple[str, ...]] = {
    "fresh": ("easy", "medium", "high"),
    "worked": ("easy", "medium", "high"),
    "tired": ("easy", "medium"),
    "sore": ("easy",),
}


@dataclass(frozen=True, slots=True)
class Routine:
    """A routine made for a horn: its series in order, the check note, and the plan that the session follows."""

    blocks: tuple[Series, ...]
    plan: tuple[BlockPlan, ...]
    check: Series


def check_series(horn: Instrument) -> Series:
    """The check note of the horn."""
    return family_named("check-note").series(horn)


def routine_for(
    minutes: int,
    horn: Instrument,
    *,
    schools: Mapping[str, str],
    care: Care,
    top_owned: int | None = None,
    start_midi: int | None = None,
    lips: str = "fresh",
    quiet: bool = False,
) -> Routine:
    """The built-in routine of so many minutes. `top_owned` and `start_midi` place the register work.

    Tired lips get no heavy block, sore ones only what is easy. `quiet`: buzzing and soft work only.
    """
    if minutes not in ROUTINES:
        raise InputError(f"There is no routine of {minutes} minutes: choose {', '.join(map(str, ROUTINES))}.")
    if lips not in LIPS:
        raise InputError(f"The lips are “{lips[:20]}”: choose {', '.join(LIPS)}.")
    loads = LIPS[lips]
    wanted = tuple(replace(i, minutes=i.minutes * minutes) for i in QUIET) if quiet else ROUTINES[minutes]
    items = [i for i in _by_school(wanted, horn, schools, care) if family_named(i.family).load in loads]
    blocks, plan = [], []
    for item in items:
        params = dict(item.params) | school_params(item.family, horn, schools) | _register(item, horn, start_midi)
        series = family_named(item.family).series(horn, params)
        blocks.append(series)
        plan.append(planned(series, minutes=item.minutes * care.share, why=item.why, top_owned=top_owned))
    return Routine(tuple(blocks), tuple(plan), check_series(horn))


def planned(series: Series, *, minutes: float | None, why: str, top_owned: int | None = None) -> BlockPlan:
    """A block as the session sees it."""
    family = family_named(series.family)
    comfort = None
    if series.advance == "climb" and top_owned is not None:
        inside = [i for i, figure in enumerate(series.figures) if max(n.pitch.midi for n in figure.notes) <= top_owned]
        comfort = max(inside, default=series.first)
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
        comfort=comfort,
        why=why,
    )


def state_for(
    routine: Routine, *, checks: bool, schools: Mapping[str, str], care: Care, tempo_steps: bool = False
) -> SessionState:
    """The session as it begins."""
    state = SessionState(
        routine.plan,
        checks_on=checks,
        lost_rung=schools["after-a-lost-rung"],
        extra_rest=care.extra_rest,
        tempo_steps=tempo_steps,
    )
    return opening(state)


def _by_school(items: tuple[Item, ...], horn: Instrument, schools: Mapping[str, str], care: Care) -> list[Item]:
    """What a school puts first, or in the place of something else; what care leaves out."""
    chosen = [item for item in items if family_named(item.family).suits(horn)]
    if schools["climbing"] == "triads to today's limit":
        chosen = [
            _item("triad-with-reset", item.minutes, "triads to the limit of today")
            if item.family == "step-ladder"
            else item
            for item in chosen
        ]
    if schools["day-begins"] == "long low tones":
        tones = [item for item in chosen if family_named(item.family).place == "tones"]
        chosen = tones + [item for item in chosen if item not in tones]
    return [item for item in chosen if care.heavy or family_named(item.family).load != "high"]


def school_params(family: str, horn: Instrument, schools: Mapping[str, str]) -> dict[str, str]:
    """Parameters of a family that the player's schools decide, in a routine and where a single figure is chosen."""
    keys = {param.key for param in family_named(family).params(horn)}
    placed: dict[str, str] = {}
    if "loudness" in keys:
        placed["loudness"] = schools["loudness-upwards"]
    if family == "loose-pedals" and schools["double-pedals"].startswith("free"):
        placed |= {"join": "a glide", "steps": "8"}
    if family == "wide-slur":
        placed["first"] = "tongue" if schools["wide-slurs"] == "tongue first" else "slur"
    return placed


def _register(item: Item, horn: Instrument, start_midi: int | None) -> dict[str, str]:
    """Where the record lets the register work begin."""
    if item.family != "step-ladder" or start_midi is None:
        return {}
    low, high = horn.lowest.midi, horn.highest.midi
    return {"start": pitch_of_midi(min(max(start_midi, low), high - 1)).name}
