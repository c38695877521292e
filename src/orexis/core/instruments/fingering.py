"""Tubes: what a combination of valves, or a place of the slide, does to the length.

Valve i alone adds a_i = 2^(s_i/12) - 1 of the open tube, s = 2, 1, 3, 5 semitones for valves 1 to 4. Pressed together
fractions add and fall short, so combinations are sharp. A compensating instrument's last valve multiplies instead.
Position p of a hand slide lengthens exactly by p - 1 semitones, counted on the tube that its valves make. (Benade, Fundamentals of Musical Acoustics, ch. 20.)
"""

import math
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

from orexis.core.instruments.instrument import HandSlide, Instrument, Valves, open_length_m
from orexis.core.messages import tell
from orexis.core.theory import cents_between, ratio_of
from orexis.errors import InstrumentError

_OPEN_NAMES = "VW"  # a slide's valves in labels: V the first, W the second, VW both


@dataclass(frozen=True, slots=True)
class Fingering:
    """One length of tubing: `valves` pressed and a slide `position` counted from 1, on `side` of a double horn.

    With a slide's valve down the positions are counted on the longer tube and lie further apart.
    """

    valves: tuple[int, ...] = ()
    position: int | None = None
    side: str | None = None

    @property
    def label(self) -> str:
        """As players write it: 0, 1-3; 4th position is 4, with the first valve V4; a second side leads with its name."""
        if self.position is not None:
            return "".join(_OPEN_NAMES[valve - 1] for valve in self.valves) + str(self.position)
        middle = "-".join(map(str, self.valves)) or "0"
        return f"{self.side} {middle}" if self.side else middle


def length_factor(instrument: Instrument, fingering: Fingering) -> float:
    """Length of the tube over the length of the open one, as built (slides home)."""
    mechanism = instrument.mechanism
    if isinstance(mechanism, HandSlide):
        return valve_factor(mechanism, fingering.valves) * 2.0 ** (((fingering.position or 1) - 1) / 12.0)
    added = [2.0 ** (mechanism.lowers[valve - 1] / 12.0) - 1.0 for valve in fingering.valves]
    if mechanism.compensating and mechanism.count in fingering.valves:
        return (1.0 + added[-1]) * (1.0 + sum(added[:-1]))
    return 1.0 + sum(added)


def valve_factor(slide: HandSlide, valves: tuple[int, ...]) -> float:
    """What the valves behind a hand slide do to the length: fractions of the open tube add."""
    return 1.0 + sum(2.0 ** (slide.valves[valve - 1].semitones / 12.0) - 1.0 for valve in valves)


def fingering_semitones(instrument: Instrument, fingering: Fingering) -> int:
    """How many semitones the tube is meant to lower the open one."""
    mechanism = instrument.mechanism
    if isinstance(mechanism, HandSlide):
        by_valves = round(12.0 * math.log2(valve_factor(mechanism, fingering.valves)))
        return by_valves + (fingering.position or 1) - 1
    return sum(math.floor(mechanism.lowers[valve - 1]) for valve in fingering.valves)


def tube_length_m(instrument: Instrument, fingering: Fingering) -> float:
    """Return the sounding length of a tube in metres."""
    return open_length_m(instrument.side(fingering.side)) * length_factor(instrument, fingering)


def partial_frequency_hz(instrument: Instrument, fingering: Fingering, partial: int) -> float:
    """Where partial n of the tube lies: n * f1, moved by this instrument's own correction and warmth."""
    theory = partial * instrument.side(fingering.side).fundamental.frequency() / length_factor(instrument, fingering)
    return theory * ratio_of(instrument.setup.correction(partial, fingering.label))


@lru_cache(maxsize=1024)
def slots_hz(instrument: Instrument, fingering: Fingering) -> tuple[tuple[int, float], ...]:
    """(partial, Hz) of every slot in which the tube may answer: up to two above the last that is played."""
    return tuple((n, partial_frequency_hz(instrument, fingering, n)) for n in range(1, instrument.top_partial + 3))


@lru_cache(maxsize=64)
def all_fingerings(instrument: Instrument) -> tuple[Fingering, ...]:
    """Every tube that the instrument can make."""
    mechanism = instrument.mechanism
    if isinstance(mechanism, HandSlide):
        return tuple(
            Fingering(valves, position)
            for valves in _slide_valve_sets(mechanism)
            for position in range(1, _positions(instrument, mechanism, valves) + 1)
        )
    valves = range(1, mechanism.count + 1)
    sets = [c for size in range(mechanism.count + 1) for c in combinations(valves, size)]
    return tuple(Fingering(valves=c, side=side.name) for side in instrument.sides for c in sets)


def _slide_valve_sets(slide: HandSlide) -> tuple[tuple[int, ...], ...]:
    sets = [c for size in range(len(slide.valves) + 1) for c in combinations(range(1, len(slide.valves) + 1), size)]
    return tuple(c for c in sets if not (slide.dependent and c == (2,)))


def _positions(instrument: Instrument, slide: HandSlide, valves: tuple[int, ...]) -> int:
    """Positions within the slide's travel on the tube that the valves make."""
    count = 1
    while count < slide.positions and position_extension_m(instrument, count + 1, valves) <= slide.travel_m:
        count += 1
    return count


# The seven lengths a semitone apart, in the order of practice; with a fourth valve it stands in for 1-3 and 1-2-3.
_THREE = ((), (2,), (1,), (1, 2), (2, 3), (1, 3), (1, 2, 3))
_FOUR = ((), (2,), (1,), (1, 2), (2, 3), (4,), (2, 4))


def seven_fingerings(instrument: Instrument, side: str | None = None) -> tuple[Fingering, ...]:
    """The seven tube lengths, open first, each a semitone below the last."""
    if isinstance(instrument.mechanism, HandSlide):
        return tuple(fingering for fingering in all_fingerings(instrument) if not fingering.valves)
    chosen = instrument.side(side).name
    return tuple(Fingering(valves=v, side=chosen) for v in (_FOUR if instrument.mechanism.count > 3 else _THREE))


def parse_fingering(instrument: Instrument, text: str) -> Fingering:
    """Read a label such as `0`, `1-3`, `F 2` or a position; InstrumentError when the instrument has no such tube."""
    wanted = text.strip()
    for fingering in all_fingerings(instrument):
        if wanted == fingering.label or (
            fingering.side == instrument.sides[0].name and wanted == fingering.label.split()[-1]
        ):
            return fingering
    if isinstance(instrument.mechanism, Valves):
        raise InstrumentError(
            tell(
                "{instrument} has no fingering “{text}”: write valves such as 1-3, or 0 for open.",
                instrument=instrument.name,
                text=text[:20],
            )
        )
    places = ", ".join(fingering.label for fingering in all_fingerings(instrument))
    raise InstrumentError(
        tell(
            "{instrument} has no position “{text}”: choose one of {places}.",
            instrument=instrument.name,
            text=text[:20],
            places=places,
        )
    )


def pull_mm(instrument: Instrument, fingering: Fingering, cents: float) -> float:
    """How far a U slide must go out (positive) to lower the tube by `cents`: L * (2^(cents/1200) - 1) / 2."""
    return 1000.0 * tube_length_m(instrument, fingering) * (ratio_of(cents) - 1.0) / 2.0


def position_extension_m(instrument: Instrument, position: int, valves: tuple[int, ...] = ()) -> float:
    """How far the hand slide is out at a position of the tube that the valves make: L * (2^((p-1)/12) - 1) / 2."""
    assert isinstance(instrument.mechanism, HandSlide)
    length = open_length_m(instrument.sides[0]) * valve_factor(instrument.mechanism, valves)
    return length * (2.0 ** ((position - 1) / 12.0) - 1.0) / 2.0


def partials_between(low: int, high: int) -> tuple[int, ...]:
    """The partials that a slur from one to the other passes over."""
    first, last = sorted((low, high))
    return tuple(range(first + 1, last))


def partial_near(instrument: Instrument, fingering: Fingering, frequency_hz: float) -> tuple[int, float]:
    """The nearest partial of the tube and how many cents the frequency lies above it."""
    ratio = frequency_hz / partial_frequency_hz(instrument, fingering, 1)
    candidates = {max(1, math.floor(ratio)), max(1, math.ceil(ratio))}
    best = min(candidates, key=lambda n: abs(math.log2(ratio / n)))
    return best, cents_between(best, ratio)


def fingering_holding(
    instrument: Instrument, low_hz: float, high_hz: float, *, within_cents: float
) -> Fingering | None:
    """The tube on which both pitches are partials, the nearest fit first; None when no tube has both so near."""
    best, nearest = within_cents, None
    for fingering in all_fingerings(instrument):
        (n, off), (m, other) = (partial_near(instrument, fingering, hz) for hz in (low_hz, high_hz))
        # What both share is the player's tuning; what they do not share is a wrong guess.
        miss = max(abs(off - other), 0.5 * abs(off + other))
        if n != m and max(n, m) <= instrument.top_partial + 2 and miss < best:
            best, nearest = miss, fingering
    return nearest
