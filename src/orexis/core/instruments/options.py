"""Ways to play a note: every tube and partial that gives it, with cents, the pull that mends it, and a rank.

`cents` is the deviation from equal temperament at `a4` before any correction, sharp positive. `slide_mm` is the pull
that brings the note to pitch, out positive. Ranks start at 1; the order is that of the usual fingering charts and
follows from the costs below, which weigh cents against handiness.
"""

from dataclasses import dataclass
from functools import lru_cache

from orexis.core.instruments.fingering import (
    Fingering,
    all_fingerings,
    partial_frequency_hz,
    position_extension_m,
    pull_mm,
)
from orexis.core.instruments.instrument import HandSlide, Instrument, MovingSlide, Preferred
from orexis.core.messages import tell
from orexis.core.theory import Pitch, cents_between
from orexis.errors import InstrumentError

_REACH_CENTS = 60.0  # a way further out than this is another note
_IN_TUNE_CENTS = 3.0  # nobody moves a slide for less

# Costs in cents-equivalents.
_PER_VALVE = 4.0  # an open note is the easiest to hand
_PER_EXTRA_VALVE = 4.0  # each valve beyond the first is one more finger to time
_FOURTH = 18.0  # the other hand, or the weakest finger: for the notes that need it
_THIRD_ALONE = 30.0  # 1-2 is the usual choice, 3 alone the alternate
_PER_POSITION = 8.0  # arm's way
_SLIDE_VALVE = 30.0  # a thumb valve serves the notes that need a long arm, not the others
_SECOND_SLIDE_VALVE = 10.0  # a second trigger is slower to find than the first
_FIFTH = 10.0  # the fifth valve is for the left hand: only where it helps
_OTHER_SIDE = 60.0  # the double horn's side that is not usual here
_PEDAL = 40.0  # partial 1 only where nothing else gives the note


@dataclass(frozen=True, slots=True)
class FingeringOption:
    """One way to play a note."""

    partial: int
    fingering: Fingering
    cents: float
    slide: str | None  # name of the slide that mends it, None when none moves
    slide_mm: float | None
    reachable: bool  # can be brought to pitch by that slide (or needs no correction)
    glide_up: bool  # sliding in from here gives the next semitone on the same partial
    rank: int


def deviation_cents(
    instrument: Instrument, fingering: Fingering, partial: int, pitch: Pitch, *, a4: float = 440.0
) -> float:
    """Theory's deviation of this partial of this tube from the equal-tempered pitch."""
    return cents_between(pitch.frequency(a4=a4), partial_frequency_hz(instrument, fingering, partial))


@lru_cache(maxsize=4096)
def fingering_options(instrument: Instrument, pitch: Pitch, *, a4: float = 440.0) -> tuple[FingeringOption, ...]:
    """All ways, the player's own first, then the best. InstrumentError when the instrument has none."""
    options: list[tuple[float, FingeringOption]] = []
    for fingering in all_fingerings(instrument):
        for partial in range(1, instrument.top_partial + 1):
            cents = deviation_cents(instrument, fingering, partial, pitch, a4=a4)
            if abs(cents) <= _REACH_CENTS:
                options.append(
                    (
                        _cost(instrument, fingering, partial, cents, pitch),
                        _option(instrument, fingering, partial, cents),
                    )
                )
    if not options:
        raise InstrumentError(_no_option(instrument, pitch))
    own = next((item for item in instrument.setup.preferred if item.midi == pitch.midi), None)
    options.sort(key=lambda item: (not _is_own(item[1], own), item[0], item[1].fingering.label))
    return tuple(_ranked(option, rank) for rank, (_, option) in enumerate(options, start=1))


def _is_own(option: FingeringOption, own: Preferred | None) -> bool:
    """Whether the player takes the note so, whatever it costs."""
    return own is not None and (option.fingering.label, option.partial) == (own.fingering, own.partial)


def _no_option(instrument: Instrument, pitch: Pitch) -> str:
    return tell(
        "{instrument} has no partial for {pitch} (concert): its usual range is {lowest} to {highest}, with pedals below.",
        instrument=instrument.name,
        pitch=pitch.name,
        lowest=instrument.lowest.name,
        highest=instrument.highest.name,
    )


def _ranked(option: FingeringOption, rank: int) -> FingeringOption:
    return FingeringOption(
        option.partial,
        option.fingering,
        option.cents,
        option.slide,
        option.slide_mm,
        option.reachable,
        option.glide_up,
        rank,
    )


def _option(instrument: Instrument, fingering: Fingering, partial: int, cents: float) -> FingeringOption:
    glide_up = isinstance(instrument.mechanism, HandSlide) and (fingering.position or 1) >= 2
    slide, millimetres, reachable = slide_that_mends(instrument, fingering, cents)
    return FingeringOption(partial, fingering, cents, slide, millimetres, reachable, glide_up, rank=0)


def slide_that_mends(
    instrument: Instrument, fingering: Fingering, cents: float
) -> tuple[str | None, float | None, bool]:
    """Return the slide that takes so many cents away (None: none moves), how many millimetres out, and whether it gets there."""
    pull = pull_mm(instrument, fingering, cents)
    if isinstance(instrument.mechanism, HandSlide):
        place = 1000.0 * position_extension_m(instrument, fingering.position or 1, fingering.valves) + pull
        fits = 0.0 <= place <= 1000.0 * instrument.mechanism.travel_m
        return "hand slide", pull, fits or abs(cents) <= _IN_TUNE_CENTS
    slide = _moving_slide(instrument.mechanism.moving, fingering)
    if slide is None:
        return None, None, abs(cents) <= _IN_TUNE_CENTS
    return slide.name, pull, 0.0 <= pull <= slide.travel_mm or abs(cents) <= _IN_TUNE_CENTS


def _moving_slide(moving: tuple[MovingSlide, ...], fingering: Fingering) -> MovingSlide | None:
    """The longest moving slide whose valve is down."""
    usable = [slide for slide in moving if slide.valve in fingering.valves]
    return max(usable, key=lambda slide: slide.travel_mm, default=None)


def _cost(instrument: Instrument, fingering: Fingering, partial: int, cents: float, pitch: Pitch) -> float:
    weight = instrument.flat_weight if cents < 0 else 1.0
    if isinstance(instrument.mechanism, HandSlide):
        _, _, reachable = slide_that_mends(instrument, fingering, cents)
        cost = (0.5 if reachable else 1.0) * abs(cents) + _PER_POSITION * ((fingering.position or 1) - 1)
        cost += _SLIDE_VALVE * len(fingering.valves) + (_SECOND_SLIDE_VALVE if 2 in fingering.valves else 0.0)
    else:
        pressed = len(fingering.valves)
        cost = weight * abs(cents) + _PER_VALVE * pressed + _PER_EXTRA_VALVE * max(0, pressed - 1)
        alone = fingering.valves == (3,) or (fingering.valves == (3, 4) and instrument.mechanism.compensating)
        cost += _THIRD_ALONE if alone else 0.0
        cost += _FOURTH if 4 in fingering.valves else 0.0
        cost += _FIFTH if 5 in fingering.valves else 0.0
    if instrument.second_side_from is not None:
        second = pitch.midi >= instrument.second_side_from.midi
        cost += _OTHER_SIDE if (fingering.side == instrument.sides[1].name) != second else 0.0
    return cost + (_PEDAL if partial == 1 else 0.0)
