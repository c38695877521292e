"""Which of a note's ways is meant: the resistance of the longest tube, the same partial, one side or valve throughout.

A note can often be had in several ways, and which one is used is part of an exercise. A rule picks among those that can be
brought to pitch, or lie near enough to it by themselves; where it leaves none, the usual way stands.
"""

from orexis.core.horn.instrument import HandSlide, Instrument
from orexis.core.horn.tube import parse_tube, tube_length_m
from orexis.core.horn.ways import Way, ways_to_play
from orexis.core.theory import Pitch, pitch_of_midi
from orexis.errors import HornError

USUAL, LONGEST, SHORTEST, SAME_PARTIAL = "as usual", "longest tube", "shortest tube", "same partial"
BY_HAND = "by hand"  # note by note, as it is said beside the rule
WITH_VALVE, WITHOUT_VALVE = "with the valve", "without the valve"
_NEAR_CENTS = 25.0  # further off, a way that no slide mends is for emergencies


def way_rules(horn: Instrument) -> tuple[str, ...]:
    """The rules that make sense on a horn, the default first."""
    sides = tuple(_by_side(side.name) for side in horn.sides if side.name) if len(horn.sides) > 1 else ()
    slide = horn.mechanism
    valve = (WITH_VALVE, WITHOUT_VALVE) if isinstance(slide, HandSlide) and slide.valves else ()
    return (USUAL, LONGEST, SHORTEST, SAME_PARTIAL, *sides, *valve, BY_HAND)


def way_by(rule: str, horn: Instrument, pitch: Pitch, before: int | None = None) -> Way:
    """The way that a rule picks for a note (`before`: the partial of the note before it); HornError for a rule that there is not, or a note without a slot."""
    if rule not in way_rules(horn):
        raise HornError(f"“{rule[:30]}” is no way for the {horn.name}: choose {', '.join(way_rules(horn))}.")
    ways = ways_to_play(horn, pitch)
    if rule in (USUAL, BY_HAND):
        return ways[0]
    able = [way for way in ways if way.reachable or abs(way.cents) <= _NEAR_CENTS]
    # The first partial of a short tube is another note to the lips than the second of a long one.
    sung = [way for way in able if way.partial > 1] or able
    if rule in (LONGEST, SHORTEST):
        turn = -1.0 if rule == LONGEST else 1.0
        found = sorted(sung, key=lambda way: (turn * round(tube_length_m(horn, way.tube), 2), _arm(way)))
    elif rule == SAME_PARTIAL:
        found = [way for way in able if way.partial == before]
    elif rule in (WITH_VALVE, WITHOUT_VALVE):
        found = [way for way in able if bool(way.tube.valves) == (rule == WITH_VALVE)]
    else:
        found = [way for way in able if way.tube.side and _by_side(way.tube.side) == rule]
    return (found or list(ways))[0]


def way_on(horn: Instrument, pitch: Pitch, tube: str) -> Way:
    """The way to play a note on the tube that is named; HornError, with those there are, where it has no such slot."""
    ways = ways_to_play(horn, pitch)
    found = next((way for way in ways if way.tube.label == tube), None)
    if found is None:
        labels = ", ".join(way.tube.label for way in ways)
        raise HornError(
            f"{pitch.name} (concert) is not to be had on “{tube[:12]}” of the {horn.name}: choose {labels}."
        )
    return found


def pedal_way(horn: Instrument, pitch: Pitch) -> Way:
    """A pedal by valves rather than by the arm: the same length of tube, from the shortest position."""
    pedals = [way for way in ways_to_play(horn, pitch) if way.partial == 1]
    return min(pedals, key=_arm) if pedals else ways_to_play(horn, pitch)[0]


def checked_preferences(horn: Instrument) -> Instrument:
    """The horn itself; HornError for a preferred way that it does not have."""
    for item in horn.setup.preferred:
        tube, pitch = parse_tube(horn, item.tube), pitch_of_midi(item.midi)
        if not any(way.tube == tube and way.partial == item.partial for way in ways_to_play(horn, pitch)):
            raise HornError(f"{pitch.name} (concert) is no partial {item.partial} of {item.tube} on the {horn.name}.")
    return horn


def _by_side(name: str) -> str:
    return f"on the {name} side"


def _arm(way: Way) -> tuple[int, int]:
    return way.tube.position or 1, way.rank
