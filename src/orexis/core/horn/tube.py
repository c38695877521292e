"""Tubes: what a combination of valves, or a place of the slide, does to the length.

Valve i alone adds a_i = 2^(s_i/12) - 1 of the open tube, s = 2, 1, 3, 5 semitones for valves 1 to 4. Pressed together
fractions add and fall short, so combinations are sharp. A compensating horn's last valve multiplies instead.
Position p of a hand slide lengthens exactly by p - 1 semitones. (Benade, Fundamentals of Musical Acoustics, ch. 20.)
"""

import math
from dataclasses import dataclass
from itertools import combinations

from orexis.core.horn.instrument import HandSlide, Instrument, Valves, open_length_m
from orexis.errors import HornError

_VALVE_SEMITONES = {1: 2, 2: 1, 3: 3, 4: 5, 5: 7}


@dataclass(frozen=True, slots=True)
class Tube:
    """One length of tubing: `valves` pressed, or a slide `position` counted from 1, on `side` of a double horn."""

    valves: tuple[int, ...] = ()
    position: int | None = None
    side: str | None = None

    @property
    def label(self) -> str:
        """As players write it: 0, 1-3, 4th position is 4, a second side leads with its name."""
        middle = str(self.position) if self.position is not None else ("-".join(map(str, self.valves)) or "0")
        return f"{self.side} {middle}" if self.side else middle


def tube_factor(horn: Instrument, tube: Tube) -> float:
    """Length of the tube over the length of the open one, as built (slides home)."""
    if isinstance(horn.mechanism, HandSlide):
        return 2.0 ** (((tube.position or 1) - 1) / 12.0)
    added = [2.0 ** (_VALVE_SEMITONES[valve] / 12.0) - 1.0 for valve in tube.valves]
    if horn.mechanism.compensating and horn.mechanism.count in tube.valves:
        return (1.0 + added[-1]) * (1.0 + sum(added[:-1]))
    return 1.0 + sum(added)


def tube_semitones(horn: Instrument, tube: Tube) -> int:
    """How many semitones the tube is meant to lower the open one."""
    if isinstance(horn.mechanism, HandSlide):
        return (tube.position or 1) - 1
    return sum(_VALVE_SEMITONES[valve] for valve in tube.valves)


def tube_length_m(horn: Instrument, tube: Tube) -> float:
    """Sounding length in metres."""
    return open_length_m(horn.side(tube.side)) * tube_factor(horn, tube)


def partial_frequency_hz(horn: Instrument, tube: Tube, partial: int) -> float:
    """Where partial n of the tube lies by theory: n * f1."""
    return partial * horn.side(tube.side).fundamental.frequency() / tube_factor(horn, tube)


def all_tubes(horn: Instrument) -> tuple[Tube, ...]:
    """Every tube that the horn can make."""
    if isinstance(horn.mechanism, HandSlide):
        return tuple(Tube(position=p) for p in range(1, horn.mechanism.positions + 1))
    valves = range(1, horn.mechanism.count + 1)
    sets = [c for size in range(horn.mechanism.count + 1) for c in combinations(valves, size)]
    return tuple(Tube(valves=c, side=side.name) for side in horn.sides for c in sets)


# The seven lengths a semitone apart, in the order of practice; with a fourth valve it stands in for 1-3 and 1-2-3.
_THREE = ((), (2,), (1,), (1, 2), (2, 3), (1, 3), (1, 2, 3))
_FOUR = ((), (2,), (1,), (1, 2), (2, 3), (4,), (2, 4))


def seven_tubes(horn: Instrument, side: str | None = None) -> tuple[Tube, ...]:
    """The seven tube lengths, open first, each a semitone below the last."""
    if isinstance(horn.mechanism, HandSlide):
        return tuple(Tube(position=p) for p in range(1, horn.mechanism.positions + 1))
    chosen = horn.side(side).name
    return tuple(Tube(valves=v, side=chosen) for v in (_FOUR if horn.mechanism.count > 3 else _THREE))


def parse_tube(horn: Instrument, text: str) -> Tube:
    """Read a label such as `0`, `1-3`, `F 2` or a position; HornError when the horn has no such tube."""
    wanted = text.strip()
    for tube in all_tubes(horn):
        if wanted == tube.label or (tube.side == horn.sides[0].name and wanted == tube.label.split()[-1]):
            return tube
    if isinstance(horn.mechanism, Valves):
        raise HornError(f"{horn.name} has no tube “{text[:20]}”: write valves such as 1-3, or 0 for open.")
    raise HornError(f"{horn.name} has no position “{text[:20]}”: write 1 to {horn.mechanism.positions}.")


def pull_mm(horn: Instrument, tube: Tube, cents: float) -> float:
    """How far a U slide must go out (positive) to lower the tube by `cents`: L * (2^(cents/1200) - 1) / 2."""
    return 1000.0 * tube_length_m(horn, tube) * (2.0 ** (cents / 1200.0) - 1.0) / 2.0


def position_extension_m(horn: Instrument, position: int) -> float:
    """How far the hand slide is out at a position of the open tube."""
    return open_length_m(horn.sides[0]) * (2.0 ** ((position - 1) / 12.0) - 1.0) / 2.0


def partials_between(low: int, high: int) -> tuple[int, ...]:
    """The partials that a slur from one to the other passes over."""
    first, last = sorted((low, high))
    return tuple(range(first + 1, last))


def partial_near(horn: Instrument, tube: Tube, frequency_hz: float) -> tuple[int, float]:
    """The nearest partial of the tube and how many cents the frequency lies above it."""
    ratio = frequency_hz / partial_frequency_hz(horn, tube, 1)
    candidates = {max(1, math.floor(ratio)), max(1, math.ceil(ratio))}
    best = min(candidates, key=lambda n: abs(math.log2(ratio / n)))
    return best, 1200.0 * math.log2(ratio / best)
